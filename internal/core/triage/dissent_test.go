package triage

import (
	"slices"
	"strings"
	"testing"

	"unicausa/internal/core/notes"
	"unicausa/internal/core/source/sourcetest"
)

// TestDissent holds that tests which go through one function of a package are told apart
// where different changes explain them, and not where none does.
func TestDissent(t *testing.T) {
	tree := sourcetest.Tree(t, map[string]string{
		"go.mod":       "module example.org/pantry\n\nrequire example.org/jar v5.0.0\n",
		"lids_test.go": "package pantry\n\nimport (\n\t\"testing\"\n\n\t\"example.org/jar\"\n)\n\nfunc TestBracket(t *testing.T) {\n\tgot := jar.Write(\"[rye]\")\n\tif got != \"'[rye]'\" {\n\t\tt.Errorf(\"expected \\\"'[rye]'\\\", got \\\"%s\\\"\", got)\n\t}\n}\n\nfunc TestMark(t *testing.T) {\n\tgot := jar.Write(jar.Mark(3))\n\tif got != \"!<!oat> 3\" {\n\t\tt.Errorf(\"expected \\\"!<!oat> 3\\\", got \\\"%s\\\"\", got)\n\t}\n}\n",
	})
	const log = "=== RUN   TestBracket\n    lids_test.go:12: expected \"'[rye]'\", got \"[rye]\"\n--- FAIL: TestBracket (0.00s)\n=== RUN   TestMark\n    lids_test.go:19: expected \"!<!oat> 3\", got \"!oat 3\"\n--- FAIL: TestMark (0.00s)\nFAIL\n"
	const changed = "# Changelog\n\n## 5.0.0\n\n- **Breaking:** `Write()` no longer quotes brackets: no quotes are written.\n- **Breaking:** `Write()` sets marks as `!mark` instead of `!<!mark>`.\n"
	const other = "# Changelog\n\n## 5.0.0\n\n- **Breaking:** `Write()` is faster.\n- **Breaking:** `Read()` waits.\n"
	for _, test := range []struct {
		notes  string
		causes int
	}{{changed, 2}, {other, 1}} {
		after := fresh(t, "test.log", log)
		after.Tree = tree
		report := Run(t.Context(), Case{Before: []Snapshot{fresh(t, "test.log", "")}, After: []Snapshot{after}, Changes: notes.Read("CHANGELOG.md", "example.org/jar", []byte(test.notes))})
		var titles, signatures []string
		for _, c := range report.Causes {
			titles, signatures = append(titles, c.Title), append(signatures, c.Signature)
		}
		if len(report.Causes) != test.causes {
			t.Errorf("the causes are %q, want %d", titles, test.causes)
		}
		slices.Sort(signatures)
		if len(slices.Compact(signatures)) != len(titles) {
			t.Errorf("causes share a signature: %s", strings.Join(signatures, ", "))
		}
	}
}
