package service

import (
	"fmt"
	"slices"

	"unicausa/internal/api"
	"unicausa/internal/core/compare"
	"unicausa/internal/core/symptom"
	"unicausa/internal/core/track"
	"unicausa/internal/store"
)

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

// worse tells whether a check does worse in a run than in its baseline: it
// shows something new, fails where it passed, or lacks a test that it had. A
// check without a baseline had nothing against it.
func worse(a *store.Analysis, run store.RunRef, baseline []store.RunRef, state *track.State) (bool, error) {
	var own []store.RunRef
	for _, b := range baseline {
		if b.Check == run.Check {
			own = append(own, b)
		}
	}
	if run.Exit != 0 && (len(own) == 0 || own[len(own)-1].Exit == 0) {
		return true, nil
	}
	missing := map[string]bool{}
	for _, t := range state.Symptoms {
		switch {
		case t.State != symptom.New || t.Status != track.Shown || t.Last != run.Number:
		case t.Kind == symptom.MissingTest: // every run lacks it; it is this check's if its baseline has it
			missing[t.Unit+"\x00"+t.Test] = true
		case slices.Contains(t.Checks, run.Check):
			return true, nil
		}
	}
	if len(missing) == 0 {
		return false, nil
	}
	results, err := a.Results(own)
	if err != nil {
		return false, err
	}
	for _, r := range results {
		for _, t := range r.Tests {
			if missing[t.Suite+"\x00"+t.Name] {
				return true, nil
			}
		}
	}
	return false, nil
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
		case c.Into != "":
			if was != track.Cleared {
				d.Redrawn = append(d.Redrawn, api.Redrawn{Cause: id, Text: fmt.Sprintf("%s and %s turned out to be one, which goes on as %s", id, c.Into, c.Into)})
			}
		case c.Status == track.Cleared && was != track.Cleared && was != "":
			d.Cleared = append(d.Cleared, id)
		case c.Status == track.Shown && (was == "" || was == track.Cleared):
			d.Opened = append(d.Opened, id)
			if c.From != "" && was == "" {
				d.Redrawn = append(d.Redrawn, api.Redrawn{Cause: id, Text: fmt.Sprintf("%s turned out to be two: a part of it is %s now", c.From, id)})
			}
		}
	}
	return d
}
