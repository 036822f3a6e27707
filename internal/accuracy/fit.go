package accuracy

import (
	"context"
	"maps"
	"slices"
	"sort"

	"unicausa/internal/core/link"
	"unicausa/internal/core/symptom"
	"unicausa/internal/core/triage"
)

// Example is one change offered to one cause, with the answer.
type Example struct {
	Features []float64
	Right    bool
}

// Choice is a drawn cause with the changes offered to it, of which one or none
// explains it.
type Choice struct {
	Offered []Example
	Silent  bool // no entry of the notes explains it
}

// Choices are the candidates of every labelled cause of a case.
func Choices(c *Case) ([]Choice, error) {
	t, err := c.Triage()
	if err != nil {
		return nil, err
	}
	drawing := triage.Draw(context.Background(), t)
	report := triage.Run(context.Background(), t)
	pairs, _ := match(c, &report)
	id := map[int]string{} // of a labelled symptom's
	for i, p := range pairs {
		id[i] = p.ID
	}
	var list []Choice
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
		choice := Choice{Silent: len(truth.Notes) == 0}
		for _, candidate := range drawing.Index.Candidates(group) {
			features := candidate.Features
			choice.Offered = append(choice.Offered, Example{Features: features[:], Right: truth.explains(candidate.Change.Notes, candidate.Change.Line, candidate.Change.End)})
		}
		list = append(list, choice)
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
	"named": 4, "called": 3.5, "concerned": 2.5, "nearby": 1.5, "seconded": 0.7, "newSide": -2, "inTitle": 0.4, "inText": 2, "hinted": 1.5, "worded": 1.5, "enough": 0.8, "covered": 1.5, "said": 1, "phrased": 1, "breaking": 0.7, "majored": 0.7, "patched": -0.5,
	"tested": 1.5, "fits": 0.8, "misfits": -0.6, "shown": 2, "ours": 0.4, "others": -7, "harmless": -2.5, "repaired": 1, "harmlessly": -2, "nameless": -2.5, "foreign": -1, "gone": 1.5, "differing": 1.5, "outdone": -1,
}

// Fit finds the weights of the conditional model by gradient descent: the
// likelihood is that of a right entry being chosen, or of none where there is no
// right one among those offered. A penalty draws the weights towards good sense,
// and none changes its sign.
func Fit(choices []Choice) (weights []float64, bias float64) {
	const rounds, rate, penalty = 3000, 0.5, 0.004
	prior := make([]float64, len(link.Features()))
	for n, name := range link.Features() {
		prior[n] = sense[name]
	}
	weights, bias = append([]float64(nil), prior...), -6
	for range rounds {
		gradient, slope := make([]float64, len(weights)), 0.0
		for _, c := range choices {
			p := c.probabilities(weights, bias)
			right := 0.0
			for i, e := range c.Offered {
				if e.Right {
					right += p[i]
				}
			}
			for i, e := range c.Offered {
				miss := p[i]
				if e.Right {
					miss -= p[i] / right
				}
				miss /= float64(len(choices))
				for n, f := range e.Features {
					gradient[n] += miss * f
				}
				slope += miss
			}
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

func (c *Choice) probabilities(weights []float64, bias float64) []float64 {
	logits := make([]float64, len(c.Offered))
	for i, e := range c.Offered {
		logits[i] = link.Logit(e.Features, weights, bias)
	}
	return link.Softmax(logits)
}

// LeaveOut scores the choices of each group by weights that were fitted to those
// of all other groups; the scores stand in the order of the groups' names.
func LeaveOut(groups map[string][]Choice) []Score {
	var scores []Score
	for _, left := range slices.Sorted(maps.Keys(groups)) {
		var rest []Choice
		for _, name := range slices.Sorted(maps.Keys(groups)) {
			if name != left {
				rest = append(rest, groups[name]...)
			}
		}
		w, b := Fit(rest)
		scores = append(scores, judge(left, groups[left], w, b))
	}
	return scores
}

// judge scores the choices of a case by weights that were fitted without it.
func judge(name string, choices []Choice, weights []float64, bias float64) Score {
	s := Score{Case: name}
	for _, c := range choices {
		list := make([]said, 0, len(c.Offered))
		for i, p := range c.probabilities(weights, bias) {
			list = append(list, said{p, c.Offered[i].Right})
		}
		sort.Slice(list, func(i, j int) bool { return list[i].score > list[j].score })
		list = list[:min(len(list), 5)]
		if len(list) > 0 && link.StandingOf(list[0].score) == link.Likely {
			s.likely++
			if list[0].right {
				s.likelyHit++
			}
		}
		s.said = append(s.said, list...)
		if c.Silent {
			s.withoutNote++
			if len(list) == 0 || link.StandingOf(list[0].score) != link.Likely {
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
	s.Likely = ratio(s.likelyHit, s.likely)
	s.Calibration = calibration(s.said)
	return s
}
