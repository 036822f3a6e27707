package link

import (
	"math"
	"sort"
	"strings"

	"unicausa/internal/core/cluster"
	"unicausa/internal/core/notes"
	"unicausa/internal/core/source"
	"unicausa/internal/core/symptom"
)

// Link holds a cause and a change together. Score is a probability.
type Link struct {
	Change  *notes.Change
	Score   float64
	Strong  bool // a name that is broken in the code stands in the change
	Because []cluster.Because
}

const (
	most    = 5    // links per cause
	silence = 0.25 // below this nothing is said
	bias    = -3.2 // what speaks against a change that shares nothing
)

// Links finds the changes that may explain a cause, best first, at most five.
func (x *Index) Links(c *cluster.Cause) []Link {
	if c.Known || len(x.changes) == 0 {
		return nil
	}
	q := newQuery(c)
	words := x.bm25(q.words)
	best := 0.0
	candidates := map[int]bool{}
	for _, score := range words {
		best = math.Max(best, score)
	}
	for i, score := range words {
		if score > 0.5*best {
			candidates[i] = true
		}
	}
	for name := range q.facts {
		for _, i := range x.names[name] {
			candidates[i] = true
		}
	}
	var list []Link
	for i := range candidates {
		if l := x.judge(q, i, words[i], best); l.Score >= silence {
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

// query is what a cause asks of the notes.
type query struct {
	cause *cluster.Cause
	facts map[string]cluster.Fact // by name, the strongest
	words map[string]float64
	lines []string // source lines
	share map[string]float64
}

func newQuery(c *cluster.Cause) *query {
	q := &query{cause: c, facts: map[string]cluster.Fact{}, words: map[string]float64{}, share: map[string]float64{}}
	seen := map[string]bool{}
	independent := 0
	for _, m := range c.Members {
		if m.Follower {
			continue
		}
		independent++
		for _, f := range m.Facts {
			name := lastPart(f.Name)
			if f.What == cluster.FactModule {
				name = f.Name
			}
			q.share[name]++
			if old, ok := q.facts[name]; !ok || f.Weight > old.Weight {
				q.facts[name] = f
			}
		}
		for _, f := range m.Facts {
			for _, w := range wordsOf(f.Name) {
				q.words[w] = math.Max(q.words[w], 0.7)
			}
		}
		for _, w := range wordsOf(m.Symptom.Message + " " + m.Symptom.Test) {
			q.words[w] = math.Max(q.words[w], 1)
		}
		if m.Source != "" && !seen[m.Source] && len(q.lines) < 40 {
			seen[m.Source] = true
			q.lines = append(q.lines, m.Source)
			weight := 0.6
			if m.Fact(cluster.FactMissing) != nil {
				weight = 0.2
			}
			for _, w := range wordsOf(m.Source) {
				q.words[w] = math.Max(q.words[w], weight)
			}
		}
	}
	for name := range q.share {
		q.share[name] /= float64(independent)
	}
	for _, line := range c.Body() {
		for _, w := range wordsOf(line) {
			q.words[w] = math.Max(q.words[w], 0.25)
		}
	}
	return q
}

// judge adds up what speaks for a change, and names it.
func (x *Index) judge(q *query, i int, words, bestWords float64) Link {
	c := x.changes[i]
	j := &judgement{link: Link{Change: c}, logit: bias}
	x.named(q, c, j)
	if name := q.cause.Misses(); name != "" && !names(c, name) {
		j.give("does not name", name, -2)
	}
	j.kinds(q, c)
	if line, shown := shows(c.Before, q.lines); shown > 0.55 {
		j.give("shows the old code as", line, 2.2*shown)
	}
	if bestWords > 0 && words > 0 {
		share := words / bestWords
		most, enough := 1.6, 9.0
		if q.cause.Kind() == "behaviour" { // often words are all there is
			most, enough = 2.1, 6
		}
		j.give("shares the words", x.shared(q, i), most*share*math.Min(1, words/enough))
	}
	against := 1.0
	if q.cause.Misses() != "" { // neither a repair nor an addition takes a name away
		against = 3
	}
	switch c.Kind {
	case notes.Fixed:
		j.give("an entry about a repair", "", -2*against)
	case notes.Added:
		j.give("an entry about something new", "", -1.5*against)
	}
	if pkg := q.cause.Package(); pkg != "" && c.Package != "" {
		if source.SameFamily(pkg, c.Package) {
			j.give("notes of the package", c.Package, 0.6)
		} else {
			j.give("notes of another package", c.Package, -5)
		}
	}
	j.link.Score = math.Round(100/(1+math.Exp(-j.logit))) / 100
	sort.SliceStable(j.link.Because, func(a, b int) bool { return j.link.Because[a].Weight > j.link.Because[b].Weight })
	return j.link
}

// names tells whether a change has a name among its symbols.
func names(c *notes.Change, name string) bool {
	for _, s := range c.Symbols {
		if lastPart(s.Name) == lastPart(name) {
			return true
		}
	}
	return false
}

// judgement is a score in the making: log odds and their reasons.
type judgement struct {
	logit float64
	link  Link
}

// give adds to the log odds; the reason shown is the number used.
func (j *judgement) give(what, value string, weight float64) {
	j.logit += weight
	j.link.Because = append(j.link.Because, cluster.Because{What: what, Value: value, Weight: math.Round(weight*100) / 100})
}

// named weighs the names that the cause and the change share: by what the
// fact says, the rarity of the name in the notes, the side it stands on and
// where in the entry it stands.
func (x *Index) named(q *query, c *notes.Change, j *judgement) {
	type hit struct {
		what, name string
		weight     float64
		strong     bool
	}
	var hits []hit
	for _, s := range c.Symbols {
		f, ok := q.facts[lastPart(s.Name)]
		if !ok {
			continue
		}
		weight := f.Weight * s.Weight * x.rarity(lastPart(s.Name))
		strong := f.Weight >= 0.8 && s.Side != notes.NewOne && s.Weight >= 0.5 && sameOwner(s.Name, f) >= 1
		switch f.What {
		case cluster.FactMissing, cluster.FactModule, cluster.FactOption:
			weight *= 5
			if strong && strings.Contains(c.Title, lastPart(s.Name)) {
				weight *= 1.15
			}
		case cluster.FactCallee, cluster.FactFrame, cluster.FactInterface:
			weight *= 4
			if strings.Contains(c.Title, lastPart(s.Name)) {
				weight *= 1.2
			}
		case cluster.FactFunction:
			weight *= 3 * math.Sqrt(q.share[lastPart(s.Name)])
		default:
			weight *= 3
		}
		weight *= sameOwner(s.Name, f)
		if s.Side == notes.NewOne && (f.What == cluster.FactMissing || f.What == cluster.FactModule) {
			weight *= -0.5
		}
		// A call on the line that the entry is about counts as what is broken.
		strong = strong || f.What == cluster.FactLine && s.Side != notes.NewOne && strings.Contains(c.Title, s.Name)
		hits = append(hits, hit{f.What + side(s.Side), s.Name, weight, strong})
	}
	sort.SliceStable(hits, func(a, b int) bool { return math.Abs(hits[a].weight) > math.Abs(hits[b].weight) })
	for n, h := range hits {
		if n == 4 {
			break
		}
		j.give("has the "+h.what, h.name, h.weight/float64(1+n*n))
		j.link.Strong = j.link.Strong || h.strong
	}
}

// sameOwner weighs the qualifier of a name in the notes against the owner in
// the code: mass.Mass is not steelyard.Mass.
func sameOwner(name string, f cluster.Fact) float64 {
	i := strings.LastIndexAny(name, ".#:")
	if i <= 0 || f.Owner == "" || strings.Contains(name, "/") || strings.Contains(f.Owner, "/") {
		return 1
	}
	qualifier, owner := lastPart(name[:i]), lastPart(f.Owner)
	switch {
	case strings.EqualFold(qualifier, owner):
		return 1.15
	case f.What == cluster.FactMissing:
		return 0.15
	}
	return 1
}

func side(s notes.Side) string {
	switch s {
	case notes.Old:
		return ", as old,"
	case notes.NewOne:
		return ", as new,"
	}
	return ""
}

// families say which kinds of change break code in which way.
var families = map[string][]notes.Kind{
	"removed":    {notes.Removed, notes.Renamed, notes.Moved, notes.Deprecated},
	"deprecated": {notes.Deprecated, notes.Renamed, notes.Removed},
	"unresolved": {notes.Moved, notes.Removed, notes.Renamed, notes.Requirement},
	"signature":  {notes.Signature, notes.Behaviour, notes.Renamed},
	"option":     {notes.Removed, notes.Renamed, notes.Default, notes.Requirement, notes.Signature},
	"behaviour":  {notes.Behaviour, notes.Default, notes.Signature},
}

// kinds weighs the way the code is broken against what the change did.
func (j *judgement) kinds(q *query, c *notes.Change) {
	way := q.cause.Kind()
	if q.cause.Root().Kind == symptom.TestFailure && q.cause.Misses() == "" {
		way = "behaviour"
	}
	fits, known := families[way]
	if !known {
		return
	}
	for n, kind := range fits {
		if kind == c.Kind {
			j.give("a "+string(kind)+" change fits", way, 0.9-0.2*float64(n))
			return
		}
	}
	if c.Kind == notes.Deprecated && way == "behaviour" || c.Kind == notes.Removed && way == "behaviour" {
		j.give("a "+string(c.Kind)+" change does not fit", way, -0.6)
	}
}

// shows finds the line of old code in a change that is most like a source
// line: the share of names that both have (Jaccard).
func shows(before, lines []string) (string, float64) {
	best, at := 0.0, ""
	for _, b := range before {
		old := nameSet(b)
		if len(old) == 0 {
			continue
		}
		for _, line := range lines {
			now := nameSet(line)
			shared := 0
			for name := range old {
				if now[name] {
					shared++
				}
			}
			if len(old) == 1 && len(now) > 2 {
				continue
			}
			if union := len(old) + len(now) - shared; union > 0 && float64(shared)/float64(union) > best {
				best, at = float64(shared)/float64(union), b
			}
		}
	}
	return at, best
}

func nameSet(line string) map[string]bool {
	set := map[string]bool{}
	for _, n := range source.Names(line) {
		set[n.Text] = true
	}
	return set
}
