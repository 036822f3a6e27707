package cluster

import (
	"path"
	"sort"
	"strings"

	"unicausa/internal/core/source"
	"unicausa/internal/core/symptom"
)

// runtime joins failures at run time with what the compiler said about the
// same function: a test that dies in a function that did not compile, and a
// crash with the test that it ended.
func (g *grouping) runtime() {
	byFile := map[string][]int{}
	for i, e := range g.evidence {
		if e.Symptom.File != "" && e.Symptom.Kind != symptom.TestFailure && e.Symptom.Kind != symptom.Crash {
			byFile[e.Symptom.File] = append(byFile[e.Symptom.File], i)
		}
	}
	tests := map[string]int{}
	for i, e := range g.evidence {
		if e.Symptom.Kind == symptom.TestFailure && e.Symptom.Test != "" {
			tests[e.Symptom.Unit+"\x00"+e.Symptom.Test] = i
		}
	}
	for i, e := range g.evidence {
		s := e.Symptom
		if s.Kind == symptom.Crash && s.Test != "" {
			if test, ok := tests[s.Unit+"\x00"+s.Test]; ok {
				g.join(test, i, Because{What: "crash of the test", Value: s.Test, Weight: 0.9}, false)
			}
		}
		if s.Kind != symptom.TestFailure && s.Kind != symptom.Crash || e.Fact(FactMissing) != nil {
			continue
		}
		g.sameFunction(i, byFile)
	}
}

// sameFunction joins a failure with the compiler's complaint inside the
// innermost own function of its stack, when there is but one to choose.
func (g *grouping) sameFunction(i int, byFile map[string][]int) {
	for _, f := range g.evidence[i].Symptom.Frames {
		if !f.Own {
			continue
		}
		from, end := g.evidence[i].tree.Function(f.File, f.Function)
		if from == 0 {
			return
		}
		found := -1
		for _, j := range byFile[f.File] {
			line := g.evidence[j].Symptom.Line
			if line < from || line > end || !g.together(i, j) {
				continue
			}
			if found >= 0 && g.find(found) != g.find(j) {
				return
			}
			found = j
		}
		if found >= 0 {
			g.join(found, i, Because{What: "fails in the function that does not compile", Value: f.Function, Weight: 0.7}, false)
		}
		return
	}
}

// followers folds what only follows from something else: the rest of a file
// that cannot be parsed, uses of a name that was lost in the file, and the
// suites that could not be built.
func (g *grouping) followers() {
	g.spoiled()
	g.lost()
	g.unbuilt()
}

func (g *grouping) spoiled() {
	files := map[string]int{}
	for i, e := range g.evidence {
		if e.Symptom.Phase == symptom.PhaseParse {
			if _, ok := files[e.Symptom.File]; !ok {
				files[e.Symptom.File] = i
			}
		}
	}
	for i, e := range g.evidence {
		if root, ok := files[e.Symptom.File]; ok && g.together(root, i) && e.Symptom.Phase != symptom.PhaseParse && e.Symptom.Kind != symptom.TestFailure && e.Symptom.File != "" {
			g.join(root, i, Because{What: "in a file that cannot be parsed", Value: e.Symptom.File, Weight: 0.8}, true)
		}
	}
}

// lost folds a complaint about a line that uses a name which an import of the
// same file no longer brings: its type is unknown, and so are those made of it.
func (g *grouping) lost() {
	type name struct{ file, name string }
	lost := map[name]int{}
	for i, e := range g.evidence {
		s := e.Symptom
		if f := e.Fact(FactMissing); f != nil && s.Kind != symptom.TestFailure {
			if _, ok := lost[name{s.File, f.Name}]; !ok {
				lost[name{s.File, f.Name}] = i
			}
		}
		if f := e.Fact(FactModule); f != nil {
			for _, imp := range e.tree.Imports(s.File) {
				if _, ok := lost[name{s.File, imp.Local}]; !ok && (imp.Package == f.Name || strings.HasPrefix(imp.Package, f.Name+"/")) && imp.Local != "" {
					lost[name{s.File, imp.Local}] = i
				}
			}
		}
	}
	for i, e := range g.evidence {
		s := e.Symptom
		if e.Source == "" || s.Kind == symptom.TestFailure || e.Fact(FactMissing) != nil || e.Fact(FactModule) != nil || s.Phase == symptom.PhaseParse {
			continue
		}
		best, at := -1, 0
		for _, n := range source.Names(e.tree.Line(s.File, s.Line)) {
			root, ok := lost[name{s.File, n.Text}]
			// A member is lost where it is asked of something, not where the
			// project declares one of that name.
			if ok && n.Qualifier == "" && g.evidence[root].Fact(FactModule) == nil && !exportCodes[g.evidence[root].Symptom.Code] {
				continue
			}
			if ok && root != i && g.together(root, i) && (best < 0 || s.Column == 0 || n.Column <= s.Column && n.Column > at) {
				best, at = root, n.Column
			}
		}
		if best >= 0 && g.weak(i) {
			g.join(best, i, Because{What: "on a line that uses the lost name", Value: g.reason[best].Value, Weight: 0.7}, true)
		}
	}
}

// weak tells whether nothing but its own words holds a symptom in its set: it
// may be folded without dragging others along.
func (g *grouping) weak(i int) bool {
	return strings.HasPrefix(g.key[i], "says|") || strings.HasPrefix(g.key[i], "call||")
}

// unbuilt folds "[build failed]" and its kin under what broke the unit: the
// cause with most errors in it, or else in what it imports.
func (g *grouping) unbuilt() {
	count := map[string]map[int]int{} // unit to causes to their errors in it
	first := map[string]map[int]int{} // and the first symptom of each
	for i, e := range g.evidence {
		s := e.Symptom
		if s.Kind == symptom.TestFailure || s.Unit == "" {
			continue
		}
		if count[s.Unit] == nil {
			count[s.Unit], first[s.Unit] = map[int]int{}, map[int]int{}
		}
		root := g.find(i)
		if count[s.Unit][root] == 0 {
			first[s.Unit][root] = i
		}
		count[s.Unit][root]++
	}
	for i, e := range g.evidence {
		s := e.Symptom
		if s.Kind != symptom.TestFailure || s.Test != "" {
			continue
		}
		for _, unit := range append([]string{s.Unit}, needed(e.tree, s.Unit)...) {
			if root, ok := most(count[unit], first[unit]); ok {
				g.join(root, i, Because{What: "could not be built for", Value: unit, Weight: 0.6}, true)
				break
			}
		}
	}
}

// most is the first symptom of the cause with the most errors in a unit.
func most(count, first map[int]int) (int, bool) {
	best := -1
	var roots []int
	for root := range count {
		roots = append(roots, root)
	}
	sort.Ints(roots)
	for _, root := range roots {
		if best < 0 || count[root] > count[best] {
			best = root
		}
	}
	if best < 0 {
		return 0, false
	}
	return first[best], true
}

// needed lists the packages that the files of a unit's folder import.
func needed(tree *source.Tree, unit string) []string {
	seen := map[string]bool{}
	var list []string
	best := ""
	for _, file := range tree.Files() {
		dir := path.Dir(file)
		if dir != "." && strings.HasSuffix("/"+unit, "/"+dir) && len(dir) > len(best) {
			best = dir
		}
	}
	if best == "" {
		best = "."
	}
	for _, file := range tree.Files() {
		if path.Dir(file) != best {
			continue
		}
		for _, imp := range tree.Imports(file) {
			if !seen[imp.Package] {
				seen[imp.Package] = true
				list = append(list, imp.Package)
			}
		}
	}
	sort.Strings(list)
	return list
}
