// Package rewrite makes patches of changes: a rename, a move or another name of
// a setting, over the places that a change touches. It writes nothing.
package rewrite

import (
	"fmt"
	"slices"
	"sort"
	"strings"

	"github.com/aymanbagabas/go-udiff"

	"unicausa/internal/core/exposure"
	"unicausa/internal/core/notes"
	"unicausa/internal/core/source"
)

// Edit replaces a name at a place. Line and Column are 1-based, the column in bytes.
type Edit struct {
	File   string `json:"file"`
	Line   int    `json:"line"`
	Column int    `json:"column"`
	From   string `json:"from"`
	To     string `json:"to"`
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
	Change  string    `json:"change"` // its ID
	Edits   []Edit    `json:"edits"`
	Refused []Refusal `json:"refused"`
	Why     string    `json:"why,omitempty"`  // there is no patch
	Care    string    `json:"care,omitempty"` // what to look at beside the names
}

// Of makes the patch of a change from where it is exposed. All are the changes
// of the same notes, among which a name may be ambiguous.
func Of(tree *source.Tree, c *notes.Change, found exposure.Found, all []notes.Change) Patch {
	p := Patch{Change: c.ID, Edits: []Edit{}, Refused: []Refusal{}}
	pairs, why := sound(c, all)
	if len(pairs) == 0 {
		p.Why = why
		return p
	}
	names := make([]string, 0, len(pairs))
	for from := range pairs {
		names = append(names, from)
	}
	sort.Strings(names)
	declared := exposure.Declared(tree, names)
	for _, at := range found.Places {
		to, wanted := pairs[at.Name]
		if !wanted {
			continue
		}
		if why := refused(tree, at, to, declared[at.Name]); why != "" {
			p.Refused = append(p.Refused, Refusal{File: at.File, Line: at.Line, Column: at.Column, Name: at.Name, Why: why})
			continue
		}
		p.Edits = append(p.Edits, Edit{File: at.File, Line: at.Line, Column: at.Column, From: at.Name, To: to})
	}
	sort.SliceStable(p.Edits, func(i, j int) bool { return p.Edits[i].before(p.Edits[j]) })
	sort.SliceStable(p.Refused, func(i, j int) bool {
		a, b := p.Refused[i], p.Refused[j]
		return Edit{File: a.File, Line: a.Line, Column: a.Column}.before(Edit{File: b.File, Line: b.Line, Column: b.Column})
	})
	switch {
	case len(p.Edits) == 0 && len(p.Refused) == 0:
		p.Why = "the old name stands nowhere in the code"
	case len(p.Edits) == 0:
		p.Why = "no place is certain enough to be edited unseen"
	case more(c):
		p.Care = "the note says more than another name: read it before the patch is applied"
	}
	return p
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

// sound are the pairs of names that can be exchanged word for word: what is
// looked for to what takes its place. Without any, why says so.
func sound(c *notes.Change, all []notes.Change) (pairs map[string]string, why string) {
	pairs = map[string]string{}
	if len(c.Renames) == 0 {
		return nil, "the note gives no pair of an old and a new name"
	}
	if c.Kind == notes.Removed || c.Kind == notes.Deprecated {
		return nil, fmt.Sprintf("the note tells of something %s and what to use in its place, not of another name for the same", c.Kind)
	}
	for _, r := range c.Renames {
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
		case from == to:
			unsound = fmt.Sprintf("%s keeps its name", from)
		case fromOwner != "" && toOwner == "" && strings.Contains(c.Text, "function "+r.To):
			unsound = fmt.Sprintf("%s is a method and %s a function: what it is called on changes as well", r.From, r.To)
		case arity(c.Text, from) >= 0 && arity(c.Text, to) >= 0 && arity(c.Text, from) != arity(c.Text, to):
			unsound = fmt.Sprintf("%s takes %d arguments and %s %d", r.From, arity(c.Text, from), r.To, arity(c.Text, to))
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

// ambiguous tells whether another change renames the same name to something else.
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

// more tells whether a change's words go beyond another name.
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

// Diff writes edits as a unified diff that git apply takes as it is. The edits
// have to be those of a Patch, or a part of them, on the same tree; one that
// does not fit the tree is an error.
func Diff(tree *source.Tree, edits []Edit) (string, error) {
	edits = append([]Edit{}, edits...)
	sort.SliceStable(edits, func(i, j int) bool { return edits[i].before(edits[j]) })
	var b strings.Builder
	for i := 0; i < len(edits); {
		j := i
		for j < len(edits) && edits[j].File == edits[i].File {
			j++
		}
		text := string(tree.Read(edits[i].File))
		changed, err := offsets(text, edits[i:j])
		if err != nil {
			return "", err
		}
		diff, err := udiff.ToUnified("a/"+edits[i].File, "b/"+edits[i].File, text, changed, udiff.DefaultContextLines)
		if err != nil {
			return "", fmt.Errorf("writing the diff of %s: %w", edits[i].File, err)
		}
		b.WriteString(diff)
		i = j
	}
	return b.String(), nil
}

// offsets turns edits of one file, in order, into edits by offset.
func offsets(text string, edits []Edit) ([]udiff.Edit, error) {
	var list []udiff.Edit
	line, at := 1, 0
	for _, e := range edits {
		for line < e.Line {
			n := strings.IndexByte(text[at:], '\n')
			if n < 0 {
				return nil, fmt.Errorf("%s has no line %d: the source tree is another one now", e.File, e.Line)
			}
			line, at = line+1, at+n+1
		}
		from := at + e.Column - 1
		if e.Column < 1 || from+len(e.From) > len(text) || text[from:from+len(e.From)] != e.From {
			return nil, fmt.Errorf("%s:%d does not have %s in column %d: the source tree is another one now", e.File, e.Line, e.From, e.Column)
		}
		list = append(list, udiff.Edit{Start: from, End: from + len(e.From), New: e.To})
	}
	return list, nil
}
