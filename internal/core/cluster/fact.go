// Package cluster groups symptoms into causes: what one decision by a
// developer would settle. It goes by what is broken, not by how it is worded:
// each symptom yields a few typed facts, symptoms that share a strong one are
// joined, and what only follows from something else is folded under it.
package cluster

import (
	"path"
	"regexp"
	"strings"

	"unicausa/internal/core/source"
	"unicausa/internal/core/symptom"
)

// Fact is what a symptom says is broken. Strong facts decide on membership;
// weak ones only help to find the change that explains it.
type Fact struct {
	What    string // "missing symbol", "unresolved module", …
	Name    string // the symbol, module or option, without its owner
	Owner   string // the type or package it was looked for in
	Package string // the imported package, where the source tells
	Weight  float64
}

// The kinds of fact, strongest first.
const (
	FactModule    = "unresolved module"
	FactMissing   = "missing symbol"
	FactOption    = "refused option"
	FactCallee    = "changed call"
	FactInterface = "unfit type"
	FactFrame     = "throwing function"
	FactOwner     = "type concerned"
	FactLine      = "name on the line"
	FactFunction  = "name in the tested function"
)

// Evidence is a symptom with its facts, gathered once for clustering and linking.
type Evidence struct {
	Symptom *symptom.Symptom
	Facts   []Fact
	Source  string // the source line it stands on
	body    []string
	tree    *source.Tree
}

// Gather finds the facts of a symptom in its message, its frames and the
// source line it stands on. Subjects are the packages that moved; with none
// given, every imported package may be meant.
func Gather(s *symptom.Symptom, tree *source.Tree, subjects []string) *Evidence {
	e := &Evidence{Symptom: s, tree: tree, Source: strings.TrimSpace(tree.Line(s.File, s.Line))}
	imports := map[string]string{} // local name to package
	for _, imp := range tree.Imports(s.File) {
		imports[imp.Local] = imp.Package
	}
	e.named(imports)
	uses := foreignUses(tree, s.File, s.Line, subjects)
	e.called(uses)
	e.thrown(tree, subjects)
	for _, u := range uses {
		if e.Fact(FactMissing) != nil || e.Fact(FactModule) != nil {
			break // what else the line uses is not at fault
		}
		e.add(Fact{What: FactLine, Name: u.Name, Package: u.Package, Weight: 0.4})
	}
	e.reached(tree, subjects)
	return e
}

// named takes the facts that the message itself tells.
func (e *Evidence) named(imports map[string]string) {
	s := e.Symptom
	owner := s.Named(symptom.Owner)
	// packageBy resolves the first part of a name through the imports.
	packageBy := func(name string) string {
		switch pkg := imports[before(name, ".")]; {
		case pkg != "":
			return pkg
		case strings.ContainsAny(owner, "/@"), exportCodes[s.Code]:
			return owner
		}
		return ""
	}
	pkg := packageBy(owner)
	for _, r := range s.Refs {
		name := r.Name[strings.LastIndexByte(r.Name, '.')+1:]
		switch r.Role {
		case symptom.Missing:
			e.add(Fact{What: FactMissing, Name: name, Owner: owner, Package: pkg, Weight: 1})
		case symptom.Old:
			e.add(Fact{What: FactMissing, Name: name, Owner: owner, Package: pkg, Weight: 1})
		case symptom.Module:
			e.add(Fact{What: FactModule, Name: r.Name, Package: r.Name, Weight: 1})
		case symptom.Option:
			e.add(Fact{What: FactOption, Name: r.Name, Owner: s.Named(symptom.Expected), Weight: 1})
		case symptom.Callee:
			e.add(Fact{What: FactCallee, Name: name, Owner: owner, Package: packageBy(r.Name), Weight: 0.9})
		case symptom.Owner:
			if imports[r.Name] != "" || strings.Contains(r.Name, "/") { // the package itself
				continue
			}
			if strings.Contains(s.Message, " does not implement ") {
				e.add(Fact{What: FactInterface, Name: name, Owner: methodPhrase(s.Message), Package: imports[before(r.Name, ".")], Weight: 0.9})
			} else {
				e.add(Fact{What: FactOwner, Name: name, Package: pkg, Weight: 0.5})
			}
		case symptom.Expected, symptom.Actual:
			for _, t := range typeNames.FindAllString(r.Name, 4) {
				e.add(Fact{What: FactOwner, Name: t[strings.LastIndexByte(t, '.')+1:], Package: imports[before(t, ".")], Weight: 0.45})
			}
		}
	}
}

// exportCodes are the messages of the TypeScript compiler whose owner is a module.
var exportCodes = map[string]bool{"TS2305": true, "TS2614": true, "TS2724": true, "TS2694": true, "TS2459": true}

var typeNames = regexp.MustCompile(`[A-Za-z_]\w*\.[A-Z]\w*|\b[A-Z]\w{2,}`)

// methodPhrase is why a type does not fit: "method Get has pointer receiver".
func methodPhrase(message string) string {
	i, j := strings.LastIndexByte(message, '('), strings.LastIndexByte(message, ')')
	if i < 0 || j < i {
		return ""
	}
	return message[i+1 : j]
}

// arity are wordings of a call with arguments that do not fit.
var arity = regexp.MustCompile(`(?i)\bexpected \d+(-\d+)? (type )?arguments?|\b(not enough|too many|wrong number of|missing \d+) .{0,20}arguments?|takes .{0,40}arguments?|no overload|assignment mismatch|is not assignable to parameter`)

// called takes the call that a complaint about arguments or types is about:
// the innermost call into a package whose arguments hold the column, or else
// the last one before it.
func (e *Evidence) called(uses []source.Use) {
	s := e.Symptom
	if s.Named(symptom.Callee) != "" || s.Named(symptom.Missing) != "" || !arity.MatchString(s.Message) {
		return
	}
	text := e.tree.Line(s.File, s.Line)
	var best *source.Use
	inside := false
	for i, u := range uses {
		if !u.Call {
			continue
		}
		holds := source.Holds(text, u.Column+len(u.Name), s.Column)
		if best == nil || holds || !inside && u.Column <= s.Column {
			best, inside = &uses[i], inside || holds
		}
	}
	if best != nil {
		e.add(Fact{What: FactCallee, Name: best.Name, Package: best.Package, Weight: 0.9})
	}
}

// thrown takes the function of a package that the project's own code called
// when the failure came: the frame next to the innermost own one.
func (e *Evidence) thrown(tree *source.Tree, subjects []string) {
	var foreign *symptom.Frame
	for i := range e.Symptom.Frames {
		f := &e.Symptom.Frames[i]
		if f.Own {
			break
		}
		foreign = f
	}
	if foreign == nil {
		return
	}
	name := foreign.Function[strings.LastIndexAny(foreign.Function, ".:# ")+1:]
	pkg := packageOf(foreign.File)
	if name == "" || strings.HasPrefix(name, "<") || pkg == "" || !among(pkg, subjects) {
		return
	}
	e.add(Fact{What: FactFrame, Name: name, Package: pkg, Weight: 0.8})
}

// reached takes what the functions in the own frames, or the failed test's
// body, use of the packages that moved: weak, but often all there is.
func (e *Evidence) reached(tree *source.Tree, subjects []string) {
	if e.Symptom.Kind != symptom.TestFailure && e.Symptom.Kind != symptom.Crash {
		return
	}
	for _, f := range e.Symptom.Frames {
		if f.Own {
			e.within(tree, f.File, f.Function, subjects)
		}
	}
	test := e.Symptom.Test
	if i := strings.IndexByte(test, '/'); i > 0 && strings.HasSuffix(e.Symptom.File, ".go") {
		test = test[:i]
	}
	e.within(tree, e.Symptom.File, test, subjects)
}

// within takes the uses in one function, and in the own functions it calls.
func (e *Evidence) within(tree *source.Tree, file, function string, subjects []string) {
	from, end := tree.Function(file, function)
	if from == 0 {
		return
	}
	lines := tree.Lines(file)[from-1 : end]
	e.body = append(e.body, lines...)
	for n := from; n <= end; n++ {
		for _, u := range foreignUses(tree, file, n, subjects) {
			e.add(Fact{What: FactFunction, Name: u.Name, Package: u.Package, Weight: 0.25})
		}
	}
	dir := path.Dir(file)
	for _, line := range lines[1:] {
		for _, n := range source.Names(line) {
			if n.Call {
				e.callee(tree, dir, file, n, subjects)
			}
		}
	}
}

// callee takes the uses in a function of the project that a test calls.
func (e *Evidence) callee(tree *source.Tree, dir, file string, n source.Name, subjects []string) {
	for _, other := range tree.Near(file, n) {
		from, end := tree.Function(other, n.Text)
		if from == 0 || other == file && n.Text == "" {
			continue
		}
		e.body = append(e.body, tree.Lines(other)[from-1:end]...)
		for i := from; i <= end; i++ {
			for _, u := range foreignUses(tree, other, i, subjects) {
				e.add(Fact{What: FactFunction, Name: u.Name, Package: u.Package, Weight: 0.25})
			}
		}
		return
	}
}

// add keeps the strongest of equal facts.
func (e *Evidence) add(f Fact) {
	if f.Name == "" || len(e.Facts) > 200 {
		return
	}
	for i, g := range e.Facts {
		if g.Name == f.Name && (g.Package == f.Package || f.Package == "") {
			if f.Weight > g.Weight {
				if f.Package == "" {
					f.Package = g.Package
				}
				e.Facts[i] = f
			}
			return
		}
	}
	e.Facts = append(e.Facts, f)
}

// Fact returns the symptom's first fact of a kind, or nil.
func (e *Evidence) Fact(what string) *Fact {
	for i := range e.Facts {
		if e.Facts[i].What == what {
			return &e.Facts[i]
		}
	}
	return nil
}

// foreignUses are the names that a line uses of the packages that moved.
func foreignUses(tree *source.Tree, file string, line int, subjects []string) []source.Use {
	var list []source.Use
	for _, u := range tree.Uses(file, line) {
		if !strings.HasPrefix(u.Package, ".") && among(u.Package, subjects) {
			list = append(list, u)
		}
	}
	return list
}

// packageOf is the package whose installed file a frame stands in.
func packageOf(file string) string {
	if i := strings.LastIndex(file, "node_modules/"); i >= 0 {
		parts := strings.SplitN(file[i+len("node_modules/"):], "/", 3)
		if strings.HasPrefix(parts[0], "@") && len(parts) > 1 {
			return parts[0] + "/" + parts[1]
		}
		return parts[0]
	}
	for _, mark := range []string{"/pkg/mod/", "/site-packages/", "/dist-packages/", "/vendor/"} {
		if i := strings.LastIndex(file, mark); i >= 0 {
			rest := file[i+len(mark):]
			if at := strings.IndexByte(rest, '@'); at > 0 {
				return rest[:at]
			}
			if mark == "/vendor/" {
				return path.Dir(rest)
			}
			return before(rest, "/")
		}
	}
	return ""
}

// among tells whether a package is one of the subjects or a part of one. With
// no subjects every package is.
func among(pkg string, subjects []string) bool {
	if len(subjects) == 0 {
		return true
	}
	for _, s := range subjects {
		if source.SameFamily(pkg, s) {
			return true
		}
	}
	return false
}

func before(s, mark string) string {
	head, _, _ := strings.Cut(s, mark)
	return head
}
