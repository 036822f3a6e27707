package notes

import (
	"regexp"
	"strings"
)

// headLines is how much of a document is looked at for the name of its package.
const headLines = 12

var majorSuffix = regexp.MustCompile(`[/.]v\d+$`)

// About is the package that a document of notes is most likely of: the only one that moves,
// else the one whose name its file or its first lines bear; "" where none does.
func About(name, text string, packages []string) string {
	if len(packages) == 1 {
		return packages[0]
	}
	lines := strings.SplitN(text, "\n", headLines+1)
	head := strings.Join(lines[:min(len(lines), headLines)], "\n")
	for _, within := range []string{name, head} {
		best := ""
		for _, p := range packages {
			if bears(within, p) && len(p) > len(best) {
				best = p
			}
		}
		if best != "" {
			return best
		}
	}
	return ""
}

// bears reports whether a text has a package's whole name, or the last part of it, as words.
func bears(text, pkg string) bool {
	short := majorSuffix.ReplaceAllString(pkg, "")
	short = short[strings.LastIndexAny(short, "/:")+1:]
	padded := " " + strings.ToLower(text) + " "
	for _, name := range []string{pkg, short} {
		name = strings.ToLower(name)
		for at := 0; name != ""; {
			i := strings.Index(padded[at:], name)
			if i < 0 {
				break
			}
			at += i + len(name)
			if !letter(padded[at-len(name)-1]) && !letter(padded[at]) {
				return true
			}
		}
	}
	return false
}

func letter(b byte) bool { return b >= 'a' && b <= 'z' || b >= '0' && b <= '9' }
