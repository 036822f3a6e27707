package track

import (
	"fmt"
	"sort"
	"strings"
	"testing"

	"unicausa/internal/core/compare"
	"unicausa/internal/core/read"
	"unicausa/internal/core/symptom"
	"unicausa/internal/core/triage"
)

// TestRedrawn holds that causes which are drawn otherwise are told as one, or as two,
// and never as cleared. A run is a list of symptoms with their causes.
func TestRedrawn(t *testing.T) {
	for _, test := range []struct {
		name string
		runs []string
		want string // what each cause became, and how a fix of C2, claimed after the first run, is judged
	}{
		{"as before", []string{"a=C1 b=C2", "a=C1 b=C2"}, "C1, C2; disproved"},
		{"two are one", []string{"a=C1 b=C2", "a=C1 b=C1"}, "C1, C2 into C1; disproved"},
		{"two are one, which is fixed", []string{"a=C1 b=C2", "a=C1 b=C1", ""}, "C1, C2 into C1; proved"},
		{"one is two", []string{"a=C1 b=C1", "a=C1 b=C2"}, "C1, C2 from C1; disproved"},
		{"one goes on under another number", []string{"a=C1 b=C2", "a=C3 b=C2"}, "C1 into C3, C2, C3; disproved"},
		{"one goes out of sight while a new one comes", []string{"a=C1 b=C2", "a=C1 c=C3"}, "C1, C2, C3; claimed"},
		{"two were one, and part again", []string{"a=C1 b=C2", "a=C1 b=C1", "a=C1 b=C2"}, "C1, C2; disproved"},
		{"a part of one goes to another, which was there", []string{"a=C1 b=C1 c=C2", "a=C1 b=C2 c=C2"}, "C1, C2; disproved"},
		{"all of one goes while what it gave to another is not new", []string{"a=C1 b=C2 c=C2", "a=C2 b=C3 c=C2"}, "C1 into C2, C2, C3 from C2; disproved"},
		{"most of it goes to one of two", []string{"a=C2 b=C2 c=C2", "a=C1 b=C3 c=C3"}, "C1, C2 into C3, C3; disproved"},
	} {
		t.Run(test.name, func(t *testing.T) {
			s := &State{Symptoms: map[string]*Symptom{}, Causes: map[string]*Cause{}}
			for n, run := range test.runs {
				report := triage.Report{}
				causes := map[string]bool{}
				for _, field := range strings.Fields(run) {
					id, cause, _ := strings.Cut(field, "=")
					report.Symptoms = append(report.Symptoms, triage.Symptom{Symptom: symptom.Symptom{ID: id, Kind: symptom.Error, Phase: symptom.PhaseCompile, State: symptom.New, Message: id, At: []symptom.At{{Input: "build"}}}, Cause: cause})
					if !causes[cause] {
						causes[cause] = true
						report.Causes = append(report.Causes, triage.Cause{ID: cause, Signature: cause})
					}
				}
				reach := compare.ReachOf([]read.Result{{}}, min(len(run), 1), nil)
				s.Advance(Step{Run: n + 1, Check: "build", Report: &report, Reach: map[string]compare.Reach{"build": reach}, Runs: map[string]int{"build": n + 1}, CheckOf: func(input string) string { return input }})
			}
			var list []string
			for id, c := range s.Causes {
				if c.Into != "" {
					id += " into " + c.Into
				}
				if c.From != "" {
					id += " from " + c.From
				}
				list = append(list, id)
			}
			sort.Strings(list)
			if got := fmt.Sprintf("%s; %s", strings.Join(list, ", "), s.Judge("C2", 1, Claimed)); got != test.want {
				t.Errorf("it ends as %s, want %s", got, test.want)
			}
		})
	}
}
