// Package track follows symptoms and causes over the runs of a leg: what a run
// shows, what it proves cleared, and what it only could not show.
package track

import (
	"fmt"
	"sort"
	"strings"

	"unicausa/internal/core/cluster"
	"unicausa/internal/core/compare"
	"unicausa/internal/core/source"
	"unicausa/internal/core/symptom"
	"unicausa/internal/core/triage"
)

// Status says where a symptom or a cause stands after a run.
type Status string

// The statuses. Hidden is not cleared: no run that could have shown it has
// come without it.
const (
	Shown   Status = "shown"
	Hidden  Status = "hidden"
	Cleared Status = "cleared"
)

// Symptom is a symptom over the runs. First and Last are the numbers of the
// first run that showed it and of the last; Checks have shown it at some time.
type Symptom struct {
	symptom.Symptom
	Status Status
	Origin compare.Origin // empty for what was there before the bump
	First  int
	Last   int
	Checks []string
	Cause  string

	// Follower tells that it only follows from others: it does not decide what
	// its cause is.
	Follower bool

	// Still says of an unsteady test that is put off how often it has passed
	// since, and how often it has to.
	Still string

	// Silenced tells of a hidden symptom that its test was skipped or is gone,
	// in a run that came as far as it.
	Silenced bool
}

// Cause is a cause over the runs. Since is the run from which its status holds.
type Cause struct {
	ID        string
	Signature string
	Known     bool
	Status    Status
	First     int
	Since     int
	Shown     int // symptoms shown now
	Hidden    int // symptoms that no run could show since they were last seen

	Into string // the cause that it turned out to be one with
	From string // the cause that it was a part of until it began
}

// State is what is known of a leg.
type State struct {
	Symptoms map[string]*Symptom
	Causes   map[string]*Cause
}

// Identities lists the causes with all the symptoms they ever had, as
// cluster.Number takes them, in the order of their numbers.
func (s *State) Identities() []cluster.Identity {
	members := map[string][]string{}
	for id, t := range s.Symptoms {
		if !t.Follower {
			members[t.Cause] = append(members[t.Cause], id)
		}
	}
	list := make([]cluster.Identity, 0, len(s.Causes))
	for id, c := range s.Causes {
		sort.Strings(members[id])
		identity := cluster.Identity{ID: id, Signature: c.Signature}
		for _, m := range members[id] {
			identity.Add(&s.Symptoms[m].Symptom)
		}
		list = append(list, identity)
	}
	sort.Slice(list, func(i, j int) bool {
		a, b := list[i].ID, list[j].ID
		return len(a) < len(b) || len(a) == len(b) && a < b
	})
	return list
}

// Step is one run and what came of it.
type Step struct {
	Run      int
	Check    string
	Report   *triage.Report            // over the latest run of every check, this one included
	Reach    map[string]compare.Reach  // of the latest run of every check
	Runs     map[string]int            // the number of the latest run of every check
	Previous *compare.Reach            // of this check's run on the source before, nil at its first after the bump
	Source   *source.Tree              // of that run, nil where it is not known
	Original *source.Tree              // of the baseline, nil where it is not known
	Tree     *source.Tree              // of this run, nil where it is not known
	CheckOf  func(input string) string // the check whose run an input of the report belongs to

	Repeated bool // the check was run on the same source before

	// PutOff are the causes that are deferred or waited for; Record lists how a
	// test ended in the recordings of its checks, the oldest first.
	PutOff map[string]bool
	Record func(t *Symptom) []symptom.Outcome

	follower map[string]bool  // the symptoms that only follow from others
	before   map[string]stand // how causes and names stood
	lines    map[lineSet]map[string]bool
	homes    map[string]bool // folders with a manifest
	modules  map[string]bool // whether they were edited
	sites    map[*source.Tree]*source.TestSites

	// Elsewhere is the earliest phase at which a run of another check on an
	// earlier source was stopped, "" where none was.
	Elsewhere symptom.Phase
}

// Advance takes the state one run further. Symptoms and causes are added and
// changed in place; none is removed.
func (s *State) Advance(step Step) {
	step.follower, step.before = map[string]bool{}, s.stands()
	owners := s.owners()
	for _, c := range step.Report.Causes {
		for _, id := range c.Followers {
			step.follower[id] = true
		}
	}
	present := map[string]bool{}
	for i := range step.Report.Symptoms {
		r := &step.Report.Symptoms[i]
		if r.State == symptom.Absent || s.superseded(r, step) {
			continue
		}
		present[r.ID] = true
		s.show(r, &step)
	}
	s.follow(step.Run)
	for id, t := range s.Symptoms {
		if !present[id] && t.Status != Cleared {
			t.Status = Hidden
			if clearedBy(t, step.Reach) && !step.red(t) && !step.behind(t) {
				t.Status = Cleared
				if t.Still = step.unsteady(t); t.Still != "" {
					t.Status = Shown // it stands, though it passed
				}
			}
			t.Silenced = t.Status == Hidden && silencedBy(t, step.Reach)
		}
	}
	s.causes(step)
	s.redrawn(owners, step.Run)
}

// owners are the causes of the symptoms that stand and are new.
func (s *State) owners() map[string]string {
	owner := map[string]string{}
	for id, t := range s.Symptoms {
		if t.Status != Cleared && t.State == symptom.New && !t.Follower {
			owner[id] = t.Cause
		}
	}
	return owner
}

// redrawn tells which causes turned out to be one with another, and which a part of
// one: where symptoms that stand are of another cause than before the run.
func (s *State) redrawn(owners map[string]string, run int) {
	left, went := map[string]bool{}, map[string]map[string]int{}
	for id, was := range owners {
		switch t := s.Symptoms[id]; {
		case t.Status == Cleared:
		case t.Cause == was:
			left[was] = true
		default:
			if went[was] == nil {
				went[was] = map[string]int{}
			}
			went[was][t.Cause]++
		}
	}
	for id, c := range s.Causes {
		if c.Shown+c.Hidden > 0 {
			c.Into = ""
		}
		to := went[id]
		if len(to) == 0 || c.Known {
			continue
		}
		best := ""
		for other, n := range to {
			if o := s.Causes[other]; o != nil && o.First == run && o.From == "" && left[id] {
				o.From = id
			}
			if best == "" || n > to[best] || n == to[best] && other < best {
				best = other
			}
		}
		if !left[id] && c.Shown+c.Hidden == 0 {
			c.Into = best
		}
	}
}

// follow gives what this run shows first, and what only follows from others, the
// origin of what it follows.
func (s *State) follow(run int) {
	roots := map[string]compare.Origin{} // of the causes: of what this run shows first the smallest, else what has returned
	for _, t := range s.Symptoms {
		switch o := roots[t.Cause]; {
		case t.Follower || t.Origin == "" || t.Status != Shown:
		case t.First == run && (o == "" || t.Origin < o):
			roots[t.Cause] = t.Origin
		case o == "" && t.Origin == compare.Returned:
			roots[t.Cause] = compare.Returned
		}
	}
	for _, t := range s.Symptoms {
		if o := roots[t.Cause]; t.Follower && t.First == run && t.Origin != "" && o != "" {
			t.Origin = o
		}
	}
}

// superseded reports whether only older runs still have a symptom, and a newer
// run of a check that had shown it too could have shown it and did not.
func (s *State) superseded(r *triage.Symptom, step Step) bool {
	t := s.Symptoms[r.ID]
	if t == nil {
		return false
	}
	newest := 0
	for _, at := range r.At {
		newest = max(newest, step.Runs[step.CheckOf(at.Input)])
	}
	for _, check := range t.Checks {
		if reach, ok := step.Reach[check]; ok && newest > 0 && step.Runs[check] > newest && reach.CouldShow(&t.Symptom) {
			return true
		}
	}
	return false
}

// show records a symptom that a latest run has.
func (s *State) show(r *triage.Symptom, step *Step) {
	t := s.Symptoms[r.ID]
	here := false
	checks := map[string]bool{}
	if t != nil {
		for _, c := range t.Checks {
			checks[c] = true
		}
	}
	for _, at := range r.At {
		if check := step.CheckOf(at.Input); check != "" {
			checks[check] = true
			here = here || check == step.Check
		}
	}
	if r.Kind == symptom.MissingTest {
		here = true
		checks[step.Check] = true
	}
	switch {
	case t == nil:
		t = &Symptom{First: step.Run}
		if r.State == symptom.New {
			t.Origin = compare.OriginOf(&r.Symptom, compare.Before{Run: step.Previous, Elsewhere: step.Elsewhere, Settled: s.settled(r, step), Touched: step.touched(r), Near: step.near(r), Reached: step.reached(r), Repeated: step.Repeated, Orphan: r.Orphan != nil})
		}
		s.Symptoms[r.ID] = t
	case t.Status == Cleared && r.State == symptom.New && !r.Flaky: // one pass of a flaky test is no end
		t.Origin = compare.Returned
	}
	t.Symptom, t.Status, t.Cause, t.Silenced, t.Still, t.Follower = r.Symptom, Shown, r.Cause, false, "", step.follower[r.ID]
	if here {
		t.Last = step.Run
	}
	t.Checks = t.Checks[:0]
	for c := range checks {
		t.Checks = append(t.Checks, c)
	}
	sort.Strings(t.Checks)
}

// stand is how what belongs together stood before a run.
type stand struct {
	cleared bool // some of it was cleared
	left    bool // some of it was not, and has not just returned
}

// stands sums up the symptoms before a run by what they belong to: their cause,
// and the names that they are about.
func (s *State) stands() map[string]stand {
	all := map[string]stand{}
	for _, t := range s.Symptoms {
		if t.State != symptom.New || t.Follower {
			continue
		}
		keys := []string{t.Cause}
		if about := t.About(); len(about) > 0 {
			keys = append(keys, aboutKey(about))
		}
		for _, key := range keys {
			st := all[key]
			st.cleared = st.cleared || t.Status == Cleared
			st.left = st.left || t.Status != Cleared && t.Origin != compare.Returned
			all[key] = st
		}
	}
	return all
}

// aboutKey is no cause's number.
func aboutKey(names []string) string { return "\x00" + strings.Join(names, "\x00") }

// settled reports whether what a symptom is about was cleared before this run,
// or was and has come back: what is found of it in new places has returned.
func (s *State) settled(r *triage.Symptom, step *Step) bool {
	if c := s.Causes[r.Cause]; c != nil && (c.Known || c.Status == Cleared) {
		return !c.Known
	}
	cause, about := step.before[r.Cause], stand{}
	if names := r.About(); len(names) > 0 {
		about = step.before[aboutKey(names)]
	}
	return (cause.cleared || about.cleared) && !cause.left && !about.left
}

// clearedBy reports whether a check that has shown the symptom could have shown
// it now.
func clearedBy(t *Symptom, reach map[string]compare.Reach) bool {
	for _, check := range t.Checks {
		if r, ok := reach[check]; ok && r.CouldShow(&t.Symptom) {
			return true
		}
	}
	return false
}

// unsteady says how often a flaky test that is put off has passed, and is "" for
// what is not or has passed often enough: one pass is no end of it.
func (step *Step) unsteady(t *Symptom) string {
	if !t.Flaky || !step.PutOff[t.Cause] || step.Record == nil {
		return ""
	}
	passed, wanted := compare.Passes(step.Record(t))
	if passed >= wanted {
		return ""
	}
	return fmt.Sprintf("passed %d in a row since it failed last; by its record it takes %d", passed, wanted)
}

// silencedBy reports whether a check that has shown the symptom now leaves its
// test out.
func silencedBy(t *Symptom, reach map[string]compare.Reach) bool {
	for _, check := range t.Checks {
		if r, ok := reach[check]; ok && r.Silenced(&t.Symptom) {
			return true
		}
	}
	return false
}

// causes brings the causes up to date with their symptoms.
func (s *State) causes(step Step) {
	for _, r := range step.Report.Causes {
		c := s.Causes[r.ID]
		if c == nil {
			c = &Cause{ID: r.ID, First: step.Run}
			s.Causes[r.ID] = c
		}
		c.Signature, c.Known = r.Signature, r.Known
	}
	shown, hidden := map[string]int{}, map[string]int{}
	for _, t := range s.Symptoms {
		switch t.Status {
		case Shown:
			shown[t.Cause]++
		case Hidden:
			hidden[t.Cause]++
		}
	}
	for id, c := range s.Causes {
		c.Shown, c.Hidden = shown[id], hidden[id]
		status := Cleared
		switch {
		case c.Shown > 0:
			status = Shown
		case c.Hidden > 0:
			status = Hidden
		}
		if status != c.Status {
			c.Status, c.Since = status, step.Run
		}
	}
}

// Outcome is what later runs say of a claimed fix.
type Outcome string

// The outcomes of a fix.
const (
	Claimed   Outcome = "claimed"
	Proved    Outcome = "proved"
	Disproved Outcome = "disproved"
	Back      Outcome = "returned" // it was proved, and a later run shows the cause again
)

// Judge says what runs up to this one prove of a fix that was claimed after
// run claimed: it is proved once every symptom of the cause is cleared, and
// disproved when a later run still shows one. One that was proved before has
// returned where a symptom is shown again.
func (s *State) Judge(cause string, claimed int, before Outcome) Outcome {
	c := s.Causes[cause]
	for n := 0; c != nil && c.Into != "" && n < len(s.Causes); n++ { // what it turned out to be one with
		cause = c.Into
		c = s.Causes[cause]
	}
	if c == nil || c.Status == Cleared {
		return Proved
	}
	for _, t := range s.Symptoms {
		if t.Cause != cause || t.Status != Shown || t.Last <= claimed {
			continue
		}
		if before == Proved || before == Back {
			return Back
		}
		return Disproved
	}
	return before
}
