package cluster

import (
	"fmt"
	"strings"

	"unicausa/internal/core/symptom"
)

// unknownPackages joins a name that is missing in a type of unknown package
// with the same name missing in that type where the file's imports tell the
// package.
func (g *grouping) unknownPackages() {
	type member struct{ owner, name string }
	known := map[member]int{}
	for i, e := range g.evidence {
		if f := e.Fact(FactMissing); f != nil && f.Package != "" && f.Owner != "" {
			if _, ok := known[member{f.Owner, f.Name}]; !ok {
				known[member{f.Owner, f.Name}] = i
			}
		}
	}
	for i, e := range g.evidence {
		if f := e.Fact(FactMissing); f != nil && f.Package == "" {
			if of, ok := known[member{f.Owner, f.Name}]; ok {
				g.union(of, i)
			}
		}
	}
}

// constructors joins a type that is missing with its constructor (App, NewApp).
func (g *grouping) constructors() {
	type name struct{ pkg, name string }
	types := map[name]int{}
	for i, e := range g.evidence {
		if f := e.Fact(FactMissing); f != nil {
			if _, ok := types[name{f.Package, f.Name}]; !ok {
				types[name{f.Package, f.Name}] = i
			}
		}
	}
	for i, e := range g.evidence {
		f := e.Fact(FactMissing)
		if f == nil {
			continue
		}
		for _, prefix := range []string{"New", "new", "create", "Create", "make"} {
			rest, ok := strings.CutPrefix(f.Name, prefix)
			if !ok || rest == "" {
				continue
			}
			if of, ok := types[name{f.Package, rest}]; ok {
				g.join(of, i, Because{What: "constructor of the missing type", Value: rest, Weight: strong}, false)
			}
		}
	}
}

// kin joins missing names of one package of which one begins the other: what is
// made of a type goes with it (LogLevel, LogLevelDebug).
func (g *grouping) kin() {
	type name struct{ pkg, name string }
	missing := map[name]int{}
	for i, e := range g.evidence {
		if f := e.Fact(FactMissing); f != nil && f.Package != "" {
			if _, ok := missing[name{f.Package, f.Name}]; !ok {
				missing[name{f.Package, f.Name}] = i
			}
		}
	}
	for i, e := range g.evidence {
		f := e.Fact(FactMissing)
		if f == nil || f.Package == "" || !capital(f.Name) {
			continue
		}
		for at := len(f.Name) - 1; at >= shortestKin; at-- {
			if of, ok := missing[name{f.Package, f.Name[:at]}]; ok && capital(f.Name[at:]) {
				g.join(of, i, Because{What: "of the family of the missing name", Value: f.Name[:at], Weight: strong}, false)
				break
			}
		}
	}
}

// suffixed joins missing names of one owner of which one ends the other: they went
// together (STOP_WORDS, ENGLISH_STOP_WORDS).
func (g *grouping) suffixed() {
	type name struct{ owner, name string }
	missing := map[name]int{}
	for i, e := range g.evidence {
		if f := e.Fact(FactMissing); f != nil && f.Owner != "" {
			if _, ok := missing[name{f.Owner, f.Name}]; !ok {
				missing[name{f.Owner, f.Name}] = i
			}
		}
	}
	for i, e := range g.evidence {
		f := e.Fact(FactMissing)
		if f == nil || f.Owner == "" {
			continue
		}
		for at := strings.IndexByte(f.Name, '_') + 1; at > 0; {
			if of, ok := missing[name{f.Owner, f.Name[at:]}]; ok && len(f.Name)-at >= shortestKin {
				g.join(of, i, Because{What: "of the family of the missing name", Value: f.Name[at:], Weight: strong}, false)
				break
			}
			next := strings.IndexByte(f.Name[at:], '_') + 1
			if next == 0 {
				break
			}
			at += next
		}
	}
}

// shortestKin is the length of a name from which others may be made of it.
const shortestKin = 5

// sameLine joins errors that stand on one source line and concern one type.
func (g *grouping) sameLine() {
	byLine := map[string][]int{}
	var order []string
	for i, e := range g.evidence {
		s := e.Symptom
		if s.File == "" || s.Line == 0 || s.Kind == symptom.TestFailure {
			continue
		}
		key := fmt.Sprintf("%s\x00%d\x00%p", s.File, s.Line, e.tree)
		if byLine[key] == nil {
			order = append(order, key)
		}
		byLine[key] = append(byLine[key], i)
	}
	for _, key := range order {
		list := byLine[key]
		g.protocol(list)
		for _, i := range list[1:] {
			if name := sharedType(g.evidence[list[0]], g.evidence[i]); name != "" && !g.contradict(list[0], i) && !g.apart(list[0], i) {
				g.join(list[0], i, Because{What: "same line and same type", Value: name, Weight: good}, false)
			}
		}
	}
}

// protocol joins what one place misses in one type: the methods that a
// statement needs together.
func (g *grouping) protocol(list []int) {
	type place struct {
		owner, source string
		column        int
	}
	first := map[place]int{} // of what the statement does not write down itself
	for _, i := range list {
		e := g.evidence[i]
		f := e.Fact(FactMissing)
		if f == nil || f.Owner == "" {
			continue
		}
		at := place{f.Owner, e.Source, e.Symptom.Column}
		if of, ok := first[at]; ok {
			g.join(of, i, Because{What: "missing in the same type at the same place", Value: f.Owner, Weight: strong}, false)
		} else if !strings.Contains(e.Source, f.Name) {
			first[at] = i
		}
	}
}

func sharedType(a, b *Evidence) string {
	types := map[string]bool{}
	for _, f := range a.Facts {
		if f.What == FactOwner || f.What == FactInterface {
			types[f.Name] = true
		}
	}
	for _, f := range b.Facts {
		if (f.What == FactOwner || f.What == FactInterface) && types[f.Name] {
			return f.Name
		}
	}
	return ""
}
