// Package queue hands out tickets to growers who wait at the scales.
package queue

import "orchardworks.example/ticket"

// Desk is where tickets are handed out.
type Desk struct{ waiting *ticket.Queue }

// New opens the desk.
func New() *Desk { return &Desk{waiting: ticket.Open("desk")} }

// Hand gives the next ticket.
func (d *Desk) Hand() string { return ticket.Stamp(d.waiting.Next()) }
