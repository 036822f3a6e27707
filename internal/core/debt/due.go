package debt

import (
	"fmt"
	"regexp"
	"slices"
	"strings"

	"unicausa/internal/core/source"
	"unicausa/internal/core/unified"
	"unicausa/internal/core/versions"
)

// Due is the moment at which a debt is looked at again: a date, or a package
// that reaches a version. The zero Due never comes.
type Due struct {
	Date    string // as in 2031-05-01, from its beginning on
	Package string
	Version string
	Text    string // as it was written
}

// ParseDue reads "2031-05-01", "jar 6.0.0", "jar@6.0.0" or a bare version,
// which is one of the upgrade's own package where it moves but one. What is
// neither is kept as words that never come due by themselves.
func ParseDue(text string, moves []versions.Move) Due {
	text = strings.TrimSpace(text)
	due := Due{Text: text}
	if date.MatchString(text) {
		due.Date = text
		return due
	}
	pkg, version := "", text
	if i := strings.LastIndexAny(text, " @"); i > 0 {
		pkg, version = strings.TrimSpace(text[:i]), text[i+1:]
	}
	if version = strings.TrimPrefix(version, "v"); version == "" || version[0] < '0' || version[0] > '9' {
		return due
	}
	if pkg == "" && len(moves) > 0 {
		pkg = moves[0].Package
	}
	due.Package, due.Version = pkg, version
	return due
}

var date = regexp.MustCompile(`^\d{4}-(0[1-9]|1[0-2])-(0[1-9]|[12]\d|3[01])$`)

// Reached reports whether the moment has come: by the date, today being written
// as it is, or by a move that reaches the version. It says by which, in words.
func (d Due) Reached(moves []versions.Move, today string) (why string, reached bool) {
	if d.Date != "" && today >= d.Date {
		return "its date, " + d.Date + ", has come", true
	}
	for _, m := range moves {
		if d.Version != "" && d.concerns(m.Package) && m.To != "" && versions.Order(m.To, d.Version) >= 0 {
			return fmt.Sprintf("%s reaches %s", m.Package, m.To), true
		}
	}
	return "", false
}

// Out reports whether the release that is waited for is there, and says which.
func (d Due) Out(released []versions.Move) (why string, out bool) {
	for _, r := range released {
		if d.Package != "" && d.concerns(r.Package) && versions.Order(r.To, d.Version) >= 0 {
			return fmt.Sprintf("%s %s is out", r.Package, r.To), true
		}
	}
	return "", false
}

// concerns reports whether a package is the one that is meant: by its whole name
// or by its last part.
func (d Due) concerns(pkg string) bool {
	return d.Package == "" || pkg == d.Package || source.SameFamily(pkg, d.Package) || strings.HasSuffix(pkg, "/"+d.Package)
}

// Find looks for the code of a workaround: in its own file, else in any where
// all its lines stand one below the other. The line is 1-based, 0 where the
// code is gone.
func Find(tree *source.Tree, file, code string) (string, int) {
	want := trimmed(code)
	if tree == nil || len(want) == 0 {
		return "", 0
	}
	for _, name := range append([]string{file}, tree.Files()...) {
		lines := tree.Lines(name)
		for n := range lines {
			if stands(lines[n:], want) {
				return name, n + 1
			}
		}
	}
	return "", 0
}

func trimmed(code string) []string {
	var list []string
	for _, line := range strings.Split(code, "\n") {
		if line = strings.TrimSpace(line); line != "" {
			list = append(list, line)
		}
	}
	return list
}

// stands reports whether lines begin with those that are wanted.
func stands(lines, want []string) bool {
	if len(lines) < len(want) {
		return false
	}
	for i, w := range want {
		if strings.TrimSpace(lines[i]) != w {
			return false
		}
	}
	return true
}

// Removal is the unified diff that takes the code of a workaround out, or ""
// where it is gone. Whether what is left still works is for the checks to say.
func Removal(tree *source.Tree, file, code string) string {
	name, line := Find(tree, file, code)
	if line == 0 {
		return ""
	}
	old := tree.Lines(name)
	kept := slices.Delete(slices.Clone(old), line-1, line-1+len(trimmed(code)))
	return unified.Diff("a/"+name, "b/"+name, strings.Join(old, "\n"), strings.Join(kept, "\n"))
}
