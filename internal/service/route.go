package service

import (
	"context"
	"fmt"
	"net/http"
	"strings"

	"github.com/labstack/echo/v5"

	"unicausa/internal/api"
	"unicausa/internal/core/gate"
	"unicausa/internal/core/route"
	"unicausa/internal/store"
	"unicausa/internal/view"
)

// ListLegs answers GET /upgrades/{upgrade}/legs.
func (s *Service) ListLegs(c *echo.Context, id api.UpgradeID) error {
	return answerAs(c, view.Legs)(s.store.Legs(c.Request().Context(), id))
}

// ChangeRoute answers POST /upgrades/{upgrade}/legs.
func (s *Service) ChangeRoute(c *echo.Context, id api.UpgradeID) error {
	n, err := body[api.NewLeg](c)
	if err != nil {
		return err
	}
	n.Reason = strings.TrimSpace(n.Reason)
	for _, m := range n.Moves {
		if m.Package == "" {
			return bad("a move has no package")
		}
	}
	ctx := c.Request().Context()
	leg := store.NewLeg{Moves: view.GivenMoves(n.Moves), Reason: n.Reason, Author: n.Author}
	switch n.Kind {
	case "plan":
		if len(n.Moves) == 0 {
			return bad("moves is empty: say which package goes from which version to which")
		}
		err = s.store.PlanLeg(ctx, id, leg)
	case "next":
		err = s.next(ctx, id, leg)
	case "restart":
		if n.Reason == "" {
			return bad("reason is empty: say why the leg is abandoned, for whoever reads it later")
		}
		err = s.store.RestartLeg(ctx, id, leg)
	default:
		return bad("kind is %q: give plan, next or restart", n.Kind)
	}
	if err != nil {
		return err
	}
	legs, err := s.store.Legs(ctx, id)
	if err != nil {
		return err
	}
	return c.JSON(http.StatusCreated, view.Leg(legs[len(legs)-1]))
}

// next goes on to the next leg, once the gate of the current one is open but
// for what is left of the route, or a person says why not.
func (s *Service) next(ctx context.Context, id int64, n store.NewLeg) error {
	g, err := s.gate(ctx, id)
	if err != nil {
		return err
	}
	shut := 0
	for _, r := range g.Reasons {
		if r.Code != gate.LegLeft {
			shut++
		}
	}
	if shut > 0 && n.Reason == "" {
		return fmt.Errorf("%w: the gate of the current leg is shut (reasons: %d): see unicausa gate, or say with a reason why to go on", store.ErrNotYet, shut)
	}
	if shut == 0 {
		n.Reason = ""
	}
	return s.store.NextLeg(ctx, id, n)
}

// ProposeRoute answers GET /upgrades/{upgrade}/route.
func (s *Service) ProposeRoute(c *echo.Context, id api.UpgradeID) error {
	a, err := s.store.Inspect(c.Request().Context(), id)
	if err != nil {
		return err
	}
	defer a.Cancel()
	moves, err := a.Moves()
	if err != nil {
		return err
	}
	changes, err := a.Changes()
	if err != nil {
		return err
	}
	warned, err := a.Warned()
	if err != nil {
		return err
	}
	return c.JSON(http.StatusOK, view.ProposedLegs(route.Propose(moves, changes, warned)))
}

// GetPreparation answers GET /upgrades/{upgrade}/preparation.
func (s *Service) GetPreparation(c *echo.Context, id api.UpgradeID) error {
	ctx := c.Request().Context()
	standing, err := s.store.Standing(ctx, id, nil)
	if err != nil {
		return err
	}
	return answer(c)(s.preparation(ctx, id, standing))
}

// preparation is what has to be done before the bump: a baseline of every
// check on a clean working copy, notes, a branch, and a word on the data.
func (s *Service) preparation(ctx context.Context, id int64, st store.Standing) ([]api.Preparation, error) {
	list := []api.Preparation{}
	add := func(key, text string, done bool, hint string) {
		p := api.Preparation{Key: key, Text: text, Done: done}
		if !done {
			p.Hint = hint
		}
		list = append(list, p)
	}
	var without, dirty, untold, branches []string
	for _, k := range st.Checks {
		switch {
		case k.Baseline == nil:
			without = append(without, k.Name)
		case k.Baseline.Facts.Dirty:
			dirty = append(dirty, k.Name)
		case k.Baseline.Facts.Commit == "":
			untold = append(untold, k.Name)
		}
		if k.Baseline != nil && k.Baseline.Facts.Branch != "" {
			branches = append(branches, k.Baseline.Facts.Branch)
		}
	}
	accepted := len(st.Checks) > 0 && len(without) == 0
	hint := "record every check on the old version (unicausa record --all), then: unicausa baseline"
	if len(st.Checks) > 0 && len(without) < len(st.Checks) && !accepted {
		hint = "not accepted yet: " + strings.Join(without, ", ") + "; then: unicausa baseline"
	}
	add("baseline", "A baseline is accepted for every check", accepted, hint)
	clean := "commit or stash what is changed and record again: " + strings.Join(dirty, ", ")
	if _, vouched := st.Leg.Words["clean"]; vouched {
		untold = nil
	}
	if len(dirty) == 0 && len(untold) > 0 {
		clean = "no commit came with " + strings.Join(untold, ", ") + ", so it cannot be told: record in a git working copy, or: unicausa vouch clean --reason WHY"
	}
	if !accepted {
		clean = "record the baseline first"
	}
	add("clean", "The baseline was recorded on a clean working copy", accepted && len(dirty)+len(untold) == 0, clean)
	documents, err := s.store.Notes(ctx, id)
	if err != nil {
		return nil, err
	}
	add("notes", "The release notes are read", len(documents) > 0, "unicausa notes PACKAGE=FILE, or those that lie on this machine: unicausa notes --installed")
	_, own := st.Leg.Words["branch"]
	for _, b := range branches {
		own = own || b != "main" && b != "master" && b != "trunk"
	}
	add("branch", "The upgrade has a branch of its own", own, "git switch -c upgrade, and record the baseline there; or: unicausa vouch branch --reason WHY")
	_, backed := st.Leg.Words["backup"]
	add("backup", "Where data is migrated, there is a backup", backed, "unicausa vouch backup --reason \"where it is, or that no data moves\"")
	return list, nil
}
