package notes

import (
	"regexp"
	"slices"
	"strings"
	"unicode"
)

// mostExamples bounds the examples of an entry, longestExample each of them, in bytes.
const (
	mostExamples   = 24
	longestExample = 80
)

// bareCode is a span of code that is a name, a call of one, or a sign by itself: that is no
// example of how something is written.
var bareCode = regexp.MustCompile(`^(?:\W*|[@#$\-]*[\pL_][\w.:\-/\\#]*[*?!]?(?:\(\))?|\d+(?:\.\d+)*)$`)

// examplesIn lists the spans of code in a text that show how something is written:
// "/:single", "!<!tag>", "01234".
func examplesIn(words string) []string {
	var list []string
	for _, text := range spansOf(words) {
		text = strings.TrimSpace(text)
		octal := len(text) > 2 && text[0] == '0' && text[1] != '.' && strings.IndexFunc(text, func(r rune) bool { return !unicode.IsDigit(r) }) < 0
		if len(text) > longestExample || bareCode.MatchString(text) && !octal || slices.Contains(list, text) {
			continue
		}
		if list = append(list, text); len(list) == mostExamples {
			break
		}
	}
	return list
}
