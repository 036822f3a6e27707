// Package payout turns weights into money.
package payout

import "orchardworks.example/steelyard/v3"

// Cents is an amount of money.
type Cents int

// Tariff is a price for each started or whole step of fruit.
type Tariff struct {
	Step  steelyard.Mass
	Price Cents
}

// Standard is the tariff of the season.
var Standard = Tariff{Step: 500 * steelyard.Gram, Price: 35}

// Pay is what a weight is worth.
func (t Tariff) Pay(weight steelyard.Mass) Cents {
	steps := steelyard.Round(weight, t.Step) / t.Step
	return Cents(steps) * t.Price
}

// Crate is what one reading is worth.
func (t Tariff) Crate(r steelyard.Reading) Cents {
	return t.Pay(steelyard.Mass(r.Kilos()) * steelyard.Kilogram)
}
