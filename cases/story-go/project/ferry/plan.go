// Command ferry plans the fruit ferry's day.
package main

import (
	"example.org/harbour"
	"example.org/tidewheel"
)

// Crossing is one trip of the ferry.
type Crossing struct {
	Port string
	Time tidewheel.Span
}

// Read makes a crossing of a port and two times of day.
func Read(port, from, to string) (Crossing, error) {
	a, err := tidewheel.Parse(from)
	if err != nil {
		return Crossing{}, err
	}
	b, err := tidewheel.Parse(to)
	if err != nil {
		return Crossing{}, err
	}
	return Crossing{port, tidewheel.NewSpan(a, b)}, nil
}

// Doubled are the crossings that lie in each other's time.
func Doubled(crossings []Crossing) int {
	doubled := 0
	for i, a := range crossings {
		for _, b := range crossings[i+1:] {
			if harbour.Overlap(a.Time, b.Time) {
				doubled++
			}
		}
	}
	return doubled
}

// Water is the height of the tide that a crossing meets.
func Water(c Crossing) float64 {
	return tidewheel.Heights(c.Port, []int{c.Time.From / 60})[0]
}

// Pace is a crossing's speed in knots over some metres.
func Pace(c Crossing, metres float64) float64 {
	return tidewheel.Knots(metres / float64(60*c.Time.Minutes()))
}
