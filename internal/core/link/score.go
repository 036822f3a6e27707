package link

import (
	"math"
	"sort"

	"unicausa/internal/core/cluster"
	"unicausa/internal/core/notes"
)

// Link holds a cause and a change together. Score is a probability: of the
// links with a score near 0.9, nine in ten are right.
type Link struct {
	Change  *notes.Change
	Score   float64
	Strong  bool // a name that the cause is about stands in the change
	Because []cluster.Because
}

const (
	most    = 5    // links per cause
	silence = 0.15 // below this nothing is said
)

// Links finds the changes that may explain a cause, best first, at most five.
func (x *Index) Links(c *cluster.Cause) []Link {
	var list []Link
	for _, candidate := range x.Candidates(c) {
		if l := candidate.link(); l.Score >= silence {
			list = append(list, l)
		}
	}
	sort.Slice(list, func(i, j int) bool {
		a, b := list[i], list[j]
		if a.Score != b.Score {
			return a.Score > b.Score
		}
		if a.Change.Notes != b.Change.Notes {
			return a.Change.Notes < b.Change.Notes
		}
		return a.Change.Line < b.Change.Line
	})
	if len(list) > most {
		list = list[:most]
	}
	return list
}

// Candidates are the changes that share a name or rare words with a cause.
func (x *Index) Candidates(c *cluster.Cause) []Candidate {
	if c.Known || len(x.changes) == 0 {
		return nil
	}
	q := newQuery(c)
	scores := x.bm25(q.words)
	best := 0.0
	for _, score := range scores {
		best = math.Max(best, score)
	}
	chosen := map[int]bool{}
	for i, score := range scores {
		if score > 0.4*best {
			chosen[i] = true
		}
	}
	for name := range q.facts {
		for _, i := range x.byName[name] {
			chosen[i] = true
		}
	}
	for _, n := range q.best {
		for _, i := range x.byToken[n.name] {
			chosen[i] = true
		}
	}
	list := make([]Candidate, 0, len(chosen))
	for i := range chosen {
		list = append(list, x.judge(q, i, scores[i], best))
	}
	return list
}

// link makes a probability of the features, by the fitted weights. The reasons
// are the terms of the sum, strongest first.
func (c *Candidate) link() Link {
	l := Link{Change: c.Change, Strong: c.strong}
	logit := bias
	for n, value := range c.Features {
		term := weights[n] * value
		logit += term
		if math.Abs(term) >= 0.05 {
			l.Because = append(l.Because, cluster.Because{What: words[n], Value: c.values[n], Weight: math.Round(term*100) / 100})
		}
	}
	l.Score = math.Round(100/(1+math.Exp(-logit))) / 100
	sort.SliceStable(l.Because, func(a, b int) bool { return l.Because[a].Weight > l.Because[b].Weight })
	return l
}
