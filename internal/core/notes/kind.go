package notes

import (
	"regexp"
	"strings"
)

// kindRules are tried in order on an entry's words, in lower case. The first
// that matches decides; a heading ("Removed", "Added") decides what they leave.
var kindRules = []struct {
	kind Kind
	re   *regexp.Regexp
}{
	{Renamed, regexp.MustCompile(`\brenam(e|ed|ing)\b|\b(is|are) (now )?(called|named)\b|\bnow goes by\b|\bbecame\b|` + "`" + `[^` + "`" + `]+` + "`" + `\s*(→|->|=>)\s*` + "`")},
	{Requirement, regexp.MustCompile(`\b(requires?|required|needs?)\b[^.]{0,40}\b(\d+(\.\d+)*|or (newer|later|higher))\b|\d(\.\d+)*( or (newer|later|higher))? (is|are) (now )?(required|needed)\b|\bminimum\b[^.]{0,40}\bversion\b|\bdrop(s|ped)?\b[^.]{0,20}\bsupport for\b`)},
	{Removed, regexp.MustCompile(`\bremov(e|ed|es|al|ing)\b|\bdropped\b|\bdeleted?\b|\b(is|are|was|were) gone\b|\bno longer (exists?|available|exported|exports|supported|supports|provided?|shipped|part of|there)\b|\bdoes not exist any ?more\b|\bwithdrawn\b`)},
	{Moved, regexp.MustCompile(`\bmoved\b|\blives? in\b|\brelocated\b|\bsplit (out|off|into)\b`)},
	{Deprecated, regexp.MustCompile(`\bdeprecat`)},
	{Default, regexp.MustCompile(`\bdefaults?\b[^.]{0,60}\b(now|changed|is|was|to)\b|\b(now|changed)\b[^.]{0,60}\bdefaults?\b|\bby default\b`)},
	{Signature, regexp.MustCompile(`\b(arguments?|parameters?|signature|pointers?|callback)\b|\bnow (takes?|accepts?|expects?|returns?)\b|\bmust be (passed|given|a|an)\b|\breturns an? (error|promise)\b|\binstead of a\b`)},
	{Added, regexp.MustCompile(`^(add|added|adds|new|introduc\w+)\b`)},
	{Fixed, regexp.MustCompile(`^(fix|fixed|fixes|correct\w*)\b`)},
	{Behaviour, regexp.MustCompile(`\bnow\b|\bno longer\b|\binstead\b|\bchang(e|ed|es)\b|\bmust\b|\bstrict`)},
}

// headingKinds maps a heading's words to the kind of the entries under it.
var headingKinds = []struct {
	word string
	kind Kind
}{
	{"remov", Removed}, {"renam", Renamed}, {"deprecat", Deprecated}, {"moved", Moved},
	{"added", Added}, {"new feature", Added}, {"features", Added}, {"enhancement", Added}, {"new ", Added},
	{"fixed", Fixed}, {"bug fix", Fixed}, {"bugfix", Fixed}, {"fixes", Fixed}, {"patch", Fixed},
	{"changed", Behaviour}, {"breaking", Behaviour}, {"changes", Behaviour}, {"migrat", Behaviour}, {"upgrad", Behaviour},
	{"require", Requirement}, {"security", Fixed},
}

// headingKind is what a heading that sorts entries by kind says, or "".
func headingKind(text string) Kind {
	lower := strings.ToLower(strings.Trim(text, " *:!#"))
	if len(strings.Fields(lower)) > 4 || proseName.MatchString(text) || strings.Contains(text, ".") {
		return ""
	}
	for _, h := range headingKinds {
		if strings.HasPrefix(lower, h.word) || h.kind == Behaviour && strings.Contains(lower, h.word) {
			return h.kind
		}
	}
	return ""
}

// classify decides a change's kind from its words and the heading's.
func classify(text string, heading Kind) Kind {
	lower := strings.ToLower(strings.TrimSpace(text))
	if heading == Added || heading == Fixed {
		return heading
	}
	for _, rule := range kindRules {
		if rule.re.MatchString(lower) {
			if rule.kind == Behaviour && heading != "" {
				return heading
			}
			return rule.kind
		}
	}
	if heading != "" {
		return heading
	}
	return Behaviour
}

var impactWord = regexp.MustCompile(`(?i)\b(high|medium|low)[ -](impact|risk|likelihood)|\b(?:impact|likelihood of impact|risk):?\s*\**\s*(very )?(high|medium|low)\b`)

// impactOf is the impact that a text states, or "unknown".
func impactOf(texts ...string) string {
	for _, text := range texts {
		if m := impactWord.FindStringSubmatch(text); m != nil {
			return strings.ToLower(m[1] + m[4])
		}
	}
	return "unknown"
}
