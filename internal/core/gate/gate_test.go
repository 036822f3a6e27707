package gate

import (
	"strings"
	"testing"

	"unicausa/internal/core/compare"
	"unicausa/internal/core/symptom"
	"unicausa/internal/core/track"
)

var (
	green = &Run{Number: 1, Exit: 0, Frontier: compare.Complete}
	again = &Run{Number: 9, Exit: 0, Frontier: compare.Complete}
	red   = &Run{Number: 9, Exit: 1, Frontier: symptom.PhaseCompile}
	amber = &Run{Number: 1, Exit: 1, Frontier: symptom.PhaseTest}
)

// TestJudge holds every reason that the gate has, and that it opens without one.
func TestJudge(t *testing.T) {
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
		{"many tests are gone", []Check{{Name: "test", Baseline: green, Latest: again, Lost: lost(false, 9)}}, nil, "lost-test lost-test lost-test lost-test", "and 6 more tests of test"},
		{"a new cause", passing, []Cause{{ID: "C1", Title: "no lid", Status: track.Shown}}, Undecided, "C1 is undecided: no lid"},
		{"a cause that is out of sight", passing, []Cause{{ID: "C1", Title: "no lid", Status: track.Hidden}}, Unsettled, "C1 is out of sight, not cleared"},
		{"a cleared cause", passing, []Cause{{ID: "C1", Status: track.Cleared}}, "", ""},
		{"a known cause", passing, []Cause{{ID: "C1", Status: track.Shown, Known: true}}, "", ""},
		{"a claimed fix", passing, []Cause{{ID: "C1", Status: track.Shown, Decision: "fix", Fix: track.Claimed}}, Unproved, "no run has proved it yet"},
		{"a disproved fix", passing, []Cause{{ID: "C1", Status: track.Shown, Decision: "fix", Fix: track.Disproved}}, Refuted, "a later run still shows it"},
		{"a proved fix", passing, []Cause{{ID: "C1", Status: track.Cleared, Decision: "fix", Fix: track.Proved}}, "", ""},
		{"a fix that was proved and came back", passing, []Cause{{ID: "C1", Status: track.Shown, Decision: "fix", Fix: track.Proved}}, Unproved, "C1"},
		{"deferred", passing, []Cause{{ID: "C1", Status: track.Shown, Decision: "defer"}}, "", ""},
		{"accepted", passing, []Cause{{ID: "C1", Status: track.Shown, Decision: "accept"}}, "", ""},
		{"waiting", passing, []Cause{{ID: "C1", Status: track.Hidden, Decision: "wait"}}, "", ""},
		{"dismissed", passing, []Cause{{ID: "C1", Status: track.Shown, Decision: "dismiss"}}, "", ""},
		{"an accepted cause does not excuse a failing check", []Check{{Name: "test", Baseline: green, Latest: red}}, []Cause{{ID: "C1", Status: track.Shown, Decision: "accept"}}, Fails, "test fails"},
	} {
		t.Run(test.name, func(t *testing.T) {
			v := Judge(test.checks, test.causes)
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
