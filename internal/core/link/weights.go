package link

// The weights of the features, by logistic regression over the labelled cases
// (make calibrate); bias is the log odds of a change for which nothing speaks.
const bias = -2.93

var weights = [features]float64{
	named: 3.64, called: 3.73, concerned: 2.60, nearby: 0.91, seconded: 0.43, newSide: -2.00, inTitle: 0.11, inText: 1.86, hinted: 0.86, worded: 3.15, enough: 0.93,
	tested: 2.36, fits: 0.64, misfits: -0.88, shown: 2.00, ours: 0.00, others: -6.00, harmless: -2.93, harmlessly: -2.09, nameless: -2.16, foreign: -0.89, gone: 1.55,
}

// Features names the features, in the order of the weights.
func Features() []string { return names[:] }

var names = [features]string{
	"named", "called", "concerned", "nearby", "seconded", "newSide", "inTitle", "inText", "hinted", "worded", "enough", "tested",
	"fits", "misfits", "shown", "ours", "others", "harmless", "harmlessly", "nameless", "foreign", "gone",
}
