package accuracy

import (
	"fmt"
	"math"
	"strings"
	"testing"

	"unicausa/internal/core/link"
	"unicausa/internal/core/symptom"
	"unicausa/internal/core/triage"
)

// floor is what triage must reach on every labelled case of the set, and on
// average. Raise it when a change does better; it never goes down.
var floor = struct{ one, mean Score }{
	one:  Score{Recall: 1, Precision: 1, States: 1, BCubed: 0.85, Rand: 0.7, First: 0.6, FirstThree: 0.75, Silence: 0.99, Calibration: 0.35},
	mean: Score{Recall: 1, Precision: 1, States: 1, BCubed: 0.94, Rand: 0.88, First: 0.88, FirstThree: 0.95, Silence: 0.99, Calibration: 0.1},
}

func TestFloor(t *testing.T) {
	if _, err := Load("testdata/none"); err == nil {
		t.Error("a case that is not there was loaded")
	}
	cases, err := LoadAll("testdata")
	if err != nil {
		t.Fatal(err)
	}
	languages := map[string]bool{}
	var scores []Score
	for _, c := range cases {
		languages[strings.SplitN(c.Name, "-", 2)[0]] = true
		in, err := c.Triage()
		if err != nil {
			t.Fatal(err)
		}
		report := triage.Run(t.Context(), in)
		s := Measure(c, &report)
		scores = append(scores, s)
		t.Logf("%-18s causes %d/%d  B3 %.3f  ARI %.3f  first %.3f  three %.3f  silence %.3f", s.Case, s.Drawn, s.Causes, s.BCubed, s.Rand, s.First, s.FirstThree, s.Silence)
		below(t, s, floor.one)
		if s.Labels < 25 {
			t.Errorf("%s has %d labelled symptoms, fewer than 25", c.Name, s.Labels)
		}
	}
	if len(cases) < 10 || len(languages) < 6 {
		t.Errorf("the set has %d cases in %d languages", len(cases), len(languages))
	}
	mean := Mean(scores)
	t.Logf("%-18s B3 %.3f  ARI %.3f  first %.3f  three %.3f  silence %.3f  calibration %.3f", "mean", mean.BCubed, mean.Rand, mean.First, mean.FirstThree, mean.Silence, mean.Calibration)
	below(t, mean, floor.mean)
}

func below(t *testing.T, got, want Score) {
	t.Helper()
	for _, m := range []struct {
		name      string
		got, want float64
	}{
		{"reading recall", got.Recall, want.Recall}, {"reading precision", got.Precision, want.Precision}, {"states", got.States, want.States}, {"B-cubed", got.BCubed, want.BCubed},
		{"adjusted Rand index", got.Rand, want.Rand}, {"first link", got.First, want.First}, {"first three links", got.FirstThree, want.FirstThree},
		{"silence", got.Silence, want.Silence}, {"calibration", 1 - got.Calibration, 1 - want.Calibration},
	} {
		if m.got < m.want-1e-9 {
			t.Errorf("%s: %s is %.3f, below %.3f", got.Case, m.name, m.got, m.want)
		}
	}
}

// TestLabels holds that every label names a line that is there, and a cause
// that is described.
func TestLabels(t *testing.T) {
	cases, err := LoadAll("testdata")
	if err != nil {
		t.Fatal(err)
	}
	for _, c := range cases {
		known := map[string]bool{}
		for _, cause := range c.Causes {
			known[cause.ID] = true
		}
		used := map[string]bool{}
		for _, l := range c.Symptoms {
			if l.Cause != "" && !known[l.Cause] {
				t.Errorf("%s: %s:%d is of cause %q, which is not described", c.Name, l.Input, l.Line, l.Cause)
			}
			used[l.Cause] = true
		}
		for id := range known {
			if !used[id] {
				t.Errorf("%s: cause %s has no symptom", c.Name, id)
			}
		}
	}
}

func symptoms(list ...string) []triage.Symptom {
	var out []triage.Symptom
	for i, s := range list {
		var cause string
		var line int
		fmt.Sscanf(s, "%d %s", &line, &cause)
		out = append(out, triage.Symptom{Symptom: symptom.Symptom{ID: fmt.Sprint(i), State: symptom.New, At: []symptom.At{{Input: "log", Line: line}}}, Cause: cause})
	}
	return out
}

func TestMeasure(t *testing.T) {
	c := &Case{Name: "jar", Symptoms: []Label{{"log", 1, "", "new", "A"}, {"log", 5, "", "new", "A"}, {"log", 9, "", "new", "B"}, {"log", 20, "", "unchanged", ""}}}
	c.Inputs.After = []string{"log"}
	c.Causes = []Cause{{ID: "A"}, {ID: "B"}}
	c.Causes[0].Notes = append(c.Causes[0].Notes, struct {
		Path string `json:"path"`
		Line int    `json:"line"`
		End  int    `json:"end"`
	}{"notes", 3, 4})
	for _, test := range []struct {
		name     string
		symptoms []triage.Symptom
		links    []triage.Link // of C1
		want     Score
	}{
		{"all as labelled", symptoms("1 C1", "5 C1", "9 C2"), []triage.Link{{Change: "x", Score: 0.9}}, Score{Recall: 0.75, Precision: 1, States: 1, BCubed: 1, Rand: 1, First: 1, FirstThree: 1, Silence: 1}},
		{"a line off, and all one cause", symptoms("2 C1", "6 C1", "9 C1"), nil, Score{Recall: 0.75, Precision: 1, States: 1, BCubed: 0.714, Rand: 0, First: 0, FirstThree: 0, Silence: 1}},
		{"each alone, and one more", symptoms("1 C1", "5 C2", "9 C3", "40 C4"), []triage.Link{{Change: "y", Score: 0.9}, {Change: "x", Score: 0.2}}, Score{Recall: 0.75, Precision: 0.75, States: 1, BCubed: 0.8, Rand: 0, First: 0, FirstThree: 1, Silence: 1}},
	} {
		r := &triage.Report{Symptoms: test.symptoms, Causes: []triage.Cause{{ID: "C1", Links: test.links}}, Changes: []triage.Change{{ID: "x", Notes: "notes", Line: 4, End: 6}, {ID: "y", Notes: "notes", Line: 9, End: 9}}}
		got := Measure(c, r)
		for _, m := range []struct {
			name      string
			got, want float64
		}{{"recall", got.Recall, test.want.Recall}, {"precision", got.Precision, test.want.Precision}, {"states", got.States, test.want.States}, {"B3", got.BCubed, test.want.BCubed}, {"ARI", got.Rand, test.want.Rand}, {"first", got.First, test.want.First}, {"three", got.FirstThree, test.want.FirstThree}, {"silence", got.Silence, test.want.Silence}} {
			if math.Abs(m.got-m.want) > 0.001 {
				t.Errorf("%s: %s is %.3f, want %.3f", test.name, m.name, m.got, m.want)
			}
		}
	}
}

// TestFit holds that the fit finds which of two features tells right from
// wrong, that it is sure only of what it has seen, and that rivals count.
func TestFit(t *testing.T) {
	offered := func(values ...float64) (list []Example) {
		for _, v := range values {
			f := make([]float64, len(link.Features()))
			f[0] = v
			list = append(list, Example{Features: f, Right: v == 1})
		}
		return list
	}
	var choices []Choice
	for range 40 {
		choices = append(choices, Choice{Offered: offered(1, 0, 0)}, Choice{Offered: offered(0, 0), Silent: true})
	}
	w, b := Fit(choices)
	if p := choices[0].probabilities(w, b); p[0] < 0.9 || p[1] > 0.1 {
		t.Errorf("right is %.2f, wrong %.2f", p[0], p[1])
	}
	if p := (&Choice{Offered: offered(1, 1)}).probabilities(w, b); p[0] > 0.5 || p[0] != p[1] {
		t.Errorf("of two that are equal each has %v", p)
	}
	if s := judge("x", choices, w, b); s.First != 1 || s.Silence != 1 || s.Calibration > 0.1 {
		t.Errorf("judged %+v", s)
	}
}
