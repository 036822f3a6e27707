package compare

import (
	"unicausa/internal/core/read"
	"unicausa/internal/core/source"
	"unicausa/internal/core/symptom"
)

// Telling is what a run says of the tests that it ran.
type Telling string

// What a run says of a test that it does not list among the failed ones.
const (
	Silent  Telling = "silent"  // nothing
	Counted Telling = "counted" // a closing summary counts those that passed and names none, or some
	Named   Telling = "named"   // each is named with its outcome: one that is not named was not run
)

// TestCount is what a run tells of its tests: how, and how many.
type TestCount struct {
	Telling Telling
	Total   int
	Passed  int
	Failed  int
	Skipped int
}

// CountOf is what the inputs of a run tell of its tests. Where several forms of
// one run were recorded, the one that says most holds.
func CountOf(results []read.Result) TestCount {
	best := TestCount{Telling: Silent}
	for _, r := range results {
		c := TestCount{Telling: Silent}
		for _, t := range r.Tests {
			switch t.Outcome {
			case symptom.Passed:
				c.Passed++
			case symptom.Failed:
				c.Failed++
			case symptom.Skipped:
				c.Skipped++
			}
		}
		c.Total = c.Passed + c.Failed + c.Skipped
		sum, counted := read.Tallied(r.Tallies)
		switch {
		case counted && sum.Total > c.Total:
			c = TestCount{Telling: Counted, Total: sum.Total, Passed: sum.Passed, Failed: sum.Failed, Skipped: sum.Skipped}
		case counted || c.Passed > 0:
			c.Telling = Named
		}
		if rank(c.Telling) > rank(best.Telling) || c.Telling == best.Telling && c.Total > best.Total {
			best = c
		}
	}
	return best
}

func rank(t Telling) int { return map[Telling]int{Silent: 1, Counted: 2, Named: 3}[t] }

// Recording is one run of a check as far as its tests go: those that it names,
// how far it got, and where tests stand in the source that it was made on, nil
// where that is not known. Before tells that it was made before the tests at
// hand were named: one that its source has not is yet to come.
type Recording struct {
	Tests  []symptom.Test
	Reach  Reach
	Sites  *source.TestSites
	Before bool
}

// Known is a test that a run of the check names. Sites are those of the source
// that this run was made on, nil where it is not known.
type Known struct {
	symptom.Test
	Sites *source.TestSites
}

// Unnamed tells how tests ended that other runs of the check name and this one
// does not. A closing summary whose failures are all named says that every
// other test passed, as far as the source has it: one that is gone from there
// is Gone, one that was turned off since it was named is Skipped. Where the
// counts leave room for more than one account, nothing is said. The baseline
// bounds how many tests there have to be; it is nil for the baseline itself. Where
// neither says a word of tests, a run that ends with status 0 had those pass that
// its source still has.
func Unnamed(known []Known, run Recording, baseline *Recording) []symptom.Test {
	if run.Reach.Count.Telling == Named || run.Reach.Count.Telling == "" {
		return nil
	}
	var list, passed []symptom.Test
	for _, k := range run.unnamed(known) {
		t := symptom.Test{Suite: k.Suite, Name: k.Name, Outcome: symptom.Passed}
		site, there := run.Sites.Find(t.Suite, t.Name)
		was, named := k.Sites.Find(t.Suite, t.Name)
		switch {
		case run.Sites == nil || !named: // nobody can say where it stands
		case !there && run.Before:
			continue
		case !there:
			t.Outcome = symptom.Gone
		case site.Off && !was.Off:
			t.Outcome = symptom.Skipped
		}
		if t.Outcome == symptom.Passed {
			passed = append(passed, t)
		} else {
			list = append(list, t)
		}
	}
	if run.Reach.Count.Telling == Silent {
		list = append(list, passed...)
		if run.Reach.Frontier == Complete && run.Sites != nil && baseline != nil && baseline.Reach.Count.Telling == Silent {
			return list // its exit status is all that it ever says
		}
		return ofDone(list, run.Reach.Done)
	}
	if !run.adds(list, len(passed), baseline) {
		return nil
	}
	return append(list, passed...)
}

// Untold counts the tests that passed before and of which nothing is known
// after, neither by name nor by a count.
func Untold(before, after []symptom.Test, blocked []string) int {
	known := map[string]bool{}
	for _, t := range after {
		known[t.Key()] = true
	}
	for _, unit := range blocked {
		known[unit] = true
	}
	n := 0
	for _, t := range before {
		if t.Outcome == symptom.Passed && !known[t.Key()] && !known[t.Suite] {
			known[t.Key()] = true
			n++
		}
	}
	return n
}

// unnamed are the tests, each once, of which the run says nothing by name and
// whose suite was not kept from running.
func (r Recording) unnamed(known []Known) []Known {
	seen := map[string]bool{}
	silent := r.Reach.Count.Telling == Silent
	for _, t := range r.Tests {
		seen[t.Key()] = true
	}
	var list []Known
	for _, t := range known {
		if !seen[t.Key()] && !has(r.Reach.Blocked, t.Suite) && !(silent && r.Reach.namesPassing(t.Suite)) {
			seen[t.Key()] = true
			list = append(list, t)
		}
	}
	return list
}

// adds reports whether the run's counts agree with tests that passed unnamed
// and with those that did not run.
func (r Recording) adds(off []symptom.Test, passed int, baseline *Recording) bool {
	count := r.Reach.Count
	failed, named := map[string]bool{}, map[string]bool{}
	for _, t := range r.Tests {
		switch t.Outcome {
		case symptom.Failed:
			failed[t.Key()] = true
		case symptom.Passed:
			named[t.Key()] = true
		}
	}
	if len(failed) < count.Failed || passed > count.Passed-len(named) {
		return false
	}
	if baseline == nil || baseline.Reach.Count.Telling == Silent || baseline.Reach.Count.Telling == "" {
		return true
	}
	gone, skipped := 0, 0
	for _, t := range off {
		if t.Outcome == symptom.Gone {
			gone++
		} else {
			skipped++
		}
	}
	base := baseline.Reach.Count
	return count.Total >= base.Total-gone && count.Skipped-base.Skipped <= skipped
}

// ofDone keeps the tests of suites that ran to their end.
func ofDone(tests []symptom.Test, done []string) []symptom.Test {
	var list []symptom.Test
	for _, t := range tests {
		if has(done, t.Suite) {
			list = append(list, t)
		}
	}
	return list
}
