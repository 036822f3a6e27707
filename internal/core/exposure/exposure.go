// Package exposure finds the places in a source tree that changes touch,
// whether or not anything failed there.
package exposure

import (
	"context"
	"path"
	"regexp"
	"slices"
	"sort"
	"strings"

	"unicausa/internal/core/notes"
	"unicausa/internal/core/source"
)

// Place is one place where an old name of a change stands. Line and Column are
// 1-based, the column in bytes. Sure tells how certain it is that the package's
// name is meant: 1 where an import or a receiver says so, down to 0.3 for the
// same word in text.
type Place struct {
	File   string      `json:"file"`
	Line   int         `json:"line"`
	Column int         `json:"column"`
	Name   string      `json:"name"`
	Zone   source.Zone `json:"zone"`
	Sure   float64     `json:"sure"`
	Text   string      `json:"text"` // the line, at most 200 bytes
}

// Sureness of a place.
const (
	Certain = 1   // an import, or a receiver that comes from one, says so
	Likely  = 0.7 // the file uses the package, and the name is a member of something
	Perhaps = 0.5 // the language does not tell, or a setting's name stands in a string
	Said    = 0.3 // in a comment, a document or a template
)

// Found is where a change touches the tree.
type Found struct {
	Searched []string `json:"searched"` // the old names that were looked for
	Files    int      `json:"files"`    // with places that count
	Count    int      `json:"places"`   // that count: in code, in strings and in settings
	Said     int      `json:"said"`     // of further places, in comments and documents
	Places   []Place  `json:"at"`       // the surest first, at most 200
}

// mostPlaces bounds the places of one change that are kept; all are counted.
const mostPlaces = 200

// old are the names of a change that the code may still use. What stands only in
// its examples counts where it is of the old side: the rest are variables.
func old(c *notes.Change) []notes.Symbol {
	var list []notes.Symbol
	for _, s := range c.Symbols {
		switch name := sought(s); {
		case s.Side == notes.NewOne, name == "", s.Side == notes.Either && s.Weight < 0.7, s.Weight < 0.5:
		case !strings.Contains(s.Name, "/") && slices.Contains(strings.Split(c.Package, "/"), s.Name):
		case slices.ContainsFunc(list, func(o notes.Symbol) bool { return sought(o) == name }):
		default:
			list = append(list, s)
		}
	}
	if c.Kind == notes.Default || unset.MatchString(c.Text) {
		for _, s := range c.Symbols { // a default stands where its owner does, not its name
			owner := notes.Symbol{Name: notes.LastPart(s.Owner), Side: notes.Old, Weight: 1}
			if s.Side != notes.NewOne && len(owner.Name) > 1 && !strings.EqualFold(owner.Name, notes.LastPart(path.Base(c.Package))) && !slices.ContainsFunc(list, func(o notes.Symbol) bool { return sought(o) == owner.Name }) {
				list = append(list, owner)
			}
		}
	}
	return list
}

// unset are the words of what holds where nothing else is said.
var unset = regexp.MustCompile(`(?i)\b(?:by default|defaults? (?:to|of|is|was)|the default|unless (?:told|set|given|specified|configured))\b`)

// sought is what is looked for: of a name with an owner its last part.
func sought(s notes.Symbol) string {
	name := s.Name
	if s.Role == notes.Flag || s.Role == notes.File || strings.ContainsAny(name, "/") {
		return name
	}
	if name = notes.LastPart(name); len(name) < 2 {
		return ""
	}
	return name
}

// Search looks for the old names of all changes at once. The result has one
// Found for each change. Once ctx is done it panics, as guard.Check does.
func Search(ctx context.Context, tree *source.Tree, changes []notes.Change) []Found {
	result := make([]Found, len(changes))
	index := map[string]int{}
	var names []string
	var wanted []wanting // by name
	for i := range changes {
		for _, s := range old(&changes[i]) {
			name := sought(s)
			n, ok := index[name]
			if !ok {
				n = len(names)
				index[name] = n
				names, wanted = append(names, name), append(wanted, wanting{})
			}
			wanted[n] = append(wanted[n], want{change: i, symbol: s})
			result[i].Searched = append(result[i].Searched, s.Name)
		}
	}
	s := &searcher{tree: tree, changes: changes, words: newWords(names), wanted: wanted}
	for _, part := range s.files(ctx) {
		for i := range part {
			result[i].join(&part[i])
		}
	}
	for i := range result {
		result[i].trim()
		if result[i].Searched == nil {
			result[i].Searched = []string{}
		}
	}
	return result
}

// add takes the places of one file.
func (f *Found) add(places []Place) {
	said := f.Said
	for _, p := range places {
		if p.Sure > Said {
			f.Count++
		} else {
			f.Said++
		}
	}
	if len(places) > f.Said-said {
		f.Files++
	}
	f.Places = append(f.Places, places...)
	if len(f.Places) > 4*mostPlaces {
		f.trim()
	}
}

// join takes what was found in other files.
func (f *Found) join(o *Found) {
	f.Files, f.Count, f.Said = f.Files+o.Files, f.Count+o.Count, f.Said+o.Said
	f.Places = append(f.Places, o.Places...)
}

// trim orders the places and keeps the surest.
func (f *Found) trim() {
	sort.Slice(f.Places, func(i, j int) bool {
		a, b := &f.Places[i], &f.Places[j]
		switch {
		case a.Sure != b.Sure:
			return a.Sure > b.Sure
		case a.File != b.File:
			return a.File < b.File
		case a.Line != b.Line:
			return a.Line < b.Line
		case a.Column != b.Column:
			return a.Column < b.Column
		}
		return a.Name < b.Name
	})
	if f.Places = f.Places[:min(len(f.Places), mostPlaces)]; f.Places == nil {
		f.Places = []Place{}
	}
}

// Setting reports whether a file holds settings: neither a program nor prose.
func Setting(file string) bool {
	switch strings.ToLower(path.Ext(file)) {
	case ".json", ".json5", ".yaml", ".yml", ".toml", ".ini", ".cfg", ".conf", ".config", ".env", ".properties", ".xml", ".gradle", ".kts", ".props", ".csproj", ".cmake", ".mk", ".tf", ".hcl", ".service":
		return true
	}
	base := path.Base(file)
	return strings.HasPrefix(base, ".") || base == "Makefile" || base == "Dockerfile" || base == "Jenkinsfile" || base == "Procfile" || base == "CMakeLists.txt"
}
