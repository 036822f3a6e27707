package report

import (
	"fmt"
	"strings"
	"testing"

	"unicausa/internal/api"
)

// TestRecorded holds what is said of a run: what it changed, what is wrong with
// its inputs, and no more causes by name than can be read.
func TestRecorded(t *testing.T) {
	run := api.Run{
		Number: 3, Facts: api.RunFacts{Check: "build", Exit: 2, Dirty: true}, Frontier: "compile",
		Inputs: []api.Input{{Name: "a.log", Unread: []api.UnreadLine{{Line: 7, Text: "Boom!"}}}, {Name: "b.log", Problem: "it is empty"}},
		Delta:  &api.Delta{New: 40, Gone: 1, Uncovered: 2, CausesLeft: 40, Cleared: []string{"C1"}},
	}
	for n := range 40 {
		run.Delta.Opened = append(run.Delta.Opened, fmt.Sprintf("C%d", n+2))
	}
	var b strings.Builder
	if err := Recorded(&b, run); err != nil {
		t.Fatal(err)
	}
	for _, part := range []string{
		"run 3 of build: status 2, got as far as compile\n", "1 line looks like errors and could not be read, the first at line 7: Boom!\n", "! b.log: it is empty\n",
		"recorded with uncommitted changes\n", "40 new, 1 gone, 40 causes left\n", "  2 uncovered", "  cleared: C1\n", "  opened: C2 C3 C4", " C16 and 25 more\n",
	} {
		if !strings.Contains(b.String(), part) {
			t.Errorf("%q is missing in\n%s", part, b.String())
		}
	}
}
