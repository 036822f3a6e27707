package service

import (
	"context"

	"unicausa/internal/api"
	"unicausa/internal/core/compare"
	"unicausa/internal/core/read"
	"unicausa/internal/core/source"
	"unicausa/internal/core/symptom"
	"unicausa/internal/core/track"
	"unicausa/internal/core/triage"
	"unicausa/internal/store"
)

// advance takes a leg one run further: reads the run, draws up the report over
// the baseline and the latest run of every check, and saves what it means. With
// no run the report is drawn up anew over what is there. Before a baseline is
// accepted, runs are only read.
func advance(a *store.Analysis, run *store.RunRef) error {
	var tree *source.Tree
	var err error
	if run != nil {
		if tree, err = a.Tree(run.Source); err != nil {
			return err
		}
		if err := readRun(a, run, tree); err != nil {
			return err
		}
	}
	baseline, err := a.Baseline()
	if err != nil || len(baseline) == 0 {
		return err
	}
	number := 1 << 30
	if run != nil {
		number = run.Number
	}
	latest, err := a.Latest(number)
	if err != nil || len(latest) == 0 {
		return err
	}
	newest := latest[len(latest)-1]
	if run == nil {
		if tree, err = a.Tree(newest.Source); err != nil {
			return err
		}
	}
	state, err := a.State()
	if err != nil {
		return err
	}
	report, results, err := draw(a, baseline, latest, tree, state)
	if err != nil {
		return err
	}
	progress := store.Progress{Latest: newest.Number, Report: report, State: state}
	if run == nil || newest.ID != run.ID {
		advanceState(a, state, report, newest, latest, results, nil)
		return a.Save(progress)
	}
	previous, err := previousReach(a, newest)
	if err != nil {
		return err
	}
	before := counts(state)
	advanceState(a, state, report, newest, latest, results, previous)
	progress.Run, progress.Delta = &newest, delta(before, state)
	return a.Save(progress)
}

// readRun reads a run's inputs and stores what they say.
func readRun(a *store.Analysis, run *store.RunRef, tree *source.Tree) error {
	ids, names, err := a.Inputs(run.ID)
	if err != nil {
		return err
	}
	results := make([]read.Result, len(ids))
	for i, id := range ids {
		if results[i], err = read.All(names[i], a.Raw(id)); err != nil {
			return err
		}
	}
	return a.SaveReading(*run, ids, results, compare.ReachOf(results, run.Exit, tree))
}

// draw draws up the report of a leg, and gives the results by run.
func draw(a *store.Analysis, baseline, latest []store.RunRef, tree *source.Tree, state *track.State) (*triage.Report, map[int64][]read.Result, error) {
	c := triage.Case{Tree: tree, Prior: state.Identities()}
	var err error
	if c.Before, err = a.Results(baseline); err != nil {
		return nil, nil, err
	}
	results := map[int64][]read.Result{}
	for _, r := range latest {
		list, err := a.Results([]store.RunRef{r})
		if err != nil {
			return nil, nil, err
		}
		results[r.ID] = list
		c.After = append(c.After, list...)
	}
	if c.Changes, err = a.Changes(); err != nil {
		return nil, nil, err
	}
	if c.Judged, err = a.Judged(); err != nil {
		return nil, nil, err
	}
	moves, err := a.Moves()
	if err != nil {
		return nil, nil, err
	}
	c.Moves = versions(moves)
	report := triage.Run(c)
	return &report, results, nil
}

func versions(moves []api.Move) []triage.Move {
	list := make([]triage.Move, 0, len(moves))
	for _, m := range moves {
		list = append(list, triage.Move{Package: m.Package, From: m.From, To: m.To})
	}
	return list
}

func advanceState(a *store.Analysis, state *track.State, report *triage.Report, run store.RunRef, latest []store.RunRef, results map[int64][]read.Result, previous *compare.Reach) {
	checks := map[string]string{} // input to check, of the runs since the bump
	reach := map[string]compare.Reach{}
	for _, r := range latest {
		for _, result := range results[r.ID] {
			checks[result.Name] = r.Check
		}
		reach[r.Check] = a.Reach(r, results[r.ID])
	}
	state.Advance(track.Step{Run: run.Number, Check: run.Check, Report: report, Reach: reach, Previous: previous,
		CheckOf: func(input string) string { return checks[input] }})
}

// previousReach is how far the check's run before this one got, nil when this
// is its first since the bump.
func previousReach(a *store.Analysis, run store.RunRef) (*compare.Reach, error) {
	earlier, err := a.Latest(run.Number - 1)
	if err != nil {
		return nil, err
	}
	for _, r := range earlier {
		if r.Check == run.Check {
			results, err := a.Results([]store.RunRef{r})
			if err != nil {
				return nil, err
			}
			reach := a.Reach(r, results)
			return &reach, nil
		}
	}
	return nil, nil
}

// standing is where symptoms and causes stood before a run.
type standing struct {
	symptoms map[string]track.Status
	causes   map[string]track.Status
}

func counts(state *track.State) standing {
	s := standing{symptoms: map[string]track.Status{}, causes: map[string]track.Status{}}
	for id, t := range state.Symptoms {
		s.symptoms[id] = t.Status
	}
	for id, c := range state.Causes {
		s.causes[id] = c.Status
	}
	return s
}

// delta says what a run changed.
func delta(before standing, state *track.State) *api.Delta {
	d := &api.Delta{Cleared: []string{}, Opened: []string{}, Proved: []string{}, Disproved: []string{}}
	for id, t := range state.Symptoms {
		if t.State != symptom.New {
			continue
		}
		switch was := before.symptoms[id]; {
		case t.Status == track.Shown && was != track.Shown && was != track.Hidden:
			d.New++
			switch t.Origin {
			case compare.Uncovered:
				d.Uncovered++
			case compare.Introduced:
				d.Introduced++
			case compare.Returned:
				d.Returned++
			}
		case t.Status == track.Cleared && was != track.Cleared && was != "":
			d.Gone++
		}
	}
	for _, identity := range state.Identities() {
		id, c := identity.ID, state.Causes[identity.ID]
		if c.Known {
			continue
		}
		if c.Status != track.Cleared {
			d.CausesLeft++
		}
		switch was := before.causes[id]; {
		case c.Status == track.Cleared && was != track.Cleared && was != "":
			d.Cleared = append(d.Cleared, id)
		case c.Status == track.Shown && (was == "" || was == track.Cleared):
			d.Opened = append(d.Opened, id)
		}
	}
	return d
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
	var tree *source.Tree
	if len(latest) > 0 {
		if tree, err = a.Tree(latest[len(latest)-1].Source); err != nil {
			return nil, err
		}
	}
	state, err := a.State()
	if err != nil {
		return nil, err
	}
	report, _, err := draw(a, baseline, latest, tree, state)
	return report, err
}
