package track

import (
	"testing"
	"testing/fstest"

	"unicausa/internal/core/compare"
	"unicausa/internal/core/source"
	"unicausa/internal/core/symptom"
	"unicausa/internal/core/triage"
)

func tree(t *testing.T, files map[string]string) *source.Tree {
	t.Helper()
	fsys := fstest.MapFS{}
	for name, text := range files {
		fsys[name] = &fstest.MapFile{Data: []byte(text)}
	}
	tree, err := source.NewTree(fsys)
	if err != nil {
		t.Fatal(err)
	}
	return tree
}

// TestEdits holds what an edit can be shown to have brought.
func TestEdits(t *testing.T) {
	original := tree(t, map[string]string{"a.go": "package p\n\nfunc open() { jar.OpenLid() }\n\nfunc shut() { open() }\n", "old.go": "package p\n"})
	now := tree(t, map[string]string{"a.go": "package p\n\nfunc openAll() { jar.Open() }\n\nfunc shut() { open() }\n", "a_test.go": "package p\n\nfunc TestShut() { shut() }\n"})
	step := Step{Original: original, Source: original, Tree: now}
	at := func(file, text string, frames ...symptom.Frame) triage.Symptom {
		return triage.Symptom{Symptom: symptom.Symptom{Kind: symptom.Error, File: file, Frames: frames}, Source: text}
	}
	missing := at("a.go", "func shut() { open() }")
	missing.Refs = []symptom.Ref{{Role: symptom.Missing, Name: "open"}}
	raised := at("a_test.go", "func TestShut() { shut() }", symptom.Frame{File: "a.go", Line: 5, Own: true}, symptom.Frame{File: "a_test.go", Line: 3, Own: true})
	raised.Kind, raised.Test = symptom.TestFailure, "TestShut"
	asserted := at("a_test.go", "func TestShut() { shut() }")
	asserted.Kind, asserted.Test = symptom.TestFailure, "TestShut"
	old := asserted
	old.Test = "TestOther" // which stands in neither, so that nothing is known of it
	for name, test := range map[string]struct {
		s                      triage.Symptom
		touched, near, reached bool
	}{
		"an assertion of a new test":              {s: asserted, touched: true},
		"an assertion on a line that was renamed": {s: old},
		"a line of the baseline":                  {s: at("a.go", "func shut() { open() }")},
		"a line that an edit made":                {s: at("a.go", "func openAll() { jar.Open() }"), touched: true},
		"no line is known":                        {s: at("a.go", "")},
		"the caller of what an edit took away":    {s: missing, reached: true},
		"a file that an edit took away":           {s: at("old.go", ""), reached: true},
		"a new test of a function that was there": {s: raised, near: true},
	} {
		if got := step.touched(&test.s); got != test.touched {
			t.Errorf("%s: touched is %v", name, got)
		}
		if got := step.near(&test.s); got != test.near {
			t.Errorf("%s: near is %v", name, got)
		}
		if got := step.reached(&test.s); got != test.reached {
			t.Errorf("%s: reached is %v", name, got)
		}
	}
	unknown := Step{}
	if unknown.touched(&missing) || unknown.near(&raised) || unknown.reached(&missing) {
		t.Error("without a tree an edit is blamed")
	}
}

// TestRedForAnotherReason holds that a test which fails in another way clears
// the old one only where its line is gone.
func TestRedForAnotherReason(t *testing.T) {
	before := tree(t, map[string]string{"a.py": "jar.open_lid()\nassert jar.full\n"})
	symptomAt := func(line int) *Symptom {
		return &Symptom{Symptom: symptom.Symptom{Kind: symptom.TestFailure, Unit: "p", Test: "test_lid", File: "a.py", Line: line}, Checks: []string{"tests"}}
	}
	failing := map[string]compare.Reach{"tests": {Tests: map[string]symptom.Outcome{symptom.Test{Suite: "p", Name: "test_lid"}.Key(): symptom.Failed}}}
	step := Step{Source: before, Tree: tree(t, map[string]string{"a.py": "jar.open()\nassert jar.full\n"}), Reach: failing, Report: &triage.Report{}}
	if step.red(symptomAt(1)) {
		t.Error("a failure whose line is gone hides behind the next one")
	}
	if !step.red(symptomAt(2)) {
		t.Error("a failure whose line still stands is taken for cleared")
	}
	step.Reach = map[string]compare.Reach{"tests": {}}
	if step.red(symptomAt(2)) {
		t.Error("a test that is not red is")
	}
}

// TestPassed reports whether a test got beyond where it had failed, by where it fails now:
// lines of the test itself, from the innermost of the project's calls outwards.
func TestPassed(t *testing.T) {
	files := map[string]string{"spec.rb": "def sign_in\n  walk\nend\n\nit do\n  sign_in\n  look\nend\n", "gem.rb": "raise\n"}
	before := tree(t, files)
	files["spec.rb"] = "# a line above\n" + files["spec.rb"]
	now := tree(t, files)
	red := func(id string, lines ...int) symptom.Symptom {
		s := symptom.Symptom{ID: id, Kind: symptom.TestFailure, Unit: "p", Test: "lid", State: symptom.New, File: "gem.rb", Line: 1, Frames: []symptom.Frame{{File: "gem.rb", Line: 1}}}
		for _, n := range lines {
			s.Frames = append(s.Frames, symptom.Frame{File: "spec.rb", Line: n, Own: true})
		}
		return s
	}
	for _, test := range []struct {
		name     string
		was, is  []int
		beyond   bool
		vanished bool
	}{
		{"on a later line", []int{6}, []int{8}, true, false},
		{"on an earlier line", []int{7}, []int{7}, false, false},
		{"on the same line, whose call has returned", []int{2, 6}, []int{7}, true, false},
		{"on the same line, in the same call", []int{2, 6}, []int{3, 7}, false, false},
		{"on the same line, deeper than before", []int{6}, []int{3, 7}, false, false},
		{"of a line that is gone", []int{6}, []int{8}, false, true},
	} {
		tree := now
		if test.vanished {
			tree = now.With(map[string][]byte{"spec.rb": []byte("it do\n  other\nend\n")})
		}
		step := Step{Source: before, Tree: tree, Report: &triage.Report{Symptoms: []triage.Symptom{{Symptom: red("new", test.is...)}}}}
		if got := step.passed(&Symptom{Symptom: red("old", test.was...)}); got != test.beyond {
			t.Errorf("%s: beyond is %v", test.name, got)
		}
	}
	step := Step{Source: before, Tree: now, Report: &triage.Report{Symptoms: []triage.Symptom{{Symptom: red("old", 8)}}}}
	if step.passed(&Symptom{Symptom: red("old", 6)}) {
		t.Error("it is beyond itself")
	}
}

// TestBehind holds what a run that does not build leaves out of sight.
func TestBehind(t *testing.T) {
	files := map[string]string{"pom.xml": "<project/>", "core/pom.xml": "<project/>", "core/Jar.java": "class Jar {\n  void old() {}\n}\n", "desk/pom.xml": "<project/>", "desk/Desk.java": "class Desk {\n  Lid lid;\n}\n"}
	before := tree(t, files)
	files["core/Jar.java"] = "class Jar {\n  void open() {}\n  void old() {}\n}\n"
	now := tree(t, files)
	at := func(kind symptom.Kind, file string, line int) *Symptom {
		return &Symptom{Symptom: symptom.Symptom{Kind: kind, Tool: "javac", File: file, Line: line}, Checks: []string{"build"}}
	}
	failing := compare.Reach{Frontier: symptom.PhaseCompile, Broken: []string{"javac"}, Folders: []string{"core"}}
	for name, test := range map[string]struct {
		s     *Symptom
		reach compare.Reach
		want  bool
	}{
		"an error in a module that was not built":           {at(symptom.Error, "desk/Desk.java", 2), failing, true},
		"an error in the module that fails":                 {at(symptom.Error, "core/Jar.java", 2), failing, false},
		"a warning whose line still stands":                 {at(symptom.Warning, "core/Jar.java", 2), failing, true},
		"a warning of another tool":                         {at(symptom.Warning, "core/Jar.java", 2), compare.Reach{Broken: []string{"kotlinc"}, Folders: []string{"core"}}, false},
		"a run that passes":                                 {at(symptom.Error, "desk/Desk.java", 2), compare.Reach{Frontier: compare.Complete}, false},
		"the same, where another module's error is printed": {at(symptom.Error, "desk/Desk.java", 2), compare.Reach{Broken: []string{"javac"}, Folders: []string{"core", "desk"}}, false},
	} {
		step := Step{Source: before, Tree: now, Reach: map[string]compare.Reach{"build": test.reach}}
		if got := step.behind(test.s); got != test.want {
			t.Errorf("%s: %v", name, got)
		}
	}
}
