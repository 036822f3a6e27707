package cli

import (
	"context"
	"fmt"
	"os"
	"regexp"
	"slices"
	"strings"
	"unicode"

	"unicausa/internal/api"
	"unicausa/internal/client"
	"unicausa/internal/core/rewrite"
	"unicausa/internal/core/source"
	"unicausa/internal/installed"
)

// identifier is a name that a package can declare.
var identifier = regexp.MustCompile(`^[A-Za-z_]\w*$`)

// held is what the declarations of the installed package say of a patch.
type held struct {
	told    []string // what was read, in words
	kept    []string // the places that fit, as the service takes them
	refused []api.RefusedPlace
}

// holdAgainst reads what the package of a change declares, as it is installed here, and
// holds the names that a patch brings against it. Without the package, or where the old
// version is installed, nothing is told.
func holdAgainst(ctx context.Context, c *client.Client, upgrade int64, change string, p *api.Patch) (h held, err error) {
	if len(p.Edits) == 0 || change == "" {
		return h, nil
	}
	d, err := c.Change(ctx, upgrade, change)
	if err != nil {
		return h, err
	}
	o, err := c.Overview(ctx, upgrade)
	if err != nil {
		return h, err
	}
	pkg, version := d.Row.Change.Package, ""
	for _, m := range o.Upgrade.Leg.Moves {
		if source.SameFamily(m.Package, pkg) {
			pkg, version = m.Package, m.To
		}
	}
	folder := installed.Folder(".", pkg, version)
	if folder == "" {
		return h, nil
	}
	files, whole := installed.Programs(folder)
	names := []string{}
	for _, e := range p.Edits {
		names = append(names, exchanged(e, d.Row.Change.Symbols)...)
	}
	found := rewrite.Declarations(files, names)
	seen := map[string]bool{}
	for _, e := range p.Edits {
		pair := exchanged(e, d.Row.Change.Symbols)
		if len(pair) == 0 {
			h.kept = append(h.kept, fmt.Sprintf("%s:%d:%d", e.File, e.Line, e.Column))
			continue
		}
		to := pair[0]
		list, why := found[to], ""
		switch {
		case list == nil && (!whole || slices.ContainsFunc(pair[1:], func(old string) bool { return found[old] != nil })):
			return held{told: []string{fmt.Sprintf("%s is not in %s: that is another version, or not all of it", to, folder)}}, nil
		case list == nil:
			why = fmt.Sprintf("%s is not in %s as it is installed", to, pkg)
		default:
			if text, err := os.ReadFile(e.File); err == nil && to == e.To {
				args, owned := rewrite.Called(e.File, string(text), e.Line, e.Column, source.ImportsOf(e.File, strings.Split(string(text), "\n")))
				why = rewrite.Unlike(to, list, args, owned)
			}
			if at := list[0]; !seen[to] && at.Line > 0 {
				seen[to] = true
				h.told = append(h.told, fmt.Sprintf("%s is declared in %s at %s:%d", to, pkg, at.File, at.Line))
			}
		}
		if why != "" {
			h.refused = append(h.refused, api.RefusedPlace{File: e.File, Line: e.Line, Column: e.Column, Name: e.From, Why: why})
			continue
		}
		h.kept = append(h.kept, fmt.Sprintf("%s:%d:%d", e.File, e.Line, e.Column))
	}
	return h, nil
}

// exchanged are the name that an edit brings and those that it takes away, as far as the
// change names them; nothing where it brings none.
func exchanged(e api.PatchEdit, symbols []string) []string {
	if identifier.MatchString(e.To) && identifier.MatchString(e.From) {
		return []string{e.To, e.From}
	}
	words := func(text string) []string {
		return strings.FieldsFunc(text, func(r rune) bool { return r != '_' && r != '$' && !unicode.IsLetter(r) && !unicode.IsDigit(r) })
	}
	from, to := words(e.From), words(e.To)
	var pair []string
	for _, name := range symbols {
		if slices.Contains(to, name) && !slices.Contains(from, name) {
			pair = append([]string{name}, pair...)
		} else if slices.Contains(from, name) && !slices.Contains(to, name) {
			pair = append(pair, name)
		}
	}
	if len(pair) == 0 || !slices.Contains(to, pair[0]) {
		return nil
	}
	return pair
}
