package service

import (
	"context"
	"errors"
	"net/http"
	"regexp"
	"slices"
	"strings"

	"github.com/labstack/echo/v5"

	"unicausa/internal/access"
	"unicausa/internal/api"
	"unicausa/internal/core/casebook"
	"unicausa/internal/report"
	"unicausa/internal/store"
	"unicausa/internal/view"
)

// ListCauses answers GET /upgrades/{upgrade}/causes.
func (s *Service) ListCauses(c *echo.Context, id api.UpgradeID, p api.ListCausesParams) error {
	if p.Leg != nil {
		return answerAs(c, view.Causes)(s.store.CausesOf(c.Request().Context(), id, *p.Leg))
	}
	return answerAs(c, view.Causes)(s.store.Causes(c.Request().Context(), id))
}

var causeName = regexp.MustCompile(`^C[0-9]+$`)

// GetCause answers GET /upgrades/{upgrade}/causes/{cause}.
func (s *Service) GetCause(c *echo.Context, id api.UpgradeID, cause api.CauseID) error {
	if !causeName.MatchString(cause) {
		return bad("%q is no cause: they are named C1, C2 and so on", cause)
	}
	detail, err := s.cause(c.Request().Context(), id, cause)
	detail.Elsewhere = slices.DeleteFunc(detail.Elsewhere, func(e api.Elsewhere) bool { return !who(c).May(access.Reader, e.Project) })
	return answer(c)(detail, err)
}

// cause is a cause with how it went in other upgrades, its commits, and a
// message for the next one.
func (s *Service) cause(ctx context.Context, id int64, name string) (api.CauseDetail, error) {
	stored, err := s.store.Cause(ctx, id, name)
	if err != nil {
		return api.CauseDetail{}, err
	}
	detail := view.CauseDetail(stored)
	cases, err := s.store.Cases(ctx, id)
	if err != nil {
		return detail, err
	}
	detail.Cases = view.Cases(casebook.Matching(cases, stored.Cause.Signature))
	commits, err := s.store.Commits(ctx, id)
	if err != nil {
		return detail, err
	}
	detail.Commits = view.Commits(slices.DeleteFunc(commits, func(c store.Commit) bool { return !c.About(name) }))
	runs, err := s.store.Runs(ctx, id)
	if err != nil {
		return detail, err
	}
	picture(&detail, runs)
	detail.Message = report.CommitMessage(&detail)
	u, err := s.store.Upgrade(ctx, id)
	if err != nil {
		return detail, err
	}
	of := view.Upgrade(u)
	detail.Question, detail.Upstream = report.Question(&detail, &of), report.UpstreamReport(&detail, &of)
	elsewhere, err := s.store.Elsewhere(ctx, id, stored.Cause.Signature)
	if err != nil {
		return detail, err
	}
	detail.Elsewhere = view.Elsewhere(elsewhere)
	a, err := s.store.Inspect(ctx, id)
	if err != nil {
		return detail, err
	}
	defer a.Cancel()
	detail.Ready, err = notReadyFor(a, stored.Symptoms)
	return detail, err
}

// JudgeLink answers PUT /upgrades/{upgrade}/causes/{cause}/links/{change}.
func (s *Service) JudgeLink(c *echo.Context, id api.UpgradeID, cause api.CauseID, change api.ChangeID) error {
	j, err := body[api.LinkJudgement](c)
	if err != nil {
		return err
	}
	if !j.State.Valid() {
		return bad("state is %q: give proposed, confirmed or rejected", j.State)
	}
	if err := s.store.JudgeLink(c.Request().Context(), id, cause, change, store.Judgement{State: string(j.State), Was: string(j.Was), Author: j.Author}); err != nil {
		return err
	}
	return answer(c)(s.cause(c.Request().Context(), id, cause))
}

// ListCorrections answers GET /upgrades/{upgrade}/corrections.
func (s *Service) ListCorrections(c *echo.Context, id api.UpgradeID) error {
	return answerAs(c, view.Corrections)(s.store.Corrections(c.Request().Context(), id))
}

// Correct answers POST /upgrades/{upgrade}/corrections.
func (s *Service) Correct(c *echo.Context, id api.UpgradeID) error {
	n, err := body[api.NewCorrection](c)
	if err != nil {
		return err
	}
	switch {
	case !n.Kind.Valid():
		return bad("kind is %q: give move, split, merge or pin", n.Kind)
	case n.Kind == "merge" && n.From == "":
		return bad("from is empty: name the cause that is merged into %s", n.Cause)
	case n.Kind != "merge" && len(n.Symptoms) == 0:
		return bad("symptoms is empty: name those to %s by their IDs", n.Kind)
	}
	made, err := s.store.Correct(c.Request().Context(), id, store.NewCorrection{Kind: string(n.Kind), From: n.From, Cause: n.Cause, Reason: n.Reason, Author: n.Author, Symptoms: n.Symptoms})
	if errors.Is(err, store.ErrRefused) {
		return bad("%s", strings.TrimPrefix(err.Error(), store.ErrRefused.Error()+": "))
	}
	if err != nil {
		return err
	}
	return c.JSON(http.StatusCreated, view.Correction(made))
}

// UndoCorrection answers DELETE /upgrades/{upgrade}/corrections/{correction}.
func (s *Service) UndoCorrection(c *echo.Context, id api.UpgradeID, correction api.CorrectionID) error {
	if err := s.store.UndoCorrection(c.Request().Context(), id, correction, who(c).Name); err != nil {
		return err
	}
	return c.NoContent(http.StatusNoContent)
}

// GetReport answers GET /upgrades/{upgrade}/report.
func (s *Service) GetReport(c *echo.Context, id api.UpgradeID) error {
	return answer(c)(s.worker.report(c.Request().Context(), id))
}
