package cluster

import (
	"regexp"
	"slices"
	"strings"

	"unicausa/internal/core/source"
	"unicausa/internal/core/symptom"
)

// idle is what compilers and linters say of a name of the project's own that nothing
// uses: that is all it is about.
var idle = regexp.MustCompile(`(?i)^(?:[\w-]+: )?(?:declared and not used|unused (?:variable|parameter|local|function|method)|(?:variable|parameter|local variable|function) .{1,60} (?:is |was )?(?:never used|not used|unused|set but not used)|.{1,60} is (?:declared|defined|assigned a value) but (?:its value is )?never (?:used|read))`)

// What a name weighs by where it stands to the line and the column of a diagnostic. Set by
// hand: what counts is which is the greatest.
const (
	onLine          = 0.5  // anywhere on the line
	inMessage       = 0.75 // quoted in the message
	aroundIt        = 0.8  // a call whose arguments hold the column
	headOfType      = 0.8  // a type that the type at hand is made from
	ofLabel         = 0.85 // the label of what stands at the column
	whereMade       = 0.85 // on the line that made the variable there
	valueOf         = 0.88 // the call whose value that variable has
	underIt         = 0.9  // at the column
	endOfChain      = 0.95 // what the chain that begins there asks for last
	raisedUnheardOf = 0.6  // of these, where the name is neither of what moved nor in its notes
	besideIt        = 0.35 // as a fact, of a name that is not the one with the greatest weight
)

// placed takes what a diagnostic without a name of its own is about from the
// source line it points at, as a person would: the name under the caret, the
// call that holds it, the key in front of it, or what the variable under it
// was made from.
func (e *Evidence) placed(ctx *Context) {
	s := e.Symptom
	text := e.tree.Line(s.File, s.Line)
	if text == "" || e.Fact(FactMissing) != nil || e.Fact(FactModule) != nil || strings.Contains(s.Message, " is pointer to interface") || idle.MatchString(s.Message) {
		return // what else the line uses is not at fault
	}
	if s.Column > 0 && syntax.MatchString(s.Message) { // a word that became one of the language
		for _, n := range source.Names(text) {
			if n.Column <= s.Column && s.Column < n.Column+len(n.Text) {
				e.add(Fact{What: FactAbout, Name: n.Text, Weight: fair})
			}
		}
	}
	w := newWalk(e.tree, ctx)
	w.line(s.File, s.Line, onLine, 0, false)
	for _, f := range e.Facts {
		if f.What == FactQuoted && len(e.tree.Declared(f.Name)) == 0 {
			w.found[f.Name] = topic{Name: f.Name, Package: f.Package, Known: true, Weight: inMessage}
		}
	}
	if s.Column > 0 {
		e.under(w, text, s.Column)
	}
	e.bases(w)
	best := topic{}
	for _, t := range w.found {
		if t.Weight > best.Weight || t.Weight == best.Weight && t.Name < best.Name {
			best = t
		}
	}
	for _, t := range w.found {
		if t.Name != best.Name && t.Known && t.Weight == best.Weight {
			e.unsure = true
		}
	}
	e.about = best
	e.place = w.found
	if best.Name != "" {
		e.add(Fact{What: FactAbout, Name: best.Name, Package: best.Package, Weight: fair})
	}
	for _, t := range w.found {
		if t.Name != best.Name {
			e.add(Fact{What: FactLine, Name: t.Name, Package: t.Package, Weight: besideIt})
		}
	}
}

// syntax are wordings of compilers and interpreters for code that is none.
var syntax = regexp.MustCompile(`(?i)\bexpected (?:an? )?(?:identifier|name|expression|declaration|type name)\b|\bunexpected (?:token|identifier|keyword|symbol)\b|\bsyntax error\b|\binvalid syntax\b|\breserved (?:word|keyword|identifier)\b`)

// under raises the weight of what a column stands on, in or behind.
func (e *Evidence) under(w *walk, text string, column int) {
	raise := func(name string, weight float64) {
		if t, ok := w.found[name]; ok && t.Weight < weight {
			if !t.Known {
				weight *= raisedUnheardOf
			}
			t.Weight = weight
			w.found[name] = t
		}
	}
	names := source.Names(text)
	if c := min(column-1, len(text)-1); strings.IndexByte(">)]", text[c]) >= 0 { // the end of what stands in brackets
		if open := opening(text, c); open > 0 {
			column = open
		}
	}
	if c := min(column-1, len(text)-1); strings.IndexByte("<>=!+-*/%&|", text[c]) >= 0 { // an operator: what stands left of it
		left := strings.TrimRight(text[:c], " ")
		if open := len(left) - 1; strings.HasSuffix(left, ")") {
			if open = opening(left, open); open > 0 {
				column = open
			}
		} else if left != "" {
			column = len(left)
		}
	}
	at := -1
	for i, n := range names {
		if n.Column <= column && column <= n.Column+len(n.Text) {
			at = i
		}
		if n.Call && source.Holds(text, n.Column+len(n.Text), column) {
			raise(n.Text, aroundIt)
		}
	}
	if key := labelled.FindStringSubmatch(text[:min(column-1, len(text))]); key != nil {
		if t, ok := w.found[key[1]]; !ok || t.Weight < ofLabel {
			if w.ctx.Names[key[1]] {
				w.found[key[1]] = topic{Name: key[1], Known: true, Weight: ofLabel}
			}
		}
	}
	if at < 0 {
		return
	}
	// From the name on, a chain is read to what it asks for last.
	last := at
	for i := at + 1; i < len(names) && isMember(text, names[i].Column) && names[i].Column-names[i-1].Column-len(names[i-1].Text) <= 3; i++ {
		last = i
	}
	raise(names[at].Text, underIt)
	if !slices.ContainsFunc(e.Symptom.Refs, func(r symptom.Ref) bool { return r.Name == names[at].Text }) && !strings.Contains(e.Symptom.Message, "'"+names[at].Text+"'") {
		raise(names[last].Text, endOfChain) // unless the message is about the name itself
	}
	first := at
	for first > 0 && isMember(text, names[first].Column) {
		first--
	}
	if n := e.tree.Made(e.Symptom.File, e.Symptom.Line, names[first].Text); n > 0 && (first == at || e.Fact(FactMissing) == nil) {
		e.made = n
		made := newWalk(e.tree, w.ctx)
		made.line(e.Symptom.File, n, whereMade, 0, false)
		if name := lastCalled(e.tree.Line(e.Symptom.File, n)); made.found[name].Known { // whose value the variable has
			t := made.found[name]
			t.Weight = valueOf
			made.found[name] = t
		}
		for name, t := range made.found {
			if old, ok := w.found[name]; !ok || old.Weight < t.Weight {
				w.found[name] = t
			}
		}
	}
}

// lastCalled is what a line calls last, outside of other calls' arguments, or "".
func lastCalled(text string) string {
	last := ""
	for _, n := range source.Names(text) {
		if n.Call && !nested(text, n) {
			last = n.Text
		}
	}
	return last
}

// opening is the index of the bracket that one at an index closes, or -1.
func opening(text string, at int) int {
	pairs := map[byte]byte{'>': '<', ')': '(', ']': '['}
	shut := text[at]
	depth := 0
	for i := at; i >= 0; i-- {
		switch text[i] {
		case shut:
			depth++
		case pairs[shut]:
			if depth--; depth == 0 {
				return i
			}
		}
	}
	return -1
}

// labelled is the key or the named argument that a value belongs to.
var labelled = regexp.MustCompile(`([A-Za-z_]\w*)\s*(?::|=>|=)\s*[^,;(){}:=]*$`)

// bases takes the types that an own type, named in the message or on the line,
// is made from: a complaint about it is often one about them.
func (e *Evidence) bases(w *walk) {
	for _, quoted := range typeNames.FindAllString(e.Symptom.Message, 8) {
		for _, part := range strings.FieldsFunc(quoted, func(r rune) bool { return r == '.' || r == ':' }) {
			for _, d := range e.tree.Declared(part) {
				if !d.Type {
					continue
				}
				head := newWalk(e.tree, w.ctx)
				head.line(d.File, d.From, headOfType, 0, false)
				for name, t := range head.found {
					if old, ok := w.found[name]; name != part && (!ok || old.Weight < t.Weight) {
						w.found[name] = t
					}
				}
			}
		}
	}
}

// askedOf finds what returned the value that lacks a name, or is no value at all:
// in deck.vehicles().len() a missing len is about vehicles, unless the notes know
// len, or its type is one of the package's own.
func (e *Evidence) askedOf(ctx *Context) {
	f := e.Fact(FactMissing)
	if f == nil {
		if m := nothing.FindStringSubmatch(e.Symptom.Message); m != nil {
			e.asked = e.askedBefore(m[1], ctx)
			e.add(Fact{What: FactAbout, Name: e.asked.Name, Package: e.asked.Package, Owner: e.asked.Owner, Weight: strong})
		}
		return
	}
	if ctx.Names[f.Name] && !builtinTypes[strings.ToLower(f.Owner)] || ctx.moved(f.Package) && f.Package != "" && len(ctx.Subjects) > 0 || ctx.Names[lastWord(f.Owner)] {
		return
	}
	e.asked = e.askedBefore(f.Name, ctx)
}

// nothing is what runtimes say of a name that is asked of no value.
var nothing = regexp.MustCompile(`(?i)(?:undefined|null)\b.{0,20}\(reading '(\w+)'\)`)

// askedBefore is the nearest name before another in its chain that the notes know.
func (e *Evidence) askedBefore(name string, ctx *Context) topic {
	file, line := e.Symptom.File, e.Symptom.Line
	text := e.tree.Line(file, line)
	names := source.Names(text)
	w := newWalk(e.tree, ctx)
	w.line(file, line, 1, 0, false)
	for i, n := range names {
		if n.Text != name || i == 0 || !isMember(text, n.Column) {
			continue
		}
		before := i - 1
		if strings.HasPrefix(text[names[before].Column-1+len(names[before].Text):n.Column-1], "(") { // its last argument may stand between
			for j := i - 1; j >= 0; j-- {
				if names[j].Call && source.Holds(text, names[j].Column+len(names[j].Text), names[i-1].Column) {
					before = j
					break
				}
			}
		}
		for ; before >= 0; before-- {
			n := names[before]
			if t, ok := w.found[n.Text]; ok && t.Known && (isMember(text, n.Column) || n.Call) {
				if before > 0 && isMember(text, n.Column) {
					t.Owner = n.Qualifier
				}
				return t
			}
			if !isMember(text, n.Column) {
				break
			}
		}
		break
	}
	return topic{}
}
