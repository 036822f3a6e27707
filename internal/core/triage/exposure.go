package triage

import (
	"context"

	"unicausa/internal/core/exposure"
	"unicausa/internal/core/link"
	"unicausa/internal/core/notes"
)

// ChangeState says what a change is to this code base, as far as evidence goes.
type ChangeState string

// The states of a change. People may say more than evidence can.
const (
	NotUsed ChangeState = "not-used" // nothing of it was found in the code
	Exposed ChangeState = "exposed"  // its old names stand in the code, and no cause is linked to it
	Failing ChangeState = "failing"  // it explains a cause
	Handled ChangeState = "handled"  // the causes that it explained are cleared, or a person says so
	Later   ChangeState = "later"    // a person says so
)

// StateOf is the state of a change that evidence allows: from where it touches
// the code, and from whether it explains causes that are shown or cleared.
func StateOf(c *notes.Change, places int, shown, cleared bool) ChangeState {
	switch {
	case shown:
		return Failing
	case cleared:
		return Handled
	case places > 0 && c.Kind != notes.Added:
		return Exposed
	}
	return NotUsed
}

// mostShown bounds the places of a change in the report.
const mostShown = 50

// changes lists every change with its exposure in the latest tree.
func changes(ctx context.Context, c Case, causes []explained) []Change {
	found := exposure.Search(ctx, latestTree(c), c.Changes)
	failing := map[string]bool{}
	for i := range causes {
		for n, l := range causes[i].links {
			if n == 0 || link.StandingOf(l.Score) == link.Likely {
				failing[l.Change.ID] = true
			}
		}
	}
	list := make([]Change, 0, len(c.Changes))
	for i := range c.Changes {
		n := &c.Changes[i]
		found[i].Places = found[i].Places[:min(len(found[i].Places), mostShown)]
		change := Change{
			ID: n.ID, Notes: n.Notes, Line: n.Line, End: n.End, Package: n.Package, Version: n.Version, Kind: n.Kind, Impact: n.Impact,
			Title: n.Title, Symbols: n.Names(), Renames: n.Renames, Requires: n.Requires, Candidate: Candidate(n, c.Moves), Exposure: found[i],
			State: StateOf(n, found[i].Count, failing[n.ID], false),
		}
		if change.Renames == nil {
			change.Renames = []notes.Rename{}
		}
		change.Silent = change.State == Exposed && change.Candidate && Silent(n, &found[i])
		change.Perhaps = change.State == Exposed && change.Candidate && Perhaps(n, &found[i])
		list = append(list, change)
	}
	return list
}
