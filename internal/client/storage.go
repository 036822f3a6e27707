package client

import (
	"context"
	"fmt"
	"io"
	"net/http"

	"unicausa/internal/api"
)

// Backup writes all records to w. The error says so where they broke off.
func (c *Client) Backup(ctx context.Context, w io.Writer) error {
	answer, err := c.api.GetBackup(ctx)
	if err != nil {
		return c.unreachable(err)
	}
	defer answer.Body.Close()
	if answer.StatusCode != http.StatusOK {
		said, _ := io.ReadAll(io.LimitReader(answer.Body, 1<<20))
		return c.problem(answer.StatusCode, said)
	}
	if _, err := io.Copy(w, answer.Body); err != nil {
		return fmt.Errorf("the backup broke off, and is not whole: %w", err)
	}
	return nil
}

// Restore puts a backup in the place of all records, and gives what is kept then.
func (c *Client) Restore(ctx context.Context, backup io.Reader) (api.Kept, error) {
	r, err := c.api.RestoreBackupWithBodyWithResponse(ctx, "application/octet-stream", backup)
	if err != nil {
		return api.Kept{}, c.unreachable(err)
	}
	return result(c, r.JSON200, r.Body, r.HTTPResponse)
}

// Prune lets go of raw output.
func (c *Client) Prune(ctx context.Context, p api.Prune) (api.Pruned, error) {
	r, err := c.api.PruneStorageWithResponse(ctx, p)
	if err != nil {
		return api.Pruned{}, c.unreachable(err)
	}
	return result(c, r.JSON200, r.Body, r.HTTPResponse)
}

// Delete deletes an upgrade with all that it holds.
func (c *Client) Delete(ctx context.Context, upgrade int64) error {
	r, err := c.api.DeleteUpgradeWithResponse(ctx, upgrade)
	if err != nil {
		return c.unreachable(err)
	}
	return c.gone(r.StatusCode(), r.Body)
}
