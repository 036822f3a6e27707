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

// Before is what was known when a symptom was first seen.
type Before struct {
	Run       *Reach        // of the check's last run on another source; nil at its first since the bump
	Elsewhere symptom.Phase // where other checks were stopped on an earlier source, the earliest phase; "" for nowhere
	Seen      bool          // an earlier run after the bump had it, a later one did not
	Edited    bool          // its source line is not in the source of the check's run before
	Own       bool          // its source line is not in the baseline's source
	Orphan    bool          // it asks for a key that edits since the baseline took away
	Repeated  bool          // an earlier run of the check on the same source did not show it
}

// OriginOf tells how a symptom came to be seen.
func OriginOf(s *symptom.Symptom, before Before) Origin {
	r := before.Run
	switch {
	case before.Seen:
		return Returned
	case before.Repeated:
		return Uncovered // no edit can have brought it
	case r == nil && before.Elsewhere != "" && s.Phase.Order() > before.Elsewhere.Order():
		return Uncovered // the check was not worth running
	case r == nil:
		return Bump
	case before.Orphan:
		return Introduced // half a fix, wherever the run before had got to
	case !r.CouldShow(s):
		return Uncovered
	case s.Phase == symptom.PhaseCompile && has(r.Lost, s.File) && !before.Edited:
		return Uncovered // what is made of a lost name was not judged
	case r.Stopped != "" && s.Phase.Order() >= r.Stopped.Order() && !before.Own:
		return Uncovered
	}
	return Introduced
}
