package versions

import (
	"strings"

	"github.com/Masterminds/semver/v3"
)

// Order orders two versions: by semantic versioning where both are such, else
// number by number as they stand.
func Order(a, b string) int {
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
