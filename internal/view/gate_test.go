package view

import (
	"os"
	"regexp"
	"strings"
	"testing"

	"unicausa/internal/core/compare"
	"unicausa/internal/core/gate"
	"unicausa/internal/core/symptom"
	"unicausa/internal/core/track"
	"unicausa/internal/core/versions"
)

// TestReasonsLeadSomewhere holds that the console has a page at the path of
// every reason.
func TestReasonsLeadSomewhere(t *testing.T) {
	source, err := os.ReadFile("../../console/src/main.tsx")
	if err != nil {
		t.Fatal(err)
	}
	var routes []*regexp.Regexp
	for _, m := range regexp.MustCompile(`page\("([^/"][^"]*)?",`).FindAllStringSubmatch(string(source), -1) {
		routes = append(routes, regexp.MustCompile("^/"+regexp.MustCompile(`:\w+`).ReplaceAllString(m[1], `[^/]+`)+"$"))
	}
	run := func(n, exit int, frontier symptom.Phase) *gate.Run {
		return &gate.Run{Number: n, Exit: exit, Frontier: frontier, Tests: compare.TestCount{Telling: compare.Counted, Total: 20 - n}}
	}
	lost := []compare.Lost{{Test: symptom.Test{Name: "a/b"}}}
	legs := []gate.Leg{
		{},
		{Checks: []gate.Check{{Name: "new", Baseline: run(1, 0, compare.Complete)}}},
		{
			Checks: []gate.Check{
				{Name: "red", Baseline: run(1, 0, compare.Complete), Latest: run(3, 1, symptom.PhaseCompile)},
				{Name: "fewer", Baseline: run(1, 0, compare.Complete), Latest: run(4, 0, compare.Complete), Lost: lost},
				{Name: "many", Baseline: run(1, 0, compare.Complete), Latest: run(5, 0, compare.Complete), Lost: append(append(append(lost, lost...), lost...), lost...)},
				{Name: "untold", Baseline: run(1, 0, compare.Complete), Latest: &gate.Run{Number: 6, Frontier: compare.Complete, Tests: compare.TestCount{Telling: compare.Silent}}, Untold: 3},
			},
			Causes:   []gate.Cause{{ID: "C1", Status: track.Shown}, {ID: "C2", Status: track.Hidden, Silenced: 1}, {ID: "C3", Status: track.Hidden}},
			Risks:    []gate.Risk{{ID: "1"}},
			Moves:    []versions.Move{{Package: "jar", To: "5.0.0"}, {Package: "lid", To: "2.0.0"}},
			Seen:     []gate.Seen{{Package: "jar", Version: "4.0.0", Run: 3}},
			Unbooked: []gate.Unbooked{{Key: "found:a"}},
		},
		{
			Checks: []gate.Check{{Name: "green", Baseline: run(1, 0, compare.Complete), Latest: run(1, 0, compare.Complete)}},
			Risks:  []gate.Risk{{ID: "1"}, {ID: "2"}, {ID: "3"}, {ID: "4"}},
		},
	}
	paths := map[string]bool{address(gate.Target{Kind: gate.AtComparison, ID: "3", Other: "9"}): true}
	codes := map[string]bool{}
	for _, leg := range legs {
		for _, r := range gate.Judge(leg).Reasons {
			codes[r.Code] = true
			if r.At.Kind == "" {
				t.Errorf("%s points at nothing", r.Code)
			}
			paths[address(r.At)] = true
		}
	}
	delete(paths, "") // the upgrade's own page
	for path := range paths {
		page, _, _ := strings.Cut(path, "?")
		found := false
		for _, route := range routes {
			found = found || route.MatchString(page)
		}
		if !found {
			t.Errorf("the console has no page at %s", path)
		}
	}
	if len(routes) < 10 || len(codes) < 11 {
		t.Errorf("only %d routes and %d kinds of reasons were walked", len(routes), len(codes))
	}
}
