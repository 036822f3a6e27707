// Package counter shows on the wall whose turn it is.
package counter

import (
	"strings"

	"orchardworks.example/ticket"
)

// Wall is the display on the wall.
type Wall struct{ turn *ticket.Queue }

// New switches the display on.
func New() *Wall { return &Wall{turn: ticket.Open("counter")} }

// Call shows the next number, which has to fit into four characters.
func (w *Wall) Call() string { return strings.TrimPrefix(ticket.Stamp(w.turn.Next()), "No. ") }
