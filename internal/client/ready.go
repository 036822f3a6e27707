package client

import (
	"context"

	"unicausa/internal/api"
)

// Ready asks who accepts what the leg moves to.
func (c *Client) Ready(ctx context.Context, upgrade int64) (api.Ready, error) {
	r, err := c.api.GetReadyWithResponse(ctx, upgrade)
	if err != nil {
		return api.Ready{}, c.unreachable(err)
	}
	return result(c, r.JSON200, r.Body, r.HTTPResponse)
}

// Find finds causes, files, tests, changes and runs by name or number.
func (c *Client) Find(ctx context.Context, upgrade int64, text string) ([]api.Found, error) {
	r, err := c.api.FindWithResponse(ctx, upgrade, &api.FindParams{Text: text})
	if err != nil {
		return nil, c.unreachable(err)
	}
	return result(c, r.JSON200, r.Body, r.HTTPResponse)
}
