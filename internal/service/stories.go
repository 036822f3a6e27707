package service

import (
	"bytes"
	"fmt"
	"net/http"

	"github.com/labstack/echo/v5"

	"unicausa/internal/api"
	"unicausa/internal/report"
	"unicausa/internal/view"
)

// TellStory answers GET /upgrades/{upgrade}/stories/{story}.
func (s *Service) TellStory(c *echo.Context, id api.UpgradeID, story string, p api.TellStoryParams) error {
	ctx := c.Request().Context()
	var t report.Told
	var err error
	if t.Overview, err = s.overview(ctx, id); err != nil {
		return err
	}
	for _, l := range t.Overview.Legs {
		causes, err := s.store.CausesOf(ctx, id, l.Number)
		if err != nil {
			return err
		}
		t.Causes = append(t.Causes, view.Causes(causes)...)
	}
	commits, err := s.store.Commits(ctx, id)
	if err != nil {
		return err
	}
	debts, err := s.store.Debts(ctx, id)
	if err != nil {
		return err
	}
	runs, err := s.store.Runs(ctx, id)
	if err != nil {
		return err
	}
	t.Commits, t.Debts, t.Runs = view.Commits(commits), view.Debts(debts), view.Runs(runs)
	if report.Story(story) == report.PullRequest {
		r, err := s.review(ctx, id, "", 0)
		if err != nil {
			return err
		}
		t.Review = &r
	}
	t.URL = fmt.Sprintf("%s://%s/upgrades/%d", c.Scheme(), c.Request().Host, id)
	write, media := report.StoryMarkdown, "text/markdown; charset=utf-8"
	if p.Format != nil && *p.Format == "html" {
		write, media = report.StoryHTML, "text/html; charset=utf-8"
	}
	framed(c.Response().Header())
	var out bytes.Buffer
	if err := write(&out, report.Story(story), &t); err != nil {
		return bad("%v", err)
	}
	return c.Blob(http.StatusOK, media, out.Bytes())
}
