// Package season sums up a season.
package season

import (
	"fmt"
	"time"

	"orchardworks.example/steelyard/v3"
)

// Day is one day's readings of one orchard.
type Day struct {
	Date     time.Time
	Orchard  string
	Readings []steelyard.Reading
}

// Total is the day's weight in kilograms.
func (d Day) Total() float64 { return steelyard.Sum(d.Readings) }

// Best is the heaviest reading of the day.
func (d Day) Best() (best steelyard.Reading) {
	for _, r := range d.Readings {
		if r.Kilos() > best.Kilos() {
			best = r
		}
	}
	return best
}

// Line is a line of the season's table.
func (d Day) Line() string {
	return fmt.Sprintf("%s  %-12s %8.1f kg, best %.1f kg", d.Date.Format("02.01."), d.Orchard, d.Total(), d.Best().Kilos())
}

// Tonnes is the weight of several days.
func Tonnes(days []Day) float64 {
	var all []steelyard.Reading
	for _, d := range days {
		all = append(all, d.Readings...)
	}
	return steelyard.Sum(all) / float64(steelyard.Kilogram)
}
