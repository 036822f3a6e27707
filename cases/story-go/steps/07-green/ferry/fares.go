package main

import "example.org/tidewheel"

// Fare is what a crossing costs in cents: ten for each minute begun, in steps of five minutes.
func Fare(c Crossing) int { return 10 * tidewheel.Round(c.Time.Minutes()+2) }

// Day is what a day's crossings cost.
func Day(crossings []Crossing) int {
	sum := 0
	for _, c := range crossings {
		sum += Fare(c)
	}
	return sum
}
