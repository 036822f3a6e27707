package report

import (
	"bytes"
	"strings"
	"testing"

	"unicausa/internal/api"
)

func cause(change func(*api.Cause)) api.Cause {
	c := api.Cause{ID: "C3", Title: "jar.OpenLid no longer exists", Kind: "removed", Phase: "compile", Rank: 1, Reason: "clears 2 symptoms", Status: "shown", Shown: 2, Symptoms: 2, First: 4, Checks: []string{"build"}}
	change(&c)
	return c
}

// TestStandings holds that every standing of a cause has a shape and a word.
func TestStandings(t *testing.T) {
	decision := func(kind, outcome, due string) func(*api.Cause) {
		return func(c *api.Cause) {
			c.Decision = &api.Decision{Kind: api.DecisionKind(kind), Outcome: api.DecisionOutcome(outcome), Due: due}
		}
	}
	for want, change := range map[string]func(*api.Cause){
		"▲ new":                  func(*api.Cause) {},
		"↻ returned":             func(c *api.Cause) { c.Returned = true },
		"◇ uncovered":            func(c *api.Cause) { c.Uncovered = true },
		"◌ out of sight":         func(c *api.Cause) { c.Status = "hidden" },
		"✓ cleared":              func(c *api.Cause) { c.Status = "cleared" },
		"· known":                func(c *api.Cause) { c.Known = true },
		"▷ fix claimed":          decision("fix", "claimed", ""),
		"▷ fix disproved":        decision("fix", "disproved", ""),
		"⧗ deferred until jar 6": decision("defer", "", "jar 6"),
		"⧗ waiting":              decision("wait", "", ""),
		"= accepted":             decision("accept", "", ""),
		"– dismissed":            decision("dismiss", "", ""),
	} {
		c := cause(change)
		mark, word := shape(&c)
		if got := mark + " " + word; got != want {
			t.Errorf("the standing is %q, want %q", got, want)
		}
	}
}

func TestCauses(t *testing.T) {
	link := &api.Link{Change: api.Change{Notes: "jar.md", Line: 5}, Score: 0.97, Standing: "likely"}
	list := []api.Cause{
		cause(func(c *api.Cause) { c.Link = link }),
		cause(func(c *api.Cause) { c.ID, c.Status, c.Title = "C1", "cleared", strings.Repeat("long ", 60) }),
		cause(func(c *api.Cause) { c.ID, c.Known = "C2", true }),
	}
	var some, all, none bytes.Buffer
	for _, err := range []error{Causes(&some, list, false), Causes(&all, list, true), Causes(&none, list[1:], false)} {
		if err != nil {
			t.Fatal(err)
		}
	}
	for _, part := range []string{"▲ C3     2  jar.OpenLid no longer exists", "clears 2 symptoms · jar.md:5 likely, 97 %", "1 cleared and 1 there before are not listed"} {
		if !strings.Contains(some.String(), part) {
			t.Errorf("no %q in\n%s", part, some.String())
		}
	}
	if strings.Contains(some.String(), "C1") || !strings.Contains(all.String(), "✓ C1") || !strings.Contains(all.String(), "· C2") || strings.Contains(all.String(), "not listed") {
		t.Errorf("the lists are\n%s\n%s", some.String(), all.String())
	}
	if !strings.Contains(none.String(), "✓ no cause is left") {
		t.Errorf("with nothing left the list is\n%s", none.String())
	}
	for _, line := range strings.Split(all.String(), "\n") {
		if n := len([]rune(line)); n > 104 {
			t.Errorf("%d columns: %s", n, line)
		}
	}
}

func TestCause(t *testing.T) {
	d := api.CauseDetail{
		Cause: cause(func(*api.Cause) {}), Because: []api.Because{{What: "same missing symbol", Value: "jar.OpenLid", Weight: 1}},
		Symptoms: []api.Symptom{
			{Message: "undefined: jar.OpenLid", File: "shelf.go", Line: 3, Status: "shown", State: "new", Places: []api.Place{{Run: 4, Input: "build.log", Line: 2}}, Source: []api.SourceLine{{Line: 2, Text: "before"}, {Line: 3, Text: "\tjar.OpenLid()"}}},
			{Message: "p [build failed]", Test: "", Status: "shown", Follower: true},
			{Message: "gone", File: "a.go", Status: "cleared"}, {Message: "covered", File: "b.go", Status: "hidden"},
		},
		Links:     []api.Link{{Change: api.Change{ID: "x", Notes: "jar.md", Line: 5, Kind: "renamed", Version: "5.0.0"}, Score: 0.3, Standing: "likely", State: "confirmed", Because: []api.Because{{What: "has the missing symbol", Value: "OpenLid", Weight: 5}}}},
		Decisions: []api.Decision{{Kind: "fix", Outcome: "claimed", Reason: "renamed", Author: "Mirja", AfterRun: 7}},
	}
	for i := range 20 {
		d.Symptoms = append(d.Symptoms, api.Symptom{Message: "more", File: "m.go", Line: i + 1})
	}
	var b bytes.Buffer
	if err := Cause(&b, &d, map[string][]string{"x": {"- `OpenLid` was renamed", "", "2", "3", "4", "5", "6", "7", "8", "9"}}); err != nil {
		t.Fatal(err)
	}
	for _, part := range []string{"C3  jar.OpenLid no longer exists", "▲ new · 2 symptoms shown", "same missing symbol jar.OpenLid (1.00)", "▲ 1 shelf.go:3  run 4, build.log:2", "│ jar.OpenLid()", "└", "✓ 3 a.go", "◌ 4 b.go",
		"and 12 more", "1 jar.md:5 confirmed", "renamed 5.0.0, likely, 30 %", "│ - `OpenLid` was renamed", "│ …", "+5.00 has the missing symbol OpenLid", "fix claimed: renamed Mirja, after run 7"} {
		if !strings.Contains(b.String(), part) {
			t.Errorf("no %q in\n%s", part, b.String())
		}
	}
	b.Reset()
	d.Links = nil
	if err := Cause(&b, &d, nil); err != nil || !strings.Contains(b.String(), "no entry of the notes explains this") {
		t.Errorf("without a link (%v):\n%s", err, b.String())
	}
}

// TestWhy holds that every reason of a cause is said, each once, with its weight.
func TestWhy(t *testing.T) {
	because := &api.Because{What: "same missing symbol", Value: "jar.OpenLid"}
	d := api.CauseDetail{
		Cause: cause(func(*api.Cause) {}),
		Symptoms: []api.Symptom{
			{Message: "undefined: jar.OpenLid", File: "shelf.go", Line: 3, Because: because}, {Message: "undefined: jar.OpenLid", File: "label.go", Line: 9, Because: because},
			{Message: "no lid", Test: "TestLid", Follower: true, Because: &api.Because{What: "cannot be built without", Value: "shelf.go"}}, {Message: "alone", File: "a.go"},
		},
		Links: []api.Link{
			{Change: api.Change{Notes: "jar.md", Line: 5, Title: "OpenLid was renamed"}, Score: 0.9, Standing: "likely", State: "proposed", Because: []api.Because{{What: "names the missing symbol", Value: "OpenLid", Weight: 3.6}, {What: "describes a fix", Weight: -2.2}}},
			{Change: api.Change{Notes: "jar.md", Line: 9}, Score: 0.08, Standing: "possible", State: "rejected"},
		},
	}
	for i := range 6 {
		d.Symptoms = append(d.Symptoms, api.Symptom{Message: "more", File: "m.go", Line: i + 1, Because: &api.Because{What: "on the same line"}})
	}
	var b bytes.Buffer
	if err := Why(&b, &d); err != nil {
		t.Fatal(err)
	}
	for _, part := range []string{"2 symptoms same missing symbol jar.OpenLid", "  shelf.go:3: undefined: jar.OpenLid", "1 symptom cannot be built without shelf.go, so it follows", "  TestLid: no lid",
		"1 symptom put here without a reason of its own", "6 symptoms on the same line", "and 2 more", "jar.md:5 likely, 90 %  OpenLid was renamed", " +3.60  names the missing symbol OpenLid", " -2.20  describes a fix", "jar.md:9 rejected, perhaps, 8 %"} {
		if !strings.Contains(b.String(), part) {
			t.Errorf("no %q in\n%s", part, b.String())
		}
	}
	b.Reset()
	d.Links = nil
	if err := Why(&b, &d); err != nil || !strings.Contains(b.String(), "No entry of the notes shares a name") {
		t.Errorf("without a link (%v):\n%s", err, b.String())
	}
}

func TestFitAndClip(t *testing.T) {
	for _, test := range []struct{ got, want string }{
		{fit("short", 20), "short"}, {fit("abcdefghijklmnopqrst", 12), "abcdefgh…rst"}, {fit("a\tb", 20), "a  b"}, {fit("ääääääääääää", 9), "ääääää…ää"},
		{clip("short", 20), "short"}, {clip("abcdefghijkl", 9), "abcdefgh…"}, {certainty("likely", 0.6), "likely, 60 %"}, {certainty("possible", 0.3), "perhaps, 30 %"},
		{count(1, "cause"), "1 cause"}, {count(3, "cause"), "3 causes"}, {count(2, "line that looks", "lines that look"), "2 lines that look"},
	} {
		if test.got != test.want {
			t.Errorf("got %q, want %q", test.got, test.want)
		}
	}
}
