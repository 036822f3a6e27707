package compare

import (
	"testing"

	"unicausa/internal/core/symptom"
)

// TestSteady holds how often an unsteady test has to pass, by its record.
func TestSteady(t *testing.T) {
	for _, test := range []struct {
		record         string
		passed, wanted int
	}{
		{"", 0, 2},
		{"pf", 0, 5},
		{"pfppp", 3, 5},
		{"pppfp", 1, 11},
		{"ff", 0, 2},
		{"fspgp", 2, 2}, // what was skipped or gone says nothing
		{"pfpf", 0, 5},
	} {
		var outcomes []symptom.Outcome
		for _, c := range test.record {
			outcomes = append(outcomes, map[rune]symptom.Outcome{'p': symptom.Passed, 'f': symptom.Failed, 's': symptom.Skipped, 'g': symptom.Gone}[c])
		}
		if passed, wanted := Passes(outcomes); passed != test.passed || wanted != test.wanted {
			t.Errorf("%q: passed %d of %d, want %d of %d", test.record, passed, wanted, test.passed, test.wanted)
		}
	}
}
