// Package ticket hands out numbers to people who wait.
package ticket

import "fmt"

// Queue counts the people who wait at one place.
type Queue struct{ last int }

// Open begins a queue.
func Open(name string) *Queue { return &Queue{} }

// Next is the next number.
func (q *Queue) Next() int { q.last++; return q.last }

// Stamp is what is printed on a ticket.
func Stamp(n int) string { return fmt.Sprintf("No. %d", n) }
