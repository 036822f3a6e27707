package cluster

import (
	"regexp"
	"strings"

	"unicausa/internal/core/symptom"
)

// said is the specific text of a runtime error in what a symptom says, whoever
// printed it: the test that it ended, the log, the crash itself or a script's
// own verdict. It is "" where the words are those of an assertion, or of what
// any program may say.
//
//	PathError [TypeError]: no name at index 1       the crash
//	no name at index 1                              the test that it ended
//	wanted 200, got 500 TypeError: no name at …     a script
func said(s *symptom.Symptom) string {
	if text := specific(s); text != "" {
		return exact(text)
	}
	return ""
}

// specific is what said says, as it was printed.
func specific(s *symptom.Symptom) string {
	if s.Kind != symptom.TestFailure && s.Kind != symptom.Crash && s.Phase.Order() <= symptom.PhaseCompile.Order() || asserts.MatchString(s.Code) {
		return ""
	}
	text, thrown := s.Message, s.Kind == symptom.Crash
	if at := errorClass.FindAllStringIndex(text, 4); at != nil {
		last := at[len(at)-1]
		if asserts.MatchString(text[at[0][0]:last[1]]) {
			return ""
		}
		text, thrown = text[last[1]:], true
	} else if class := errorClass.FindString(before(s.Detail, "\n")); class != "" { // above the message
		thrown = thrown || !asserts.MatchString(class)
	}
	if len(strings.Fields(text)) < 3 || len(text) < 16 || refused.MatchString(text) || !thrown && compares.MatchString(text) {
		return ""
	}
	return strings.TrimSpace(position.ReplaceAllString(text, ""))
}

// position is a place in what was read, at the end of what is said of it.
var position = regexp.MustCompile(`(?:,? (?:at|on|in))?(?: line)? \(?\d+(?::\d+|, (?:col(?:umn)? )?\d+)\)?:?$|,? (?:at|on) line \d+:?$`)

// Says reports whether the symptom tells by itself what is wrong, in words that are not an
// assertion's.
func (e *Evidence) Says() bool { return e.said != "" }

// exact is a text without what changes from run to run, but with its small
// numbers: "2 arguments required" is not "3 arguments required".
func exact(text string) string {
	return symptom.Normalize(text) + strings.Join(smallNumber.FindAllString(text, -1), " ")
}

var smallNumber = regexp.MustCompile(`\b\d{1,2}\b`)

var (
	// errorClass is the class of an error before its message, alone or with the
	// one it extends: "TypeError: ", "PathError [TypeError]: ", "jar.JarError: ".
	errorClass = regexp.MustCompile(`\b(?:[\w$]+[.\\])*[A-Z]\w*(?:Error|Exception|Failure)(?: \[\w+\])?: `)

	// asserts are the classes of failed assertions.
	asserts = regexp.MustCompile(`(?i)assert|expectation|comparisonfail|testfail|ERR_ASSERTION`)

	// compares are the words of assertions, which many causes share.
	compares = regexp.MustCompile(`(?i)\bexpect|\bassert|\bshould\b|\bwanted?\b|\bgot\b|\bactual\b|to equal|to be\b|!==|\bdid not finish\b|\btimed? ?out\b|\btests? failed\b|\bfailed$`)
)

// wording is a message without the single words that it quotes: what is said, not
// of what.
func wording(message string) string { return quotedWord.ReplaceAllString(message, "‹word›") }

var quotedWord = regexp.MustCompile("<[^<>\\s]{1,60}>|'[^'\\s]{1,60}'|\"[^\"\\s]{1,60}\"|`[^`\\s]{1,60}`")

// selfSaid reports whether a diagnostic's message says by itself what is wrong:
// it quotes nothing, and names what it is about.
func selfSaid(message string) bool {
	return len(strings.Fields(message)) >= 4 && !strings.ContainsAny(message, "'\"`‘“<[(") && specificName.MatchString(message)
}

// specificName is a name that is no word: with a capital inside a sentence, a
// hump or an underscore.
var specificName = regexp.MustCompile(`[a-z] [A-Z]\w+\b|\b[a-z]+[A-Z]\w*|\w_\w`)

// sayings joins what says the same specific thing, whoever printed it, alone or
// behind words of its own: "weigh-in of crate 3: no name at index 1".
func (g *grouping) sayings() {
	first := map[string]int{}
	same := func(of, i int) {
		if !g.contradict(of, i) {
			g.join(of, i, Because{What: "says the same", Value: strings.TrimSpace(g.evidence[i].Symptom.Message), Weight: certain}, false)
		}
	}
	for i, e := range g.evidence {
		text := e.said
		if text == "" {
			continue
		}
		if of, ok := first[text]; !ok {
			first[text] = i
		} else {
			same(of, i)
		}
	}
	for i, e := range g.evidence {
		if e.said == "" || first[e.said] != i {
			continue
		}
		rest, found := specific(e.Symptom), true
		for range mostBefore {
			if _, rest, found = strings.Cut(rest, ": "); !found || len(strings.Fields(rest)) < fewestSaid {
				break
			}
			if of, ok := first[exact(rest)]; ok {
				same(of, i)
				break
			}
		}
	}
}

// mostBefore bounds how many layers of words may stand before what is the same.
const mostBefore = 8

// fewestSaid is how many words must be the same behind others.
const fewestSaid = 4
