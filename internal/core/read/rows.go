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
	guess         bool
}

// rowShape is what is known of rows of one shape.
type rowShape struct {
	certain bool
	waiting []openRow
}

// mostWaiting bounds the rows of one shape that wait for another.
const mostWaiting = 50

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
		forms = append(forms, "^"+w, w+":", w+" :", w+"]", w+")", w+"[", w+"(", w+"-", w+"*", w+">", "["+w, "("+w, "| "+w, "- "+w, "> "+w, "*"+w, "# "+w, "; "+w, w+"  ", "  "+w, ": "+w)
	}
	return forms
}

func init() {
	registerStream(stream{order: 1000, name: "rows", marks: rowMarks, open: func() lineReader { return &rows{shapes: map[string]*rowShape{}} }})
}

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
	if len(out.result.Symptoms) > 0 && r.line == 0 && verdictOver(r.message) {
		return noise
	}
	o := openRow{Symptom: r.symptom(), from: l.Number, end: l.Number, at: l.Number, indent: r.indent, placeless: r.line == 0, wanting: r.message == "", guess: sure == guessed}
	o.Guess = o.guess
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
	if processEnded(words) || strings.HasPrefix(words, "last checkpoint: ") || strings.HasPrefix(words, "...") || r.labelled() && (excerpt("  "+strings.TrimLeft(words, "> ")) || caret(words) || strings.EqualFold(words, "called from")) || pointedAt(l, r) {
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

// placeAhead reports whether a headline of a rule and a message leads a block
// that names its place.
func (g *rows) placeAhead(l Line, r *row) bool {
	for n := 1; n <= 8; n++ {
		text := l.below(n)
		trimmed := strings.TrimSpace(text)
		if trimmed == "" && n > 1 || trimmed != "" && text[0] != ' ' && text[0] != '\t' && n == 1 {
			return false
		}
		if _, ok := placeOfDetail(trimmed); ok {
			return true
		}
	}
	return false
}

// placeOfDetail is the place that a line of a block gives, by itself or behind
// a word that says so.
func placeOfDetail(text string) (p position, ok bool) {
	var r row
	s := r.lead(text)
	for _, lead := range []string{"Location: ", "location: ", "File: ", "file: ", "at ", "in ", "@ "} {
		s = strings.TrimPrefix(s, lead)
	}
	s = strings.TrimPrefix(s, "./")
	if p, ok = positionAt(s); !ok || p.length < len(s) && strings.IndexByte(":,; )", s[p.length]) < 0 {
		return p, false
	}
	return p, true
}

// underneath takes a line that is nothing but a place, set under its message:
// the line above it, which nobody has claimed.
func (g *rows) underneath(l Line, r *row, out *sink) verdict {
	up := 1
	if strings.TrimSpace(l.above(1)) == "" && excerpt(l.below(1)) {
		up = 2
	}
	above := l.above(up)
	flush := len(l.Text) == len(strings.TrimLeft(l.Text, " \t"))
	if out.claimed >= l.Number-up || !sentence(above) || excerpt(above) {
		return pass
	}
	head, ok := parseRow(above)
	if flush && (!ok || head.code == "" || strings.TrimSpace(l.above(2)) != "") {
		return pass
	}
	if !ok {
		head = row{message: strings.TrimSpace(above), indent: len(above) - len(strings.TrimLeft(above, " \t"))}
	}
	if head.line > 0 || head.stack || passing(head.message) || head.code == "" && !head.labelled() && !strings.Contains(l.Text, "-->") && !excerpt(l.below(1)) && !boxed(l.Text) {
		return pass
	}
	head.message = strings.TrimPrefix(strings.TrimPrefix(head.message, "x "), "! ")
	if code, n := codeAt(head.message); n > 0 && head.code == "" {
		head.code, head.message = code, head.message[n:]
	}
	if strings.HasPrefix(strings.TrimSpace(above), "! ") {
		head.label.severity = severityWords["warning"]
	}
	head.position = r.position
	s := head.symptom()
	g.open = &openRow{Symptom: s, from: l.Number - up, end: l.Number, at: l.Number - up, indent: head.indent}
	return more
}

// boxed reports whether a line draws the corner of a box around an excerpt.
func boxed(text string) bool {
	t := strings.TrimSpace(text)
	return strings.HasPrefix(t, ",-[") || strings.HasPrefix(t, "╭─") || strings.HasPrefix(t, "┌─")
}

// wordsBelow is the given sureness where the next line has the message.
func (g *rows) wordsBelow(l Line, r *row, sure sureness) sureness {
	for n := 1; n <= 2; n++ {
		below := l.below(n)
		text := strings.TrimSpace(below)
		if text == "" && n == 1 && (r.labelled() || r.code != "") {
			continue
		}
		next, ok := parseRow(below)
		again := ok && next.labelled() && next.label.word == r.label.word && next.line == 0 && next.message != ""
		if sentence(text) && !excerpt(below) && (!ok || !next.placed() && !next.labelled() || again) && (len(below) > len(text)+r.indent || r.label.strong) {
			return sure
		}
		break
	}
	return unsure
}

// pointedAt reports whether a row only shows the source line that the next row,
// of the same place, points into.
func pointedAt(l Line, r *row) bool {
	if !r.placed() || r.labelled() || r.code != "" || r.tail {
		return false
	}
	i := strings.Index(l.Text, r.message)
	below := l.below(1)
	return i > 0 && i < len(below) && below[:i] == l.Text[:i] && strings.HasPrefix(strings.TrimLeft(below[i:], " \t"), "^")
}

// processEnded reports whether a shell says how a process ended: its number,
// and the signal's name.
func processEnded(words string) bool {
	_, n := leadingNumber(words)
	rest := strings.TrimLeft(words[n:], " ")
	return n > 0 && (strings.HasPrefix(rest, "Aborted") || strings.HasPrefix(rest, "Segmentation fault") || strings.HasPrefix(rest, "Killed") || strings.HasPrefix(rest, "Terminated") || strings.HasPrefix(rest, "Bus error") || strings.HasPrefix(rest, "Illegal instruction"))
}

// wordsBehind reports that a place leads an excerpt whose message stands behind it.
func (g *rows) wordsBehind(l Line) sureness {
	for n := 1; n <= 12; n++ {
		text := l.below(n)
		trimmed := strings.TrimSpace(text)
		if trimmed == "" || excerpt(text) || caret(text) || strings.HasPrefix(trimmed, ">") || strings.Trim(trimmed, "-^") == "" {
			continue
		}
		if _, ok := parseRow(text); !ok && sentence(trimmed) {
			return certain
		}
		return unsure
	}
	return unsure
}

// passing reports whether the words say that all is well.
func passing(words string) bool {
	first := strings.Trim(firstWord(words), ".:,!")
	if len(strings.Fields(words)) > 3 {
		first = ""
	}
	switch strings.ToLower(first) {
	case "ok", "pass", "passed", "passes", "success", "successful", "succeeded", "skipped", "ignored":
		return true
	}
	return strings.HasPrefix(words, "✓") || strings.HasPrefix(words, "✔") || strings.HasPrefix(words, "0 ")
}

// sentence reports whether text reads like a message: two words of letters at
// least.
func sentence(text string) bool {
	words := 0
	for field := range strings.FieldsSeq(text) {
		letters := 0
		for i := range len(field) {
			if isLetter(field[i]) || field[i] >= 0x80 {
				letters++
			}
		}
		if letters > 1 && 2*letters > len(field) || letters > 3 {
			if words++; words > 1 {
				return true
			}
		}
	}
	return false
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
		if r.message == "" && (excerpt(l.below(1)) || g.trace == false && r.indent > 0) { // a place that leads an excerpt, or stands below its message
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

// stackHead reports whether a line leads to the frames of a stack.
func stackHead(text string) bool {
	text = strings.TrimLeft(text, "#;/* ")
	if text == "" || strings.IndexByte("bsctBSCTeE", text[0]) < 0 {
		return false
	}
	lower := strings.ToLower(text[:min(len(text), 40)])
	for _, words := range []string{"backtrace", "stack trace", "stack backtrace", "stacktrace", "traceback", "stack traceback", "callstack", "call stack", "call trace", "error termination. backtrace"} {
		if strings.HasPrefix(lower, words) {
			return true
		}
	}
	return false
}

// stackLine reports whether a line is a frame by the words that begin it.
func stackLine(text string) bool {
	for _, words := range []string{"in function ", "in call from ", "called from ", "Called from ", "Raised at ", "Raised by ", "Re-raised at ", "called at ", "from ", "by ", "called as "} {
		if strings.HasPrefix(text, words) {
			return true
		}
	}
	rest := strings.TrimPrefix(text, "#")
	_, n := leadingNumber(rest)
	if n == 0 {
		return false
	}
	after := strings.TrimLeft(rest[n:], " ")
	return len(rest) < len(text) && strings.HasPrefix(after, "0x") || strings.HasPrefix(rest[n:], ": (") || strings.HasPrefix(rest[n:], ": 0x")
}

// below gives a row without a path the one of the heading above it.
func (g *rows) below(l Line, r *row) bool {
	if g.headings == 0 || l.Number-g.headings > 200 {
		g.heading = position{}
	}
	other := 0 // lines that are neither heading, row nor detail
	if r.labelled() && r.code != "" {
		other = -2 // an excerpt may stand between
	}
	for n := 1; n <= 200 && l.Number-n > g.headings; n++ {
		text := l.above(n)
		if h, ok := headingOf(text); ok {
			g.heading = h
			break
		}
		if text != "" && text[0] != ' ' && text[0] != '\t' && !(text[0] == ';' && r.labelled()) && !isDigit(text[0]) && !onlyCounts(text) && strings.Trim(text, "-=─━═+|") != "" {
			if row, ok := parseRow(text); !ok || !row.bare() {
				if other++; other > 0 {
					g.heading = position{}
					break
				}
			}
		}
	}
	g.headings = l.Number
	if g.heading.file == "" {
		return false
	}
	r.file = g.heading.file
	if r.line == 0 {
		r.line = g.heading.line
	}
	return true
}

// onlyCounts reports whether a line tells no more than how much was found:
// "FOUND 2 ERRORS AFFECTING 1 LINE".
func onlyCounts(text string) bool {
	for field := range strings.FieldsSeq(text) {
		bare := strings.Trim(field, "():,.;-")
		if _, n := leadingNumber(bare); n < len(bare) && !headingWords[strings.ToLower(bare)] {
			return false
		}
	}
	return true
}

// headed reports whether the lines right above lead with a word that says which
// file is meant: "; file: path", "In path line 3:".
func (g *rows) headed(l Line) bool {
	for n := 1; n <= 8; n++ {
		text := strings.TrimLeft(l.above(n), ";#|/ ")
		if strings.TrimSpace(l.above(n)) == "" {
			return false
		}
		if strings.HasPrefix(text, "file: ") || strings.HasPrefix(text, "File: ") || strings.HasPrefix(text, "In ") {
			if _, ok := headingOf(text); ok {
				return true
			}
		}
	}
	return false
}

// headingWords may stand beside the path in a heading.
var headingWords = map[string]bool{"file": true, "checking": true, "linting": true, "line": true, "in": true, "fail": true, "failed": true, "warning": true, "warnings": true, "error": true, "errors": true, "problem": true, "problems": true, "issue": true, "issues": true, "found": true, "processing": true, "compiling": true, "analyzing": true, "analysing": true, "validating": true, "for": true, "results": true, "violations": true, "violation": true, "offenses": true, "offences": true, "messages": true, "and": true, "at": true, "while": true, "affecting": true, "lines": true, "of": true, "on": true, "path": true, "module": true, "messages:": true}

// headingOf reads a line that names the file which the rows below it are of:
// nothing but a path, or a path among words that say so.
func headingOf(text string) (p position, ok bool) {
	s := strings.TrimSpace(text)
	if len(s) < 3 || len(s) > 300 || s[0] == '|' {
		return p, false
	}
	for field := range strings.FieldsSeq(s) {
		bare := strings.Trim(field, "[](){}<>*=:;,-─━═•·|#\"'`>❯●▶»✖⚠")
		if bare == "" {
			continue
		}
		if p.file == "" {
			at := strings.Index(s, bare)
			if q, is := positionAt(s[at:]); is {
				p = q
				continue
			}
			if pathLike(bare) {
				p.file = bare
				continue
			}
		}
		if _, n := leadingNumber(bare); n == len(bare) || headingWords[strings.ToLower(bare)] {
			continue
		}
		return position{}, false
	}
	return p, p.file != ""
}

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
	if shape.certain || out.known(o.File) {
		shape.certain = true
		g.flush(shape, out)
		g.open = &o
		return more
	}
	if len(shape.waiting) > 0 {
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

// detail takes a line that belongs to the open row.
func (g *rows) detail(l Line, r *row, ok bool, out *sink) verdict {
	o := g.open
	text := strings.TrimSpace(l.Text)
	indent := max(r.indent, len(l.Text)-len(strings.TrimLeft(l.Text, " \t")))
	if text == "" || text == ";" || text == "#" || text == "|" {
		if o.blank || o.lines > 60 {
			return pass
		}
		o.blank = true
		return more
	}
	if o.wanting && (excerpt(l.Text) || caret(l.Text) || strings.HasPrefix(text, ">") || strings.Trim(text, "-^") == "") {
		o.end = l.Number
		return more
	}
	if o.wanting && (!ok || !r.placed() || r.stack) && !(ok && r.labelled() && r.label.level != "" && o.Level != r.label.level && r.message != "") {
		o.wanting = false
		var said row
		o.Message, o.at, o.end = said.lead(strings.TrimLeft(strings.TrimPrefix(text, "! "), ";#|> ")), l.Number, l.Number
		if said.mark && o.Kind == symptom.Lint && said.label.level == "error" {
			o.Level = "error"
		}
		if ok && r.labelled() && r.message != "" {
			o.Message = r.message
		}
		o.blank = false
		g.rejudge()
		return more
	}
	if o.File == "" && o.lines == 0 && !o.blank && pathLike(text) && indent == o.indent { // nothing but the file
		o.File, o.end = text, l.Number
		o.lines++
		return more
	}
	if stackHead(text) && !o.blank && o.Level == "error" && indent == o.indent {
		o.Kind, o.Phase = symptom.Crash, symptom.PhaseRun
		o.end = l.Number
		o.lines++
		return more
	}
	if ok && r.labelled() && r.label.word != "class" && o.Level == r.label.level && (r.line == 0 || strings.Contains(r.message, "|")) && (excerpt("  "+strings.TrimLeft(r.message, "> ")) || excerpt("  "+strings.TrimLeft(text[strings.IndexByte(text, ']')+1:], "> ")) || caret(r.message)) {
		o.end = l.Number
		return more
	}
	if ok && r.stack == false && !excerpt(l.Text) && o.lines > 0 && r.labelled() && r.label.word != "class" && indent <= o.indent {
		return pass
	}
	belongs := false
	switch {
	case o.lines > 200:
	case ok && r.bare() && r.labelled() && strings.HasPrefix(r.form, "n") && g.heading.file != "": // a row of a table
	case excerpt(l.Text), caret(l.Text), caret(l.below(1)) && !ok, strings.HasPrefix(text, "│"), strings.HasPrefix(text, "╵"), strings.HasPrefix(text, "╷"), strings.HasPrefix(text, "-->"), strings.HasPrefix(text, "╭"), strings.HasPrefix(text, "╰"), strings.HasPrefix(text, "|"):
		belongs = true
	case o.blank && indent <= o.indent:
	case ok && r.placed() && !r.labelled() && r.code == "" && indent > o.indent && o.placed():
		belongs = true // where else it has to do with
	case ok && (r.placed() || r.bare() && g.heading.file != "") && !r.stack && (o.placed() || r.labelled() || r.code != "") && !(indent > o.indent && r.message == ""):
	case ok && r.labelled() && (indent <= o.indent+1 || r.code != ""):
	case verdictLine(text):
	case indent > o.indent:
		belongs = true
	case r.label.word == "note" || r.label.word == "help" || strings.HasPrefix(text, "hint: "):
		belongs = true
	}
	if !belongs {
		return pass
	}
	o.blank = false
	o.lines++
	o.end = l.Number
	if o.placeless && o.lines < 12 {
		g.placeBelow(o, text, r, ok)
	}
	if cell, is := wrapped(l.Text); is && o.lines < 6 && o.Detail == "" {
		o.Message += " " + cell
		return more
	}
	if sev, is := strings.CutPrefix(text, "Severity: "); is && o.Kind == symptom.Lint {
		switch strings.ToLower(firstWord(sev)) {
		case "high", "error", "critical":
			o.Level = "error"
		case "low", "info":
			o.Level = "note"
		}
	}
	if open := strings.LastIndexByte(text, '('); o.Code == "" && o.placed() && open > 0 && text[len(text)-1] == ')' && text[open-1] == ' ' { // the rule, behind a message that goes on
		if code, is := ruleName(text[open+1:len(text)-1], false); is {
			o.Code = code
		}
	}
	if f, is := parseFrame(text); is && len(o.Frames) < 100 {
		o.Frames = append(o.Frames, f)
	}
	addDetail(&o.Symptom, text)
	return more
}

// wrapped is the text of a table's cell that goes on from the row above: its
// other columns are empty.
func wrapped(text string) (cell string, ok bool) {
	s := strings.TrimLeft(text, " ")
	bars := 0
	for strings.HasPrefix(s, "|") || strings.HasPrefix(s, "│") {
		s = strings.TrimLeft(strings.TrimPrefix(strings.TrimPrefix(s, "|"), "│"), " ")
		bars++
	}
	return s, bars > 1 && s != ""
}

func (o *openRow) placed() bool { return !o.placeless }

// rejudge completes what depends on the message.
func (g *rows) rejudge() {
	o := g.open
	if n := len(o.Message); n > 3 && o.Code == "" && o.Message[n-1] == ']' {
		if i := strings.LastIndex(o.Message, " ["); i > 0 {
			if code, ok := ruleName(o.Message[i+2:n-1], true); ok {
				o.Message, o.Code = o.Message[:i], code
			}
		}
	}
	if n := numberedCode(o.Message); n > 0 && o.Code == "" && strings.HasPrefix(o.Message[n:], ": ") {
		o.Code, o.Message = o.Message[:n], o.Message[n+2:]
	}
	if o.Level != "error" && deprecates(o.Message) {
		o.Kind = symptom.Deprecation
	}
}

// placeBelow takes the place out of a line of the detail.
func (g *rows) placeBelow(o *openRow, text string, r *row, ok bool) {
	p := r.position
	if !ok || !r.placed() || r.tail {
		var is bool
		if p, is = placeOfDetail(text); !is {
			return
		}
	}
	if (o.File == "" || o.Line == 0) && own(p.file) {
		o.File, o.Line, o.Column, o.placeless = p.file, p.line, p.column, false
		o.Phase = symptom.PhaseCompile
	}
}

// verdictLine reports whether a line is a test's or a total's, and no detail.
func verdictLine(text string) bool {
	for _, mark := range []string{"✓ ", "✔ ", "✗ ", "✘ ", "✖ ", "✕ ", "× ", "ok ", "not ok ", "PASS", "FAIL", "[ ", "--- ", "=== "} {
		if strings.HasPrefix(text, mark) {
			return true
		}
	}
	return false
}

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
