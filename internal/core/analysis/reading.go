package analysis

import (
	"context"
	"io"
	"path"

	"unicausa/internal/core/compare"
	"unicausa/internal/core/exposure"
	"unicausa/internal/core/notes"
	"unicausa/internal/core/read"
	"unicausa/internal/core/source"
	"unicausa/internal/core/triage"
	"unicausa/internal/core/versions"
)

// Output is one output of a run, as it was printed.
type Output struct {
	Name string
	Text func() io.Reader // from its beginning, each time that it is called
}

// Reading is what a run says: a result for each of its outputs, how far it got, the versions
// that its lock files name, and, of the check that asks package managers, what they answer.
type Reading struct {
	Results []read.Result
	Reach   compare.Reach
	Locked  map[string]string
	Listing *versions.Listing
}

// mostListing bounds what is read of one listing, in bytes.
const mostListing = 16 << 20

// Read reads a run, made on a tree (nil for none), whose leg moves what it moves. It returns
// the error of an output, or of the project's own patterns.
func Read(run Run, tree *source.Tree, outputs []Output, moves []versions.Move) (Reading, error) {
	patterns, err := read.NewPatterns(run.Patterns)
	if err != nil {
		return Reading{}, err
	}
	r := Reading{Results: make([]read.Result, len(outputs)), Locked: locked(tree, moves)}
	for i, out := range outputs {
		if r.Results[i], err = read.ForProject(read.Project{Patterns: patterns, Holds: tree.Holds}, out.Name, out.Text()); err != nil {
			return Reading{}, err
		}
	}
	if run.Check != versions.ReadyCheck {
		read.Unsaid(r.Results, run.Check, run.Exit)
	} else if err := r.list(outputs); err != nil {
		return Reading{}, err
	}
	r.Reach = compare.ReachOf(r.Results, run.Exit, tree)
	return r, nil
}

// list reads the outputs as listings of versions: nothing of them is trouble.
func (r *Reading) list(outputs []Output) error {
	r.Listing = &versions.Listing{}
	for i, out := range outputs {
		result := &r.Results[i]
		result.Symptoms, result.Tests, result.Unread, result.Stated = nil, nil, nil, nil
		text, err := io.ReadAll(io.LimitReader(out.Text(), mostListing))
		if err != nil {
			return err
		}
		l := versions.ReadListing(string(text))
		r.Listing.Listed, r.Listing.Refusals = append(r.Listing.Listed, l.Listed...), append(r.Listing.Refusals, l.Refusals...)
	}
	return nil
}

// locked are the versions of what moves that the lock files of a tree name.
func locked(tree *source.Tree, moves []versions.Move) map[string]string {
	seen := map[string]string{}
	for _, file := range tree.Files() {
		if _, lock := versions.Known(file); !lock && path.Base(file) != "go.mod" {
			continue
		}
		for _, m := range moves {
			if v := versions.Locked(path.Base(file), tree.Read(file), m.Package); v != "" && seen[m.Package] == "" {
				seen[m.Package] = v
			}
		}
	}
	return seen
}

// mostPlaces is how many places of a change are kept.
const mostPlaces = 50

// Exposure is where changes touch a tree, by the change's ID; a report over that tree, where
// there is one, knows it already.
func Exposure(ctx context.Context, report *triage.Report, tree *source.Tree, changes []notes.Change) map[string]exposure.Found {
	found := map[string]exposure.Found{}
	if report != nil {
		for _, c := range report.Changes {
			found[c.ID] = c.Exposure
		}
		return found
	}
	for i, f := range exposure.Search(ctx, tree, changes) {
		f.Places = f.Places[:min(len(f.Places), mostPlaces)]
		found[changes[i].ID] = f
	}
	return found
}
