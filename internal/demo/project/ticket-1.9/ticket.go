// Package ticket hands out numbers to people who wait.
package ticket

import (
	"fmt"
	"os"
	"path/filepath"
	"strconv"
)

// Queue counts the people who wait at one place.
type Queue struct{ file string }

// Open begins a queue.
//
// Deprecated: use Dial.
func Open(name string) *Queue {
	fmt.Fprintln(os.Stderr, "warning: ticket.Open is deprecated since 1.9: use ticket.Dial")
	return Dial(name)
}

// Dial begins a queue, or goes on with one.
func Dial(name string) *Queue {
	dir := os.Getenv("TICKET_STATE")
	if dir == "" {
		dir = os.TempDir()
	}
	return &Queue{file: filepath.Join(dir, name+".ticket")}
}

// Next is the next number, also after a restart.
func (q *Queue) Next() int {
	data, _ := os.ReadFile(q.file)
	n, _ := strconv.Atoi(string(data))
	os.WriteFile(q.file, []byte(strconv.Itoa(n+1)), 0o644)
	return n + 1
}

// Stamp is what is printed on a ticket.
func Stamp(n int) string { return fmt.Sprintf("No. %d", n) }
