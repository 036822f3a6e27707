package compare

import (
	"sort"

	"unicausa/internal/core/symptom"
)

// Lost is a test that passed in the baseline and that a later run of the same
// check did not pass again, although its suite was reached.
type Lost struct {
	Test    symptom.Test
	Skipped bool // it is there, and skipped; otherwise it is not there at all
}

// LostTests lists the tests that passed before and are missing or skipped
// after, in order. A test whose suite is in blocked is not lost but hidden; a
// failed test is a symptom, not lost.
func LostTests(before, after []symptom.Test, blocked []string) []Lost {
	hidden := map[string]bool{}
	for _, unit := range blocked {
		hidden[unit] = true
	}
	now := map[string]symptom.Outcome{}
	for _, t := range after {
		now[t.Key()] = better(now[t.Key()], t.Outcome)
	}
	var list []Lost
	listed := map[string]bool{}
	for _, t := range before {
		if t.Outcome != symptom.Passed || hidden[t.Suite] || listed[t.Key()] {
			continue
		}
		outcome, present := now[t.Key()]
		if present && outcome != symptom.Skipped {
			continue
		}
		listed[t.Key()] = true
		list = append(list, Lost{Test: t, Skipped: present})
	}
	sort.Slice(list, func(i, j int) bool { return list[i].Test.Key() < list[j].Test.Key() })
	return list
}

// better keeps the outcome that says most of a test that ran more than once.
func better(a, b symptom.Outcome) symptom.Outcome {
	rank := map[symptom.Outcome]int{"": 0, symptom.Skipped: 1, symptom.Passed: 2, symptom.Failed: 3}
	if rank[b] > rank[a] {
		return b
	}
	return a
}

// Symptom is the missing test as a symptom.
func (l Lost) Symptom() symptom.Symptom {
	message := l.Test.Name + " passed in the baseline and is missing now"
	if l.Skipped {
		message = l.Test.Name + " passed in the baseline and is skipped now"
	}
	return symptom.Symptom{
		Kind: symptom.MissingTest, Level: "error", Phase: symptom.PhaseTest, State: symptom.New,
		Message: message, Unit: l.Test.Suite, Test: l.Test.Name, At: []symptom.At{},
	}
}
