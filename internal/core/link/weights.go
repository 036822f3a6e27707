package link

// The weights of the features, by logistic regression over the labelled cases
// (make calibrate); bias is the log odds of a change for which nothing speaks.
const bias = -2.74

var weights = [features]float64{
	named: 3.51, called: 3.66, concerned: 2.55, nearby: 0.85, seconded: 0.70, newSide: -2.00, inTitle: 0.00, inText: 2.25, hinted: 1.29, worded: 3.22, enough: 1.13,
	tested: 2.06, fits: 0.40, misfits: -1.02, shown: 2.00, ours: 0.00, others: -6.00, harmless: -2.92, harmlessly: -2.12, nameless: -1.76, foreign: -0.90, gone: 1.55, differing: 1.82, outdone: -1.89,
}

// Features names the features, in the order of the weights.
func Features() []string { return names[:] }

var names = [features]string{
	"named", "called", "concerned", "nearby", "seconded", "newSide", "inTitle", "inText", "hinted", "worded", "enough", "tested",
	"fits", "misfits", "shown", "ours", "others", "harmless", "harmlessly", "nameless", "foreign", "gone", "differing", "outdone",
}
