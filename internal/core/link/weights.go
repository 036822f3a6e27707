package link

// The weights of the features, by logistic regression over the labelled cases
// (make calibrate); bias is the log odds of a change for which nothing speaks.
const bias = -2.95

var weights = [features]float64{
	named: 3.60, called: 3.72, concerned: 2.66, nearby: 0.95, seconded: 0.26, newSide: -2.00, inTitle: 0.00, inText: 1.79, hinted: 1.01, worded: 3.29, enough: 0.97,
	tested: 2.16, fits: 0.67, misfits: -0.68, shown: 2.00, ours: 0.00, others: -6.00, harmless: -2.95, harmlessly: -2.11, nameless: -1.99, foreign: -0.94,
}

// Features names the features, in the order of the weights.
func Features() []string { return names[:] }

var names = [features]string{
	"named", "called", "concerned", "nearby", "seconded", "newSide", "inTitle", "inText", "hinted", "worded", "enough", "tested",
	"fits", "misfits", "shown", "ours", "others", "harmless", "harmlessly", "nameless", "foreign",
}
