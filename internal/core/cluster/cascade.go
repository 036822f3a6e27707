package cluster

import (
	"path"
	"regexp"
	"sort"
	"strings"

	"unicausa/internal/core/source"
	"unicausa/internal/core/symptom"
)

// followers folds what only follows from something else: the rest of a file
// that cannot be parsed, uses of a name that was lost in the file, and the
// suites that could not be built.
func (g *grouping) followers() {
	g.spoiled()
	g.lost()
	g.derived()
	g.unreached()
	g.unbuilt()
	g.oneLine()
	g.unmade()
	g.suites()
}

// oneLine joins errors that nothing but their own words hold where they stand on
// one line: a compiler that has lost its way says several things of it.
func (g *grouping) oneLine() {
	type line struct {
		file string
		line int
		tree *source.Tree
	}
	first := map[line]int{}
	for i, e := range g.evidence {
		s := e.Symptom
		if s.File == "" || s.Line == 0 || s.Kind != symptom.Error || g.follower[i] || g.key[i].kind != keySays {
			continue
		}
		at := line{s.File, s.Line, e.tree}
		if of, ok := first[at]; ok {
			g.join(of, i, Because{What: "on the same line", Value: e.Source, Weight: fair}, false)
		} else {
			first[at] = i
		}
	}
}

// unmade folds a test whose program was not built under what broke the file that
// the test is named after.
func (g *grouping) unmade() {
	broken := map[string][]int{} // base name of a file, without what follows its first dot
	for i, e := range g.evidence {
		s := e.Symptom
		if s.Kind == symptom.Error && s.File != "" && s.Phase.Order() <= symptom.PhaseCompile.Order() {
			base := before(path.Base(s.File), ".")
			broken[base] = append(broken[base], i)
		}
	}
	for i, e := range g.evidence {
		s := e.Symptom
		if s.Kind != symptom.TestFailure || !notMade.MatchString(s.Message+" "+s.Test) {
			continue
		}
		best := ""
		for _, word := range identifier.FindAllString(s.Test+" "+s.Unit+" "+s.Message, -1) {
			for base := range broken {
				if len(base) > max(2, len(best)) && (word == base || strings.HasSuffix(word, "_"+base) || strings.HasPrefix(word, base+"_")) {
					best = base
				}
			}
		}
		if best != "" && g.one(broken[best]) {
			g.join(broken[best][0], i, Because{What: "could not be built for", Value: best, Weight: fair}, true)
		}
	}
}

// notMade are the words for a program that is not there to be run.
var notMade = regexp.MustCompile(`(?i)\b(?:was|is|were) not built\b|\bnot found\b|no such file|could not find executable|unable to find executable|cannot find module`)

// spoiled folds what is said of a file that cannot be parsed, but for what is said of other
// files too.
func (g *grouping) spoiled() {
	files, several := map[string]int{}, map[int]bool{}
	for i, e := range g.evidence {
		if g.evidence[g.find(i)].Symptom.File != e.Symptom.File {
			several[g.find(i)] = true
		}
		if e.Symptom.Phase == symptom.PhaseParse {
			if _, ok := files[e.Symptom.File]; !ok {
				files[e.Symptom.File] = i
			}
		}
	}
	for i, e := range g.evidence {
		if root, ok := files[e.Symptom.File]; ok && g.together(root, i) && e.Symptom.Phase != symptom.PhaseParse && e.Symptom.Kind != symptom.TestFailure && !several[g.find(i)] && e.Symptom.File != "" {
			g.join(root, i, Because{What: "in a file that cannot be parsed", Value: e.Symptom.File, Weight: strong}, true)
		}
	}
}

// lostName is a name that a file no longer has: an import does not bring it,
// or it is asked of something that has it no more (a member).
type lostName struct {
	file, name string
	member     bool
}

// lostNames are the names that are lost, each with the first symptom that says so.
func (g *grouping) lostNames() map[lostName]int {
	lost := map[lostName]int{}
	add := func(n lostName, i int) {
		if _, ok := lost[n]; !ok && n.name != "" {
			lost[n] = i
		}
	}
	for i, e := range g.evidence {
		s := e.Symptom
		if s.Kind == symptom.TestFailure || s.Kind == symptom.Crash || s.File == "" {
			continue
		}
		missing, module := e.Fact(FactMissing), e.Fact(FactModule)
		for _, imp := range e.tree.Imports(s.File) {
			switch {
			case module != nil && (imp.Package == module.Name || strings.HasPrefix(imp.Package, module.Name+"/") || imp.Package+"."+imp.Name == module.Name):
				add(lostName{file: s.File, name: imp.Local}, i)
			case missing != nil && (imp.Name == missing.Name || imp.Local == missing.Name || imp.Name == "" && imp.Local == missing.Name):
				add(lostName{file: s.File, name: imp.Local}, i)
			}
		}
		if missing != nil {
			add(lostName{file: s.File, name: missing.Name, member: true}, i)
		}
	}
	return lost
}

// lost folds what follows from a name that is lost: that the name itself is
// not known further down, what was declared with it, and whatever is said of a
// line that uses it.
func (g *grouping) lost() {
	lost := g.lostNames()
	for i, e := range g.evidence {
		s := e.Symptom
		if e.Source == "" || s.Kind == symptom.TestFailure || s.Kind == symptom.Crash || s.Phase == symptom.PhaseParse {
			continue
		}
		if f := e.Fact(FactModule); f != nil { // package Jar does not exist: asked of a class that was not imported
			if root, ok := lost[lostName{file: s.File, name: f.Name}]; ok && root != i && g.together(root, i) && g.evidence[root].Fact(FactModule) == nil {
				g.join(root, i, Because{What: "asked of the lost name", Value: f.Name, Weight: strong}, true)
			}
			continue
		}
		if root, name := g.typeLost(lost, i); root >= 0 {
			g.join(root, i, Because{What: "made of the lost name", Value: name, Weight: strong}, true)
			continue
		}
		if k := g.key[i]; k.kind == keyAbout && e.Fact(FactCallee) == nil {
			if root, ok := lost[lostName{file: s.File, name: k.name}]; ok && g.find(root) != g.find(i) && g.together(root, i) {
				g.join(root, i, Because{What: "concerns the lost name", Value: k.name, Weight: strong}, true)
			}
			continue
		}
		if e.Fact(FactMissing) != nil || !g.weak(i) {
			continue
		}
		best, at, value := -1, 0, ""
		for _, n := range source.Names(e.tree.Line(s.File, s.Line)) {
			root, ok := lost[lostName{file: s.File, name: n.Text}]
			if !ok && n.Qualifier != "" {
				root, ok = lost[lostName{file: s.File, name: n.Text, member: true}]
			}
			if ok && root != i && g.together(root, i) && (best < 0 || s.Column == 0 || n.Column <= s.Column && n.Column > at) {
				best, at, value = root, n.Column, n.Text
			}
		}
		if best >= 0 {
			g.join(best, i, Because{What: "on a line that uses the lost name", Value: value, Weight: good}, true)
		}
	}
}

// typeLost finds the import whose loss a complaint repeats: it misses the
// imported name itself, or something of a type of that name, or cannot fit it.
func (g *grouping) typeLost(lost map[lostName]int, i int) (int, string) {
	e := g.evidence[i]
	names := []string{}
	if f := e.Fact(FactMissing); f != nil {
		names = append(names, f.Name, f.Owner[strings.LastIndexAny(f.Owner, ".: ")+1:])
	} else {
		for _, f := range e.Facts {
			if f.What == FactCallee || f.What == FactOwner || f.What == FactQuoted {
				names = append(names, f.Name)
			}
		}
		for _, r := range e.Symptom.Refs {
			if r.Role == symptom.Expected || r.Role == symptom.Actual || r.Role == symptom.Owner {
				names = append(names, identifier.FindAllString(r.Name, 4)...)
			}
		}
	}
	for _, name := range names {
		if root, ok := lost[lostName{file: e.Symptom.File, name: name}]; ok && root != i && g.together(root, i) {
			if f := g.evidence[root].Fact(FactMissing); f != nil && e.Fact(FactMissing) != nil && f.Name == e.Fact(FactMissing).Name {
				if imported := g.evidence[root].Source; isImport.MatchString(imported) && !isImport.MatchString(e.Source) && g.find(root) != g.find(i) {
					g.join(root, i, Because{What: "misses the name that was not imported", Value: name, Weight: strong}, true)
				}
				continue // the same again, no follower
			}
			return root, name
		}
	}
	return -1, ""
}

// derived folds a complaint without a name of its own that stands where another
// one explains it: on the same line, or where the variable was made.
func (g *grouping) derived() {
	type line struct {
		file string
		line int
		tree *source.Tree
	}
	named := map[line][]int{}
	for i, e := range g.evidence {
		s := e.Symptom
		if s.File != "" && s.Line > 0 && s.Kind != symptom.TestFailure && s.Kind != symptom.Crash && !g.weak(i) {
			l := line{s.File, s.Line, e.tree}
			named[l] = append(named[l], i)
		}
	}
	for i, e := range g.evidence {
		s := e.Symptom
		about := g.key[i].kind == keyAbout
		if !g.weak(i) && !about || s.Line == 0 || s.Kind == symptom.TestFailure || s.Kind == symptom.Crash || s.Kind == symptom.Lint {
			continue
		}
		if e.made > 0 && e.made != s.Line && !about {
			if list := named[line{s.File, e.made, e.tree}]; len(list) > 0 && g.find(list[0]) != g.find(i) {
				g.join(list[0], i, Because{What: "made on a line that is broken", Value: strings.TrimSpace(e.tree.Line(s.File, e.made)), Weight: fair}, true)
				continue
			}
		}
		if j, name := g.headed(i, func(file string, n int) []int { return named[line{file, n, e.tree}] }); j >= 0 {
			g.join(j, i, Because{What: "of a type whose heading is broken", Value: name, Weight: fair}, true)
			continue
		}
		if about {
			continue
		}
		best := -1
		for _, j := range named[line{s.File, s.Line, e.tree}] {
			column := g.evidence[j].Symptom.Column
			if best < 0 || abs(column-s.Column) < abs(g.evidence[best].Symptom.Column-s.Column) {
				best = j
			}
		}
		if best >= 0 && g.find(best) != g.find(i) {
			g.join(best, i, Because{What: "on the same line", Value: e.Source, Weight: fair}, true)
		}
	}
}

// headed finds a complaint about the heading of an own type, where another one
// is about what that type inherits, or about the type by name.
func (g *grouping) headed(i int, at func(file string, line int) []int) (int, string) {
	e := g.evidence[i]
	var types []source.Declaration
	if inherits.MatchString(e.Symptom.Message) {
		for _, d := range e.tree.Declarations(e.Symptom.File) {
			if d.Type && d.From <= e.Symptom.Line && e.Symptom.Line <= d.End {
				types = append(types, d)
			}
		}
		// A type without a name: new Jar() {
		if n := opener(e.tree, e.Symptom.File, e.Symptom.Line, "{"); n > 0 {
			for _, j := range at(e.Symptom.File, n) {
				if j != i && g.find(j) != g.find(i) {
					return j, strings.TrimSpace(e.tree.Line(e.Symptom.File, n))
				}
			}
		}
	}
	for _, name := range identifier.FindAllString(e.Symptom.Message, 8) {
		if capital(name) {
			types = append(types, e.tree.Declared(name)...)
		}
	}
	for _, d := range types {
		if !d.Type {
			continue
		}
		for _, j := range at(d.File, d.From) {
			if j != i && g.find(j) != g.find(i) {
				return j, d.Name
			}
		}
	}
	return -1, ""
}

// opener is the line that opens the block in which a line stands, or 0: the
// nearest one above that is indented less and ends with a bracket of the kind.
func opener(tree *source.Tree, file string, line int, bracket string) int {
	indent := func(text string) int { return len(text) - len(strings.TrimLeft(text, " \t")) }
	depth := indent(tree.Line(file, line))
	for n := line - 1; n > 0 && depth > 0; n-- {
		text := tree.Line(file, n)
		if strings.TrimSpace(text) != "" && indent(text) < depth {
			if strings.HasSuffix(strings.TrimSpace(text), bracket) {
				return n
			}
			depth = indent(text)
		}
	}
	return 0
}

// inherits are the words of complaints about what a type has from others.
var inherits = regexp.MustCompile(`(?i)\boverrid|supertype|superclass|base class|\binherit|\babstract\b`)

// isImport is a line that brings names from elsewhere.
var isImport = regexp.MustCompile(`^\s*(?:import|from|use|using|require|#include)\b`)

func abs(n int) int { return max(n, -n) }

// unreached folds tests that could not reach a program under what kept it from
// starting.
func (g *grouping) unreached() {
	root := -1
	for i, e := range g.evidence {
		s := e.Symptom
		if s.Test != "" || s.Kind == symptom.TestFailure {
			continue
		}
		if (s.Kind == symptom.Crash || s.Phase == symptom.PhaseStart || s.Phase == symptom.PhaseConfigure) && !refused.MatchString(s.Message) {
			if root < 0 || s.Phase.Order() < g.evidence[root].Symptom.Phase.Order() {
				root = i
			}
		}
	}
	if root < 0 {
		return
	}
	for i, e := range g.evidence {
		if refused.MatchString(e.Symptom.Message) && !g.answered[i] {
			g.join(root, i, Because{What: "needed what did not start", Value: g.evidence[root].Symptom.Message, Weight: good}, true)
		}
	}
}

// noFile are the words for a file that is not there.
var noFile = regexp.MustCompile(`(?i)\bENOENT\b|no such file or directory|file not found|FileNotFoundError|NoSuchFileException|cannot find (?:module|file|path) ['"]?[./]`)

// refused are the words for a program that nobody answers at.
var refused = regexp.MustCompile(`(?i)ECONNREFUSED|ECONNRESET|ERR_CONNECTION|connection (was )?refused|actively refused|could not connect|cannot connect|failed to connect|fetch failed|connect: no such file|max retries exceeded|server is not running|connection to server .* failed`)

// weak reports whether nothing but its own words holds a symptom in its set: it
// may be folded without dragging others along.
func (g *grouping) weak(i int) bool {
	return g.key[i].kind == keySays || g.key[i].kind == keyPlace
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
				g.join(root, i, Because{What: "could not be built for", Value: unit, Weight: fair}, true)
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
