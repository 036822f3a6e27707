package compare

import (
	"path"
	"regexp"
	"sort"
	"strings"

	"unicausa/internal/core/read"
	"unicausa/internal/core/source"
	"unicausa/internal/core/symptom"
)

// Complete is the frontier of a run that came to its end with status 0.
const Complete symptom.Phase = "complete"

// Reach says how far one run of a check got, and what it could not show.
type Reach struct {
	Frontier symptom.Phase
	Stopped  symptom.Phase // where one failure ended it, whatever else there may be; "" where none did
	Blocked  []string      // units that could not be built, loaded or started
	Cut      []string      // units whose diagnostics the tool stopped listing
	Behind   []string      // units never tried, because one they need is blocked
	Done     []string      // units that ran to their end
	Count    TestCount     // of the tests that it ran
	Broken   []string      // tools that had errors in the program: they may not have come to warn
	Folders  []string      // of the files that it says something of
	Lenient  bool          `json:",omitempty"` // the project tells its package manager to install what does not fit

	Tests map[string]symptom.Outcome `json:"-"` // by symptom.Test.Key
	spelt map[string][]string        // their keys by the last part of the name
}

// ReachOf is how far a run got, from what was read of its inputs and its exit
// status. Behind is filled from the source tree's imports where there is one.
func ReachOf(results []read.Result, exit int, tree *source.Tree) Reach {
	r := Reach{}
	var tests []symptom.Test
	blocked, cut, done, broken, folders := map[string]bool{}, map[string]bool{}, map[string]bool{}, map[string]bool{}, map[string]bool{}
	for _, result := range results {
		for _, unit := range result.Reach.Blocked {
			blocked[unit] = true
		}
		for _, unit := range result.Reach.Cut {
			cut[unit] = true
		}
		for _, unit := range result.Reach.Done {
			done[unit] = true
		}
		tests = append(tests, result.Tests...)
		for _, s := range result.Symptoms {
			r.further(reached(&s))
			if s.File != "" {
				folders[path.Dir(s.File)] = true
			}
			if s.Kind == symptom.Error && s.Phase.Order() <= symptom.PhaseLink.Order() {
				broken[s.Tool] = true
			}
		}
		if len(result.Tests) > 0 {
			r.further(symptom.PhaseTest)
		}
	}
	r = r.OfTests(tests)
	if exit == 0 {
		r.Frontier = Complete
		clear(broken)
	} else if len(r.Tests) == 0 {
		r.Stopped = stopped(results)
	}
	r.Count = CountOf(results)
	r.Blocked, r.Cut, r.Done, r.Broken, r.Folders = list(blocked), list(cut), list(done), list(broken), list(folders)
	r.Behind = behind(tree, r.Blocked)
	r.Lenient = lenient(tree)
	return r
}

// leniency are the settings of npm by which it does not speak of peers that do not fit
// (npm help config: legacy-peer-deps, force).
var leniency = regexp.MustCompile(`(?m)^\s*(legacy-peer-deps|force)\s*=\s*true\s*$`)

func lenient(tree *source.Tree) bool { return leniency.Match(tree.Read(".npmrc")) }

// stopped is the phase of the failure that ended a run: a resolver gives up
// over the first conflict, and a crash or a refused start-up is the last that
// a program says.
func stopped(results []read.Result) symptom.Phase {
	last := symptom.Phase("")
	for _, result := range results {
		for _, s := range result.Symptoms {
			ends := s.Kind == symptom.Crash || s.Level == "error" && (s.Phase == symptom.PhaseResolve || s.Phase == symptom.PhaseConfigure || s.Phase == symptom.PhaseStart)
			if ends && s.Phase.Order() > last.Order() {
				last = s.Phase
			}
		}
	}
	return last
}

// Stuck is the phase before which nothing of a later phase is worth running: a
// failure ended the run there, or it did not get behind linking. It is "" for a
// run that came to its end or got as far as running something.
func (r Reach) Stuck() symptom.Phase {
	switch {
	case r.Stopped != "":
		return r.Stopped
	case r.Frontier != "" && r.Frontier != Complete && r.Frontier.Order() <= symptom.PhaseLink.Order():
		return r.Frontier
	}
	return ""
}

// reached is how far a run got that shows a symptom: a suite that does not load
// has run no test.
func reached(s *symptom.Symptom) symptom.Phase {
	if s.Kind == symptom.TestFailure && s.Test == "" && s.Phase == symptom.PhaseTest {
		return symptom.PhaseStart
	}
	return s.Phase
}

func (r *Reach) further(p symptom.Phase) {
	if p.Order() > r.Frontier.Order() {
		r.Frontier = p
	}
}

// CouldShow reports whether the run that got this far could have shown the
// symptom: it reached the phase, the unit was not hidden by a failure before
// it, the list was not broken off, and a test was there and ran.
func (r Reach) CouldShow(s *symptom.Symptom) bool {
	if r.Frontier != Complete && r.Frontier.Order() < reached(s).Order() {
		return false
	}
	if r.Lenient && s.Kind == symptom.Resolve && s.Code == "ERESOLVE" {
		return false
	}
	if r.Stopped != "" && warns(s) && s.Phase.Order() >= r.Stopped.Order() {
		return false // it would have been said later
	}
	if s.Unit != "" && (has(r.Behind, s.Unit) || has(r.Cut, s.Unit) || warns(s) && has(r.Blocked, s.Unit)) {
		return false // a compiler warns of what it could make something of
	}
	if s.Test != "" {
		return r.ran(symptom.Test{Suite: s.Unit, Name: s.Test})
	}
	return true
}

// warns reports whether a symptom stops nothing.
func warns(s *symptom.Symptom) bool {
	return s.Kind == symptom.Warning || s.Kind == symptom.Deprecation || s.Kind == symptom.Lint
}

// ran reports whether the run ran a test. A runner that does not name the tests
// that pass is believed when the suite came to its end.
func (r Reach) ran(t symptom.Test) bool {
	if outcome, present := r.outcome(t); present {
		return outcome != symptom.Skipped && outcome != symptom.Gone
	}
	return !has(r.Blocked, t.Suite) && has(r.Done, t.Suite) && !r.namesPassing(t.Suite)
}

// outcome is how a test ended, whichever way its suite and name are spelt.
func (r Reach) outcome(t symptom.Test) (symptom.Outcome, bool) {
	if outcome, present := r.Tests[t.Key()]; present {
		return outcome, true
	}
	return anySpelling(t, r.spelt, r.Tests)
}

// OfTests is the reach with the tests of some results.
func (r Reach) OfTests(tests []symptom.Test) Reach {
	r.Tests, r.spelt = map[string]symptom.Outcome{}, spelt(tests)
	for _, t := range tests {
		r.Tests[t.Key()] = better(r.Tests[t.Key()], t.Outcome)
	}
	return r
}

// Silenced reports whether a run came to a symptom's test and did not run it:
// it was skipped, or others of its suite ran and it is gone.
func (r Reach) Silenced(s *symptom.Symptom) bool {
	if s.Test == "" || has(r.Blocked, s.Unit) {
		return false
	}
	t := symptom.Test{Suite: s.Unit, Name: s.Test}
	if outcome, present := r.outcome(t); present {
		return outcome == symptom.Skipped || outcome == symptom.Gone
	}
	return r.Count.Telling != Counted && r.namesPassing(s.Unit)
}

func (r Reach) namesPassing(suite string) bool {
	for key, outcome := range r.Tests {
		if outcome == symptom.Passed && strings.HasPrefix(key, suite+"\x00") {
			return true
		}
	}
	return false
}

// behind lists the Go packages of the tree that import a blocked one, directly
// or not: the go command does not compile them.
func behind(tree *source.Tree, blocked []string) []string {
	if tree == nil || len(blocked) == 0 {
		return nil
	}
	needs := map[string]map[string]bool{} // package folder to what it imports
	for _, file := range tree.Files() {
		if !strings.HasSuffix(file, ".go") || strings.HasSuffix(file, "_test.go") {
			continue
		}
		dir := path.Dir(file)
		if needs[dir] == nil {
			needs[dir] = map[string]bool{}
		}
		for _, imp := range tree.Imports(file) {
			needs[dir][imp.Package] = true
		}
	}
	module := modulePath(tree)
	unit := func(dir string) string {
		if dir == "." {
			return module
		}
		return path.Join(module, dir)
	}
	direct, hidden := set(blocked), map[string]bool{}
	for changed := module != ""; changed; {
		changed = false
		for dir, imports := range needs {
			u := unit(dir)
			if direct[u] || hidden[u] {
				continue
			}
			for name := range imports {
				if direct[name] || hidden[name] {
					hidden[u], changed = true, true
					break
				}
			}
		}
	}
	return list(hidden)
}

func modulePath(tree *source.Tree) string {
	for _, line := range tree.Lines("go.mod") {
		if name, ok := strings.CutPrefix(line, "module "); ok {
			return strings.Trim(strings.TrimSpace(name), `"`)
		}
	}
	return ""
}

func has(list []string, name string) bool {
	i := sort.SearchStrings(list, name)
	return i < len(list) && list[i] == name
}

func set(names []string) map[string]bool {
	m := map[string]bool{}
	for _, name := range names {
		m[name] = true
	}
	return m
}

func list(m map[string]bool) []string {
	names := make([]string, 0, len(m))
	for name := range m {
		names = append(names, name)
	}
	sort.Strings(names)
	return names
}
