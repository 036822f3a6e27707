package service

import (
	"context"
	"net/http"
	"strings"

	"github.com/labstack/echo/v5"

	"unicausa/internal/api"
	"unicausa/internal/core/casebook"
	"unicausa/internal/core/notes"
)

// ListDebts answers GET /upgrades/{upgrade}/debts.
func (s *Service) ListDebts(c *echo.Context, id api.UpgradeID) error {
	return answer(c)(s.store.Debts(c.Request().Context(), id))
}

// due are the debts that an upgrade, or the day, brings due.
func (s *Service) due(ctx context.Context, id int64) ([]api.Debt, error) {
	debts, err := s.store.Debts(ctx, id)
	if err != nil {
		return nil, err
	}
	list := []api.Debt{}
	for _, d := range debts {
		if d.IsDue {
			list = append(list, d)
		}
	}
	return list, nil
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
	debt, err := s.store.AddDebt(c.Request().Context(), id, n)
	if err != nil {
		return err
	}
	return c.JSON(http.StatusCreated, debt)
}

// FindDebts answers GET /upgrades/{upgrade}/debts/found.
func (s *Service) FindDebts(c *echo.Context, id api.UpgradeID) error {
	return answer(c)(s.store.FoundDebts(c.Request().Context(), id))
}

// GetDebt answers GET /upgrades/{upgrade}/debts/{debt}.
func (s *Service) GetDebt(c *echo.Context, id api.UpgradeID, debt api.DebtID) error {
	return answer(c)(s.store.Debt(c.Request().Context(), id, debt))
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
	return answer(c)(s.store.SettleDebt(c.Request().Context(), id, debt, how))
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
	book := api.Casebook{Format: casebook.Format, Version: casebook.Version, Cases: []api.SettledCase{}}
	for _, t := range templates {
		book.Templates = append(book.Templates, api.KeptTemplate{ChangeID: t.ChangeID, Change: t.Change, Package: t.Package, Shape: t.Shape, Examples: exampleViews(t.Examples)})
	}
	for _, one := range cases {
		if p.Private == nil || !*p.Private {
			one = one.Public()
		}
		book.Cases = append(book.Cases, caseView(one))
	}
	return c.JSON(http.StatusOK, book)
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

func caseView(c casebook.Case) api.SettledCase {
	v := api.SettledCase{Signature: c.Signature, Package: c.Package, From: c.From, To: c.To, Title: c.Title, Kind: c.Kind, Change: c.Change, ChangeID: c.ChangeID,
		Decision: c.Decision, Pairs: []api.Rename{}, Helped: c.Helped, Reason: c.Reason, Project: c.Project, Upgrade: c.Upgrade}
	for _, p := range c.Pairs {
		v.Pairs = append(v.Pairs, renameView(p))
	}
	return v
}

func renameView(p notes.Rename) api.Rename { return api.Rename{From: p.From, To: p.To} }
