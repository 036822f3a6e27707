package report

import (
	"bytes"
	"encoding/json"
	"encoding/xml"
	"strings"
	"testing"
	"time"

	"unicausa/internal/api"
)

var shut = api.Gate{
	Reasons: []api.GateReason{{Code: "check-fails", Text: "build fails", Check: "build", Path: "/runs/9"}, {Code: "silent-risk", Text: "nobody has looked at a <risk>", Key: "change:c0ffee", Path: "/notes?change=c0ffee"}},
	Vouched: []api.Vouched{{Reason: api.GateReason{Code: "lost-test", Text: "TestLid is missing", Check: "test"}, Word: "the lid is gone", Author: "Mirja"}},
}

// TestGateAs holds every form of a verdict, open and shut.
func TestGateAs(t *testing.T) {
	const base = "http://127.0.0.1:7236/upgrades/1"
	for _, test := range []struct {
		form string
		gate api.Gate
		want []string
	}{
		{"text", api.Gate{Open: true}, []string{"✓ the gate is open"}},
		{"text", shut, []string{"the gate is shut: 2 reasons", "   build fails", base + "/runs/9", " 2 nobody has looked", "the lid is gone, vouched for by Mirja: TestLid is missing", "unicausa vouch NUMBER"}},
		{"json", shut, []string{`"open": false`, `"key": "change:c0ffee"`, `"word": "the lid is gone"`}},
		{"junit", api.Gate{Open: true}, []string{`tests="1" failures="0" skipped="0"`, `classname="gate" name="everything that passed in the baseline passes again"`}},
		{"junit", shut, []string{`tests="3" failures="2" skipped="1"`, `<failure type="check-fails" message="build fails">` + base + "/runs/9</failure>", "nobody has looked at a &lt;risk&gt;", `<skipped message="the lid is gone (Mirja)">`}},
		{"sarif", shut, []string{`"version": "2.1.0"`, `"ruleId": "check-fails"`, `"hostedViewerUri": "` + base + `/runs/9"`, `"justification": "the lid is gone (Mirja)"`, `"fullyQualifiedName": "build"`}},
		{"markdown", shut, []string{"**The gate is shut** for 2 reasons.", "- [build fails](" + base + "/runs/9)", "- vouched for by Mirja"}},
		{"markdown", api.Gate{Open: true}, []string{"**The gate is open**"}},
		{"markdown", api.Gate{Reasons: []api.GateReason{{Code: "check-fails", Text: "there before"}, {Code: "brought", Text: "by this branch"}}}, []string{"reasons.\n\n- by this branch\n- there before\n"}},
	} {
		var b bytes.Buffer
		if err := GateAs(&b, test.form, test.gate, base); err != nil {
			t.Fatal(err)
		}
		for _, part := range test.want {
			if !strings.Contains(b.String(), part) {
				t.Errorf("%s: no %q in\n%s", test.form, part, b.String())
			}
		}
		switch test.form {
		case "json", "sarif":
			if !json.Valid(b.Bytes()) {
				t.Errorf("%s is no JSON:\n%s", test.form, b.String())
			}
		case "junit":
			if err := xml.Unmarshal(b.Bytes(), &junitSuite{}); err != nil {
				t.Errorf("junit is no XML: %v", err)
			}
		}
	}
	if err := GateAs(&bytes.Buffer{}, "yaml", shut, base); err == nil || !strings.Contains(err.Error(), "text, json, junit, sarif or markdown") {
		t.Errorf("an unknown form gives %v", err)
	}
}

func told() *Told {
	at := time.Date(2031, 5, 2, 9, 30, 0, 0, time.UTC)
	fix := &api.Decision{Kind: "fix", Reason: "renamed in every caller", Outcome: "proved", Author: "Mirja"}
	take := &api.Decision{Kind: "accept", Reason: "the trade rounds so", Author: "Jonas"}
	link := &api.Link{Change: api.Change{Notes: "jar.md", Line: 15, Title: "OpenLid was renamed"}, Score: 0.97, Standing: "likely", State: "confirmed"}
	causes := []api.Cause{
		{ID: "C1", Title: "jar.OpenLid was renamed to Open", Status: "cleared", Leg: 1, First: 2, Since: 4, Symptoms: 8, Decision: fix, Link: link},
		{ID: "C2", Title: "Halves are rounded to even", Status: "shown", Leg: 1, First: 2, Shown: 2, Symptoms: 2, Decision: take},
		{ID: "C3", Title: "a | in a title", Status: "shown", Leg: 1, First: 3, Shown: 1, Symptoms: 1, Uncovered: true},
		{ID: "C4", Title: "there before", Known: true, Status: "shown", Leg: 1},
	}
	green := api.Run{Number: 1, Baseline: true, Facts: api.RunFacts{Check: "build", Commit: "a0", Subject: "Before", StartedAt: at}}
	red := api.Run{Number: 4, Frontier: "compile", Facts: api.RunFacts{Check: "build", Commit: "b1", Subject: "Move to jar 5", Exit: 1, StartedAt: at.Add(time.Hour)}, Delta: &api.Delta{CausesLeft: 2, Disproved: []string{"C1"}}}
	return &Told{
		Overview: api.Overview{
			Upgrade: api.Upgrade{Name: "jar 5", Project: "pantry", Leg: api.Leg{Number: 1, Moves: []api.Move{{Package: "example.org/jar", From: "4.2.0", To: "5.0.0"}}}},
			Gate:    shut, Causes: causes, Checks: []api.Check{{Name: "build", Required: true, Baseline: &green, Latest: &red}, {Name: "lint"}},
			History: []api.HistoryPoint{{Run: 2, Check: "build", Causes: map[string]int{"C1": 8, "C2": 2}}, {Run: 4, Check: "build", Subject: "<Move>", Causes: map[string]int{"C2": 2, "C3": 1}}},
			Legs:    []api.LegRow{{Number: 1, Status: "current", Causes: 3, Runs: 4, Moves: []api.Move{{Package: "example.org/jar", From: "4.2.0", To: "5.0.0"}}}},
		},
		Causes: causes, Runs: []api.Run{red, green},
		Commits: []api.Commit{{ID: "0123456789abcdef", Subject: "Open in place of OpenLid", Named: []string{"C1"}}},
		Debts:   []api.Debt{{Text: "C9: the old label", Due: "jar 6.0.0", File: "label.go", Why: "jar reaches 6.0.0", IsDue: true}, {Text: "paid", Settled: true}},
		URL:     "http://127.0.0.1:7236/upgrades/1",
	}
}

// TestStories holds what each report for people tells.
func TestStories(t *testing.T) {
	for story, parts := range map[Story][]string{
		Today: {"# Where it stands: jar 5 of pantry", "**The gate is shut** for 2 reasons", "## Causes left: 2", "| C3 | [a \\| in a title](http://127.0.0.1:7236/upgrades/1/causes/C3) | 1 | none | cannot tell |",
			"2 → 2", "| build | passes (run 1) | fails, got as far as compile (run 4) | 0 |", "| lint (informs) | not run | not run | 0 |", "- until jar 6.0.0: C9: the old label (`label.go`), jar reaches 6.0.0"},
		PullRequest: {"Moves example.org/jar 4.2.0 to 5.0.0.", "- **C1** [jar.OpenLid was renamed to Open]", "explained by jar.md:15", "renamed in every caller", "in `0123456789` Open in place of OpenLid", "## Behaviour that is other now, and accepted", "the trade rounds so (Jonas)"},
		Closing: {"# What it took: jar 5 of pantry", "1. example.org/jar 4.2.0 to 5.0.0: current, 3 causes, 4 runs", "| 2031-05-02 09:30 | Before (baseline) |  |", "| 10:30 | Move to jar 5 | 2 |", "| C1 jar.OpenLid was renamed to Open | 8 | 2 | 1 | fix, proved: renamed in every caller |",
			"The notes explained 1 of 3 causes.", "1 cause was hidden behind others", "1 fix was claimed too early"},
	} {
		var b bytes.Buffer
		if err := StoryMarkdown(&b, story, told()); err != nil {
			t.Fatal(err)
		}
		for _, part := range parts {
			if !strings.Contains(b.String(), part) {
				t.Errorf("%s: no %q in\n%s", story, part, b.String())
			}
		}
		if strings.Contains(b.String(), "there before") || strings.Contains(b.String(), "paid") {
			t.Errorf("%s tells of what is no matter:\n%s", story, b.String())
		}
	}
	if err := StoryMarkdown(&bytes.Buffer{}, "tale", told()); err == nil {
		t.Error("an unknown report is told")
	}
}

// TestStoryPage holds that the page has the text and the chart, needs nothing
// else, and lets no mark-up of the records through.
func TestStoryPage(t *testing.T) {
	now = func() time.Time { return time.Date(2031, 5, 3, 8, 0, 0, 0, time.UTC) }
	defer func() { now = time.Now }()
	var b bytes.Buffer
	if err := StoryHTML(&b, Closing, told()); err != nil {
		t.Fatal(err)
	}
	for _, part := range []string{"<h1>What it took: jar 5 of pantry</h1>", "<svg viewBox=\"0 0 720 160\"", "run 4 of build: &lt;Move&gt;", "C1: 8 symptoms", "Made on 2031-05-03 08:00 UTC", "@media print"} {
		if !strings.Contains(b.String(), part) {
			t.Errorf("no %q in\n%s", part, b.String())
		}
	}
	for _, part := range []string{"<Move>", "<risk>", "<script", "src=", "@import", "<link"} {
		if strings.Contains(b.String(), part) {
			t.Errorf("there is %q in the page", part)
		}
	}
}
