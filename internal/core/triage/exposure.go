package triage

import (
	"path"
	"strings"

	"unicausa/internal/core/notes"
	"unicausa/internal/core/source"
)

// places is where each identifier of interest stands: file to count.
type places map[string]map[string]int

// codeFiles are the extensions in which names are searched.
var codeFiles = map[string]bool{}

func init() {
	for _, ext := range strings.Fields(".go .ts .tsx .js .jsx .mjs .cjs .mts .cts .vue .svelte .py .rb .php .java .kt .scala .cs .rs .c .h .cc .cpp .hpp .swift .dart .ex .exs .erl .hs .ml .f90") {
		codeFiles[ext] = true
	}
}

// identifiers finds the old names of all changes in one pass over the tree, in
// files that import the change's package where it is known.
func identifiers(c Case) places {
	found := places{}
	for i := range c.Changes {
		for _, s := range c.Changes[i].Symbols {
			if s.Side != notes.NewOne && s.Weight >= 0.5 {
				found[tail(s.Name)] = map[string]int{}
			}
		}
	}
	var tree *source.Tree
	if n := len(c.After); n > 0 {
		tree = c.After[n-1].Tree
	}
	for _, file := range tree.Files() {
		if !codeFiles[path.Ext(file)] {
			continue
		}
		for _, line := range tree.Lines(file) {
			for _, n := range source.Names(line) {
				if in, ok := found[n.Text]; ok {
					in[file]++
				}
			}
		}
	}
	return found
}

func (p places) of(c *notes.Change) Exposure {
	files, e := map[string]bool{}, Exposure{}
	counted := map[string]bool{}
	for _, s := range c.Symbols {
		name := tail(s.Name)
		if s.Side == notes.NewOne || s.Weight < 0.5 || counted[name] {
			continue
		}
		counted[name] = true
		for file, n := range p[name] {
			files[file] = true
			e.Places += n
		}
	}
	e.Files = len(files)
	return e
}

// changes lists every change with its exposure.
func changes(c Case) []Change {
	index := identifiers(c)
	list := make([]Change, 0, len(c.Changes))
	for i := range c.Changes {
		n := &c.Changes[i]
		renames := n.Renames
		if renames == nil {
			renames = []notes.Rename{}
		}
		list = append(list, Change{
			ID: n.ID, Notes: n.Notes, Line: n.Line, End: n.End, Package: n.Package, Version: n.Version, Kind: n.Kind, Impact: n.Impact,
			Title: n.Title, Symbols: n.Names(), Renames: renames, Exposure: index.of(n),
		})
	}
	return list
}
