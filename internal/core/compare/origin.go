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
	Settled   bool          // what it is about was cleared since the bump, and is back
	Touched   bool          // an edit since the bump made the line that it stands on
	Near      bool          // or a line of its stack
	Reached   bool          // an edit took away or changed a name of the project's own that it is about
	Orphan    bool          // it asks for a key that edits since the baseline took away
	Repeated  bool          // an earlier run of the check on the same source did not show it
}

// OriginOf tells how a symptom came to be seen. An edit has introduced only
// what stands on a line that it made, what it can be shown to reach, or what a
// run before it, that had nothing against the program, would have shown.
func OriginOf(s *symptom.Symptom, before Before) Origin {
	r := before.Run
	edited := before.Touched || before.Reached || before.Orphan
	missed := r != nil && (r.passed(s) || r.Frontier == Complete && r.CouldShow(s))
	switch {
	case before.Settled && (edited || before.Near || missed || r == nil):
		return Returned
	case before.Repeated:
		return Uncovered // no edit can have brought it
	case r == nil && before.Elsewhere != "" && s.Phase.Order() > before.Elsewhere.Order():
		return Uncovered // the check was not worth running
	case r == nil:
		return Bump
	case edited, missed:
		return Introduced
	}
	return Uncovered
}

// passed reports whether the run had the symptom's test pass.
func (r *Reach) passed(s *symptom.Symptom) bool {
	return s.Test != "" && r.Tests[symptom.Test{Suite: s.Unit, Name: s.Test}.Key()] == symptom.Passed
}
