package notes

import (
	"html"
	"regexp"
	"strings"
)

// dressing is what stands around an entry's words for those who keep the
// history: none of it is part of what changes.
type dressing struct {
	words    string // the entry without it
	scope    string // of "feat(scope): …" and "**scope:** …"
	category string // of "feat: …" and "[docs] …", in lower case
	breaking bool   // "!" or "Breaking:" stands before the words
}

var (
	comment = regexp.MustCompile(`(?s)<!--.*?-->`)

	// The address of a link in Markdown, and a reference that is the number of
	// an issue, a commit's hash or a person.
	linkTo  = `(?:\([^()\s]*\)|\[[^\]\s]*\])`
	number  = `(?:\[(?:[\w./-]*#|GH-|PR )?\d+\]` + linkTo + `|(?:[\w./-]+)?#\d+|(?:gh-|GH-|bpo-)\d+)`
	hash    = "(?:\\[`?[0-9a-f]{7,40}`?\\]" + linkTo + "|`?[0-9a-f]{7,40}`?)"
	person  = `(?:\[?@[\w-]+\]?` + linkTo + `?)`
	address = `(?:<?https?://\S+)`

	// A number of an issue, or the key that trackers give one: JAR-12.
	ticket = `(?:` + number + `|[A-Z][A-Z0-9]{1,9}-\d+)`

	reference = regexp.MustCompile(`^(?:` + number + `|` + hash + `|` + person + `|` + address + `)$`)
	issue     = regexp.MustCompile(`^` + number + `$`)

	leadingHash   = regexp.MustCompile(`^(?:` + hash + `)\s*(?:[:–—-]\s*)?\s`)
	leadingIssue  = regexp.MustCompile(`^(?:(?:Issue|Bug|PR|Pull request)s? )?` + ticket + `(?:(?:, | and | & |/)` + ticket + `)*(?::| [-–—])\s+`)
	standard      = regexp.MustCompile(`^(?:UTF|ISO|IEC|IEEE|RFC|SHA|CVE|ECMA)-\d`) // which is written like a key
	leadingThanks = regexp.MustCompile(`^(?i:thanks,?\s+)` + person + `[!:,.]?\s+`)
	leadingTag    = regexp.MustCompile(`^\[([A-Za-z][\w ./-]{1,30})\]\s+`)
	leadingBold   = regexp.MustCompile(`^(?:\*\*|__)([\w@][\w@ ./,-]{0,40})(?::(?:\*\*|__)|(?:\*\*|__):)\s+`)
	leadingType   = regexp.MustCompile(`^([a-z]{2,12})(?:\(([^)]{1,60})\))?(!)?:\s+`)
	leadingLabel  = regexp.MustCompile(`^(?:\*\*|__)?([A-Za-z][A-Za-z-]*(?: [A-Za-z-]+)?)(?: \[[^\]]{1,20}\])?(?::(?:\*\*|__)?|(?:\*\*|__):)\s+`)
	leadingBreak  = regexp.MustCompile(`^(?i:\W{0,3}(?:(?:potentially )?breaking(?: changes?)?|backwards?[- ]incom(?:pa|ap)tib\w+(?: changes?)?|bc[- ]break|\[bc\])\W{0,3}):\s*(?:\*\*|__)?\s*`)
)

// housekeeping are the categories of what no user of a package sees.
var housekeeping = map[string]bool{"docs": true, "doc": true, "documentation": true, "test": true, "tests": true, "testing": true, "chore": true, "chores": true, "ci": true, "build": true, "build-related": true, "style": true, "refactor": true, "typo": true, "typos": true, "internal": true, "internals": true, "deps": true, "dependencies": true, "examples": true, "website": true, "site": true, "meta": true, "maintenance": true, "housekeeping": true}

// commitTypes are the types of commits that Conventional Commits and those who
// follow it use; any other word before a colon is a subject.
var commitTypes = map[string]bool{"feat": true, "feature": true, "fix": true, "perf": true, "revert": true, "docs": true, "doc": true, "test": true, "tests": true, "chore": true, "ci": true, "build": true, "style": true, "refactor": true, "deps": true, "break": true, "breaking": true, "security": true, "deprecate": true}

// labels are the words that change logs set before an entry to say of what kind it is, with
// the type of commit that means the same.
var labels = map[string]string{
	"add": "feat", "added": "feat", "addition": "feat", "new": "feat", "new feature": "feat", "feature": "feat", "enhancement": "feat",
	"fixed": "fix", "fixes": "fix", "bugfix": "fix", "bug fix": "fix", "bug-fix": "fix", "bug": "fix", "security": "fix", "security fix": "fix",
	"change": "change", "changed": "change", "changes": "change", "behavior change": "change", "behaviour change": "change", "update": "change", "updated": "change", "modified": "change", "improvement": "perf", "improved": "perf", "performance": "perf",
	"removed": "remove", "removal": "remove", "remove": "remove", "deprecated": "deprecate", "deprecation": "deprecate", "build improvement": "build",
}

// longestLabel is how far into an entry the end of its label may be.
const longestLabel = 48

// undress takes the dressing off an entry.
func undress(text string) (d dressing) {
	if strings.Contains(text, "<!--") {
		text = comment.ReplaceAllString(text, "")
	}
	text = strings.TrimSpace(text)
	for range 6 {
		rest := d.lead(text)
		if rest == text {
			break
		}
		text = rest
	}
	first, rest, more := strings.Cut(text, "\n")
	for range 6 {
		cut := cutReference(first)
		if cut == first || len(cut) < 8 {
			break
		}
		first = cut
	}
	d.words = first
	for more {
		var line string
		if line, rest, more = strings.Cut(rest, "\n"); !reference.MatchString(strings.TrimSpace(line)) {
			d.words += "\n" + line
		}
	}
	if d.words == "" {
		d.words = text
	}
	return d
}

// referring are the words before a reference that belong to it.
var referring = map[string]bool{"closes": true, "closed": true, "fixes": true, "fixed": true, "resolves": true, "refs": true, "ref": true, "see": true, "via": true, "in": true, "from": true, "by": true, "to": true, "thanks": true, "pr": true, "—": true, "–": true, "-": true}

// cutReference takes a reference off the end of a line: a number of an issue,
// a list of such in brackets, an address or a person that a word leads to.
func cutReference(line string) string {
	text := strings.TrimRight(line, " .,;")
	if text == "" {
		return line
	}
	at := strings.LastIndexByte(text, ' ') + 1
	bare := true
	if text[len(text)-1] == ')' {
		if at = opening(text); at < 0 {
			return line
		}
		if at > 0 && text[at-1] == ']' {
			at = strings.LastIndexByte(text[:at], '[')
		} else {
			bare = false
		}
	}
	if at < 1 {
		return line
	}
	if !bare {
		for piece := range strings.FieldsFuncSeq(text[at+1:len(text)-1], func(r rune) bool { return r == ' ' || r == ',' || r == ';' }) {
			if !referring[strings.ToLower(piece)] && !reference.MatchString(piece) {
				return line
			}
		}
		return strings.TrimRight(text[:at], " ,;")
	}
	if !reference.MatchString(text[at:]) {
		return line
	}
	before := strings.TrimRight(text[:at], " ,;")
	word := before[strings.LastIndexByte(before, ' ')+1:]
	switch {
	case referring[strings.ToLower(word)]:
		for referring[strings.ToLower(word)] && word != before {
			before = strings.TrimRight(before[:len(before)-len(word)], " ,;")
			word = before[strings.LastIndexByte(before, ' ')+1:]
		}
		return before
	case issue.MatchString(text[at:]):
		return before
	}
	return line
}

// opening is where the bracket opens that the last byte closes, -1 for nowhere.
func opening(text string) int {
	depth := 0
	for i := len(text) - 1; i >= 0; i-- {
		switch text[i] {
		case ')':
			depth++
		case '(':
			if depth--; depth == 0 {
				return i
			}
		}
	}
	return -1
}

// lead takes one piece of dressing off the beginning of a text; it gives back
// a text that has none as it is.
func (d *dressing) lead(text string) string {
	if text == "" {
		return text
	}
	start := text[:min(len(text), 100)]
	if colon := strings.IndexByte(start, ':'); colon > 0 && colon <= longestLabel && d.category == "" {
		if m := leadingLabel.FindStringSubmatch(start); m != nil && labels[strings.ToLower(m[1])] != "" {
			d.category = labels[strings.ToLower(m[1])]
			return text[len(m[0]):]
		}
	}
	switch first := text[0] | 0x20; {
	case breakSign(start):
		if m := leadingBreak.FindString(text); m != "" {
			d.breaking = true
			return text[len(m):]
		}
	case first == 't':
		if m := leadingThanks.FindString(text); m != "" {
			return text[len(m):]
		}
	case text[0] == '*' || text[0] == '_':
		if m := leadingBold.FindStringSubmatch(text); m != nil && d.scope == "" {
			d.scope = m[1]
			return text[len(m[0]):]
		}
	case text[0] == '[':
		if m := leadingTag.FindStringSubmatch(text); m != nil && !leadingHash.MatchString(text) {
			d.category = strings.ToLower(m[1])
			return text[len(m[0]):]
		}
	}
	if c := text[0]; c == '#' || c == '[' || 'A' <= c && c <= 'Z' {
		if m := leadingIssue.FindString(text); m != "" && len(m) < len(text) && !standard.MatchString(m) {
			return text[len(m):]
		}
	}
	if c := text[0]; c == '[' || c == '`' || '0' <= c && c <= '9' || 'a' <= c && c <= 'f' {
		if m := leadingHash.FindString(text); strings.ContainsAny(m, "0123456789") {
			return strings.TrimLeft(text[len(m):], " ")
		}
	}
	if 'a' <= text[0] && text[0] <= 'z' && strings.Contains(start, ": ") {
		if m := leadingType.FindStringSubmatch(text); m != nil && (commitTypes[m[1]] || m[3] != "") {
			d.category, d.breaking = m[1], d.breaking || m[3] != ""
			if m[2] != "" {
				d.scope = m[2]
			}
			return text[len(m[0]):]
		}
	}
	return text
}

// breakSign reports whether a start of a text may say that what follows breaks.
func breakSign(start string) bool {
	return strings.Contains(start, "reaking") || strings.Contains(start, "REAKING") || strings.Contains(start, "ncompat") || strings.Contains(start, "ncomapt") || strings.HasPrefix(start, "[BC")
}

// entity reports whether a text may hold a character reference of HTML.
func entity(s string) bool {
	i := strings.IndexByte(s, '&')
	return i >= 0 && strings.IndexByte(s[i:], ';') > 0
}

// unescaped resolves the character references of HTML, as Markdown does
// (CommonMark 0.31, section 2.5).
func unescaped(s string) string {
	if !entity(s) {
		return s
	}
	return html.UnescapeString(s)
}
