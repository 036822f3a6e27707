package cluster

import (
	"path"
	"regexp"
	"strings"

	"unicausa/internal/core/source"
)

// packageOf is the package in whose installed file a frame stands, or the one
// that moved whose name is a folder of its path.
func (c *Context) packageOf(file string) string {
	if pkg := packageOf(file); pkg != "" {
		return pkg
	}
	parts := strings.Split(strings.TrimPrefix(file, "/"), "/")
	for _, part := range parts[:len(parts)-1] {
		if s := c.subject(part); s != "" {
			return s
		}
	}
	return ""
}

// packageOf is the package whose installed file a frame stands in.
func packageOf(file string) string {
	if i := strings.LastIndex(file, "node_modules/"); i >= 0 {
		parts := strings.SplitN(file[i+len("node_modules/"):], "/", 3)
		if strings.HasPrefix(parts[0], "@") && len(parts) > 1 {
			return parts[0] + "/" + parts[1]
		}
		return parts[0]
	}
	for _, mark := range []string{"/pkg/mod/", "/site-packages/", "/dist-packages/", "/vendor/"} {
		if i := strings.LastIndex(file, mark); i >= 0 {
			rest := file[i+len(mark):]
			if at := strings.IndexByte(rest, '@'); at > 0 {
				return rest[:at]
			}
			if mark == "/vendor/" {
				return path.Dir(rest)
			}
			return before(rest, "/")
		}
	}
	if m := versioned.FindStringSubmatch(file); m != nil {
		return m[1]
	}
	return ""
}

// versioned is a path that begins with a module and its version.
var versioned = regexp.MustCompile(`^([\w.-]+\.\w+/[\w./-]+)@v\d`)

// among reports whether a package is one of the subjects or a part of one. With
// no subjects every package is.
func among(pkg string, subjects []string) bool {
	if len(subjects) == 0 {
		return true
	}
	for _, s := range subjects {
		if source.SameFamily(pkg, s) {
			return true
		}
	}
	return false
}
