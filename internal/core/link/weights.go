package link

// The weights of the features, by logistic regression over the labelled cases
// (make calibrate); bias is the log odds of a change for which nothing speaks.
const bias = -2.90

var weights = [features]float64{
	named: 3.71, called: 3.73, concerned: 2.59, nearby: 0.91, seconded: 0.43, newSide: -2.00, inTitle: 0.12, inText: 1.86, hinted: 0.83, worded: 3.11, enough: 0.91,
	tested: 2.33, fits: 0.68, misfits: -0.89, shown: 2.00, ours: 0.00, others: -6.00, harmless: -2.94, harmlessly: -2.10, nameless: -2.18, foreign: -0.90,
}

// Features names the features, in the order of the weights.
func Features() []string { return names[:] }

var names = [features]string{
	"named", "called", "concerned", "nearby", "seconded", "newSide", "inTitle", "inText", "hinted", "worded", "enough", "tested",
	"fits", "misfits", "shown", "ours", "others", "harmless", "harmlessly", "nameless", "foreign",
}
