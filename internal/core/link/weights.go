package link

// The weights of the features, by logistic regression over the labelled cases
// (make calibrate); bias is the log odds of a change for which nothing speaks.
const bias = -2.77

var weights = [features]float64{
	named: 3.45, called: 3.65, concerned: 2.66, nearby: 0.88, seconded: 0.70, newSide: -2.00, inTitle: 0.00, inText: 2.19, hinted: 1.43, worded: 3.12, enough: 1.08,
	tested: 2.05, fits: 0.52, misfits: -1.06, shown: 2.00, ours: 0.00, others: -7.00, harmless: -2.93, harmlessly: -2.11, nameless: -1.77, foreign: -0.92, gone: 1.54, differing: 1.77, outdone: -1.94,
}

// Features names the features, in the order of the weights.
func Features() []string { return names[:] }

var names = [features]string{
	"named", "called", "concerned", "nearby", "seconded", "newSide", "inTitle", "inText", "hinted", "worded", "enough", "tested",
	"fits", "misfits", "shown", "ours", "others", "harmless", "harmlessly", "nameless", "foreign", "gone", "differing", "outdone",
}
