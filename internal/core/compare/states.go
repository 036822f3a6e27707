// Package compare sets one side's symptoms and tests against another's: what
// is new, what was there, what went away, and what only could not be seen.
package compare

import (
	"path"
	"sort"
	"strings"

	"unicausa/internal/core/source"
	"unicausa/internal/core/symptom"
)

// Side is one side of a comparison: symptoms from symptom.Merge and, by their
// IDs, the source trees they were seen on; a tree may be nil.
type Side struct {
	Symptoms []symptom.Symptom
	Trees    map[string]*source.Tree
}

// text is the source line that a symptom stands on, or "".
func (s Side) text(i int) string {
	return strings.TrimSpace(s.Trees[s.Symptoms[i].ID].Line(s.Symptoms[i].File, s.Symptoms[i].Line))
}

// States sets the state of every symptom of the after side against the before
// side, and appends the before symptoms that are gone as absent. Equal
// diagnostics are matched one to one, so three before and five after are two
// new: those whose line went there by the diff of both trees first, then those
// on an equal source line, then the nearest in the file. What is left is
// matched across another spelling of its path, and across a renamed
// file where the source line is the same. A place on the before side is listed
// under a symptom only when that is not new.
func States(before, after Side) []symptom.Symptom {
	p := &pairing{before: before, after: after, matched: make([]int, len(after.Symptoms)), taken: make([]bool, len(before.Symptoms)), maps: map[fileAtBoth][]int{}}
	for i := range p.matched {
		p.matched[i] = -1
	}
	p.pass(func(s *symptom.Symptom, _ string) string { return s.Key() })
	p.pass(func(s *symptom.Symptom, _ string) string { // another checkout, another folder
		if s.File == "" || s.Kind == symptom.TestFailure {
			return ""
		}
		return path.Base(s.File) + "\x00" + s.Saying()
	})
	p.pass(func(s *symptom.Symptom, text string) string { // a renamed file
		if len(text) < 4 {
			return ""
		}
		return text + "\x00" + s.Saying()
	})
	result := make([]symptom.Symptom, 0, len(after.Symptoms))
	for i, s := range after.Symptoms {
		s.State = symptom.New
		if m := p.matched[i]; m >= 0 {
			old := &before.Symptoms[m]
			s.State = symptom.Unchanged
			if symptom.Normalize(old.Message) != symptom.Normalize(s.Message) {
				s.State = symptom.Updated
			}
			s.At = append(append([]symptom.At{}, old.At...), s.At...)
			s.Count += old.Count
		}
		result = append(result, s)
	}
	for i, s := range before.Symptoms {
		if !p.taken[i] {
			s.State = symptom.Absent
			result = append(result, s)
		}
	}
	return result
}

// pairing matches the symptoms of both sides one to one, in passes.
type pairing struct {
	before, after Side
	matched       []int                // after to before, -1 for none yet
	taken         []bool               // before
	maps          map[fileAtBoth][]int // of lines
}

// fileAtBoth is a file as both sides have it.
type fileAtBoth struct {
	before, after *source.Tree
	old, new      string
}

// pass matches what is left and has the same key; "" matches nothing.
func (p *pairing) pass(key func(s *symptom.Symptom, text string) string) {
	olds := map[string][]int{}
	for i := range p.before.Symptoms {
		if !p.taken[i] {
			if k := key(&p.before.Symptoms[i], p.before.text(i)); k != "" {
				olds[k] = append(olds[k], i)
			}
		}
	}
	news, order := map[string][]int{}, []string{}
	for i := range p.after.Symptoms {
		if p.matched[i] >= 0 {
			continue
		}
		if k := key(&p.after.Symptoms[i], p.after.text(i)); len(olds[k]) > 0 {
			if news[k] == nil {
				order = append(order, k)
			}
			news[k] = append(news[k], i)
		}
	}
	for _, k := range order {
		p.match(olds[k], news[k])
	}
}

// match pairs equal symptoms: where the diff says the line went, then the same
// source line, then the nearest.
func (p *pairing) match(olds, news []int) {
	take := func(old, new int) { p.matched[new], p.taken[old] = old, true }
	if len(olds) > 1 && len(news) > 1 && len(olds)*len(news) > 10_000 { // by rank: nothing is gained from all pairs
		for i := 0; i < len(olds) && i < len(news); i++ {
			take(olds[i], news[i])
		}
		return
	}
	type pair struct{ old, new, distance int }
	var pairs []pair
	for _, o := range olds {
		for _, n := range news {
			d := distance(p.before.Symptoms[o].Line, p.after.Symptoms[n].Line) + 1
			if text := p.before.text(o); text != "" && text == p.after.text(n) {
				if d -= 1 << 30; p.went(o, n) {
					d -= 1 << 30
				}
			}
			pairs = append(pairs, pair{o, n, d})
		}
	}
	sort.SliceStable(pairs, func(i, j int) bool { return pairs[i].distance < pairs[j].distance })
	for _, c := range pairs {
		if !p.taken[c.old] && p.matched[c.new] < 0 {
			take(c.old, c.new)
		}
	}
}

// went reports whether the diff of both trees takes the old symptom's line to the
// new one's.
func (p *pairing) went(old, new int) bool {
	a, b := &p.before.Symptoms[old], &p.after.Symptoms[new]
	before, after := p.before.Trees[a.ID], p.after.Trees[b.ID]
	key := fileAtBoth{before, after, a.File, b.File}
	lines, ok := p.maps[key]
	if !ok {
		lines = source.LineMap(before.Lines(a.File), after.Lines(b.File))
		p.maps[key] = lines
	}
	return a.Line > 0 && a.Line < len(lines) && lines[a.Line] == b.Line
}

func distance(a, b int) int {
	if a > b {
		return a - b
	}
	return b - a
}
