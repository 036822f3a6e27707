package link

// The weights of the features, by conditional logistic regression over the
// labelled cases (internal/accuracy/measure -fit). Bias is the log odds of a change
// for which nothing speaks, against none of the changes. Two weights are lower than
// fitted, since few cases have them: others (by the fit -5.2) and harmlessly (-1.8),
// which keep the same name of another package and what was added under the missing
// name from being explanations.
const bias = -6.06

var weights = [features]float64{
	named: 4.21, called: 3.46, concerned: 2.43, nearby: 1.87, seconded: 1.19, newSide: -2.04, inTitle: 0.47, inText: 1.93, hinted: 1.64, worded: 3.10, enough: 0.76, covered: 1.78, said: 1.25, phrased: 1.07, breaking: 0.90,
	majored: 0.98, patched: -0.50, tested: 1.71, fits: 0.43, misfits: -0.46, shown: 2.20, ours: 1.78, others: -8.0, harmless: -2.04, repaired: 1.19, harmlessly: -2.30, nameless: -1.88, foreign: -0.86, gone: 1.61, differing: 2.44, outdone: -1.81,
}

// Features names the features, in the order of the weights.
func Features() []string { return names[:] }

var names = [features]string{
	"named", "called", "concerned", "nearby", "seconded", "newSide", "inTitle", "inText", "hinted", "worded", "enough", "covered", "said", "phrased", "breaking", "majored", "patched", "tested",
	"fits", "misfits", "shown", "ours", "others", "harmless", "repaired", "harmlessly", "nameless", "foreign", "gone", "differing", "outdone",
}
