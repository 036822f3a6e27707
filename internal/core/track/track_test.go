package track

import (
	"context"
	"reflect"
	"sort"
	"strings"
	"testing"

	"unicausa/internal/core/compare"
	"unicausa/internal/core/read"
	"unicausa/internal/core/symptom"
	"unicausa/internal/core/triage"
)

// leg plays the runs of a leg, as the service does.
type leg struct {
	t        *testing.T
	state    *State
	baseline []triage.Snapshot
	latest   map[string]read.Result
	exits    map[string]int
	numbers  map[string]int
	number   int
}

func newLeg(t *testing.T, baseline ...string) *leg {
	l := &leg{t: t, state: &State{Symptoms: map[string]*Symptom{}, Causes: map[string]*Cause{}}, latest: map[string]read.Result{}, exits: map[string]int{}, numbers: map[string]int{}}
	for _, text := range baseline {
		l.baseline = append(l.baseline, triage.Snapshot{Results: []read.Result{l.read("before", text)}})
	}
	return l
}

func (l *leg) read(name, text string) read.Result {
	l.t.Helper()
	r, err := read.All(name, strings.NewReader(text))
	if err != nil {
		l.t.Fatal(err)
	}
	return r
}

// run records what a check printed, and advances the state.
func (l *leg) run(check string, exit int, text string) {
	l.t.Helper()
	l.number++
	var previous *compare.Reach
	if r, ok := l.latest[check]; ok {
		reach := compare.ReachOf([]read.Result{r}, l.exits[check], nil)
		previous = &reach
	}
	l.latest[check], l.exits[check], l.numbers[check] = l.read(check, text), exit, l.number
	var checks []string
	for name := range l.latest {
		checks = append(checks, name)
	}
	sort.Slice(checks, func(i, j int) bool { return l.numbers[checks[i]] < l.numbers[checks[j]] })
	c := triage.Case{Before: l.baseline, Prior: l.state.Identities()}
	reach := map[string]compare.Reach{}
	for _, name := range checks {
		c.After = append(c.After, triage.Snapshot{Results: []read.Result{l.latest[name]}})
		reach[name] = compare.ReachOf([]read.Result{l.latest[name]}, l.exits[name], nil)
	}
	report := triage.Run(context.Background(), c)
	l.state.Advance(Step{Run: l.number, Check: check, Report: &report, Reach: reach, Runs: l.numbers, Previous: previous,
		CheckOf: func(input string) string {
			if _, ok := l.latest[input]; ok {
				return input
			}
			return ""
		}})
}

// want holds the status of each cause that is not known, by its first symptom.
func (l *leg) want(causes string) {
	l.t.Helper()
	var got []string
	for id, c := range l.state.Causes {
		if !c.Known {
			got = append(got, id+" "+string(c.Status))
		}
	}
	sort.Strings(got)
	if strings.Join(got, ", ") != causes {
		l.t.Fatalf("after run %d the causes are %q, want %q", l.number, strings.Join(got, ", "), causes)
	}
}

// origins lists how the symptoms of a cause came to be seen.
func (l *leg) origins(cause string) string {
	var list []string
	for _, s := range l.state.Symptoms {
		if s.Cause == cause {
			list = append(list, string(s.Origin))
		}
	}
	sort.Strings(list)
	return strings.Join(list, " ")
}

const (
	header  = "# example.org/p\n"
	lidGone = "a.go:3:1: undefined: jar.OpenLid\n"
	capGone = "b.go:3:1: undefined: jar.Sieve\n"
)

func TestAFixIsProved(t *testing.T) {
	l := newLeg(t, "")
	l.run("build", 1, header+lidGone+capGone)
	l.want("C1 shown, C2 shown")
	if l.state.Judge("C1", 1, Claimed) != Claimed || l.state.Judge("C2", 1, Claimed) != Claimed {
		t.Error("without a later run a fix is more than claimed")
	}
	l.run("build", 1, header+capGone)
	l.want("C1 cleared, C2 shown")
	if l.state.Judge("C1", 1, Claimed) != Proved || l.state.Judge("C2", 1, Claimed) != Disproved {
		t.Errorf("the fixes are %s and %s", l.state.Judge("C1", 1, Claimed), l.state.Judge("C2", 1, Claimed))
	}
	l.run("build", 0, "")
	l.want("C1 cleared, C2 cleared")
	if c := l.state.Causes["C1"]; c.First != 1 || c.Since != 2 {
		t.Errorf("C1 came in run %d and is cleared since run %d", c.First, c.Since)
	}
}

func TestACauseReturnsUnderItsNumber(t *testing.T) {
	l := newLeg(t, "")
	l.run("build", 1, header+lidGone+capGone)
	l.run("build", 1, header+capGone)
	l.run("build", 1, header+lidGone)
	l.want("C1 shown, C2 cleared")
	if got := l.origins("C1"); got != "returned" {
		t.Errorf("the symptom of C1 is %q", got)
	}
}

// TestHiddenIsNotCleared holds that a run which could not have shown a symptom
// clears nothing.
func TestHiddenIsNotCleared(t *testing.T) {
	l := newLeg(t, "")
	l.run("build", 1, header+lidGone)
	l.run("build", 1, "a.go:1:8: no required module provides package example.org/jar; to add it:\n\tgo get example.org/jar\n")
	l.want("C1 hidden, C2 shown")
	if l.state.Judge("C1", 1, Claimed) != Claimed {
		t.Error("a fix is judged by a run that could not tell")
	}
	l.run("build", 0, "")
	l.want("C1 cleared, C2 cleared")
}

func TestABrokenOffListClearsNothing(t *testing.T) {
	l := newLeg(t, "")
	l.run("build", 1, header+lidGone+capGone)
	l.run("build", 1, header+capGone+"c.go:9:1: too many errors\n")
	l.want("C1 hidden, C2 shown")
}

func TestUncoveredAndIntroduced(t *testing.T) {
	const passing = `{"Action":"output","Package":"example.org/p","Test":"TestLid","Output":"--- PASS: TestLid (0.00s)\n"}
{"Action":"output","Package":"example.org/p","Output":"ok  \texample.org/p\t0.1s\n"}
`
	l := newLeg(t, "")
	l.run("test", 1, header+lidGone+"FAIL\texample.org/p [build failed]\n")
	l.run("test", 1, "--- FAIL: TestLid (0.00s)\n    a_test.go:3: got 3, want 4\nFAIL\nFAIL\texample.org/p\t0.1s\n")
	l.want("C1 cleared, C2 shown")
	if got := l.origins("C2"); got != "uncovered" {
		t.Errorf("what was behind the build is %q", got)
	}
	l.run("test", 0, passing)
	l.run("test", 1, "--- FAIL: TestCap (0.00s)\n    a_test.go:9: no cap\nFAIL\nFAIL\texample.org/p\t0.1s\n")
	l.want("C1 cleared, C2 cleared, C3 shown")
}

// TestADeletedTestIsNotFixed holds that a test which is gone, or skipped,
// leaves its cause out of sight.
func TestADeletedTestIsNotFixed(t *testing.T) {
	event := func(test, word string) string {
		return `{"Action":"output","Package":"p","Test":"` + test + `","Output":"--- ` + word + `: ` + test + ` (0.00s)\n"}` + "\n"
	}
	const ok, failed = `{"Action":"output","Package":"p","Output":"ok  \tp\t0.1s\n"}` + "\n", `{"Action":"output","Package":"p","Output":"FAIL\tp\t0.1s\n"}` + "\n"
	for name, after := range map[string]string{"deleted": event("TestCap", "PASS") + ok, "skipped": event("TestCap", "PASS") + event("TestLid", "SKIP") + ok} {
		t.Run(name, func(t *testing.T) {
			l := newLeg(t, event("TestCap", "PASS")+event("TestLid", "PASS")+ok)
			l.run("test", 1, event("TestCap", "PASS")+event("TestLid", "FAIL")+failed)
			l.want("C1 shown")
			l.run("test", 0, after)
			if got := l.state.Causes["C1"].Status; got != Hidden {
				t.Errorf("the cause is %s", got)
			}
			missing := 0
			for _, s := range l.state.Symptoms {
				if s.Kind == symptom.MissingTest && s.Status == Shown {
					missing++
				}
			}
			if missing != 1 {
				t.Errorf("%d tests are said to be missing", missing)
			}
			l.run("test", 0, event("TestCap", "PASS")+event("TestLid", "PASS")+ok)
			if got := l.state.Causes["C1"].Status; got != Cleared {
				t.Errorf("with the test back and passing the cause is %s", got)
			}
		})
	}
}

// TestAnOlderRunDoesNotHoldBack holds that a newer run of a check which had
// shown a symptom clears it, though an older run of another check still has it.
func TestAnOlderRunDoesNotHoldBack(t *testing.T) {
	l := newLeg(t, "")
	l.run("build", 1, header+lidGone)
	l.run("test", 1, header+lidGone+"FAIL\texample.org/p [build failed]\n")
	l.want("C1 shown")
	l.run("build", 0, "")
	if s := l.state.Causes["C1"]; s.Status != Shown || s.Shown != 1 {
		t.Errorf("the cause is %s with %d shown: only the suite that the old run could not build is left", s.Status, s.Shown)
	}
	l.run("test", 0, "ok  \texample.org/p\t0.1s\n")
	l.want("C1 cleared")
}

func TestKnownSymptomsAreNoNews(t *testing.T) {
	l := newLeg(t, header+lidGone)
	l.run("build", 1, header+lidGone+capGone)
	known := 0
	for _, c := range l.state.Causes {
		if c.Known {
			known++
		}
	}
	if known != 1 || len(l.state.Causes) != 2 {
		t.Errorf("%d known causes of %d", known, len(l.state.Causes))
	}
	for _, s := range l.state.Symptoms {
		if (s.Origin == "") != (s.State == symptom.Unchanged) {
			t.Errorf("%s is %s and came as %q", s.Message, s.State, s.Origin)
		}
	}
}

func TestIdentities(t *testing.T) {
	l := newLeg(t, "")
	l.run("build", 1, header+lidGone+capGone)
	first := l.state.Identities()
	l.run("build", 0, "")
	if !reflect.DeepEqual(l.state.Identities(), first) {
		t.Error("a cleared cause is no longer recognised")
	}
	if l.state.Judge("C99", 0, Claimed) != Proved {
		t.Error("a cause that is not there is not settled")
	}
}

// TestFollowersComeWithTheirRoots holds that a build that fails again for a cause
// which has returned has returned with it.
func TestFollowersComeWithTheirRoots(t *testing.T) {
	l := newLeg(t, "ok  \texample.org/p\t0.01s\nok  \texample.org/q\t0.01s\n")
	broken := func(unit, file string) string {
		return "# " + unit + " [" + unit + ".test]\n./" + file + ":3:1: undefined: jar.OpenLid\nFAIL\t" + unit + " [build failed]\nFAIL\n"
	}
	l.run("test", 1, broken("example.org/p", "a.go"))
	l.run("test", 0, "ok  \texample.org/p\t0.01s\nok  \texample.org/q\t0.01s\n")
	l.run("test", 1, broken("example.org/q", "b.go"))
	if got := l.origins("C1"); got != "bump bump returned returned" {
		t.Errorf("the symptoms of C1 came as %s", got)
	}
}
