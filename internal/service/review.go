package service

import (
	"context"
	"fmt"
	"strings"

	"github.com/labstack/echo/v5"

	"unicausa/internal/api"
	"unicausa/internal/core/review"
	"unicausa/internal/core/source"
	"unicausa/internal/core/triage"
	"unicausa/internal/store"
	"unicausa/internal/view"
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
	c := review.Case{Tree: tree, Moves: moved}
	for i := range list {
		if triage.Candidate(&list[i], c.Moves) {
			c.Changes = append(c.Changes, list[i])
		}
	}
	if c.Causes, err = a.Reviewed(tree); err != nil {
		return api.Review{}, err
	}
	return view.Review(review.Of(a.Context(), d, c), of, c), nil
}
