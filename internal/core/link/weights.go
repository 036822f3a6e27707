package link

// The weights of the features, by conditional logistic regression over the
// labelled cases (internal/accuracy/measure -fit). Bias is the log odds of a change
// for which nothing speaks, against none of the changes. Two weights are lower than
// fitted, since few cases have them: others (by the fit -5.2) and harmlessly (-1.8),
// which keep the same name of another package and what was added under the missing
// name from being explanations.
const bias = -5.0

var weights = [features]float64{
	named: 5.00, called: 3.56, concerned: 2.65, nearby: 1.87, seconded: 1.13, newSide: -2.02, inTitle: 0.32, inText: 1.74, hinted: 1.40, worded: 3.07, enough: 1.11, covered: 1.92,
	tested: 1.68, fits: 0.44, misfits: -0.29, shown: 2.17, ours: 1.89, others: -7.0, harmless: -2.36, repaired: 1.09, harmlessly: -2.30, nameless: -1.98, foreign: -0.65, gone: 1.67, differing: 2.23, outdone: -1.34,
}

// Features names the features, in the order of the weights.
func Features() []string { return names[:] }

var names = [features]string{
	"named", "called", "concerned", "nearby", "seconded", "newSide", "inTitle", "inText", "hinted", "worded", "enough", "covered", "tested",
	"fits", "misfits", "shown", "ours", "others", "harmless", "repaired", "harmlessly", "nameless", "foreign", "gone", "differing", "outdone",
}
