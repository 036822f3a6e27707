// Package harbour keeps the quays of the fruit harbour: which boat lies where, and when there is water enough.
package harbour

import "example.org/tidewheel"

// Morning and Evening are when the quays are served.
var (
	Morning = tidewheel.NewSpan(300, 690)
	Evening = tidewheel.NewSpan(1020, 1260)
)

// Slot is a quay held for a boat.
type Slot struct {
	Boat string
	Quay int
	Time tidewheel.Span
}

// Lunch is when nobody loads.
func Lunch() tidewheel.Span { return tidewheel.NewSpan(690, 750) }

// Overlap reports whether two spans share a minute.
func Overlap(a, b tidewheel.Span) bool { return a.From < b.To && b.From < a.To }

// Free are the spans between the slots of a quay in the morning.
func Free(slots []Slot, quay int) []tidewheel.Span {
	free := []tidewheel.Span{}
	at := Morning.From
	for _, s := range slots {
		if s.Quay != quay {
			continue
		}
		if s.Time.From > at {
			free = append(free, tidewheel.NewSpan(at, s.Time.From))
		}
		at = s.Time.To
	}
	if at < Morning.To {
		free = append(free, tidewheel.NewSpan(at, Morning.To))
	}
	return free
}

// Longest is the longest of some spans.
func Longest(spans []tidewheel.Span) tidewheel.Span {
	longest := tidewheel.NewSpan(0, 0)
	for _, s := range spans {
		if s.Minutes() > longest.Minutes() {
			longest = s
		}
	}
	return longest
}
