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

// Style is how a ticket looks.
type Style string

// The styles.
const (
	Plain Style = "No."
	Short Style = "#"
)

// Stamp is what is printed on a ticket, with three digits at least.
func Stamp(n int, style Style) string { return fmt.Sprintf("%s %03d", style, n) }
