package accuracy

import (
	"math"
	"sort"

	"unicausa/internal/core/link"
	"unicausa/internal/core/symptom"
	"unicausa/internal/core/triage"
)

// Example is one change offered to one cause, with the answer.
type Example struct {
	Features []float64
	Right    bool
	Weight   float64 // so that every cause counts alike
	Cause    int     // the drawn cause, counted from 0
	Silent   bool    // no entry of the notes explains it
}

// Examples are the candidates of every labelled cause of a case.
func Examples(c *Case) ([]Example, error) {
	t, err := c.Triage()
	if err != nil {
		return nil, err
	}
	drawing := triage.Draw(t)
	report := triage.Run(t)
	pairs, _ := match(c, &report)
	id := map[int]string{} // of a labelled symptom's
	for i, p := range pairs {
		id[i] = p.ID
	}
	var list []Example
	for g := range drawing.Groups {
		group := &drawing.Groups[g]
		members := map[string]bool{}
		for _, m := range group.Members {
			members[m.Symptom.ID] = true
		}
		count, best := map[string]int{}, ""
		for i, label := range c.Symptoms {
			if label.Cause != "" && label.State == string(symptom.New) && members[id[i]] {
				if count[label.Cause]++; count[label.Cause] > count[best] {
					best = label.Cause
				}
			}
		}
		if best == "" {
			continue
		}
		truth := c.cause(best)
		candidates := drawing.Index.Candidates(group)
		for _, candidate := range candidates {
			features := candidate.Features
			list = append(list, Example{Features: features[:], Right: truth.explains(candidate.Change.Notes, candidate.Change.Line, candidate.Change.End), Weight: 1 / math.Sqrt(float64(len(candidates))), Cause: g, Silent: len(truth.Notes) == 0})
		}
	}
	return list, nil
}

func (c *Case) cause(id string) *Cause {
	for i := range c.Causes {
		if c.Causes[i].ID == id {
			return &c.Causes[i]
		}
	}
	return &Cause{}
}

// sense is what a person would say of the features before having seen a case:
// few examples shall not turn it around.
var sense = map[string]float64{
	"named": 4, "called": 3.5, "concerned": 2.5, "nearby": 1.5, "seconded": 0.7, "newSide": -2, "inTitle": 0.4, "inText": 2, "hinted": 1.5, "worded": 1.5, "enough": 0.8,
	"tested": 1.5, "fits": 0.8, "misfits": -0.6, "shown": 2, "ours": 0.4, "others": -7, "harmless": -2.5, "harmlessly": -2, "nameless": -2.5, "foreign": -1, "gone": 1.5, "differing": 1.5, "outdone": -1,
}

// Fit finds the weights of a logistic regression by gradient descent. A penalty
// draws them towards good sense, and none changes its sign.
func Fit(examples []Example) (weights []float64, bias float64) {
	const rounds, rate, penalty = 4000, 0.5, 0.003
	prior := make([]float64, len(link.Features()))
	for n, name := range link.Features() {
		prior[n] = sense[name]
	}
	weights, bias = append([]float64(nil), prior...), -4
	total := 0.0
	for _, e := range examples {
		total += e.Weight
	}
	for range rounds {
		gradient, slope := make([]float64, len(weights)), 0.0
		for _, e := range examples {
			miss := probability(e.Features, weights, bias)
			if e.Right {
				miss--
			}
			miss *= e.Weight / total
			for n, f := range e.Features {
				gradient[n] += miss * f
			}
			slope += miss
		}
		for n := range weights {
			weights[n] -= rate * (gradient[n] + penalty*(weights[n]-prior[n]))
			if weights[n]*prior[n] < 0 {
				weights[n] = 0
			}
		}
		bias -= rate * slope
	}
	return weights, bias
}

func probability(features, weights []float64, bias float64) float64 {
	sum := bias
	for n, f := range features {
		sum += f * weights[n]
	}
	return 1 / (1 + math.Exp(-sum))
}

// LeaveOneOut scores each case by weights that were fitted to the others, and
// gives the weights that are fitted to all.
func LeaveOneOut(cases []*Case) (scores []Score, weights []float64, bias float64, err error) {
	examples := make([][]Example, len(cases))
	var all []Example
	for i, c := range cases {
		if examples[i], err = Examples(c); err != nil {
			return nil, nil, 0, err
		}
		all = append(all, examples[i]...)
	}
	for i, c := range cases {
		var rest []Example
		for j := range cases {
			if j != i {
				rest = append(rest, examples[j]...)
			}
		}
		w, b := Fit(rest)
		scores = append(scores, judge(c.Name, examples[i], w, b))
	}
	weights, bias = Fit(all)
	return scores, weights, bias, nil
}

// judge scores the examples of a case by weights that were fitted without it.
func judge(name string, examples []Example, weights []float64, bias float64) Score {
	s := Score{Case: name}
	byCause := map[int][]said{}
	silent := map[int]bool{}
	for _, e := range examples {
		byCause[e.Cause] = append(byCause[e.Cause], said{probability(e.Features, weights, bias), e.Right})
		silent[e.Cause] = e.Silent
	}
	for id, list := range byCause {
		sort.Slice(list, func(i, j int) bool { return list[i].score > list[j].score })
		list = list[:min(len(list), 5)]
		s.said = append(s.said, list...)
		if silent[id] {
			s.withoutNote++
			if list[0].score < 0.5 {
				s.silent++
			}
			continue
		}
		s.withNote++
		for n, l := range list[:min(len(list), 3)] {
			if l.right {
				s.threeHit++
				if n == 0 {
					s.firstHit++
				}
				break
			}
		}
	}
	s.First, s.FirstThree, s.Silence = ratio(s.firstHit, s.withNote), ratio(s.threeHit, s.withNote), ratio(s.silent, s.withoutNote)
	s.Calibration = calibration(s.said)
	return s
}
