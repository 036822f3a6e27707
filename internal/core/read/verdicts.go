package read

import (
	"regexp"
	"slices"
	"strings"

	"unicausa/internal/core/symptom"
)

// verdicts reads by shape what test runners print that no reader knows: a
// verdict beside a name, before or behind it, and what is said of a failure
// below it, or in a list at the end.
//
//	[FAIL] shelf::opens: (0.01s)         a verdict in brackets, in capitals, with a colon
//	FAIL 08 opens -> wanted 2, got 1
//	shelf: opens_test...*failed*         or behind the name
//	  Test: opens ...FAILED
//	│  ├─ opens() ✘ wanted 2, got 1      or as a mark in a tree
//	Failure → spec/shelf_spec.x @ 5      or as the head of a section
//
// A test that is told of twice is one, at the place where its verdict stands
// first; the fuller account gives its words.
type verdicts struct {
	tests   []*verdictTest
	byName  map[string]*verdictTest
	byWord  map[string][]*verdictTest // by the first word of their names, and by what stands behind the last separator
	open    *verdictTest
	blank   bool
	tree    []branch // the names that the one at hand stands below
	passed  int
	listing bool // a list of failures is being read
}

// branch is a name in a tree of tests.
type branch struct {
	indent int
	name   string
}

type verdictTest struct {
	name, suite string
	from, end   int
	body        []string
	lines       int
	words       string // behind the verdict, on its line
	code        string
	sure        bool // the verdict can be nothing else
	at          position
	told        bool // by another reader
}

var verdictsReader = stream{shape: true, name: "verdicts", basis: symptom.ByVerdict, marks: verdictMarks, how: aWord, open: func() lineReader { return newVerdicts() }}

// notTests are words that a verdict stands beside when it is of no single test.
var notTests = map[string]bool{"build": true, "tests": true, "test": true, "compilation": true, "result": true, "results": true, "total": true, "status": true, "failures": true, "summary": true, "run": true, "all": true, "overall": true, "task": true, "error": true, "errors": true, "check": true, "checks": true, "configure": true, "suite": true, "suites": true}

func newVerdicts() *verdicts {
	return &verdicts{byName: map[string]*verdictTest{}, byWord: map[string][]*verdictTest{}}
}

func (v *verdicts) add(t *verdictTest) {
	v.tests = append(v.tests, t)
	v.byName[t.name] = t
	v.index(t)
}

// mostOfWord bounds the tests that are found by one word.
const mostOfWord = 100

func (v *verdicts) index(t *verdictTest) {
	for _, word := range []string{behindSeparator(t.name), firstWord(t.name)} {
		if list := v.byWord[word]; len(list) < mostOfWord && !slices.Contains(list, t) {
			v.byWord[word] = append(list, t)
		}
	}
}

// behindSeparator is what stands behind the last separator that may stand before a name.
func behindSeparator(text string) string {
	i := len(text)
	for i > 0 && text[i-1] != ':' && text[i-1] != '.' && text[i-1] != ' ' {
		i--
	}
	return text[i:]
}

func (v *verdicts) listening() bool { return len(v.tests) > 0 || v.listing }

func (v *verdicts) line(l Line, out *sink) verdict {
	text := strings.TrimSpace(l.Text)
	if l.marked || verdictIn.inText(l.Text) != 0 {
		indent := treeIndent(l.Text)
		name, words, outcome, ok := verdictLineOf(l.Text)
		ok = ok || v.byName[name] != nil && name != ""
		if ok && v.open != nil && outcome != symptom.Failed && l.Text[0] == ' ' && indent > 6 {
			ok = false
		}
		if ok {
			v.open = nil
			return v.verdict(l, name, words, outcome, indent, out)
		}
	}
	if text == "" {
		v.listing = false
	} else if v.listed(l, text) || l.marked && v.section(l, text) || v.again(l, text, out) {
		return more
	}
	if v.open == nil {
		return pass
	}
	return v.body(l, text, out)
}

// treeIndent is how deep a line stands in a tree.
func treeIndent(text string) int {
	n := 0
	for _, c := range text {
		if c != ' ' && c != '\t' && c != '│' && c != '├' && c != '└' && c != '─' {
			break
		}
		n++
	}
	return n
}

func (v *verdicts) verdict(l Line, name, words string, outcome symptom.Outcome, indent int, out *sink) verdict {
	for len(v.tree) > 0 && v.tree[len(v.tree)-1].indent >= indent {
		v.tree = v.tree[:len(v.tree)-1]
	}
	suite := ""
	if strings.ContainsAny(l.Text[:min(len(l.Text), 12)], "├└│") || strings.Contains(l.Text, "├─") || strings.Contains(l.Text, "└─") {
		var above []string
		for _, b := range v.tree {
			above = append(above, b.name)
		}
		suite = strings.Join(above, " ")
		v.tree = append(v.tree, branch{indent, name})
	}
	if outcome != symptom.Failed {
		if outcome == symptom.Passed {
			v.passed++
		}
		out.testOutcome(symptom.Test{Suite: suite, Name: name, Outcome: outcome})
		return took
	}
	code := ""
	if class := strings.Trim(name, "()"); class != name && isClass(class) { // what ended the test that is named above
		if head, said, cut := strings.Cut(l.above(1), "..."); cut && testName(cleanName(head)) {
			name, words, code = cleanName(head), said, class
		}
	} else if isClass(words) {
		code = words
	}
	if old := v.known(name, suite); old != nil {
		v.open, v.blank = old, false
		return more
	}
	t := &verdictTest{name: name, suite: suite, from: l.Number, end: l.Number, words: words, code: code, sure: !bareVerdict(l.Text)}
	t.body = append(t.body, v.above(l)...)
	v.add(t)
	v.open, v.blank = t, false
	return more
}

// bareVerdict reports whether nothing but a capital word makes the verdict: a
// line that passes, or a second failure, has to bear it out.
func bareVerdict(text string) bool {
	rest, ok := strings.CutPrefix(strings.TrimSpace(text), "FAIL")
	rest = strings.TrimPrefix(rest, "ED")
	return ok && strings.HasPrefix(rest, " ") && !strings.HasPrefix(rest, "  ")
}

// above are the lines right above a verdict that nobody has claimed, and that
// stand deeper than it: what a runner says before it gives the verdict.
func (v *verdicts) above(l Line) []string {
	indent := treeIndent(l.Text)
	var lines []string
	for n := 1; n <= 12; n++ {
		text := l.above(n)
		if strings.TrimSpace(text) == "" || treeIndent(text) <= indent && !unmarked(text) {
			break
		}
		if unmarked(text) {
			text = text[strings.IndexByte(text, ']')+1:]
		}
		lines = append([]string{text}, lines...)
	}
	return lines
}

// unmarked reports whether a line stands behind an empty mark, as wide as a
// verdict: "[----] ".
func unmarked(text string) bool {
	end := strings.IndexByte(text, ']')
	return end > 2 && end < 12 && text[0] == '[' && strings.Trim(text[1:end], "-= ") == ""
}

// known is the test that was told of already under a name, or a longer one.
func (v *verdicts) known(name, suite string) *verdictTest {
	if t := v.byName[name]; t != nil && (suite == "" || t.suite == suite || t.suite == "") {
		return t
	}
	return nil
}

// section takes the head of a failure in a list at the end: "Failure → path @ 5",
// "── Failure (path:3:3): name ────", "1. path:12 - assertion".
func (v *verdicts) section(l Line, text string) bool {
	rest := strings.Trim(text, "─━═=-* ")
	for _, word := range []string{"Failure", "Error", "Failed", "FAILED", "FAIL", "ERROR"} {
		after, ok := strings.CutPrefix(rest, word)
		if !ok {
			continue
		}
		if end := strings.IndexByte(after, ']'); end > 1 && after[0] == '[' && isWord(after[1:end]) { // what kind of failure
			after = after[end+1:]
		}
		after = strings.TrimLeft(after, " :→>-")
		if m := caseOfClass.FindStringSubmatch(after); m != nil && len(after) > 0 { // Failure: test_adds(PayoutTest)
			t := &verdictTest{name: m[1], suite: m[2], from: l.Number, end: l.Number, sure: true, words: strings.Trim(after[len(m[0]):], ": ")}
			v.add(t)
			v.open, v.blank = t, false
			return true
		}
		open := strings.HasPrefix(after, "(")
		where := strings.TrimLeft(after, "('\"`")
		p, ok := positionAt(where)
		if !ok {
			continue
		}
		name := strings.Trim(where[p.length:], "'\"`) :─-")
		if name == "" && !open {
			name = strings.TrimSpace(l.below(1))
		}
		if name == "" || len(name) > 300 {
			continue
		}
		t := v.byName[name]
		if t == nil {
			t = &verdictTest{name: name, from: l.Number, end: l.Number}
			v.add(t)
		}
		t.at = p
		v.open, v.blank = t, false
		return true
	}
	return false
}

// totals are the counts of a closing summary.
var totals = regexp.MustCompile(`\b(?:\d+ (?:tests?|passed|failed|failures?|skipped|errors?|assertions?|pending|specs?)|(?:total|passed|failed|failures|errors|skipped)[:=] *\d+)\b`)

// caseOfClass is a test as Test::Unit and its kin name it: test_adds(PayoutTest).
var caseOfClass = regexp.MustCompile(`^(\w+)\(([A-Z][\w:]*)\)`)

// listed takes a list of failures at the end that names each with its place:
// "Failing scenarios:", and below it "  path:12  name".
func (v *verdicts) listed(l Line, text string) bool {
	if !v.listing {
		if text == "" || strings.IndexByte("fFeEbB", text[0]) < 0 {
			return false
		}
		first, rest, _ := strings.Cut(text, " ")
		rest = strings.ToLower(rest[:min(len(rest), 20)])
		switch strings.ToLower(first[:min(len(first), 10)]) {
		case "failing", "failed", "errored", "broken":
			what := strings.Trim(rest, ": ")
			v.listing = strings.HasSuffix(text, ":") && (what == "scenarios" || what == "tests" || what == "specs" || what == "examples" || what == "cases")
		}
		return v.listing
	}
	where := text
	p, ok := positionAt(where)
	if command, rest, cut := strings.Cut(text, " "); !ok && cut && isWord(command) { // to run it again
		where = rest
		p, ok = positionAt(where)
	}
	name := ""
	if ok {
		name = strings.TrimPrefix(strings.TrimLeft(where[p.length:], " :-#"), "Scenario: ")
	}
	if !ok || name == "" {
		v.listing = false
		return false
	}
	if v.known(name, "") == nil {
		t := &verdictTest{name: name, from: l.Number, end: l.Number, sure: true, at: p}
		v.add(t)
	}
	v.open = nil
	return true
}

// again takes a line that names a test which was told of above, as lists of
// failures at the end do.
func (v *verdicts) again(l Line, text string, out *sink) bool {
	if len(v.tests) == 0 || len(text) > 300 || v.open != nil && len(l.Text) > len(text)+3 {
		return false
	}
	ending := behindSeparator(text)
	candidates := v.byWord[ending]
	if first := firstWord(text); first != ending {
		candidates = slices.Concat(candidates, v.byWord[first])
	}
	for _, t := range candidates {
		if len(t.name) > len(text)+1 && strings.HasPrefix(t.name, text+" ") && strings.Contains(text, " ") { // words stood behind the name
			t.words, t.name = t.name[len(text)+1:], text
			v.index(t)
		}
		head, ok := strings.CutSuffix(text, t.name)
		if !ok || head == "" && v.open == t || head != "" && strings.IndexByte(":. ", head[len(head)-1]) < 0 {
			continue
		}
		if t.suite != "" && !strings.Contains(text, lastWord(t.suite)) {
			continue
		}
		if !v.accounted(t, l, out) {
			v.open, v.blank = t, false
		}
		return true
	}
	return false
}

// accounted makes a crash that was read right above the name of a test, which a
// rule ends, the account of its failure.
func (v *verdicts) accounted(t *verdictTest, l Line, out *sink) bool {
	list := out.result.Symptoms
	if len(list) == 0 || !acrossPage(l.below(1)) {
		return false
	}
	s := &list[len(list)-1]
	if s.Kind != symptom.Crash || s.Test != "" || len(s.At) != 1 || l.Number-s.At[0].End > 5 {
		return false
	}
	s.Kind, s.Phase, s.Test, s.Unit = symptom.TestFailure, symptom.PhaseTest, t.name, t.suite
	t.told = true
	return true
}

// body takes a line that is said of the open test.
func (v *verdicts) body(l Line, text string, out *sink) verdict {
	t := v.open
	if text == "" {
		if v.blank || t.lines > 200 {
			v.open = nil
			return pass
		}
		v.blank = true
		return more
	}
	indent := len(l.Text) - len(strings.TrimLeft(l.Text, " \t"))
	if t.lines > 300 || v.blank && indent == 0 || totalsLine(text) || t.lines == 0 && unmarked(text) {
		v.open = nil
		return pass
	}
	v.blank = false
	t.lines++
	if len(t.body) < 300 {
		t.body = append(t.body, l.Text)
	}
	t.end = max(t.end, l.Number)
	return more
}

// totalsLine reports whether a line sums up a run of tests.
func totalsLine(text string) bool {
	lower := strings.ToLower(text)
	return strings.ContainsAny(text, "0123456789") && len(totals.FindAllString(lower, 2)) > 1 || strings.HasPrefix(text, "====") || strings.HasPrefix(lower, "failures (") || strings.HasPrefix(lower, "test run ")
}

func (v *verdicts) wants() bool { return v.open != nil && v.open.sure && v.open.lines == 0 && !v.blank }

func (v *verdicts) interrupt(*sink) { v.open = nil }

func (v *verdicts) close(out *sink) {
	v.open = nil
	accounts := v.accounts(out)
	for _, t := range v.tests {
		if !t.sure && v.passed == 0 && len(v.tests) < 2 {
			out.result.Account.Symptom -= 1 + t.lines
			out.result.Account.Plain += 1 + t.lines
			continue
		}
		s := symptom.Symptom{Kind: symptom.TestFailure, Level: "error", Phase: symptom.PhaseTest, Tool: "tests", Unit: t.suite, Test: t.name, Code: t.code, Message: t.words}
		body := strings.Join(t.body, "\n")
		s.Detail = body
		if class, message, ok := strings.Cut(t.words, ": "); ok && t.code == "" && isClass(class) {
			s.Code, s.Message = class, message
		}
		if s.Message == "" {
			s.Message = headline("", body, "", t.name)
		}
		failure(&s, body)
		if s.File == "" && t.at.line > 0 {
			s.File, s.Line, s.Column = t.at.file, t.at.line, t.at.column
		}
		out.testOutcome(symptom.Test{Suite: t.suite, Name: t.name, Outcome: symptom.Failed})
		if !t.told && !accounts.tell(&s) {
			out.add(s, t.from, t.end)
		}
	}
	v.tests, v.byName, v.byWord = nil, map[string]*verdictTest{}, map[string][]*verdictTest{}
}

// accounts are what other readers told of failures that have a verdict too.
type accounts struct {
	tests   map[string]bool // that a reader of the runner told
	crashes []*symptom.Symptom
}

func (v *verdicts) accounts(out *sink) (a accounts) {
	if len(v.tests) == 0 {
		return a
	}
	a.tests = map[string]bool{}
	for i := range out.result.Symptoms {
		switch s := &out.result.Symptoms[i]; {
		case s.Kind == symptom.TestFailure:
			a.tests[s.Test] = true
		case s.Kind == symptom.Crash && s.Test == "" && s.Basis == symptom.ByStack && len(s.Message) > 8:
			a.crashes = append(a.crashes, s)
		}
	}
	return a
}

// tell reports whether a failure is told already: as the same test, or as a
// crash in the same words, which is the test's from then on.
func (a *accounts) tell(s *symptom.Symptom) bool {
	if a.tests[s.Test] {
		return true
	}
	for _, c := range a.crashes {
		if c.Test == "" && (strings.Contains(s.Message, c.Message) || strings.Contains(s.Detail, c.Message)) {
			c.Kind, c.Phase, c.Test, c.Unit = symptom.TestFailure, symptom.PhaseTest, s.Test, s.Unit
			return true
		}
	}
	return false
}
