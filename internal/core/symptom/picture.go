package symptom

import (
	"path"
	"strings"
	"unicode"
)

// leastName is how many letters and digits a test's name has at least for a picture to be
// known by it.
const leastName = 4

// Pictured reports whether a picture that a run left belongs to a symptom: what the symptom
// says names the file, or the file's name holds the test's, as runners make it, without what
// is no letter and no digit.
func Pictured(file string, s *Symptom) bool {
	base := path.Base(file)
	if strings.Contains(s.Message, base) || strings.Contains(s.Detail, base) {
		return true
	}
	name := squeezed(s.Test)
	return len(name) >= leastName && strings.Contains(squeezed(file), name)
}

// squeezed is a text's letters and digits, small.
func squeezed(text string) string {
	return strings.Map(func(r rune) rune {
		if unicode.IsLetter(r) || unicode.IsDigit(r) {
			return unicode.ToLower(r)
		}
		return -1
	}, text)
}
