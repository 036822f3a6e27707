package read

import (
	"strings"

	"unicausa/internal/core/symptom"
)

// rows reads by shape what no reader knows the tool of, as a person would: a
// place, a word of severity, a rule's name, a sentence.
//
//	src/shelf.x:12:9: E501 the lid is stuck         a place leads the row
//	src/shelf.x                                     or it stands above the rows
//	  12:9  warning  the lid is loose  lid-rule
//	the lid is stuck at src/shelf.x line 12.        or behind the message
//	ERROR in ./src/shelf.x 12:9                     or the message stands below
//	  the lid is stuck
//	error: the lid is stuck                         or there is none
//	    --> src/shelf.x:12:9                        or it stands in the detail
//
// A row is certain where it has a place beside a severity or a rule, or a place
// in the form of the GNU Coding Standards, or where its path is a file of the
// tree. Others wait for a second of the same shape; what never comes to that is
// no symptom. A severity without a place is a guess, and said to be one.
type rows struct {
	open     *openRow
	heading  position // that rows without a path stand below
	headings int      // the line that was last searched for one
	shapes   map[string]*rowShape
	last     int  // the line of the last row
	trace    bool // frames of a stack stand above
}

// openRow is a row whose detail is being read.
type openRow struct {
	symptom.Symptom
	from, end, at int // lines of the input: of the row, its detail's last, its message
	indent        int
	lines         int
	blank         bool // the line before was
	wanting       bool // the message stands below
	placeless     bool
}

// rowShape is what is known of rows of one shape.
type rowShape struct {
	certain bool
	waiting []openRow
}

var rowMarks = append([]string{
	":1", ":2", ":3", ":4", ":5", ":6", ":7", ":8", ":9", ":0 ", "(1", "(2", "(3", "(4", "(5", "(6", "(7", "(8", "(9", "[1", "[2", "[3", "[4", "[5", "[6", "[7", "[8", "[9",
	"line ", "line: ", "^1", "^2", "^3", "^4", "^5", "^6", "^7", "^8", "^9", "✖", "✗", "✘", "❌", "⚠", "▲", "(!)", "[!]", "🚨", "⨯", "@ ", ": [", "[err", "[warn", "[crit", "[emerg", "[alert", "severity", "notice:", "not found", "no such", "unable to", "could not", "invalid ", "missing ", "unexpected ", " SC", "^L1", "^L2", "^L3", "^L4", "^L5", "^L6", "^L7", "^L8", "^L9", "^#", "^L:", "^^ ",
}, labels()...)

// labels are the forms in which words of alarm stand as labels, and the
// severities that begin a line.
func labels() (forms []string) {
	for w := range severityWords {
		forms = append(forms, "^"+w)
	}
	for _, w := range alarms {
		forms = append(forms, "^"+w, w+":", w+" :", w+"]", w+")", w+"[", w+"(", w+"-", w+"*", w+">", "["+w, "("+w, "| "+w, "- "+w, "> "+w, "*"+w, "# "+w, "; "+w, w+"  ", "  "+w, ": "+w, ":"+w+" ")
	}
	return forms
}

var rowsReader = stream{shape: true, name: "rows", basis: symptom.ByPlace, marks: rowMarks, how: aWord, open: func() lineReader { return &rows{shapes: map[string]*rowShape{}} }}

func (g *rows) line(l Line, out *sink) verdict {
	if len(l.Text) > 4000 {
		g.finish(out)
		return pass
	}
	r, ok := parseRow(l.Text)
	if g.open != nil {
		if v := g.detail(l, &r, ok, out); v != pass {
			return v
		}
		g.finish(out)
	}
	if ok && !g.trace && r.placed() && !r.tail && !r.labelled() && (r.message == "" && r.code == "" || r.indent == 0 && strings.TrimSpace(l.above(2)) == "") {
		if v := g.underneath(l, &r, out); v != pass {
			return v
		}
	}
	if !ok || r.stack || g.frame(l, &r) {
		return pass
	}
	sure := g.judge(l, &r)
	if sure == unsure {
		return pass
	}
	if r.placed() && ruleBelow(l, &r) {
		r.message, sure = "", certain
	}
	if len(out.result.Symptoms) > 0 && r.line == 0 && verdictOver(r.message) {
		return noise
	}
	o := openRow{Symptom: r.symptom(), from: l.Number, end: l.Number, at: l.Number, indent: r.indent, placeless: r.line == 0, wanting: r.message == ""}
	o.Basis = symptom.ByPlace
	if sure == guessed {
		o.Basis = symptom.ByGuess
	}
	if asserted, ok := strings.CutPrefix(l.above(1), "ASSERT:"); ok && o.Test != "" {
		o.Message, o.from, o.at, o.Basis = asserted, l.Number-1, l.Number-1, symptom.ByVerdict
	}
	if o.Level == "error" && o.Test == "" && (o.Kind == symptom.TestFailure || assertionCall(o.Message)) {
		o.Kind, o.Test, o.Phase, o.Tool = symptom.TestFailure, testAbove(l), symptom.PhaseTest, "tests"
	}
	g.last = l.Number
	if sure == waiting {
		return g.wait(&r, o, out)
	}
	if shape := g.shapes[r.shape]; shape != nil && !shape.certain {
		shape.certain = true
		g.flush(shape, out)
	} else if shape == nil && len(g.shapes) < 1000 {
		g.shapes[r.shape] = &rowShape{certain: true}
	}
	g.open = &o
	return more
}

// sureness is how a row is known.
type sureness uint8

const (
	unsure  sureness = iota // it is none
	waiting                 // one more of its shape is wanted
	guessed                 // a word of severity says so, and nothing else
	certain
)

// judge tells how sure it is that a row tells of trouble. A row without a path
// takes that of its heading.
func (g *rows) judge(l Line, r *row) sureness {
	words := r.message
	if processEnded(words) || strings.HasPrefix(words, "last checkpoint") || strings.HasPrefix(words, "...") || r.labelled() && (excerpt("  "+strings.TrimLeft(words, "> ")) || caret(words) || strings.EqualFold(words, "called from")) || pointedAt(l, r) {
		return unsure
	}
	if passing(words) || r.label.word != "" && r.label.level == "" {
		return unsure
	}
	hasWords := strings.IndexFunc(words, func(c rune) bool { return c >= 0x80 || isLetter(byte(c)) }) >= 0
	switch {
	case r.placed() && (r.labelled() || r.code != ""):
		if !hasWords {
			return g.wordsBelow(l, r, certain)
		}
		return certain
	case r.bare() && r.tail:
		switch {
		case r.labelled() && hasWords:
			return certain
		case r.column > 0 && hasWords:
			return waiting
		}
		return unsure
	case r.placed() && r.tail:
		if strings.Contains(r.form, "line") && r.form != "path:line" && hasWords || r.mark {
			return certain
		}
		return unsure
	case r.placed() && !hasWords:
		if excerpt(l.below(1)) && r.indent == 0 && !r.tail {
			return g.wordsBehind(l)
		}
		return g.wordsBelow(l, r, waiting)
	case r.placed() && r.indent == 0 && strings.HasPrefix(r.shape, r.form+":M") && sentence(words):
		return certain
	case r.placed() && r.indent == 0 && hasWords && !r.tail && strings.HasPrefix(r.shape, r.form+":M") && strings.HasPrefix(l.Text[r.length:], ":\t"):
		return waiting
	case r.placed() && (sentence(words) || strings.Contains(r.shape, "[C]")):
		return waiting
	case r.bare() && !r.tail:
		if !hasWords && (!r.labelled() || excerpt(l.Text)) {
			return unsure
		}
		if !g.below(l, r) {
			if r.labelled() && r.form == "line" { // the file is the only one
				return certain
			}
			return unsure
		}
		if !hasWords {
			return g.wordsBelow(l, r, certain)
		}
		if r.labelled() || r.code != "" {
			return certain
		}
		if sentence(words) && !excerpt(l.Text) && !strings.Contains(r.shape, "|M") {
			return waiting
		}
		return unsure
	case r.labelled() && quietLabels[r.label.word]:
		if r.code != "" && hasWords && g.headed(l) && g.below(l, r) && r.line > 0 {
			return certain
		}
		return unsure
	case r.labelled():
		if r.comment && r.unit == "" && r.code == "" || r.indent > 4 && r.code == "" || r.file == "" && r.label.word == "class" && !r.mark {
			return unsure
		}
		if g.headed(l) {
			g.below(l, r)
		}
		sure := guessed
		if r.file != "" || r.code != "" || r.line > 0 {
			sure = certain
		}
		if !hasWords {
			return g.wordsBelow(l, r, sure)
		}
		return sure
	case r.file != "" && r.code != "" && hasWords:
		return certain
	case r.file != "" && r.line == 0 && sentence(words):
		if kind, _ := plainKind("", words); kind == symptom.Error {
			return guessed
		}
	case r.caret && r.code != "" && r.label.word == "" && sentence(words):
		if p, ok := bareAt(strings.TrimSpace(l.above(1))); ok && g.below(l, r) { // L4 |excerpt
			r.line = p.line
			return certain
		}
		return unsure
	case r.code != "" && r.label.word == "" && sentence(words) && g.placeAhead(l, r):
		return certain
	case r.mark && r.bang && sentence(words):
		return guessed
	case r.mark && sentence(words) && r.label.level != "note" && (r.line > 0 || r.code != ""):
		return certain
	}
	return unsure
}

// frame reports whether a row is a frame of a stack, or stands in a list of
// them.
func (g *rows) frame(l Line, r *row) bool {
	text := strings.TrimSpace(l.Text)
	if stackHead(text) {
		g.trace = true
		return true
	}
	if stackLine(text) {
		return true
	}
	switch {
	case r.tail || r.line == 0:
		g.trace = false
		return false
	case strings.HasPrefix(r.message, "in `"), strings.HasPrefix(r.message, "in '"), strings.HasPrefix(r.message, "[0x"), strings.HasPrefix(r.message, "+0x"), strings.HasPrefix(r.message, "in function "), strings.HasPrefix(r.message, "in main chunk"), strings.HasPrefix(r.message, "in upvalue "), strings.HasPrefix(r.message, "in local "), strings.HasPrefix(r.message, "in method "), strings.HasPrefix(r.message, "in field "), strings.HasPrefix(r.message, "in <"), strings.HasPrefix(r.message, "required from"):
		g.trace = true
		return true
	}
	if _, ok := parseFrame(text); ok {
		if r.message == "" && (excerpt(l.below(1)) || !g.trace && r.indent > 0) { // a place that leads an excerpt, or stands below its message
			return false
		}
		g.trace = true
		return true
	}
	if g.trace && l.Number == g.last+1 {
		g.last = l.Number
		return true
	}
	g.trace = false
	return false
}

// headingWords may stand beside the path in a heading.
var headingWords = map[string]bool{"file": true, "checking": true, "linting": true, "line": true, "in": true, "fail": true, "failed": true, "warning": true, "warnings": true, "error": true, "errors": true, "problem": true, "problems": true, "issue": true, "issues": true, "found": true, "processing": true, "compiling": true, "analyzing": true, "analysing": true, "validating": true, "for": true, "results": true, "violations": true, "violation": true, "offenses": true, "offences": true, "messages": true, "and": true, "at": true, "while": true, "affecting": true, "lines": true, "of": true, "on": true, "path": true, "module": true, "messages:": true}

// wait keeps a row until another of its shape is seen.
func (g *rows) wait(r *row, o openRow, out *sink) verdict {
	shape := g.shapes[r.shape]
	if shape == nil {
		if len(g.shapes) >= 1000 {
			return pass
		}
		shape = &rowShape{}
		g.shapes[r.shape] = shape
	}
	if o.Basis = symptom.ByRepeat; out.known(o.File) {
		o.Basis = symptom.ByTree
	}
	if shape.certain || o.Basis == symptom.ByTree || len(shape.waiting) > 0 {
		shape.certain = true
		g.flush(shape, out)
		g.open = &o
		return more
	}
	shape.waiting = append(shape.waiting, o)
	out.result.Account.Symptom-- // until it is one
	out.result.Account.Plain++
	return took
}

// flush makes symptoms of the rows that waited.
func (g *rows) flush(shape *rowShape, out *sink) {
	for _, o := range shape.waiting {
		out.result.Account.Symptom++
		out.result.Account.Plain--
		out.add(o.Symptom, o.at, o.end)
	}
	shape.waiting = nil
}

func (o *openRow) placed() bool { return !o.placeless }

func (g *rows) finish(out *sink) {
	o := g.open
	g.open = nil
	if o == nil {
		return
	}
	if o.Message == "" {
		o.Message = strings.TrimSpace(before(o.Detail, "\n"))
	}
	if o.Message == "" {
		return
	}
	if o.File == "" {
		for _, f := range o.Frames {
			if f.Own && f.Line > 0 {
				o.File, o.Line = f.File, f.Line
				break
			}
		}
	}
	out.add(o.Symptom, o.at, max(o.at, o.end))
}

func (g *rows) wants() bool { return g.open != nil && g.open.wanting }

func (g *rows) interrupt(out *sink) { g.finish(out) }

func (g *rows) close(out *sink) { g.finish(out) }
