package read

import (
	"strings"
	"unicode"
)

// Tally is what a test runner counts in its closing summary. What it does not
// tell is -1. Runners word and punctuate it in their own ways ("31 runs, 0
// failures", "Tests run: 31, Failures: 0", "12 passing", "# pass 4"), but all
// put a count beside an outcome, and little else on the line.
type Tally struct {
	Line    int  `json:"line"`
	Total   int  `json:"total"`
	Passed  int  `json:"passed"`
	Failed  int  `json:"failed"`
	Skipped int  `json:"skipped"`
	Part    bool `json:"part,omitempty"` // of a class or an assembly, which the line names
}

// countedThing is what a number in a summary counts, as the word beside it tells.
type countedThing uint8

const (
	ofNothing countedThing = iota
	filler                 // a word between the counts of a summary
	wordOf
	wordOut
	wordCount
	ofTests
	ofMoreTests // told apart from the others
	ofPassed
	ofFailed
	ofErrors
	ofSkipped
	ofOther // files, assertions, seconds: not tests
)

// tallyWords are the words of summaries, in small letters.
var tallyWords = map[string]countedThing{}

func init() {
	for thing, words := range map[countedThing]string{
		filler:      "in with and the result results ok all time duration took elapsed finished at s m h from were was is info found totals across",
		wordOf:      "of",
		wordOut:     "out",
		wordCount:   "count",
		ofTests:     "test tests example examples run runs spec specs case cases total ran executed completed tested",
		ofMoreTests: "doctest doctests property properties",
		ofPassed:    "passed pass passes passing success successes succeeded successful",
		ofFailed:    "failed fail fails failing failure failures unsuccessful broken crashing crashed",
		ofErrors:    "error errors errored",
		ofSkipped:   "skipped skip skips pending ignored todo disabled xfailed incomplete inconclusive canceled cancelled aborted pendings omissions omitted",
		ofOther: "assertion assertions warning warnings check checks expectation expectations file files suite suites module modules hook hooks snapshot snapshots " +
			"containers started notifications blacklisted warn warns second seconds sec secs minute minutes ms millis milliseconds measured filtered deselected excluded unexpected risky notices deprecations xpassed rerun reruns flaky workers worker steps step scenario scenarios subtests",
	} {
		for _, w := range strings.Fields(words) {
			tallyWords[w] = thing
		}
	}
}

// tallyWord looks a word up, in either case.
func tallyWord(word string) countedThing {
	var small [16]byte // the longest is "notifications"
	if len(word) > len(small) {
		return ofNothing
	}
	for i := range len(word) {
		small[i] = lower(word[i])
	}
	return tallyWords[string(small[:len(word)])]
}

// tallyMarks are texts of which each summary holds one, and few other lines do.
var tallyMarks = []string{
	"passed", "passing", "successes", "succeeded", "successful", "failed", "failing", "failures", "failure", "tests", "examples", "specs", "runs", "pending",
	"^# pass ", "^# fail ", "^# skipped ", "^ℹ pass ", "^ℹ fail ", "^ℹ skipped ", "^OK (", "^[ FAIL ", "^ok | ", "test cases",
}

// maxTally is how long a summary's line may be.
const maxTally = 240

// token is a word or a number of a line, with the signs that stand before it.
type token struct {
	number int          // -1 for a word
	word   countedThing // of a word
	before string
}

// tallyTokens parts a line, into a list that has room. A number with a unit of
// time or a part of it, and a percentage, is left out.
func tallyTokens(list []token, line string) []token {
	from := 0
	for i := 0; i < len(line); {
		c := line[i]
		switch {
		case '0' <= c && c <= '9':
			j, n := i, 0
			for j < len(line) && '0' <= line[j] && line[j] <= '9' && j-i < 9 {
				n = 10*n + int(line[j]-'0')
				j++
			}
			k := j
			for k < len(line) && (wordLetter(line[k]) || '0' <= line[k] && line[k] <= '9' || line[k] == '%' || line[k] == ':' && k+1 < len(line) && '0' <= line[k+1] && line[k+1] <= '9' ||
				line[k] == '.' && k+1 < len(line) && '0' <= line[k+1] && line[k+1] <= '9') {
				k++
			}
			if k == j && (i == 0 || !wordLetter(line[i-1]) && line[i-1] != '.') {
				list = append(list, token{number: n, before: line[from:i]})
				from = k
			}
			i = k
		case wordLetter(c):
			j := i
			for j < len(line) && wordLetter(line[j]) {
				j++
			}
			list = append(list, token{word: tallyWord(line[i:j]), number: -1, before: line[from:i]})
			i, from = j, j
		default:
			i++
		}
	}
	return list
}

func wordLetter(c byte) bool { return 'a' <= c && c <= 'z' || 'A' <= c && c <= 'Z' || c == '_' }

// hasCount reports whether a number stands by itself in a line: no time, share,
// version or part of a name.
func hasCount(line string) bool {
	for i := 0; i < len(line); i++ {
		if line[i] < '0' || line[i] > '9' {
			continue
		}
		j := i
		for j < len(line) && '0' <= line[j] && line[j] <= '9' {
			j++
		}
		alone := i == 0 || strings.IndexByte(" \t(=:|,[+", line[i-1]) >= 0
		switch {
		case !alone || j == len(line):
		case line[j] == '.' || line[j] == ':':
			alone = j+1 == len(line) || line[j+1] == ' '
		default:
			alone = strings.IndexByte(" \t),;|]", line[j]) >= 0
		}
		if alone {
			return true
		}
		for j < len(line) && (wordLetter(line[j]) || '0' <= line[j] && line[j] <= '9' || line[j] == '.') {
			j++
		}
		i = j
	}
	return false
}

// joined reports whether signs bind a count to the word beside it.
func joined(signs string, label bool) bool {
	signs = strings.TrimSpace(signs)
	return signs == "" || label && (signs == ":" || signs == "=")
}

// tallyOf reads a line as a summary, or as a part of one.
func tallyOf(line string) (t Tally, ok bool) {
	t = Tally{Total: -1, Passed: -1, Failed: -1, Skipped: -1}
	if len(line) > maxTally || !hasCount(line) {
		return t, false
	}
	var room [48]token
	words := tallyTokens(room[:0], strings.TrimRightFunc(line, unicode.IsSpace))
	counts, strange, more := 0, 0, 0
	named, labelled := false, false // something stands before the counts; the first has its label before it
	for i := range words {
		w := &words[i]
		if w.number < 0 {
			if w.word == ofNothing {
				strange++
				named = named || counts == 0
			}
			continue
		}
		thing := thingOf(words, i)
		switch thing {
		case ofMoreTests:
			more += w.number
			continue
		case ofTests, ofPassed, ofFailed, ofErrors, ofSkipped:
		default:
			continue
		}
		if counts++; counts == 1 {
			labelled = strings.ContainsAny(w.before, ":=")
		}
		if !t.count(thing, w.number) {
			return t, false // twice the same: a table, not a summary
		}
	}
	if t.Total >= 0 {
		t.Total += more
	}
	if len(words) > 1 && headsOther(words) {
		return t, false
	}
	switch {
	case counts == 0, strange > 0 && counts < 3, strange > mostStrange, named && !labelled: // of a file or a suite, or prose
		return t, false
	}
	t.Part = strange > 0
	return t, true
}

// mostStrange is how many words that no summary has may stand behind its counts:
// those of a class or a file.
const mostStrange = 8

// headsOther tells of a line that counts something else: "Test Files 1 failed".
func headsOther(words []token) bool {
	for i, w := range words {
		if w.number >= 0 || i > 1 {
			return false
		}
		if w.word == ofOther {
			return true
		}
	}
	return false
}

// thingOf is what the number at i counts: by the word behind it, else by the
// label before it.
func thingOf(words []token, i int) countedThing {
	if i+3 < len(words) && words[i+1].word == wordOut && words[i+2].word == wordOf && words[i+3].number >= 0 {
		return behindNumber(words, i+3) // "1 out of 12 tests failed"
	}
	if i > 2 && words[i-1].word == wordOf && words[i-2].word == wordOut && words[i-3].number >= 0 {
		return ofTests
	}
	if thing := behindNumber(words, i); thing != ofNothing {
		return thing
	}
	if i == 0 || words[i-1].number >= 0 || !joined(words[i].before, true) {
		return ofNothing
	}
	thing := words[i-1].word
	switch {
	case thing == wordOf:
		return ofTests
	case thing == wordCount && i > 1: // "Test Count: 31"
		thing = words[i-2].word
	}
	if i > 1 && thing == ofTests && words[i-2].number < 0 && joined(words[i-1].before, false) {
		switch which := words[i-2].word; which { // "Failed Tests 1"
		case ofPassed, ofFailed, ofSkipped:
			return which
		}
	}
	return thing
}

// behindNumber is what the words behind a number say that it counts.
func behindNumber(words []token, i int) countedThing {
	if i+1 >= len(words) || words[i+1].number >= 0 || !joined(words[i+1].before, false) {
		return ofNothing
	}
	thing := words[i+1].word
	if i+2 < len(words) && thing == ofTests && words[i+2].number < 0 && joined(words[i+2].before, false) {
		switch more := words[i+2].word; more { // "0 tests failed", "3 test suites"
		case ofPassed, ofFailed, ofSkipped, ofOther:
			return more
		}
	}
	return thing
}

// count takes a count; it is false where the same was counted before.
func (t *Tally) count(thing countedThing, n int) bool {
	into := &t.Total
	switch thing {
	case ofPassed:
		into = &t.Passed
	case ofFailed:
		into = &t.Failed
	case ofSkipped:
		into = &t.Skipped
	case ofErrors: // of a test that did not come to its end
		t.Failed = max(t.Failed, 0) + n
		return true
	}
	switch {
	case thing == ofFailed && t.Failed >= 0, thing == ofSkipped && t.Skipped >= 0: // failures and errors, ignored and pending
		*into += n
	case *into >= 0 && *into != n && thing != ofTests:
		return false
	default:
		*into = max(*into, n)
	}
	return true
}

// tallyReach is how many lines apart the parts of one summary stand at most.
const tallyReach = 4

// tally takes a line that may be a summary. A part that stands close behind
// another and counts something else goes on with it.
func (o *sink) tally(number int, line string) {
	trimmed := strings.Trim(line, "= \t")
	last := len(o.result.Tallies) - 1
	near := last >= 0 && number-o.tallied <= tallyReach
	if !near && last+1 == mostTallies {
		return
	}
	t, ok := tallyOf(trimmed)
	if !ok {
		return
	}
	t.Line = number
	if near && o.result.Tallies[last].extend(t) {
		o.tallied = number
		return
	}
	if len(o.result.Tallies) < mostTallies {
		o.result.Tallies = append(o.result.Tallies, t)
		o.tallied = number
	}
}

// mostTallies bounds the summaries that are kept.
const mostTallies = 10_000

// extend adds what another part of the summary counts, if it was not counted yet.
func (t *Tally) extend(more Tally) bool {
	if t.Total >= 0 && more.Total >= 0 || t.Passed >= 0 && more.Passed >= 0 || t.Failed >= 0 && more.Failed >= 0 {
		return false
	}
	if t.Skipped > 0 && more.Skipped >= 0 { // skipped and pending, in a line each
		more.Skipped += t.Skipped
	}
	for _, pair := range [][2]*int{{&t.Total, &more.Total}, {&t.Passed, &more.Passed}, {&t.Failed, &more.Failed}, {&t.Skipped, &more.Skipped}} {
		*pair[0] = max(*pair[0], *pair[1])
	}
	return true
}

// settle fills in what the counts of a summary leave to be reckoned.
func (t Tally) settle() Tally {
	failed, skipped := max(t.Failed, 0), max(t.Skipped, 0)
	switch {
	case t.Passed < 0 && t.Total >= 0:
		t.Passed = max(t.Total-failed-skipped, 0)
	case t.Passed >= 0 && t.Total < t.Passed+failed+skipped:
		t.Total = t.Passed + failed + skipped
	}
	t.Failed, t.Skipped = failed, skipped
	return t
}

// Tallied sums up the summaries of an input; one behind parts that counts as many
// as these is their own sum. It is false where there is none.
func Tallied(list []Tally) (sum Tally, ok bool) {
	parts := 0 // tests in the parts since the last whole
	for _, t := range list {
		t = t.settle()
		switch {
		case t.Total < 0: // failures or skips alone are no summary
			continue
		case t.Part:
			parts += t.Total
		case parts > 0 && t.Total == parts:
			parts = 0
			continue
		default:
			parts = 0
		}
		sum.Total, sum.Passed, sum.Failed, sum.Skipped = sum.Total+t.Total, sum.Passed+t.Passed, sum.Failed+t.Failed, sum.Skipped+t.Skipped
		ok = true
	}
	return sum, ok
}
