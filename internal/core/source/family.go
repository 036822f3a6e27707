package source

import (
	"regexp"
	"strings"
)

// SameFamily reports whether two names are of one package: alike but for a major
// version at the end, or one a part of the other.
func SameFamily(a, b string) bool {
	a, b = plain(a), plain(b)
	if a == "" || b == "" {
		return false
	}
	return a == b || strings.HasPrefix(a, b+"/") || strings.HasPrefix(b, a+"/") || last(a) == b || last(b) == a
}

// plain writes a package as one path in small letters: the spellings in code
// (Choir\Voice, choir::voice, my_choir) and in a manifest (my-choir) differ.
func plain(pkg string) string {
	pkg = strings.ToLower(Family(pkg))
	return strings.Trim(separators.Replace(pkg), "/")
}

var separators = strings.NewReplacer(`\`, "/", "::", "/", ".", "/", "-", "_", "../", "", "./", "")

// last is the end of a path that begins with a host or a scope: the name by
// which code knows it.
func last(pkg string) string { return pkg[strings.LastIndexByte(pkg, '/')+1:] }

var majorSuffix = regexp.MustCompile(`(/v\d+|\.v\d+)(/|$)`)

// Family is a package without the major version in its name.
func Family(pkg string) string {
	if !strings.Contains(pkg, "/v") && !strings.Contains(pkg, ".v") {
		return strings.TrimSuffix(pkg, "/")
	}
	return strings.TrimSuffix(majorSuffix.ReplaceAllString(pkg, "$2"), "/")
}
