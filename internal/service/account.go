package service

import (
	"slices"

	"unicausa/internal/core/compare"
	"unicausa/internal/core/read"
	"unicausa/internal/core/source"
	"unicausa/internal/core/symptom"
	"unicausa/internal/core/track"
	"unicausa/internal/store"
)

// account stores how tests ended in runs that do not name them: in this run,
// those that other runs of its check name, and in those runs the ones that this
// run is the first to name.
func account(a *store.Analysis, run store.RunRef, results []read.Result, reach compare.Reach) error {
	others, err := a.OthersOf(run)
	if err != nil {
		return err
	}
	others = slices.DeleteFunc(others, func(o store.RunRef) bool { return !untold(o.Reach.Get()) })
	if len(others) == 0 && !untold(reach) {
		return nil // every test is named everywhere
	}
	sites := sited{a: a, by: map[string]*source.TestSites{}}
	named := tests(results)
	known, err := a.NamedTests(run)
	if err != nil || len(known)+len(named) == 0 {
		return err
	}
	old := map[string]bool{}
	for _, k := range known {
		old[k.Key()] = true
	}
	baseline, err := baselineOf(a, run, &sites)
	if err != nil {
		return err
	}
	if untold(reach) {
		list, err := sites.unnamed(known, compare.Recording{Tests: named, Reach: reach}, run, baseline)
		if err != nil {
			return err
		}
		if err := a.AddTests(run, list); err != nil {
			return err
		}
	}
	var fresh []store.NamedTest
	for _, t := range named {
		if !old[t.Key()] {
			fresh = append(fresh, store.NamedTest{Test: t, Source: run.Source})
		}
	}
	for _, other := range others {
		if len(fresh) == 0 {
			break
		}
		there, err := a.Results([]store.RunRef{other})
		if err != nil {
			return err
		}
		recording := compare.Recording{Tests: tests(there), Reach: a.Reach(other, there), Before: true}
		against := baseline
		if other.Baseline {
			against = nil
		}
		list, err := sites.unnamed(fresh, recording, other, against)
		if err != nil {
			return err
		}
		if err := a.AddTests(other, list); err != nil {
			return err
		}
	}
	return nil
}

// untold tells of a run that leaves tests unnamed and says something of them.
func untold(r compare.Reach) bool {
	return r.Count.Telling == compare.Counted || r.Count.Telling == compare.Silent && (len(r.Done) > 0 || r.Frontier == compare.Complete)
}

// sited are the trees at hand, searched for tests.
type sited struct {
	a  *store.Analysis
	by map[string]*source.TestSites
}

func (s *sited) of(digest string) (*source.TestSites, error) {
	if sites, ok := s.by[digest]; ok {
		return sites, nil
	}
	tree, err := s.a.Tree(digest)
	if err != nil {
		return nil, err
	}
	s.by[digest] = tree.TestSites()
	return s.by[digest], nil
}

// unnamed is compare.Unnamed with the trees that it needs.
func (s *sited) unnamed(tests []store.NamedTest, recording compare.Recording, run store.RunRef, baseline *compare.Recording) ([]symptom.Test, error) {
	var err error
	if recording.Sites, err = s.of(run.Source); err != nil {
		return nil, err
	}
	known := make([]compare.Known, len(tests))
	for i, t := range tests {
		known[i].Test = t.Test
		if known[i].Sites, err = s.of(t.Source); err != nil {
			return nil, err
		}
	}
	return compare.Unnamed(known, recording, baseline), nil
}

// baselineOf is the baseline of a run's check, nil where there is none.
func baselineOf(a *store.Analysis, run store.RunRef, sites *sited) (*compare.Recording, error) {
	list, err := a.Baseline()
	if err != nil {
		return nil, err
	}
	for _, b := range list {
		if b.Check != run.Check || b.ID == run.ID {
			continue
		}
		results, err := a.Results([]store.RunRef{b})
		if err != nil {
			return nil, err
		}
		at, err := sites.of(b.Source)
		return &compare.Recording{Tests: tests(results), Reach: a.Reach(b, results), Sites: at}, err
	}
	return nil, nil
}

// unsteady gives a step what is put off, and the records of tests.
func unsteady(a *store.Analysis, step *track.Step) error {
	var err error
	step.PutOff, err = a.PutOff()
	step.Record = func(t *track.Symptom) []symptom.Outcome {
		list, failed := a.Record(t.Checks, t.Unit, t.Test)
		if failed != nil {
			return nil
		}
		return list
	}
	return err
}
