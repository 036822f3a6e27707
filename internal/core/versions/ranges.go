package versions

import (
	"regexp"
	"strings"

	"github.com/Masterminds/semver/v3"
)

// Meets reports whether a version lies in a range, as the package managers write
// them: npm, Cargo and Composer ("^1.2 || ~2.0"), RubyGems and Hex ("~> 1.2"),
// Python ("~=1.4, !=1.5"), intervals ("[1.0,2.0)"). Known is false where the
// range or the version is of another kind.
func Meets(version, text string) (met, known bool) {
	v, err := semver.NewVersion(version)
	if err != nil {
		return false, false
	}
	text = strings.TrimSpace(text)
	if text == "" || text == "*" || text == "latest" || text == "any" {
		return true, text != "latest"
	}
	c, err := semver.NewConstraint(rangeOf(text))
	if err != nil {
		return false, false
	}
	c.IncludePrerelease = true
	return c.Check(v), true
}

var (
	pessimistic = regexp.MustCompile(`~[>=]\s*(\d+(?:\.\d+)*)[\w.-]*`)
	interval    = regexp.MustCompile(`^([\[(])\s*([^,\])]*)\s*(?:,\s*([^\])]*))?\s*([\])])$`)
	wildEqual   = regexp.MustCompile(`==\s*(\d+(?:\.\d+)*)\.\*`)
	singlePipe  = regexp.MustCompile(`\s*\|{1,2}\s*`)
	conjunction = regexp.MustCompile(`\s+and\s+`)
)

// rangeOf writes a range as Masterminds/semver reads it.
func rangeOf(text string) string {
	if m := interval.FindStringSubmatch(text); m != nil {
		return intervalOf(m)
	}
	text = singlePipe.ReplaceAllString(text, " || ")
	text = conjunction.ReplaceAllString(strings.ReplaceAll(text, " or ", " || "), ", ")
	text = pessimistic.ReplaceAllStringFunc(text, func(s string) string {
		v := pessimistic.FindStringSubmatch(s)[1]
		switch strings.Count(v, ".") { // the last part may rise
		case 0:
			return ">=" + v
		case 1:
			return "^" + v + ".0"
		}
		return "~" + v
	})
	text = wildEqual.ReplaceAllString(text, "$1.x")
	return strings.NewReplacer("===", "=", "==", "=").Replace(text)
}

func intervalOf(m []string) string {
	if m[3] == "" && !strings.Contains(m[0], ",") {
		return "=" + m[2]
	}
	var parts []string
	if m[2] != "" {
		op := ">="
		if m[1] == "(" {
			op = ">"
		}
		parts = append(parts, op+strings.TrimSpace(m[2]))
	}
	if m[3] != "" {
		op := "<="
		if m[4] == ")" {
			op = "<"
		}
		parts = append(parts, op+strings.TrimSpace(m[3]))
	}
	return strings.Join(parts, ", ")
}

var exact = regexp.MustCompile(`^(?:={1,3}\s*|v)?(\d+(?:\.\d+)*(?:[-.+]?[A-Za-z][\w.+-]*)?)$`)

// exactly is the one version that a range stands for.
func exactly(text string) (string, bool) {
	m := exact.FindStringSubmatch(strings.TrimSpace(text))
	if m == nil {
		return "", false
	}
	return m[1], true
}
