package read

import (
	"strings"

	"unicausa/internal/core/symptom"
)

// asFinding makes a failed test that is the finding of a linter, in a form meant
// for tests, what it is: its name is a file or a rule, and its words are a row.
// Within is the file that the suite is named after, "" without one.
func asFinding(s *symptom.Symptom, body, within string) bool {
	name := s.Test
	rule, at, named := strings.Cut(name, " at ")
	file, _, _ := strings.Cut(name, ":")
	rule, isRule := ruleName(strings.TrimPrefix(rule, "org.eslint."), false)
	switch {
	case pathLike(file) && !strings.Contains(file, " "), strings.HasPrefix(name, "org.eslint."):
	case isRule && (strings.Contains(rule, "/") || named):
	default:
		return false
	}
	text := strings.TrimSpace(before(strings.TrimSpace(body), "\n"))
	r, ok := parseRow(text)
	if !ok || r.line == 0 {
		r, ok = parseRow(s.Message)
	}
	if ok && r.line > 0 && !r.tail {
		if r.file == "" {
			r.file = within
		}
		found := r.symptom()
		if found.Code == "" {
			found.Code = s.Code
		}
		if found.Code == "" && isRule {
			found.Code = rule
		}
		*s = found
		s.Tool = "lint"
		return true
	}
	if p, placed := positionAt(strings.TrimSpace(at)); placed {
		s.File, s.Line, s.Column = p.file, p.line, p.column
	}
	if !isRule || s.File == "" || len(s.Frames) > 0 {
		return false
	}
	s.Kind, s.Level, s.Phase, s.Tool, s.Code, s.Test, s.Unit = symptom.Lint, "warning", symptom.PhaseCompile, "lint", rule, "", ""
	return true
}
