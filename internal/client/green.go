package client

import (
	"bytes"
	"context"
	"io"
	"net/http"

	"unicausa/internal/api"
)

// gone is the answer to an act that gives nothing back.
func (c *Client) gone(status int, body []byte) error {
	if status == http.StatusNoContent {
		return nil
	}
	return c.problem(status, body)
}

// Legs lists the legs of an upgrade's route.
func (c *Client) Legs(ctx context.Context, upgrade int64) ([]api.LegRow, error) {
	r, err := c.api.ListLegsWithResponse(ctx, upgrade)
	if err != nil {
		return nil, c.unreachable(err)
	}
	return result(c, r.JSON200, r.Body, r.HTTPResponse)
}

// ChangeRoute plans a leg, goes on to the next, or begins the current one anew.
func (c *Client) ChangeRoute(ctx context.Context, upgrade int64, n api.NewLeg) (api.LegRow, error) {
	r, err := c.api.ChangeRouteWithResponse(ctx, upgrade, n)
	if err != nil {
		return api.LegRow{}, c.unreachable(err)
	}
	return result(c, r.JSON201, r.Body, r.HTTPResponse)
}

// ProposeRoute asks for the legs that the notes suggest.
func (c *Client) ProposeRoute(ctx context.Context, upgrade int64) ([]api.ProposedLeg, error) {
	r, err := c.api.ProposeRouteWithResponse(ctx, upgrade)
	if err != nil {
		return nil, c.unreachable(err)
	}
	return result(c, r.JSON200, r.Body, r.HTTPResponse)
}

// Preparation lists what has to be done before the bump.
func (c *Client) Preparation(ctx context.Context, upgrade int64) ([]api.Preparation, error) {
	r, err := c.api.GetPreparationWithResponse(ctx, upgrade)
	if err != nil {
		return nil, c.unreachable(err)
	}
	return result(c, r.JSON200, r.Body, r.HTTPResponse)
}

// Words lists what people vouch for.
func (c *Client) Words(ctx context.Context, upgrade int64) ([]api.Word, error) {
	r, err := c.api.ListWordsWithResponse(ctx, upgrade)
	if err != nil {
		return nil, c.unreachable(err)
	}
	return result(c, r.JSON200, r.Body, r.HTTPResponse)
}

// Vouch gives a word.
func (c *Client) Vouch(ctx context.Context, upgrade int64, n api.NewWord) (api.Word, error) {
	r, err := c.api.VouchWithResponse(ctx, upgrade, n)
	if err != nil {
		return api.Word{}, c.unreachable(err)
	}
	return result(c, r.JSON201, r.Body, r.HTTPResponse)
}

// TakeWordBack ends a word.
func (c *Client) TakeWordBack(ctx context.Context, upgrade, word int64) error {
	r, err := c.api.TakeWordBackWithResponse(ctx, upgrade, word)
	if err != nil {
		return c.unreachable(err)
	}
	return c.gone(r.StatusCode(), r.Body)
}

// UndoDecision takes a decision back.
func (c *Client) UndoDecision(ctx context.Context, upgrade, decision int64) error {
	r, err := c.api.UndoDecisionWithResponse(ctx, upgrade, decision)
	if err != nil {
		return c.unreachable(err)
	}
	return c.gone(r.StatusCode(), r.Body)
}

// Commits lists the commits of an upgrade with what each brought.
func (c *Client) Commits(ctx context.Context, upgrade int64) ([]api.Commit, error) {
	r, err := c.api.ListCommitsWithResponse(ctx, upgrade)
	if err != nil {
		return nil, c.unreachable(err)
	}
	return result(c, r.JSON200, r.Body, r.HTTPResponse)
}

// Debts lists the debts of an upgrade's project.
func (c *Client) Debts(ctx context.Context, upgrade int64) ([]api.Debt, error) {
	r, err := c.api.ListDebtsWithResponse(ctx, upgrade)
	if err != nil {
		return nil, c.unreachable(err)
	}
	return result(c, r.JSON200, r.Body, r.HTTPResponse)
}

// AddDebt writes a debt down.
func (c *Client) AddDebt(ctx context.Context, upgrade int64, n api.NewDebt) (api.Debt, error) {
	r, err := c.api.AddDebtWithResponse(ctx, upgrade, n)
	if err != nil {
		return api.Debt{}, c.unreachable(err)
	}
	return result(c, r.JSON201, r.Body, r.HTTPResponse)
}

// FoundDebts lists the code that puts something off and stands in no debt.
func (c *Client) FoundDebts(ctx context.Context, upgrade int64) ([]api.FoundDebt, error) {
	r, err := c.api.FindDebtsWithResponse(ctx, upgrade)
	if err != nil {
		return nil, c.unreachable(err)
	}
	return result(c, r.JSON200, r.Body, r.HTTPResponse)
}

// Debt is one debt with its code and the patch that takes it out.
func (c *Client) Debt(ctx context.Context, upgrade, debt int64) (api.DebtDetail, error) {
	r, err := c.api.GetDebtWithResponse(ctx, upgrade, debt)
	if err != nil {
		return api.DebtDetail{}, c.unreachable(err)
	}
	return result(c, r.JSON200, r.Body, r.HTTPResponse)
}

// SettleDebt says that a debt is paid.
func (c *Client) SettleDebt(ctx context.Context, upgrade, debt int64, how api.Settlement) (api.Debt, error) {
	r, err := c.api.SettleDebtWithResponse(ctx, upgrade, debt, how)
	if err != nil {
		return api.Debt{}, c.unreachable(err)
	}
	return result(c, r.JSON200, r.Body, r.HTTPResponse)
}

// Activity lists the acts and happenings of an upgrade, the latest first.
func (c *Client) Activity(ctx context.Context, upgrade int64, count int) ([]api.Event, error) {
	r, err := c.api.ListActivityWithResponse(ctx, upgrade, &api.ListActivityParams{Count: &count})
	if err != nil {
		return nil, c.unreachable(err)
	}
	return result(c, r.JSON200, r.Body, r.HTTPResponse)
}

// Story asks for a report for people as a document: "markdown" or "html".
func (c *Client) Story(ctx context.Context, upgrade int64, story, format string) ([]byte, error) {
	form := api.TellStoryParamsFormat(format)
	r, err := c.api.TellStoryWithResponse(ctx, upgrade, story, &api.TellStoryParams{Format: &form})
	if err != nil {
		return nil, c.unreachable(err)
	}
	if r.StatusCode() != http.StatusOK {
		return nil, c.problem(r.StatusCode(), r.Body)
	}
	return r.Body, nil
}

// Casebook asks for the settled causes as a file; private text only with it.
func (c *Client) Casebook(ctx context.Context, private bool) (api.Casebook, error) {
	r, err := c.api.GetCasebookWithResponse(ctx, &api.GetCasebookParams{Private: &private})
	if err != nil {
		return api.Casebook{}, c.unreachable(err)
	}
	return result(c, r.JSON200, r.Body, r.HTTPResponse)
}

// TakeCasebook hands a casebook to the service.
func (c *Client) TakeCasebook(ctx context.Context, file io.Reader) (api.Taken, error) {
	data, err := io.ReadAll(file)
	if err != nil {
		return api.Taken{}, err
	}
	r, err := c.api.AddToCasebookWithBodyWithResponse(ctx, "application/json", bytes.NewReader(data))
	if err != nil {
		return api.Taken{}, c.unreachable(err)
	}
	return result(c, r.JSON201, r.Body, r.HTTPResponse)
}
