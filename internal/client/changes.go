package client

import (
	"context"

	"unicausa/internal/api"
)

// Changes lists the changes of all notes, and what each is to the code.
func (c *Client) Changes(ctx context.Context, upgrade int64) ([]api.ChangeRow, error) {
	r, err := c.api.ListChangesWithResponse(ctx, upgrade)
	if err != nil {
		return nil, c.unreachable(err)
	}
	return result(c, r.JSON200, r.Body, r.HTTPResponse)
}

// Change is one change with the places it touches.
func (c *Client) Change(ctx context.Context, upgrade int64, id string) (api.ChangeDetail, error) {
	r, err := c.api.GetChangeWithResponse(ctx, upgrade, id)
	if err != nil {
		return api.ChangeDetail{}, c.unreachable(err)
	}
	return result(c, r.JSON200, r.Body, r.HTTPResponse)
}

// AddChange adds a change that the notes forgot.
func (c *Client) AddChange(ctx context.Context, upgrade int64, n api.NewChange) (api.ChangeDetail, error) {
	r, err := c.api.AddChangeWithResponse(ctx, upgrade, n)
	if err != nil {
		return api.ChangeDetail{}, c.unreachable(err)
	}
	return result(c, r.JSON201, r.Body, r.HTTPResponse)
}

// SayOfChange sets a change's state, or corrects it.
func (c *Client) SayOfChange(ctx context.Context, upgrade int64, id string, w api.ChangeWord) (api.ChangeDetail, error) {
	r, err := c.api.SayOfChangeWithResponse(ctx, upgrade, id, w)
	if err != nil {
		return api.ChangeDetail{}, c.unreachable(err)
	}
	return result(c, r.JSON200, r.Body, r.HTTPResponse)
}

// Patch asks for the patch of a change, for certain files and places or for all.
func (c *Client) Patch(ctx context.Context, upgrade int64, id string, only []string) (api.Patch, error) {
	p := &api.GetPatchParams{}
	if len(only) > 0 {
		p.Only = &only
	}
	r, err := c.api.GetPatchWithResponse(ctx, upgrade, id, p)
	if err != nil {
		return api.Patch{}, c.unreachable(err)
	}
	return result(c, r.JSON200, r.Body, r.HTTPResponse)
}

// PatchByExample asks for the patch of the edit that examples show.
func (c *Client) PatchByExample(ctx context.Context, upgrade int64, asked api.Examples) (api.Patch, error) {
	r, err := c.api.PatchByExampleWithResponse(ctx, upgrade, asked)
	if err != nil {
		return api.Patch{}, c.unreachable(err)
	}
	return result(c, r.JSON200, r.Body, r.HTTPResponse)
}

// Versions tells what moved.
func (c *Client) Versions(ctx context.Context, upgrade int64) (api.Versions, error) {
	r, err := c.api.GetVersionsWithResponse(ctx, upgrade)
	if err != nil {
		return api.Versions{}, c.unreachable(err)
	}
	return result(c, r.JSON200, r.Body, r.HTTPResponse)
}
