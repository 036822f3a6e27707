package triage

import (
	"strings"
	"testing"

	"unicausa/internal/core/notes"
	"unicausa/internal/core/read"
)

// TestUnreadComesFirst holds that what merely misses a file or a connection has no
// entry while a check fails of which nothing was read, and says why.
func TestUnreadComesFirst(t *testing.T) {
	const changelog = "# Changelog\n\n## 2.0.0\n\n- **Breaking:** the lids are written to `out/lids.json`, no longer to `lids.json`: open that file.\n- `Jar.close` was removed.\n"
	const tests = "=== RUN   TestLids\n    lids_test.go:8: open lids.json: no such file or directory\n--- FAIL: TestLids (0.00s)\n=== RUN   TestClose\n    lids_test.go:18: Jar.close is not a function\n--- FAIL: TestClose (0.00s)\nFAIL\n"
	for _, exit := range []int{0, 1} {
		built := fresh(t, "build.log", "pressing 12 lids\nthe press is warm\n")
		read.Unsaid(built.Results, "press", exit)
		failed := fresh(t, "test.log", tests)
		failed.Results = append(failed.Results, built.Results...)
		report := Run(t.Context(), Case{Before: []Snapshot{fresh(t, "test.log", "")}, After: []Snapshot{failed}, Changes: notes.Read("CHANGELOG.md", "jar", []byte(changelog))})
		for _, c := range report.Causes {
			last := c.Steps[len(c.Steps)-1].Text
			switch waits := strings.HasPrefix(last, "press fails, and nothing in its output says why: look there first"); {
			case strings.Contains(c.Title, "no such file") || strings.Contains(c.Title, "out/lids.json"):
				if (exit == 1) != waits || (exit == 1) != (len(c.Links) == 0) {
					t.Errorf("exit %d: %q has %d links and says %q", exit, c.Title, len(c.Links), last)
				}
			case waits:
				t.Errorf("exit %d: %q says %q", exit, c.Title, last)
			}
		}
		if want := 2 + exit; len(report.Causes) != want {
			t.Errorf("exit %d: %d causes, want %d", exit, len(report.Causes), want)
		}
	}
}

// TestInstruction holds which sentence of an entry tells what to do.
func TestInstruction(t *testing.T) {
	for entry, want := range map[string]string{
		"A call of a lid is an error. Include the header that declares it. It was a warning.": "Include the header that declares it.",
		"The lid is round. You must pass a jar now; `Fill` is slow.":                          "You must pass a jar now;",
		"`Lid` was removed in favour of `Cap`. It was slow.":                                  "Lid was removed in favour of Cap.",
		"Please use jars. The lid is round. Open the jar by hand.":                            "Please use jars.",
		"The lid was removed.": "The lid was removed",
		"The lid is round.":    "",
	} {
		c := notes.Read("x.md", "p", []byte("## 5.0.0\n\n- "+entry+"\n"))[0]
		if got := instruction(&c); got != want {
			t.Errorf("%q: %q, want %q", entry, got, want)
		}
	}
}
