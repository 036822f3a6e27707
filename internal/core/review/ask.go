package review

import (
	"context"
	"fmt"
	"maps"
	"slices"
	"sort"
	"strings"

	"unicausa/internal/core/exposure"
	"unicausa/internal/core/notes"
	"unicausa/internal/core/source"
)

// asker knows what may ask for a hunk.
type asker struct {
	Case
	before, after *source.Tree
	touched       map[string]map[int][]touch // by file and line before the diff
	sides         []sides                    // of the changes
	named         map[string][]int           // the changes by an old name, where no tree tells whose it is
	added         map[string]string          // the added lines of each file
}

// touch is a place at which a change touches the tree before the diff.
type touch struct {
	change int
	name   string
	sure   float64
}

// sides are a change's names.
type sides struct {
	old, new map[string]bool
	pairs    []notes.Rename // by what is looked for
	after    string         // its words and the code that it shows
}

func newAsker(ctx context.Context, c Case, before, after *source.Tree, blocks []block) *asker {
	a := &asker{Case: c, before: before, after: after, touched: map[string]map[int][]touch{}, named: map[string][]int{}, added: map[string]string{}}
	var files []string
	for _, b := range blocks {
		files = append(files, b.was)
		a.added[b.path()] += strings.Join(b.added, "\n") + "\n"
	}
	var found []exposure.Found
	if before != nil {
		found = exposure.Search(ctx, before.Only(files), c.Changes)
	}
	for i := range c.Changes {
		a.sides = append(a.sides, sidesOf(&c.Changes[i]))
		if found == nil {
			for name := range a.sides[i].old {
				if !exposure.Common(name) {
					a.named[name] = append(a.named[name], i)
				}
			}
			continue
		}
		for _, p := range found[i].Places {
			if a.touched[p.File] == nil {
				a.touched[p.File] = map[int][]touch{}
			}
			a.touched[p.File][p.Line] = append(a.touched[p.File][p.Line], touch{change: i, name: p.Name, sure: p.Sure})
		}
	}
	return a
}

func sidesOf(c *notes.Change) sides {
	s := sides{old: map[string]bool{}, new: map[string]bool{}, after: c.Text + "\n" + strings.Join(c.After, "\n")}
	for _, n := range c.Symbols {
		switch {
		case n.Weight < 0.5:
		case n.Side == notes.NewOne:
			s.new[notes.LastPart(n.Name)] = true
		case n.Side == notes.Old, n.Weight >= 0.7:
			s.old[notes.LastPart(n.Name)] = true
		}
	}
	for _, r := range c.Renames {
		s.pairs = append(s.pairs, notes.Rename{From: notes.LastPart(r.From), To: notes.LastPart(r.To)})
	}
	return s
}

// asks are what asks for a block, the surest first. Half says what is gone without what
// takes its place.
func (a *asker) asks(b *block, e edit) (list []Ask, half string) {
	on := map[int]map[string]float64{} // by change: the names that stand on the removed lines, as sure as they are the package's
	for _, line := range b.removedAt {
		for _, t := range a.touched[b.was][line] {
			if on[t.change] == nil {
				on[t.change] = map[string]float64{}
			}
			on[t.change][t.name] = max(on[t.change][t.name], t.sure)
		}
	}
	if a.before == nil {
		for _, t := range e.out {
			for _, i := range a.named[t] {
				if on[i] == nil {
					on[i] = map[string]float64{}
				}
				on[i][t] = exposure.Perhaps
			}
		}
	}
	for _, i := range slices.Sorted(maps.Keys(on)) {
		ask, gone := a.change(i, b, e, on[i])
		if ask.Why != "" {
			list = append(list, ask)
		} else if half == "" {
			half = gone
		}
	}
	list = append(list, a.causes(b, e, list)...)
	sort.SliceStable(list, func(i, j int) bool { return list[i].weight > list[j].weight })
	if len(list) > 0 {
		half = ""
	}
	for i, ask := range list {
		if ask.weight < list[0].weight-1 { // another explains it much better
			list = list[:i]
			break
		}
	}
	return list, half
}

// change reports whether a change asks for a block.
func (a *asker) change(i int, b *block, e edit, on map[string]float64) (ask Ask, half string) {
	c, s := &a.Changes[i], &a.sides[i]
	ask.Change = c.ID
	for _, p := range s.pairs {
		n := on[p.From]
		if n == 0 || !e.went(p.From) {
			continue
		}
		if e.came(p.To) {
			ask.Why, ask.weight, ask.gone = fmt.Sprintf("%s became %s, as the note's pair says", p.From, p.To), 3+n, p.From
			return ask, ""
		}
		if n >= exposure.Likely && !word(a.added[b.path()], p.To) && !slices.ContainsFunc(s.pairs, func(o notes.Rename) bool { return o.From == p.From && e.came(o.To) }) {
			half = fmt.Sprintf("%s is gone, and %s is not there", p.From, p.To)
		}
	}
	for _, name := range slices.Sorted(maps.Keys(on)) {
		n := on[name]
		if n == 0 {
			continue
		}
		switch to := came(s.new, e); {
		case e.went(name) && to != "":
			ask.Why, ask.weight, ask.gone = fmt.Sprintf("%s is out and %s is in, as the note has it", name, to), 2.5+n, name
		case e.went(name) && half == "" && leaves(c):
			ask.Why, ask.weight, ask.gone = fmt.Sprintf("%s is gone: it %s, the note says", name, said(c.Kind)), 1.5+n, name
		case !e.went(name) && slices.Contains(e.both, name) && n >= exposure.Perhaps && shaped(c.Kind):
			ask.Why, ask.weight = fmt.Sprintf("what stands around %s changes: it %s, the note says", name, said(c.Kind)), 1+n
			if to != "" {
				ask.Why, ask.weight = fmt.Sprintf("%s comes in beside %s, as the note has it", to, name), 2+n
			}
		default:
			continue
		}
		return ask, ""
	}
	return Ask{}, half
}

// said is what a kind of change says of a name.
func said(k notes.Kind) string {
	switch k {
	case notes.Signature:
		return "takes or gives something else"
	case notes.Behaviour:
		return "behaves otherwise"
	case notes.Default:
		return "has another default"
	case notes.Requirement:
		return "asks for something else"
	case notes.Deprecated:
		return "is deprecated"
	}
	return "was " + string(k)
}

// shaped reports whether a kind of change has a name stay and what stands around it change.
func shaped(k notes.Kind) bool {
	switch k {
	case notes.Signature, notes.Behaviour, notes.Default, notes.Requirement, notes.Renamed, notes.Moved, notes.Removed:
		return true
	}
	return false
}

// came is a new name of a change that a block brings.
func came(new map[string]bool, e edit) string {
	for _, name := range slices.Sorted(maps.Keys(new)) {
		if len(name) > 1 && e.came(name) && !holds(e.out, name) {
			return name
		}
	}
	return ""
}

// causes are those that ask for a block: a change that asks for it explains them, or
// their symptoms stand on its lines and their names are gone from them.
func (a *asker) causes(b *block, e edit, by []Ask) []Ask {
	var list []Ask
	for _, c := range a.Causes {
		explained := slices.IndexFunc(by, func(ask Ask) bool { return slices.Contains(c.Changes, ask.Change) })
		gone := slices.IndexFunc(c.Names, func(name string) bool { return len(name) > 2 && e.went(name) })
		here := slices.IndexFunc(c.Missing, func(name string) bool { return len(name) > 3 && e.came(name) && !holds(e.out, name) })
		about := slices.IndexFunc(c.Names, func(name string) bool {
			return len(name) > 3 && !exposure.Common(name) && slices.Contains(e.both, name)
		})
		line := a.on(b, c.Places)
		switch {
		case explained >= 0 && (gone >= 0 || line > 0):
			list = append(list, Ask{Cause: c.ID, Why: by[explained].Why, weight: by[explained].weight - 0.1})
		case gone >= 0 && line > 0:
			list = append(list, Ask{Cause: c.ID, Why: fmt.Sprintf("%s, which %s complains of on line %d, is gone", c.Names[gone], c.ID, line), weight: 2.5})
		case gone >= 0 && c.Places[b.was] != nil:
			list = append(list, Ask{Cause: c.ID, Why: fmt.Sprintf("%s, which %s complains of in this file, is gone", c.Names[gone], c.ID), weight: 2})
		case here >= 0 && !b.created:
			list = append(list, Ask{Cause: c.ID, Why: fmt.Sprintf("%s, which %s misses, is there now", c.Missing[here], c.ID), weight: 1.8})
		case line > 0:
			list = append(list, Ask{Cause: c.ID, Why: fmt.Sprintf("%s stands on line %d", c.ID, line), weight: 1.5})
		case about >= 0:
			list = append(list, Ask{Cause: c.ID, Why: fmt.Sprintf("it is about %s, of which %s complains", c.Names[about], c.ID), weight: 1.2})
		}
	}
	return list
}

// near is how many lines above a symptom an edit may stand that is made for it: the
// declaration that it complains of.
const near = 3

// on is a line of a block, before the diff, or right below it, on which a cause's symptom
// stands, 0 for none.
func (a *asker) on(b *block, places map[string][]int) int {
	for _, line := range places[b.was] {
		first, last := b.old, b.old+len(b.removed)-1
		if len(b.removed) == 0 { // added above the line, or below
			first, last = b.old-1, b.old
		}
		if line >= first && line <= last+near {
			return line
		}
	}
	return 0
}

// renamed reports whether a change asks for a file's other path.
func (a *asker) renamed(b *block) (Ask, bool) {
	for i := range a.Changes {
		for _, r := range a.Changes[i].Renames {
			if strings.HasSuffix("/"+b.was, "/"+strings.Trim(r.From, "./")) && strings.HasSuffix("/"+b.file, "/"+strings.Trim(r.To, "./")) || strings.HasSuffix(r.From, "/") && strings.Contains("/"+b.was, "/"+r.From) && strings.Contains("/"+b.file, "/"+r.To) {
				return Ask{Change: a.Changes[i].ID, Why: fmt.Sprintf("%s became %s, as the note's pair says", r.From, r.To)}, true
			}
		}
	}
	return Ask{}, false
}
