// Package report writes the growers' statements.
package report

import (
	"fmt"
	"strings"

	"coop.example/orchard-ledger/payout"
	"orchardworks.example/steelyard/v3"
)

// Statement is what a grower gets on paper.
type Statement struct {
	Grower   string
	Readings []steelyard.Reading
}

// Text is the statement's text.
func (s Statement) Text() string {
	var b strings.Builder
	fmt.Fprintf(&b, "%s\n", s.Grower)
	total := payout.Cents(0)
	for i, r := range s.Readings {
		mark := " "
		if !r.IsStable() {
			mark = "?"
		}
		fmt.Fprintf(&b, "%3d %s %7.2f kg\n", i+1, mark, r.Kilos())
		total += payout.Standard.Crate(r)
	}
	fmt.Fprintf(&b, "%d crates, %.2f kg, %d.%02d\n", len(s.Readings), steelyard.Sum(s.Readings), total/100, total%100)
	return b.String()
}
