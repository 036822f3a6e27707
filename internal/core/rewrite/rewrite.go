// Package rewrite makes patches of changes: a rename, a move or another name of
// a setting, over the places that a change touches. It writes nothing.
package rewrite

import (
	"fmt"
	"path"
	"slices"
	"sort"
	"strings"

	"unicausa/internal/core/exposure"
	"unicausa/internal/core/notes"
	"unicausa/internal/core/source"
)

// Edit replaces what stands at a place. Line and Column are 1-based, the column in
// bytes. Took is what the holes of a template stand for there, in their order.
type Edit struct {
	File   string   `json:"file"`
	Line   int      `json:"line"`
	Column int      `json:"column"`
	From   string   `json:"from"`
	To     string   `json:"to"`
	Why    string   `json:"why"` // it is taken
	Took   []string `json:"took,omitempty"`
}

// Refusal is a place that stays as it is, and why.
type Refusal struct {
	File   string `json:"file"`
	Line   int    `json:"line"`
	Column int    `json:"column"`
	Name   string `json:"name"`
	Why    string `json:"why"`
}

// Patch is what can be done for a change, and what cannot.
type Patch struct {
	Change    string    `json:"change"` // its ID
	Edits     []Edit    `json:"edits"`
	Refused   []Refusal `json:"refused"`
	Moves     []Move    `json:"moves,omitempty"`     // of files
	Templates []string  `json:"templates,omitempty"` // that the edits follow, with their holes
	Why       string    `json:"why,omitempty"`       // there is no patch
	Care      string    `json:"care,omitempty"`      // what to look at beside the names
}

// Of makes the patch of a change from where it is exposed: by the examples that it
// shows, by its pairs of names, and by the files that it moves. All are the changes of
// the same notes, among which a name may be ambiguous.
func Of(tree *source.Tree, c *notes.Change, found exposure.Found, all []notes.Change) Patch {
	p := Patch{Change: c.ID, Edits: []Edit{}, Refused: []Refusal{}}
	pairs, why := sound(c, all)
	p.Moves = moves(tree, c.Renames)
	shapes, imported := p.byShown(tree, c, found, pairs, all)
	if len(pairs) == 0 && len(shapes) == 0 && len(p.Moves) == 0 {
		p.Refused, p.Why = []Refusal{}, why
		return p
	}
	names := make([]string, 0, len(pairs)+len(imported))
	for from := range imported {
		names = append(names, from)
	}
	for from := range pairs {
		names = append(names, from)
	}
	sort.Strings(names)
	declared := exposure.Declared(tree, names)
	for _, at := range found.Places {
		to, wanted := pairs[at.Name]
		if other := imported[at.Name]; !wanted && other != "" {
			to, wanted = other, true
		}
		if !wanted || shapes[at.Name] && !imports(tree, at.File, at.Line, at.Name) {
			continue
		}
		sure := sureness(at)
		why := refused(tree, at, to, declared[at.Name])
		if at.Zone != source.Comment && (at.Zone != source.Text || exposure.Setting(at.File)) && p.moves(at.Name) {
			sure, why = "it names a file that moves", ""
		}
		if why != "" {
			p.Refused = append(p.Refused, Refusal{File: at.File, Line: at.Line, Column: at.Column, Name: at.Name, Why: why})
			continue
		}
		p.Edits = append(p.Edits, Edit{File: at.File, Line: at.Line, Column: at.Column, From: at.Name, To: to, Why: sure})
	}
	p.settle()
	switch {
	case len(p.Edits) == 0 && len(p.Refused) == 0 && len(p.Moves) == 0:
		p.Why = "the old name stands nowhere in the code"
	case len(p.Edits) > 0 && more(c):
		p.Care = "the note says more than another name: read it before the patch is applied"
	}
	return p
}

// imports reports whether a name stands on a line for its file to import it: where it
// stands first from the statement on that does.
func imports(tree *source.Tree, file string, line int, name string) bool {
	return slices.ContainsFunc(tree.Imports(file), func(imp source.Import) bool {
		if imp.Name != name || imp.Line > line {
			return false
		}
		return !slices.ContainsFunc(tree.Lines(file)[imp.Line-1:line-1], func(text string) bool { return strings.Contains(text, name) })
	})
}

// moves reports whether a name is that of a file that moves.
func (p *Patch) moves(name string) bool {
	return slices.ContainsFunc(p.Moves, func(m Move) bool {
		return m.From == name || strings.HasSuffix(m.From, "/"+name) || strings.HasSuffix(name, "/") && strings.Contains("/"+m.From, "/"+name)
	})
}

// settle orders what is done and left, leaves what another edit holds, and says so
// where nothing can be done.
func (p *Patch) settle() {
	sort.SliceStable(p.Edits, func(i, j int) bool { return p.Edits[i].before(p.Edits[j]) })
	kept := p.Edits[:0]
	for _, e := range p.Edits {
		if n := len(kept); n > 0 && e.before(kept[n-1].end()) {
			p.Refused = append(p.Refused, Refusal{File: e.File, Line: e.Line, Column: e.Column, Name: e.From, Why: "another edit of this patch holds it: apply that first"})
			continue
		}
		kept = append(kept, e)
	}
	p.Edits = kept
	sort.SliceStable(p.Refused, func(i, j int) bool {
		a, b := p.Refused[i], p.Refused[j]
		return Edit{File: a.File, Line: a.Line, Column: a.Column}.before(Edit{File: b.File, Line: b.Line, Column: b.Column})
	})
	if len(p.Edits) == 0 && len(p.Moves) == 0 && len(p.Refused) > 0 {
		p.Why = "no place is certain enough to be edited unseen"
	}
}

// sureness says why a place is taken for the package's own name.
func sureness(at exposure.Place) string {
	switch {
	case at.Sure == exposure.Certain && at.Zone == source.Text:
		return "a setting in the package's own file"
	case at.Sure == exposure.Certain:
		return "an import says that it is the package's"
	case at.Zone == source.Literal, at.Zone == source.Text:
		return "a setting's name"
	}
	return "the file uses the package, and nothing else declares the name"
}

func (e Edit) before(o Edit) bool {
	switch {
	case e.File != o.File:
		return e.File < o.File
	case e.Line != o.Line:
		return e.Line < o.Line
	}
	return e.Column < o.Column
}

// end is where the edit's old text ends, as a place.
func (e Edit) end() Edit {
	end := Edit{File: e.File, Line: e.Line + strings.Count(e.From, "\n"), Column: e.Column + len(e.From)}
	if n := strings.LastIndexByte(e.From, '\n'); n >= 0 {
		end.Column = len(e.From) - n
	}
	return end
}

// sound are the pairs of names that can be exchanged word for word: what is
// looked for to what takes its place. Without any, why says so.
func sound(c *notes.Change, all []notes.Change) (pairs map[string]string, why string) {
	pairs = map[string]string{}
	if len(c.Renames) == 0 {
		return nil, "the note gives no pair of an old and a new name"
	}
	switch c.Kind {
	case notes.Removed, notes.Deprecated:
		return nil, fmt.Sprintf("the note tells of something %s and what to use in its place, not of another name for the same", c.Kind)
	case notes.Added, notes.Fixed, notes.Default, notes.Requirement:
		return nil, fmt.Sprintf("the note is one of kind %s: it does not ask for another name", c.Kind)
	}
	for _, r := range c.Renames {
		if slices.ContainsFunc(c.Symbols, func(s notes.Symbol) bool { return s.Name == r.From && s.Role == notes.File }) {
			pairs[r.From] = r.To
			continue
		}
		if strings.Contains(r.From, "/") && strings.Contains(r.To, "/") || strings.HasPrefix(r.From, "-") && strings.HasPrefix(r.To, "-") {
			pairs[r.From] = r.To
			continue
		}
		from, to := notes.LastPart(r.From), notes.LastPart(r.To)
		fromOwner, toOwner := owner(r.From), owner(r.To)
		unsound := ""
		switch {
		case strings.ContainsAny(r.From+r.To, "/-"):
			unsound = fmt.Sprintf("%s and %s are not of one sort", r.From, r.To)
		case fromOwner != "" && toOwner != "" && fromOwner != toOwner:
			unsound = fmt.Sprintf("%s belongs to %s and %s to %s: imports or receivers change as well", r.From, fromOwner, r.To, toOwner)
		case toOwner != "" && fromOwner == "" && !strings.EqualFold(notes.LastPart(toOwner), path.Base(c.Package)):
			unsound = fmt.Sprintf("%s becomes a part of %s: more than its name changes", r.From, toOwner)
		case strings.HasPrefix(to, "_") && !strings.HasPrefix(from, "_"):
			unsound = fmt.Sprintf("%s is private: what takes its place is another name", r.To)
		case literal[strings.ToLower(from)]:
			unsound = fmt.Sprintf("%s is a value, not a name", from)
		case strings.Contains(c.Text, r.To+"()."):
			unsound = fmt.Sprintf("more than %s takes the place of %s", r.To, r.From)
		case forInstance(c.Text, r.From):
			unsound = fmt.Sprintf("%s stands there for names of its sort", r.From)
		case passing([]string{to}, c, all) != "":
			unsound = passing([]string{to}, c, all)
		case from == to:
			unsound = fmt.Sprintf("%s keeps its name", from)
		case fromOwner != "" && toOwner == "" && strings.Contains(c.Text, "function "+r.To):
			unsound = fmt.Sprintf("%s is a method and %s a function: what it is called on changes as well", r.From, r.To)
		case arity(c.Text, from) >= 0 && arity(c.Text, to) >= 0 && arity(c.Text, from) != arity(c.Text, to):
			unsound = fmt.Sprintf("%s takes %d arguments and %s %d", r.From, arity(c.Text, from), r.To, arity(c.Text, to))
		case reshaped(from, c, all):
			unsound = fmt.Sprintf("another entry says that what %s takes changes as well", r.From)
		case pairs[from] != "" && pairs[from] != to, ambiguous(from, to, c, all):
			return nil, fmt.Sprintf("the notes give %s more than one new name", from)
		default:
			pairs[from] = to
		}
		if why == "" {
			why = unsound
		}
	}
	return pairs, why
}

// literal are words of languages that no package renames.
var literal = map[string]bool{"true": true, "false": true, "null": true, "nil": true, "none": true, "undefined": true}

// forInstance reports whether a text gives a name as an example of several.
func forInstance(text, name string) bool {
	for _, lead := range []string{"e.g. ", "e.g., ", "for example ", "for example, ", "For example, ", "such as "} {
		if strings.Contains(text, lead+name+" ") {
			return true
		}
	}
	return false
}

// arity is how many arguments a text shows a call of a name with, -1 where it shows
// none: "send(text)", not "send()", which stands for any.
func arity(text, name string) int {
	i := strings.Index(text, name+"(")
	if i < 0 {
		return -1
	}
	args, depth := text[i+len(name)+1:], 0
	count := 1
	for j, c := range args {
		switch c {
		case '(', '[', '{', '<':
			depth++
		case ',':
			if depth == 0 {
				count++
			}
		case ')', ']', '}', '>':
			if depth--; depth < 0 {
				if strings.TrimSpace(args[:j]) == "" || strings.Contains(args[:j], "...") || strings.Contains(args[:j], "…") {
					return -1
				}
				return count
			}
		}
	}
	return -1
}

func owner(name string) string {
	return strings.TrimSuffix(strings.TrimRight(strings.TrimSuffix(name, notes.LastPart(name)), ".:#>-"), "()")
}

// passing says that a name which a change brings is itself taken away by another one of
// the same package: notes that span several versions tell of both.
func passing(names []string, c *notes.Change, all []notes.Change) string {
	for _, name := range names {
		for i := range all {
			o := &all[i]
			if o.ID == c.ID || o.Package != c.Package || o.Kind != notes.Removed && o.Kind != notes.Renamed || o.Version == c.Version && o.Notes == c.Notes {
				continue
			}
			if slices.ContainsFunc(o.Renames, func(r notes.Rename) bool { return notes.LastPart(r.From) == name && notes.LastPart(r.To) != name }) {
				return fmt.Sprintf("%s does not stay either: see %s:%d", name, o.Notes, o.Line)
			}
		}
	}
	return ""
}

// reshaped reports whether another change of the same version is about what a name
// takes, or about the order of that.
func reshaped(from string, c *notes.Change, all []notes.Change) bool {
	return slices.ContainsFunc(all, func(o notes.Change) bool {
		if o.ID == c.ID || o.Notes != c.Notes || o.Version != c.Version || o.Kind != notes.Signature && !strings.Contains(o.Text, "rguments") {
			return false
		}
		return slices.ContainsFunc(o.Symbols, func(s notes.Symbol) bool {
			return s.Weight >= 0.7 && s.Side != notes.NewOne && notes.LastPart(s.Name) == from
		})
	})
}

// ambiguous reports whether another change renames the same name to something else.
func ambiguous(from, to string, c *notes.Change, all []notes.Change) bool {
	for i := range all {
		if all[i].ID == c.ID || all[i].Package != c.Package {
			continue
		}
		for _, r := range all[i].Renames {
			if notes.LastPart(r.From) == from && notes.LastPart(r.To) != to {
				return true
			}
		}
	}
	return false
}

// refused says why a place is not edited, "" where it can be.
func refused(tree *source.Tree, at exposure.Place, to string, declared exposure.Place) string {
	switch {
	case at.Zone == source.Comment:
		return "in a comment"
	case at.Sure <= exposure.Said && at.Zone == source.Text:
		return "in text that no check compiles"
	case at.Sure <= exposure.Said:
		return "the same word in a string"
	case at.Sure < exposure.Likely:
		return "nothing tells that the package's name is meant here"
	case at.Sure < exposure.Certain && declared.File != "":
		return fmt.Sprintf("the project declares %s itself, at %s:%d", at.Name, declared.File, declared.Line)
	case at.Sure == exposure.Certain && at.Zone == source.Code && exposure.Bare(at):
		if line := exposure.Stands(tree, at.File, to); line > 0 {
			return fmt.Sprintf("%s already stands in this file, at line %d", to, line)
		}
	}
	return ""
}

// more reports whether a change's words go beyond another name.
func more(c *notes.Change) bool {
	lower := strings.ToLower(c.Text)
	for _, word := range []string{"return", "argument", "parameter", "takes ", "of type", "promise", "also", "no longer", "must"} {
		if strings.Contains(lower, word) {
			return true
		}
	}
	return false
}

// Select keeps the edits in certain files ("a.go") and at certain places
// ("a.go:12", "a.go:12:3"); with none named it keeps all.
func Select(edits []Edit, only []string) []Edit {
	if len(only) == 0 {
		return edits
	}
	kept := []Edit{}
	for _, e := range edits {
		line := fmt.Sprintf("%s:%d", e.File, e.Line)
		if slices.Contains(only, e.File) || slices.Contains(only, line) || slices.Contains(only, fmt.Sprintf("%s:%d", line, e.Column)) {
			kept = append(kept, e)
		}
	}
	return kept
}
