package main

import "example.org/tidewheel"

// Summer are the extra crossings of the berry weeks.
func Summer() []Crossing {
	return []Crossing{
		{"Reed", tidewheel.NewWindow(600, 640)},
		{"Alder", tidewheel.NewWindow(660, 700)},
		{"Reed", tidewheel.NewWindow(720, 760)},
	}
}
