package compare

import (
	"math"

	"unicausa/internal/core/symptom"
)

// Flaky names the tests, by symptom.Test.Key, that ended both ways in
// repeated recordings of one state of the source.
func Flaky(recordings [][]symptom.Test) map[string]bool {
	passed, failed := map[string]bool{}, map[string]bool{}
	for _, tests := range recordings {
		for _, t := range tests {
			switch t.Outcome {
			case symptom.Passed:
				passed[t.Key()] = true
			case symptom.Failed:
				failed[t.Key()] = true
			}
		}
	}
	flaky := map[string]bool{}
	for key := range failed {
		if passed[key] {
			flaky[key] = true
		}
	}
	return flaky
}

// byChance is how likely it may be at most that a test as unsteady as before
// passes so often in a row.
const byChance = 0.05

// Passes tells how often a test passed since it failed last, and how often it
// has to for its record to be no excuse: with a share p of passes up to that
// failure, the least n with pⁿ of at most byChance, and two at least. The
// outcomes are those of the check's recordings, the oldest first.
func Passes(outcomes []symptom.Outcome) (passed, wanted int) {
	passes, failures := 0, 0
	for _, o := range outcomes {
		switch o {
		case symptom.Passed:
			passed++
		case symptom.Failed:
			passes, failures, passed = passes+passed, failures+1, 0
		}
	}
	wanted = 2
	if passes > 0 && failures > 0 {
		p := float64(passes) / float64(passes+failures)
		wanted = max(wanted, int(math.Ceil(math.Log(byChance)/math.Log(p))))
	}
	return passed, wanted
}
