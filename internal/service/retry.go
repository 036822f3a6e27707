package service

import (
	"context"

	"github.com/labstack/echo/v5"

	"unicausa/internal/api"
	"unicausa/internal/store"
)

// RetryAside answers POST /upgrades/{upgrade}/retry.
func (s *Service) RetryAside(c *echo.Context, id api.UpgradeID) error {
	asked, err := body[api.Retry](c)
	if err != nil {
		return err
	}
	return answer(c)(s.retry(c.Request().Context(), id, asked.Run, who(c).Name))
}

// retry tries again what was set aside: runs and causes through the queue, documents here.
func (s *Service) retry(ctx context.Context, id int64, run *int, author string) (api.Retried, error) {
	aside, err := s.store.Retry(ctx, id, run, author)
	if err != nil {
		return api.Retried{}, err
	}
	out := api.Retried{Runs: append([]int{}, aside.Runs...), Notes: []string{}, Causes: aside.Causes}
	for _, d := range aside.Notes {
		if _, err := s.addNotes(ctx, id, store.NewNotes{Name: d.Name, Package: d.Package, Text: d.Text}); err != nil {
			return out, err
		}
		out.Notes = append(out.Notes, d.Name)
	}
	return out, nil
}

// retryOutgrown tries again what another version of the program set aside.
func (s *Service) retryOutgrown(ctx context.Context) error {
	upgrades, err := s.store.Outgrown(ctx)
	if err != nil {
		return err
	}
	for _, id := range upgrades {
		if _, err := s.retry(ctx, id, nil, ""); err != nil {
			return err
		}
	}
	return nil
}
