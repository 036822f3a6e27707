package link

// The weights of the features, by logistic regression over the labelled cases
// (make calibrate); bias is the log odds of a change for which nothing speaks.
const bias = -2.91

var weights = [features]float64{
	named: 3.46, called: 3.47, concerned: 2.26, nearby: 1.17, seconded: 0.43, newSide: -2.01, inTitle: 0.21, inText: 1.63, hinted: 1.10, worded: 2.87, enough: 0.01,
	tested: 2.33, fits: 0.40, misfits: -1.09, shown: 1.29, ours: 0.00, others: -4.00, harmless: -2.94, harmlessly: -2.08, nameless: -0.98, foreign: -0.07,
}

// Features names the features, in the order of the weights.
func Features() []string { return names[:] }

var names = [features]string{
	"named", "called", "concerned", "nearby", "seconded", "newSide", "inTitle", "inText", "hinted", "worded", "enough", "tested",
	"fits", "misfits", "shown", "ours", "others", "harmless", "harmlessly", "nameless", "foreign",
}
