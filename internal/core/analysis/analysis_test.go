package analysis

import (
	"fmt"
	"io"
	"slices"
	"strings"
	"testing"

	"unicausa/internal/core/notes"
	"unicausa/internal/core/read"
	"unicausa/internal/core/source"
	"unicausa/internal/core/source/sourcetest"
	"unicausa/internal/core/symptom"
	"unicausa/internal/core/track"
	"unicausa/internal/core/versions"
)

// records are runs in memory, as the store would keep them.
type records struct {
	t    *testing.T
	leg  Leg
	runs []Recorded
}

func newRecords(t *testing.T) *records {
	r := &records{t: t}
	r.leg.State = &track.State{Symptoms: map[string]*track.Symptom{}, Causes: map[string]*track.Cause{}}
	r.leg.Moves = []versions.Move{{Package: "example.org/jar", From: "4.2.0", To: "5.0.0"}}
	return r
}

// read makes a run of a check on a source, named by its commit, of what it printed.
func (r *records) read(check, commit string, exit int, text string, files map[string]string) Recorded {
	r.t.Helper()
	run := Run{ID: int64(len(r.runs) + 1), Number: len(r.runs) + 1, Check: check, Exit: exit, Commit: commit, Source: commit, Command: check}
	var tree *source.Tree
	if files != nil {
		tree = sourcetest.Tree(r.t, files)
	}
	reading, err := Read(run, tree, []Output{{Name: fmt.Sprintf("%d/%s.log", run.Number, check), Text: func() io.Reader { return strings.NewReader(text) }}}, r.leg.Moves)
	if err != nil {
		r.t.Fatal(err)
	}
	run.Reach, run.Versions = reading.Reach, reading.Locked
	for i := range reading.Results {
		for j := range reading.Results[i].Symptoms {
			for k := range reading.Results[i].Symptoms[j].At {
				reading.Results[i].Symptoms[j].At[k].Input = reading.Results[i].Name
			}
		}
	}
	recorded := Recorded{Run: run, Results: reading.Results, Tree: tree}
	r.runs = append(r.runs, recorded)
	return recorded
}

// accept makes a run the baseline of its check.
func (r *records) accept(run Recorded) { r.leg.Baseline = append(r.leg.Baseline, run) }

// advance takes the leg further by a run, and gives the run's delta in short.
func (r *records) advance(run Recorded) string {
	r.t.Helper()
	before := r.runs[:len(r.runs)-1]
	var since []Run
	var repeats []Recorded
	for i := len(before) - 1; i >= 0; i-- {
		if slices.ContainsFunc(r.leg.Baseline, func(b Recorded) bool { return b.ID == before[i].ID }) {
			continue
		}
		since = append(since, before[i].Run)
		if before[i].Check == run.Check && sameState(before[i].Run, run.Run) {
			repeats = append(repeats, before[i])
		}
	}
	by := &Newest{Since: since}
	if p := PreviousOf(run.Run, since); p != nil {
		by.Previous = &r.runs[p.ID-1]
	}
	r.leg.Latest = append(slices.DeleteFunc(r.leg.Latest, func(l Recorded) bool { return l.Check == run.Check }), run)
	r.leg.Repeats = make([][]Recorded, len(r.leg.Latest))
	r.leg.Repeats[len(r.leg.Latest)-1] = repeats
	p := r.leg.Advance(r.t.Context(), by)
	if p.Latest != run.Number || p.Run.ID != run.ID || p.State != r.leg.State {
		r.t.Errorf("progress of run %d: latest %d, run %d", run.Number, p.Latest, p.Run.ID)
	}
	return short(p.Delta)
}

func short(d *track.Delta) string {
	parts := []string{fmt.Sprintf("+%d -%d left %d", d.New, d.Gone, d.CausesLeft)}
	for _, part := range []struct {
		what  string
		names []string
	}{{"opened", d.Opened}, {"cleared", d.Cleared}} {
		if len(part.names) > 0 {
			parts = append(parts, part.what+" "+strings.Join(part.names, " "))
		}
	}
	for _, part := range []struct {
		what  string
		count int
	}{{"uncovered", d.Uncovered}, {"introduced", d.Introduced}, {"returned", d.Returned}} {
		if part.count > 0 {
			parts = append(parts, fmt.Sprintf("%s %d", part.what, part.count))
		}
	}
	if d.Worse {
		parts = append(parts, "worse")
	}
	return strings.Join(parts, ", ")
}

const (
	noLid   = "# shop\npress.go:7:2: undefined: jar.Lid\n"
	noSpoon = "# shop\nspoon.go:9:2: undefined: jar.Spoon\n"
	passed  = "=== RUN   TestPress\n--- PASS: TestPress (0.00s)\nPASS\nok  \tshop\t0.01s\n"
	failed  = "=== RUN   TestPress\n    press_test.go:12: got 3 jars, want 4\n--- FAIL: TestPress (0.00s)\nFAIL\nFAIL\tshop\t0.01s\nFAIL\n"
)

// recording is one run of a leg: what its check printed on a commit, and what it changed.
type recording struct {
	check, commit string
	exit          int
	text, delta   string
}

func TestAdvance(t *testing.T) {
	tests := []struct {
		name     string
		baseline []recording
		steps    []recording
	}{
		{"broken, then mended", []recording{{check: "build"}}, []recording{
			{"build", "c1", 1, noLid + noSpoon[7:], "+2 -0 left 2, opened C1 C2, worse"},
			{"build", "c2", 1, noSpoon, "+0 -1 left 1, cleared C1, worse"},
			{"build", "c3", 0, "", "+0 -1 left 0, cleared C2"},
		}},
		{"what the baseline shows is known", []recording{{check: "build", exit: 1, text: noLid}}, []recording{
			{"build", "c1", 1, noLid, "+0 -0 left 0"},
			{"build", "c2", 1, noLid + noSpoon[7:], "+1 -0 left 1, opened C2, uncovered 1, worse"},
		}},
		{"the same source ends both ways: flaky, not cleared", []recording{{check: "test", text: passed}}, []recording{
			{"test", "c1", 1, failed, "+1 -0 left 1, opened C1, worse"},
			{"test", "c1", 0, passed, "+0 -0 left 1, worse"},
			{"test", "c2", 0, passed, "+0 -1 left 0, cleared C1"},
		}},
		{"one check stops, the other goes on", []recording{{check: "build"}, {check: "test", text: passed}}, []recording{
			{"build", "c1", 1, noLid, "+1 -0 left 1, opened C1, worse"},
			{"test", "c1", 1, "# shop\npress.go:7:2: undefined: jar.Lid\nFAIL\tshop [build failed]\nFAIL\n", "+1 -0 left 1, worse"}, // the package that was not built
			{"build", "c2", 0, "", "+0 -1 left 1"},
			{"test", "c2", 1, failed, "+1 -1 left 1, opened C2, cleared C1, uncovered 1, worse"},
		}},
		{"a check without a baseline has nothing against it", []recording{{check: "build"}}, []recording{
			{"lint", "c1", 0, "", "+0 -0 left 0"},
			{"lint", "c2", 1, "press.go:3:1: undefined: jar.Lid\n", "+1 -0 left 1, opened C1, introduced 1, worse"},
		}},
	}
	for _, test := range tests {
		t.Run(test.name, func(t *testing.T) {
			r := newRecords(t)
			for _, s := range test.baseline {
				r.accept(r.read(s.check, "c0", s.exit, s.text, nil))
			}
			for i, s := range test.steps {
				if got := r.advance(r.read(s.check, s.commit, s.exit, s.text, nil)); got != s.delta {
					t.Errorf("step %d: %s, want %s", i+1, got, s.delta)
				}
			}
		})
	}
}

// TestDrawnAnew holds that a leg is drawn without a run: it has no delta, and its numbers stay.
func TestDrawnAnew(t *testing.T) {
	r := newRecords(t)
	r.leg.Earlier = []string{"C1", "C2"} // of the leg before: not given again
	r.accept(r.read("build", "c0", 0, "", nil))
	if got := r.advance(r.read("build", "c1", 1, noLid, nil)); got != "+1 -0 left 1, opened C3, worse" {
		t.Error(got)
	}
	r.leg.Changes = notes.Read("NOTES.md", "example.org/jar", []byte("# 5.0.0\n\n- `jar.Lid` was removed; use `jar.Cover`.\n"))
	p := r.leg.Advance(t.Context(), nil)
	if p.Run != nil || p.Delta != nil || p.Latest != 2 {
		t.Errorf("%+v", p)
	}
	if c := p.Report.Causes[0]; c.ID != "C3" || len(c.Links) != 1 {
		t.Errorf("%s with %d links", c.ID, len(c.Links))
	}
	if report := r.leg.Report(t.Context()); report.Causes[0].ID != "C3" || len(report.Changes) != 1 {
		t.Errorf("%+v", report.Causes)
	}
}

// TestUnseen holds that what the leg before left out of sight is known.
func TestUnseen(t *testing.T) {
	for _, test := range []struct {
		name  string
		known bool
		delta string
	}{{"left out of sight", true, "+0 -0 left 0, worse"}, {"not seen before", false, "+1 -0 left 1, opened C1, worse"}} {
		t.Run(test.name, func(t *testing.T) {
			r := newRecords(t)
			r.accept(r.read("build", "c0", 0, "", nil))
			run := r.read("build", "c1", 1, noLid, nil)
			if test.known {
				r.leg.Unseen, r.leg.UnseenSince = run.Results[0].Symptoms, 1
			}
			if got := r.advance(run); got != test.delta {
				t.Error(got)
			}
		})
	}
}

func TestNotices(t *testing.T) {
	r := newRecords(t)
	old, now := r.read("test", "c0", 0, passed, nil), r.read("test", "c1", 0, passed, nil)
	old.Versions, now.Versions = map[string]string{"example.org/jar": "4.2.0", "go": "1.25"}, map[string]string{"example.org/jar": "4.2.0", "go": "1.26"}
	now.Command = "test -short"
	r.leg.Baseline, r.leg.Latest = []Recorded{old}, []Recorded{now}
	want := []string{
		`made with another command than the baseline: "test -short", not "test"`,
		"example.org/jar is still at 4.2.0 here: the bump to 5.0.0 has not reached this run",
		"go moved from 1.25 to 1.26 beside the bump",
	}
	if got := r.leg.Notices(); !slices.Equal(got, want) {
		t.Errorf("%q", got)
	}
	r.leg.Baseline[0].Check = "build"
	if got := r.leg.Notices(); got != nil {
		t.Errorf("another check's baseline: %q", got)
	}
}

func TestRead(t *testing.T) {
	r := newRecords(t)
	run := r.read("build", "c1", 0, "", map[string]string{"go.mod": "module shop\n\nrequire example.org/jar/v5 v5.0.0\n", "web/go.mod": "module web\n\nrequire example.org/jar v4.2.0\n"})
	if got := run.Versions["example.org/jar"]; got != "5.0.0" && got != "v5.0.0" {
		t.Errorf("locked at %q", got)
	}
	listing, err := Read(Run{Check: versions.ReadyCheck, Exit: 1}, nil, []Output{{Name: "ready.log", Text: func() io.Reader {
		return strings.NewReader("Package  Current  Wanted  Latest\njar      4.2.0    4.2.0   5.0.0\n")
	}}}, nil)
	if err != nil || listing.Listing == nil || len(listing.Listing.Listed) != 1 || listing.Listing.Listed[0].Newest != "5.0.0" || len(listing.Results[0].Symptoms) != 0 {
		t.Errorf("%+v, %v", listing, err)
	}
	own := Run{Check: "build"}
	own.Patterns = append(own.Patterns, patternWithoutEnd)
	if _, err := Read(own, nil, nil, nil); err == nil {
		t.Error("a pattern that is none was taken")
	}
}

func TestNaming(t *testing.T) {
	const counted = "..\n----------------------------------------------------------------------\nRan 2 tests in 0.001s\n\nOK\n"
	files := map[string]string{"test_press.py": "import unittest\n\nclass Press(unittest.TestCase):\n    def test_jar(self):\n        pass\n\n    def test_lid(self):\n        pass\n"}
	known := []Named{{Test: symptom.Test{Suite: "test_press.Press", Name: "test_jar", Outcome: symptom.Failed}, Source: "c0"}, {Test: symptom.Test{Suite: "test_press.Press", Name: "test_lid", Outcome: symptom.Failed}, Source: "c0"}}
	r := newRecords(t)
	run := r.read("test", "c1", 0, counted, files)
	n := Naming{Run: run, Known: known, Sites: func(string) *source.TestSites { return run.Tree.TestSites() }}
	if !Untold(run.Reach) {
		t.Fatalf("%+v", run.Reach)
	}
	told := n.Own()
	if len(told) != 2 || told[0].Outcome != symptom.Passed || told[1].Outcome != symptom.Passed {
		t.Errorf("a summary that counts two and no failure: %+v", told)
	}
	naming := r.read("test", "c2", 1, "=== RUN   TestPress\n--- FAIL: TestPress (0.00s)\nFAIL\n", files)
	n = Naming{Run: naming, Sites: n.Sites}
	if n.Own() != nil {
		t.Error("a run that names its tests")
	}
	fresh := n.Fresh()
	if len(fresh) != 1 || fresh[0].Name != "TestPress" || fresh[0].Source != "c2" {
		t.Errorf("%+v", fresh)
	}
	if told := n.In(run, []Named{known[0], known[1]}); len(told) != 2 {
		t.Errorf("in the earlier run: %+v", told)
	}
}

func TestExposure(t *testing.T) {
	r := newRecords(t)
	changes := notes.Read("NOTES.md", "example.org/jar", []byte("# 5.0.0\n\n- `jar.Lid` was removed.\n"))
	tree := r.read("build", "c1", 0, "", map[string]string{"go.mod": "module shop\n", "a.go": "package shop\n\nimport \"example.org/jar\"\n\n" + strings.Repeat("var _ = jar.Lid\n", 60)}).Tree
	found := Exposure(t.Context(), nil, tree, changes)[changes[0].ID]
	if found.Count != 60 || len(found.Places) != mostPlaces {
		t.Errorf("%d places, %d kept", found.Count, len(found.Places))
	}
}

var patternWithoutEnd = read.Pattern{Name: "own", Match: "(", Kind: "error"}
