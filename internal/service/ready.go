package service

import (
	"io"
	"net/http"
	"strings"

	"github.com/labstack/echo/v5"

	"unicausa/internal/api"
	"unicausa/internal/core/symptom"
	"unicausa/internal/core/versions"
	"unicausa/internal/store"
)

// mostListing bounds what is read of one listing, in bytes.
const mostListing = 16 << 20

// GetReady answers GET /upgrades/{upgrade}/ready.
func (s *Service) GetReady(c *echo.Context, id api.UpgradeID) error {
	a, err := s.store.Inspect(c.Request().Context(), id)
	if err != nil {
		return err
	}
	defer a.Cancel()
	list, asked, err := readyOf(a)
	if err != nil {
		return err
	}
	return c.JSON(http.StatusOK, api.Ready{Dependencies: list, Asked: asked})
}

// readyOf is who accepts what the leg moves to, and the run in which package managers were
// asked.
func readyOf(a *store.Analysis) ([]api.Dependency, int, error) {
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
	intents := make([]versions.Intent, 0, len(moves))
	for _, m := range moves {
		intents = append(intents, versions.Intent{Package: m.Package, From: m.From, To: m.To})
	}
	list := []api.Dependency{}
	for _, d := range versions.Ready(versions.Read(latest), intents, said) {
		list = append(list, api.Dependency{
			Name: d.Name, Ecosystem: d.Ecosystem, Has: d.Has, Newest: d.Newest, Of: d.Of, Wants: d.Wants, State: api.DependencyState(d.State), By: needsView(d.By),
		})
	}
	return list, run, nil
}

// listed keeps what the inputs of a run of the check "ready" say.
func listed(a *store.Analysis, run *store.RunRef, inputs []int64) error {
	var all versions.Listing
	for _, id := range inputs {
		text, err := io.ReadAll(io.LimitReader(a.Raw(id), mostListing))
		if err != nil {
			return err
		}
		l := versions.ReadListing(string(text))
		all.Listed, all.Refusals = append(all.Listed, l.Listed...), append(all.Refusals, l.Refusals...)
	}
	return a.SaveListing(run.Number, all)
}

// notReadyFor is the dependency that a cause is about: one that is not ready and that a
// resolver's symptom of the cause names.
func notReadyFor(a *store.Analysis, d *api.CauseDetail) (*api.Dependency, error) {
	var said strings.Builder
	for _, s := range d.Symptoms {
		if s.Kind == string(symptom.Resolve) {
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
		if list[i].State == api.DependencyStateNotReady && strings.Contains(said.String(), list[i].Name+"@") {
			return &list[i], nil
		}
	}
	return nil, nil
}
