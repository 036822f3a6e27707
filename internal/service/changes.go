package service

import (
	"net/http"
	"strings"

	"github.com/labstack/echo/v5"

	"unicausa/internal/api"
	"unicausa/internal/core/notes"
	"unicausa/internal/core/triage"
	"unicausa/internal/core/versions"
	"unicausa/internal/store"
	"unicausa/internal/view"
)

// ListChanges answers GET /upgrades/{upgrade}/changes.
func (s *Service) ListChanges(c *echo.Context, id api.UpgradeID) error {
	return answerAs(c, view.Changes)(s.store.Changes(c.Request().Context(), id))
}

// GetChange answers GET /upgrades/{upgrade}/changes/{change}.
func (s *Service) GetChange(c *echo.Context, id api.UpgradeID, change api.ChangeID) error {
	return answerAs(c, view.ChangeDetail)(s.store.Change(c.Request().Context(), id, change))
}

// AddChange answers POST /upgrades/{upgrade}/changes.
func (s *Service) AddChange(c *echo.Context, id api.UpgradeID) error {
	n, err := body[api.NewChange](c)
	if err != nil {
		return err
	}
	switch {
	case strings.TrimSpace(n.Title) == "":
		return bad("title is empty: say what changes, with the names in backticks")
	case !n.Kind.Valid():
		return bad("kind is %q: give removed, renamed, moved, signature, behaviour, default, deprecated, requirement, added or fixed", n.Kind)
	case n.Source != "" && !strings.HasPrefix(n.Source, "http://") && !strings.HasPrefix(n.Source, "https://"):
		return bad("source is %q: give the address of where the change is told, as in https://example.org/notes", n.Source)
	}
	if err := checkRenames(n.Renames); err != nil {
		return err
	}
	change, err := s.store.AddChange(c.Request().Context(), id, view.NewChange(n), notes.Read)
	if err != nil {
		return err
	}
	detail, err := s.store.Change(c.Request().Context(), id, change)
	if err != nil {
		return err
	}
	return c.JSON(http.StatusCreated, view.ChangeDetail(detail))
}

func checkRenames(list []api.Rename) error {
	for _, r := range list {
		if strings.TrimSpace(r.From) == "" || strings.TrimSpace(r.To) == "" || r.From == r.To {
			return bad("a pair of names is %q and %q: give the old and the new one", r.From, r.To)
		}
	}
	return nil
}

// SayOfChange answers PUT /upgrades/{upgrade}/changes/{change}.
func (s *Service) SayOfChange(c *echo.Context, id api.UpgradeID, change api.ChangeID) error {
	w, err := body[api.ChangeWord](c)
	if err != nil {
		return err
	}
	w.Reason = strings.TrimSpace(w.Reason)
	switch {
	case w.Reason == "":
		return bad("reason is empty: say in a sentence why, for whoever reads it later")
	case w.State == nil && w.Kind == nil && w.Renames == nil:
		return bad("nothing is said: give state, kind or renames")
	case w.State != nil && !w.State.Valid():
		return bad("state is %q: give not-used, exposed, handled, later, or nothing to leave it to the evidence", *w.State)
	case w.Kind != nil && !w.Kind.Valid():
		return bad("kind is %q: give removed, renamed, moved, signature, behaviour, default, deprecated, requirement, added or fixed", *w.Kind)
	}
	if w.Renames != nil {
		if err := checkRenames(*w.Renames); err != nil {
			return err
		}
	}
	if err := s.store.SayOfChange(c.Request().Context(), id, change, view.ChangeWord(w)); err != nil {
		return err
	}
	return answerAs(c, view.ChangeDetail)(s.store.Change(c.Request().Context(), id, change))
}

// GetVersions answers GET /upgrades/{upgrade}/versions.
func (s *Service) GetVersions(c *echo.Context, id api.UpgradeID) error {
	a, err := s.store.Inspect(c.Request().Context(), id)
	if err != nil {
		return err
	}
	defer a.Cancel()
	baseline, latest, err := a.Trees()
	if err != nil {
		return err
	}
	told, err := toldOf(a)
	if err != nil {
		return err
	}
	if latest == nil {
		return c.JSON(http.StatusOK, view.Versions(versions.Comparison{Warnings: []string{"no run came with its source tree: record one in a git working copy"}}))
	}
	if baseline == nil {
		same := versions.Compare(versions.Read(latest), versions.Read(latest), told)
		same.Warnings = []string{"no accepted run came with its source tree: what moved cannot be told"}
		return c.JSON(http.StatusOK, view.Versions(same))
	}
	return c.JSON(http.StatusOK, view.Versions(versions.Compare(versions.Read(baseline), versions.Read(latest), told)))
}

// toldOf is what a leg and its notes say of versions.
func toldOf(a *store.Analysis) (versions.Context, error) {
	var told versions.Context
	moves, err := a.Moves()
	if err != nil {
		return told, err
	}
	told.Moves = moves
	list, err := a.Changes()
	if err != nil {
		return told, err
	}
	told.Renames, told.Asked = triage.Asked(list, moves)
	told.Seen, err = a.Seen()
	return told, err
}
