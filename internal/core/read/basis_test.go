package read

import (
	"strings"
	"testing"

	"unicausa/internal/core/symptom"
)

// TestBasis holds that every diagnostic says how it was known to be one.
func TestBasis(t *testing.T) {
	patterns, err := NewPatterns([]Pattern{{Name: "printer", Match: `^LP(?<code>\d+) (?<message>.*)$`, Like: []string{"LP12 torn"}, Unlike: []string{"LP"}}})
	if err != nil {
		t.Fatal(err)
	}
	project := Project{Patterns: patterns, Holds: func(file string) bool { return file == "src/shelf.x" }}
	for _, c := range []struct {
		log  string
		want symptom.Basis
	}{
		{"src/shelf.ts(3,9): error TS2304: Cannot find name 'lid'.\n", symptom.ByTool},
		{"LP12 the label is torn\n", symptom.ByPattern},
		{`[{"file": "a.x", "line": 3, "message": "the lid is stuck fast", "severity": "error"}]`, symptom.ByKeys},
		{"a.x:12:9: E501 the lid is stuck\n", symptom.ByPlace},
		{"src/shelf.x:12:9\tthe lid is stuck fast\n", symptom.ByTree},
		{"a.x:12:9\tthe lid is stuck fast\nb.x:3:1\tthe jar is open now\n", symptom.ByRepeat},
		{"[FAIL] shelf::opens: (0.01s)\n[PASS] shelf::closes: (0.01s)\n", symptom.ByVerdict},
		{"Unhandled JAR-ERROR in thread main:\n  the lid is stuck\n  at shelf.x:12\n", symptom.ByStack},
		{"error: the lid is stuck\n", symptom.ByGuess},
	} {
		r, err := ForProject(project, "a.log", strings.NewReader(c.log))
		if err != nil || len(r.Symptoms) == 0 {
			t.Errorf("of %q nothing is read: %v", c.log, err)
			continue
		}
		for _, s := range r.Symptoms {
			if s.Basis != c.want {
				t.Errorf("%q is known by %s, want %s", c.log, s.Basis, c.want)
			}
		}
	}
}
