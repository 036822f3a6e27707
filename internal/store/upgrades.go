package store

import (
	"context"
	"fmt"
	"time"

	"github.com/jmoiron/sqlx"

	"unicausa/internal/core/versions"
)

// Upgrade is an upgrade of a project, at the leg that it stands in.
type Upgrade struct {
	ID        int64           `db:"id"`
	Project   string          `db:"project"`
	Name      string          `db:"name"`
	Leg       int             `db:"leg"` // its number
	Moves     []versions.Move `db:"-"`   // of the leg
	CreatedAt time.Time       `db:"created_at"`
}

const selectUpgrade = `
	SELECT u.id, p.name AS project, u.name, u.created_at, max(l.number) FILTER (WHERE l.status = 'current') AS leg
	FROM upgrade u JOIN project p ON p.id = u.project_id JOIN leg l ON l.upgrade_id = u.id`

// Begin makes an upgrade with its first leg, and the project when it is new.
// An upgrade of that name in the project gives ErrConflict.
func (s *Store) Begin(ctx context.Context, project, name string, moves []versions.Move) (Upgrade, error) {
	var id int64
	err := s.inTx(ctx, func(tx *sqlx.Tx) error {
		var projectID int64
		err := tx.GetContext(ctx, &projectID, `
			INSERT INTO project (name) VALUES ($1) ON CONFLICT (name) DO UPDATE SET name = excluded.name RETURNING id`, project)
		if err != nil {
			return fmt.Errorf("storing the project: %w", err)
		}
		err = tx.GetContext(ctx, &id, `INSERT INTO upgrade (project_id, name) VALUES ($1, $2) RETURNING id`, projectID, name)
		if duplicate(err) {
			return fmt.Errorf("the upgrade %q of %s: %w", name, project, ErrConflict)
		}
		if err != nil {
			return fmt.Errorf("storing the upgrade: %w", err)
		}
		var leg int64
		if err := tx.GetContext(ctx, &leg, `INSERT INTO leg (upgrade_id, number) VALUES ($1, 1) RETURNING id`, id); err != nil {
			return fmt.Errorf("storing the leg: %w", err)
		}
		if err := addMoves(ctx, tx, leg, moves); err != nil {
			return err
		}
		return addEvent(ctx, tx, id, event{kind: "begun", text: project + ": " + name + " begun"})
	})
	if err != nil {
		return Upgrade{}, err
	}
	return s.Upgrade(ctx, id)
}

// Upgrades lists all upgrades, the latest first.
func (s *Store) Upgrades(ctx context.Context) ([]Upgrade, error) {
	var list []Upgrade
	if err := s.db.SelectContext(ctx, &list, selectUpgrade+` GROUP BY u.id, p.name ORDER BY u.id DESC`); err != nil {
		return nil, fmt.Errorf("reading the upgrades: %w", err)
	}
	for i := range list {
		if err := s.withMoves(ctx, &list[i]); err != nil {
			return nil, err
		}
	}
	return list, nil
}

// Upgrade is one upgrade, or ErrNotFound.
func (s *Store) Upgrade(ctx context.Context, id int64) (Upgrade, error) {
	var u Upgrade
	err := s.db.GetContext(ctx, &u, selectUpgrade+` WHERE u.id = $1 GROUP BY u.id, p.name`, id)
	if err := found(err, fmt.Sprintf("upgrade %d", id)); err != nil {
		return Upgrade{}, err
	}
	return u, s.withMoves(ctx, &u)
}

// withMoves fills in what the upgrade's leg moves.
func (s *Store) withMoves(ctx context.Context, u *Upgrade) error {
	moves, err := s.moves(ctx, s.db, u.ID)
	u.Moves = moves[u.Leg]
	return err
}

// leg is the leg that an upgrade stands in, or ErrNotFound.
func (s *Store) leg(ctx context.Context, q sqlx.QueryerContext, upgrade int64) (int64, error) {
	var id int64
	err := sqlx.GetContext(ctx, q, &id, `SELECT id FROM leg WHERE upgrade_id = $1 AND status = 'current' ORDER BY number DESC LIMIT 1`, upgrade)
	return id, found(err, fmt.Sprintf("upgrade %d", upgrade))
}
