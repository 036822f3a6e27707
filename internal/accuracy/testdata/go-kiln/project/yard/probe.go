// Package yard reads the kilns' probes.
package yard

import "claywork.example/kiln"

// Probe is a thermocouple.
type Probe struct{ Now kiln.Celsius }

// Read implements kiln.Sensor.
func (p Probe) Read() kiln.Celsius { return p.Now }

// Dial is a second-hand one that reads ten too high.
type Dial struct{ Shown kiln.Celsius }

// Read implements kiln.Sensor.
func (d *Dial) Read() kiln.Celsius { return d.Shown - 10 }

// All is every sensor in the yard.
func All() []kiln.Sensor {
	return []kiln.Sensor{Probe{Now: 20}, &Dial{Shown: 30}}
}

var _ kiln.Sensor = Probe{}

// Board writes what every sensor shows.
func Board() []string {
	var list []string
	for _, s := range All() {
		list = append(list, kiln.Watch(s))
	}
	return list
}
