package service

import (
	"context"
	"fmt"
	"net/http"
	"strings"

	"github.com/labstack/echo/v5"

	"unicausa/internal/api"
	"unicausa/internal/core/compare"
	"unicausa/internal/core/symptom"
	"unicausa/internal/store"
	"unicausa/internal/view"
)

// ListRunSymptoms answers GET /upgrades/{upgrade}/runs/{run}/symptoms.
func (s *Service) ListRunSymptoms(c *echo.Context, id api.UpgradeID, number api.RunID) error {
	return answerAs(c, view.RunSymptoms)(s.store.RunSymptoms(c.Request().Context(), id, number))
}

// ListTests answers GET /upgrades/{upgrade}/tests.
func (s *Service) ListTests(c *echo.Context, id api.UpgradeID) error {
	return answerAs(c, view.Tests)(s.store.Tests(c.Request().Context(), id))
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
	return answerAs(c, view.Hits)(s.store.SearchInput(c.Request().Context(), id, input, from, params.Text))
}

// CompareRuns answers GET /upgrades/{upgrade}/runs/{run}/against/{other}.
func (s *Service) CompareRuns(c *echo.Context, id api.UpgradeID, later api.RunID, earlier int) error {
	compared, err := s.compare(c.Request().Context(), id, earlier, later)
	if err != nil {
		return err
	}
	return c.JSON(http.StatusOK, view.Comparison(compared.earlier, compared.later, compared.symptoms, compared.lost, compared.notices))
}

// comparison is two runs of an upgrade set against each other.
type comparison struct {
	earlier, later store.Run
	symptoms       []symptom.Symptom
	lost           []string // tests, a sentence each
	notices        []string
}

func (s *Service) compare(ctx context.Context, id int64, earlier, later int) (comparison, error) {
	var c comparison
	var err error
	if c.earlier, err = s.store.Run(ctx, id, earlier); err != nil {
		return c, err
	}
	if c.later, err = s.store.Run(ctx, id, later); err != nil {
		return c, err
	}
	for _, r := range []store.Run{c.earlier, c.later} {
		if r.Status != "processed" {
			return c, bad("run %d is not processed yet: ask again in a moment", r.Number)
		}
	}
	a, err := s.store.Inspect(ctx, id)
	if err != nil {
		return c, err
	}
	defer a.Cancel()
	before, old, err := sideOf(a, earlier)
	if err != nil {
		return c, err
	}
	after, now, err := sideOf(a, later)
	if err != nil {
		return c, err
	}
	moves, err := a.Moves()
	if err != nil {
		return c, err
	}
	for i := range moves {
		if c.later.Baseline { // where the old version is right
			moves[i].From = ""
		}
	}
	c.symptoms = compare.States(before, after)
	for _, l := range compare.LostTests(old.Tests, now.Tests, nil, now.Count.Telling) {
		c.lost = append(c.lost, strings.ReplaceAll(l.Symptom().Message, "in the baseline", "in the earlier run"))
	}
	old.Name = fmt.Sprintf("run %d", earlier)
	c.notices = compare.Notices(old, now, moves)
	return c, nil
}

// sideOf reads a run as one side of a comparison.
func sideOf(a *store.Analysis, number int) (compare.Side, compare.Made, error) {
	run, err := a.Ref(number)
	if err != nil {
		return compare.Side{}, compare.Made{}, err
	}
	recorded, err := a.Recorded(run)
	if err != nil {
		return compare.Side{}, compare.Made{}, err
	}
	return recorded[0].Side(), recorded[0].Made(), nil
}

// ListRuns answers GET /upgrades/{upgrade}/runs.
func (s *Service) ListRuns(c *echo.Context, id api.UpgradeID) error {
	return answerAs(c, view.Runs)(s.store.Runs(c.Request().Context(), id))
}

// GetRun answers GET /upgrades/{upgrade}/runs/{run}.
func (s *Service) GetRun(c *echo.Context, id api.UpgradeID, run api.RunID) error {
	return answerAs(c, view.Run)(s.store.Run(c.Request().Context(), id, run))
}

// AcceptBaseline answers POST /upgrades/{upgrade}/baseline.
func (s *Service) AcceptBaseline(c *echo.Context, id api.UpgradeID) error {
	return answerAs(c, view.Runs)(s.store.AcceptBaseline(c.Request().Context(), id, who(c).Name))
}

// GetInputLines answers GET /upgrades/{upgrade}/inputs/{input}/lines.
func (s *Service) GetInputLines(c *echo.Context, id api.UpgradeID, input api.InputID, p api.GetInputLinesParams) error {
	from, count, err := window(p.From, p.Count)
	if err != nil {
		return err
	}
	return answerAs(c, view.Lines)(s.store.InputLines(c.Request().Context(), id, input, from, count))
}
