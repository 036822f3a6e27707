package track

import (
	"fmt"
	"slices"

	"unicausa/internal/core/compare"
	"unicausa/internal/core/symptom"
)

// Delta is what a run changed against the run of its check before it, or the baseline: counts
// of symptoms, and names of causes. Lists of causes are never nil.
type Delta struct {
	CausesLeft int       `json:"causesLeft"`
	Cleared    []string  `json:"cleared"`
	Disproved  []string  `json:"disproved"`
	Gone       int       `json:"gone"`
	Introduced int       `json:"introduced"`
	New        int       `json:"new"`
	Opened     []string  `json:"opened"`
	Proved     []string  `json:"proved"`
	Redrawn    []Redrawn `json:"redrawn,omitempty"` // causes that turned out to be one with another, or a part of one
	Returned   int       `json:"returned"`
	Uncovered  int       `json:"uncovered"`
	Worse      bool      `json:"worse"` // the check does worse than in its baseline
}

// Redrawn is a cause and, in a sentence, what it turned out to be.
type Redrawn struct {
	Cause string `json:"cause"`
	Text  string `json:"text"`
}

// Standing is where symptoms and causes stood before a run.
type Standing struct{ symptoms, causes map[string]Status }

// Standing is where symptoms and causes stand now.
func (s *State) Standing() Standing {
	at := Standing{symptoms: map[string]Status{}, causes: map[string]Status{}}
	for id, t := range s.Symptoms {
		at.symptoms[id] = t.Status
	}
	for id, c := range s.Causes {
		at.causes[id] = c.Status
	}
	return at
}

// Since is what changed since symptoms and causes stood as they did.
func (s *State) Since(before Standing) *Delta {
	d := &Delta{Cleared: []string{}, Opened: []string{}, Proved: []string{}, Disproved: []string{}}
	for id, t := range s.Symptoms {
		if t.State != symptom.New {
			continue
		}
		switch was := before.symptoms[id]; {
		case t.Status == Shown && was != Shown && was != Hidden:
			d.New++
			switch t.Origin {
			case compare.Uncovered:
				d.Uncovered++
			case compare.Introduced:
				d.Introduced++
			case compare.Returned:
				d.Returned++
			}
		case t.Status == Cleared && was != Cleared && was != "":
			d.Gone++
		}
	}
	for _, identity := range s.Identities() {
		id, c := identity.ID, s.Causes[identity.ID]
		if c.Known {
			continue
		}
		if c.Status != Cleared {
			d.CausesLeft++
		}
		switch was := before.causes[id]; {
		case c.Into != "":
			if was != Cleared {
				d.Redrawn = append(d.Redrawn, Redrawn{Cause: id, Text: fmt.Sprintf("%s and %s turned out to be one, which goes on as %s", id, c.Into, c.Into)})
			}
		case c.Status == Cleared && was != Cleared && was != "":
			d.Cleared = append(d.Cleared, id)
		case c.Status == Shown && (was == "" || was == Cleared):
			d.Opened = append(d.Opened, id)
			if c.From != "" && was == "" {
				d.Redrawn = append(d.Redrawn, Redrawn{Cause: id, Text: fmt.Sprintf("%s turned out to be two: a part of it is %s now", c.From, id)})
			}
		}
	}
	return d
}

// DoesWorse reports whether a check does worse in a run than in its baseline: it shows something
// new, fails where it passed, or lacks a test that it had. A check without a baseline (nil)
// had nothing against it.
func (s *State) DoesWorse(run int, check string, exit int, baseline *Accepted) bool {
	if exit != 0 && (baseline == nil || baseline.Exit == 0) {
		return true
	}
	missing := map[string]bool{}
	for _, t := range s.Symptoms {
		switch {
		case t.State != symptom.New || t.Status != Shown || t.Last != run:
		case t.Kind == symptom.MissingTest: // every run lacks it; it is this check's if its baseline has it
			missing[symptom.Test{Suite: t.Unit, Name: t.Test}.Key()] = true
		case slices.Contains(t.Checks, check):
			return true
		}
	}
	if baseline == nil {
		return false
	}
	for _, t := range baseline.Tests {
		if missing[t.Key()] {
			return true
		}
	}
	return false
}

// Accepted is a check's accepted run: its exit status and the tests that it names.
type Accepted struct {
	Exit  int
	Tests []symptom.Test
}
