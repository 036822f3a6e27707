package link

// The weights of the features, by logistic regression over the labelled cases
// (make calibrate); bias is the log odds of a change for which nothing speaks.
const bias = -2.88

var weights = [features]float64{
	named: 3.73, called: 3.74, concerned: 2.53, nearby: 0.90, seconded: 0.00, newSide: -2.00, inTitle: 0.06, inText: 1.91, hinted: 0.84, worded: 3.11, enough: 0.91,
	tested: 2.36, fits: 0.67, misfits: -0.86, shown: 2.00, ours: 0.00, others: -6.00, harmless: -2.93, harmlessly: -2.10, nameless: -2.19, foreign: -0.89,
}

// Features names the features, in the order of the weights.
func Features() []string { return names[:] }

var names = [features]string{
	"named", "called", "concerned", "nearby", "seconded", "newSide", "inTitle", "inText", "hinted", "worded", "enough", "tested",
	"fits", "misfits", "shown", "ours", "others", "harmless", "harmlessly", "nameless", "foreign",
}
