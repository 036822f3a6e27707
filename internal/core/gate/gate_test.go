package gate

import (
	"strings"
	"testing"

	"unicausa/internal/core/compare"
	"unicausa/internal/core/symptom"
	"unicausa/internal/core/track"
	"unicausa/internal/core/versions"
)

var (
	green = &Run{Number: 1, Exit: 0, Frontier: compare.Complete}
	again = &Run{Number: 9, Exit: 0, Frontier: compare.Complete}
	red   = &Run{Number: 9, Exit: 1, Frontier: symptom.PhaseCompile}
	amber = &Run{Number: 1, Exit: 1, Frontier: symptom.PhaseTest}
)

// TestJudge holds every reason that the gate has, and that it opens without one.
func TestJudge(t *testing.T) {
	counting := func(telling compare.Telling, n int) *Run {
		return &Run{Number: 9, Frontier: compare.Complete, Tests: compare.TestCount{Telling: telling, Total: n, Passed: n}}
	}
	passing := []Check{{Name: "build", Baseline: green, Latest: again}}
	lost := func(skipped bool, n int) []compare.Lost {
		var list []compare.Lost
		for i := range n {
			list = append(list, compare.Lost{Test: symptom.Test{Suite: "p", Name: "Test" + string(rune('A'+i))}, Skipped: skipped})
		}
		return list
	}
	for _, test := range []struct {
		name   string
		checks []Check
		causes []Cause
		want   string // codes, in order
		text   string
	}{
		{"everything passes", passing, nil, "", ""},
		{"nothing is recorded", nil, nil, NoBaseline, "unicausa baseline"},
		{"no baseline is accepted", []Check{{Name: "build", Latest: again}}, nil, NoBaseline, "accept it"},
		{"a check has not been run", []Check{{Name: "build", Baseline: green}}, nil, NotRun, "build has not been run since the bump"},
		{"a check fails that passed", []Check{{Name: "build", Baseline: green, Latest: red}}, nil, Fails, "build fails (status 1 in run 9) and passed in the baseline"},
		{"a check fails as it did", []Check{{Name: "test", Baseline: amber, Latest: &Run{Number: 9, Exit: 1, Frontier: symptom.PhaseTest}}}, nil, "", ""},
		{"a check fails earlier than it did", []Check{{Name: "test", Baseline: amber, Latest: red}}, nil, Fails, "test gets as far as compile; in the baseline it reached test"},
		{"a check passes that failed", []Check{{Name: "test", Baseline: amber, Latest: again}}, nil, "", ""},
		{"a check without a baseline of its own", append([]Check{{Name: "lint", Latest: red}}, passing...), nil, "", ""},
		{"a test is gone", []Check{{Name: "test", Baseline: green, Latest: again, Lost: lost(false, 1)}}, nil, LostTest, "TestA passed in the baseline and is missing now"},
		{"a test is skipped", []Check{{Name: "test", Baseline: green, Latest: again, Lost: lost(true, 1)}}, nil, LostTest, "is skipped now"},
		{"many tests are gone", []Check{{Name: "test", Baseline: green, Latest: again, Lost: lost(false, 24)}}, nil, LostTest, "24 tests of test that passed in the baseline are missing or skipped: TestA; TestB; TestC; and 21 more"},
		{"fewer tests are counted, and none is named", []Check{{Name: "test", Baseline: counting(compare.Counted, 12), Latest: counting(compare.Counted, 10), Lost: lost(false, 1)}}, nil, LostTest + " " + FewerTests, "test counts 10 tests and the baseline 12: 1 more are missing, and it names none"},
		{"as many are counted", []Check{{Name: "test", Baseline: counting(compare.Counted, 12), Latest: counting(compare.Counted, 14)}}, nil, "", ""},
		{"another printer says nothing of tests", []Check{{Name: "test", Baseline: counting(compare.Named, 12), Latest: counting(compare.Silent, 0), Untold: 12}}, nil, UntoldTest, "says nothing of 12 tests of test that passed"},
		{"the counts are gone", []Check{{Name: "test", Baseline: counting(compare.Counted, 12), Latest: counting(compare.Silent, 0)}}, nil, UntoldTest, "and the baseline counts 12"},
		{"a new cause", passing, []Cause{{ID: "C1", Title: "no lid", Status: track.Shown}}, Undecided, "C1 is undecided: no lid"},
		{"a cause that is out of sight", passing, []Cause{{ID: "C1", Title: "no lid", Status: track.Hidden}}, Unsettled, "C1 is out of sight, not cleared"},
		{"a cleared cause", passing, []Cause{{ID: "C1", Status: track.Cleared}}, "", ""},
		{"a known cause", passing, []Cause{{ID: "C1", Status: track.Shown, Known: true}}, "", ""},
		{"a claimed fix", passing, []Cause{{ID: "C1", Status: track.Shown, Decision: "fix", Fix: track.Claimed}}, Unproved, "no run has proved it yet"},
		{"a disproved fix", passing, []Cause{{ID: "C1", Status: track.Shown, Decision: "fix", Fix: track.Disproved}}, Refuted, "a later run still shows it"},
		{"a proved fix", passing, []Cause{{ID: "C1", Status: track.Cleared, Decision: "fix", Fix: track.Proved}}, "", ""},
		{"a fix that was proved and came back", passing, []Cause{{ID: "C1", Status: track.Shown, Decision: "fix", Fix: track.Back}}, Returned, "C1 was fixed, and has returned"},
		{"deferred", passing, []Cause{{ID: "C1", Status: track.Shown, Decision: "defer", Due: "jar 6"}}, "", ""},
		{"deferred until nobody knows", passing, []Cause{{ID: "C1", Title: "no lid", Status: track.Shown, Decision: "defer"}}, NoMoment, "nothing says until when: no lid"},
		{"a test that was deleted while red", passing, []Cause{{ID: "C1", Title: "no lid", Status: track.Hidden, Silenced: 2}}, Silenced, "2 tests were deleted or skipped while red"},
		{"accepted", passing, []Cause{{ID: "C1", Status: track.Shown, Decision: "accept"}}, "", ""},
		{"waiting", passing, []Cause{{ID: "C1", Status: track.Hidden, Decision: "wait", Due: "2031-01-01"}}, "", ""},
		{"dismissed", passing, []Cause{{ID: "C1", Status: track.Shown, Decision: "dismiss"}}, "", ""},
		{"a check that only informs", []Check{{Name: "build", Baseline: green, Latest: again}, {Name: "lint", Informative: true, Baseline: green, Latest: red}}, nil, "", ""},
		{"an accepted cause does not excuse a failing check", []Check{{Name: "test", Baseline: green, Latest: red}}, []Cause{{ID: "C1", Status: track.Shown, Decision: "accept"}}, Fails, "test fails"},
	} {
		t.Run(test.name, func(t *testing.T) {
			v := Judge(Leg{Checks: test.checks, Causes: test.causes})
			var codes, texts []string
			for _, r := range v.Reasons {
				codes, texts = append(codes, r.Code), append(texts, r.Text)
				if strings.Contains(r.Text, "\n") {
					t.Errorf("the reason %q is no single line", r.Text)
				}
			}
			if strings.Join(codes, " ") != test.want || !strings.Contains(strings.Join(texts, "\n"), test.text) || v.Open != (test.want == "") {
				t.Errorf("open %v, %v, %q, want %q with %q", v.Open, codes, texts, test.want, test.text)
			}
		})
	}
}

// TestWords holds the reasons that a person's word settles, each without it and
// with it.
func TestWords(t *testing.T) {
	checks := []Check{{Name: "test", Baseline: green, Latest: again}}
	jar := []versions.Move{{Package: "example.org/jar", To: "5.0.0"}}
	for _, test := range []struct {
		name      string
		leg       Leg
		code, key string
		text      string
	}{
		{"a lost test", Leg{Checks: []Check{{Name: "test", Baseline: green, Latest: again, Lost: []compare.Lost{{Test: symptom.Test{Suite: "p", Name: "TestLid"}}}}}}, LostTest, "test:test:TestLid", "TestLid passed"},
		{"a silenced test", Leg{Checks: checks, Causes: []Cause{{ID: "C1", Status: track.Hidden, Silenced: 1}}}, Silenced, "silenced:C1", "1 test was deleted"},
		{"a silent risk", Leg{Checks: checks, Risks: []Risk{{"c0ffee", "Lids close by themselves", 3}}}, SilentRisk, "change:c0ffee", "3 places: Lids close"},
		{"many silent risks", Leg{Checks: checks, Risks: []Risk{{"1", "A", 3}, {"2", "B", 3}, {"3", "C", 3}, {"4", "D", 3}}}, SilentRisk, "risks", "nobody has looked at 4 silent risks: A; B; C; and 1 more"},
		{"a version that no run saw", Leg{Checks: checks, Moves: jar}, Unseen, "version:example.org/jar", "no run says which example.org/jar it ran"},
		{"a run on the old version", Leg{Checks: checks, Moves: jar, Seen: []Seen{{"example.org/jar", "4.2.0", 9}}}, NotMoved, "version:example.org/jar", "run 9 still ran example.org/jar 4.2.0, not 5.0.0"},
		{"a suppression that is no debt", Leg{Checks: checks, Unbooked: []Unbooked{{"found:x", "a.go", 3, "the linter looks away"}}}, NotBooked, "found:x", "the linter looks away since the bump"},
	} {
		t.Run(test.name, func(t *testing.T) {
			v := Judge(test.leg)
			if len(v.Reasons) != 1 || v.Open || v.Reasons[0].Code != test.code || v.Reasons[0].Key != test.key || !strings.Contains(v.Reasons[0].Text, test.text) || v.Reasons[0].At.Kind == "" {
				t.Fatalf("without a word: %+v", v)
			}
			test.leg.Words = map[string]Word{test.key: {"seen to", "Mirja"}}
			if v := Judge(test.leg); !v.Open || len(v.Vouched) != 1 || v.Vouched[0].Word.Author != "Mirja" {
				t.Errorf("with a word: %+v", v)
			}
		})
	}
	if v := Judge(Leg{Checks: checks, Moves: jar, Seen: []Seen{{"example.org/jar/v5", "v5.0.0", 9}}}); !v.Open {
		t.Errorf("the version that was seen: %+v", v)
	}
	if v := Judge(Leg{Checks: checks, Left: []string{"leg 2 (jar 5 to 6)"}}); v.Open || v.Reasons[0].Code != LegLeft {
		t.Errorf("a leg that is left: %+v", v)
	}
	if v := Judge(Leg{Checks: []Check{{Name: "test", Baseline: green}}, Moves: jar, Risks: []Risk{{"x", "y", 1}}}); len(v.Reasons) != 1 {
		t.Errorf("before the bump there is more than one reason: %+v", v.Reasons)
	}
}
