package triage

import (
	"unicausa/internal/core/compare"
	"unicausa/internal/core/symptom"
)

// unsteady marks the failures of tests that passed in another recording of the
// same snapshot: two inputs that ran the same tests are taken for recordings
// of one check.
func unsteady(symptoms []symptom.Symptom, side []Snapshot) {
	flaky := map[string]bool{}
	for _, snapshot := range side {
		for i, a := range snapshot.Results {
			for _, b := range snapshot.Results[i+1:] {
				if len(a.Tests) == 0 || !compare.SameTests(a.Tests, b.Tests) {
					continue
				}
				for key := range compare.Flaky([][]symptom.Test{a.Tests, b.Tests}) {
					flaky[key] = true
				}
			}
		}
	}
	for i := range symptoms {
		s := &symptoms[i]
		s.Flaky = s.Test != "" && flaky[symptom.Test{Suite: s.Unit, Name: s.Test}.Key()]
	}
}
