package cluster

import (
	"strconv"
	"strings"

	"unicausa/internal/core/source"
	"unicausa/internal/core/symptom"
)

// concerned joins what is about one name, however it was told: the compiler
// misses it, a call of it no longer fits, a test that reaches it fails.
func (g *grouping) concerned() {
	type sets struct {
		all   []int            // first symptoms of sets about the name, each once
		roots map[int]bool     // and their roots
		by    map[string][]int // by family
	}
	byName := map[string]*sets{}
	add := func(name, family string, i int) {
		s := byName[name]
		if s == nil {
			s = &sets{roots: map[int]bool{}, by: map[string][]int{}}
			byName[name] = s
		}
		if root := g.find(i); !s.roots[root] {
			s.roots[root] = true
			s.all = append(s.all, i)
			s.by[family] = append(s.by[family], i)
		}
	}
	for i, e := range g.evidence {
		if f := e.Fact(FactMissing); f != nil && g.key[i].kind == keySymbol {
			add(f.Name, source.Family(f.Package), i)
		}
	}
	for i := range g.evidence {
		k := g.key[i]
		s := byName[k.name]
		if k.kind != keyAbout || s == nil {
			continue
		}
		to := s.by[k.scope]
		if len(to) == 0 || k.scope == "" {
			to = s.all
		}
		if len(to) == 1 && g.find(to[0]) != g.find(i) && !otherFunction(g.evidence[to[0]].Fact(FactMissing), g.evidence[i].Fact(FactCallee)) {
			g.join(to[0], i, Because{What: "concerns the missing name", Value: k.name, Weight: good}, false)
		}
	}
	g.unplaced(true)
	g.options()
	g.raised()
	g.suggested()
}

// unplaced joins what is about a name of a package that the source does not
// tell with what is about the one such name that it tells; of what may be about
// several, only what follows from nothing else.
func (g *grouping) unplaced(sure bool) {
	known := map[string][]int{}
	seen := map[int]bool{}
	for i := range g.evidence {
		if k := g.key[i]; k.kind == keyAbout && k.scope != "" && !seen[g.find(i)] {
			seen[g.find(i)] = true
			known[k.name] = append(known[k.name], i)
		}
	}
	for i := range g.evidence {
		k := g.key[i]
		name, may := k.name, k.kind == keyAbout && k.scope == ""
		if !sure {
			name, may = k.scope, k.kind == keyPlace && !g.follower[i]
		}
		if may && len(known[name]) == 1 {
			g.union(known[name][0], i)
		}
	}
}

// suggested joins names that are missing where the tool proposes each of them
// under one and the same new owner: they moved together.
func (g *grouping) suggested() {
	first := map[string]int{}
	for i, e := range g.evidence {
		f, s := e.Fact(FactMissing), strings.ReplaceAll(e.Symptom.Named(symptom.Suggested), "::", ".")
		dot := strings.LastIndexByte(s, '.')
		if f == nil || dot < 0 || s[dot+1:] != f.Name {
			continue
		}
		if of, ok := first[s[:dot]]; ok {
			g.join(of, i, Because{What: "proposed under the same name", Value: s[:dot], Weight: strong}, false)
		} else {
			first[s[:dot]] = i
		}
	}
}

// otherFunction reports whether two facts are of functions that share a name alone.
func otherFunction(a, b *Fact) bool {
	differ := func(x, y string) bool { return x != "" && y != "" && x != y }
	return a != nil && b != nil && (differ(a.Arity, b.Arity) || differ(lastWord(a.Owner), lastWord(b.Owner)))
}

// options joins what refuses one option, where not all of it says whose it is.
func (g *grouping) options() {
	byOption := map[string]int{}
	for i, e := range g.evidence {
		if f := e.Fact(FactOption); f != nil && g.key[i].kind == keyOption {
			if of, ok := byOption[f.Name]; ok && (f.Owner == "" || g.evidence[of].Fact(FactOption).Owner == "") {
				g.union(of, i)
			} else if !ok {
				byOption[f.Name] = i
			}
		}
	}
	for i, e := range g.evidence { // a field that a value may not have is one that the type has no more
		if f := e.Fact(FactMissing); f != nil && f.Owner != "" {
			if of, ok := byOption[f.Name]; ok && lastWord(g.evidence[of].Fact(FactOption).Owner) == lastWord(f.Owner) {
				g.union(of, i)
			}
		}
	}
}

// lastWord is the last identifier of a type: Vehicle of &mut deck::Vehicle.
func lastWord(name string) string {
	words := identifier.FindAllString(name, -1)
	if len(words) == 0 {
		return ""
	}
	return words[len(words)-1]
}

// raised joins tests that fail alike at one line of the project: a helper or a
// set-up that all of them go through.
func (g *grouping) raised() {
	first := map[string]int{}
	for i, e := range g.evidence {
		s := e.Symptom
		if s.Kind != symptom.TestFailure {
			continue
		}
		for _, f := range s.Frames {
			if !f.Own || f.Line == 0 {
				continue
			}
			key := f.File + "\x00" + strconv.Itoa(f.Line) + "\x00" + symptom.Template(s.Message, nil)
			if of, ok := first[key]; ok && !g.contradict(of, i) {
				g.join(of, i, Because{What: "fails alike on the same line", Value: f.File + ":" + strconv.Itoa(f.Line), Weight: strong}, false)
			} else if !ok {
				first[key] = i
			}
			break
		}
	}
}
