package notes

import (
	"regexp"
	"strings"
)

// described makes a change of each name of a section that lists names, each a
// paragraph of its own with what is said of it below, as references of an API
// and lists of deprecations are printed. It reports whether the section is one.
func (d *document) described(blocks []*block) bool {
	names, words := 0, 0
	for _, b := range blocks {
		switch {
		case b.kind != paragraph && b.kind != codeBlock:
			return false
		case b.kind == paragraph && nameAlone(b.text):
			names++
		case b.kind == paragraph:
			words++
		}
	}
	if names < 3 || words > 2*names {
		return false
	}
	var last *entry
	for _, b := range blocks {
		switch {
		case b.kind == paragraph && nameAlone(b.text):
			if last != nil {
				d.add(last)
			}
			name := strings.Trim(plain(b.text), "`")
			last = &entry{line: b.from, end: b.end, raw: "`" + name + "`", subject: before(name, "(<")}
		case last == nil:
		case b.kind == codeBlock:
			last.take(b, Either)
		default:
			if strings.HasSuffix(last.raw, "`") && !strings.Contains(last.raw, ": ") {
				last.say("", ":")
			}
			last.say(" ", b.text)
			last.end = max(last.end, b.end)
		}
	}
	d.add(last)
	return true
}

// before is what stands before the first of some bytes.
func before(text, bytes string) string {
	if i := strings.IndexAny(text, bytes); i > 0 {
		return text[:i]
	}
	return text
}

// alone is a name with what makes it one: a qualifier, brackets, an underscore.
var alone = regexp.MustCompile(`^@?[A-Za-z_$][\w$]*(?:(?:\.|::|->|#|/)[\w$]+)*(?:<[^()]*>)?(?:\([^()]*\))?$`)

// nameAlone reports whether a paragraph is nothing but a name of code.
func nameAlone(text string) bool {
	text = strings.TrimSpace(text)
	name := plain(text)
	if blank := strings.IndexByte(name, ' '); len(name) > 200 || blank > 0 && !strings.ContainsAny(name[:blank], "(<") || !alone.MatchString(name) {
		return false
	}
	return strings.HasPrefix(text, "`") || strings.ContainsAny(name, ".:(#_") && !strings.HasSuffix(name, ".")
}
