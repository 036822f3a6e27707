package store

import (
	"context"
	"fmt"
	"time"

	"github.com/jmoiron/sqlx"

	"unicausa/internal/api"
)

type upgradeRow struct {
	ID        int64     `db:"id"`
	Project   string    `db:"project"`
	Name      string    `db:"name"`
	Leg       int       `db:"leg"`
	CreatedAt time.Time `db:"created_at"`
}

const selectUpgrade = `
	SELECT u.id, p.name AS project, u.name, u.created_at, max(l.number) FILTER (WHERE l.status = 'current') AS leg
	FROM upgrade u JOIN project p ON p.id = u.project_id JOIN leg l ON l.upgrade_id = u.id`

// Begin makes an upgrade with its first leg, and the project when it is new.
// An upgrade of that name in the project gives ErrConflict.
func (s *Store) Begin(ctx context.Context, n api.NewUpgrade) (api.Upgrade, error) {
	var id int64
	err := s.inTx(ctx, func(tx *sqlx.Tx) error {
		var project int64
		err := tx.GetContext(ctx, &project, `
			INSERT INTO project (name) VALUES ($1) ON CONFLICT (name) DO UPDATE SET name = excluded.name RETURNING id`, n.Project)
		if err != nil {
			return fmt.Errorf("storing the project: %w", err)
		}
		err = tx.GetContext(ctx, &id, `INSERT INTO upgrade (project_id, name) VALUES ($1, $2) RETURNING id`, project, n.Name)
		if duplicate(err) {
			return fmt.Errorf("the upgrade %q of %s: %w", n.Name, n.Project, ErrConflict)
		}
		if err != nil {
			return fmt.Errorf("storing the upgrade: %w", err)
		}
		var leg int64
		if err := tx.GetContext(ctx, &leg, `INSERT INTO leg (upgrade_id, number) VALUES ($1, 1) RETURNING id`, id); err != nil {
			return fmt.Errorf("storing the leg: %w", err)
		}
		if err := addMoves(ctx, tx, leg, n.Moves); err != nil {
			return err
		}
		return addEvent(ctx, tx, id, event{kind: "begun", text: n.Project + ": " + n.Name + " begun"})
	})
	if err != nil {
		return api.Upgrade{}, err
	}
	return s.Upgrade(ctx, id)
}

// Upgrades lists all upgrades, the latest first.
func (s *Store) Upgrades(ctx context.Context) ([]api.Upgrade, error) {
	var rows []upgradeRow
	if err := s.db.SelectContext(ctx, &rows, selectUpgrade+` GROUP BY u.id, p.name ORDER BY u.id DESC`); err != nil {
		return nil, fmt.Errorf("reading the upgrades: %w", err)
	}
	list := make([]api.Upgrade, 0, len(rows))
	for _, r := range rows {
		u, err := s.withMoves(ctx, r)
		if err != nil {
			return nil, err
		}
		list = append(list, u)
	}
	return list, nil
}

// Upgrade is one upgrade, or ErrNotFound.
func (s *Store) Upgrade(ctx context.Context, id int64) (api.Upgrade, error) {
	var r upgradeRow
	err := s.db.GetContext(ctx, &r, selectUpgrade+` WHERE u.id = $1 GROUP BY u.id, p.name`, id)
	if err := found(err, fmt.Sprintf("upgrade %d", id)); err != nil {
		return api.Upgrade{}, err
	}
	return s.withMoves(ctx, r)
}

func (s *Store) withMoves(ctx context.Context, r upgradeRow) (api.Upgrade, error) {
	u := api.Upgrade{ID: r.ID, Project: r.Project, Name: r.Name, CreatedAt: r.CreatedAt, Leg: api.Leg{Number: r.Leg}}
	moves, err := s.moves(ctx, s.db, r.ID)
	if u.Leg.Moves = moves[r.Leg]; u.Leg.Moves == nil {
		u.Leg.Moves = []api.Move{}
	}
	return u, err
}

// leg is the leg that an upgrade stands in, or ErrNotFound.
func (s *Store) leg(ctx context.Context, q sqlx.QueryerContext, upgrade int64) (int64, error) {
	var id int64
	err := sqlx.GetContext(ctx, q, &id, `SELECT id FROM leg WHERE upgrade_id = $1 AND status = 'current' ORDER BY number DESC LIMIT 1`, upgrade)
	return id, found(err, fmt.Sprintf("upgrade %d", upgrade))
}
