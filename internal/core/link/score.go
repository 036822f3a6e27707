package link

import (
	"cmp"
	"maps"
	"math"
	"slices"
	"sort"
	"strings"

	"unicausa/internal/core/cluster"
	"unicausa/internal/core/guard"
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

// Standing is what a link's score lets one say: likely, which is shown as the
// explanation, or possible.
type Standing string

const (
	Likely   Standing = "likely"
	Possible Standing = "possible"
)

// LikelyFrom is the score from which on a link is likely: even odds, where no other entry can
// be as probable.
const LikelyFrom = 0.5

// StandingOf is the standing of a score.
func StandingOf(score float64) Standing {
	if score >= LikelyFrom {
		return Likely
	}
	return Possible
}

// Explanation is the first of links, best first, where it is likely, or nil.
func Explanation(links []Link) *Link {
	if len(links) > 0 && StandingOf(links[0].Score) == Likely {
		return &links[0]
	}
	return nil
}

const (
	most        = 5    // links per cause
	mostOf      = 25   // changes judged for their words alone, and for any one name
	minScore    = 0.02 // below this nothing is said
	minEvidence = 0.25 // log odds that are not worth a line of evidence
)

// Links finds the changes that may explain a cause, best first, at most five.
func (x *Index) Links(c *cluster.Cause) []Link {
	var at string // the document of the change at hand
	defer guard.Name(func() []string { return []string{at} })
	q, candidates := x.candidates(c)
	shares := x.shares(candidates)
	var list []Link
	for i := range candidates {
		if at = candidates[i].Change.Notes; shares[i] >= minScore {
			list = append(list, candidates[i].link(x, q, shares[i]))
		}
	}
	list = Sorted(list)
	return list[:min(len(list), most)]
}

// Sorted puts links in their order: by score, and those of one score as they
// stand in the notes.
func Sorted(list []Link) []Link {
	sort.SliceStable(list, func(i, j int) bool {
		a, b := list[i], list[j]
		if a.Score != b.Score {
			return a.Score > b.Score
		}
		if a.Change.Notes != b.Change.Notes {
			return a.Change.Notes < b.Change.Notes
		}
		return a.Change.Line < b.Change.Line
	})
	return list
}

// Add takes one more reason into the score; its weight is in log odds.
func (l *Link) Add(b cluster.Because) {
	p := math.Min(0.999, math.Max(0.001, l.Score))
	l.Score = 1 / (1 + math.Exp(-math.Log(p/(1-p))-b.Weight))
	l.Because = append(l.Because, b)
	sort.SliceStable(l.Because, func(i, j int) bool { return l.Because[i].Weight > l.Because[j].Weight })
}

// Candidates are the changes that share a name or rare words with a cause.
func (x *Index) Candidates(c *cluster.Cause) []Candidate {
	_, list := x.candidates(c)
	return list
}

func (x *Index) candidates(c *cluster.Cause) (*query, []Candidate) {
	if c.Known || len(x.changes) == 0 {
		return nil, nil
	}
	q := newQuery(c)
	scores := x.bm25(q.words)
	best := 0.0
	for _, score := range scores {
		best = math.Max(best, score)
	}
	chosen := map[int]bool{}
	for _, i := range above(scores, 0.4*best, mostOf) {
		chosen[i] = true
	}
	take := func(list []int) {
		for _, i := range list[:min(len(list), 4*mostOf)] {
			chosen[i] = true
		}
	}
	for name, f := range q.facts {
		take(x.byName[name])
		if f.What == cluster.FactModule { // or what it is a part of
			for part := name; strings.Count(part, ".") > 0; part = part[:strings.LastIndexByte(part, '.')] {
				take(x.byName[LastPart(part)])
			}
			take(x.byName[inner(name)])
		}
	}
	for owner := range q.owners {
		take(x.byScope[owner])
	}
	for _, n := range q.best {
		take(x.byToken[n.name])
		if list := x.byWord[stemWord(strings.ToLower(n.name))]; len(list) <= mostOf { // however it is spelt
			take(list)
		}
	}
	for _, i := range x.exampled(q) {
		chosen[i] = true
	}
	for w := range q.differs {
		if list := x.byWord[w]; len(list) <= mostOf {
			take(list)
		}
	}
	list := make([]Candidate, 0, len(chosen))
	for _, i := range slices.Sorted(maps.Keys(chosen)) {
		candidate := x.judge(q, i, scores[i], best)
		candidate.index = i
		list = append(list, candidate)
	}
	compare(list)
	return q, list
}

// above lists the changes whose score is above a bound, best first, at most n.
func above(scores []float64, bound float64, n int) []int {
	better := func(a, b int) int {
		switch x, y := scores[a], scores[b]; {
		case x != y:
			return cmp.Compare(y, x)
		default:
			return cmp.Compare(a, b)
		}
	}
	var list []int
	for i, score := range scores {
		if score <= bound || len(list) == n && better(list[n-1], i) < 0 {
			continue
		}
		at, _ := slices.BinarySearchFunc(list, i, better)
		list = slices.Insert(list, at, i)
		list = list[:min(len(list), n)]
	}
	return list
}

// logit is how much speaks for a candidate, in log odds against "none of them".
func (c *Candidate) logit() float64 { return Logit(c.Features[:], weights[:], bias) }

// Logit is the weighted sum of features.
func Logit(features, weights []float64, bias float64) float64 {
	sum := bias
	for n, value := range features {
		sum += weights[n] * value
	}
	return sum
}

// shares is the probability of each candidate, where exactly one of them or none
// explains the cause: a conditional model (McFadden, "Conditional Logit Analysis
// of Qualitative Choice Behavior", 1974), so that every rival lowers the others.
// What a version tells twice, in the same words, is one change: the second telling
// is no rival of the first, and has no share.
// Entries that have the same broken name, of no other owner, or nearly the same
// first sentence, tell of one change: the clearest of them has the share of them all.
func (x *Index) shares(list []Candidate) []float64 {
	logits := make([]float64, len(list))
	type telling struct{ version, scope, title string }
	first := map[telling]int{}
	for i := range list {
		logits[i] = list[i].logit()
		c := list[i].Change
		t := telling{c.Version, c.Scope, strings.ToLower(c.Title)}
		switch f, ok := first[t]; {
		case !ok:
			first[t] = i
		case logits[i] > logits[f]:
			logits[f], first[t] = math.Inf(-1), i
		default:
			logits[i] = math.Inf(-1)
		}
	}
	p := Softmax(logits)
	best := map[string]int{}
	for i := range list {
		name := LastPart(list[i].clearName())
		if name == "" {
			continue
		}
		if b, ok := best[name]; !ok || p[i] > p[b] {
			best[name] = i
		}
	}
	told := append([]float64(nil), p...)
	for i := range list {
		name := list[i].clearName()
		if b, ok := best[LastPart(name)]; ok && b != i && sameName(name, list[b].clearName()) {
			told[b] += p[i]
		}
	}
	for i, a := range list {
		for j, b := range list {
			again := a.Change.Version != b.Change.Version || a.Change.Notes != b.Change.Notes
			if again && p[j] >= minScore && (p[j] < p[i] || p[j] == p[i] && i < j) && a.clearName() == "" && b.clearName() == "" && alike(x.titles[a.index], x.titles[b.index]) {
				told[i] += p[j]
			}
		}
	}
	return told
}

// alike reports whether two first sentences are of mostly the same words, which
// stand in their order, each once.
func alike(a, b []string) bool {
	shared := 0
	for _, w := range a {
		if _, ok := slices.BinarySearch(b, w); ok {
			shared++
		}
	}
	return shared >= 3 && 10*shared >= 6*(len(a)+len(b)-shared)
}

// Softmax gives each logit its probability beside all others and "none", whose
// logit is 0.
func Softmax(logits []float64) []float64 {
	most := 0.0
	for _, l := range logits {
		most = math.Max(most, l)
	}
	sum := math.Exp(-most)
	p := make([]float64, len(logits))
	for i, l := range logits {
		p[i] = math.Exp(l - most)
		sum += p[i]
	}
	for i := range p {
		p[i] /= sum
	}
	return p
}

// clearName is the broken name that a candidate has, or "".
func (c *Candidate) clearName() string {
	if c.Features[named] < 0.5 || c.Features[foreign] > 0 {
		return ""
	}
	return c.values[named]
}

// sameName reports whether two spellings can be one name: one may leave out what
// the other is a member of, as Drum does for Jar.Drum.
func sameName(a, b string) bool {
	return a == b || a == LastPart(b) || b == LastPart(a)
}

// link gives the score with its reasons: the terms of the sum, strongest first.
func (c *Candidate) link(x *Index, q *query, share float64) Link {
	l := Link{Change: c.Change, Strong: c.strong, Score: share}
	for n, value := range c.Features {
		term := weights[n] * value
		if math.Abs(term) < minEvidence {
			continue
		}
		switch n {
		case worded, enough:
			c.values[n] = x.shared(q.words, c.index)
		case said:
			c.values[n] = x.shared(q.said, c.index)
		}
		l.Because = append(l.Because, cluster.Because{What: words[n], Value: c.values[n], Weight: math.Round(term*100) / 100})
	}
	sort.SliceStable(l.Because, func(a, b int) bool { return l.Because[a].Weight > l.Because[b].Weight })
	return l
}
