package notes

import (
	"regexp"
	"strings"
)

// renamePatterns find pairs of names in an entry's own words. The flag says
// that the new name comes first. What a pattern matches holds one of its words,
// in lower case; looking for these first is much faster.
var renamePatterns = []struct {
	words    []string
	re       *regexp.Regexp
	newFirst bool
}{
	{[]string{"replace"}, regexp.MustCompile(`(?i)` + span + `\s+(?:has\s+|have\s+)?replace[sd]?\s+(?:(?:the|its|old)\s+)?` + span), true},
	{[]string{"→", "->", "=>", "⇒", "➡", "⟶"}, regexp.MustCompile(span + `\s*(?:→|->|=>|⇒|➡️?|⟶)\s*` + span), false},
	{[]string{"renam"}, regexp.MustCompile(`(?i)\brenam(?:e|ed|ing)\s+(?:the\s+)?(?:\w+\s+)?(?:from\s+)?` + span + `\s+(?:\w+\s+)?(?:to|as|into|in)\s+` + span), false},
	{[]string{"(use ", "(now "}, regexp.MustCompile(`(?i)` + span + `\s*\((?:use|now)\s+(?:\w+\s+)?` + span + `\)`), false},
	{[]string{"renamed", "moved"}, regexp.MustCompile(`(?i)` + span + `[^.;` + "`" + `]{0,40}\b(?:renamed|moved)\s+(?:in)?to\s+` + span), false},
	{[]string{"is now", "are now"}, regexp.MustCompile(`(?i)` + span + `\s+(?:\w+\s+)?(?:is|are)\s+now\s+(?:called\s+|named\s+|spelled\s+|known as\s+)?` + span), false},
	{[]string{"called", "named"}, regexp.MustCompile(`(?i)` + span + `\s+(?:\w+\s+)?(?:is|are)\s+(?:called|named)\s+` + span), false},
	{[]string{"became", "becomes", "goes by"}, regexp.MustCompile(`(?i)` + span + `\s+(?:\w+\s+)?(?:became|becomes|goes by|now goes by)\s+` + span), false},
	{[]string{"replace"}, regexp.MustCompile(`(?i)` + span + `[^.;` + "`" + `]{0,40}\breplaced?\s+(?:by|with)\s+` + span), false},
	{[]string{"replace"}, regexp.MustCompile(`(?i)\breplace\s+(?:\w+\s+)?` + span + `\s+(?:with|by)\s+` + span), false},
	{[]string{"instead of", "rather than", "in place of"}, regexp.MustCompile(`(?i)\buse\s+(?:\w+\s+)?` + span + `\s+(?:\w+\s+)?(?:instead of|rather than|in place of)\s+` + span), true},
	{goneWords, regexp.MustCompile(`(?i)` + span + `[^` + "`" + `]{0,60}?[.;,:(—-]\s*(?:please\s+)?(?:use|call|prefer|try|see)\s+(?:\w+\s+)?` + span), false},
	{[]string{"in favor of", "in favour of"}, regexp.MustCompile(`(?i)` + span + `[^.;` + "`" + `]{0,40}\bin favou?r of\s+(?:\w+\s+)?` + span), false},
	{[]string{"takes its place", "take its place", "takes over"}, regexp.MustCompile(`(?i)` + span + `[^` + "`" + `]{0,60}[.;,]\s*(?:\w+\s+)?` + span + `\s+(?:takes? its place|takes over)`), false},
	{[]string{"change"}, regexp.MustCompile(`(?i)\bchange\s+(?:\w+\s+)?` + span + `\s+to\s+` + span), false},
}

// ownedBy is the part of something that has a new name: "`lid` of the `jar` table
// was renamed to `cap`".
var ownedBy = regexp.MustCompile(`(?i)` + span + `\s+(?:\w+\s+)?(?:of|in|on)\s+(?:the\s+)?(?:\w+\s+)?` + span + `(?:(?:,|,?\s+and|,?\s+or)\s+` + "`[^`\n]+`" + `)*[^.;` + "`" + `]{0,40}\b(?:renamed|moved)\s+(?:in)?to\s+` + span)

// gives is in front of a name that the subject of a text gives: no name for itself.
var gives = regexp.MustCompile(`(?i)\b(?:throws?|raises?|returns?)\s+(?:an?\s+|the\s+)?$`)

// goneWords are in a text that says what to use in place of something.
var goneWords = []string{"remov", "deprecat", "gone", "no longer", "instead", "dropped", "delete", "not exist", "any more", "anymore", "replac", "there is no"}

// listedBefore are further names in front of one: "`a`, `b` and ".
var listedBefore = regexp.MustCompile("((?:`[^`]+`(?:,\\s*(?:and\\s+|or\\s+)?|\\s+and\\s+|\\s+or\\s+))+)$")

// renamesIn lists the pairs of names that a text (with its code spans) tells.
func renamesIn(text string) []Rename {
	if strings.Count(text, "`") < 4 {
		return nil
	}
	lower := strings.ToLower(text)
	var list []Rename
	seen := map[Rename]bool{}
	add := func(from, to string) {
		r := Rename{From: bareName(from), To: bareName(to)}
		if r.From != "" && r.To != "" && r.From != r.To && !seen[r] && !seen[Rename{From: r.To, To: r.From}] {
			seen[r] = true
			list = append(list, r)
		}
	}
	if paired, lists := inOrder(text, lower); lists {
		for _, r := range paired {
			add(r.From, r.To)
		}
		return list
	}
	if m := ownedBy.FindStringSubmatch(text); m != nil && holdsAny(lower, "renamed", "moved") {
		add(m[1], m[3])
		return list
	}
	for _, p := range renamePatterns {
		if !holdsAny(lower, p.words...) {
			continue
		}
		for _, m := range p.re.FindAllStringSubmatchIndex(text, -1) {
			first, second := text[m[2]:m[3]], text[m[4]:m[5]]
			if p.newFirst {
				add(second, first)
				continue
			}
			if gives.MatchString(text[:m[2]-1]) {
				continue
			}
			if more := listedBefore.FindString(text[:m[2]-1]); more != "" {
				for _, name := range spansOf(more) {
					add(name, second)
				}
			}
			add(first, second)
		}
	}
	return list
}

var (
	nameList = "((?:`[^`\n]+`(?:\\s*,\\s*(?:and\\s+|or\\s+)?|\\s+and\\s+|\\s+or\\s+))+`[^`\n]+`)"
	// "`a`, `b` and `c` were renamed to `x`, `y` and `z` respectively", or without
	// the last word
	byPosition = regexp.MustCompile(nameList + "[^`.;]{0,60}?\\b(?:to|by|with|into|become|became|called|named|now)\\s+(?:the\\s+)?" + nameList)
	// "`a`, `b` and `c` are now suffixed with `Async`"
	affixed = regexp.MustCompile("((?:`[^`\n]+`(?:\\s*,\\s*(?:and\\s+|or\\s+)?|\\s+and\\s+|\\s+or\\s+)?)+)\\s*[^`.;]{0,40}?\\b(suffix|prefix)ed (?:with|by)\\s+(?:an?\\s+|the\\s+)?`([^`\n]+)`")
)

// inOrder lists the pairs that two lists of names make by their order, and those
// that a suffix or a prefix makes. Lists tells that the text has such lists: those
// of different lengths make no pair at all.
func inOrder(text, lower string) (pairs []Rename, lists bool) {
	if holdsAny(lower, "suffixed", "prefixed") {
		m := affixed.FindStringSubmatch(text)
		if m == nil {
			return nil, false
		}
		var list []Rename
		for _, name := range spansOf(m[1]) {
			bare := bareName(name)
			if m[2] == "suffix" {
				list = append(list, Rename{From: bare, To: bare + bareName(m[3])})
			} else {
				list = append(list, Rename{From: bare, To: bareName(m[3]) + bare})
			}
		}
		return list, true
	}
	if !holdsAny(lower, "respectively", "renamed", "replaced", "now ", "became", "become", "called", "named") {
		return nil, false
	}
	m := byPosition.FindStringSubmatch(text)
	if m == nil {
		return nil, false
	}
	from, to := spansOf(m[1]), spansOf(m[2])
	if len(from) != len(to) {
		return nil, true
	}
	list := make([]Rename, len(from))
	for i := range from {
		list[i] = Rename{From: from[i], To: to[i]}
	}
	return list, true
}
