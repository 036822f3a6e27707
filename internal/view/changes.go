package view

import (
	"fmt"

	"unicausa/internal/api"
	"unicausa/internal/core/exposure"
	"unicausa/internal/core/notes"
	"unicausa/internal/core/review"
	"unicausa/internal/core/rewrite"
	"unicausa/internal/core/versions"
	"unicausa/internal/store"
)

// change is a change of a document of notes.
func change(c notes.Change, document int64) api.Change {
	return api.Change{ID: c.ID, NotesID: document, Notes: c.Notes, Line: c.Line, End: c.End, Package: c.Package, Version: c.Version, Kind: string(c.Kind),
		Impact: c.Impact, Title: c.Title, Symbols: c.Names(), Renames: list(c.Renames, rename)}
}

// Changes are the changes of an upgrade's notes.
func Changes(all []store.Change) []api.ChangeRow { return list(all, changeRow) }

func changeRow(c store.Change) api.ChangeRow {
	return api.ChangeRow{
		Change: change(c.Change, c.Document), Candidate: c.Candidate, Added: c.Added, Corrected: c.Corrected, Causes: orEmpty(c.Causes), Files: c.Files, Places: c.Places,
		Said: c.Said, Silent: c.Silent, Perhaps: c.Perhaps, State: api.ChangeRowState(c.State), Reason: c.Reason, Author: c.Author,
		Requires: list(c.Requires, func(m notes.Minimum) api.Requirement {
			return api.Requirement{Name: m.Name, Least: m.Least, Above: m.Above}
		}),
	}
}

// ChangeDetail is a change with its places and what was said of it.
func ChangeDetail(d store.ChangeDetail) api.ChangeDetail {
	return api.ChangeDetail{Row: changeRow(d.Row), Searched: orEmpty(d.Searched), Waits: d.Waits, At: list(d.At, exposed), Text: orEmpty(d.Text), Words: list(d.Words, said)}
}

func said(w store.ChangeWord) api.SaidOfChange {
	out := api.SaidOfChange{Reason: w.Reason, Author: w.Author, At: w.At, Renames: list(w.Renames, rename)}
	if w.State != nil {
		out.State = *w.State
	}
	if w.Kind != nil {
		out.Kind = *w.Kind
	}
	return out
}

// ChangeWord is what a caller says of a change.
func ChangeWord(w api.ChangeWord) store.ChangeWord {
	out := store.ChangeWord{Kind: (*string)(w.Kind), State: (*string)(w.State), Reason: w.Reason, Author: w.Author}
	if w.Renames != nil {
		out.Renames = list(*w.Renames, givenRename)
	}
	return out
}

// NewChange is a change that a caller adds.
func NewChange(n api.NewChange) store.NewChange {
	return store.NewChange{Title: n.Title, Kind: string(n.Kind), Package: n.Package, Version: n.Version, Source: n.Source, Author: n.Author, Renames: list(n.Renames, givenRename)}
}

func givenRename(r api.Rename) notes.Rename { return notes.Rename(r) }

func exposed(p exposure.Place) api.ExposedPlace {
	return api.ExposedPlace{File: p.File, Line: p.Line, Column: p.Column, Name: p.Name, Zone: api.ExposedPlaceZone(p.Zone), Sure: p.Sure, Text: p.Text}
}

// Notes are documents of release notes.
func Notes(all []store.Notes) []api.Notes { return list(all, Document) }

// Document is one of them.
func Document(n store.Notes) api.Notes { return api.Notes(n) }

// Versions is what moved between two states of the manifests and lock files.
func Versions(c versions.Comparison) api.Versions {
	return api.Versions{
		Unmet: needs(c.Unmet), Warnings: orEmpty(c.Warnings), Files: orEmpty(c.Files),
		Moves: list(c.Moves, func(m versions.Difference) api.Moved {
			return api.Moved{Name: m.Name, Was: m.Was, Ecosystem: m.Ecosystem, From: m.From, To: m.To, Change: api.MovedChange(m.Change), Direct: m.Direct, Intended: m.Intended, Path: orEmpty(m.Path)}
		}),
		Held: list(c.Held, func(h versions.Held) api.HeldBack {
			return api.HeldBack{Name: h.Name, At: h.At, To: h.To, By: needs(h.By)}
		}),
	}
}

func needs(all []versions.Need) []api.Need {
	return list(all, func(n versions.Need) api.Need {
		return api.Need{Package: n.Package, Name: n.Name, Range: n.Range, Have: n.Have, Kind: api.NeedKind(n.Kind)}
	})
}

// Dependencies are who accepts what a leg moves to.
func Dependencies(all []versions.Dependency) []api.Dependency { return list(all, Dependency) }

// Dependency is one of them.
func Dependency(d versions.Dependency) api.Dependency {
	return api.Dependency{Name: d.Name, Ecosystem: d.Ecosystem, Has: d.Has, Newest: d.Newest, Of: d.Of, Wants: d.Wants, State: api.DependencyState(d.State), By: needs(d.By)}
}

// Patch is a patch with its diff.
func Patch(p rewrite.Patch, diff string) api.Patch {
	return api.Patch{
		Diff: diff, Templates: orEmpty(p.Templates), Why: p.Why, Care: p.Care,
		Edits: list(p.Edits, func(e rewrite.Edit) api.PatchEdit {
			return api.PatchEdit{File: e.File, Line: e.Line, Column: e.Column, From: e.From, To: e.To, Why: e.Why, Took: orEmpty(e.Took)}
		}),
		Moves: list(p.Moves, func(m rewrite.Move) api.PatchMove { return api.PatchMove{From: m.From, To: m.To} }),
		Refused: list(p.Refused, func(r rewrite.Refusal) api.RefusedPlace {
			return api.RefusedPlace{File: r.File, Line: r.Line, Column: r.Column, Name: r.Name, Why: r.Why}
		}),
	}
}

func examples(all []rewrite.Example) []api.Example {
	return list(all, func(e rewrite.Example) api.Example { return api.Example{From: e.From, To: e.To} })
}

// GivenExamples are examples of an edit as a caller gives them.
func GivenExamples(all []api.Example) []rewrite.Example {
	return list(all, func(e api.Example) rewrite.Example { return rewrite.Example{From: e.From, To: e.To} })
}

// Review is the review of what a text names, by the changes and causes that ask for edits.
func Review(r review.Review, of string, c review.Case) api.Review {
	changes, causes := map[string]*notes.Change{}, map[string]*review.Cause{}
	for i := range c.Changes {
		changes[c.Changes[i].ID] = &c.Changes[i]
	}
	for i := range c.Causes {
		causes[c.Causes[i].ID] = &c.Causes[i]
	}
	at := func(id string) (place, title string) {
		if c := changes[id]; c != nil {
			return fmt.Sprintf("%s:%d", c.Notes, c.Line), c.Title
		}
		return "", ""
	}
	ask := func(a review.Ask) api.ReviewAsk {
		v := api.ReviewAsk{Change: a.Change, Cause: a.Cause, Why: a.Why}
		v.At, v.Title = at(a.Change)
		if c := causes[a.Cause]; c != nil {
			v.Title = c.Title
		}
		return v
	}
	return api.Review{
		Of: of, Summary: review.Counted(r.Hunks), Clean: r.Clean(), Note: r.Note,
		Hunks: list(r.Hunks, func(h review.Hunk) api.ReviewHunk {
			return api.ReviewHunk{File: h.File, Was: h.Was, OldLine: h.OldLine, Line: h.Line, Before: orEmpty(h.Before), Removed: orEmpty(h.Removed), Added: orEmpty(h.Added), Behind: orEmpty(h.Behind),
				Standing: api.ReviewHunkStanding(h.Standing), Why: h.Why, Asks: list(h.Asks, ask),
				Notices: list(h.Notices, func(n review.Notice) api.ReviewNotice {
					return api.ReviewNotice{What: api.ReviewNoticeWhat(n.What), Text: n.Text}
				})}
		}),
		Edits: list(r.Edits, func(e review.Edit) api.ReviewEdit {
			v := api.ReviewEdit{Change: e.Change, Done: e.Done, Places: e.Count, Said: e.Said, Left: list(e.Left, exposed)}
			v.At, v.Title = at(e.Change)
			return v
		}),
	}
}
