package review

import (
	"fmt"
	"path"
	"regexp"
	"slices"
	"strings"

	"unicausa/internal/core/notes"
	"unicausa/internal/core/source"
)

// move says why a block is the move itself: versions in a manifest, the import path of
// the new version; "" where it is not.
func (a *asker) move(b *block, e edit) string {
	for _, m := range a.Moves {
		name := m.Package
		text := strings.Join(append(slices.Clone(b.removed), b.added...), "\n")
		switch {
		case name == "" || !strings.Contains(text, name):
		case manifest(b.path()):
			return fmt.Sprintf("the move of %s itself", name)
		case source.Program(b.path()) && importsOnly(e, name):
			return fmt.Sprintf("the import path of %s", name)
		}
	}
	return ""
}

// importsOnly reports whether nothing went or came but texts that hold a path.
func importsOnly(e edit, path string) bool {
	tokens := append(slices.Clone(e.out), e.in...)
	return len(e.out) > 0 && len(e.in) > 0 && !slices.ContainsFunc(tokens, func(t string) bool {
		return !strings.ContainsAny(t[:1], "\"'`") || !strings.Contains(t, path)
	})
}

// follow finds the imports that come or go with what other hunks of the file do.
func (a *asker) follow(hunks []Hunk) {
	for i := range hunks {
		h := &hunks[i]
		if h.Standing != Unasked || len(h.Notices) > 0 && !only(h.Notices, DeletedCode) || !source.Program(h.File) {
			continue
		}
		if cause := a.missing(h); cause != "" {
			h.Standing, h.Why, h.Notices = Follows, fmt.Sprintf("what is included, where %s misses names", cause), []Notice{}
			continue
		}
		came, went := a.imports(h.File, h.Added), a.imports(h.File, h.Removed)
		if came == nil || went == nil || len(came)+len(went) == 0 {
			continue
		}
		why := ""
		for _, imp := range came {
			name := imp.Local
			if j := slices.IndexFunc(hunks, func(o Hunk) bool {
				return o.File == h.File && (o.Standing == Asked || o.Standing == More || o.Standing == Half) && word(strings.Join(o.Added, "\n"), name)
			}); name != "" && j >= 0 {
				why = fmt.Sprintf("line %d uses %s", hunks[j].Line, name)
			} else if a.ours(imp.Package) {
				why = fmt.Sprintf("an import of %s, which moves", imp.Package)
			} else {
				why = ""
				break
			}
		}
		if len(came) == 0 {
			for _, imp := range went {
				if a.after.Has(h.File) && imp.Local != "" && !word(string(a.after.Read(h.File)), imp.Local) {
					why = fmt.Sprintf("nothing uses %s any more", imp.Local)
				} else if a.ours(imp.Package) {
					why = fmt.Sprintf("an import of %s, which moves", imp.Package)
				} else {
					why = ""
					break
				}
			}
		}
		if why != "" {
			h.Standing, h.Why, h.Notices = Follows, why, []Notice{}
		}
	}
}

// include is a line that brings a header.
var include = regexp.MustCompile(`^\s*#\s*include\b|^\s*$`)

// missing is a cause that misses names in a file of which a hunk changes the headers.
func (a *asker) missing(h *Hunk) string {
	for _, line := range append(slices.Clone(h.Added), h.Removed...) {
		if !include.MatchString(line) {
			return ""
		}
	}
	for _, c := range a.Causes {
		if c.Places[h.File] != nil && len(c.Names) > 0 {
			return c.ID
		}
	}
	return ""
}

func only(list []Notice, what string) bool {
	return !slices.ContainsFunc(list, func(n Notice) bool { return n.What != what })
}

// ours reports whether a package is one that moves.
func (a *asker) ours(pkg string) bool {
	return slices.ContainsFunc(a.Changes, func(c notes.Change) bool { return c.Package != "" && source.SameFamily(pkg, c.Package) })
}

// imports are those of lines that are nothing else, nil where they are.
func (a *asker) imports(file string, lines []string) []source.Import {
	list := []source.Import{}
	for _, line := range lines {
		text := strings.TrimSpace(line)
		if strings.Trim(strings.TrimPrefix(text, "import"), " (){};") == "" {
			continue
		}
		if path.Ext(file) == ".go" && !strings.HasPrefix(text, "import") {
			text = "import " + text
		}
		found := source.ImportsOf(file, []string{text})
		if len(found) == 0 || path.Ext(file) == ".go" && !strings.HasSuffix(text, `"`) {
			return nil
		}
		list = append(list, found...)
	}
	return list
}
