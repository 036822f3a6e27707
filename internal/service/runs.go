package service

import (
	"context"
	"fmt"
	"net/http"
	"sort"
	"strings"

	"github.com/labstack/echo/v5"

	"unicausa/internal/api"
	"unicausa/internal/core/compare"
	"unicausa/internal/core/source"
	"unicausa/internal/core/symptom"
	"unicausa/internal/store"
)

// ListRunSymptoms answers GET /upgrades/{upgrade}/runs/{run}/symptoms.
func (s *Service) ListRunSymptoms(c *echo.Context, id api.UpgradeID, number api.RunID) error {
	list, err := s.store.RunSymptoms(c.Request().Context(), id, number)
	if err != nil {
		return err
	}
	return c.JSON(http.StatusOK, list)
}

// ListTests answers GET /upgrades/{upgrade}/tests.
func (s *Service) ListTests(c *echo.Context, id api.UpgradeID) error {
	table, err := s.store.Tests(c.Request().Context(), id)
	if err != nil {
		return err
	}
	return c.JSON(http.StatusOK, table)
}

// SearchInput answers GET /upgrades/{upgrade}/inputs/{input}/search.
func (s *Service) SearchInput(c *echo.Context, id api.UpgradeID, input api.InputID, params api.SearchInputParams) error {
	if strings.TrimSpace(params.Text) == "" {
		return bad("text is empty: say what the lines have to hold")
	}
	from := 1
	if params.From != nil {
		from = *params.From
	}
	hits, err := s.store.SearchInput(c.Request().Context(), id, input, from, params.Text)
	if err != nil {
		return err
	}
	return c.JSON(http.StatusOK, hits)
}

// CompareRuns answers GET /upgrades/{upgrade}/runs/{run}/against/{other}.
func (s *Service) CompareRuns(c *echo.Context, id api.UpgradeID, later api.RunID, earlier int) error {
	return answer(c)(s.compare(c.Request().Context(), id, earlier, later))
}

func (s *Service) compare(ctx context.Context, id int64, earlier, later int) (api.Comparison, error) {
	out := api.Comparison{Symptoms: []api.Compared{}, Lost: []string{}, Notices: []string{}}
	var err error
	if out.Earlier, err = s.store.Run(ctx, id, earlier); err != nil {
		return out, err
	}
	if out.Later, err = s.store.Run(ctx, id, later); err != nil {
		return out, err
	}
	for _, r := range []api.Run{out.Earlier, out.Later} {
		if r.Status != "processed" {
			return out, bad("run %d is not processed yet: ask again in a moment", r.Number)
		}
	}
	a, err := s.store.Inspect(ctx, id)
	if err != nil {
		return out, err
	}
	defer a.Cancel()
	before, old, err := sideOf(a, earlier)
	if err != nil {
		return out, err
	}
	after, now, err := sideOf(a, later)
	if err != nil {
		return out, err
	}
	places := placesOf(out.Earlier, out.Later)
	for _, m := range compare.States(before, after) {
		out.Symptoms = append(out.Symptoms, api.Compared{State: api.ComparedState(m.State), Kind: string(m.Kind), Message: m.Message, File: m.File, Line: m.Line, Test: m.Test, Places: places(m.At)})
	}
	order := map[api.ComparedState]int{"new": 0, "absent": 1, "updated": 2, "unchanged": 3}
	sort.SliceStable(out.Symptoms, func(i, j int) bool { return order[out.Symptoms[i].State] < order[out.Symptoms[j].State] })
	for _, l := range compare.LostTests(old.Tests, now.Tests, nil, now.Count.Telling) {
		m := l.Symptom()
		out.Lost = append(out.Lost, strings.ReplaceAll(m.Message, "in the baseline", "in the earlier run"))
	}
	moves, err := a.Moves()
	if err != nil {
		return out, err
	}
	meant := moving(moves)
	for i := range meant {
		if out.Later.Baseline { // where the old version is right
			meant[i].From = ""
		}
	}
	old.Name = fmt.Sprintf("run %d", earlier)
	out.Notices = append(out.Notices, compare.Notices(old, now, meant)...)
	return out, nil
}

// sideOf reads a run as one side of a comparison.
func sideOf(a *store.Analysis, number int) (compare.Side, compare.Made, error) {
	r, err := a.Ref(number)
	if err != nil {
		return compare.Side{}, compare.Made{}, err
	}
	results, err := a.Results([]store.RunRef{r})
	if err != nil {
		return compare.Side{}, compare.Made{}, err
	}
	tree, err := a.Tree(r.Source)
	if err != nil {
		return compare.Side{}, compare.Made{}, err
	}
	var list []symptom.Symptom
	for _, result := range results {
		list = append(list, result.Symptoms...)
	}
	side := compare.Side{Symptoms: symptom.Merge(list), Trees: map[string]*source.Tree{}}
	for _, m := range side.Symptoms {
		side.Trees[m.ID] = tree
	}
	return side, r.Made(tests(results)), nil
}

// placesOf turns the places of two runs' symptoms into those of the API.
func placesOf(runs ...api.Run) func([]symptom.At) []api.Place {
	type where struct {
		run   api.Run
		input api.Input
	}
	byName := map[string]where{}
	for _, r := range runs {
		for _, in := range r.Inputs {
			byName[store.InputName(r.Number, in.Name)] = where{r, in}
		}
	}
	return func(at []symptom.At) []api.Place {
		list := []api.Place{}
		for _, p := range at {
			w := byName[p.Input]
			list = append(list, api.Place{InputID: w.input.ID, Input: w.input.Name, Run: w.run.Number, Check: w.run.Facts.Check, Line: p.Line, End: p.End})
		}
		return list
	}
}
