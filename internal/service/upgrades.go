package service

import (
	"context"
	"net/http"
	"slices"
	"strings"

	"github.com/labstack/echo/v5"
	"golang.org/x/sync/errgroup"

	"unicausa/internal/access"
	"unicausa/internal/api"
	"unicausa/internal/core/gate"
	"unicausa/internal/core/track"
	"unicausa/internal/store"
	"unicausa/internal/view"
)

// ListUpgrades answers GET /upgrades.
func (s *Service) ListUpgrades(c *echo.Context) error {
	ctx := c.Request().Context()
	upgrades, err := s.store.Upgrades(ctx)
	if err != nil {
		return err
	}
	rows := make([]api.UpgradeRow, 0, len(upgrades))
	for _, u := range upgrades {
		if !who(c).May(access.Reader, u.Project) {
			continue
		}
		causes, err := s.store.Causes(ctx, u.ID)
		if err != nil {
			return err
		}
		standing, err := s.store.Standing(ctx, u.ID, causes)
		if err != nil {
			return err
		}
		history, err := s.store.History(ctx, u.ID)
		if err != nil {
			return err
		}
		runs, err := s.store.Runs(ctx, u.ID)
		if err != nil {
			return err
		}
		rows = append(rows, view.UpgradeRow(u, view.Gate(gate.Judge(standing.Leg)), causes, runs, history))
	}
	return c.JSON(http.StatusOK, rows)
}

// BeginUpgrade answers POST /upgrades.
func (s *Service) BeginUpgrade(c *echo.Context) error {
	n, err := body[api.NewUpgrade](c)
	if err != nil {
		return err
	}
	n.Project, n.Name = strings.TrimSpace(n.Project), strings.TrimSpace(n.Name)
	switch {
	case n.Project == "":
		return bad("project is empty: name the code base")
	case n.Name == "":
		return bad("name is empty: name the upgrade, for example by what it moves")
	case len(n.Moves) == 0:
		return bad("moves is empty: say which package goes from which version to which")
	}
	for _, m := range n.Moves {
		if m.Package == "" {
			return bad("a move has no package")
		}
	}
	if !who(c).May(access.Writer, n.Project) {
		return refused(http.StatusForbidden, "role", "%s may not begin an upgrade of %s: it takes the role writer", who(c).Name, n.Project)
	}
	u, err := s.store.Begin(c.Request().Context(), n.Project, n.Name, view.GivenMoves(n.Moves))
	if err != nil {
		return err
	}
	return c.JSON(http.StatusCreated, view.Upgrade(u))
}

// GetUpgrade answers GET /upgrades/{upgrade}.
func (s *Service) GetUpgrade(c *echo.Context, id api.UpgradeID) error {
	return answer(c)(s.overview(c.Request().Context(), id))
}

// GetHead answers GET /upgrades/{upgrade}/head.
func (s *Service) GetHead(c *echo.Context, id api.UpgradeID) error {
	u, err := s.store.Upgrade(c.Request().Context(), id)
	if err != nil {
		return err
	}
	event, err := s.store.LastEvent(c.Request().Context(), id)
	return answer(c)(api.Head{Upgrade: view.Upgrade(u), LastEvent: event}, err)
}

// overview is where an upgrade stands.
func (s *Service) overview(ctx context.Context, id int64) (api.Overview, error) {
	var o api.Overview
	u, err := s.store.Upgrade(ctx, id)
	if err != nil {
		return o, err
	}
	o.Upgrade = view.Upgrade(u)
	// The event is read first: what happens while the rest is read is told again.
	if o.LastEvent, err = s.store.LastEvent(ctx, id); err != nil {
		return o, err
	}
	var reads errgroup.Group
	reads.Go(func() error {
		history, err := s.store.History(ctx, id)
		o.History = view.History(history)
		return err
	})
	reads.Go(func() error {
		debts, err := s.store.Debts(ctx, id)
		if err != nil {
			return err
		}
		o.Due = view.DueDebts(debts)
		o.Pending, err = s.store.Pending(ctx, id)
		return err
	})
	reads.Go(func() error {
		legs, err := s.store.Legs(ctx, id)
		o.Legs = view.Legs(legs)
		return err
	})
	causes, err := s.store.Causes(ctx, id)
	if err == nil {
		err = s.stand(ctx, id, causes, &o)
	}
	if failed := reads.Wait(); err == nil {
		err = failed
	}
	return o, err
}

// stand fills in where an upgrade stands with its causes: the gate, the checks, what is
// left to do.
func (s *Service) stand(ctx context.Context, id int64, causes []store.Cause, o *api.Overview) error {
	standing, err := s.store.Standing(ctx, id, causes)
	if err != nil {
		return err
	}
	o.Gate, o.Checks = view.Gate(gate.Judge(standing.Leg)), view.Checks(standing.Checks)
	o.Causes, o.Counts = mainCauses(causes)
	o.Gate.Reasons, o.Gate.More = mainReasons(o.Gate.Reasons)
	if o.Preparation, err = s.preparation(ctx, id, standing); err != nil {
		return err
	}
	if slices.ContainsFunc(standing.Checks, func(c store.Check) bool { return c.Latest != nil && c.Baseline != nil }) {
		o.Preparation = []api.Preparation{}
	}
	return nil
}

// What an overview has of long lists: the rest is counted.
const (
	mostListed  = 50
	mostLargest = 12
)

// mainCauses are the causes that an overview shows, in their order, and how many there are.
func mainCauses(all []store.Cause) ([]api.Cause, api.CauseCounts) {
	var counts api.CauseCounts
	kept := map[string]bool{}
	var open []store.Cause
	for _, c := range all {
		count := &counts.Open
		switch {
		case c.Known:
			count = &counts.Known
		case c.Status == string(track.Cleared):
			count = &counts.Cleared
		default:
			open = append(open, c)
		}
		if *count++; *count <= mostListed {
			kept[c.Name] = true
		}
	}
	slices.SortStableFunc(open, func(a, b store.Cause) int { return b.Shown + b.Hidden - a.Shown - a.Hidden })
	for _, c := range open[:min(len(open), mostLargest)] {
		kept[c.Name] = true
	}
	var list []store.Cause
	for _, c := range all {
		if kept[c.Name] {
			list = append(list, c)
		}
	}
	return view.Causes(list), counts
}

// mainReasons are the reasons that an overview shows, and how many causes it leaves out.
func mainReasons(all []api.GateReason) (list []api.GateReason, more int) {
	list, causes := []api.GateReason{}, 0
	for _, r := range all {
		if r.Cause != "" {
			if causes++; causes > mostListed {
				more++
				continue
			}
		}
		list = append(list, r)
	}
	return list, more
}
