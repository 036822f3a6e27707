package cluster

import (
	"regexp"
	"strconv"
	"strings"

	"unicausa/internal/core/source"
)

// topic is a name of somebody else's code that a symptom may be about.
type topic struct {
	Name    string
	Package string // "" where the source does not tell
	Owner   string // what it is asked of, where that was looked at
	Known   bool   // of a package that moved, or named in its notes
	Weight  float64
}

// walk collects the topics of lines of code. What the project itself declares
// is no topic: its body is read instead, up to depth calls away.
type walk struct {
	tree   *source.Tree
	ctx    *Context
	found  map[string]topic
	lines  []string
	within map[string]bool // what is being read, so that recursion ends
	direct map[string]bool // functions of the project that the test itself calls
	mine   map[string]bool // names that the project itself declares
}

const depth = 3

func newWalk(tree *source.Tree, ctx *Context) *walk {
	return &walk{tree: tree, ctx: ctx, found: map[string]topic{}, within: map[string]bool{}, direct: map[string]bool{}, mine: map[string]bool{}}
}

// body reads a declaration of the project, all its lines alike.
func (w *walk) body(d source.Declaration, weight float64, left int) {
	key := d.File + "\x00" + d.Name
	if w.within[key] || left < 0 || len(w.found) > 300 {
		return
	}
	w.within[key] = true
	for n := d.From; n <= d.End; n++ {
		if n > d.From {
			w.lines = append(w.lines, w.tree.Line(d.File, n))
		}
		if !throws.MatchString(w.tree.Line(d.File, n)) { // the stack has such a line where it ran
			w.line(d.File, n, weight, left, n == d.From && d.End > d.From)
		}
	}
}

// throws is a line that ends its function with an error.
var throws = regexp.MustCompile(`^\s*(throw|raise)\b|^\s*panic\(`)

// What a name weighs as a topic, against one that is called on the line that failed. Set by
// hand on the first labelled cases, and not refitted since.
const (
	deeper     = 0.7  // for each declaration of the project that is gone through
	madeBy     = 0.8  // on a line that made a variable, and for each frame further out
	restOfTest = 0.6  // in the rest of the test, or in what handles its request
	nestedCall = 0.6  // called to make an argument
	nestedName = 0.85 // else within the arguments of a call
	onTheWay   = 0.75 // jar.New().Open(): what is asked for last is what is compared
	aMember    = 0.9  // read, not called
	aType      = 0.7  // rather where things stand than what they do
	unheardOf  = 0.7  // neither of what moved nor named in its notes
)

// mention is a name on a line, with what the source tells of it.
type mention struct {
	source.Name
	file     string
	line     int
	text     string // of the line
	pkg      string // "" where the source does not tell
	exported string // the name that it was imported by, "" where it was not
	imported bool
	member   bool
	moved    bool // its package did
}

// line reads one line; of a heading, only what it calls.
func (w *walk) line(file string, n int, weight float64, left int, heading bool) {
	text := w.tree.Line(file, n)
	if isComment(text) {
		return
	}
	uses := map[int]source.Use{}
	for _, u := range w.tree.Uses(file, n) {
		uses[u.Column] = u
	}
	chain := packages{} // of the names on the line, for what is asked of them
	for _, name := range source.Names(text) {
		m := mention{Name: name, file: file, line: n, text: text, member: isMember(text, name.Column)}
		if use, ok := uses[name.Column]; ok {
			m.imported, m.pkg, m.exported = true, use.Package, use.Name
		}
		w.place(&m, chain)
		if w.ignored(&m, heading) {
			continue
		}
		if m.variable() {
			w.field(file, n, name.Text, weight*deeper, left-1)
			continue
		}
		if heading && w.tree.Declares(file, n, name.Text) || !m.moved && w.ours(&m, weight, left) {
			continue
		}
		if t, ok := w.topic(&m, weight); ok {
			if old, there := w.found[t.Name]; !there || t.Weight > old.Weight {
				w.found[t.Name] = t
			}
		}
	}
}

// place finds the package of a mention, and adds it to those of the line.
func (w *walk) place(m *mention, chain packages) {
	switch pkg := w.ctx.subject(m.Qualifier); { // the package itself, however it came into the file
	case pkg != "":
		m.pkg = pkg
	case m.imported:
	case m.member:
		var variable string
		if m.pkg, variable = chain.before(m.text, m.Column); m.pkg == "" && variable != "" {
			m.pkg = w.typed(m.file, m.line, variable)
		}
	case capital(m.Text):
		m.pkg = w.ctx.subject(m.Text)
	}
	end := m.Column + len(m.Text) - 1
	chain[end] = m.pkg
	if m.imported && m.Call && strings.HasPrefix(m.pkg, ".") { // what it returns is of what its file imports
		chain[end] = behind(w.tree, w.ctx, m.file, m.Name, m.pkg)
	}
	m.moved = m.pkg != "" && len(w.ctx.Subjects) > 0 && w.ctx.moved(m.pkg)
}

// ignored reports whether a mention tells nothing, whatever it is.
func (w *walk) ignored(m *mention, heading bool) bool {
	return !m.moved && unspecific(m.Text) || len(m.Text) < 3 && !(m.moved && m.Call) || heading && !m.Call ||
		m.pkg == "" && (builtin(m.Text) || languageTypes[m.Qualifier])
}

// variable reports whether a mention is a variable, or a field of the object at hand.
func (m *mention) variable() bool {
	return !m.imported && !m.Call && (!m.member && !capital(m.Text) || m.Qualifier == "this" || m.Qualifier == "self")
}

// ours reports whether a mention is something of the project's own, whose body is read
// instead, or the package or its main type itself, which says nothing.
func (w *walk) ours(m *mention, weight float64, left int) bool {
	if own := w.own(m.file, m.line, m.Name); own != nil {
		w.mine[m.Text] = true
		if m.Call && !own.Type {
			if left == depth && own.File != m.file && !statement(m.text, m.Name) {
				w.direct[own.File+":"+own.Name] = true
			}
			w.body(*own, weight*deeper, left-1)
		}
		if !w.ctx.Names[m.Text] || own.Type || !m.member || m.imported || capital(m.Qualifier) {
			return true
		} // else it may be asked of a value of the package's
	}
	return capital(m.Text) && w.ctx.subject(m.Text) != ""
}

// topic is a mention as a topic; ok is false where it is on the way to something, or of a
// package that did not move.
func (w *walk) topic(m *mention, weight float64) (t topic, ok bool) {
	t = topic{Name: m.Text, Package: m.pkg, Known: m.moved || w.ctx.Names[m.Text] || m.pkg == "" && len(w.ctx.Subjects) == 0, Weight: weight}
	if m.exported != "" && m.exported != "default" {
		t.Name = m.exported
	}
	if s := w.ctx.prefixed(t.Name); t.Package == "" && s != "" { // jar_open of a C library named jar
		t.Package, t.Known = s, true
	}
	property := !m.Call && !t.Known && continued(m.text, m.Name)
	if property || !m.moved && t.Package != "" && !w.ctx.moved(t.Package) {
		return t, false
	}
	switch in := nested(m.text, m.Name); { // what is made for a call is not what is called
	case in && m.Call && m.imported:
		t.Weight *= nestedCall
	case in:
		t.Weight *= nestedName
	}
	if continued(m.text, m.Name) {
		t.Weight *= onTheWay
	}
	switch {
	case m.Call:
	case m.member:
		t.Weight *= aMember
	default:
		t.Weight *= aType
	}
	if !t.Known {
		t.Weight *= unheardOf
	}
	return t, true
}

// statement reports whether a line is nothing but a call, of which it uses no result:
// it sets something up.
func statement(text string, call source.Name) bool {
	rest := strings.TrimRight(text, "; ")
	at := call.Column - 1 + len(call.Text)
	return strings.HasSuffix(rest, ")") && opening(rest, len(rest)-1) == at && strings.Trim(text[:call.Column-1], " \t.:&abcdefghijklmnopqrstuvwxyzABCDEFGHIJKLMNOPQRSTUVWXYZ_0123456789") == ""
}

// field reads the line on which a field that a line uses was given its value.
func (w *walk) field(file string, n int, name string, weight float64, left int) {
	at := w.tree.Field(file, name)
	key := file + "\x00" + strconv.Itoa(at)
	if at == 0 || at == n || left < 0 || w.within[key] || w.tree.Made(file, n, name) > 0 {
		return
	}
	w.within[key] = true
	w.lines = append(w.lines, w.tree.Line(file, at))
	w.line(file, at, weight, left, false)
}

// packages holds, by the index at which a name on a line ends, its package.
type packages map[int]string

// before is the package of what the member at a column is asked of: the name
// in front of it, or the call whose arguments end there. Where it is a name
// whose package is not known, that is returned: it may be a variable.
func (p packages) before(text string, column int) (pkg, variable string) {
	i := column - 1
	for i > 0 && strings.IndexByte(".:->?!", text[i-1]) >= 0 {
		i--
	}
	call := false
	for i > 0 && (text[i-1] == ')' || text[i-1] == ']') {
		open := opening(text, i-1)
		if open < 0 {
			return "", ""
		}
		if pkg := p[open]; pkg != "" || open == 0 || !wordByte(text[open-1]) && text[open-1] != ')' {
			for at := i - 1; pkg == "" && at > open; at-- { // (new Jar()).open(): what is in the brackets
				pkg = p[at]
			}
			return pkg, ""
		}
		i, call = open, true
	}
	from := i
	for from > 0 && wordByte(text[from-1]) {
		from--
	}
	if call {
		return p[i], ""
	}
	return p[i], text[from:i]
}

// typed is the package of the type that a variable is declared with: where it
// was made, or among the parameters (Jar j, j: Jar, j *jar.Jar).
func (w *walk) typed(file string, n int, variable string) string {
	if len(variable) == 0 || variable == "this" || variable == "self" {
		return ""
	}
	lines := []int{}
	if made := w.tree.Made(file, n, variable); made > 0 && made != n {
		lines = append(lines, made)
	}
	if d := w.tree.Enclosing(file, n); d != nil {
		lines = append(lines, d.From)
	}
	for _, line := range lines {
		text := w.tree.Line(file, line)
		uses := w.tree.Uses(file, line)
		for _, u := range uses {
			from, end := u.Column-1, u.Column-1+len(u.Name)
			if end > len(text) || !w.ctx.moved(u.Package) {
				continue
			}
			after, before := strings.TrimLeft(text[end:], "<>[]&* "), strings.TrimRight(text[:from], "&*.:=[]< ")
			if i := strings.LastIndexByte(before, '.'); i > 0 { // jar.Jar
				before = strings.TrimRight(before[:i], "&*.:=[]< ")
			}
			for wordByte(lastByte(before)) && !strings.HasSuffix(before, variable) && strings.ContainsAny(before, " ") {
				before = strings.TrimRight(before[:strings.LastIndexByte(before, ' ')], "&*.:=[]< ")
			}
			if strings.HasPrefix(after, variable) || strings.HasSuffix(before, variable) || strings.HasSuffix(before, "$"+variable) {
				return u.Package
			}
		}
	}
	return ""
}

// own finds the project's own declaration of a name, if it is clear which one
// is meant: the one of the type that it is asked of, the one in the same file,
// or the only one. What stands at the line itself is not meant.
func (w *walk) own(file string, n int, name source.Name) *source.Declaration {
	list := w.tree.Declared(name.Text)
	var best, here *source.Declaration
	for i := range list {
		d := &list[i]
		switch {
		case d.Test || d.File == file && d.From <= n && n <= d.End && !d.Type:
		case name.Qualifier != "" && w.declares(d.File, name.Qualifier):
			return d
		case d.File == file && here == nil:
			here = d
		case best == nil:
			best = d
		}
	}
	if here != nil {
		return here
	}
	return best
}

// declares reports whether a file declares a type.
func (w *walk) declares(file, name string) bool {
	for _, d := range w.tree.Declared(name) {
		if d.Type && d.File == file {
			return true
		}
	}
	return false
}

// made reads the lines that made the variables on a line.
func (w *walk) made(file string, n int, weight float64) {
	for _, name := range source.Names(w.tree.Line(file, n)) {
		if name.Call || name.Qualifier != "" || capital(name.Text) {
			continue
		}
		if made := w.tree.Made(file, n, name.Text); made > 0 && made != n {
			w.line(file, made, weight, depth, false)
		}
	}
}

// topics gathers what a failed test or a crash is about: names on the line of
// the innermost own frame, then those on the line that failed, then those in
// the rest of the test.
func (e *Evidence) topics(ctx *Context) {
	s := e.Symptom
	file, line := s.File, s.Line
	if line == 0 && s.Test != "" {
		if f, n := e.tree.Quoted(s.Test); n > 0 {
			file, line = f, n
		}
	}
	w := newWalk(e.tree, ctx)
	weight := 1.0
	for _, f := range s.Frames {
		if f.Own && f.Line > 0 {
			w.line(f.File, f.Line, weight, depth, false)
			if weight == 1 {
				w.made(f.File, f.Line, madeBy)
			} else {
				w.lines = append(w.lines, e.tree.Line(f.File, f.Line))
			}
			weight *= madeBy
		}
	}
	if line > 0 {
		w.line(file, line, weight, depth, false)
		if e.Source == "" {
			e.Source = strings.TrimSpace(e.tree.Line(file, line))
		}
	}
	if d := e.tree.Enclosing(file, line); d != nil {
		e.at = *d
		w.body(*d, weight*restOfTest, depth)
	} else if from, end := e.tree.Function(file, s.Test); from > 0 {
		w.body(source.Declaration{File: file, Name: s.Test, From: from, End: end}, weight*restOfTest, depth)
	}
	e.asksFor(ctx)
	if h := e.handler; h != nil { // but not the line that registers it
		w.body(source.Declaration{File: h.file, Name: "handler " + strconv.Itoa(h.line), From: h.line + 1, End: h.end}, weight*restOfTest, 1)
	}
	e.reach, e.direct, e.ours, e.body = w.found, w.direct, w.mine, append(e.body, w.lines...)
}
