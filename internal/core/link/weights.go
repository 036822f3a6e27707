package link

// The weights of the features, by conditional logistic regression over the
// labelled cases (internal/accuracy/measure -fit); bias is the log odds of a change for which
// nothing speaks, against none of the changes.
const bias = -4.66

var weights = [features]float64{
	named: 3.67, called: 3.99, concerned: 2.70, nearby: 2.70, seconded: 0.55, newSide: -2.04, inTitle: 0.00, inText: 1.86, hinted: 1.41, worded: 2.30, enough: 0.41, covered: 1.5,
	tested: 2.37, fits: 1.05, misfits: -0.34, shown: 1.78, ours: 1.69, others: -5.88, harmless: -2.20, repaired: 1.0, harmlessly: -1.88, nameless: -1.80, foreign: -0.16, gone: 2.09, differing: 1.94, outdone: -1.45,
}

// Features names the features, in the order of the weights.
func Features() []string { return names[:] }

var names = [features]string{
	"named", "called", "concerned", "nearby", "seconded", "newSide", "inTitle", "inText", "hinted", "worded", "enough", "covered", "tested",
	"fits", "misfits", "shown", "ours", "others", "harmless", "repaired", "harmlessly", "nameless", "foreign", "gone", "differing", "outdone",
}
