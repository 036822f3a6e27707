package link

import (
	"context"
	"fmt"
	"html"
	"strings"
	"testing"
	"testing/fstest"

	"unicausa/internal/core/cluster"
	"unicausa/internal/core/notes"
	"unicausa/internal/core/read"
	"unicausa/internal/core/source"
	"unicausa/internal/core/symptom"
)

const document = `# Changelog of jar

## 5.0.0

- ` + "`OpenLid`" + ` was renamed to ` + "`Open`" + `.
- ` + "`Fill`" + ` takes a ` + "`context.Context`" + ` first; ` + "`Stuff`" + ` works as before.
- Removed ` + "`Jar.Kilos`" + `. Use ` + "`Jar.Net`" + `.
- Rounding follows the trade: half a gram goes to the even gram, so roundings may differ.
- The option ` + "`lid`" + ` of ` + "`Settings`" + ` was renamed to ` + "`cap`" + `.
- The units moved: ` + "`mass.Gram`" + ` counts now.
- Fixed a crash in ` + "`Shut`" + ` when the jar is empty.
- Added ` + "`Shake`" + ` to mix.
- Changed the typings of weights: even grams are numbers.
- Labels live elsewhere: ` + "`fr` → `fr-FR`" + `.
- A lid of ` + "`null`" + ` is refused.
`

var files = fstest.MapFS{
	"shelf.go": {Data: []byte("package pantry\n\nimport \"example.org/jar/v5\"\n\nvar a = jar.OpenLid()\nvar b = jar.Fill(3)\nvar c = jar.New().Kilos()\nvar d = jar.Shut(a)\n")},
	"press.go": {Data: []byte("package pantry\n\nimport \"example.org/press\"\n\nvar a = press.OpenLid()\n")},
}

// links finds the links of the one cause in a log.
func links(t *testing.T, log string) []Link {
	t.Helper()
	return linksIn(t, log, document, &cluster.Context{})
}

// linksIn finds them in a document, by what is known besides.
func linksIn(t *testing.T, log, document string, known *cluster.Context) []Link {
	t.Helper()
	result, err := read.All("x", strings.NewReader(log))
	if err != nil {
		t.Fatal(err)
	}
	tree, err := source.NewTree(files)
	if err != nil {
		t.Fatal(err)
	}
	var evidence []*cluster.Evidence
	merged := symptom.Merge(result.Symptoms)
	for i := range merged {
		merged[i].State = symptom.New
		evidence = append(evidence, cluster.Gather(&merged[i], tree, known))
	}
	causes := cluster.Group(t.Context(), evidence, known)
	if len(causes) != 1 {
		t.Fatalf("%d causes in %q", len(causes), log)
	}
	return NewIndex(notes.Read("jar.md", "example.org/jar", []byte(document))).Links(&causes[0])
}

// TestLinks holds which entry comes first for a cause, and that it is silent
// where the notes are.
func TestLinks(t *testing.T) {
	const header = "# example.org/pantry\n"
	for _, test := range []struct {
		name, log string
		line      int // of the first link's entry, 0 for no link of 0.5 or more
		because   string
	}{
		{"a renamed function", header + "shelf.go:5:9: undefined: jar.OpenLid\n", 5, "names the missing symbol OpenLid"},
		{"a call that no longer fits", header + "shelf.go:6:14: not enough arguments in call to jar.Fill\n\thave (number)\n\twant (context.Context, int)\n", 6, "names the call that no longer fits Fill"},
		{"a removed method", header + "shelf.go:7:20: jar.New().Kilos undefined (type *jar.Jar has no field or method Kilos)\n", 7, "names the missing symbol Jar.Kilos"},
		{"a refused option", "a.ts(1,1): error TS2353: Object literal may only specify known properties, and 'lid' does not exist in type 'Settings'.\n", 9, "names the missing symbol lid"},
		{"a behaviour without a name", "--- FAIL: TestRounding (0.00s)\n    a_test.go:3: rounding half a gram: got 2, want 3\nFAIL\nFAIL\tp\t0.1s\n", 8, "shares the words"},
		{"a name that the notes do not have", header + "shelf.go:5:9: undefined: jar.Sieve\n", 0, ""},
		{"the new side of a rename is no explanation", header + "shelf.go:5:9: undefined: jar.Net\n", 0, ""},
		{"a repair explains no missing name", header + "shelf.go:8:9: undefined: jar.Shut\n", 0, ""},
		{"something new explains no missing name", header + "shelf.go:8:9: undefined: jar.Shake\n", 0, ""},
		{"the same name of another package", header + "press.go:5:9: undefined: press.OpenLid\n", 0, ""},
		{"the same name of another owner", header + "shelf.go:5:9: undefined: jar.Gram\n", 0, ""},
		{"a name that an entry says is as before", header + "shelf.go:9:14: not enough arguments in call to jar.Stuff\n\thave ()\n\twant (int)\n", 0, ""},
		{"a name inside the path of a module", "a.js:1\n^\n\nError: Cannot find module 'example.org/jar/labels/fr'\n    at Object.<anonymous> (a.js:1:1)\n", 14, "names the missing symbol fr"},
		{"words that say nothing", "x.c:1:1: error: expected identifier\n", 0, ""},
	} {
		t.Run(test.name, func(t *testing.T) {
			found := links(t, test.log)
			if test.line == 0 {
				for _, l := range found {
					if l.Score >= 0.5 {
						t.Errorf("%.2f for line %d: %v", l.Score, l.Change.Line, l.Because)
					}
				}
				return
			}
			if len(found) == 0 || found[0].Change.Line != test.line || found[0].Score < 0.5 && test.because != "shares the words" || found[0].Score < 0.3 {
				t.Fatalf("the links are %+v, want line %d first", found, test.line)
			}
			var reasons []string
			for _, b := range found[0].Because {
				reasons = append(reasons, b.What+" "+b.Value)
			}
			if !strings.Contains(strings.Join(reasons, "; "), test.because) {
				t.Errorf("the reasons are %q, want %q", reasons, test.because)
			}
		})
	}
}

// TestWritten holds that an entry is found by how its code and its numbers are written, and
// that it is told what it shows.
func TestWritten(t *testing.T) {
	const notesOf = "# Changelog of jar\n\n## 5.0.0\n\n" +
		"- Lids are written `/{lid}` instead of `/:lid`.\n" +
		"- Weights are printed as `(X:Y)` instead of `at shelf X, row Y`.\n" +
		"- The default max body size is 2MB (up from 1MB).\n" +
		"- Presses wait for 30 seconds, not 10.\n" +
		"- Removed all methods that were deprecated.\n" +
		"- `01234` is a decimal number.\n" +
		"- Options are given as `key: value`.\n" +
		"- Removed the `safe*` functions.\n"
	test := func(name, says string) string {
		return "--- FAIL: Test" + name + " (0.00s)\n    a_test.go:3: " + says + "\nFAIL\nFAIL\tp\t0.1s\n"
	}
	for _, c := range []struct {
		name, log string
		line      int
		because   string
	}{
		{"an example in the message", test("A", "refused: \"/shelf/:row\" is no path"), 5, "shows how it is written /:lid"},
		{"an example in the value that a test got", test("B", "left: \"7 (2:1)\"\n         right: \"7\""), 6, "shows how it is written (X:Y)"},
		{"words of an example in the value that it wanted", test("C", "expected \"7 at shelf 2, row 1\", got \"7\""), 6, "shows how it is written at shelf X, row Y"},
		{"bytes in megabytes", test("BodySize", "expected 1048576, got 2097152"), 7, "describes what differs 1048576, 2097152"},
		{"milliseconds in seconds", test("PressWaits", "expected 10000, got 30000"), 8, "describes what differs 10000, 30000"},
		{"a name of all that begin so", "# example.org/pantry\nshelf.go:5:9: undefined: jar.safeOpen\n", 12, "names the missing symbol safe*"},
		{"a number with a zero in front", test("F", "expected \"012\", got \"12\""), 10, "shows how it is written 01234"},
	} {
		t.Run(c.name, func(t *testing.T) {
			for _, l := range linksIn(t, c.log, notesOf, &cluster.Context{}) {
				for _, b := range l.Because {
					if l.Change.Line == c.line && b.What+" "+b.Value == c.because {
						return
					}
				}
			}
			t.Errorf("no link says %q: %+v", c.because, linksIn(t, c.log, notesOf, &cluster.Context{}))
		})
	}
	swept := func(deprecated string) bool {
		for _, l := range linksIn(t, "# example.org/pantry\nshelf.go:7:20: jar.New().Kilos undefined (type *jar.Jar has no field or method Kilos)\n", notesOf, &cluster.Context{Deprecated: map[string]bool{deprecated: true}}) {
			if l.Change.Line == 9 && l.Because[0].What == "removes what was warned of before" {
				return true
			}
		}
		return false
	}
	if !swept("Kilos") || swept("Pounds") {
		t.Errorf("what was warned of before: %v, what was not: %v", swept("Kilos"), swept("Pounds"))
	}
}

// TestRivals holds which of two entries comes first where both have words or a name
// of the failure, and what is left when neither does.
func TestRivals(t *testing.T) {
	for _, test := range []struct {
		name, notes, title, message string
		line                        int // of the first entry, 0 for none that is likely
	}{
		{"its first sentence is what the failure says", "- Jars have names.\n- Throw an error if the number of lids is negative.\n- The number of jars is counted. Lids are counted as well, and negative ones are drawn.\n", "opens", "Error: a non-negative number of lids is wanted here", 6},
		{"what only one of the values has", "- Lids are listed by width.\n- Fixed labels: the glue is listed with the paper.\n- Paper is white.\n", "lists", "expected: &lt;label of paper&gt; but was: &lt;label of paper with glue&gt;", 6},
		{"the two numbers that differ", "- Weights of jars are told in grams.\n- A jar weighs 300 where it weighed 250.\n- Jars weigh 3000 less than 2500.\n", "weighs jars", "expected: &lt;250&gt; but was: &lt;300&gt;", 6},
		{"one everyday word is no explanation", "- Twine: the customer of a jar may be a shop.\n- Jars are round.\n", "serves the customer", "expected: &lt;blue&gt; but was: &lt;red&gt;", 0},
		{"the package's own house", "- Chore: fix the syntax of lids that are invalid in tests.\n- Jars are round.\n", "opens", "SyntaxError: invalid lids: the syntax is wrong", 0},
	} {
		t.Run(test.name, func(t *testing.T) {
			s := symptom.Symptom{Kind: symptom.TestFailure, Phase: symptom.PhaseTest, State: symptom.New, Test: test.title, Message: html.UnescapeString(test.message)}
			cause := cluster.Group(t.Context(), []*cluster.Evidence{cluster.Gather(&s, nil, &cluster.Context{})}, &cluster.Context{})
			found := NewIndex(notes.Read("jar.md", "jar", []byte("# Changelog\n\n## 2.0.0\n\n"+test.notes))).Links(&cause[0])
			switch {
			case test.line == 0 && Explanation(found) != nil:
				t.Errorf("explained by %+v", found[0])
			case test.line > 0 && (len(found) == 0 || found[0].Change.Line != test.line):
				t.Errorf("the links are %+v, want line %d first", found, test.line)
			}
		})
	}
}

// TestToldTwice holds that what a version tells twice in the same words is one change,
// and no rival of itself.
func TestToldTwice(t *testing.T) {
	s := symptom.Symptom{Kind: symptom.Error, Phase: symptom.PhaseCompile, State: symptom.New, Message: "undefined: Lid", Refs: []symptom.Ref{{Role: symptom.Missing, Name: "Lid"}}}
	cause := cluster.Group(t.Context(), []*cluster.Evidence{cluster.Gather(&s, nil, &cluster.Context{})}, &cluster.Context{})
	score := func(text string) (float64, int) {
		found := NewIndex(notes.Read("jar.md", "jar", []byte("# Changelog\n\n## 2.0.0\n\n"+text))).Links(&cause[0])
		if len(found) == 0 {
			t.Fatalf("no link in %q", text)
		}
		return found[0].Score, len(found)
	}
	const entry = "- `Lid` was removed.\n"
	once, _ := score(entry + "- Jars are round.\n")
	twice, links := score(entry + "- Jars are round.\n\n### Removed\n\n" + entry)
	if links != 1 || once < 0.9 || twice < 0.9 {
		t.Errorf("told once %.3f, told twice %.3f with %d links", once, twice, links)
	}
}

// TestScope holds that a commit's scope is the owner that it names, however short the
// rest is.
func TestScope(t *testing.T) {
	const log = "# Changelog\n\n## 2.0.0 (2031-02-03)\n\n### BREAKING CHANGES\n\n* **glue:** remove old methods ([1a2b3c4](https://example.org/c/1a2b3c4))\n* **paper:** remove old methods ([1a2b3c5](https://example.org/c/1a2b3c5))\n"
	s := symptom.Symptom{Kind: symptom.Error, Phase: symptom.PhaseCompile, State: symptom.New, Message: "Property 'dry' does not exist on type 'Paper'.", Refs: []symptom.Ref{{Role: symptom.Missing, Name: "dry"}, {Role: symptom.Owner, Name: "Paper"}}}
	cause := cluster.Group(t.Context(), []*cluster.Evidence{cluster.Gather(&s, nil, &cluster.Context{})}, &cluster.Context{})
	found := NewIndex(notes.Read("CHANGELOG.md", "jar", []byte(log))).Links(&cause[0])
	if len(found) == 0 || found[0].Change.Scope != "paper" {
		t.Errorf("the links are %+v", found)
	}
}

// TestEvidenceIsTheScore holds that the reasons shown are the numbers used:
// they are sorted, and few enough to read.
func TestEvidenceIsTheScore(t *testing.T) {
	for _, l := range links(t, "# example.org/pantry\nshelf.go:5:9: undefined: jar.OpenLid\n") {
		if l.Score < minScore || l.Score > 1 {
			t.Errorf("the score is %v", l.Score)
		}
		for i := 1; i < len(l.Because); i++ {
			if l.Because[i-1].Weight < l.Because[i].Weight {
				t.Errorf("the reasons are out of order: %+v", l.Because)
			}
		}
		if len(l.Because) > 12 {
			t.Errorf("%d reasons", len(l.Because))
		}
	}
}

func TestAtMostFive(t *testing.T) {
	var b strings.Builder
	b.WriteString("## 5.0.0\n\n")
	for _, place := range strings.Fields("shelf cellar shed yard barn press loft porch den attic hall nook") {
		fmt.Fprintf(&b, "- `OpenLid` was removed from the %s.\n", place)
	}
	evidence := []*cluster.Evidence{cluster.Gather(&symptom.Symptom{Kind: symptom.Error, Phase: symptom.PhaseCompile, State: symptom.New,
		Message: "undefined: OpenLid", Refs: []symptom.Ref{{Role: symptom.Missing, Name: "OpenLid"}}}, nil, &cluster.Context{})}
	causes := cluster.Group(t.Context(), evidence, &cluster.Context{})
	if got := NewIndex(notes.Read("jar.md", "", []byte(b.String()))).Links(&causes[0]); len(got) != 5 {
		t.Errorf("%d links", len(got))
	}
}

func TestNoNotes(t *testing.T) {
	causes := cluster.Group(t.Context(), []*cluster.Evidence{cluster.Gather(&symptom.Symptom{Message: "no", State: symptom.New}, nil, &cluster.Context{})}, &cluster.Context{})
	if got := NewIndex(nil).Links(&causes[0]); got != nil {
		t.Errorf("without notes there are %v", got)
	}
	known := causes[0]
	known.Known = true
	if got := NewIndex(notes.Read("jar.md", "", []byte(document))).Links(&known); got != nil {
		t.Errorf("what was there before is linked to %v", got)
	}
}

func TestWordsOf(t *testing.T) {
	for text, want := range map[string]string{
		"Rounding of halves": "round halv",
		"OpenLid was called": "openlid open lid",
		"the and of":         "",
		"got 3, want 4":      "",
		"registry-lookups":   "registri lookup",
		"fizzBuzz jar9Lid":   "fizzbuzz fizz buzz jar9lid jar9 lid",
		"ZLid lidZ":          "zlid lidz lid",
	} {
		if got := strings.Join(wordsOf(text), " "); got != want {
			t.Errorf("the words of %q are %q, want %q", text, got, want)
		}
	}
}

func TestLastPart(t *testing.T) {
	for name, want := range map[string]string{
		"jar.OpenLid": "OpenLid", "Jar::open": "open", "Jar#open": "open", "jar->lid": "lid", "open": "open", "@pantry/jar": "@pantry/jar", "{kg}": "kg", "example.org/jar/v2": "example.org/jar/v2",
	} {
		if got := LastPart(name); got != want {
			t.Errorf("the last part of %q is %q, want %q", name, got, want)
		}
	}
}

func BenchmarkLinks(b *testing.B) {
	var text strings.Builder
	text.WriteString("## 5.0.0\n\n")
	for i := range 2000 {
		text.WriteString("- `Lid" + strings.Repeat("x", i%40) + "` was renamed to `Cap`, which closes better than the old one.\n")
	}
	index := NewIndex(notes.Read("jar.md", "", []byte(text.String())))
	causes := cluster.Group(context.Background(), []*cluster.Evidence{cluster.Gather(&symptom.Symptom{Kind: symptom.Error, State: symptom.New, Message: "undefined: Lidxxx",
		Refs: []symptom.Ref{{Role: symptom.Missing, Name: "Lidxxx"}}}, nil, &cluster.Context{})}, &cluster.Context{})
	for b.Loop() {
		index.Links(&causes[0])
	}
}
