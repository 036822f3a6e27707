package service

import (
	"net/http"
	"strings"

	"github.com/labstack/echo/v5"

	"unicausa/internal/api"
	"unicausa/internal/core/casebook"
	"unicausa/internal/view"
)

// ListDebts answers GET /upgrades/{upgrade}/debts.
func (s *Service) ListDebts(c *echo.Context, id api.UpgradeID) error {
	return answerAs(c, view.Debts)(s.store.Debts(c.Request().Context(), id))
}

// AddDebt answers POST /upgrades/{upgrade}/debts.
func (s *Service) AddDebt(c *echo.Context, id api.UpgradeID) error {
	n, err := body[api.NewDebt](c)
	if err != nil {
		return err
	}
	n.Text, n.Due = strings.TrimSpace(n.Text), strings.TrimSpace(n.Due)
	switch {
	case !n.Kind.Valid():
		return bad("kind is %q: give workaround, suppression, skipped-test, shim, deferred or waiting", n.Kind)
	case n.Text == "":
		return bad("text is empty: say what is put off, and why")
	case n.Due == "":
		return bad("due is empty: say when to look again, a date (2031-05-01) or a package and its version (jar 6.0.0)")
	}
	debt, err := s.store.AddDebt(c.Request().Context(), id, view.NewDebt(n))
	if err != nil {
		return err
	}
	return c.JSON(http.StatusCreated, view.Debt(debt))
}

// FindDebts answers GET /upgrades/{upgrade}/debts/found.
func (s *Service) FindDebts(c *echo.Context, id api.UpgradeID) error {
	return answerAs(c, view.FoundDebts)(s.store.FoundDebts(c.Request().Context(), id))
}

// GetDebt answers GET /upgrades/{upgrade}/debts/{debt}.
func (s *Service) GetDebt(c *echo.Context, id api.UpgradeID, debt api.DebtID) error {
	return answerAs(c, view.DebtDetail)(s.store.Debt(c.Request().Context(), id, debt))
}

// SettleDebt answers PUT /upgrades/{upgrade}/debts/{debt}.
func (s *Service) SettleDebt(c *echo.Context, id api.UpgradeID, debt api.DebtID) error {
	how, err := body[api.Settlement](c)
	if err != nil {
		return err
	}
	if how.How = strings.TrimSpace(how.How); how.How == "" {
		return bad("how is empty: say how the debt was paid")
	}
	return answerAs(c, view.Debt)(s.store.SettleDebt(c.Request().Context(), id, debt, how.How, how.Author))
}

// GetPicture answers GET /upgrades/{upgrade}/runs/{run}/pictures/{picture}.
func (s *Service) GetPicture(c *echo.Context, id api.UpgradeID, run api.RunID, picture int) error {
	media, data, err := s.store.Picture(c.Request().Context(), id, run, picture)
	if err != nil {
		return err
	}
	return c.Blob(http.StatusOK, media, data)
}

// GetCasebook answers GET /casebook.
func (s *Service) GetCasebook(c *echo.Context, p api.GetCasebookParams) error {
	cases, err := s.store.Cases(c.Request().Context(), 0)
	if err != nil {
		return err
	}
	templates, err := s.store.Templates(c.Request().Context(), 0)
	if err != nil {
		return err
	}
	if p.Private == nil || !*p.Private {
		for i := range cases {
			cases[i] = cases[i].Public()
		}
	}
	return c.JSON(http.StatusOK, view.Casebook(cases, templates))
}

// AddToCasebook answers POST /casebook.
func (s *Service) AddToCasebook(c *echo.Context) error {
	book, err := casebook.Read(http.MaxBytesReader(c.Response(), c.Request().Body, 32<<20))
	if err != nil {
		return bad("%v", err)
	}
	fresh, err := s.store.TakeCases(c.Request().Context(), book.Cases)
	if err != nil {
		return err
	}
	learnt, err := s.store.TakeTemplates(c.Request().Context(), book.Templates)
	if err != nil {
		return err
	}
	fresh += learnt
	return c.JSON(http.StatusCreated, api.Taken{New: fresh, Known: len(book.Cases) + len(book.Templates) - fresh})
}
