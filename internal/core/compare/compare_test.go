package compare

import (
	"fmt"
	"reflect"
	"sort"
	"strings"
	"testing"
	"testing/fstest"

	"unicausa/internal/core/read"
	"unicausa/internal/core/source"
	"unicausa/internal/core/symptom"
	"unicausa/internal/core/versions"
)

func errorAt(file string, line int, message string) symptom.Symptom {
	return symptom.Symptom{Kind: symptom.Error, Phase: symptom.PhaseCompile, File: file, Line: line, Message: message, At: []symptom.At{{Input: "x", Line: line}}}
}

func failure(unit, test, message string) symptom.Symptom {
	return symptom.Symptom{Kind: symptom.TestFailure, Phase: symptom.PhaseTest, Unit: unit, Test: test, Message: message, At: []symptom.At{{Input: "x", Line: 1}}}
}

func TestStates(t *testing.T) {
	for _, test := range []struct {
		name          string
		before, after []symptom.Symptom
		want          string
	}{
		{"nothing", nil, nil, ""},
		{"only after", nil, []symptom.Symptom{errorAt("a.go", 3, "no")}, "a.go:3 new"},
		{"only before", []symptom.Symptom{errorAt("a.go", 3, "no")}, nil, "a.go:3 absent"},
		{"the same", []symptom.Symptom{errorAt("a.go", 3, "no")}, []symptom.Symptom{errorAt("a.go", 3, "no")}, "a.go:3 unchanged"},
		{"a moved line", []symptom.Symptom{errorAt("a.go", 3, "no")}, []symptom.Symptom{errorAt("a.go", 7, "no")}, "a.go:7 unchanged"},
		{"another number", []symptom.Symptom{errorAt("a.go", 3, "got 3")}, []symptom.Symptom{errorAt("a.go", 3, "got 4")}, "a.go:3 unchanged"},
		{"another file", []symptom.Symptom{errorAt("a.go", 3, "no")}, []symptom.Symptom{errorAt("b.go", 3, "no")}, "a.go:3 absent, b.go:3 new"},
		{
			"three before and five after are two new",
			[]symptom.Symptom{errorAt("a.go", 1, "no"), errorAt("a.go", 5, "no"), errorAt("a.go", 9, "no")},
			[]symptom.Symptom{errorAt("a.go", 1, "no"), errorAt("a.go", 3, "no"), errorAt("a.go", 5, "no"), errorAt("a.go", 9, "no"), errorAt("a.go", 20, "no")},
			"a.go:1 unchanged, a.go:20 new, a.go:3 new, a.go:5 unchanged, a.go:9 unchanged",
		},
		{
			"the nearest lines are the same ones",
			[]symptom.Symptom{errorAt("a.go", 100, "no")},
			[]symptom.Symptom{errorAt("a.go", 2, "no"), errorAt("a.go", 98, "no")},
			"a.go:2 new, a.go:98 unchanged",
		},
		{
			"a test that fails otherwise",
			[]symptom.Symptom{failure("p", "TestLid", "got a lid")}, []symptom.Symptom{failure("p", "TestLid", "panic")}, "p.TestLid updated",
		},
		{
			"a test of that name elsewhere",
			[]symptom.Symptom{failure("p", "TestLid", "no")}, []symptom.Symptom{failure("q", "TestLid", "no")}, "p.TestLid absent, q.TestLid new",
		},
	} {
		t.Run(test.name, func(t *testing.T) {
			var got []string
			for _, s := range States(Side{Symptoms: symptom.Merge(test.before)}, Side{Symptoms: symptom.Merge(test.after)}) {
				where := fmt.Sprintf("%s:%d", s.File, s.Line)
				if s.Test != "" {
					where = s.Unit + "." + s.Test
				}
				got = append(got, where+" "+string(s.State))
			}
			sort.Strings(got)
			if strings.Join(got, ", ") != test.want {
				t.Errorf("got  %s\nwant %s", strings.Join(got, ", "), test.want)
			}
		})
	}
}

// TestStatesPlaces holds that a place of the before side stands only under
// what is not new.
func TestStatesPlaces(t *testing.T) {
	before, after := errorAt("a.go", 3, "no"), errorAt("a.go", 5, "no")
	before.At[0].Input, after.At[0].Input = "before.log", "after.log"
	list := States(Side{Symptoms: symptom.Merge([]symptom.Symptom{before})}, Side{Symptoms: symptom.Merge([]symptom.Symptom{after, errorAt("b.go", 1, "no")})})
	for _, s := range list {
		var inputs []string
		for _, at := range s.At {
			inputs = append(inputs, at.Input)
		}
		want := map[symptom.State]string{symptom.Unchanged: "before.log after.log", symptom.New: "x"}[s.State]
		if strings.Join(inputs, " ") != want || s.Count != len(s.At) {
			t.Errorf("%s stands in %v", s.State, inputs)
		}
	}
}

func TestStatesOfManyEqual(t *testing.T) {
	var before, after []symptom.Symptom
	for i := range 400 {
		before = append(before, errorAt("a.go", i+1, "no"))
		after = append(after, errorAt("a.go", 2*i+1, "no"))
	}
	counts := map[symptom.State]int{}
	for _, s := range States(Side{Symptoms: symptom.Merge(before)}, Side{Symptoms: symptom.Merge(after[:350])}) {
		counts[s.State]++
	}
	if !reflect.DeepEqual(counts, map[symptom.State]int{symptom.Unchanged: 350, symptom.Absent: 50}) {
		t.Errorf("the states are %v", counts)
	}
}

func tests(outcome symptom.Outcome, names ...string) []symptom.Test {
	var list []symptom.Test
	for _, name := range names {
		suite, test, _ := strings.Cut(name, ".")
		list = append(list, symptom.Test{Suite: suite, Name: test, Outcome: outcome})
	}
	return list
}

func TestLostTests(t *testing.T) {
	both := func(lists ...[]symptom.Test) (all []symptom.Test) {
		for _, l := range lists {
			all = append(all, l...)
		}
		return all
	}
	before := both(tests(symptom.Passed, "p.A", "p.B", "q.C"), tests(symptom.Failed, "p.D"), tests(symptom.Skipped, "p.E"))
	for _, test := range []struct {
		name    string
		after   []symptom.Test
		blocked []string
		want    string
	}{
		{"all pass", before, nil, ""},
		{"one is gone", tests(symptom.Passed, "p.A", "q.C"), nil, "p.B"},
		{"one is skipped", both(tests(symptom.Passed, "p.A", "q.C"), tests(symptom.Skipped, "p.B")), nil, "p.B skipped"},
		{"one fails", both(tests(symptom.Passed, "p.A", "q.C"), tests(symptom.Failed, "p.B")), nil, ""},
		{"skipped once and passed once", both(tests(symptom.Passed, "p.A", "p.B", "q.C"), tests(symptom.Skipped, "p.B")), nil, ""},
		{"a suite could not be built", tests(symptom.Passed, "q.C"), []string{"p"}, ""},
		{"one is gone from the source", both(tests(symptom.Passed, "p.A", "q.C"), tests(symptom.Gone, "p.B")), nil, "p.B"},
		{"what failed or was skipped before is not lost", tests(symptom.Passed, "p.A", "p.B", "q.C"), nil, ""},
	} {
		t.Run(test.name, func(t *testing.T) {
			var got []string
			for _, l := range LostTests(before, test.after, test.blocked, Named) {
				name := l.Test.Suite + "." + l.Test.Name
				if l.Skipped {
					name += " skipped"
				}
				got = append(got, name)
				s := l.Symptom()
				if s.Kind != symptom.MissingTest || s.Test != l.Test.Name || s.Unit != l.Test.Suite || !strings.Contains(s.Message, "passed in the baseline") {
					t.Errorf("as a symptom it is %+v", s)
				}
			}
			if strings.Join(got, " ") != test.want {
				t.Errorf("lost %v, want %s", got, test.want)
			}
		})
	}
}

var pantry = fstest.MapFS{
	"go.mod":          {Data: []byte("module example.org/pantry\n")},
	"main.go":         {Data: []byte("package main\n\nimport \"example.org/pantry/label\"\n")},
	"label/label.go":  {Data: []byte("package label\n\nimport (\n\t\"fmt\"\n\n\t\"example.org/pantry/shelf\"\n)\n")},
	"shelf/shelf.go":  {Data: []byte("package shelf\n\nimport \"example.org/jar\"\n")},
	"alone/alone.go":  {Data: []byte("package alone\n")},
	"alone/a_test.go": {Data: []byte("package alone\n\nimport \"example.org/pantry/shelf\"\n")},
	"vendor/x/x.go":   {Data: []byte("package x\n\nimport \"example.org/pantry/shelf\"\n")},
}

func tree(t *testing.T) *source.Tree {
	t.Helper()
	tree, err := source.NewTree(pantry)
	if err != nil {
		t.Fatal(err)
	}
	return tree
}

// TestReachBehind holds that packages which import a blocked one, directly or
// not, are known not to have been tried.
func TestReachBehind(t *testing.T) {
	results := []read.Result{{Reach: read.Reach{Blocked: []string{"example.org/pantry/shelf"}}}}
	if got := ReachOf(results, 1, tree(t)).Behind; !reflect.DeepEqual(got, []string{"example.org/pantry", "example.org/pantry/label"}) {
		t.Errorf("behind are %v", got)
	}
	if got := ReachOf(results, 1, nil).Behind; got != nil {
		t.Errorf("without a tree there are %v behind", got)
	}
	if got := ReachOf([]read.Result{{}}, 1, tree(t)).Behind; got != nil {
		t.Errorf("with nothing blocked there are %v behind", got)
	}
}

func TestFrontier(t *testing.T) {
	for _, test := range []struct {
		name   string
		result read.Result
		exit   int
		want   symptom.Phase
	}{
		{"it passes", read.Result{}, 0, Complete},
		{"it passes with warnings", read.Result{Symptoms: []symptom.Symptom{errorAt("a.go", 1, "no")}}, 0, Complete},
		{"it does not compile", read.Result{Symptoms: []symptom.Symptom{errorAt("a.go", 1, "no")}}, 1, symptom.PhaseCompile},
		{"tests ran", read.Result{Tests: tests(symptom.Passed, "p.A"), Symptoms: []symptom.Symptom{errorAt("a.go", 1, "no")}}, 1, symptom.PhaseTest},
		{"nothing is known", read.Result{}, 1, ""},
	} {
		if got := ReachOf([]read.Result{test.result}, test.exit, nil).Frontier; got != test.want {
			t.Errorf("%s: the frontier is %q, want %q", test.name, got, test.want)
		}
	}
}

func TestCouldShow(t *testing.T) {
	compile, compiled := errorAt("shelf/shelf.go", 3, "no"), errorAt("label/label.go", 3, "no")
	compile.Unit, compiled.Unit = "shelf", "label"
	lid, whole := failure("shelf", "TestLid", "no"), failure("shelf", "", "set-up failed")
	passed := func(names ...string) map[string]symptom.Outcome {
		m := map[string]symptom.Outcome{}
		for _, test := range tests(symptom.Passed, names...) {
			m[test.Key()] = test.Outcome
		}
		return m
	}
	peer := symptom.Symptom{Kind: symptom.Resolve, Phase: symptom.PhaseResolve, Code: "ERESOLVE"}
	skipped := map[string]symptom.Outcome{tests(symptom.Skipped, "shelf.TestLid")[0].Key(): symptom.Skipped}
	for _, test := range []struct {
		name  string
		reach Reach
		s     symptom.Symptom
		want  bool
	}{
		{"a complete build", Reach{Frontier: Complete}, compile, true},
		{"a build that compiles", Reach{Frontier: symptom.PhaseCompile}, compile, true},
		{"a build that cannot be resolved", Reach{Frontier: symptom.PhaseResolve}, compile, false},
		{"the unit itself still has errors", Reach{Frontier: symptom.PhaseCompile, Blocked: []string{"shelf"}}, compile, true},
		{"its list was broken off", Reach{Frontier: symptom.PhaseCompile, Cut: []string{"shelf"}}, compile, false},
		{"it stands behind a broken unit", Reach{Frontier: symptom.PhaseCompile, Behind: []string{"label"}}, compiled, false},
		{"the test ran", Reach{Frontier: symptom.PhaseTest, Tests: passed("shelf.TestLid")}, lid, true},
		{"the test is gone", Reach{Frontier: symptom.PhaseTest, Tests: passed("shelf.TestOther"), Done: []string{"shelf"}}, lid, false},
		{"the test is skipped", Reach{Frontier: symptom.PhaseTest, Tests: skipped}, lid, false},
		{"passing tests are not named", Reach{Frontier: symptom.PhaseTest, Done: []string{"shelf"}}, lid, true},
		{"the suite was not built", Reach{Frontier: symptom.PhaseTest, Blocked: []string{"shelf"}}, lid, false},
		{"the suite did not run", Reach{Frontier: Complete}, lid, false},
		{"a suite's own failure", Reach{Frontier: Complete}, whole, true},
		{"peers that fit", Reach{Frontier: Complete}, peer, true},
		{"peers that npm is told to overlook", ReachOf(nil, 0, source.Of(map[string][]byte{".npmrc": []byte("fund=false\nlegacy-peer-deps = true\n")})), peer, false},
		{"peers that npm is to look at", ReachOf(nil, 0, source.Of(map[string][]byte{".npmrc": []byte("legacy-peer-deps=false\n")})), peer, true},
		{"a suite's own failure, with a build that fails", Reach{Frontier: symptom.PhaseCompile}, whole, false},
	} {
		if got := test.reach.CouldShow(&test.s); got != test.want {
			t.Errorf("%s: %v", test.name, got)
		}
	}
}

func TestOriginOf(t *testing.T) {
	s := errorAt("a.go", 3, "no")
	s.Unit = "a"
	red := failure("a", "TestLid", "no")
	passed := &Reach{Frontier: symptom.PhaseTest, Tests: map[string]symptom.Outcome{symptom.Test{Suite: "a", Name: "TestLid"}.Key(): symptom.Passed}}
	failing := &Reach{Frontier: symptom.PhaseCompile}
	for _, test := range []struct {
		name   string
		s      symptom.Symptom
		before Before
		want   Origin
	}{
		{"the first run after the bump", s, Before{}, Bump},
		{"the first run of a check that another one kept from running", s, Before{Elsewhere: symptom.PhaseResolve}, Uncovered},
		{"another check was stopped no earlier", s, Before{Elsewhere: symptom.PhaseCompile}, Bump},
		{"it was settled, and a run that passed had it not", s, Before{Run: &Reach{Frontier: Complete}, Settled: true}, Returned},
		{"it was settled elsewhere, and no run came to this line", s, Before{Run: failing, Settled: true}, Uncovered},
		{"it was settled, and an edit brings it back", s, Before{Run: failing, Settled: true, Touched: true}, Returned},
		{"it was settled, and a merged test runs into it", red, Before{Run: failing, Settled: true, Near: true}, Returned},
		{"the run before passed", s, Before{Run: &Reach{Frontier: Complete}}, Introduced},
		{"the run before had other errors", s, Before{Run: failing}, Uncovered},
		{"the run before had other errors, and the line is ours since the bump", s, Before{Run: failing, Touched: true}, Introduced},
		{"an edit took away what it is about", s, Before{Run: failing, Reached: true}, Introduced},
		{"half a fix behind a run that did not get there", s, Before{Run: &Reach{Frontier: symptom.PhaseResolve}, Orphan: true}, Introduced},
		{"the test passed in the run before", red, Before{Run: passed}, Introduced},
		{"the test did not run before", red, Before{Run: failing}, Uncovered},
		{"a line of the test's stack is ours", red, Before{Run: failing, Near: true}, Uncovered},
		{"a repetition shows it", s, Before{Run: &Reach{Frontier: Complete}, Repeated: true}, Uncovered},
	} {
		if got := OriginOf(&test.s, test.before); got != test.want {
			t.Errorf("%s: %s, want %s", test.name, got, test.want)
		}
	}
}

// TestStopped holds which failures end a run.
func TestStopped(t *testing.T) {
	for _, test := range []struct {
		name  string
		log   string
		exit  int
		want  symptom.Phase
		stuck symptom.Phase
	}{
		{"a crash", "PHP Fatal error:  Uncaught Error: Class \"Jar\" not found in /app/lid.php:3\nStack trace:\n#0 {main}\n  thrown in /app/lid.php on line 3\n", 255, symptom.PhaseRun, symptom.PhaseRun},
		{"a compiler goes on", "# p\n./a.go:3:1: undefined: jar.Lid\n", 1, "", symptom.PhaseCompile},
		{"nothing was wrong", "ok\n", 0, "", ""},
	} {
		result, err := read.All("x", strings.NewReader(test.log))
		if err != nil {
			t.Fatal(err)
		}
		reach := ReachOf([]read.Result{result}, test.exit, nil)
		if reach.Stopped != test.want {
			t.Errorf("%s: %q, want %q", test.name, reach.Stopped, test.want)
		}
		if got := reach.Stuck(); got != test.stuck {
			t.Errorf("%s: stuck at %q, want %q", test.name, got, test.stuck)
		}
	}
}

// TestElsewhere holds what is the same under another path, and what is not.
func TestElsewhere(t *testing.T) {
	tree := func(name, text string) *source.Tree {
		tree, err := source.NewTree(fstest.MapFS{name: {Data: []byte(text)}})
		if err != nil {
			t.Fatal(err)
		}
		return tree
	}
	side := func(tree *source.Tree, list ...symptom.Symptom) Side {
		s := Side{Symptoms: symptom.Merge(list), Trees: map[string]*source.Tree{}}
		for _, m := range s.Symptoms {
			s.Trees[m.ID] = tree
		}
		return s
	}
	for name, test := range map[string]struct {
		before, after Side
		want          string
	}{
		"another checkout": {side(nil, errorAt("/home/ci/1/src/a.c", 3, "no lid")), side(nil, errorAt("/home/dev/src/a.c", 4, "no lid")), "unchanged"},
		"another file":     {side(nil, errorAt("a.c", 3, "no lid")), side(nil, errorAt("b.c", 3, "no lid")), "new absent"},
		"a renamed file":   {side(tree("a.c", "x\nopen_lid(jar);\n"), errorAt("a.c", 2, "no lid")), side(tree("b.c", "open_lid(jar);\n"), errorAt("b.c", 1, "no lid")), "unchanged"},
		"the same line of two": {
			side(tree("a.c", "open(1);\nopen(2);\n"), errorAt("a.c", 2, "no lid")),
			side(tree("a.c", "open(3);\n\n\nopen(2);\n"), errorAt("a.c", 1, "no lid"), errorAt("a.c", 4, "no lid")), "new unchanged",
		},
		"equal lines that moved": {
			side(tree("a.c", "open();\na\nb\nc\nopen();\n"), errorAt("a.c", 5, "no lid")),
			side(tree("a.c", "n\nn\nn\nopen();\na\nb\nc\nopen();\n"), errorAt("a.c", 4, "no lid"), errorAt("a.c", 8, "no lid")), "new unchanged",
		},
	} {
		var got []string
		for _, s := range States(test.before, test.after) {
			got = append(got, string(s.State))
		}
		if strings.Join(got, " ") != test.want {
			t.Errorf("%s: got %v, want %s", name, got, test.want)
		}
	}
}

func TestRenamedTestsAreOffered(t *testing.T) {
	passed := func(suite, name string) symptom.Test {
		return symptom.Test{Suite: suite, Name: name, Outcome: symptom.Passed}
	}
	before := []symptom.Test{passed("p", "TestOpensTheLid"), passed("p", "TestShuts"), passed("p", "TestStays")}
	lost := LostTests(before, []symptom.Test{passed("p", "TestOpensTheBlueLid"), passed("p", "TestWeighs"), passed("p", "TestStays")}, nil, Named)
	if len(lost) != 2 || lost[0].Perhaps.Name != "TestOpensTheBlueLid" || lost[1].Perhaps.Name != "" {
		t.Errorf("%+v", lost)
	}
	if m := lost[0].Symptom().Message; !strings.Contains(m, "TestOpensTheBlueLid is new and may be it") {
		t.Error(m)
	}
}

func TestFlaky(t *testing.T) {
	test := func(name string, o symptom.Outcome) symptom.Test {
		return symptom.Test{Suite: "p", Name: name, Outcome: o}
	}
	first := []symptom.Test{test("a", symptom.Passed), test("b", symptom.Failed), test("c", symptom.Skipped)}
	second := []symptom.Test{test("a", symptom.Failed), test("b", symptom.Failed), test("c", symptom.Failed)}
	if got := Flaky([][]symptom.Test{first, second}); len(got) != 1 || !got[first[0].Key()] {
		t.Errorf("flaky are %v", got)
	}
	if !SameTests(first, second) || SameTests(first, second[:1]) || SameTests(nil, nil) {
		t.Error("the sets are compared wrongly")
	}
}

func TestNotices(t *testing.T) {
	tests := []symptom.Test{{Name: "a", Outcome: symptom.Passed}, {Name: "b", Outcome: symptom.Passed}}
	count := func(telling Telling, total int) TestCount { return TestCount{Telling: telling, Total: total} }
	base := Made{Command: "make", Versions: map[string]string{"go": "1.25", "jar": "4.2.0", "lid": "1.0"}, Tests: tests, Count: count(Named, 2)}
	moves := []versions.Move{{Package: "example.org/jar", From: "4.2.0", To: "5.0.0"}}
	for name, test := range map[string]struct {
		run  Made
		want string
	}{
		"the same":        {Made{Command: "make", Versions: map[string]string{"jar": "5.0.0", "lid": "1.0"}, Tests: tests, Count: count(Named, 2)}, ""},
		"another command": {Made{Command: "make -k", Tests: tests}, `made with another command than the baseline: "make -k", not "make"`},
		"a stale build":   {Made{Versions: map[string]string{"example.org/jar": "v4.2.0"}}, "example.org/jar is still at v4.2.0 here: the bump to 5.0.0 has not reached this run"},
		"pulled in":       {Made{Versions: map[string]string{"lid": "2.0"}}, "lid moved from 1.0 to 2.0 beside the bump"},
		"fewer tests":     {Made{Tests: tests[:1], Count: count(Named, 1)}, "1 test ran where the baseline has 2"},
		"another printer": {Made{Tests: tests[:1], Count: count(Counted, 2)}, "does not name the tests that pass, as the baseline does: which of them are missing cannot be told, only how many"},
		"what was meant":  {Made{Versions: map[string]string{"jar": "5.0.0"}}, ""},
		"other tests":     {Made{Tests: []symptom.Test{{Name: "c"}, {Name: "d"}}, Count: count(Named, 2)}, "as many tests ran as in the baseline, 2, but others"},
	} {
		if got := strings.Join(Notices(base, test.run, moves), "; "); got != test.want {
			t.Errorf("%s: got %q, want %q", name, got, test.want)
		}
	}
}
