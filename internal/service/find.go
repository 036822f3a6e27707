package service

import (
	"github.com/labstack/echo/v5"

	"unicausa/internal/api"
	"unicausa/internal/view"
)

// Find answers GET /upgrades/{upgrade}/find.
func (s *Service) Find(c *echo.Context, id api.UpgradeID, p api.FindParams) error {
	return answerAs(c, view.Found)(s.store.Find(c.Request().Context(), id, p.Text))
}
