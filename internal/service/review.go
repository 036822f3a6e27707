package service

import (
	"context"
	"fmt"
	"strings"

	"github.com/labstack/echo/v5"

	"unicausa/internal/api"
	"unicausa/internal/core/notes"
	"unicausa/internal/core/review"
	"unicausa/internal/core/source"
	"unicausa/internal/core/triage"
	"unicausa/internal/store"
)

// GetReview answers GET /upgrades/{upgrade}/review.
func (s *Service) GetReview(c *echo.Context, id api.UpgradeID, p api.GetReviewParams) error {
	commit, run := "", 0
	if p.Commit != nil {
		commit = *p.Commit
	}
	if p.Run != nil {
		run = *p.Run
	}
	return answer(c)(s.review(c.Request().Context(), id, commit, run))
}

// ReviewDiff answers POST /upgrades/{upgrade}/review.
func (s *Service) ReviewDiff(c *echo.Context, id api.UpgradeID) error {
	asked, err := body[api.DiffText](c)
	if err != nil {
		return err
	}
	d, err := review.Parse(strings.NewReader(asked.Diff))
	if err != nil {
		return bad("%v", err)
	}
	a, err := s.store.Inspect(c.Request().Context(), id)
	if err != nil {
		return err
	}
	defer a.Cancel()
	_, tree, err := a.Trees()
	if err != nil {
		return err
	}
	return answer(c)(reviewed(a, d, tree, asked.Of))
}

// review holds what a commit or a run brought, or all since the baseline, against what
// asks for it.
func (s *Service) review(ctx context.Context, id int64, commit string, run int) (api.Review, error) {
	a, err := s.store.Inspect(ctx, id)
	if err != nil {
		return api.Review{}, err
	}
	defer a.Cancel()
	of := "What changed since the baseline"
	if commit != "" {
		var subject string
		if run, subject, err = a.RunOfCommit(commit); err != nil {
			return api.Review{}, err
		}
		of = fmt.Sprintf("%.10s %s", commit, subject)
	} else if run > 0 {
		of = fmt.Sprintf("What changed with run %d", run)
	}
	var before, after *source.Tree
	if run > 0 {
		before, after, err = a.TreesOfRun(run)
	} else {
		before, after, err = a.Trees()
	}
	if err != nil {
		return api.Review{}, err
	}
	if before == nil || after == nil {
		return api.Review{Of: of, Clean: true, Hunks: []api.ReviewHunk{}, Edits: []api.ReviewEdit{}, Note: "there are not two source trees to compare: record runs in a git working copy"}, nil
	}
	d, err := review.Between(before, after)
	if err != nil {
		return api.Review{}, err
	}
	return reviewed(a, d, after, of)
}

// reviewed is the review of a diff, to one side of which a tree belongs.
func reviewed(a *store.Analysis, d review.Diff, tree *source.Tree, of string) (api.Review, error) {
	list, err := a.Changes()
	if err != nil {
		return api.Review{}, err
	}
	moved, err := a.Moves()
	if err != nil {
		return api.Review{}, err
	}
	c := review.Case{Tree: tree}
	for _, m := range moved {
		c.Moves = append(c.Moves, triage.Move{Package: m.Package, From: m.From, To: m.To})
	}
	changes := map[string]*notes.Change{}
	for i := range list {
		if triage.Candidate(&list[i], c.Moves) {
			c.Changes = append(c.Changes, list[i])
			changes[list[i].ID] = &list[i]
		}
	}
	if c.Causes, err = a.Reviewed(tree); err != nil {
		return api.Review{}, err
	}
	return reviewView(review.Of(a.Context(), d, c), of, changes, c.Causes), nil
}

func reviewView(r review.Review, of string, changes map[string]*notes.Change, causes []review.Cause) api.Review {
	out := api.Review{Of: of, Summary: review.Counted(r.Hunks), Clean: r.Clean(), Hunks: []api.ReviewHunk{}, Edits: []api.ReviewEdit{}, Note: r.Note}
	at := func(id string) (place, title string) {
		if c := changes[id]; c != nil {
			return fmt.Sprintf("%s:%d", c.Notes, c.Line), c.Title
		}
		return "", ""
	}
	for _, h := range r.Hunks {
		v := api.ReviewHunk{File: h.File, Was: h.Was, OldLine: h.OldLine, Line: h.Line, Before: h.Before, Removed: h.Removed, Added: h.Added, Behind: h.Behind,
			Standing: api.ReviewHunkStanding(h.Standing), Why: h.Why, Asks: []api.ReviewAsk{}, Notices: []api.ReviewNotice{}}
		for _, ask := range h.Asks {
			view := api.ReviewAsk{Change: ask.Change, Cause: ask.Cause, Why: ask.Why}
			view.At, view.Title = at(ask.Change)
			for _, c := range causes {
				if c.ID == ask.Cause {
					view.Title = c.Title
				}
			}
			v.Asks = append(v.Asks, view)
		}
		for _, n := range h.Notices {
			v.Notices = append(v.Notices, api.ReviewNotice{What: api.ReviewNoticeWhat(n.What), Text: n.Text})
		}
		out.Hunks = append(out.Hunks, v)
	}
	for _, e := range r.Edits {
		v := api.ReviewEdit{Change: e.Change, Done: e.Done, Places: e.Count, Said: e.Said, Left: []api.ExposedPlace{}}
		v.At, v.Title = at(e.Change)
		for _, p := range e.Left {
			v.Left = append(v.Left, api.ExposedPlace{File: p.File, Line: p.Line, Column: p.Column, Name: p.Name, Zone: api.ExposedPlaceZone(p.Zone), Sure: p.Sure, Text: p.Text})
		}
		out.Edits = append(out.Edits, v)
	}
	return out
}
