package link

// The weights of the features, by logistic regression over the labelled cases
// (make calibrate); bias is the log odds of a change for which nothing speaks.
const bias = -2.90

var weights = [features]float64{
	named: 3.66, called: 3.55, concerned: 2.67, nearby: 1.37, seconded: 0.41, newSide: -2.00, inTitle: 0.07, inText: 1.88, hinted: 0.96, worded: 2.60, enough: 0.02,
	tested: 2.38, fits: 0.60, misfits: -1.18, shown: 1.28, ours: 0.00, others: -4.00, harmless: -2.90, harmlessly: -2.07, nameless: -1.14, foreign: -0.91,
}

// Features names the features, in the order of the weights.
func Features() []string { return names[:] }

var names = [features]string{
	"named", "called", "concerned", "nearby", "seconded", "newSide", "inTitle", "inText", "hinted", "worded", "enough", "tested",
	"fits", "misfits", "shown", "ours", "others", "harmless", "harmlessly", "nameless", "foreign",
}
