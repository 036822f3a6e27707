// Package editor brings the causes of an upgrade into editors over the Language Server
// Protocol: symptoms as diagnostics where they stand, the entry of the notes on hover, patches
// and decisions as code actions.
package editor

import (
	"context"

	"unicausa/internal/core/rewrite"
)

// Problem is a symptom at its place, with the cause that it belongs to and the entry of the
// notes that explains it.
type Problem struct {
	File    string // below the project's top, with slashes
	Line    int    // 1-based
	Column  int    // 1-based, 0 for the whole line
	Message string
	Level   string // error, warning or note
	Cause   string // C3
	Title   string
	Steps   []string
	Page    string // the cause's page in the console, "" without one
	Entry   *Entry // nil where nothing explains it
}

// Entry is an entry of the notes.
type Entry struct {
	Change string // its key
	Place  string // file and line
	Likely bool
	Text   []string // as written
}

// Source is where problems come from.
type Source interface {
	// Problems are those that are left.
	Problems(ctx context.Context) ([]Problem, error)
	// Follow calls changed whenever the problems may be others, until ctx ends.
	Follow(ctx context.Context, changed func())
	// Edits are those that a change asks for, at certain places ("a.go:12") or everywhere.
	Edits(ctx context.Context, change string, only []string) ([]rewrite.Edit, error)
	// Decide records what becomes of a cause; ErrUnkept where nothing can be recorded.
	Decide(ctx context.Context, cause, kind, reason string) error
}
