package service

import (
	"context"
	"net/http"
	"strings"

	"github.com/labstack/echo/v5"

	"unicausa/internal/api"
	"unicausa/internal/core/guard"
	"unicausa/internal/core/notes"
	"unicausa/internal/store"
	"unicausa/internal/view"
)

// ListNotes answers GET /upgrades/{upgrade}/notes.
func (s *Service) ListNotes(c *echo.Context, id api.UpgradeID) error {
	return answerAs(c, view.Notes)(s.store.Notes(c.Request().Context(), id))
}

// AddNotes answers POST /upgrades/{upgrade}/notes.
func (s *Service) AddNotes(c *echo.Context, id api.UpgradeID) error {
	n, err := body[api.NewNotes](c)
	if err != nil {
		return err
	}
	switch {
	case strings.TrimSpace(n.Name) == "":
		return bad("name is empty: give the document's file name")
	case strings.TrimSpace(n.Text) == "":
		return bad("%s is empty: there is nothing to read in it", n.Name)
	case strings.ContainsRune(n.Text, 0):
		return bad("%s is a binary file: give Markdown, HTML, reStructuredText or plain text", n.Name)
	}
	added, err := s.addNotes(c.Request().Context(), id, store.NewNotes{Name: n.Name, Package: n.Package, Text: n.Text})
	if err != nil {
		return err
	}
	return c.JSON(http.StatusCreated, view.Document(added))
}

// GetNotesLines answers GET /upgrades/{upgrade}/notes/{notes}/lines.
func (s *Service) GetNotesLines(c *echo.Context, id api.UpgradeID, document api.NotesID, p api.GetNotesLinesParams) error {
	from, count, err := window(p.From, p.Count)
	if err != nil {
		return err
	}
	return answerAs(c, view.Lines)(s.store.NotesLines(c.Request().Context(), id, document, from, count))
}

// addNotes reads a document and stores it; one that cannot be read is set aside.
func (s *Service) addNotes(ctx context.Context, id int64, n store.NewNotes) (store.Notes, error) {
	changes, problem := guard.Call(n.Name, func() []notes.Change { return notes.Read(n.Name, n.Package, []byte(n.Text)) })
	return s.store.AddNotes(ctx, id, n, changes, problem)
}
