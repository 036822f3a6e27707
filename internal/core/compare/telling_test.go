package compare

import (
	"sort"
	"strings"
	"testing"
	"testing/fstest"

	"unicausa/internal/core/read"
	"unicausa/internal/core/source"
	"unicausa/internal/core/symptom"
)

func TestCountOf(t *testing.T) {
	for name, test := range map[string]struct {
		inputs []string
		want   TestCount
	}{
		"dots and a summary":      {[]string{"..F.\n=== FAILURES ===\n3 passed, 1 failed in 0.01s\n"}, TestCount{Counted, 4, 3, 1, 0}},
		"every test by name":      {[]string{"=== RUN   TestA\n--- PASS: TestA (0.00s)\n=== RUN   TestB\n--- FAIL: TestB (0.00s)\nFAIL\nFAIL\tp\t0.01s\n"}, TestCount{Named, 2, 1, 1, 0}},
		"nothing of tests":        {[]string{"compiled\n"}, TestCount{Telling: Silent}},
		"text beside its XML":     {[]string{"2 passed in 0.01s\n", `<testsuite name="p" tests="2"><testcase classname="p" name="a"/><testcase classname="p" name="b"/></testsuite>`}, TestCount{Named, 2, 2, 0, 0}},
		"a package without names": {[]string{"ok  \tp\t0.01s\n"}, TestCount{Telling: Silent}},
	} {
		var results []read.Result
		for i, text := range test.inputs {
			r, err := read.All([]string{"tests.log", "tests.xml"}[i], strings.NewReader(text))
			if err != nil {
				t.Fatal(err)
			}
			results = append(results, r)
		}
		if got := CountOf(results); got != test.want {
			t.Errorf("%s: got %+v, want %+v", name, got, test.want)
		}
	}
}

// TestUnnamed holds what a closing summary says of tests that it does not name.
func TestUnnamed(t *testing.T) {
	sites := func(text string) *source.TestSites {
		tree, err := source.NewTree(fstest.MapFS{"tests/test_jar.py": {Data: []byte(text)}})
		if err != nil {
			t.Fatal(err)
		}
		return tree.TestSites()
	}
	const whole = "def test_lid():\n    assert lid()\n\n\ndef test_jar():\n    assert jar()\n"
	there := sites(whole)
	known := []Known{{symptom.Test{Suite: "tests/test_jar.py", Name: "test_lid"}, there}, {symptom.Test{Suite: "tests/test_jar.py", Name: "test_jar[2]"}, there}}
	counted := func(total, passed, failed, skipped int) Reach {
		return Reach{Count: TestCount{Counted, total, passed, failed, skipped}}
	}
	failed := []symptom.Test{{Suite: "tests/test_jar.py", Name: "test_lid", Outcome: symptom.Failed}}
	baseline := &Recording{Reach: counted(5, 5, 0, 0), Sites: there}
	for _, test := range []struct {
		name     string
		run      Recording
		baseline *Recording
		want     string
	}{
		{"all pass", Recording{Reach: counted(5, 5, 0, 0), Sites: there}, baseline, "test_jar[2] passed, test_lid passed"},
		{"one is named as failed", Recording{Tests: failed, Reach: counted(5, 4, 1, 0), Sites: there}, baseline, "test_jar[2] passed"},
		{"a failure is not named", Recording{Reach: counted(5, 4, 1, 0), Sites: there}, baseline, ""},
		{"without a tree", Recording{Reach: counted(5, 5, 0, 0)}, nil, "test_jar[2] passed, test_lid passed"},
		{"fewer ran than there are", Recording{Reach: counted(4, 4, 0, 0), Sites: there}, baseline, ""},
		{"one is gone from the source", Recording{Reach: counted(4, 4, 0, 0), Sites: sites("def test_jar():\n    assert jar()\n")}, baseline, "test_jar[2] passed, test_lid gone"},
		{"one is a comment", Recording{Reach: counted(4, 4, 0, 0), Sites: sites(strings.Replace(whole, "def test_lid", "# def test_lid", 1))}, baseline, "test_jar[2] passed, test_lid gone"},
		{"one was turned off", Recording{Reach: counted(5, 4, 0, 1), Sites: sites("@pytest.mark.skip(reason='later')\n" + whole)}, baseline, "test_jar[2] passed, test_lid skipped"},
		{"one more is skipped, and nobody knows which", Recording{Reach: counted(5, 4, 0, 1), Sites: there}, baseline, ""},
		{"it was made before there was such a test", Recording{Reach: counted(4, 4, 0, 0), Sites: sites("def test_jar():\n    assert jar()\n"), Before: true}, nil, "test_jar[2] passed"},
		{"the suite did not load", Recording{Reach: Reach{Count: TestCount{Counted, 5, 5, 0, 0}, Blocked: []string{"tests/test_jar.py"}}, Sites: there}, baseline, ""},
		{"a suite that ran to its end", Recording{Reach: Reach{Count: TestCount{Telling: Silent}, Done: []string{"tests/test_jar.py"}}, Sites: there}, nil, "test_jar[2] passed, test_lid passed"},
		{"a check that never says more than its status", Recording{Reach: Reach{Frontier: Complete, Count: TestCount{Telling: Silent}}, Sites: sites("@skip\ndef test_lid():\n    pass\n\n\ndef test_jar():\n    pass\n")}, &Recording{Reach: Reach{Count: TestCount{Telling: Silent}}, Sites: there}, "test_jar[2] passed, test_lid skipped"},
		{"silence where the baseline counts", Recording{Reach: Reach{Frontier: Complete, Count: TestCount{Telling: Silent}}, Sites: there}, baseline, ""},
		{"silence", Recording{Reach: Reach{Count: TestCount{Telling: Silent}}, Sites: there}, nil, ""},
		{"every test is named", Recording{Reach: Reach{Count: TestCount{Telling: Named, Total: 1, Passed: 1}}, Sites: there}, baseline, ""},
	} {
		var got []string
		for _, u := range Unnamed(known, test.run, test.baseline) {
			got = append(got, u.Name+" "+string(u.Outcome))
		}
		sort.Strings(got)
		if strings.Join(got, ", ") != test.want {
			t.Errorf("%s: got %q, want %q", test.name, strings.Join(got, ", "), test.want)
		}
	}
}

// TestSilentRunsLoseNothing holds that only a run that names every test can
// lose one that it does not name.
func TestSilentRunsLoseNothing(t *testing.T) {
	before := tests(symptom.Passed, "p.A", "p.B")
	for telling, want := range map[Telling]int{Named: 1, Counted: 0, Silent: 0} {
		if got := LostTests(before, tests(symptom.Passed, "p.A"), nil, telling); len(got) != want {
			t.Errorf("a run that is %s loses %v", telling, got)
		}
	}
}
