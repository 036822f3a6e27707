package store

import (
	"context"
	"database/sql"
	"errors"
	"fmt"

	"github.com/jmoiron/sqlx"

	"unicausa/internal/core/versions"
)

// SaveListing keeps what package managers said in a run.
func (a *Analysis) SaveListing(run int, l versions.Listing) error {
	_, err := a.tx.ExecContext(a.ctx, `INSERT INTO listing (upgrade_id, run, said) VALUES ($1, $2, $3)
		ON CONFLICT (upgrade_id) DO UPDATE SET run = excluded.run, said = excluded.said WHERE listing.run <= excluded.run`, a.Upgrade, run, asJSON(l))
	if err != nil {
		return fmt.Errorf("storing what package managers say: %w", err)
	}
	return nil
}

// Listing is what package managers said last, and in which run; run 0 for never.
func (a *Analysis) Listing() (l versions.Listing, run int, err error) {
	return listing(a.ctx, a.tx, a.Upgrade)
}

func listing(ctx context.Context, q sqlx.QueryerContext, upgrade int64) (versions.Listing, int, error) {
	var row struct {
		Run  int                   `db:"run"`
		Said doc[versions.Listing] `db:"said"`
	}
	err := sqlx.GetContext(ctx, q, &row, `SELECT run, said FROM listing WHERE upgrade_id = $1`, upgrade)
	if errors.Is(err, sql.ErrNoRows) {
		return versions.Listing{}, 0, nil
	}
	if err != nil {
		return versions.Listing{}, 0, fmt.Errorf("reading what package managers say: %w", err)
	}
	return row.Said.v, row.Run, nil
}
