package source

import (
	"regexp"
	"strings"
)

// SameFamily tells whether two names are of one package: alike but for a major
// version at the end, or one a part of the other.
func SameFamily(a, b string) bool {
	a, b = Family(a), Family(b)
	if a == "" || b == "" {
		return false
	}
	return a == b || strings.HasPrefix(a, b+"/") || strings.HasPrefix(b, a+"/") || strings.HasPrefix(a, b+".") || strings.HasPrefix(a, b+"::")
}

var majorSuffix = regexp.MustCompile(`(/v\d+|\.v\d+)(/|$)`)

// Family is a package without the major version in its name.
func Family(pkg string) string {
	return strings.TrimSuffix(majorSuffix.ReplaceAllString(pkg, "$2"), "/")
}
