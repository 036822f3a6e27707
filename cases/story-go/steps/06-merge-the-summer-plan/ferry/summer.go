package main

import "example.org/tidewheel"

// Summer are the extra crossings of the berry weeks.
func Summer() []Crossing {
	return []Crossing{
		{"Reed", tidewheel.NewSpan(600, 640)},
		{"Alder", tidewheel.NewSpan(660, 700)},
		{"Reed", tidewheel.NewSpan(720, 760)},
	}
}
