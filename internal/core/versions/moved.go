package versions

import (
	"fmt"
	"regexp"
	"slices"
	"sort"
	"strings"
)

// Change says what happened to a package between two states.
type Change string

// What may happen to a package.
const (
	Moved      Change = "moved"
	Downgraded Change = "downgraded"
	Added      Change = "added"
	Dropped    Change = "dropped"
	Renamed    Change = "renamed" // one gone, one new
)

// Difference is a package that is another one after the bump. Several versions of
// one package at once are joined with ", ".
type Difference struct {
	Name      string   `json:"name"`
	Was       string   `json:"was,omitempty"` // its name before, of a renamed one
	Ecosystem string   `json:"ecosystem"`
	From      string   `json:"from,omitempty"`
	To        string   `json:"to,omitempty"`
	Change    Change   `json:"change"`
	Direct    bool     `json:"direct"`   // a manifest names it
	Intended  bool     `json:"intended"` // the leg names it
	Path      []string `json:"path"`     // of what drags it in, from the outermost
}

// Move is a package or toolchain that is meant to go from one version to another. Without
// a package it is about all of them.
type Move struct {
	Package string `json:"package"`
	From    string `json:"from"`
	To      string `json:"to"`
}

// Held is a package that did not move as far as the leg says, and by whom it is
// held back, as far as the lock file tells.
type Held struct {
	Name string `json:"name"`
	At   string `json:"at"`
	To   string `json:"to"`
	By   []Need `json:"by"`
}

// Need is what one package wants of another or of a runtime.
type Need struct {
	Package string `json:"package"` // who wants it, with its version
	Name    string `json:"name"`
	Range   string `json:"range"`
	Have    string `json:"have,omitempty"` // the version that does not meet it
	Kind    string `json:"kind"`           // dependency, peer, engine, manifest or notes
}

// Comparison is what moved between two states. Lists are never nil.
type Comparison struct {
	Moves    []Difference `json:"moves"` // intended first, then direct, then the rest
	Held     []Held       `json:"held"`
	Unmet    []Need       `json:"unmet"`
	Warnings []string     `json:"warnings"` // what ought to be said aloud
	Files    []string     `json:"files"`
}

// Pair is a package's old and new name, as notes tell them.
type Pair struct{ From, To string }

// Context is what else is known: the leg's moves, and what its notes say.
type Context struct {
	Moves   []Move
	Renames []Pair
	Asked   []Need            // by the notes, of runtimes and of packages
	Seen    map[string]string // versions of runtimes and packages as the runs had them
}

// Compare tells what moved.
func Compare(before, after State, told Context) Comparison {
	c := &comparer{after: after, was: versionsOf(before), is: versionsOf(after), graph: graphOf(after), direct: map[string]bool{}, leg: told.Moves}
	for _, w := range append(append([]Wish{}, before.Wishes...), after.Wishes...) {
		c.direct[key(w.Ecosystem, w.Name)] = true
	}
	c.moves(told.Renames)
	c.held()
	c.unmet(told.Seen)
	c.asked(told)
	c.warn(before)
	c.Files = append([]string{}, after.Files...)
	for _, list := range []*[]string{&c.Warnings, &c.Files} {
		if *list == nil {
			*list = []string{}
		}
	}
	return c.Comparison
}

type comparer struct {
	Comparison
	after   State
	was, is map[string]*entry
	graph   map[string][]string // who wants a package, by key
	direct  map[string]bool
	leg     []Move
}

// entry is all that a state has of one package.
type entry struct {
	name, ecosystem string
	versions        []string
}

func (e *entry) text() string { return strings.Join(e.versions, ", ") }

var goMajor = regexp.MustCompile(`(?:/v\d+|\.v\d+)$`)

// key is a package's identity: in Go without the major version in its path.
func key(ecosystem, name string) string {
	if ecosystem == "Go" {
		name = goMajor.ReplaceAllString(name, "")
	}
	return ecosystem + "\x00" + name
}

func versionsOf(s State) map[string]*entry {
	m := map[string]*entry{}
	for _, p := range s.Packages {
		k := key(p.Ecosystem, p.Name)
		e := m[k]
		if e == nil {
			e = &entry{ecosystem: p.Ecosystem}
			m[k] = e
		}
		e.name = p.Name
		e.versions = append(e.versions, p.Version)
	}
	return m
}

// graphOf is who wants what, in a stable order.
func graphOf(s State) map[string][]string {
	g := map[string][]string{}
	for _, p := range s.Packages {
		from := key(p.Ecosystem, p.Name)
		for _, name := range keys(p.Wants) {
			to := key(p.Ecosystem, name)
			g[to] = append(g[to], from)
		}
	}
	return g
}

func (c *comparer) moves(renames []Pair) {
	all := map[string]bool{}
	for k := range c.was {
		all[k] = true
	}
	for k := range c.is {
		all[k] = true
	}
	parents := c.parents()
	list := []Difference{}
	for _, k := range keys(all) {
		was, is := c.was[k], c.is[k]
		if was != nil && is != nil && was.text() == is.text() && was.name == is.name {
			continue
		}
		m := Difference{Direct: c.direct[k], Path: []string{}}
		switch {
		case is == nil:
			m.Name, m.Ecosystem, m.From, m.Change = was.name, was.ecosystem, was.text(), Dropped
		case was == nil:
			m.Name, m.Ecosystem, m.To, m.Change = is.name, is.ecosystem, is.text(), Added
		default:
			m.Name, m.Ecosystem, m.From, m.To, m.Change = is.name, is.ecosystem, was.text(), is.text(), Moved
			if newest(is.versions, was.versions) < 0 {
				m.Change = Downgraded
			}
		}
		m.Intended = c.intent(&entry{name: m.Name, ecosystem: m.Ecosystem}) != nil
		if !m.Direct && is != nil {
			m.Path = c.path(k, parents)
		}
		list = append(list, m)
	}
	c.Moves = renamed(list, renames)
	sort.SliceStable(c.Moves, func(i, j int) bool {
		a, b := &c.Moves[i], &c.Moves[j]
		switch {
		case a.Intended != b.Intended:
			return a.Intended
		case a.Direct != b.Direct:
			return a.Direct
		}
		return false
	})
}

// newest compares the highest of two lists of versions.
func newest(a, b []string) int {
	return Order(highest(a), highest(b))
}

func highest(list []string) string {
	best := ""
	for _, v := range list {
		if best == "" || Order(v, best) > 0 {
			best = v
		}
	}
	return best
}

// intent is the leg's move of a package, or nil.
func (c *comparer) intent(e *entry) *Move {
	for i := range c.leg {
		want := c.leg[i].Package
		if want == e.name || e.ecosystem == "Go" && key("Go", want) == key("Go", e.name) || e.ecosystem == jvm && strings.HasSuffix(e.name, ":"+want) {
			return &c.leg[i]
		}
	}
	return nil
}

// renamed joins a package that is gone with a new one: where the notes say so,
// or where the manifest named both and the last part of their names is the same.
func renamed(list []Difference, pairs []Pair) []Difference {
	drop := map[int]bool{}
	for i := range list {
		if list[i].Change != Added {
			continue
		}
		for j := range list {
			if list[j].Change != Dropped || drop[j] || list[j].Ecosystem != list[i].Ecosystem {
				continue
			}
			told := false
			for _, p := range pairs {
				told = told || p.From == list[j].Name && p.To == list[i].Name
			}
			if told || list[i].Direct && list[j].Direct && lastPart(list[i].Name) == lastPart(list[j].Name) {
				drop[j] = true
				list[i].Change, list[i].Was, list[i].From = Renamed, list[j].Name, list[j].From
				list[i].Intended = list[i].Intended || list[j].Intended
				break
			}
		}
	}
	kept := list[:0]
	for i, m := range list {
		if !drop[i] {
			kept = append(kept, m)
		}
	}
	return kept
}

func lastPart(name string) string { return name[strings.LastIndexAny(name, "/:.")+1:] }

// parents finds for every package the one before it on the shortest way from
// what the leg moves, else from what a manifest names, breadth first; "" at the
// start.
func (c *comparer) parents() map[string]string {
	down := map[string][]string{}
	for to, wanted := range c.graph {
		for _, from := range wanted {
			down[from] = append(down[from], to)
		}
	}
	for k := range down {
		sort.Strings(down[k])
	}
	found := map[string]string{}
	all := keys(c.is)
	for _, intended := range []bool{true, false} {
		var queue []string
		for _, k := range all {
			if e := c.is[k]; intended && c.intent(e) != nil || !intended && c.direct[k] {
				if _, ok := found[k]; !ok {
					found[k] = ""
					queue = append(queue, k)
				}
			}
		}
		for len(queue) > 0 {
			k := queue[0]
			queue = queue[1:]
			for _, next := range down[k] {
				if _, ok := found[next]; !ok && c.is[next] != nil {
					found[next] = k
					queue = append(queue, next)
				}
			}
		}
	}
	return found
}

// path is the way to a package, from the outermost, without itself.
func (c *comparer) path(k string, parents map[string]string) []string {
	list := []string{}
	for k = parents[k]; k != ""; k = parents[k] {
		list = append(list, c.is[k].name+" "+c.is[k].text())
	}
	slices.Reverse(list)
	return list
}

// warn says aloud what makes a comparison worthless or a bump none.
func (c *comparer) warn(before State) {
	for _, problem := range append(append([]string{}, before.Problems...), c.after.Problems...) {
		c.Warnings = append(c.Warnings, "not read: "+problem)
	}
	if len(c.after.Files) == 0 {
		c.Warnings = append(c.Warnings, "no manifest and no lock file was found: what moved cannot be told")
		return
	}
	moved := false
	for _, m := range c.Moves {
		moved = moved || m.Intended
	}
	switch {
	case len(c.Moves) == 0:
		c.Warnings = append(c.Warnings, "nothing moved: the manifests and lock files name the same versions as before the bump")
	case !moved && len(c.leg) > 0:
		c.Warnings = append(c.Warnings, "what the leg moves did not move: only other packages did")
	}
	locked := map[string]bool{}
	for _, p := range c.after.Packages {
		locked[p.Ecosystem] = locked[p.Ecosystem] || isLock(p.File)
	}
	for _, w := range c.after.Wishes {
		if !locked[w.Ecosystem] || w.Ecosystem == "Go" || w.Dev {
			continue
		}
		e := c.is[key(w.Ecosystem, w.Name)]
		if e == nil {
			if manifest, _ := Known(w.File); manifest && !strings.ContainsAny(w.Range, ":/") && w.Range != "" {
				c.Warnings = append(c.Warnings, fmt.Sprintf("%s asks for %s %s, which the lock file does not have: it is older than the manifest", w.File, w.Name, w.Range))
			}
			continue
		}
		met := false
		for _, v := range e.versions {
			m, known := meetsWish(v, w)
			met = met || m || !known
		}
		if !met {
			c.Warnings = append(c.Warnings, fmt.Sprintf("%s asks for %s %s, the lock file has %s: it is older than the manifest", w.File, w.Name, w.Range, e.text()))
		}
	}
}

func isLock(file string) bool { _, lock := Known(file); return lock }
