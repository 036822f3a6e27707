// Package review holds a diff against what asks for it: the changes of the notes and
// the causes of the upgrade. What nothing asks for comes first, half-done edits next,
// what was left behind last.
package review

import (
	"context"
	"fmt"
	"maps"
	"path"
	"slices"
	"sort"
	"strings"

	"unicausa/internal/core/exposure"
	"unicausa/internal/core/notes"
	"unicausa/internal/core/source"
	"unicausa/internal/core/versions"
)

// Standing says how a hunk stands to what asks for it.
type Standing string

// The standings, in the order in which they are shown.
const (
	Unasked Standing = "unasked" // nothing asks for it
	More    Standing = "more"    // something does, and it does more than that
	Half    Standing = "half"    // an old name is gone, and the new one is not there
	Asked   Standing = "asked"   // something asks for it
	Follows Standing = "follows" // the move itself, and what comes with an edit: versions, imports
	Layout  Standing = "layout"  // nothing changes but space and comments
)

var order = []Standing{Unasked, More, Half, Asked, Follows, Layout}

// Ask is what asks for a hunk: a change or a cause, by its ID.
type Ask struct {
	Change string `json:"change,omitempty"`
	Cause  string `json:"cause,omitempty"`
	Why    string `json:"why"`
	weight float64
	gone   string // the old name that is out
}

// Notice is something in a hunk that a reader has to look at.
type Notice struct {
	What string `json:"what"` // "deleted-code", "number", "weaker-test", "skipped-test", "suppression", "swallowed-error"
	Text string `json:"text"` // in words
}

// Hunk is a run of lines that were removed and added, with up to three lines around it.
// OldLine and Line are its first lines before and behind the diff, 1-based.
type Hunk struct {
	File     string   `json:"file"`
	Was      string   `json:"was,omitempty"` // its path before, where that is another
	OldLine  int      `json:"oldLine"`
	Line     int      `json:"line"`
	Before   []string `json:"before"`
	Removed  []string `json:"removed"`
	Added    []string `json:"added"`
	Behind   []string `json:"behind"`
	Standing Standing `json:"standing"`
	Why      string   `json:"why"` // it stands so, in words
	Asks     []Ask    `json:"asks"`
	Notices  []Notice `json:"notices"`
}

// Edit is a change of the notes that the diff does, in part or everywhere.
type Edit struct {
	Change string           `json:"change"`
	Done   int              `json:"done"`   // hunks that it asked for
	Count  int              `json:"places"` // where its old names stand behind the diff
	Left   []exposure.Place `json:"left"`   // these, the surest first
	Said   int              `json:"said"`   // of further places, in comments and documents
}

// Review is a diff with what asks for it.
type Review struct {
	Hunks []Hunk `json:"hunks"`          // by their standing, then as in the diff
	Edits []Edit `json:"edits"`          // those with places left behind first
	Note  string `json:"note,omitempty"` // what could not be told
}

// Case is what a diff is held against. Tree is one that the project had before the diff
// or has behind it; without one, nothing is told of imports and of places left behind.
type Case struct {
	Tree    *source.Tree
	Changes []notes.Change // those of the versions between which the upgrade moves
	Causes  []Cause
	Moves   []versions.Move
}

// Of reviews a diff.
func Of(ctx context.Context, d Diff, c Case) Review {
	before, after := d.Trees(c.Tree)
	r := Review{Hunks: []Hunk{}, Edits: []Edit{}}
	if c.Tree == nil {
		r.Note = "no run came with its source tree: nothing is told of what was left behind"
	} else if before == nil {
		r.Note = "the diff fits neither side of the latest run's source tree: nothing is told of what was left behind"
	}
	blocks := d.blocks()
	a := newAsker(ctx, c, before, after, blocks)
	for i := range blocks {
		r.Hunks = append(r.Hunks, a.hunk(&blocks[i]))
	}
	a.follow(r.Hunks)
	sort.SliceStable(r.Hunks, func(i, j int) bool { return rank(&r.Hunks[i]) < rank(&r.Hunks[j]) })
	r.Edits = a.edits(ctx, r.Hunks)
	return r
}

// rank orders hunks: by standing, those with something to look at first.
func rank(h *Hunk) int {
	n := 2 * slices.Index(order, h.Standing)
	if len(h.Notices) == 0 {
		n++
	}
	return n
}

// Clean reports whether there is nothing for a reader to look at.
func (r *Review) Clean() bool {
	return !slices.ContainsFunc(r.Hunks, func(h Hunk) bool {
		return h.Standing == Unasked || h.Standing == More || h.Standing == Half
	}) && !slices.ContainsFunc(r.Edits, func(e Edit) bool { return e.Count > 0 })
}

// hunk judges a block.
func (a *asker) hunk(b *block) Hunk {
	h := Hunk{File: b.path(), OldLine: b.old, Line: b.line, Before: orEmpty(b.before), Removed: orEmpty(b.removed), Added: orEmpty(b.added), Behind: orEmpty(b.behind), Asks: []Ask{}, Notices: []Notice{}}
	if b.was != "" && b.was != b.file && b.file != "" {
		h.Was = b.was
	}
	e := a.edit(b)
	switch {
	case locks(b.path()):
		h.Standing, h.Why = Follows, "a lock file: what moved is compared under versions"
		return h
	case len(b.removed)+len(b.added) == 0:
		h.Standing, h.Why = Unasked, "the file has another path"
		if b.binary {
			h.Why = "a file that is no text"
		} else if ask, ok := a.renamed(b); ok {
			h.Standing, h.Why, h.Asks = Asked, ask.Why, []Ask{ask}
		}
		return h
	case len(e.out)+len(e.in) == 0:
		h.Standing, h.Why = Layout, "space and comments alone"
		h.Notices = a.notices(b, e, nil)
		if len(h.Notices) > 0 { // a comment may tell a tool to look away
			h.Standing, h.Why = Unasked, "comments alone"
		}
		return h
	}
	if why := a.move(b, e); why != "" {
		h.Standing, h.Why = Follows, why
		return h
	}
	var half string
	h.Asks, half = a.asks(b, e)
	h.Notices = a.notices(b, e, h.Asks)
	switch {
	case half != "":
		h.Standing, h.Why = Half, half
	case len(h.Asks) == 0:
		h.Standing, h.Why = Unasked, "neither a change of the notes nor a cause asks for it"
	case len(h.Notices) > 0:
		h.Standing, h.Why = More, h.Asks[0].Why
	default:
		h.Standing, h.Why = Asked, h.Asks[0].Why
	}
	return h
}

// locks reports whether a file is written by a package manager alone; manifest, whether
// people say in it what they depend on.
func locks(file string) bool {
	_, lock := versions.Known(file)
	return lock && !manifest(file)
}

func manifest(file string) bool {
	known, _ := versions.Known(file)
	return known || path.Base(file) == "go.mod" || path.Base(file) == "requirements.txt"
}

func orEmpty(list []string) []string {
	if list == nil {
		return []string{}
	}
	return list
}

// leaves reports whether a change takes a name away, so that where it stands it was left.
func leaves(c *notes.Change) bool {
	switch c.Kind {
	case notes.Removed, notes.Renamed, notes.Moved, notes.Deprecated:
		return true
	}
	return false
}

// edits are the changes that the hunks do, with what they leave behind: the old names
// that are out in one place and stand in another.
func (a *asker) edits(ctx context.Context, hunks []Hunk) []Edit {
	done := map[string]int{}
	gone := map[string]map[string]bool{}
	for _, h := range hunks {
		seen := map[string]bool{}
		for _, ask := range h.Asks {
			if ask.Change == "" || seen[ask.Change] {
				continue
			}
			seen[ask.Change] = true
			if done[ask.Change]++; gone[ask.Change] == nil {
				gone[ask.Change] = map[string]bool{}
			}
			gone[ask.Change][ask.gone] = ask.gone != ""
		}
	}
	var touched []notes.Change
	var names []string
	for i := range a.Changes {
		if id := a.Changes[i].ID; done[id] > 0 {
			touched = append(touched, a.Changes[i])
			names = append(names, slices.Collect(maps.Keys(gone[id]))...)
		}
	}
	list := []Edit{}
	found, own := exposure.Search(ctx, a.after, touched), exposure.Declared(a.after, names)
	for i := range touched {
		e := Edit{Change: touched[i].ID, Done: done[touched[i].ID], Left: []exposure.Place{}}
		for _, p := range found[i].Places {
			switch {
			case !leaves(&touched[i]) || !gone[e.Change][p.Name]:
			case p.Sure <= exposure.Said:
				e.Said++
			case p.Sure == exposure.Certain, own[p.Name].File == "" && (p.Sure >= exposure.Likely || !exposure.PerFile(p.File) && !exposure.Common(p.Name)):
				e.Left = append(e.Left, p)
			}
		}
		e.Count = len(e.Left)
		list = append(list, e)
	}
	sort.SliceStable(list, func(i, j int) bool { return list[i].Count > list[j].Count })
	return list
}

// Counted is how many hunks stand in which way, in words: "1 half done, 4 asked for".
func Counted(hunks []Hunk) string {
	count := map[Standing]int{}
	for _, h := range hunks {
		count[h.Standing]++
	}
	words := map[Standing]string{Unasked: "unasked for", More: "beyond what is asked", Half: "half done", Asked: "asked for", Follows: "following from the move", Layout: "of space and comments"}
	var parts []string
	for _, s := range order {
		if count[s] > 0 {
			parts = append(parts, fmt.Sprintf("%d %s", count[s], words[s]))
		}
	}
	return strings.Join(parts, ", ")
}
