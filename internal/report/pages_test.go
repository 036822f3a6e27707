package report

import (
	"bytes"
	"encoding/json"
	"io"
	"strings"
	"testing"

	"unicausa/internal/core/notes"
	"unicausa/internal/core/read"
	"unicausa/internal/core/triage"
)

// jar is a report with what the pages have to cope with: markup in messages, a
// follower, a cause that was there before, a line that nobody understood.
func jar(t *testing.T) (*triage.Report, Texts) {
	t.Helper()
	all := func(name, text string) []read.Result {
		r, err := read.All(name, strings.NewReader(text))
		if err != nil {
			t.Fatal(err)
		}
		return []read.Result{r}
	}
	const old = "# p/press\npress/b.go:2:1: undefined: old | <thing>\n"
	const document = "## 5.0.0\n\n- `OpenLid` was renamed to `Open`. Use `Open` <b>everywhere</b>.\n"
	c := triage.Case{
		Before:  []triage.Snapshot{{Results: all("before.log", old)}},
		After:   []triage.Snapshot{{Results: all("after.log", old+"# p\na.go:1:1: undefined: jar.OpenLid\nb.go:2:1: undefined: jar.OpenLid\nFAIL\tp [build failed]\nd.go:3:1: undefined: `<lid>`\nfatal: something gave way <here>\n")}},
		Changes: notes.Read("jar.md", "", []byte(document)),
	}
	r := triage.Run(t.Context(), c)
	return &r, Texts{"jar.md": strings.Split(document, "\n")}
}

func TestPages(t *testing.T) {
	r, texts := jar(t)
	for name, test := range map[string]struct {
		write         func(io.Writer, *triage.Report, Texts) error
		holds, hasNot []string
	}{
		"markdown": {Markdown, []string{
			"5 new symptoms from 3 causes", "| C1 | jar.OpenLid was renamed to Open | 3 |", "- Write Open where OpenLid stands.", "a.go:1, seen at after.log:", "jar.md:3", "> - `OpenLid` was renamed",
			"  - follows: ", "## There before the bump", "`` undefined: `<lid>` ``", "\nseen at after.log:8",
		}, []string{"<no value>"}},
		"html": {HTML, []string{
			"<title>5 new symptoms from 3 causes</title>", `<section id="C1">`, "Write Open where OpenLid stands.", "&lt;b&gt;everywhere", "what follows", "There before the bump", "undefined: `&lt;lid&gt;`",
		}, []string{"<lid>", "<b>everywhere", "<script", "ZgotmplZ", "<no value>"}},
	} {
		var b bytes.Buffer
		if err := test.write(&b, r, texts); err != nil {
			t.Fatal(err)
		}
		for _, s := range test.holds {
			if !strings.Contains(b.String(), s) {
				t.Errorf("%s lacks %q:\n%s", name, s, b.String())
			}
		}
		for _, s := range test.hasNot {
			if strings.Contains(b.String(), s) {
				t.Errorf("%s has %q", name, s)
			}
		}
	}
}

func TestSARIF(t *testing.T) {
	r, texts := jar(t)
	var b bytes.Buffer
	if err := SARIF(&b, r, texts); err != nil {
		t.Fatal(err)
	}
	var log sarifLog
	if err := json.Unmarshal(b.Bytes(), &log); err != nil {
		t.Fatal(err)
	}
	run := log.Runs[0]
	if log.Version != "2.1.0" || len(run.Results) != len(r.Symptoms) || len(run.Tool.Driver.Rules) != len(r.Causes) {
		t.Errorf("version %s, %d results and %d rules", log.Version, len(run.Results), len(run.Tool.Driver.Rules))
	}
	states := map[string]int{}
	for _, result := range run.Results {
		states[result.BaselineState]++
		if result.RuleIndex >= 0 && run.Tool.Driver.Rules[result.RuleIndex].ID != result.RuleID {
			t.Errorf("result of %s has the index of %s", result.RuleID, run.Tool.Driver.Rules[result.RuleIndex].ID)
		}
		if result.Message.Text == "undefined: jar.OpenLid" && (result.Locations[0].Physical.Region.StartLine == 0 || result.RuleID != "C1") {
			t.Errorf("the result is %+v", result)
		}
	}
	if states["new"] != r.Summary.New || states["unchanged"] != 1 {
		t.Errorf("the states are %v", states)
	}
	if rule := run.Tool.Driver.Rules[0]; rule.Help == nil || !strings.Contains(rule.Help.Text, "Write Open where OpenLid stands.") {
		t.Errorf("the first rule is %+v", rule)
	}
}
