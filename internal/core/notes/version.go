package notes

import (
	"regexp"
	"strings"

	"github.com/Masterminds/semver/v3"
)

var (
	versionToken = regexp.MustCompile(`(?i)\bv?(\d+\.(?:\d+|x)(?:\.(?:\d+|x))?(?:\.\d+)?(?:[-.]?(?:alpha|beta|rc|pre|preview|next|dev|snapshot|final|release|m)[-.]?\d*)?)\b`)
	fromTo       = regexp.MustCompile(`(?i)\bv?(\d+(?:\.\w+)*)\s*(?:to|→|->|=>|⇒|–)\s*v?(\d+(?:\.\w+)*)\b`)
	majorOnly    = regexp.MustCompile(`(?i)(?:\bversion|\brelease|\bv)\s?(\d+)\b`)
	dateToken    = regexp.MustCompile(`\b\d{4}[-./]\d{1,2}[-./]\d{1,2}\b|\b\d{1,2}\.\d{1,2}\.\d{4}\b`)
)

// headingVersion is the version that a heading names, or "".
func headingVersion(text string) string {
	text = dateToken.ReplaceAllString(text, "")
	if m := fromTo.FindStringSubmatch(text); m != nil {
		return m[2]
	}
	if m := versionToken.FindStringSubmatch(text); m != nil {
		return strings.TrimSuffix(strings.TrimSuffix(m[1], ".x"), ".X")
	}
	if m := majorOnly.FindStringSubmatch(text); m != nil {
		return m[1]
	}
	if word := strings.Trim(text, "[]# v"); word != "" && len(word) <= 3 && strings.Trim(word, "0123456789") == "" {
		return word
	}
	return ""
}

// Compare orders two versions: by semantic versioning where both are such,
// else number by number as they stand.
func Compare(a, b string) int {
	x, errX := semver.NewVersion(strings.TrimPrefix(a, "v"))
	y, errY := semver.NewVersion(strings.TrimPrefix(b, "v"))
	if errX == nil && errY == nil {
		return x.Compare(y)
	}
	as, bs := parts(a), parts(b)
	for i := 0; i < len(as) || i < len(bs); i++ {
		var p, q string
		if i < len(as) {
			p = as[i]
		}
		if i < len(bs) {
			q = bs[i]
		}
		if len(p) != len(q) && digits(p+q) {
			p, q = strings.Repeat("0", max(0, len(q)-len(p)))+p, strings.Repeat("0", max(0, len(p)-len(q)))+q
		}
		if c := strings.Compare(p, q); c != 0 {
			return c
		}
	}
	return 0
}

func parts(v string) []string {
	return strings.FieldsFunc(strings.TrimPrefix(v, "v"), func(r rune) bool { return r == '.' || r == '-' || r == '+' || r == '_' })
}

func digits(s string) bool { return strings.Trim(s, "0123456789") == "" }

// Within tells whether a change of this version lies in the move from one
// version to another: above from, up to and including to. An unknown version,
// and an empty bound, let it pass. A version given only in part ("4", "4.1")
// stands for every release that begins with it.
func Within(version, from, to string) bool {
	if version == "" {
		return true
	}
	if from != "" && Compare(version, from) <= 0 && !begins(from, version) {
		return false
	}
	return to == "" || Compare(version, to) <= 0 || begins(to, version)
}

// begins tells whether a full version belongs to a series given in part.
func begins(full, series string) bool {
	return strings.Count(series, ".") < strings.Count(full, ".") && series != major(full) && strings.HasPrefix(strings.TrimPrefix(full, "v")+".", series+".")
}

func major(v string) string {
	head, _, _ := strings.Cut(strings.TrimPrefix(v, "v"), ".")
	return head
}
