// Command ferry plans the fruit ferry's day.
package main

import (
	"fmt"

	"example.org/harbour"
	"example.org/tidewheel"
)

// padded gives a time of day two digits for the hour.
func padded(text string) string { return fmt.Sprintf("%05s", text) }

// Crossing is one trip of the ferry.
type Crossing struct {
	Port string
	Time tidewheel.Window
}

// Read makes a crossing of a port and two times of day.
func Read(port, from, to string) (Crossing, error) {
	a, err := tidewheel.Parse(padded(from))
	if err != nil {
		return Crossing{}, err
	}
	b, err := tidewheel.Parse(padded(to))
	if err != nil {
		return Crossing{}, err
	}
	return Crossing{port, tidewheel.NewWindow(a, b)}, nil
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
	heights, err := tidewheel.Heights(c.Port, c.Time.From/60)
	if err != nil {
		return 0
	}
	return heights[0]
}

// Pace is a crossing's speed in knots over some metres.
func Pace(c Crossing, metres float64) float64 {
	return tidewheel.Knots(metres / float64(60*c.Time.Minutes()))
}
