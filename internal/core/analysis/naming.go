package analysis

import (
	"unicausa/internal/core/compare"
	"unicausa/internal/core/source"
	"unicausa/internal/core/symptom"
)

// Named is a test that a run names, and the source that the latest such run was made on.
type Named struct {
	symptom.Test
	Source string
}

// Naming tells how tests ended in the runs of a check that do not name them.
type Naming struct {
	Run      Recorded
	Known    []Named                             // tests that other runs of the check name
	Baseline *Recorded                           // of the check, nil where there is none
	Sites    func(tree string) *source.TestSites // the tests of a source tree
}

// Untold reports whether a run leaves tests unnamed and says something of them.
func Untold(r compare.Reach) bool {
	return r.Count.Telling == compare.Counted || r.Count.Telling == compare.Silent && (len(r.Done) > 0 || r.Frontier == compare.Complete)
}

// Own is how the known tests ended in the run itself, as far as it does not name them.
func (n *Naming) Own() []symptom.Test {
	if !Untold(n.Run.Reach) {
		return nil
	}
	return n.unnamed(n.Known, compare.Recording{Tests: n.Run.Tests(), Reach: n.Run.Reach}, n.Run.Run)
}

// Fresh are the tests that the run is the first to name.
func (n *Naming) Fresh() []Named {
	old := map[string]bool{}
	for _, k := range n.Known {
		old[k.Key()] = true
	}
	var fresh []Named
	for _, t := range n.Run.Tests() {
		if !old[t.Key()] {
			fresh = append(fresh, Named{Test: t, Source: n.Run.Source})
		}
	}
	return fresh
}

// In is how fresh tests ended in an earlier run.
func (n *Naming) In(earlier Recorded, fresh []Named) []symptom.Test {
	return n.unnamed(fresh, compare.Recording{Tests: earlier.Tests(), Reach: earlier.Reached(), Before: true}, earlier.Run)
}

// unnamed is compare.Unnamed with the trees that it needs.
func (n *Naming) unnamed(tests []Named, recording compare.Recording, run Run) []symptom.Test {
	recording.Sites = n.Sites(run.Source)
	known := make([]compare.Known, len(tests))
	for i, t := range tests {
		known[i] = compare.Known{Test: t.Test, Sites: n.Sites(t.Source)}
	}
	var baseline *compare.Recording
	if b := n.Baseline; b != nil && b.ID != run.ID {
		baseline = &compare.Recording{Tests: b.Tests(), Reach: b.Reached(), Sites: n.Sites(b.Source)}
	}
	return compare.Unnamed(known, recording, baseline)
}
