package triage

import (
	"archive/zip"
	"bytes"
	"encoding/json"
	"math/rand"
	"os"
	"path/filepath"
	"reflect"
	"strings"
	"testing"

	"unicausa/internal/core/link"
	"unicausa/internal/core/notes"
	"unicausa/internal/core/read"
	"unicausa/internal/core/source"
	"unicausa/internal/core/symptom"
	"unicausa/internal/core/versions"
)

// The demo's recordings, read as files: core knows nothing of the demo.
const (
	recordings = "../../demo/recordings/"
	documents  = "../../demo/notes/"
)

// answer is a cause of the demo's key: what its title says, which entry of the
// notes explains it (no line: none does), and how many symptoms it has.
type answer struct {
	title, notes   string
	line, symptoms int
}

// key are the causes of the demo's bump, as its makers know them.
var key = []answer{
	{"Bar codes live in", "binlabel-3.md", 21, 4},
	{"Reading.Kilos", "steelyard.md", 23, 11},
	{"steelyard.Mass", "steelyard.md", 36, 27},
	{"steelyard.OpenScale", "steelyard.md", 15, 8},
	{"renderLabel was renamed to render", "binlabel-3.md", 5, 6},
	{"Printing takes a job", "binlabel-3.md", 34, 8},
	{"Scale.Weigh takes a context", "steelyard.md", 16, 0},
	{"Options.Tare", "steelyard.md", 44, 5},
	{"Label.width", "binlabel-3.md", 25, 10},
	{"PrintOptions.paper", "binlabel-3.md", 45, 3},
	{"Sum takes its readings one by one", "steelyard.md", 17, 0},
	{"IsStable", "steelyard.md", 32, 2},
	{"{kg} is deprecated", "steelyard.md", 48, 3},
	{"LabelError", "", 0, 2},
}

func readFile(t testing.TB, name string) []byte {
	t.Helper()
	data, err := os.ReadFile(name)
	if err != nil {
		t.Fatal(err)
	}
	return data
}

// stage reads a stage of the demo as one snapshot.
func stage(t testing.TB, name string) Snapshot {
	t.Helper()
	var s Snapshot
	for _, check := range []string{"build", "test", "front", "labels"} {
		file := filepath.Join(recordings, name, check+".log")
		r, err := read.All(name+"/"+check+".log", bytes.NewReader(readFile(t, file)))
		if err != nil {
			t.Fatal(err)
		}
		s.Results = append(s.Results, r)
	}
	data := readFile(t, filepath.Join(recordings, name, "source.zip"))
	archive, err := zip.NewReader(bytes.NewReader(data), int64(len(data)))
	if err != nil {
		t.Fatal(err)
	}
	if s.Tree, err = source.NewTree(archive); err != nil {
		t.Fatal(err)
	}
	return s
}

func demo(t testing.TB, after string) Case {
	t.Helper()
	c := Case{
		Before: []Snapshot{stage(t, "steelyard-4/00-baseline")}, After: []Snapshot{stage(t, after)},
		Moves: []versions.Move{{Package: "orchardworks.example/steelyard", From: "3.7.0", To: "4.1.0"}, {Package: "@orchardworks/binlabel", From: "2.4.1", To: "3.0.2"}},
	}
	c.Changes = append(c.Changes, notes.Read("steelyard.md", "orchardworks.example/steelyard", readFile(t, documents+"steelyard.md"))...)
	c.Changes = append(c.Changes, notes.Read("binlabel-3.md", "@orchardworks/binlabel", readFile(t, documents+"binlabel-3.md"))...)
	return c
}

// TestDemoKey holds that every cause of the demo's key is found with its note,
// and that there are no others.
func TestDemoKey(t *testing.T) {
	report := Run(t.Context(), demo(t, "steelyard-4/01-bump"))
	changes := map[string]Change{}
	for _, c := range report.Changes {
		changes[c.ID] = c
	}
	if report.Summary.New < 100 || report.Summary.Unchanged != 2 {
		t.Errorf("the summary is %+v", report.Summary)
	}
	found := 0
	for _, c := range report.Causes {
		if c.Known {
			continue
		}
		found++
		matched := false
		for _, a := range key {
			if !strings.Contains(c.Title, a.title) {
				continue
			}
			matched = true
			if a.symptoms > 0 && len(c.Symptoms) != a.symptoms {
				t.Errorf("%s has %d symptoms, want %d", c.Title, len(c.Symptoms), a.symptoms)
			}
			switch {
			case a.line == 0:
				if len(c.Links) > 0 && c.Links[0].Score >= 0.5 {
					t.Errorf("%s is linked, and no note explains it: %+v", c.Title, c.Links[0])
				}
			case len(c.Links) == 0:
				t.Errorf("%s is not linked", c.Title)
			default:
				if l := changes[c.Links[0].Change]; l.Notes != a.notes || l.Line != a.line || c.Links[0].Score < 0.5 {
					t.Errorf("%s is linked to %s:%d with %.2f, want %s:%d", c.Title, l.Notes, l.Line, c.Links[0].Score, a.notes, a.line)
				}
			}
		}
		if !matched {
			t.Errorf("%s is not in the key", c.Title)
		}
	}
	if found != len(key) {
		t.Errorf("%d causes, the key has %d", found, len(key))
	}
}

// TestUncoveredTestsOfTheDemo holds that the silent changes of the demo are
// found by the tests that they break.
func TestUncoveredTestsOfTheDemo(t *testing.T) {
	report := Run(t.Context(), demo(t, "steelyard-4/04-compiles"))
	changes := map[string]Change{}
	for _, c := range report.Changes {
		changes[c.ID] = c
	}
	want := map[string]int{"TestPay": 18, "TestWait": 19}
	for _, c := range report.Causes {
		for test, line := range want {
			for _, s := range report.Symptoms {
				if s.ID == c.Root && strings.HasPrefix(s.Test, test) {
					delete(want, test)
					if len(c.Links) == 0 || changes[c.Links[0].Change].Line != line {
						t.Errorf("%s is linked to %+v, want line %d", test, c.Links, line)
					}
				}
			}
		}
	}
	if len(want) > 0 {
		t.Errorf("these tests are no causes: %v", want)
	}
}

// TestSameInputSameAnswer holds that neither the order of the inputs nor a
// second run changes the report.
func TestSameInputSameAnswer(t *testing.T) {
	c := demo(t, "steelyard-4/01-bump")
	want, err := json.Marshal(Run(t.Context(), c))
	if err != nil {
		t.Fatal(err)
	}
	for seed := range 3 {
		again := demo(t, "steelyard-4/01-bump")
		r := rand.New(rand.NewSource(int64(seed)))
		for _, side := range [][]Snapshot{again.Before, again.After} {
			list := side[0].Results
			r.Shuffle(len(list), func(i, j int) { list[i], list[j] = list[j], list[i] })
		}
		report := Run(t.Context(), again)
		// The inputs and unread lines are listed as they were given.
		report.Inputs = Run(t.Context(), c).Inputs
		got, err := json.Marshal(report)
		if err != nil {
			t.Fatal(err)
		}
		if !bytes.Equal(got, want) {
			t.Fatalf("seed %d gives another report", seed)
		}
	}
}

// TestListsAreNeverNull holds the report's format: docs/report.md.
func TestListsAreNeverNull(t *testing.T) {
	data, err := json.Marshal(Run(t.Context(), Case{}))
	if err != nil {
		t.Fatal(err)
	}
	if bytes.Contains(data, []byte("null")) || !bytes.Contains(data, []byte(`"format":"unicausa-report","version":1`)) {
		t.Errorf("an empty report is %s", data)
	}
	data, err = json.Marshal(Run(t.Context(), demo(t, "steelyard-4/01-bump")))
	if err != nil {
		t.Fatal(err)
	}
	if bytes.Contains(data, []byte(":null")) {
		t.Error("a list of the demo's report is null")
	}
}

func fresh(t *testing.T, name, text string) Snapshot {
	t.Helper()
	r, err := read.All(name, strings.NewReader(text))
	if err != nil {
		t.Fatal(err)
	}
	return Snapshot{Results: []read.Result{r}}
}

func TestRank(t *testing.T) {
	report := Run(t.Context(), Case{After: []Snapshot{fresh(t, "a.log", "x.c:1:1: warning: 'shut' is deprecated [-Wdeprecated]\n# p\na.go:1:1: undefined: jar.Cap\na.go:2:1: undefined: jar.Lid\na.go:3:1: undefined: jar.Lid\nb.go:1:8: no required module provides package example.org/jar; to add it:\nc.go:1:1: syntax error: unexpected lid\n")}})
	var got []string
	for i, c := range report.Causes {
		got = append(got, c.Title+" ("+c.Reason+")")
		if c.Rank != i+1 {
			t.Errorf("%s has rank %d at place %d", c.Title, c.Rank, i+1)
		}
	}
	want := []string{
		"example.org/jar cannot be resolved (stops the resolve phase: what comes behind it is hidden; clears 1 symptom)",
		"c.go cannot be parsed (stops the parse phase: what comes behind it is hidden; clears 1 symptom)",
		"jar.Lid no longer exists (clears 2 symptoms)",
		"jar.Cap no longer exists (clears 1 symptom)",
		"shut is deprecated (only warns: it can wait, and comes due later)",
	}
	if !reflect.DeepEqual(got, want) {
		t.Errorf("the order is\n%s\nwant\n%s", strings.Join(got, "\n"), strings.Join(want, "\n"))
	}
}

// TestRankAtRunTime holds that a warning with the tests that failed for it ranks
// by those, and that what runs and what is tested are of one rank.
func TestRankAtRunTime(t *testing.T) {
	const warned = "the lid takes no text any more\nError\n    at lid (node_modules/jar/lid.js:3:16)\n    at Context.<anonymous> (test/shelf.js:4:48)\n\n" +
		"  1) Shelf\n       shuts:\n     AssertionError [ERR_ASSERTION]: Expected values to be strictly equal:\n      at Context.<anonymous> (test/shelf.js:4:36)\n\n"
	report := Run(t.Context(), Case{After: []Snapshot{fresh(t, "a.log", "TypeError: jar.open is not a function\n    at open (open.js:1:1)\n\n"+warned)}})
	var got []string
	for _, c := range report.Causes {
		got = append(got, c.Title+" ("+c.Reason+")")
	}
	want := []string{"the lid takes no text any more (clears 2 symptoms)", "jar.open no longer exists (clears 1 symptom)"}
	if !reflect.DeepEqual(got, want) {
		t.Errorf("the order is\n%s\nwant\n%s", strings.Join(got, "\n"), strings.Join(want, "\n"))
	}
}

// TestSnapshots holds that what two checks saw on different states of the
// source is told by identity, not by line.
func TestSnapshots(t *testing.T) {
	older, newer := fresh(t, "test.log", "a.c:3:1: error: no lid\na.c:9:1: error: no cap\n"), fresh(t, "build.log", "a.c:7:1: error: no lid\n")
	report := Run(t.Context(), Case{After: []Snapshot{older, newer}})
	if len(report.Symptoms) != 2 {
		t.Fatalf("%d symptoms", len(report.Symptoms))
	}
	for _, s := range report.Symptoms {
		if s.Message == "no lid" && (s.Line != 7 || s.Count != 2) {
			t.Errorf("it stands at line %d with %d places", s.Line, s.Count)
		}
	}
}

func TestJudgedLinks(t *testing.T) {
	changes := notes.Read("jar.md", "", []byte("## 5.0.0\n\n- `Lid` was renamed to `Cap`.\n- `Lid` was removed from `Jar`.\n"))
	run := func(judged map[string]map[string]bool) []Link {
		return Run(t.Context(), Case{After: []Snapshot{fresh(t, "a.log", "# p\na.go:1:1: undefined: jar.Lid\n")}, Changes: changes, Judged: judged}).Causes[0].Links
	}
	first := run(nil)
	if len(first) != 2 {
		t.Fatalf("%d links", len(first))
	}
	if got := run(map[string]map[string]bool{"C1": {first[0].Change: false}}); len(got) != 1 || got[0].Change != first[1].Change {
		t.Errorf("with the first rejected the links are %+v", got)
	}
	if got := run(map[string]map[string]bool{"C1": {first[1].Change: true}}); len(got) != 2 || got[0].Change != first[1].Change || got[0].Standing != link.Likely {
		t.Errorf("with the second confirmed the links are %+v", got)
	}
}

// TestMovesBoundTheCandidates holds that an entry outside of the move explains
// nothing, and is listed all the same.
func TestMovesBoundTheCandidates(t *testing.T) {
	changes := notes.Read("jar.md", "example.org/jar", []byte("## 5.0.0\n\n- `Lid` was renamed to `Cap`.\n\n## 3.0.0\n\n- `Lid` was removed.\n"))
	for _, test := range []struct {
		move versions.Move
		want int
	}{
		{versions.Move{Package: "", From: "4.0.0", To: "5.0.0"}, 1}, {versions.Move{Package: "example.org/jar/v5", From: "4.0.0", To: "5.0.0"}, 1}, {versions.Move{Package: "", From: "2.0.0", To: "5.0.0"}, 2}, {versions.Move{Package: "", From: "5.0.0", To: "6.0.0"}, 0},
		{versions.Move{Package: "example.org/press", From: "1", To: "2"}, 2},
	} {
		report := Run(t.Context(), Case{After: []Snapshot{fresh(t, "a.log", "# p\na.go:1:1: undefined: jar.Lid\n")}, Changes: changes, Moves: []versions.Move{test.move}})
		if got := len(report.Causes[0].Links); got != test.want || len(report.Changes) != 2 {
			t.Errorf("%+v leaves %d links of %d changes, want %d", test.move, got, len(report.Changes), test.want)
		}
	}
}

func TestExposure(t *testing.T) {
	report := Run(t.Context(), demo(t, "steelyard-4/01-bump"))
	for _, c := range report.Changes {
		if c.Line == 15 && c.Notes == "steelyard.md" && (c.Exposure.Files != 6 || c.Exposure.Count != 8) {
			t.Errorf("OpenScale is exposed in %+v", c.Exposure)
		}
	}
}

func TestLostTestsAreSymptoms(t *testing.T) {
	const lid = `<testsuite name="p"><testcase name="TestLid"/><testcase name="TestCap"/></testsuite>`
	before := fresh(t, "before.xml", lid)
	report := Run(t.Context(), Case{Before: []Snapshot{before}, After: []Snapshot{fresh(t, "after.xml", strings.Replace(lid, `<testcase name="TestLid"/>`, "", 1))}})
	if len(report.Symptoms) != 1 || report.Symptoms[0].Kind != symptom.MissingTest || report.Symptoms[0].Test != "TestLid" || report.Summary.New != 1 {
		t.Errorf("the symptoms are %+v", report.Symptoms)
	}
	if report := Run(t.Context(), Case{Before: []Snapshot{before}, After: []Snapshot{fresh(t, "build.log", "")}}); len(report.Symptoms) != 0 {
		t.Errorf("tests that were not run are lost: %+v", report.Symptoms)
	}
}

func BenchmarkRun(b *testing.B) {
	c := demo(b, "steelyard-4/01-bump")
	for b.Loop() {
		Run(b.Context(), c)
	}
}
