// Package crates knows the co-operative's crates.
package crates

import "orchardworks.example/steelyard/v3"

// Kind is a kind of crate with its own weight.
type Kind struct {
	Name  string
	Empty steelyard.Mass
}

// The kinds in use.
var (
	Wood    = Kind{"wood", 2400 * steelyard.Gram}
	Plastic = Kind{"plastic", 1600 * steelyard.Gram}
	Bin     = Kind{"bin", 38 * steelyard.Kilogram}
)

// Scale opens a scale for a kind of crate.
func (k Kind) Scale(port string) *steelyard.Scale {
	return steelyard.OpenScale(steelyard.Options{Tare: k.Empty, Port: port})
}

// Stack is the weight of empty crates.
func (k Kind) Stack(n int) steelyard.Mass { return k.Empty * steelyard.Mass(n) }
