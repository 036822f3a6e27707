package payout

import (
	"testing"

	"orchardworks.example/steelyard/v3"
)

func TestPay(t *testing.T) {
	for _, test := range []struct {
		name string
		mass steelyard.Mass
		want Cents
	}{
		{"whole steps", 10 * steelyard.Kilogram, 700},
		{"half a step", 250 * steelyard.Gram, 35},
		{"four and a half", 2250 * steelyard.Gram, 175},
		{"a little more", 2260 * steelyard.Gram, 175},
	} {
		t.Run(test.name, func(t *testing.T) {
			if got := Standard.Pay(test.mass); got != test.want {
				t.Errorf("rounding of %v g: got %d cents, want %d", float64(test.mass), got, test.want)
			}
		})
	}
}

func TestSmallCrates(t *testing.T) {
	total := Cents(0)
	for range 3 {
		total += Standard.Pay(750 * steelyard.Gram)
	}
	if total != 210 {
		t.Errorf("three small crates: got %d, want 210", total)
	}
}
