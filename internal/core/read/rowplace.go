package read

import (
	"slices"
	"strings"
)

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
		if head.message = head.message[n:]; code[0] == '@' { // a package speaks
			head.unit = code
		} else {
			head.code = code
		}
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
	return t == "╷" || strings.HasPrefix(t, ",-[") || strings.HasPrefix(t, "╭─") || strings.HasPrefix(t, "┌─")
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

// ruleBelow reports whether a place only leads to what is found there: a rule and
// its message, deeper in the next line.
//
//	shelf.x:12 in function `open`:
//	        D103: the lid is not described
func ruleBelow(l Line, r *row) bool {
	below := l.below(1)
	text := strings.TrimSpace(below)
	return r.code == "" && strings.HasSuffix(r.message, ":") && len(below)-len(text) > r.indent && numberedCode(text) > 0
}

// assertionCall reports whether a message begins with the assertion of a unit
// test as it is called: "CHECK( lid == 4 ) …", "ASSERT_EQ(…)".
func assertionCall(message string) bool {
	name := before(message, "(")
	for _, start := range []string{"CHECK", "REQUIRE", "ASSERT", "EXPECT"} {
		if rest, ok := strings.CutPrefix(name, start); ok && len(name) < len(message) && (rest == "" || rest[0] == '_') {
			return true
		}
	}
	return false
}

// testAbove is the name of the test that a line stands in: between two rules, or
// behind the words that say so, up to a rule.
func testAbove(l Line) string {
	if name := ruledHeading(l); name != "" {
		return name
	}
	var names []string
	for n := 1; n <= 15; n++ {
		text := strings.TrimSpace(l.above(n))
		if acrossPage(text) {
			return ""
		}
		if name, ok := strings.CutPrefix(text, "TEST CASE:"); ok {
			names = append(names, strings.TrimSpace(name))
			slices.Reverse(names)
			return strings.Join(names, " ")
		}
		if above := l.above(n); text != "" && len(above) > len(text) && !strings.ContainsAny(text, ":()") { // a part of the case
			names = append(names, text)
		}
	}
	return ""
}

// ruledHeading is the name between two rules across the page, above a line:
//
//	-----------------
//	the lid
//	  opens
//	-----------------
func ruledHeading(l Line) string {
	var names []string
	inside := false
	for n := 1; n <= 15; n++ {
		text := strings.TrimSpace(l.above(n))
		switch rule := acrossPage(text); {
		case rule && inside:
			slices.Reverse(names)
			return strings.Join(names, " ")
		case rule:
			inside = true
		case inside && (text == "" || len(names) == 5):
			return ""
		case inside:
			names = append(names, text)
		}
	}
	return ""
}

// acrossPage reports whether a line is a rule across the page.
func acrossPage(text string) bool { return len(text) > 9 && strings.Trim(text, "-=~") == "" }

// headingOf reads a line that names the file which the rows below it are of:
// nothing but a path, or a path among words that say so.
func headingOf(text string) (p position, ok bool) {
	s := strings.TrimSpace(text)
	if len(s) < 3 || len(s) > 300 || s[0] == '|' {
		return p, false
	}
	for field := range strings.FieldsSeq(s) {
		bare := strings.Trim(field, "[](){}<>*=:;,-─━═•·|#\"'`❯●▶»✖⚠")
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
