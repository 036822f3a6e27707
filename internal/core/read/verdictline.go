package read

import (
	"math/bits"
	"strings"

	"unicausa/internal/core/symptom"
)

var verdictMarks = append(verdictForms("FAIL", "PASS", "ERROR"), "BROKEN", "*failed*", "...ok", "... ok", "✘", "✗", "✖", "×", "❌", "✕", "✔", "✓", "failure ", "error ", "◼", "NOK", "[ok]", "XPASS", "^failing ", "^errored ", "^failed ", "^failure: ", "^error: ", "Testcase: ", "Test: ")

// verdictForms are the forms in which words stand as verdicts, before a name or
// behind it.
func verdictForms(words ...string) (forms []string) {
	for _, w := range words {
		for _, lead := range []string{"^", "[", "[ ", "(", "*", "* ", "*** ", ".", ". ", ": ", "  ", "- ", "> ", "| ", "# ", "─ ", "\t"} {
			forms = append(forms, lead+w)
		}
	}
	return forms
}

// verdictWords are the words of a verdict, as they are printed.
var verdictWords = []struct {
	word    string
	outcome symptom.Outcome
}{
	{"FAILURE", symptom.Failed}, {"FAILED", symptom.Failed}, {"FAIL", symptom.Failed}, {"ERROR", symptom.Failed}, {"BROKEN", symptom.Failed}, {"NOK", symptom.Failed}, {"XPASS", symptom.Failed}, {"Failure", symptom.Failed}, {"Failed", symptom.Failed}, {"failed", symptom.Failed}, {"fail", symptom.Failed},
	{"PASSED", symptom.Passed}, {"PASS", symptom.Passed}, {"OK", symptom.Passed}, {"ok", symptom.Passed}, {"Passed", symptom.Passed}, {"passed", symptom.Passed}, {"SUCCESS", symptom.Passed},
	{"SKIPPED", symptom.Skipped}, {"SKIP", symptom.Skipped}, {"PENDING", symptom.Skipped}, {"IGNORED", symptom.Skipped}, {"XFAIL", symptom.Skipped}, {"skipped", symptom.Skipped},
	{"✘", symptom.Failed}, {"✗", symptom.Failed}, {"✖", symptom.Failed}, {"×", symptom.Failed}, {"❌", symptom.Failed}, {"✕", symptom.Failed}, {"◼", symptom.Failed}, {"✔", symptom.Passed}, {"✓", symptom.Passed}, {"✅", symptom.Passed}, {"↷", symptom.Skipped}, {"○", symptom.Skipped},
}

// verdictIn finds which of the words stand in a line; verdictStart
// tells of a byte whether one begins with it.
var verdictIn, verdictStart = func() (*marks, [256]bool) {
	var starts [256]bool
	lists := make([]markList, len(verdictWords))
	for i, v := range verdictWords {
		lists[i] = markList{texts: []string{v.word}}
		starts[v.word[0]] = true
	}
	return newMarks(lists), starts
}()

// verdictAt reads a verdict at the start of s: with brackets, stars or a colon
// around it. Firm tells that it can be nothing else.
func verdictAt(s string) (outcome symptom.Outcome, length int, firm bool) {
	at := 0
	closing := ""
	switch {
	case strings.HasPrefix(s, "["):
		closing = "]"
	case strings.HasPrefix(s, "("):
		closing = ")"
	case strings.HasPrefix(s, "*"):
		closing = "*"
	}
	if closing != "" {
		for at = 1; at < len(s) && (s[at] == ' ' || s[at] == '*'); at++ {
		}
	}
	if at >= len(s) || !verdictStart[s[at]] {
		return "", 0, false
	}
	for _, v := range verdictWords {
		rest, ok := strings.CutPrefix(s[at:], v.word)
		if !ok || rest != "" && (isLetter(rest[0]) && v.word[0] < 0x80 || rest[0] == '_' || rest[0] == '/') {
			continue
		}
		end := len(s) - len(rest)
		if closing != "" {
			trimmed := strings.TrimLeft(rest, " *")
			if cut, ok := strings.CutPrefix(trimmed, closing); ok {
				if v.word == "ERROR" && (at < 2 || closing != "]") { // "[ERROR] …" is a log's
					return "", 0, false
				}
				return v.outcome, len(s) - len(cut), true
			}
			if closing == "*" && len(trimmed) < len(rest) {
				return v.outcome, len(s) - len(trimmed), true
			}
			return "", 0, false
		}
		upper := v.word == strings.ToUpper(v.word)
		if strings.HasPrefix(rest, ":") {
			return v.outcome, end + 1, upper && v.word != "ERROR"
		}
		if rest == "" || rest[0] == ' ' || rest[0] == '\t' || v.word[0] >= 0x80 {
			if v.word[0] >= 0x80 && (rest == "" || rest[0] != ' ') {
				return "", 0, false
			}
			return v.outcome, end, upper && v.word[0] < 0x80 && v.word != "OK" && v.word != "ERROR"
		}
		return "", 0, false
	}
	return "", 0, false
}

// verdictLeads stand before a verdict for the eye alone.
var verdictLeads = []string{"│", "├─", "└─", "├", "└", "•", "●", "- ", "* ", "# "}

// verdictLineOf parts a line into a test's name, how it ended, and what is said.
func verdictLineOf(text string) (name, words string, outcome symptom.Outcome, ok bool) {
	s := strings.TrimSpace(text)
	if len(s) > 500 {
		return "", "", "", false
	}
	for _, l := range verdictLeads {
		for strings.HasPrefix(s, l) {
			s = strings.TrimLeft(s[len(l):], " ─")
		}
	}
	for _, l := range []string{"Test: ", "Testcase: ", "test "} {
		s = strings.TrimPrefix(s, l)
	}
	if name, words, ok := failureIn(s); ok {
		return name, words, symptom.Failed, true
	}
	if outcome, n, firm := verdictAt(s); n > 0 && (firm || s[0] >= 0x80 && !strings.HasSuffix(s, ".")) {
		rest := strings.TrimLeft(s[n:], " \t:-–—")
		if o, m, f := verdictAt(rest); m > 0 && f { // "✘ [fail]: name"
			outcome, rest = o, strings.TrimLeft(rest[m:], " \t:-")
		}
		if l, ok := labelAt(rest, false); ok && l.strong && l.word != "class" { // a mark before a tool's label
			return "", "", "", false
		}
		name, words = splitWords(rest)
		return cleanName(name), words, outcome, testName(cleanName(name))
	}
	// Behind the name: after dots, a colon or a gap, or as a mark.
	for found := verdictIn.inText(s); found != 0; found &= found - 1 {
		v := verdictWords[bits.TrailingZeros64(found)]
		i := strings.LastIndex(s, v.word)
		if v.word[0] >= 0x80 {
			if i < 2 || s[i-1] != ' ' {
				continue
			}
			name, words = strings.TrimSpace(s[:i]), strings.TrimSpace(s[i+len(v.word):])
			inTree := len(s) < len(strings.TrimSpace(text))
			return cleanName(name), words, v.outcome, testName(cleanName(name)) || inTree && name != ""
		}
		if i < 2 {
			continue
		}
		head, tail := s[:i], s[i+len(v.word):]
		column := strings.HasPrefix(tail, "  ") && strings.HasSuffix(head, "  ") // in a table
		tail = strings.TrimLeft(tail, "*]) .!|")
		if tail != "" && tail[0] != '(' && tail[0] != '[' && !column {
			continue
		}
		lead := strings.TrimRight(head, "*[(| ")
		gap := len(head) - len(lead)
		dots := len(lead) - len(strings.TrimRight(lead, "."))
		bracket := strings.HasSuffix(head, "[") || strings.HasSuffix(head, "*") || strings.HasSuffix(head, "[ ")
		if dots < 2 && !(bracket && gap > 1) && !(strings.HasSuffix(lead, ":") && v.word == strings.ToUpper(v.word)) && gap < 2 {
			continue
		}
		if v.word[0] >= 'a' && dots < 2 && !bracket {
			continue
		}
		name = cleanName(strings.TrimRight(lead, ".: "))
		if column {
			words = inColumns(tail)
		} else if class := strings.Trim(tail, "()"); class != tail && isClass(class) { // what ended it
			words = class
		}
		return name, words, v.outcome, testName(name)
	}
	return "", "", "", false
}

// failureIn reads a verdict that names its test behind "in": "ERROR in
// test.opens: stuck". What stands there without "test" in it is a file.
func failureIn(s string) (name, words string, ok bool) {
	for _, word := range []string{"ERROR in ", "FAILURE in "} {
		if rest, cut := strings.CutPrefix(s, word); cut {
			name, words, ok = strings.Cut(rest, ": ")
			return name, words, ok && strings.Contains(strings.ToLower(name), "test") && !strings.ContainsAny(name, " /\\")
		}
	}
	return "", "", false
}

// inColumns is what columns behind a verdict say, without how long a test took.
func inColumns(s string) string {
	var words []string
	for column := range strings.SplitSeq(s, "  ") {
		if column = strings.TrimSpace(column); column != "" && !duration(column) {
			words = append(words, column)
		}
	}
	return strings.Join(words, " ")
}

// splitWords parts a test's name from what is said of it on the same line.
func splitWords(s string) (name, words string) {
	for _, arrow := range []string{" -> ", " => ", " → ", " — "} {
		if name, words, ok := strings.Cut(s, arrow); ok {
			return name, words
		}
	}
	if name, words, ok := strings.Cut(s, ": "); ok && words == strings.ToUpper(words) && strings.HasSuffix(words, "!") { // CRASH!
		return name, words
	}
	return s, ""
}

// cleanName takes durations, quotes and what counts tests (3/12) off a name.
func cleanName(s string) string {
	s = strings.TrimSpace(s)
	if _, n := leadingNumber(s); n > 0 && n < len(s) && s[n] == '/' {
		if _, m := leadingNumber(s[n+1:]); m > 0 && strings.HasPrefix(s[n+1+m:], " ") {
			s = strings.TrimSpace(s[n+1+m:])
		}
	}
	for {
		t := strings.TrimRight(s, " :.,")
		if n := len(t); n > 3 && (t[n-1] == ')' || t[n-1] == ']') {
			open := strings.LastIndexAny(t, "([")
			if inner := t[open+1 : n-1]; open > 0 && duration(inner) {
				s = strings.TrimSpace(t[:open])
				continue
			}
		}
		if i := strings.LastIndex(t, " took "); i > 0 {
			s = t[:i]
			continue
		}
		if i := strings.LastIndexByte(t, ' '); i > 0 && duration(t[i+1:]) {
			s = t[:i]
			continue
		}
		s = t
		break
	}
	if n := len(s); n > 2 && s[0] == s[n-1] && (s[0] == '"' || s[0] == '\'' || s[0] == '`') {
		s = s[1 : n-1]
	}
	return s
}

// duration reports whether s is how long a test took: "12 ms", "0.01s", "0.01 sec".
func duration(s string) bool {
	s = strings.TrimSpace(strings.TrimLeft(s, "~<"))
	n := 0
	for n < len(s) && (isDigit(s[n]) || s[n] == '.' || s[n] == ',') {
		n++
	}
	switch strings.TrimSpace(s[n:]) {
	case "ms", "s", "sec", "secs", "seconds", "second", "µs", "us", "ns", "m":
		return n > 0
	}
	return false
}

// testName reports whether s may be the name of a test.
func testName(s string) bool {
	if s == "" || len(s) > 300 || strings.ContainsAny(s, "✘✗✖✔✓") || isDigit(s[0]) && !strings.ContainsAny(s, "abcdefghijklmnopqrstuvwxyz") || strings.ContainsAny(s[:1], "=-.#<{") {
		return false
	}
	lowered := strings.ToLower(s)
	if strings.HasPrefix(lowered, "build failed") || pathLike(s) && !strings.Contains(s, "::") {
		return false
	}
	for _, w := range []string{"problem", "error", "warning"} {
		if i := strings.Index(lowered, " "+w); i > 0 && isDigit(lowered[i-1]) {
			return false
		}
	}
	if strings.Contains(s, " failed after ") || strings.Contains(s, " passed after ") {
		return false
	}
	words := strings.Fields(strings.ToLower(s))
	if len(words) < 3 {
		plain := true
		for _, w := range words {
			_, n := leadingNumber(w)
			plain = plain && (notTests[strings.Trim(w, ":,.()[]")] || n == len(w) || strings.Contains(w, "="))
		}
		if plain {
			return false
		}
	}
	for _, w := range []string{" tests", " failures", " failed", " passed", " skipped", " test(s)", " assertions", " specs", " examples", " errors"} {
		if i := strings.Index(strings.ToLower(s), w); i > 0 && isDigit(s[0]) {
			return false
		}
	}
	letters := false
	for i := range len(s) {
		letters = letters || isLetter(s[i]) || s[i] >= 0xc3 && s[i] < 0xe2
	}
	return letters
}
