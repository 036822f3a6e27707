// Package cluster groups symptoms into causes: what one decision by a
// developer would settle. It goes by what is broken, not by how it is worded:
// each symptom yields a few typed facts, symptoms that share a strong one are
// joined, and what only follows from something else is folded under it.
package cluster

import (
	"regexp"
	"sort"
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
	Arity   string // the number of arguments, where the language names functions by it (open/2)
	Weight  float64
}

// The kinds of fact, strongest first.
const (
	FactModule    = "unresolved module"
	FactMissing   = "missing symbol"
	FactOption    = "refused option"
	FactRule      = "rule of the tool"
	FactCallee    = "changed call"
	FactInterface = "unfit type"
	FactShape     = "shape of the module"
	FactFrame     = "throwing function"
	FactQuoted    = "name in the message"
	FactAbout     = "name concerned"
	FactOwner     = "type concerned"
	FactLine      = "name on the line"
	FactFunction  = "name in the tested function"
)

// Evidence is a symptom with its facts, gathered once for clustering and linking.
type Evidence struct {
	Symptom *symptom.Symptom
	Facts   []Fact
	Source  string // the source line it stands on

	tree      *source.Tree
	body      []string           // the lines that a failed test reaches
	about     topic              // what it is most likely about
	place     map[string]topic   // the names on the line of a diagnostic
	reach     map[string]topic   // the names that a failed test reaches
	direct    map[string]bool    // the functions of the project that a failed test calls itself
	ours      map[string]bool    // names on its way that the project itself declares
	suspicion map[string]float64 // in how many tests that passed each of them is reached
	spared    map[string]float64 // in how many of them each function of the project is called
	handler   *handler           // what a failed test asks for
	at        source.Declaration // the test
	asked     topic              // what returned the value in which a name is missing
	unsure    bool               // several names on the line may be it
	made      int                // the line that made the variable under the caret
	ruled     string             // the rule that it breaks, where the notes name it
	said      string             // what it says, as said has it
	warned    string             // the name that it misses or calls, where that was warned of before
}

// Gather finds the facts of a symptom in its message, its frames and the
// source line it stands on.
func Gather(s *symptom.Symptom, tree *source.Tree, ctx *Context) *Evidence {
	e := &Evidence{Symptom: s, tree: tree, said: said(s), Source: strings.TrimSpace(tree.Line(s.File, s.Line))}
	imports := map[string]string{} // local name to package
	for _, imp := range tree.Imports(s.File) {
		imports[imp.Local] = imp.Package
	}
	e.named(imports, ctx)
	if f := e.Fact(FactMissing); f != nil && (ctx.Names[f.Name] || f.Package != "" && len(ctx.Subjects) > 0 && ctx.moved(f.Package)) {
		e.ruled = "" // the name says more
	}
	e.called(ctx)
	e.based(imports)
	e.thrown(ctx)
	e.quoted(ctx)
	e.askedOf(ctx)
	e.chained(imports, ctx)
	if s.Kind == symptom.TestFailure || s.Kind == symptom.Crash {
		e.topics(ctx)
	} else {
		e.placed(ctx)
	}
	for _, what := range []string{FactMissing, FactCallee, FactOption} {
		if f := e.Fact(what); f != nil && ctx.Deprecated[f.Name] {
			e.warned = f.Name
		}
	}
	return e
}

// Lines are the source lines that the symptom stands on and, of a failed test
// or a crash, those of the project's own code that it reaches.
func (e *Evidence) Lines() []string { return append([]string{e.Source}, e.body...) }

// Ours reports whether a name that the symptom reaches is the project's own.
func (e *Evidence) Ours(name string) bool { return e.ours[name] }

// Facts below the scale of the others.
const (
	reached     = 0.25 // a name that a failed test reaches, times its weight there
	typeInValue = 0.45 // a type named in a value that a test compares
)

// finish adds what a failed test reaches as weak facts, once the suspects are
// known: often they are all there is.
func (e *Evidence) finish() {
	for _, t := range e.reach {
		e.add(Fact{What: FactFunction, Name: t.Name, Package: t.Package, Weight: reached * t.Weight})
	}
	sort.SliceStable(e.Facts, func(i, j int) bool {
		a, b := e.Facts[i], e.Facts[j]
		return a.Weight > b.Weight || a.Weight == b.Weight && a.Name < b.Name
	})
}

// quoted takes the names that a message puts in quotes and the notes know.
func (e *Evidence) quoted(ctx *Context) {
	message := e.Symptom.Message
	if e.Symptom.Kind == symptom.TestFailure || e.Symptom.Kind == symptom.Crash {
		for _, name := range spelt.FindAllString(message, 8) {
			if ctx.Names[name] {
				e.add(Fact{What: FactQuoted, Name: name, Weight: good})
			}
		}
	}
	if at := proposal.FindStringIndex(message); at != nil {
		message = message[:at[0]] // what the tool proposes is not what is wrong
	}
	for _, m := range quotes.FindAllStringSubmatch(message, 8) {
		for _, q := range namespaced.FindAllStringSubmatch(m[1], 4) {
			if pkg := ctx.subject(q[1]); pkg != "" {
				e.add(Fact{What: FactQuoted, Name: q[2], Package: pkg, Weight: good})
			}
		}
		for _, name := range identifier.FindAllString(m[1], 6) {
			if strings.Contains(m[1], " ") && plainWord(strings.ToLower(name)) { // of a sentence
				continue
			}
			if (ctx.Names[name] || ctx.prefixed(name) != "") && ctx.subject(name) == "" {
				e.add(Fact{What: FactQuoted, Name: name, Package: ctx.prefixed(name), Weight: good})
			}
		}
	}
}

var (
	proposal   = regexp.MustCompile(`(?i)did you mean|\bmaybe\b|similar name|perhaps you|help: `)
	quotes     = regexp.MustCompile("[`'\"‘“]([^`'\"’”]{2,80})[`'\"’”]")
	namespaced = regexp.MustCompile(`([A-Za-z_]\w*)(?:::|\.|\\)([A-Za-z_]\w{2,})`)
	identifier = regexp.MustCompile(`[A-Za-z_]\w{2,}`)
	spelt      = regexp.MustCompile(`\b[A-Za-z]\w*(?:-[A-Za-z0-9]+)+\b|\b[a-z]+[A-Z]\w*|\b[A-Za-z]+_\w+`) // as no plain word is
)

// named takes the facts that the message itself tells.
func (e *Evidence) named(imports map[string]string, ctx *Context) {
	s := e.Symptom
	owner := bareType(s.Named(symptom.Owner))
	// packageBy resolves the first part of a name through the imports.
	packageBy := func(name string) string {
		switch pkg := imports[before(name, ".")]; {
		case pkg != "":
			return pkg
		case strings.ContainsAny(owner, "/@"), exportCodes[s.Code]:
			return owner
		}
		if s := ctx.subject(before(strings.NewReplacer("::", ".", `\\`, ".").Replace(name), ".")); s != "" {
			return s
		}
		return ctx.prefixed(name)
	}
	pkg := packageBy(owner)
	for _, r := range s.Refs {
		name := r.Name[strings.LastIndexAny(r.Name, ".:\\")+1:]
		switch r.Role {
		case symptom.Missing:
			e.add(Fact{What: FactMissing, Name: name, Owner: owner, Package: first(pkg, packageBy(r.Name)), Weight: 1})
		case symptom.Old:
			e.add(Fact{What: FactMissing, Name: name, Owner: owner, Package: first(pkg, packageBy(r.Name)), Weight: 1})
		case symptom.Module:
			e.add(Fact{What: FactModule, Name: r.Name, Package: r.Name, Weight: 1})
		case symptom.Option:
			e.add(Fact{What: FactOption, Name: r.Name, Owner: s.Named(symptom.Expected), Weight: 1})
		case symptom.Rule:
			if ctx.Names[r.Name] || ctx.Names[r.Name[strings.LastIndexByte(r.Name, '/')+1:]] {
				e.ruled = r.Name
			}
			e.add(Fact{What: FactRule, Name: r.Name, Weight: strong})
		case symptom.Callee:
			if constructors[name] && owner != "" { // it goes by its type's name
				name = owner[strings.LastIndexAny(owner, ".:\\")+1:]
			}
			owner := first(owner, implemented(e.tree, s))
			e.add(Fact{What: FactCallee, Name: name, Owner: owner, Package: first(packageBy(r.Name), pkg), Weight: certain})
		case symptom.Owner:
			if imports[r.Name] != "" || strings.Contains(r.Name, "/") { // the package itself
				continue
			}
			if strings.Contains(s.Message, " does not implement ") || strings.Contains(s.Message, " is pointer to interface") {
				e.add(Fact{What: FactInterface, Name: name, Owner: methodPhrase(s.Message), Package: imports[before(r.Name, ".")], Weight: certain})
			} else {
				e.add(Fact{What: FactOwner, Name: name, Package: pkg, Weight: faint})
			}
		case symptom.Expected, symptom.Actual:
			if m := moduleType.FindStringSubmatch(r.Name); m != nil && r.Role == symptom.Actual {
				if pkg := imported(imports, m[1]); pkg != "" {
					e.add(Fact{What: FactShape, Name: pkg, Package: pkg, Weight: certain})
				}
				continue
			}
			for _, t := range typeNames.FindAllString(r.Name, 4) {
				e.add(Fact{What: FactOwner, Name: t[strings.LastIndexByte(t, '.')+1:], Package: imports[before(t, ".")], Weight: typeInValue})
			}
		}
	}
}

// implemented is the trait in whose implementation a symptom stands that says that
// a method does not fit it, or "".
func implemented(tree *source.Tree, s *symptom.Symptom) string {
	if !strings.Contains(s.Message, " for trait") {
		return ""
	}
	for n := s.Line; n > 0; n-- {
		if m := implementation.FindStringSubmatch(tree.Line(s.File, n)); m != nil {
			return m[1]
		}
	}
	return ""
}

var implementation = regexp.MustCompile(`^\s*(?:unsafe )?impl(?:<.*?>)? (?:\w+::)*(\w+)\b.* for `)

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
var arity = regexp.MustCompile(`(?i)\bexpected \d+(-\d+)? (type )?arguments?|\b(not enough|too many|wrong number of|missing \d+) .{0,20}arguments?|takes .{0,40}arguments?|no overload|no suitable method|assignment mismatch|is not assignable to parameter`)

// unfit are wordings of a value whose type does not fit where it stands.
var unfit = regexp.MustCompile(`(?i)incompatible types|mismatched types|cannot (?:be )?convert|not a functional interface`)

// called takes the call that a complaint about arguments or types is about:
// the innermost call into a package whose arguments hold the column, or else
// the last one before it, or the one on a line above whose argument the line is.
func (e *Evidence) called(ctx *Context) {
	s := e.Symptom
	if s.Named(symptom.Callee) != "" || s.Named(symptom.Missing) != "" {
		return
	}
	held := unfit.MatchString(s.Message) // of a call only where an argument is meant
	if !held && !arity.MatchString(s.Message) {
		return
	}
	text := e.tree.Line(s.File, s.Line)
	var best *source.Use
	inside := false
	uses := foreignUses(e.tree, s.File, s.Line, ctx)
	for i, u := range uses {
		if !u.Call {
			continue
		}
		holds := source.Holds(text, u.Column+len(u.Name), s.Column)
		if held && !holds {
			continue
		}
		if best == nil || holds || !inside && u.Column <= s.Column {
			best, inside = &uses[i], inside || holds
		}
	}
	if n := opener(e.tree, s.File, s.Line, "("); best == nil && n > 0 {
		text := e.tree.Line(s.File, n)
		uses = foreignUses(e.tree, s.File, n, ctx)
		for i, u := range uses {
			if u.Call || generic.MatchString(text[u.Column-1:]) {
				best = &uses[i]
			}
		}
	}
	if best != nil {
		e.add(Fact{What: FactCallee, Name: best.Name, Package: best.Package, Weight: certain})
	}
}

// generic is a call with types as its parameters, from its name in this file on.
var generic = regexp.MustCompile(`^[\w$]+<[^()]*>\(`)

// based takes the base class whose constructor a call of super no longer fits.
func (e *Evidence) based(imports map[string]string) {
	s := e.Symptom
	if e.Fact(FactCallee) != nil || !strings.Contains(e.Source, "super(") || !arity.MatchString(s.Message) {
		return
	}
	for _, d := range e.tree.Declarations(s.File) {
		if base := extends.FindStringSubmatch(e.tree.Line(s.File, d.From)); base != nil && d.Type && d.From <= s.Line && s.Line <= d.End {
			e.add(Fact{What: FactCallee, Name: base[1][strings.LastIndexByte(base[1], '.')+1:], Package: imports[before(base[1], ".")], Weight: certain})
		}
	}
}

var extends = regexp.MustCompile(`\bextends\s+([\w.]+)`)

// bareType is a type without what makes a reference, a pointer or a generic
// instance of it: Vehicle of &mut Vehicle and of Vehicle<T>.
func bareType(name string) string {
	name = strings.TrimLeft(before(name, "<"), "&* ")
	for _, word := range []string{"mut ", "const ", "impl ", "dyn ", "struct ", "class "} {
		name = strings.TrimPrefix(name, word)
	}
	return strings.TrimRight(name, "&* ")
}

// add keeps the strongest of equal facts.
func (e *Evidence) add(f Fact) {
	if f.Name == "" || len(e.Facts) > 200 {
		return
	}
	if f.What == FactMissing || f.What == FactCallee {
		f.Arity = arityOf(e.Symptom.Message, f.Name)
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

// arityOf is the number that follows a name and a slash in a message, or "".
func arityOf(message, name string) string {
	_, rest, ok := strings.Cut(message, name+"/")
	if !ok {
		return ""
	}
	return rest[:len(rest)-len(strings.TrimLeft(rest, "0123456789"))]
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
func foreignUses(tree *source.Tree, file string, line int, ctx *Context) []source.Use {
	var list []source.Use
	for _, u := range tree.Uses(file, line) {
		if ctx.moved(u.Package) && (len(ctx.Subjects) > 0 || !strings.HasPrefix(u.Package, ".")) {
			list = append(list, u)
		}
	}
	return list
}

func before(s, mark string) string {
	head, _, _ := strings.Cut(s, mark)
	return head
}

func first(list ...string) string {
	for _, s := range list {
		if s != "" {
			return s
		}
	}
	return ""
}
