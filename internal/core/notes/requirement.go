package notes

import (
	"regexp"
	"strings"
)

// Minimum is the least version that a change asks of a runtime, a tool or
// another package. Above is set where the text only says which version is no
// longer enough.
type Minimum struct {
	Name  string `json:"name"`
	Least string `json:"least,omitempty"`
	Above string `json:"above,omitempty"`
}

// Range is what a version has to lie in.
func (m Minimum) Range() string {
	if m.Above != "" {
		return ">" + m.Above
	}
	return ">=" + m.Least
}

const (
	requiredName    = "`?([A-Za-z@][\\w@./+#-]*(?:\\.js)?)`?"
	requiredVersion = "`?(?:>=|≥|=>|\\^|~>?|at least)?\\s*`?v?(\\d+(?:\\.\\d+)*)`?"
)

// requirementRules find a name and a version in texts that hold one of the words;
// the flag says that the version is the last that is not enough.
var requirementRules = []struct {
	words []string
	re    *regexp.Regexp
	above bool
}{
	{[]string{"requir", "need"}, regexp.MustCompile(`(?i)\b(?:requires?|required|needs?)\b(?: now)?:?\s+(?:at least\s+)?(?:a\s+)?(?:version of\s+)?` + requiredName + `\s+(?:version\s+)?` + requiredVersion), false},
	{[]string{"minimum", "required", "needed"}, regexp.MustCompile(`(?i)(?:^|[\s(*])` + requiredName + `\s+(?:version\s+)?` + requiredVersion + `\+?(?:\s*(?:or|and)\s+(?:newer|later|higher|above|up))?\s+(?:is|are)\s+(?:now\s+)?(?:the (?:new )?minimum|required|needed)`), false},
	{[]string{"minimum"}, regexp.MustCompile(`(?i)\bminimum\s+(?:supported\s+|required\s+)?` + requiredName + `\s+version\b[^.\d]{0,40}?\b(?:to|is|now|=)\s+` + requiredVersion), false},
	{[]string{"minimum"}, regexp.MustCompile(`(?i)\bminimum\s+(?:supported\s+|required\s+)?version\s+(?:of|for)\s+` + requiredName + `[^.\d]{0,40}?\s` + requiredVersion), false},
	{[]string{"support"}, regexp.MustCompile(`(?i)\b(?:drop(?:s|ped)?|remov(?:e|es|ed)|end(?:s|ed)?)\s+(?:the\s+)?support\s+(?:for|of)\s+` + requiredName + `\s+(?:versions?\s+)?(?:<=?\s*|before\s+|up to\s+|below\s+)?` + requiredVersion), true},
	{[]string{"no longer"}, regexp.MustCompile(`(?i)(?:^|[\s(*])` + requiredName + `\s+(?:versions?\s+)?` + requiredVersion + `\s+(?:is|are)\s+no longer\s+supported`), true},
	{[]string{"peer"}, regexp.MustCompile("(?i)`" + `([\w@./-]+)` + "`" + `[^.` + "`" + `]{0,30}\bpeer dependency\b[^.\d]{0,40}` + requiredVersion), false},
}

// notRequired are words that stand before a version and name nothing.
var notRequired = map[string]bool{"version": true, "versions": true, "least": true, "to": true, "the": true, "of": true, "a": true, "than": true, "or": true, "and": true, "is": true, "now": true, "for": true, "at": true, "in": true}

// requirementsIn lists what a text requires, each name once.
func requirementsIn(text string) []Minimum {
	if !strings.ContainsAny(text, "0123456789") {
		return nil
	}
	lower := strings.ToLower(text)
	if !holdsAny(lower, "requir", "need", "minimum", "support", "peer") {
		return nil
	}
	var list []Minimum
	seen := map[string]bool{}
	for _, rule := range requirementRules {
		if !holdsAny(lower, rule.words...) {
			continue
		}
		for _, m := range rule.re.FindAllStringSubmatch(text, -1) {
			name := strings.TrimRight(m[1], ".")
			if notRequired[strings.ToLower(name)] || seen[strings.ToLower(name)] {
				continue
			}
			seen[strings.ToLower(name)] = true
			r := Minimum{Name: name, Least: m[2]}
			if rule.above {
				r.Least, r.Above = "", m[2]
			}
			list = append(list, r)
		}
	}
	return list
}

func holdsAny(text string, parts ...string) bool {
	for _, p := range parts {
		if strings.Contains(text, p) {
			return true
		}
	}
	return false
}
