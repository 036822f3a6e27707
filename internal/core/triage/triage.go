// Package triage is the pipeline: what was read of both sides, the notes and
// the source tree go in, and a report comes out. It is one function over
// values; the same values give the same report.
package triage

import (
	"fmt"
	"math"
	"runtime"
	"sort"
	"strings"
	"sync"
	"sync/atomic"

	"unicausa/internal/core/cluster"
	"unicausa/internal/core/compare"
	"unicausa/internal/core/link"
	"unicausa/internal/core/notes"
	"unicausa/internal/core/read"
	"unicausa/internal/core/source"
	"unicausa/internal/core/symptom"
)

// Move is a package or toolchain that went from one version to another. With
// no package it bounds the notes of every package.
type Move struct{ Package, From, To string }

// Snapshot is what checks printed on one state of the source. Tree may be nil:
// then nothing is known but what the tools said.
type Snapshot struct {
	Results []read.Result
	Tree    *source.Tree
}

// Case is what a triage works on. Each side is a list of snapshots, oldest
// first; where checks were last run on different states of the source, what
// they share is told by identity, not by line. Moves bound the versions of the changes that
// may explain anything; without one for its package, every change may.
type Case struct {
	Before, After []Snapshot
	Changes       []notes.Change
	Moves         []Move
	// Prior are the causes of earlier runs, whose numbers go on. With none, the
	// causes are numbered by rank.
	Prior []cluster.Identity
	// Judged says of a cause's ID which changes people confirmed (true) and
	// which they rejected (false).
	Judged map[string]map[string]bool
	// Corrections are what people say of where symptoms belong, in order.
	Corrections []Correction
}

// Drawing is what a case comes to before its causes are linked and ranked.
type Drawing struct {
	Symptoms []symptom.Symptom
	Evidence []*cluster.Evidence // of the symptom at the same place
	Groups   []cluster.Cause
	Index    *link.Index // of the changes inside the versions that moved
}

// Draw gives every symptom its state and draws the causes.
func Draw(c Case) Drawing {
	before, earlier := merged(c.Before)
	after, trees := merged(c.After)
	if sameTree(c) { // its lines are not those of the before side
		earlier = nil
	}
	symptoms := compare.States(compare.Side{Symptoms: before, Trees: earlier}, compare.Side{Symptoms: after, Trees: trees})
	unsteady(symptoms, c.After)
	symptoms = append(symptoms, lost(c)...)

	explaining := candidates(c)
	ctx := knowledge(c, explaining)
	evidence := make([]*cluster.Evidence, len(symptoms))
	for i := range symptoms {
		evidence[i] = cluster.Gather(&symptoms[i], trees[symptoms[i].ID], ctx)
	}
	return Drawing{Symptoms: symptoms, Evidence: evidence, Groups: cluster.Group(evidence, ctx), Index: link.NewIndex(explaining)}
}

// Run draws up the report of a case.
func Run(c Case) Report {
	drawing := Draw(c)
	symptoms, evidence := drawing.Symptoms, drawing.Evidence
	tree := latestTree(c)
	causes := explain(drawing.Groups, drawing.Index)
	rank(causes, tree)
	causes = correct(causes, c, drawing.Index)
	teach(causes, c.Judged)
	rank(causes, tree)

	report := Report{Format: "unicausa-report", Version: 1, Causes: []Cause{}, Changes: []Change{}, Unread: []Unread{}, Symptoms: []Symptom{}, Inputs: []Input{}}
	report.inputs(results(c.Before), Before)
	report.inputs(results(c.After), After)
	report.fill(symptoms, evidence, causes)
	report.Changes = changes(c, causes)
	return report
}

// sameTree tells whether one tree was given for both sides.
func sameTree(c Case) bool {
	for _, b := range c.Before {
		for _, a := range c.After {
			if a.Tree == b.Tree {
				return true
			}
		}
	}
	return false
}

// candidates are the changes inside what moved.
func candidates(c Case) []notes.Change {
	var list []notes.Change
	for i := range c.Changes {
		if Candidate(&c.Changes[i], c.Moves) {
			list = append(list, c.Changes[i])
		}
	}
	return list
}

// Candidate tells whether a change lies within what moved of its package.
func Candidate(c *notes.Change, moves []Move) bool {
	inside := true
	for _, m := range moves {
		if m.Package == "" || source.SameFamily(m.Package, c.Package) {
			if inside = notes.Within(c.Version, m.From, m.To); inside {
				break
			}
		}
	}
	return inside
}

// explained is a cause with its links.
type explained struct {
	cluster.Cause
	id     string // once it is numbered
	links  []link.Link
	reason string
}

// Scores from which a link decides that two groups are one cause: both name
// the same broken thing in a change.
const joinScore = 0.5

// explain links the causes, and joins those that one change explains.
func explain(groups []cluster.Cause, index *link.Index) []explained {
	links := linked(groups, index)
	list := make([]explained, 0, len(groups))
	first := map[string]int{} // change to the cause that it explains
	grown := map[int]bool{}
	for n, g := range groups {
		e := explained{Cause: g, links: links[n]}
		if len(e.links) > 0 && e.links[0].Score >= joinScore && e.links[0].Strong && !g.Known {
			id := e.links[0].Change.ID
			if at, ok := first[id]; ok && joinable(&list[at].Cause, &g) {
				list[at].Join(g, cluster.Because{What: "explained by the same change", Value: e.links[0].Change.Title, Weight: e.links[0].Score})
				grown[at] = true
				continue
			} else if !ok {
				first[id] = len(list)
			}
		}
		list = append(list, e)
	}
	for at := range grown {
		list[at].links = index.Links(&list[at].Cause)
	}
	return list
}

// linked finds the links of every cause, side by side.
func linked(groups []cluster.Cause, index *link.Index) [][]link.Link {
	links := make([][]link.Link, len(groups))
	var next atomic.Int64
	var work sync.WaitGroup
	for range runtime.GOMAXPROCS(0) {
		work.Go(func() {
			for {
				n := int(next.Add(1)) - 1
				if n >= len(groups) {
					return
				}
				links[n] = index.Links(&groups[n])
			}
		})
	}
	work.Wait()
	return links
}

// joinable tells whether two causes that one change explains may be one. Two
// that miss different names are not; neither is one that misses a name and one
// that is about other names alone.
func joinable(a, b *cluster.Cause) bool {
	x, y := a.Misses(), b.Misses()
	switch {
	case x == "" && y == "":
		return true
	case x != "" && y != "":
		return x == y
	case x == "":
		x, a, b = y, b, a
	}
	about := b.Concerns()
	return len(about) == 0 || about[x]
}

// merged folds the symptoms of a side, and gives each one's source tree. The
// newest snapshot that has a symptom says where it stands.
func merged(side []Snapshot) ([]symptom.Symptom, map[string]*source.Tree) {
	var list []symptom.Symptom
	at, trees := map[string]int{}, map[string]*source.Tree{}
	for n := len(side) - 1; n >= 0; n-- {
		for _, s := range symptom.Merge(placed(side[n])) {
			if i, ok := at[s.ID]; ok {
				list[i].At = append(list[i].At, s.At...)
				list[i].Count += s.Count
				continue
			}
			at[s.ID], trees[s.ID] = len(list), side[n].Tree
			list = append(list, s)
		}
	}
	return list, trees
}

// placed takes the symptoms of a snapshot, with their files as its tree names them.
func placed(snapshot Snapshot) []symptom.Symptom {
	var list []symptom.Symptom
	for _, r := range snapshot.Results {
		for _, s := range r.Symptoms {
			place(&s, snapshot.Tree)
			list = append(list, s)
		}
	}
	return list
}

func results(side []Snapshot) []read.Result {
	var list []read.Result
	for _, s := range side {
		list = append(list, s.Results...)
	}
	return list
}

func place(s *symptom.Symptom, tree *source.Tree) {
	if name, exact := tree.Find(s.File, s.Unit); name != "" {
		s.File = name
		if !exact {
			s.Line, s.Column = 0, 0
		}
	}
	frames := append([]symptom.Frame(nil), s.Frames...)
	for i, f := range frames {
		if !f.Own {
			continue
		}
		name, exact := tree.Find(f.File, s.Unit)
		switch {
		case name == "":
			frames[i].Own = tree == nil
		case exact:
			frames[i].File = name
		default:
			frames[i].File, frames[i].Line = name, 0
		}
	}
	s.Frames = frames
	if name, _ := tree.Find(s.File, s.Unit); name == "" { // the tree knows better what is the project's own
		for _, f := range frames {
			if f.Own && tree != nil {
				s.File, s.Line, s.Column = f.File, f.Line, 0
				break
			}
		}
	}
}

// lost makes symptoms of the tests that the after side lost.
func lost(c Case) []symptom.Symptom {
	var before, after []symptom.Test
	var blocked []string
	for _, r := range results(c.Before) {
		before = append(before, r.Tests...)
	}
	if len(before) == 0 {
		return nil
	}
	suites := map[string]bool{}
	for _, r := range results(c.After) {
		after = append(after, r.Tests...)
		blocked = append(blocked, r.Reach.Blocked...)
		for _, t := range r.Tests {
			suites[t.Suite] = true
		}
	}
	var list []symptom.Symptom
	for _, l := range compare.LostTests(before, after, blocked) {
		if suites[l.Test.Suite] { // else the suite was not run on this side
			list = append(list, l.Symptom())
		}
	}
	return symptom.Merge(list)
}

// knowledge is what clustering may know besides the symptoms.
func knowledge(c Case, changes []notes.Change) *cluster.Context {
	ctx := &cluster.Context{Subjects: packages(c.Changes), Names: map[string]bool{}}
	for i := range changes {
		for _, s := range changes[i].Symbols {
			ctx.Names[link.LastPart(s.Name)] = true
		}
	}
	var tests []symptom.Test
	for _, r := range results(c.After) {
		tests = append(tests, r.Tests...)
	}
	ctx.Passed = cluster.PassedTests(tests)
	return ctx
}

// packages are the packages of the notes, each once, in order.
func packages(changes []notes.Change) []string {
	seen := map[string]bool{}
	var list []string
	for _, c := range changes {
		if c.Package != "" && !seen[c.Package] {
			seen[c.Package] = true
			list = append(list, c.Package)
		}
	}
	sort.Strings(list)
	return list
}

func (r *Report) inputs(results []read.Result, side string) {
	for _, in := range results {
		stated := in.Stated
		if stated == nil {
			stated = []read.Stated{}
		}
		r.Inputs = append(r.Inputs, Input{
			Name: in.Name, Side: side, Format: in.Format, Tools: in.Tools, Lines: in.Lines, Bytes: in.Bytes, Stated: stated, Problem: in.Problem,
		})
		if side == Before {
			continue
		}
		for _, u := range in.Unread {
			r.Unread = append(r.Unread, Unread{Input: in.Name, Line: u.Line, Text: u.Text})
		}
	}
	r.Summary.Unread = len(r.Unread)
}

// fill writes symptoms and causes into the report.
func (r *Report) fill(symptoms []symptom.Symptom, evidence []*cluster.Evidence, causes []explained) {
	of, because := map[*symptom.Symptom]string{}, map[*symptom.Symptom]*cluster.Because{}
	for i := range causes {
		e := &causes[i]
		r.Causes = append(r.Causes, e.cause(i+1))
		if len(e.links) > 0 {
			r.Summary.Linked++
		}
		for n := range e.Members {
			m := &e.Members[n]
			of[m.Symptom], because[m.Symptom] = e.id, &m.Because
		}
	}
	r.Summary.Causes = len(r.Causes)
	for i := range symptoms {
		s := &symptoms[i]
		if s.Package == "" {
			s.Package = packageOf(evidence[i])
		}
		r.Symptoms = append(r.Symptoms, Symptom{Symptom: *s, Symbols: s.Symbols(), Cause: of[s], Because: because[s], Source: evidence[i].Source})
		r.Summary.count(s.State)
	}
}

// cause writes an explained cause as the report has it.
func (e *explained) cause(rank int) Cause {
	out := Cause{
		ID: e.id, Title: e.Title(), Kind: e.Kind(), Phase: e.Root().Phase, Package: e.Package(), Root: e.Root().ID, Symptoms: []string{}, Followers: []string{},
		Rank: rank, Reason: e.reason, Known: e.Known, Because: because(e.Members), Links: []Link{}, Signature: e.Identity().Signature,
	}
	for _, m := range e.Members {
		out.Symptoms = append(out.Symptoms, m.Symptom.ID)
		if m.Follower {
			out.Followers = append(out.Followers, m.Symptom.ID)
		}
	}
	for _, l := range e.links {
		out.Links = append(out.Links, Link{Change: l.Change.ID, Score: math.Min(0.99, math.Round(100*l.Score)/100), Because: l.Because})
	}
	if len(e.links) > 0 && e.links[0].Score >= 0.5 {
		out.Kind = string(e.links[0].Change.Kind)
		out.Title = told(out.Title, &e.Cause, e.links[0].Change)
	}
	out.Steps = steps(e)
	return out
}

// latestTree is the source that the newest runs were made on, or nil.
func latestTree(c Case) *source.Tree {
	if n := len(c.After); n > 0 {
		return c.After[n-1].Tree
	}
	return nil
}

// judged drops the links that people rejected and puts a confirmed one first.
func judged(links []link.Link, verdicts map[string]bool) []link.Link {
	var kept []link.Link
	for _, l := range links {
		if confirmed, known := verdicts[l.Change.ID]; confirmed || !known {
			kept = append(kept, l)
		}
	}
	sort.SliceStable(kept, func(i, j int) bool { return verdicts[kept[i].Change.ID] && !verdicts[kept[j].Change.ID] })
	return kept
}

// packageOf is the package that a symptom's strongest fact points to, or "".
func packageOf(e *cluster.Evidence) string {
	best := cluster.Fact{}
	for _, f := range e.Facts {
		if f.Package != "" && f.Weight > best.Weight {
			best = f
		}
	}
	return best.Package
}

func (s *Summary) count(state symptom.State) {
	s.Symptoms++
	switch state {
	case symptom.New:
		s.New++
	case symptom.Unchanged:
		s.Unchanged++
	case symptom.Updated:
		s.Updated++
	case symptom.Absent:
		s.Symptoms--
		s.Absent++
	}
}

// told is a cause's title once a change explains it: with the new name, where
// the change has one for what is missing.
func told(title string, c *cluster.Cause, change *notes.Change) string {
	name := c.Misses()
	for _, p := range change.Renames {
		if name != "" && tail(p.From) == name && c.Subject() != "" {
			if change.Kind == notes.Removed || change.Kind == notes.Deprecated {
				return fmt.Sprintf("%s gives way to %s", c.Subject(), p.To)
			}
			return fmt.Sprintf("%s was renamed to %s", c.Subject(), p.To)
		}
	}
	if name != "" {
		return title
	}
	return change.Title
}

func tail(name string) string { return name[strings.LastIndexAny(name, ".:#")+1:] }

// because lists the distinct reasons of a cause's members, heaviest first.
func because(members []cluster.Member) []cluster.Because {
	seen := map[string]bool{}
	list := []cluster.Because{}
	for _, m := range members {
		if key := m.Because.What + "\x00" + m.Because.Value; !seen[key] {
			seen[key] = true
			list = append(list, m.Because)
		}
	}
	sort.SliceStable(list, func(i, j int) bool { return list[i].Weight > list[j].Weight })
	if len(list) > 6 {
		list = list[:6]
	}
	return list
}
