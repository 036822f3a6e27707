package service

import (
	"net/http"
	"strings"

	"github.com/labstack/echo/v5"

	"unicausa/internal/api"
	"unicausa/internal/store"
	"unicausa/internal/view"
)

// Decide answers POST /upgrades/{upgrade}/causes/{cause}/decisions.
func (s *Service) Decide(c *echo.Context, id api.UpgradeID, cause api.CauseID) error {
	d, err := body[api.NewDecision](c)
	if err != nil {
		return err
	}
	if err := checkDecision(&d); err != nil {
		return err
	}
	if err := s.store.Decide(c.Request().Context(), id, cause, view.NewDecision(d)); err != nil {
		return err
	}
	detail, err := s.cause(c.Request().Context(), id, cause)
	if err != nil {
		return err
	}
	return c.JSON(http.StatusCreated, detail)
}

func checkDecision(d *api.NewDecision) error {
	d.Reason, d.Due = strings.TrimSpace(d.Reason), strings.TrimSpace(d.Due)
	switch {
	case !d.Kind.Valid():
		return bad("kind is %q: give fix, defer, accept, wait or dismiss", d.Kind)
	case d.Reason == "":
		return bad("reason is empty: say in a sentence why, for whoever reads it later")
	case d.Code != "" && d.Due == "":
		return bad("due is empty: say when the workaround comes out again, a date or a package and its version")
	}
	return nil
}

// DecideAll answers POST /upgrades/{upgrade}/decisions.
func (s *Service) DecideAll(c *echo.Context, id api.UpgradeID) error {
	d, err := body[api.NewDecisions](c)
	if err != nil {
		return err
	}
	if err := checkDecision(&d.Decision); err != nil {
		return err
	}
	if len(d.Causes) == 0 {
		return bad("causes is empty: name those that the decision is for")
	}
	if err := s.store.DecideAll(c.Request().Context(), id, d.Causes, view.NewDecision(d.Decision)); err != nil {
		return err
	}
	causes, err := s.store.Causes(c.Request().Context(), id)
	if err != nil {
		return err
	}
	return c.JSON(http.StatusCreated, view.Causes(causes))
}

// UndoDecision answers DELETE /upgrades/{upgrade}/decisions/{decision}.
func (s *Service) UndoDecision(c *echo.Context, id api.UpgradeID, decision api.DecisionID) error {
	return done(c, s.store.UndoDecision(c.Request().Context(), id, decision, who(c).Name))
}

// done answers with nothing, or with an error.
func done(c *echo.Context, err error) error {
	if err != nil {
		return err
	}
	return c.NoContent(http.StatusNoContent)
}

// ListWords answers GET /upgrades/{upgrade}/words.
func (s *Service) ListWords(c *echo.Context, id api.UpgradeID) error {
	return answerAs(c, view.Words)(s.store.Words(c.Request().Context(), id))
}

// Vouch answers POST /upgrades/{upgrade}/words.
func (s *Service) Vouch(c *echo.Context, id api.UpgradeID) error {
	n, err := body[api.NewWord](c)
	if err != nil {
		return err
	}
	n.About, n.Reason = strings.TrimSpace(n.About), strings.TrimSpace(n.Reason)
	switch {
	case n.About == "":
		return bad("about is empty: give the key of a reason of the gate, or of a preparation")
	case n.Reason == "":
		return bad("reason is empty: say in a sentence what you looked at")
	}
	about := []string{n.About}
	gate, err := s.gate(c.Request().Context(), id)
	if err != nil {
		return err
	}
	for _, r := range gate.Reasons {
		if r.Key == n.About && len(r.Members) > 0 {
			about = r.Members
		}
	}
	var word store.Word
	for _, key := range about {
		if word, err = s.store.Vouch(c.Request().Context(), id, key, n.Reason, n.Author); err != nil {
			return err
		}
	}
	return c.JSON(http.StatusCreated, view.Word(word))
}

// TakeWordBack answers DELETE /upgrades/{upgrade}/words/{word}.
func (s *Service) TakeWordBack(c *echo.Context, id api.UpgradeID, word api.WordID) error {
	return done(c, s.store.TakeWordBack(c.Request().Context(), id, word, who(c).Name))
}

// ListActivity answers GET /upgrades/{upgrade}/activity.
func (s *Service) ListActivity(c *echo.Context, id api.UpgradeID, p api.ListActivityParams) error {
	_, count, err := window(nil, p.Count)
	if err != nil {
		return err
	}
	before := int64(0)
	if p.Before != nil {
		before = *p.Before
	}
	return answerAs(c, view.Events)(s.store.Activity(c.Request().Context(), id, before, count))
}

// ListCommits answers GET /upgrades/{upgrade}/commits.
func (s *Service) ListCommits(c *echo.Context, id api.UpgradeID) error {
	return answerAs(c, view.Commits)(s.store.Commits(c.Request().Context(), id))
}
