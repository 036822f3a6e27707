package main

import (
	"testing"

	"unicausa/internal/core/triage"
)

// BenchmarkCauses draws and links the causes of 100,000 symptoms.
func BenchmarkCauses(b *testing.B) {
	c, err := manySymptoms(100_000, manyChanges(2000))
	if err != nil {
		b.Fatal(err)
	}
	for b.Loop() {
		triage.Run(b.Context(), c)
	}
}
