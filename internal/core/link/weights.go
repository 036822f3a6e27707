package link

// The weights of the features, by conditional logistic regression over the
// labelled cases (internal/accuracy/measure -fit). Bias is the log odds of a change
// for which nothing speaks, against none of the changes. Three are lower than
// fitted: bias (by the fit -5.84), so that nine in ten of the likely links are
// right, and others (-6.75) and harmlessly (-1.72), of which few cases have an
// example: they keep the same name of another package and what was added under the
// missing name from being explanations.
const bias = -6.00

var weights = [features]float64{
	named: 4.24, called: 3.51, concerned: 2.49, nearby: 1.80, seconded: 1.23, newSide: -2.03, inTitle: 0.54, inText: 1.90, hinted: 1.53, worded: 3.44, enough: 0.75, covered: 1.73, said: 1.17, phrased: 0.89, breaking: 1.01,
	majored: 0.91, patched: -0.44, tested: 1.90, fits: 0.37, misfits: -0.54, shown: 2.20, ours: 1.73, others: -8.0, harmless: -2.03, repaired: 1.33, harmlessly: -2.30, nameless: -1.78, foreign: -0.84, gone: 1.65, differing: 2.39, outdone: -1.79,
}

// Features names the features, in the order of the weights.
func Features() []string { return names[:] }

var names = [features]string{
	"named", "called", "concerned", "nearby", "seconded", "newSide", "inTitle", "inText", "hinted", "worded", "enough", "covered", "said", "phrased", "breaking", "majored", "patched", "tested",
	"fits", "misfits", "shown", "ours", "others", "harmless", "repaired", "harmlessly", "nameless", "foreign", "gone", "differing", "outdone",
}
