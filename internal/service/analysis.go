package service

import (
	"context"
	"slices"

	"unicausa/internal/core/analysis"
	"unicausa/internal/core/debt"
	"unicausa/internal/core/source"
	"unicausa/internal/core/triage"
	"unicausa/internal/store"
)

// advance takes a leg one run further: reads the run, draws up the report over
// the baseline and the latest run of every check, and saves what it means. With
// no run the report is drawn up anew over what is there. Before a baseline is
// accepted, runs are only read.
func advance(a *store.Analysis, run *analysis.Run) error {
	if run != nil {
		if err := readRun(a, *run); err != nil {
			return err
		}
		newest, err := a.Newest(*run)
		switch {
		case err != nil:
			return err
		case run.Interrupted: // it is to be looked at, and says nothing of what it did not get to
			return nil
		case !newest: // it was tried again, and others came meanwhile
			run = nil
		}
	}
	report, err := draw(a, run)
	if err != nil {
		return err
	}
	return expose(a, report)
}

// readRun reads a run's outputs and stores what they say, of the tests of its check too.
func readRun(a *store.Analysis, run analysis.Run) error {
	tree, err := a.Tree(run.Source)
	if err != nil {
		return err
	}
	ids, outputs, err := a.Outputs(run.ID)
	if err != nil {
		return err
	}
	moves, err := a.Moves()
	if err != nil {
		return err
	}
	reading, err := analysis.Read(run, tree, outputs, moves)
	if err != nil {
		return err
	}
	if reading.Listing != nil {
		if err := a.SaveListing(run.Number, *reading.Listing); err != nil {
			return err
		}
	}
	if err := a.SaveReading(run, ids, reading); err != nil || run.Interrupted {
		return err
	}
	run.Reach = reading.Reach
	return nameTests(a, analysis.Recorded{Run: run, Results: reading.Results, Tree: tree})
}

// nameTests stores how tests ended in runs that do not name them: in this run,
// those that other runs of its check name, and in those runs the ones that this
// run is the first to name.
func nameTests(a *store.Analysis, run analysis.Recorded) error {
	others, err := a.OthersOf(run.Run)
	if err != nil {
		return err
	}
	others = slices.DeleteFunc(others, func(o analysis.Run) bool { return !analysis.Untold(o.Reach) })
	if len(others) == 0 && !analysis.Untold(run.Reach) {
		return nil // every test is named everywhere
	}
	known, err := a.NamedTests(run.Run)
	if err != nil || len(known)+len(run.Tests()) == 0 {
		return err
	}
	sites := sites{a: a, by: map[string]*source.TestSites{}}
	naming := analysis.Naming{Run: run, Known: known, Sites: sites.of}
	baseline, err := a.Baseline()
	if err != nil {
		return err
	}
	for _, b := range baseline {
		if b.Check == run.Check && b.ID != run.ID {
			own, err := a.Recorded(b)
			if err != nil {
				return err
			}
			naming.Baseline = &own[0]
		}
	}
	if err := a.AddTests(run.Run, naming.Own()); err != nil {
		return err
	}
	if fresh := naming.Fresh(); len(fresh) > 0 {
		for _, other := range others {
			earlier, err := a.Recorded(other)
			if err != nil {
				return err
			}
			if err := a.AddTests(other, naming.In(earlier[0], fresh)); err != nil {
				return err
			}
		}
	}
	return sites.err
}

// sites are the tests of the trees at hand. The first error in reading one is kept.
type sites struct {
	a   *store.Analysis
	by  map[string]*source.TestSites
	err error
}

func (s *sites) of(tree string) *source.TestSites {
	if found, ok := s.by[tree]; ok {
		return found
	}
	t, err := s.a.Tree(tree)
	if err != nil && s.err == nil {
		s.err = err
	}
	s.by[tree] = t.TestSites()
	return s.by[tree]
}

// draw draws up and saves the report; it is nil before there is a baseline and a run since.
func draw(a *store.Analysis, run *analysis.Run) (*triage.Report, error) {
	upTo := store.AnyRun
	if run != nil {
		upTo = run.Number
	}
	leg, err := a.Load(upTo)
	if err != nil || len(leg.Baseline) == 0 || len(leg.Latest) == 0 {
		return nil, err
	}
	newest := leg.Latest[len(leg.Latest)-1].Run
	var by *analysis.Newest
	if run != nil {
		if err := a.SaveNotices(newest, leg.Notices()); err != nil {
			return nil, err
		}
		if newest.ID == run.ID {
			if by, err = a.Before(newest); err != nil {
				return nil, err
			}
		}
	}
	progress := leg.Advance(a.Context(), by)
	return progress.Report, a.Save(progress)
}

// expose stores where the changes touch the tree of the latest run, and what the tree puts
// off.
func expose(a *store.Analysis, report *triage.Report) error {
	baseline, tree, err := a.Trees()
	if err != nil {
		return err
	}
	if err := a.SaveFound(debt.Added(baseline, tree)); err != nil {
		return err
	}
	changes, err := a.Changes()
	if err != nil {
		return err
	}
	return a.SaveExposure(analysis.Exposure(a.Context(), report, tree, changes))
}

// report draws up the report of an upgrade as it stands, without saving.
func (w *worker) report(ctx context.Context, upgrade int64) (*triage.Report, error) {
	a, err := w.store.Inspect(ctx, upgrade)
	if err != nil {
		return nil, err
	}
	defer a.Cancel()
	leg, err := a.Load(store.AnyRun)
	if err != nil {
		return nil, err
	}
	return leg.Report(ctx), nil
}
