package read

import (
	"strings"

	"unicausa/internal/core/symptom"
)

// deprecated reads what says in a line of its own that something is deprecated:
//
//	shelf deprecated jars without a lid, use jar() at lib/route.js:157:13
//	The "openLid" function used by shelf is deprecated. Use "open" instead.
//	[shelf]: jar.openLid() is deprecated since v4.0 and will be removed.
//
// The first is what Node.js libraries print of themselves, certain where it
// ends with its place. A sentence without one is a guess: it has to be a line's
// whole, and to name something.
type deprecated struct{}

var deprecatedReader = stream{shape: true, name: "deprecated", basis: symptom.ByPlace, marks: []string{" deprecated"}, how: aWord, open: func() lineReader { return deprecated{} }}

func (deprecated) line(l Line, out *sink) verdict {
	if len(l.Text) > 1000 || strings.HasPrefix(l.Text, " ") {
		return pass
	}
	s := symptom.Symptom{Kind: symptom.Deprecation, Level: "warning", Phase: symptom.PhaseRun, Tool: "output"}
	text := l.Text
	if _, rest, ok := strings.Cut(text, " GMT "); ok { // the date that stands there where it is no terminal
		text = rest
	}
	who, message, _ := strings.Cut(text, " deprecated ")
	place := strings.LastIndex(message, " at ")
	if place > 0 && nameLike(who) {
		if p, ok := placeColon(message[place+4:]); ok {
			s.Message, s.File, s.Line, s.Column = who+" deprecated "+message[:place], p.file, p.line, p.column
			out.add(s, l.Number, l.Number)
			return took
		}
	}
	if strings.HasPrefix(text, "[") { // who says so
		if _, rest, ok := strings.Cut(text, "]"); ok {
			text = strings.TrimLeft(rest, ": ")
		}
	}
	if !saysDeprecated(text) {
		return pass
	}
	s.Message, s.Refs, s.Basis = text, deprecatedName(text), symptom.ByGuess
	out.add(s, l.Number, l.Number)
	return took
}

// saysDeprecated reports whether a line is a sentence that says of something it
// names that it is deprecated.
func saysDeprecated(text string) bool {
	if text == "" {
		return false
	}
	subject := ""
	for _, verb := range []string{" is deprecated", " are deprecated", " has been deprecated", " have been deprecated"} {
		if before, _, ok := strings.Cut(text, verb); ok {
			subject = before
		}
	}
	if !strings.Contains(subject, " ") { // a name as code spells it
		bare := strings.TrimSuffix(subject, "()")
		return dotted(bare) && (bare != subject || strings.Contains(bare, "."))
	}
	c := text[0]
	return (c == '"' || c == '\'' || c == '`' || 'A' <= c && c <= 'Z') && strings.ContainsAny(subject, "\"'`") && len(strings.Fields(subject)) < 16
}

func (deprecated) close(*sink) {}
