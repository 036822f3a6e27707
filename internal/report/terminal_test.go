package report

import (
	"encoding/json"
	"io"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"unicausa/internal/api"
)

// of is what the demo's service answered, as testdata/demo has it.
func of[T any](t *testing.T, name string) T {
	t.Helper()
	data, err := os.ReadFile(filepath.Join("testdata", "demo", name+".json"))
	if err != nil {
		t.Fatal(err)
	}
	var v T
	if err := json.Unmarshal(data, &v); err != nil {
		t.Fatalf("%s: %v", name, err)
	}
	return v
}

// TestTerminal holds what the commands show of the demo against what was read and found
// right; -update writes it anew. Every form stands beside its empty one.
func TestTerminal(t *testing.T) {
	for name, show := range map[string]func(w io.Writer) error{
		"route": func(w io.Writer) error {
			return Route(w, of[[]api.LegRow](t, "legs"), of[[]api.ProposedLeg](t, "route"))
		},
		"prepared":    func(w io.Writer) error { return Prepared(w, of[[]api.Preparation](t, "preparation")) },
		"words":       func(w io.Writer) error { return Words(w, of[[]api.Word](t, "words")) },
		"commits":     func(w io.Writer) error { return Commits(w, of[[]api.Commit](t, "commits")) },
		"debts":       func(w io.Writer) error { return Debts(w, of[[]api.Debt](t, "debts"), of[[]api.FoundDebt](t, "found")) },
		"activity":    func(w io.Writer) error { return Activity(w, of[[]api.Event](t, "activity")) },
		"runs":        func(w io.Writer) error { return Runs(w, of[[]api.Run](t, "runs")) },
		"summary":     func(w io.Writer) error { return Summary(w, of[[]api.Run](t, "runs")) },
		"run":         func(w io.Writer) error { return Run(w, of[api.Run](t, "run"), of[[]api.RunSymptom](t, "symptoms")) },
		"tests":       func(w io.Writer) error { return Tests(w, of[api.TestTable](t, "tests"), false) },
		"tests-all":   func(w io.Writer) error { return Tests(w, of[api.TestTable](t, "tests"), true) },
		"corrections": func(w io.Writer) error { return Corrections(w, of[[]api.Correction](t, "corrections")) },
		"causes":      func(w io.Writer) error { return Causes(w, of[[]api.Cause](t, "causes"), true) },
		"casebook": func(w io.Writer) error {
			book := of[api.Casebook](t, "casebook")
			return Cases(w, book.Cases, book.Templates)
		},
		"comparison": func(w io.Writer) error {
			_, err := Comparison(w, of[api.Comparison](t, "comparison"), true)
			return err
		},
		"none": func(w io.Writer) error {
			for _, show := range []func() error{
				func() error { return Prepared(w, nil) }, func() error { return Words(w, nil) }, func() error { return Commits(w, nil) },
				func() error { return Debts(w, nil, nil) }, func() error { return Activity(w, nil) }, func() error { return Runs(w, nil) },
				func() error { return Tests(w, api.TestTable{}, false) }, func() error { return Corrections(w, nil) },
				func() error { return Causes(w, nil, false) }, func() error { return Cases(w, nil, nil) }, func() error { return Changes(w, nil, false) },
			} {
				if err := show(); err != nil {
					return err
				}
			}
			return nil
		},
	} {
		t.Run(name, func(t *testing.T) {
			var b strings.Builder
			if err := show(&b); err != nil {
				t.Fatal(err)
			}
			golden(t, filepath.Join("testdata", "terminal", name+".txt"), b.String())
			for n, line := range strings.Split(b.String(), "\n") {
				if width := len([]rune(line)); width > 120 {
					t.Errorf("line %d is %d wide: %s", n+1, width, line)
				}
			}
		})
	}
}

// TestRedrawnIsShown holds that a cause which is one with another is not called cleared.
func TestRedrawnIsShown(t *testing.T) {
	var b strings.Builder
	if err := Causes(&b, []api.Cause{{ID: "C7", Title: "jar.Sieve", Status: "cleared", Into: "C3"}}, true); err != nil {
		t.Fatal(err)
	}
	if !strings.Contains(b.String(), "one with C3") || strings.Contains(b.String(), "✓ C7") {
		t.Errorf("it is shown as\n%s", b.String())
	}
	b.Reset()
	if err := Cause(&b, &api.CauseDetail{Cause: api.Cause{ID: "C9", Title: "jar.Sieve", From: "C3", First: 4, Checks: []string{"build"}}}, nil); err != nil {
		t.Fatal(err)
	}
	if !strings.Contains(b.String(), "a part of C3 until run 4") {
		t.Errorf("it is shown as\n%s", b.String())
	}
	run := api.Run{Number: 4, Facts: api.RunFacts{Check: "build"}, Delta: &api.Delta{Redrawn: []api.Redrawn{{Cause: "C7", Text: "C7 and C3 turned out to be one, which goes on as C3"}}}}
	b.Reset()
	if err := Recorded(&b, run); err != nil || !strings.Contains(b.String(), "  C7 and C3 turned out to be one") {
		t.Errorf("of the run it says\n%s (%v)", b.String(), err)
	}
}
