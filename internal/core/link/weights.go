package link

// The weights of the features, by conditional logistic regression over the
// labelled cases (internal/accuracy/measure -fit). Bias is the log odds of a change
// for which nothing speaks, against none of the changes. Three are lower than
// fitted: bias (by the fit -5.87), so that about nine in ten of the likely links are
// right, and others (-6.76) and harmlessly (-1.74), of which few cases have an
// example: they keep the same name of another package and what was added under the
// missing name from being explanations. Exampled is as fitted later beside the others
// (2.00), swept higher (1.01), for want of examples; fitting all anew then changed no mean
// by more than .02.
const bias = -6.0

var weights = [features]float64{
	named: 4.23, called: 3.49, concerned: 2.48, nearby: 1.82, seconded: 1.22, newSide: -2.03, inTitle: 0.54, inText: 1.92, hinted: 1.54, worded: 3.43, enough: 0.76, covered: 1.71, said: 1.28, phrased: 0.95, breaking: 0.96,
	majored: 0.91, patched: -0.48, tested: 1.77, fits: 0.39, misfits: -0.50, shown: 2.20, ours: 1.70, others: -8.0, harmless: -2.08, repaired: 1.29, harmlessly: -2.30, nameless: -1.76, foreign: -0.83, gone: 1.64, differing: 2.43, exampled: 2.0, swept: 2.0, outdone: -1.95,
}

// Features names the features, in the order of the weights.
func Features() []string { return names[:] }

var names = [features]string{
	"named", "called", "concerned", "nearby", "seconded", "newSide", "inTitle", "inText", "hinted", "worded", "enough", "covered", "said", "phrased", "breaking", "majored", "patched",
	"tested", "fits", "misfits", "shown", "ours", "others", "harmless", "repaired", "harmlessly", "nameless", "foreign", "gone", "differing", "exampled", "swept", "outdone",
}
