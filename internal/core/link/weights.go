package link

// The weights of the features, by logistic regression over the labelled cases
// (make calibrate); bias is the log odds of a change for which nothing speaks.
const bias = -3.07

var weights = [features]float64{
	named: 3.68, called: 3.75, concerned: 2.65, nearby: 0.94, seconded: 0.43, newSide: -2.00, inTitle: 0.12, inText: 1.86, hinted: 0.96, worded: 3.26, enough: 1.03,
	tested: 2.36, fits: 0.53, misfits: -0.94, shown: 2.00, ours: 0.00, others: -6.00, harmless: -2.91, harmlessly: -2.10, nameless: -2.08, foreign: -0.88, gone: 1.55, differing: 2.00,
}

// Features names the features, in the order of the weights.
func Features() []string { return names[:] }

var names = [features]string{
	"named", "called", "concerned", "nearby", "seconded", "newSide", "inTitle", "inText", "hinted", "worded", "enough", "tested",
	"fits", "misfits", "shown", "ours", "others", "harmless", "harmlessly", "nameless", "foreign", "gone", "differing",
}
