package source

import (
	"regexp"
	"strings"
)

// SameFamily reports whether two names are of one package: alike but for a major
// version at the end, or one a part of the other. Of a Maven coordinate
// (org.jar:jar-core) the packages are those of its group, and those that have the words
// of its artifact in their path.
func SameFamily(a, b string) bool {
	if group, artifact, ok := coordinate(a); ok {
		return published(group, artifact, b)
	}
	if group, artifact, ok := coordinate(b); ok {
		return published(group, artifact, a)
	}
	a, b = plain(a), plain(b)
	if a == "" || b == "" {
		return false
	}
	return a == b || strings.HasPrefix(a, b+"/") || strings.HasPrefix(b, a+"/") || last(a) == b || last(b) == a
}

// coordinate cuts a Maven coordinate into group and artifact.
func coordinate(name string) (group, artifact string, ok bool) {
	group, artifact, ok = strings.Cut(name, ":")
	if ok = ok && group != "" && artifact != "" && !strings.ContainsAny(name, "/\\ ") && !strings.HasPrefix(artifact, ":"); !ok {
		return "", "", false
	}
	artifact, _, _ = strings.Cut(artifact, ":")
	return group, artifact, true
}

// published reports whether a name is of what a coordinate stands for: another of its group,
// the artifact alone, or a package.
func published(group, artifact, name string) bool {
	if g, a, ok := coordinate(name); ok {
		return g == group || a == artifact
	}
	group, name = plain(group), plain(name)
	if name == "" {
		return false
	}
	words := strings.NewReplacer("-", "/", "_", "/").Replace(strings.ToLower(artifact))
	return name == group || strings.HasPrefix(name, group+"/") || name == strings.ToLower(artifact) || strings.Contains("/"+name+"/", "/"+words+"/")
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
