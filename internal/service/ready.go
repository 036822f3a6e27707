package service

import (
	"strings"

	"github.com/labstack/echo/v5"

	"unicausa/internal/api"
	"unicausa/internal/core/symptom"
	"unicausa/internal/core/versions"
	"unicausa/internal/store"
	"unicausa/internal/view"
)

// GetReady answers GET /upgrades/{upgrade}/ready.
func (s *Service) GetReady(c *echo.Context, id api.UpgradeID) error {
	a, err := s.store.Inspect(c.Request().Context(), id)
	if err != nil {
		return err
	}
	defer a.Cancel()
	list, asked, err := readyOf(a)
	return answer(c)(api.Ready{Dependencies: view.Dependencies(list), Asked: asked}, err)
}

// readyOf is who accepts what the leg moves to, and the run in which package managers were
// asked.
func readyOf(a *store.Analysis) ([]versions.Dependency, int, error) {
	_, latest, err := a.Trees()
	if err != nil {
		return nil, 0, err
	}
	moves, err := a.Moves()
	if err != nil {
		return nil, 0, err
	}
	said, run, err := a.Listing()
	if err != nil {
		return nil, 0, err
	}
	return versions.Ready(versions.Read(latest), moves, said), run, nil
}

// notReadyFor is the dependency that a cause is about: one that is not ready and that a
// resolver's symptom of the cause names.
func notReadyFor(a *store.Analysis, symptoms []store.Symptom) (*api.Dependency, error) {
	var said strings.Builder
	for _, s := range symptoms {
		if s.Kind == symptom.Resolve {
			said.WriteString(s.Message + " ")
		}
	}
	if said.Len() == 0 {
		return nil, nil
	}
	list, _, err := readyOf(a)
	if err != nil {
		return nil, err
	}
	for i := range list {
		if list[i].State == versions.NotReady && strings.Contains(said.String(), list[i].Name+"@") {
			d := view.Dependency(list[i])
			return &d, nil
		}
	}
	return nil, nil
}
