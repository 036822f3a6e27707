package harbour

import "example.org/tidewheel"

// Depth is the water under a quay in metres at each of some hours.
func Depth(port string, hours []int) []float64 {
	depths, err := tidewheel.Heights(port, hours...)
	for i := range depths {
		depths[i] += 3
	}
	return depths
}

// Enough reports whether a boat of some draught floats at an hour; an hour without a tide is never enough.
func Enough(port string, hour int, draught float64) bool {
	heights, _ := tidewheel.Heights(port, hour)
	return heights[0]+3 > draught
}

// Board is the line that the harbour's board shows for a slot.
func Board(s Slot) string {
	return s.Boat + " " + tidewheel.Clock(s.Time.From) + "-" + tidewheel.Clock(s.Time.To)
}
