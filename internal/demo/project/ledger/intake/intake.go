// Package intake gathers the deliveries of a day.
package intake

import (
	"time"

	"orchardworks.example/steelyard/v3"
)

// Gate is where lorries come in: two scales, one for each axle.
type Gate struct {
	Front, Rear *steelyard.Scale
}

// Open opens the scales of a gate.
func Open(pallet steelyard.Mass) *Gate {
	return &Gate{
		Front: steelyard.OpenScale(steelyard.Options{Tare: pallet, Port: "front"}),
		Rear:  steelyard.OpenScale(steelyard.Options{Tare: pallet, Port: "rear"}),
	}
}

// Delivery is a lorry's load.
type Delivery struct {
	Readings []steelyard.Reading
}

// Receive weighs a lorry.
func (g *Gate) Receive() (Delivery, error) {
	front, err := g.Front.Weigh(5 * time.Second)
	if err != nil {
		return Delivery{}, err
	}
	rear, err := g.Rear.Weigh(5 * time.Second)
	if err != nil {
		return Delivery{}, err
	}
	return Delivery{Readings: []steelyard.Reading{front, rear}}, nil
}

// Kilos is the net weight of a delivery.
func (d Delivery) Kilos() float64 { return steelyard.Sum(d.Readings) }

// Heaviest is the heavier axle's weight.
func (d Delivery) Heaviest() float64 {
	most := 0.0
	for _, r := range d.Readings {
		if r.Kilos() > most {
			most = r.Kilos()
		}
	}
	return most
}

// Steady reports whether all readings have settled.
func (d Delivery) Steady() bool {
	for _, r := range d.Readings {
		if !r.IsStable() {
			return false
		}
	}
	return true
}
