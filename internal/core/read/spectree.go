package read

import (
	"strings"

	"unicausa/internal/core/symptom"
)

// specTree reads the printers of JavaScript's test runners: a tree of suites
// with a mark at each test, and the failures in full at its end:
//
//	FAIL test/shelf.test.js                      jest
//	  Shelf
//	    ✓ shuts (2 ms)
//	    ✕ opens the lid (1 ms)
//	  ● Shelf › opens the lid
//	    expect(received).toBe(expected)
//	 FAIL  test/shelf.test.ts > Shelf > opens the lid      vitest
//	AssertionError: expected 1 to be 2
//	 ❯ test/shelf.test.ts:12:5
//	✖ failing tests:                             the node test runner
//	test at test/shelf.test.js:12:3
//	✖ opens the lid (1.2ms)
//	  AssertionError [ERR_ASSERTION]: …
//
// A failure that stands in the tree alone is told from there. Mocha's list at
// the end is numbered's.
type specTree struct {
	suites []specSuite
	groups map[string]bool // the paths of suites that were entered
	file   string
	marked []specFailure // failed marks of the tree
	told   map[string]bool
	open   *symptom.Symptom
	form   string
	from   int
	end    int
	body   []string
	ending bool // in the node runner's list of failing tests
	place  place
	active bool
}

type specSuite struct {
	indent int
	name   string
}

type specFailure struct {
	test symptom.Test
	line int
	body []string
}

var specTreeReader = stream{name: "spec tree", marks: []string{"✓", "✔", "√", "✕", "✖", "×", "^● ", "^FAIL ", "^PASS ", "▶", "^○ ", "^❯", "﹣", "^ℹ ", "^Test Suites:", "^Tests:", "^Snapshots:", "^Ran all test", "^test at ", "^Test Files ", "^⎯", "^Summary of all failing", "^Failed tests:"}, open: func() lineReader { return &specTree{told: map[string]bool{}} }}

func (t *specTree) listening() bool { return t.active || t.open != nil || t.ending }

var passMarks, failMarks, skipMarks = []string{"✓ ", "✔ ", "√ "}, []string{"✕ ", "✖ ", "× ", "✗ "}, []string{"○ ", "﹣ ", "↓ ", "- "}

func markOf(text string) (outcome symptom.Outcome, rest string) {
	if text == "" || text[0] < 0x80 && text[0] != '-' {
		return "", ""
	}
	for _, set := range []struct {
		marks   []string
		outcome symptom.Outcome
	}{{passMarks, symptom.Passed}, {failMarks, symptom.Failed}, {skipMarks, symptom.Skipped}} {
		for _, m := range set.marks {
			if rest, ok := strings.CutPrefix(text, m); ok {
				return set.outcome, rest
			}
		}
	}
	return "", ""
}

func (t *specTree) line(l Line, out *sink) verdict {
	text := l.Text
	trimmed := strings.TrimLeft(text, " ")
	indent := len(text) - len(trimmed)
	if v := t.heading(l, trimmed, indent, out); v != pass {
		return v
	}
	if t.open != nil {
		if t.inBody(text, indent) {
			t.body, t.end = append(t.body, text), l.Number
			return took
		}
		t.finish(out)
	}
	outcome, rest := markOf(trimmed)
	switch {
	case outcome == symptom.Failed && strings.HasSuffix(rest, "."): // a sentence
		return pass
	case outcome == symptom.Skipped && (!t.active || strings.HasPrefix(trimmed, "- ")):
		return pass
	case outcome != "" && (indent > 0 || t.active || t.ending || strings.HasSuffix(rest, "ms)")):
		return t.mark(l, outcome, rest, indent, out)
	case !t.active:
		t.ending = t.ending && (trimmed == "" || indent > 0)
		return pass
	case trimmed == "":
		return noise
	case indent == 0 && !strings.HasPrefix(trimmed, "▶ "):
		t.active, t.suites = false, nil
		return pass
	case len(t.marked) > 0 && t.marked[len(t.marked)-1].line+len(t.marked[len(t.marked)-1].body)+1 == l.Number && indent > t.depth():
		f := &t.marked[len(t.marked)-1]
		f.body = append(f.body, text)
		return took
	}
	t.enter(indent, strings.TrimPrefix(trimmed, "▶ "))
	return noise
}

// heading takes the lines that begin a file, a failure in full, or the totals.
func (t *specTree) heading(l Line, trimmed string, indent int, out *sink) verdict {
	switch {
	case strings.HasPrefix(trimmed, "FAIL ") && indent == 1 && strings.Contains(trimmed, " > "), strings.HasPrefix(trimmed, "FAIL  ") && strings.Contains(trimmed, " [ "):
		t.begin(l, "vitest", out)
		parts := strings.Split(strings.TrimSpace(strings.TrimPrefix(trimmed, "FAIL")), " > ")
		file := before(parts[0], " [ ")
		if i := strings.LastIndexByte(file, ' '); i > 0 && strings.HasPrefix(file, "|") { // a project's name
			file = file[i+1:]
		}
		t.open.Unit, t.open.File = file, file
		t.open.Test = strings.Join(parts[1:], " > ")
		return took
	case strings.HasPrefix(l.Text, "FAIL ") && fileLike(firstWord(strings.TrimSpace(l.Text[5:]))), strings.HasPrefix(l.Text, "PASS ") && fileLike(firstWord(strings.TrimSpace(l.Text[5:]))):
		t.finish(out)
		t.file, t.suites, t.active, t.ending = firstWord(strings.TrimSpace(l.Text[5:])), nil, true, false
		out.tool("jest")
		return noise
	case strings.HasPrefix(l.Text, "  ● ") && !strings.HasPrefix(l.Text, "  ● Console"):
		name := strings.TrimPrefix(l.Text, "  ● ")
		key := t.file + "\x00" + name
		if t.told[key] { // the summary of all failures repeats them
			t.begin(l, "", out)
			t.open.Kind = ""
			return noise
		}
		t.told[key] = true
		t.begin(l, "jest", out)
		t.open.Unit, t.open.File = t.file, t.file
		if name != "Test suite failed to run" {
			t.open.Test = strings.ReplaceAll(name, " › ", " > ")
		}
		return took
	case strings.HasPrefix(trimmed, "✖ failing tests:"), l.Text == "Failed tests:":
		t.finish(out)
		t.ending, t.active = true, false
		return noise
	case t.ending && strings.HasPrefix(trimmed, "test at "):
		t.finish(out)
		t.place, _ = placeColon(trimmed[len("test at "):])
		return took
	case strings.HasPrefix(l.Text, "Test Suites: "), strings.HasPrefix(l.Text, "Snapshots: "), strings.HasPrefix(l.Text, "Ran all test suites"), strings.HasPrefix(trimmed, "Test Files "), strings.HasPrefix(trimmed, "ℹ "), strings.HasPrefix(l.Text, "Summary of all failing tests"):
		t.finish(out)
		t.active = false
		return noise
	case strings.HasPrefix(l.Text, "Tests: ") && strings.Contains(l.Text, " total"):
		return noise
	case strings.HasPrefix(trimmed, "⎯"):
		t.finish(out)
		t.active = false
		return noise
	case strings.HasPrefix(trimmed, "❯ ") && strings.Contains(trimmed, " test") && strings.Contains(trimmed, " (") && fileLike(firstWord(trimmed[len("❯ "):])):
		t.file, t.suites, t.active = firstWord(trimmed[len("❯ "):]), nil, true
		out.tool("vitest")
		return noise
	}
	return pass
}

func (t *specTree) begin(l Line, form string, out *sink) {
	t.finish(out)
	t.open = &symptom.Symptom{Kind: symptom.TestFailure, Phase: symptom.PhaseTest, Tool: form}
	t.form, t.from, t.end, t.body, t.active = form, l.Number, l.Number, nil, false
}

// inBody reports whether a line belongs to the failure that is open.
func (t *specTree) inBody(text string, indent int) bool {
	switch t.form {
	case "vitest":
		return !strings.HasPrefix(strings.TrimSpace(text), "⎯⎯")
	case "node":
		return text == "" || indent >= 2
	}
	return text == "" || indent >= 4
}

func (t *specTree) depth() int {
	if len(t.suites) == 0 {
		return -1
	}
	return t.suites[len(t.suites)-1].indent
}

// enter takes the name of a suite.
func (t *specTree) enter(indent int, name string) {
	for len(t.suites) > 0 && t.suites[len(t.suites)-1].indent >= indent {
		t.suites = t.suites[:len(t.suites)-1]
	}
	t.suites = append(t.suites, specSuite{indent, name})
	t.enteredAll()
}

// enteredAll notes the path of the suite at hand.
func (t *specTree) enteredAll() {
	path := make([]string, 0, len(t.suites))
	for _, s := range t.suites {
		path = append(path, s.name)
	}
	if t.groups == nil {
		t.groups = map[string]bool{}
	}
	t.groups[strings.Join(path, " > ")] = true
}

// suitesAbove are the suites whose names stand above the first mark of a tree,
// each further out than the one below it.
func suitesAbove(l Line, indent int) []specSuite {
	var suites []specSuite
	for n := 1; n <= 40 && indent > 0; n++ {
		text := l.above(n)
		trimmed := strings.TrimLeft(text, " ")
		at := len(text) - len(trimmed)
		name, group := strings.CutPrefix(trimmed, "▶ ")
		if trimmed == "" || at == 0 && !group {
			break
		}
		if outcome, _ := markOf(trimmed); at >= indent || outcome != "" {
			continue // beside it
		}
		suites = append([]specSuite{{at, name}}, suites...)
		indent = at
	}
	return suites
}

// mark takes a test of the tree.
func (t *specTree) mark(l Line, outcome symptom.Outcome, rest string, indent int, out *sink) verdict {
	name, directive, _ := strings.Cut(rest, " # ")
	if strings.HasPrefix(directive, "TODO") || strings.HasPrefix(directive, "SKIP") {
		outcome = symptom.Skipped
	}
	if i := strings.LastIndex(name, " ("); i > 0 && (strings.HasSuffix(name, "ms)") || strings.HasSuffix(name, "s)")) {
		name = name[:i]
	} else if i := strings.LastIndexByte(name, ' '); i > 0 && strings.HasSuffix(name, "ms") && leadingDigits(strings.TrimSuffix(name[i+1:], "ms")) {
		name = strings.TrimSpace(name[:i])
	}
	if t.ending {
		if t.begin(l, "node", out); outcome != symptom.Failed {
			t.open.Kind = ""
			return noise
		}
		for _, f := range t.marked { // the tree knows its suites
			if lastPart(f.test.Name) == name {
				name = f.test.Name
				break
			}
		}
		t.open.Tool, t.open.Test, t.open.File, t.open.Line, t.open.Unit = "node test", name, t.place.file, t.place.line, t.place.file
		return took
	}
	if !t.active {
		t.active, t.suites = true, suitesAbove(l, indent)
		t.enteredAll()
	}
	if fileLike(firstWord(name)) && indent <= 1 { // vitest lists files the same way
		t.file = firstWord(name)
		return noise
	}
	for len(t.suites) > 0 && t.suites[len(t.suites)-1].indent >= indent {
		t.suites = t.suites[:len(t.suites)-1]
	}
	path := make([]string, 0, len(t.suites)+1)
	for _, s := range t.suites {
		path = append(path, s.name)
	}
	test := symptom.Test{Suite: t.file, Name: strings.Join(append(path, name), " > "), Outcome: outcome}
	if !t.groups[test.Name] { // else it closes a suite
		out.testOutcome(test)
	}
	if outcome == symptom.Failed {
		t.marked = append(t.marked, specFailure{test: test, line: l.Number})
		return took
	}
	return noise
}

func (t *specTree) finish(out *sink) {
	s := t.open
	t.open = nil
	if s == nil || s.Kind == "" {
		return
	}
	body := plainText(strings.Join(t.body, "\n"))
	s.Detail = strings.TrimSpace(body)
	s.Message = headline("", body, "", "")
	file, line := s.File, s.Line
	failure(s, strings.ReplaceAll(body, "❯ ", "at "))
	if s.File == "" {
		s.File, s.Line = file, line
	}
	if strings.Contains(s.Message, " subtest") && strings.Contains(s.Message, " failed") {
		return // a suite that failed only because a test in it did
	}
	if s.Test == "" {
		out.block(s.Unit)
	}
	t.told[lastPart(s.Test)] = true
	end := t.from
	for i, text := range t.body {
		if strings.TrimSpace(text) != "" {
			end = t.from + i + 1
		}
	}
	out.add(*s, t.from, end)
}

// lastPart is a test's own name, behind those of its suites.
func lastPart(name string) string {
	if i := strings.LastIndex(name, " > "); i >= 0 {
		return name[i+3:]
	}
	return name
}

// close tells what stood in the tree alone.
func (t *specTree) close(out *sink) {
	t.finish(out)
	for _, f := range t.marked {
		own := lastPart(f.test.Name)
		if t.told[own] || t.told[f.test.Name] || numberedTold(out, own, f.test.Name) || parentOf(f, t.marked) {
			continue
		}
		body := strings.Join(f.body, "\n")
		s := symptom.Symptom{Kind: symptom.TestFailure, Phase: symptom.PhaseTest, Tool: "spec", Unit: f.test.Suite, Test: f.test.Name, File: f.test.Suite, Message: headline("", body, "", ""), Detail: body}
		failure(&s, body)
		out.add(s, f.line, f.line+len(f.body))
	}
	t.marked = nil
}

// parentOf reports whether a suite failed only because a test in it did.
func parentOf(f specFailure, all []specFailure) bool {
	for _, g := range all {
		if strings.HasPrefix(g.test.Name, f.test.Name+" > ") {
			return true
		}
	}
	return false
}

// numberedTold reports whether a failure list of another reader has the test.
func numberedTold(out *sink, own, name string) bool {
	for i := range out.result.Symptoms {
		s := &out.result.Symptoms[i]
		if s.Kind == symptom.TestFailure && (lastPart(s.Test) == own || s.Test == name) {
			return true
		}
	}
	return false
}
