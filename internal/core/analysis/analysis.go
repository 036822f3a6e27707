// Package analysis takes a leg one run further, on values: what is recorded of the leg goes
// in, the report, the state and what the run changed come out. Where the records are kept,
// and when, is no concern of it.
package analysis

import (
	"context"
	"fmt"

	"unicausa/internal/core/cluster"
	"unicausa/internal/core/compare"
	"unicausa/internal/core/notes"
	"unicausa/internal/core/read"
	"unicausa/internal/core/source"
	"unicausa/internal/core/symptom"
	"unicausa/internal/core/track"
	"unicausa/internal/core/triage"
	"unicausa/internal/core/versions"
)

// Run is how a run was made, and how far it got.
type Run struct {
	ID          int64
	Number      int
	Check       string
	Exit        int
	Baseline    bool   // it is accepted
	Source      string // SHA-256 of its source tree, "" where none was sent
	Commit      string
	Dirty       bool // the working copy had changes that were not committed
	Command     string
	Versions    map[string]string // seen, by tool or package
	Patterns    []read.Pattern    // the project's own at the time
	Reach       compare.Reach
	Bytes       int64 // of its output
	Interrupted bool
}

// Recorded is a run with what was read of it. Tree is nil where no source came with it.
type Recorded struct {
	Run
	Results []read.Result
	Tree    *source.Tree
}

// Tests are the tests that the run names.
func (r *Recorded) Tests() []symptom.Test {
	var list []symptom.Test
	for _, result := range r.Results {
		list = append(list, result.Tests...)
	}
	return list
}

// Reached is how far the run got, with the outcomes of its tests.
func (r *Recorded) Reached() compare.Reach { return r.Reach.OfTests(r.Tests()) }

// Made says how the run was made.
func (r *Recorded) Made() compare.Made {
	return compare.Made{Command: r.Command, Versions: r.Versions, Tests: r.Tests(), Count: r.Reach.Count}
}

// Leg is what is recorded of a leg.
type Leg struct {
	Moves    []versions.Move
	Changes  []notes.Change
	Baseline []Recorded // the accepted runs, the oldest first
	Latest   []Recorded // the latest run of every check since, the oldest first
	// Repeats are, of each of the latest runs, earlier recordings of its check on the same
	// source.
	Repeats [][]Recorded
	// Unseen are the symptoms that the leg before, UnseenSince, left out of sight: its runs
	// could not show them, and they are known all the same.
	Unseen      []symptom.Symptom
	UnseenSince int

	State       *track.State
	Earlier     []string                   // names of causes of other legs, which are not given again
	Judged      map[string]map[string]bool // by cause and change: confirmed or rejected
	Settled     map[string]map[string]int  // by signature and change: how often it explained it elsewhere
	Corrections []triage.Correction

	PutOff map[string]bool                          // causes that are deferred or waited for
	Record func(t *track.Symptom) []symptom.Outcome // of a test, the oldest first; nil for none
}

// Newest is the latest run at hand, with what came before it: Since are the runs since the
// baseline, the latest first, and Previous is the one that its check was made on before, on
// another source, nil for none.
type Newest struct {
	Since    []Run
	Previous *Recorded
}

// PreviousOf is the latest of the runs before one that its check was made on, on another
// source, nil for none.
func PreviousOf(run Run, since []Run) *Run {
	for i := range since {
		if since[i].Check == run.Check && !sameState(since[i], run) {
			return &since[i]
		}
	}
	return nil
}

func sameState(a, b Run) bool { return a.Commit == b.Commit && a.Source == b.Source }

// Progress is what a leg came to. Run is nil when nothing was run: notes were added, or a
// person judged a link; Delta is nil then too.
type Progress struct {
	Run    *Run
	Latest int // the number of the latest processed run
	Report *triage.Report
	State  *track.State
	Delta  *track.Delta
}

// Advance draws the report of the leg and takes its state further, by the newest run where
// one is given. The leg has a baseline and a run since. It ends early when the context does.
func (l *Leg) Advance(ctx context.Context, by *Newest) Progress {
	report, latest := l.draw(ctx)
	newest := &latest[len(latest)-1]
	progress := Progress{Latest: newest.Number, Report: report, State: l.State}
	next := step(report, latest)
	next.PutOff, next.Record = l.PutOff, l.Record
	if by == nil {
		l.State.Advance(next)
		return progress
	}
	by.add(&next, newest)
	next.Original, next.Tree = l.Baseline[len(l.Baseline)-1].Tree, newest.Tree
	before := l.State.Standing()
	l.State.Advance(next)
	progress.Run, progress.Delta = &newest.Run, l.State.Since(before)
	progress.Delta.Worse = l.State.DoesWorse(newest.Number, newest.Check, newest.Exit, l.accepted(newest.Check))
	return progress
}

// Report draws the report of the leg as it stands.
func (l *Leg) Report(ctx context.Context) *triage.Report {
	report, _ := l.draw(ctx)
	return report
}

// Notices tells how the newest run was made otherwise than its check's baseline, a sentence
// each.
func (l *Leg) Notices() []string {
	newest := &l.Latest[len(l.Latest)-1]
	for i := range l.Baseline {
		if b := &l.Baseline[i]; b.Check == newest.Check {
			return compare.Notices(b.Made(), newest.Made(), l.Moves)
		}
	}
	return nil
}

// draw draws the report, and gives the latest runs with what earlier recordings of the same
// source add to them.
func (l *Leg) draw(ctx context.Context) (*triage.Report, []Recorded) {
	latest := l.withRepeats()
	c := triage.Case{
		Prior: l.State.Identities(), Before: snapshots(l.Baseline), After: snapshots(latest),
		Changes: l.Changes, Judged: l.Judged, Settled: l.Settled, Corrections: l.Corrections, Moves: l.Moves,
	}
	for _, name := range l.Earlier { // numbers go on from leg to leg
		c.Prior = append(c.Prior, cluster.Identity{ID: name, Signature: "leg|" + name})
	}
	if n := len(c.Before); n > 0 && len(l.Unseen) > 0 {
		last := &c.Before[n-1]
		last.Results = append(last.Results, read.Result{Name: fmt.Sprintf("what leg %d left out of sight", l.UnseenSince), Symptoms: l.Unseen})
	}
	report := triage.Run(ctx, c)
	return &report, latest
}

// snapshots puts runs together that were made on the same source, by the newest run of each.
func snapshots(runs []Recorded) []triage.Snapshot {
	var list []triage.Snapshot
	for i, r := range runs {
		if n := len(list); n > 0 && runs[i-1].Source == r.Source {
			list[n-1].Results = append(list[n-1].Results, r.Results...)
			continue
		}
		list = append(list, triage.Snapshot{Results: append([]read.Result{}, r.Results...), Tree: r.Tree})
	}
	return list
}

// withRepeats gives the latest runs with what earlier recordings of the same source said of
// tests that ended otherwise there: these are flaky, not cleared.
func (l *Leg) withRepeats() []Recorded {
	latest := append([]Recorded{}, l.Latest...)
	for i := range latest {
		if i >= len(l.Repeats) {
			break
		}
		now := &latest[i]
		for _, earlier := range l.Repeats[i] {
			flaky := compare.Flaky([][]symptom.Test{earlier.Tests(), now.Tests()})
			if len(flaky) == 0 {
				continue
			}
			results := append([]read.Result{}, now.Results...)
			for _, old := range earlier.Results {
				old.Symptoms = ofTests(old.Symptoms, flaky)
				old.Unread, old.Stated = nil, nil
				results = append(results, old)
			}
			now.Results = results
		}
	}
	return latest
}

// ofTests keeps the symptoms of certain tests.
func ofTests(list []symptom.Symptom, keys map[string]bool) []symptom.Symptom {
	var kept []symptom.Symptom
	for _, s := range list {
		if s.Test != "" && keys[symptom.Test{Suite: s.Unit, Name: s.Test}.Key()] {
			kept = append(kept, s)
		}
	}
	return kept
}

// step is the newest run and what came of it.
func step(report *triage.Report, latest []Recorded) track.Step {
	checks := map[string]string{} // input to check, of the runs since the bump
	reach, runs := map[string]compare.Reach{}, map[string]int{}
	for i := range latest {
		r := &latest[i]
		for _, result := range r.Results {
			checks[result.Name] = r.Check
		}
		reach[r.Check], runs[r.Check] = r.Reached(), r.Number
	}
	newest := latest[len(latest)-1]
	return track.Step{Run: newest.Number, Check: newest.Check, Report: report, Reach: reach, Runs: runs, CheckOf: func(input string) string { return checks[input] }}
}

// add adds to a step how far the runs before it got on other sources: the check's own last
// one, and the others since the bump.
func (n *Newest) add(step *track.Step, run *Recorded) {
	for _, r := range n.Since {
		switch {
		case sameState(r, run.Run):
			step.Repeated = step.Repeated || r.Check == run.Check && (run.Commit != "" || run.Source != "")
		case r.Check != run.Check:
			if stuck := r.Reach.Stuck(); stuck != "" && (step.Elsewhere == "" || stuck.Order() < step.Elsewhere.Order()) {
				step.Elsewhere = stuck
			}
		}
	}
	if n.Previous != nil {
		reach := n.Previous.Reached()
		step.Previous, step.Source = &reach, n.Previous.Tree
	}
}

// accepted is the accepted run of a check, nil where there is none.
func (l *Leg) accepted(check string) *track.Accepted {
	var own *track.Accepted
	for i := range l.Baseline {
		if b := &l.Baseline[i]; b.Check == check {
			if own == nil {
				own = &track.Accepted{}
			}
			own.Exit, own.Tests = b.Exit, append(own.Tests, b.Tests()...)
		}
	}
	return own
}

// Side is the run as one side of a comparison.
func (r *Recorded) Side() compare.Side {
	var list []symptom.Symptom
	for _, result := range r.Results {
		list = append(list, result.Symptoms...)
	}
	side := compare.Side{Symptoms: symptom.Merge(list), Trees: map[string]*source.Tree{}}
	for _, m := range side.Symptoms {
		side.Trees[m.ID] = r.Tree
	}
	return side
}
