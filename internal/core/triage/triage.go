// Package triage is the pipeline: what was read of both sides, the notes and
// the source tree go in, and a report comes out. It is one function over
// values; the same values give the same report.
package triage

import (
	"cmp"
	"context"
	"fmt"
	"slices"
	"sort"

	"unicausa/internal/core/cluster"
	"unicausa/internal/core/compare"
	"unicausa/internal/core/guard"
	"unicausa/internal/core/link"
	"unicausa/internal/core/notes"
	"unicausa/internal/core/read"
	"unicausa/internal/core/source"
	"unicausa/internal/core/symptom"
	"unicausa/internal/core/versions"
)

// Case is what a triage works on. Each side is a list of snapshots, oldest
// first; where checks were last run on different states of the source, what
// they share is told by identity, not by line. Moves bound the versions of the changes that
// may explain anything; without one for its package, every change may.
type Case struct {
	Before, After []Snapshot
	Changes       []notes.Change
	Moves         []versions.Move
	// Prior are the causes of earlier runs, whose numbers go on. With none, the
	// causes are numbered by rank.
	Prior []cluster.Identity
	// Judged says of a cause's ID which changes people confirmed (true) and
	// which they rejected (false).
	Judged map[string]map[string]bool
	// Settled says of a cause's signature how often each change explained it
	// where it was settled in other upgrades.
	Settled map[string]map[string]int
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

// Draw gives every symptom its state and draws the causes; it ends as Run does.
func Draw(ctx context.Context, c Case) Drawing {
	before, earlier := merged(c.Before)
	after, trees := merged(c.After)
	if sameTree(c) { // its lines are not those of the before side
		earlier = nil
	}
	symptoms := compare.States(compare.Side{Symptoms: before, Trees: earlier}, compare.Side{Symptoms: after, Trees: trees})
	unsteady(symptoms, c.After)
	symptoms = append(symptoms, lost(c)...)

	explaining := candidates(c)
	var index *link.Index
	var work guard.Group
	work.Go(func() { index = link.NewIndex(explaining) })
	known := knowledge(c, explaining)
	evidence := make([]*cluster.Evidence, len(symptoms))
	for i := range symptoms {
		guard.Check(ctx)
		evidence[i] = gather(&symptoms[i], trees[symptoms[i].ID], known)
	}
	groups := cluster.Group(ctx, evidence, known)
	work.Wait()
	return Drawing{Symptoms: symptoms, Evidence: evidence, Groups: dissent(ctx, groups, index), Index: index}
}

// gather is cluster.Gather, which names the symptom where it panics.
func gather(s *symptom.Symptom, tree *source.Tree, known *cluster.Context) *cluster.Evidence {
	defer guard.Name(func() []string {
		if len(s.At) == 0 {
			return []string{s.Message}
		}
		return []string{fmt.Sprintf("%s, line %d", s.At[0].Input, s.At[0].Line)}
	})
	return cluster.Gather(s, tree, known)
}

// Run draws up the report of a case. Once ctx is done it panics, as guard.Check
// does: run it within guard.Call.
func Run(ctx context.Context, c Case) Report {
	drawing := Draw(ctx, c)
	symptoms, evidence := drawing.Symptoms, drawing.Evidence
	tree := latestTree(c)
	causes := explain(ctx, drawing.Groups, drawing.Index)
	rank(causes, tree)
	causes = correct(causes, c, drawing.Index)
	remember(causes, c.Settled)
	teach(causes, c.Judged)
	rank(causes, tree)

	report := Report{Format: "unicausa-report", Version: 1, Causes: []Cause{}, Changes: []Change{}, Unread: []Unread{}, Symptoms: []Symptom{}, Inputs: []Input{}}
	report.inputs(results(c.Before), Before)
	report.inputs(results(c.After), After)
	report.fill(symptoms, evidence, causes)
	report.orphans(evidence, baselineTree(c), tree)
	report.Changes = changes(ctx, c, causes)
	return report
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

// Candidate reports whether a change lies within what moved of its package.
func Candidate(c *notes.Change, moves []versions.Move) bool {
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

// knowledge is what clustering may know besides the symptoms.
func knowledge(c Case, changes []notes.Change) *cluster.Context {
	ctx := &cluster.Context{Subjects: packages(c.Changes), Names: map[string]bool{}, Deprecated: map[string]bool{}}
	for i := range changes {
		for _, s := range changes[i].Symbols {
			ctx.Names[link.LastPart(s.Name)] = true
		}
		for _, name := range link.Joined(changes[i].Text) {
			ctx.Names[name] = true
		}
	}
	var tests []symptom.Test
	for _, r := range results(c.After) {
		tests = append(tests, r.Tests...)
	}
	for _, r := range results(c.Before) {
		for _, s := range r.Symptoms {
			if name := s.Named(symptom.Old); s.Kind == symptom.Deprecation && name != "" {
				ctx.Deprecated[link.LastPart(name)] = true
			}
		}
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
	for _, i := range inReadingOrder(symptoms) {
		s := &symptoms[i]
		if s.Package == "" {
			s.Package = packageOf(evidence[i])
		}
		r.Symptoms = append(r.Symptoms, Symptom{Symptom: *s, Symbols: s.Symbols(), Cause: of[s], Because: because[s], Source: evidence[i].Source})
		r.Summary.count(s.State)
	}
}

// inReadingOrder lists the symptoms as their inputs tell of them first.
func inReadingOrder(symptoms []symptom.Symptom) []int {
	order := make([]int, len(symptoms))
	for i := range order {
		order[i] = i
	}
	first := func(s *symptom.Symptom) symptom.At {
		if len(s.At) == 0 {
			return symptom.At{}
		}
		return s.At[0]
	}
	slices.SortStableFunc(order, func(i, j int) int {
		a, b := first(&symptoms[i]), first(&symptoms[j])
		return cmp.Or(cmp.Compare(a.Input, b.Input), cmp.Compare(a.Line, b.Line), cmp.Compare(symptoms[i].Order, symptoms[j].Order))
	})
	return order
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
