package main

import (
	"fmt"
	"os"

	"example.org/harbour"
	"example.org/tidewheel"
)

func main() {
	c, err := Read("Reed", "06:40", "07:12")
	if err != nil {
		fmt.Fprintln(os.Stderr, "ferry: error:", err)
		os.Exit(1)
	}
	fmt.Println(c.Port, tidewheel.Clock(c.Time.From), Fare(c), Pace(c, 14000))
	fmt.Println(harbour.Board(harbour.Slot{Boat: "ferry", Quay: 1, Time: c.Time}))
}
