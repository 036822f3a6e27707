// Package weighin takes the growers' crates over the scale.
package weighin

import (
	"errors"
	"time"

	"orchardworks.example/steelyard/v3"
)

// Entry is one crate as it was weighed.
type Entry struct {
	Grower string
	Kilos  float64
}

// Desk is a place where crates are weighed.
type Desk struct {
	Scale   *steelyard.Scale
	entries []Entry
}

// New opens a desk with a scale that knows the weight of an empty crate.
func New(crate steelyard.Mass) *Desk {
	return &Desk{Scale: steelyard.OpenScale(steelyard.Options{Tare: crate})}
}

// Take weighs one crate of a grower.
func (d *Desk) Take(grower string) (Entry, error) {
	reading, err := d.Scale.Weigh(2 * time.Second)
	if errors.Is(err, steelyard.ErrEmpty) {
		return Entry{}, errors.New("no crate on the scale")
	}
	if err != nil {
		return Entry{}, err
	}
	if !reading.IsStable() {
		return Entry{}, errors.New("the scale has not settled")
	}
	e := Entry{Grower: grower, Kilos: reading.Kilos()}
	d.entries = append(d.entries, e)
	return e, nil
}

// Check weighs a crate again and tells the difference.
func (d *Desk) Check(e Entry) (float64, error) {
	reading, err := d.Scale.Weigh(time.Second)
	if err != nil {
		return 0, err
	}
	return reading.Kilos() - e.Kilos, nil
}

// Entries lists what was weighed.
func (d *Desk) Entries() []Entry { return d.entries }
