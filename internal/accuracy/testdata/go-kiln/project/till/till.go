// Package till writes what members pay and see: it names no kiln type.
package till

import (
	"fmt"
	"time"

	"claywork.example/kiln"
)

// Slip is a line of the price list.
func Slip(c kiln.Celsius, cents int) string {
	return fmt.Sprintf("%s: %d.%02d", kiln.Format(c), cents/100, cents%100)
}

// Door is the sign on a kiln's door.
func Door(c kiln.Celsius) string { return "keep shut above " + kiln.Format(c) }

// Shelf lists pots as they stand, last in first.
func Shelf(pots []string) []string { return kiln.Order(pots) }

// Free makes the default kiln of the open evening.
func Free() *kiln.Kiln { return kiln.New("free", kiln.Options{}) }

// Book makes a rota with empty slots, filled in by hand later.
func Book(slots int) int {
	var s kiln.Schedule
	for range slots {
		s.Add(kiln.Firing{})
	}
	return s.Len()
}

// Late tells whether a day is past.
func Late(d time.Time) bool { return d.Before(time.Date(2019, 1, 1, 0, 0, 0, 0, time.UTC)) }
