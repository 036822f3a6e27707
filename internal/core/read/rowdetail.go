package read

import (
	"strings"

	"unicausa/internal/core/symptom"
)

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
	if ok && !r.stack && !excerpt(l.Text) && o.lines > 0 && r.labelled() && r.label.word != "class" && indent <= o.indent {
		return pass
	}
	belongs := false
	switch {
	case o.lines > 200:
	case ok && r.bare() && r.labelled() && strings.HasPrefix(r.form, "n") && g.heading.file != "": // a row of a table
	case excerpt(l.Text), caret(l.Text), caret(l.below(1)) && !ok, strings.HasPrefix(text, "│"), strings.HasPrefix(text, "╵"), strings.HasPrefix(text, "╷"), strings.HasPrefix(text, "-->"), strings.HasPrefix(text, "╭"), strings.HasPrefix(text, "╰"), strings.HasPrefix(text, "|"):
		belongs = true
	case o.Kind == symptom.TestFailure && !o.blank && !ok:
		belongs = true
	case o.placeless && o.Code != "" && (!ok || quietLabels[r.label.word]) && excerptAhead(l):
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

// excerptAhead reports whether the excerpt that a headline is about stands below
// a line, behind what else is said of it.
func excerptAhead(l Line) bool {
	for n := 0; n <= 8; n++ {
		text := l.below(n)
		if r, ok := parseRow(text); ok && r.labelled() && !quietLabels[r.label.word] {
			return false
		}
		if excerpt(text) || boxed(text) {
			return true
		}
	}
	return false
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
		o.File, o.Line, o.Column, o.placeless, o.Basis = p.file, p.line, p.column, false, symptom.ByPlace
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
