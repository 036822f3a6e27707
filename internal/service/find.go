package service

import (
	"github.com/labstack/echo/v5"

	"unicausa/internal/api"
)

// Find answers GET /upgrades/{upgrade}/find.
func (s *Service) Find(c *echo.Context, id api.UpgradeID, p api.FindParams) error {
	return answer(c)(s.store.Find(c.Request().Context(), id, p.Text))
}
