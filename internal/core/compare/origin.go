package compare

import "unicausa/internal/core/symptom"

// Origin says how a symptom came to be seen in a run.
type Origin string

// The origins of a symptom that the baseline does not have.
const (
	Bump       Origin = "bump"       // the first run of the check after the bump shows it
	Uncovered  Origin = "uncovered"  // the run before never got as far as it
	Introduced Origin = "introduced" // the run before could have shown it and did not
	Returned   Origin = "returned"   // an earlier run had it, a later one did not
)

// OriginOf tells how a symptom came to be seen. Previous is the reach of the
// check's run before this one, nil for the first after the bump; seen tells
// whether any earlier run after the bump had the symptom; edited tells whether
// its source line is not in the source of the run before.
func OriginOf(s *symptom.Symptom, previous *Reach, seen, edited bool) Origin {
	switch {
	case previous == nil:
		return Bump
	case seen:
		return Returned
	case !previous.CouldShow(s):
		return Uncovered
	case s.Phase == symptom.PhaseCompile && has(previous.Lost, s.File) && !edited:
		return Uncovered // what is made of a lost name was not judged
	}
	return Introduced
}
