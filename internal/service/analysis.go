package service

import (
	"context"
	"fmt"
	"path"

	"unicausa/internal/api"
	"unicausa/internal/core/cluster"
	"unicausa/internal/core/compare"
	"unicausa/internal/core/read"
	"unicausa/internal/core/source"
	"unicausa/internal/core/symptom"
	"unicausa/internal/core/track"
	"unicausa/internal/core/triage"
	"unicausa/internal/core/versions"
	"unicausa/internal/store"
)

// advance takes a leg one run further: reads the run, draws up the report over
// the baseline and the latest run of every check, and saves what it means. With
// no run the report is drawn up anew over what is there. Before a baseline is
// accepted, runs are only read.
func advance(a *store.Analysis, run *store.RunRef) error {
	if run != nil {
		if err := readRun(a, run); err != nil {
			return err
		}
		newest, err := a.Newest(*run)
		switch {
		case err != nil:
			return err
		case run.Stopped: // it is to be looked at, and says nothing of what it did not get to
			return nil
		case !newest: // it was tried again, and others came meanwhile
			run = nil
		}
	}
	report, err := analyseLeg(a, run)
	if err != nil {
		return err
	}
	return expose(a, report)
}

// analyseLeg draws up and saves the report; it is nil before there is a
// baseline and a run since.
func analyseLeg(a *store.Analysis, run *store.RunRef) (*triage.Report, error) {
	baseline, err := a.Baseline()
	if err != nil || len(baseline) == 0 {
		return nil, err
	}
	number := 1 << 30
	if run != nil {
		number = run.Number
	}
	latest, err := a.Latest(number)
	if err != nil || len(latest) == 0 {
		return nil, err
	}
	newest := latest[len(latest)-1]
	if run != nil {
		if err := notice(a, baseline, newest); err != nil {
			return nil, err
		}
	}
	state, err := a.State()
	if err != nil {
		return nil, err
	}
	report, results, err := draw(a, baseline, latest, state)
	if err != nil {
		return nil, err
	}
	progress := store.Progress{Latest: newest.Number, Report: report, State: state}
	next := step(a, report, newest, latest, results)
	if err := unsteady(a, &next); err != nil {
		return nil, err
	}
	if run == nil || newest.ID != run.ID {
		state.Advance(next)
		return report, a.Save(progress)
	}
	if err := earlier(a, newest, baseline, &next); err != nil {
		return nil, err
	}
	before := counts(state)
	state.Advance(next)
	progress.Run, progress.Delta = &newest, delta(before, state)
	if progress.Delta.Worse, err = worse(a, newest, baseline, state); err != nil {
		return nil, err
	}
	return report, a.Save(progress)
}

// readRun reads a run's inputs and stores what they say.
func readRun(a *store.Analysis, run *store.RunRef) error {
	tree, err := a.Tree(run.Source)
	if err != nil {
		return err
	}
	ids, names, err := a.Inputs(run.ID)
	if err != nil {
		return err
	}
	results := make([]read.Result, len(ids))
	patterns, err := run.Own()
	if err != nil {
		return err
	}
	for i, id := range ids {
		if results[i], err = read.With(read.Project{Patterns: patterns, Holds: tree.Holds}, names[i], a.Raw(id)); err != nil {
			return err
		}
	}
	if run.Check == versions.ReadyCheck { // it lists versions: nothing of it is trouble
		for i := range results {
			results[i].Symptoms, results[i].Tests, results[i].Unread, results[i].Stated = nil, nil, nil, nil
		}
		if err := listed(a, run, ids); err != nil {
			return err
		}
	} else {
		read.Unsaid(results, run.Check, run.Exit)
	}
	moves, err := a.Moves()
	if err != nil {
		return err
	}
	reach := compare.ReachOf(results, run.Exit, tree)
	if err := a.SaveReading(*run, ids, results, reach, locked(tree, moves)); err != nil {
		return err
	}
	if run.Stopped {
		return nil
	}
	return account(a, *run, results, reach)
}

// locked are the versions of what moves that the lock files of a tree name.
func locked(tree *source.Tree, moves []api.Move) map[string]string {
	seen := map[string]string{}
	for _, file := range tree.Files() {
		if _, lock := versions.Known(file); !lock && path.Base(file) != "go.mod" {
			continue
		}
		for _, m := range moves {
			if v := versions.Locked(path.Base(file), tree.Read(file), m.Package); v != "" && seen[m.Package] == "" {
				seen[m.Package] = v
			}
		}
	}
	return seen
}

// notice stores how a run was made otherwise than its check's baseline.
func notice(a *store.Analysis, baseline []store.RunRef, run store.RunRef) error {
	for _, b := range baseline {
		if b.Check != run.Check {
			continue
		}
		moves, err := a.Moves()
		if err != nil {
			return err
		}
		made := make([]compare.Made, 2)
		for i, r := range []store.RunRef{b, run} {
			results, err := a.Results([]store.RunRef{r})
			if err != nil {
				return err
			}
			made[i] = r.Made(tests(results))
		}
		return a.SaveNotices(run, compare.Notices(made[0], made[1], moving(moves)))
	}
	return nil
}

// moving is what a leg moves, as a comparison has it.
func moving(moves []api.Move) []compare.Moving {
	var list []compare.Moving
	for _, m := range moves {
		list = append(list, compare.Moving{Package: m.Package, From: m.From, To: m.To})
	}
	return list
}

// draw draws up the report of a leg, and gives the results by run.
func draw(a *store.Analysis, baseline, latest []store.RunRef, state *track.State) (*triage.Report, map[int64][]read.Result, error) {
	c := triage.Case{Prior: state.Identities()}
	results := map[int64][]read.Result{}
	earlier, err := a.Earlier()
	if err != nil {
		return nil, nil, err
	}
	for _, name := range earlier { // numbers go on from leg to leg
		c.Prior = append(c.Prior, cluster.Identity{ID: name, Signature: "leg|" + name})
	}
	if c.Before, err = snapshots(a, baseline, results); err != nil {
		return nil, nil, err
	}
	if err := carried(a, c.Before); err != nil {
		return nil, nil, err
	}
	if c.After, err = snapshots(a, latest, results); err != nil {
		return nil, nil, err
	}
	if err := repeated(a, latest, c.After, results); err != nil {
		return nil, nil, err
	}
	if c.Changes, err = a.Changes(); err != nil {
		return nil, nil, err
	}
	if c.Judged, err = a.Judged(); err != nil {
		return nil, nil, err
	}
	if c.Settled, err = a.Settled(); err != nil {
		return nil, nil, err
	}
	if c.Corrections, err = a.Corrections(); err != nil {
		return nil, nil, err
	}
	moves, err := a.Moves()
	if err != nil {
		return nil, nil, err
	}
	c.Moves = versionsOf(moves)
	report := triage.Run(a.Context(), c)
	return &report, results, nil
}

// carried adds to the baseline what the leg before left out of sight: its runs could
// not show it, and it is known all the same.
func carried(a *store.Analysis, before []triage.Snapshot) error {
	leg, list, err := a.OutOfSight()
	if err != nil || len(list) == 0 || len(before) == 0 {
		return err
	}
	last := &before[len(before)-1]
	last.Results = append(last.Results, read.Result{Name: fmt.Sprintf("what leg %d left out of sight", leg), Symptoms: list})
	return nil
}

// snapshots puts runs together that were made on the same source, by the
// newest run of each.
func snapshots(a *store.Analysis, runs []store.RunRef, results map[int64][]read.Result) ([]triage.Snapshot, error) {
	var list []triage.Snapshot
	var sources []string
	for _, r := range runs {
		read, err := a.Results([]store.RunRef{r})
		if err != nil {
			return nil, err
		}
		results[r.ID] = read
		if n := len(list); n > 0 && sources[n-1] == r.Source {
			list[n-1].Results = append(list[n-1].Results, read...)
			continue
		}
		tree, err := a.Tree(r.Source)
		if err != nil {
			return nil, err
		}
		list, sources = append(list, triage.Snapshot{Results: read, Tree: tree}), append(sources, r.Source)
	}
	return list, nil
}

// repeated adds to the snapshots what earlier recordings of the same source
// said of tests that ended otherwise there: these are flaky, not cleared.
func repeated(a *store.Analysis, latest []store.RunRef, list []triage.Snapshot, results map[int64][]read.Result) error {
	for _, r := range latest {
		earlier, err := a.Repeats(r)
		if err != nil {
			return err
		}
		for _, e := range earlier {
			old, err := a.Results([]store.RunRef{e})
			if err != nil {
				return err
			}
			now := results[r.ID]
			flaky := compare.Flaky([][]symptom.Test{tests(old), tests(now)})
			for i := range old {
				old[i].Symptoms = ofTests(old[i].Symptoms, flaky)
				old[i].Unread, old[i].Stated = nil, nil
			}
			for i := range list {
				if len(flaky) > 0 && holds(list[i].Results, now) {
					list[i].Results = append(list[i].Results, old...)
					results[r.ID] = append(results[r.ID], old...)
				}
			}
		}
	}
	return nil
}

func tests(results []read.Result) []symptom.Test {
	var list []symptom.Test
	for _, r := range results {
		list = append(list, r.Tests...)
	}
	return list
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

// holds tells whether results are among those of a snapshot.
func holds(all, part []read.Result) bool {
	for _, r := range all {
		if len(part) > 0 && r.Name == part[0].Name {
			return true
		}
	}
	return false
}

func versionsOf(moves []api.Move) []triage.Move {
	list := make([]triage.Move, 0, len(moves))
	for _, m := range moves {
		list = append(list, triage.Move{Package: m.Package, From: m.From, To: m.To})
	}
	return list
}

// step is a run and what came of it.
func step(a *store.Analysis, report *triage.Report, run store.RunRef, latest []store.RunRef, results map[int64][]read.Result) track.Step {
	checks := map[string]string{} // input to check, of the runs since the bump
	reach, runs := map[string]compare.Reach{}, map[string]int{}
	for _, r := range latest {
		for _, result := range results[r.ID] {
			checks[result.Name] = r.Check
		}
		reach[r.Check], runs[r.Check] = a.Reach(r, results[r.ID]), r.Number
	}
	return track.Step{Run: run.Number, Check: run.Check, Report: report, Reach: reach, Runs: runs, CheckOf: func(input string) string { return checks[input] }}
}

// earlier adds to a step how far the runs before it got on other sources: the
// check's own last one, and the others since the bump.
func earlier(a *store.Analysis, run store.RunRef, baseline []store.RunRef, step *track.Step) error {
	runs, err := a.Since(run.Number)
	if err != nil {
		return err
	}
	for _, r := range runs { // the latest first
		switch {
		case r.Commit == run.Commit && r.Source == run.Source:
			step.Repeated = step.Repeated || r.Check == run.Check && (run.Commit != "" || run.Source != "")
		case r.Check != run.Check:
			if stuck := r.Reach.Get().Stuck(); stuck != "" && (step.Elsewhere == "" || stuck.Order() < step.Elsewhere.Order()) {
				step.Elsewhere = stuck
			}
		case step.Previous == nil:
			results, err := a.Results([]store.RunRef{r})
			if err != nil {
				return err
			}
			reach := a.Reach(r, results)
			step.Previous = &reach
			if step.Source, err = a.Tree(r.Source); err != nil {
				return err
			}
		}
	}
	if n := len(baseline); n > 0 {
		if step.Original, err = a.Tree(baseline[n-1].Source); err != nil {
			return err
		}
	}
	step.Tree, err = a.Tree(run.Source)
	return err
}

// report draws up the report of an upgrade as it stands, without saving.
func (w *worker) report(ctx context.Context, upgrade int64) (*triage.Report, error) {
	a, err := w.store.Inspect(ctx, upgrade)
	if err != nil {
		return nil, err
	}
	defer a.Cancel()
	baseline, err := a.Baseline()
	if err != nil {
		return nil, err
	}
	latest, err := a.Latest(1 << 30)
	if err != nil {
		return nil, err
	}
	state, err := a.State()
	if err != nil {
		return nil, err
	}
	report, _, err := draw(a, baseline, latest, state)
	return report, err
}
