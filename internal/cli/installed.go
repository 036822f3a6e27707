package cli

import (
	"context"
	"fmt"
	"os"
	"regexp"
	"slices"
	"strings"

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
	var to, from []string
	for _, e := range p.Edits {
		if identifier.MatchString(e.To) && identifier.MatchString(e.From) {
			to, from = append(to, e.To), append(from, e.From)
		}
	}
	if len(to) == 0 || change == "" {
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
	found := rewrite.Declarations(files, append(slices.Clone(to), from...))
	seen := map[string]bool{}
	for _, e := range p.Edits {
		list, there := found[e.To]
		why := ""
		switch {
		case !identifier.MatchString(e.To) || !identifier.MatchString(e.From):
		case !there && (!whole || found[e.From] != nil):
			return held{told: []string{fmt.Sprintf("%s is not in %s: that is another version, or not all of it", e.To, folder)}}, nil
		case !there:
			why = fmt.Sprintf("%s is not in %s as it is installed", e.To, pkg)
		default:
			why = rewrite.Unlike(e.To, list, -1, false)
			if text, err := os.ReadFile(e.File); err == nil {
				args, owned := rewrite.Called(e.File, string(text), e.Line, e.Column, source.ImportsOf(e.File, strings.Split(string(text), "\n")))
				why = rewrite.Unlike(e.To, list, args, owned)
			}
			if at := list[0]; !seen[e.To] && at.Line > 0 {
				seen[e.To] = true
				h.told = append(h.told, fmt.Sprintf("%s is declared in %s at %s:%d", e.To, pkg, at.File, at.Line))
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
