package client

import (
	"context"

	"unicausa/internal/api"
)

// Review asks what came with a commit, or since the baseline where none is named, and
// what asks for it.
func (c *Client) Review(ctx context.Context, upgrade int64, commit string) (api.Review, error) {
	p := &api.GetReviewParams{}
	if commit != "" {
		p.Commit = &commit
	}
	r, err := c.api.GetReviewWithResponse(ctx, upgrade, p)
	if err != nil {
		return api.Review{}, c.unreachable(err)
	}
	return result(c, r.JSON200, r.Body, r.HTTPResponse)
}

// ReviewDiff asks what asks for a diff.
func (c *Client) ReviewDiff(ctx context.Context, upgrade int64, d api.DiffText) (api.Review, error) {
	r, err := c.api.ReviewDiffWithResponse(ctx, upgrade, d)
	if err != nil {
		return api.Review{}, c.unreachable(err)
	}
	return result(c, r.JSON200, r.Body, r.HTTPResponse)
}
