package report

import (
	"fmt"
	"path"
	"path/filepath"
	"strings"

	"unicausa/internal/api"
	"unicausa/internal/core/notes"
)

// longestSubject is how long the first line of a commit message is at most, in characters.
const longestSubject = 72

// CommitMessage proposes a message for the fix of a cause: what is done, the entry of the
// notes that asks for it, and the trailer by which the commit is found. Code keeps its case.
func CommitMessage(d *api.CauseDetail) string {
	subject, entry := fmt.Sprintf("Fix %q", d.Cause.Title), ""
	for i := range d.Links {
		if l := &d.Links[i]; l.Standing == api.Likely {
			subject, entry = doing(d, &l.Change), cited(&l.Change)
			break
		}
	}
	if runes := []rune(subject); len(runes) > longestSubject {
		subject = string(runes[:longestSubject-1]) + "…"
	}
	return fmt.Sprintf("%s\n\n%sUnicausa-Cause: %s\n", subject, entry, d.Cause.ID)
}

// doing says what a fix does that a change asks for.
func doing(d *api.CauseDetail, c *api.Change) string {
	by := strings.TrimSpace(shortPackage(c.Package) + " " + c.Version)
	name := meant(d, c)
	switch {
	case len(c.Renames) == 1:
		return fmt.Sprintf("Use %s in place of %s", c.Renames[0].To, c.Renames[0].From)
	case name == "":
	case notes.Kind(c.Kind) == notes.Removed:
		return fmt.Sprintf("Replace %s, which %s removed", name, by)
	case notes.Kind(c.Kind) == notes.Moved || notes.Kind(c.Kind) == notes.Renamed:
		return fmt.Sprintf("Follow %s, which %s moved", name, by)
	case notes.Kind(c.Kind) == notes.Signature:
		return fmt.Sprintf("Call %s as %s wants it", name, by)
	case notes.Kind(c.Kind) == notes.Deprecated:
		return fmt.Sprintf("Replace %s, which %s deprecates", name, by)
	case notes.Kind(c.Kind) == notes.Default:
		return fmt.Sprintf("Set %s, whose default %s changed", name, by)
	case notes.Kind(c.Kind) == notes.Requirement:
		return fmt.Sprintf("Meet what %s requires of %s", by, name)
	}
	return fmt.Sprintf("Adapt to %s: %s", by, c.Title)
}

// meant is the name of a change that a cause is about: the one that its title has, else the
// change's first.
func meant(d *api.CauseDetail, c *api.Change) string {
	for _, name := range c.Symbols {
		if strings.Contains(d.Cause.Title, name) {
			return name
		}
	}
	if len(c.Symbols) > 0 {
		return c.Symbols[0]
	}
	return ""
}

// cited is the entry that asks for a fix, as a message cites it.
func cited(c *api.Change) string {
	return fmt.Sprintf("%s: %s\n(%s:%d)\n\n", strings.TrimSpace(c.Package+" "+c.Version), c.Title, Portable(c.Notes), c.Line)
}

// Portable is a document's name as it may stand in what others read: a path of this machine
// is cut to the file and its folder.
func Portable(name string) string {
	if filepath.IsLocal(name) {
		return name
	}
	name = filepath.ToSlash(name)
	return path.Join(path.Base(path.Dir(name)), path.Base(name))
}

// shortPackage is the last part of a package's name, without a major version.
func shortPackage(pkg string) string {
	parts := strings.FieldsFunc(pkg, func(r rune) bool { return r == '/' || r == ':' })
	for i := len(parts) - 1; i >= 0; i-- {
		if p := parts[i]; i == 0 || len(p) < 2 || p[0] != 'v' || strings.Trim(p[1:], "0123456789") != "" {
			return p
		}
	}
	return pkg
}
