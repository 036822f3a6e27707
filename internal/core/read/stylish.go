package read

import (
	"strings"

	"unicausa/internal/core/symptom"
)

// stylish reads the form of linters that print a file once and its findings
// indented below it:
//
//	src/shelf.ts
//	  12:9  error    'lid' is never reassigned. Use 'const' instead  prefer-const
//	  14:1  warning  Unexpected console statement                    no-console
//
//	✖ 2 problems (1 error, 1 warning)
type stylish struct {
	file string
	rows int // in all files since the last total
	next int // the line on which the file's next finding may stand
}

var stylishReader = stream{name: "stylish", marks: []string{" error ", " warning ", " warn ", " problem"}, open: func() lineReader { return &stylish{} }}

func (s *stylish) line(l Line, out *sink) verdict {
	if n, ok := counted(l.Text, "problem"); ok && s.rows > 0 && strings.Contains(l.Text, "(") {
		out.state(l.Number, "problems", n, s.rows)
		s.rows, s.file = 0, ""
		return noise
	}
	found, ok := stylishRow(l.Text)
	if !ok {
		if s.file = ""; strings.Contains(l.Text, "potentially fixable with") {
			return noise
		}
		return pass
	}
	if above := l.above(1); s.next != l.Number || s.file == "" {
		if above == "" || above[0] == ' ' || !fileLike(above) || strings.ContainsAny(above, " ():") {
			return pass
		}
		s.file = above
	}
	found.File, s.next = s.file, l.Number+1
	s.rows++
	out.add(found, l.Number, l.Number)
	return took
}

func (s *stylish) close(out *sink) {}

func stylishRow(text string) (symptom.Symptom, bool) {
	trimmed := strings.TrimLeft(text, " ")
	line, n := leadingNumber(trimmed)
	if n == 0 || len(trimmed) == len(text) || n == len(trimmed) || trimmed[n] != ':' {
		return symptom.Symptom{}, false
	}
	column, m := leadingNumber(trimmed[n+1:])
	rest := strings.TrimLeft(trimmed[n+1+m:], " ")
	level, message, ok := strings.Cut(rest, " ")
	level = strings.Trim(level, "✖⚠×")
	if m == 0 || !ok || level != "error" && level != "warning" && level != "warn" && level != "" && level != "info" {
		return symptom.Symptom{}, false
	}
	s := symptom.Symptom{Kind: symptom.Lint, Level: "error", Phase: symptom.PhaseCompile, Tool: "lint", Line: line, Column: column}
	if level == "warning" || level == "warn" || level == "info" {
		s.Level = "warning"
	}
	message = strings.TrimSpace(message)
	if i := strings.LastIndex(message, "  "); i > 0 && !strings.Contains(strings.TrimSpace(message[i:]), " ") {
		message, s.Code = strings.TrimSpace(message[:i]), strings.Trim(strings.TrimSpace(message[i:]), "()")
	}
	s.Message = message
	if deprecates(message) || strings.Contains(s.Code, "deprecat") {
		s.Kind = symptom.Deprecation
		if names := append(backticks(message), quotes(message)...); len(names) > 0 {
			s.Refs = refs{ref(symptom.Old, names[0])}
		}
	}
	return s, true
}
