package crates

import (
	"testing"

	"orchardworks.example/steelyard/v3"
)

func TestStack(t *testing.T) {
	if got := Wood.Stack(5); got != 12*steelyard.Kilogram {
		t.Errorf("stack: got %v, want %v", got, 12*steelyard.Kilogram)
	}
}
