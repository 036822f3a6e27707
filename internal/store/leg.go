package store

import (
	"unicausa/internal/core/analysis"
	"unicausa/internal/core/symptom"
	"unicausa/internal/core/track"
)

// AnyRun is a number above that of every run.
const AnyRun = 1 << 30

// Load reads what is recorded of the leg, with the latest runs up to a number.
func (a *Analysis) Load(upTo int) (leg analysis.Leg, err error) {
	baseline, err := a.Baseline()
	if err != nil {
		return leg, err
	}
	latest, err := a.Latest(upTo)
	if err != nil {
		return leg, err
	}
	if leg.Baseline, err = a.Recorded(baseline...); err != nil {
		return leg, err
	}
	if leg.Latest, err = a.Recorded(latest...); err != nil {
		return leg, err
	}
	for _, r := range latest {
		earlier, err := a.Repeats(r)
		if err != nil {
			return leg, err
		}
		recorded, err := a.Recorded(earlier...)
		if err != nil {
			return leg, err
		}
		leg.Repeats = append(leg.Repeats, recorded)
	}
	for _, read := range []func() error{
		func() (err error) { leg.State, err = a.State(); return },
		func() (err error) { leg.Earlier, err = a.Earlier(); return },
		func() (err error) { leg.UnseenSince, leg.Unseen, err = a.OutOfSight(); return },
		func() (err error) { leg.Changes, err = a.Changes(); return },
		func() (err error) { leg.Judged, err = a.Judged(); return },
		func() (err error) { leg.Settled, err = a.Settled(); return },
		func() (err error) { leg.Corrections, err = a.Corrections(); return },
		func() (err error) { leg.Moves, err = a.Moves(); return },
		func() (err error) { leg.PutOff, err = a.PutOff(); return },
	} {
		if err := read(); err != nil {
			return leg, err
		}
	}
	leg.Record = func(t *track.Symptom) []symptom.Outcome {
		list, failed := a.Record(t.Checks, t.Unit, t.Test)
		if failed != nil {
			return nil
		}
		return list
	}
	return leg, nil
}

// Before reads what came before the newest run.
func (a *Analysis) Before(run analysis.Run) (*analysis.Newest, error) {
	since, err := a.Since(run.Number)
	if err != nil {
		return nil, err
	}
	by := &analysis.Newest{Since: since}
	if p := analysis.PreviousOf(run, since); p != nil {
		recorded, err := a.Recorded(*p)
		if err != nil {
			return nil, err
		}
		by.Previous = &recorded[0]
	}
	return by, nil
}
