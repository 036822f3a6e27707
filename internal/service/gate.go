package service

import (
	"context"
	"net/http"

	"github.com/labstack/echo/v5"

	"unicausa/internal/api"
	"unicausa/internal/core/gate"
	"unicausa/internal/core/symptom"
	"unicausa/internal/view"
)

// GetGate answers GET /upgrades/{upgrade}/gate.
func (s *Service) GetGate(c *echo.Context, id api.UpgradeID, p api.GetGateParams) error {
	ctx := c.Request().Context()
	var v gate.Verdict
	var err error
	if p.Target != nil && *p.Target != "" {
		v, err = s.brought(ctx, id, *p.Target)
	} else {
		v, err = s.gate(ctx, id)
	}
	if err != nil {
		return err
	}
	pending, err := s.store.Pending(ctx, id)
	if err != nil {
		return err
	}
	held, err := s.store.Held(ctx, id)
	if err != nil {
		return err
	}
	v.Hold(pending, held)
	return c.JSON(http.StatusOK, view.Gate(v))
}

func (s *Service) gate(ctx context.Context, id int64) (gate.Verdict, error) {
	causes, err := s.store.Causes(ctx, id)
	if err != nil {
		return gate.Verdict{}, err
	}
	standing, err := s.store.Standing(ctx, id, causes)
	return gate.Judge(standing.Leg), err
}

// brought is the verdict on a branch: what its latest runs have that the last
// ones of the target branch have not.
func (s *Service) brought(ctx context.Context, id int64, target string) (gate.Verdict, error) {
	runs, err := s.store.Runs(ctx, id)
	if err != nil {
		return gate.Verdict{}, err
	}
	var processed []gate.BranchRun
	for _, r := range runs {
		if r.Status == "processed" {
			processed = append(processed, gate.BranchRun{Number: r.Number, Check: r.Facts.Check, Branch: r.Facts.Branch, Informative: r.Facts.Informative})
		}
	}
	var pairs []gate.Compared
	for _, p := range gate.Pairs(processed, target) {
		compared := gate.Compared{Pair: p}
		if p.Target > 0 && !p.Informative {
			c, err := s.compare(ctx, id, p.Target, p.Later)
			if err != nil {
				return gate.Verdict{}, err
			}
			for _, m := range c.symptoms {
				if m.State == symptom.New {
					compared.New = append(compared.New, m)
				}
			}
			compared.Lost = c.lost
		}
		pairs = append(pairs, compared)
	}
	return gate.JudgeBranch(target, pairs), nil
}
