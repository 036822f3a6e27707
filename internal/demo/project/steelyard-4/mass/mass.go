// Package mass holds the units of steelyard.
package mass

// Mass is a mass in grams.
type Mass float64

// Units.
const (
	Gram     Mass = 1
	Kilogram      = 1000 * Gram
)

// Kilograms is the mass in kilograms.
func (m Mass) Kilograms() float64 { return float64(m) / 1000 }
