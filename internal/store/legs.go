package store

import (
	"context"
	"fmt"

	"github.com/jmoiron/sqlx"

	"unicausa/internal/core/symptom"
	"unicausa/internal/core/versions"
)

// moves reads the moves of an upgrade's legs by their numbers.
func (s *Store) moves(ctx context.Context, q sqlx.QueryerContext, upgrade int64) (map[int][]versions.Move, error) {
	var rows []struct {
		Leg     int    `db:"number"`
		Package string `db:"package"`
		From    string `db:"from_version"`
		To      string `db:"to_version"`
	}
	err := sqlx.SelectContext(ctx, q, &rows, `
		SELECT l.number, m.package, m.from_version, m.to_version FROM move m JOIN leg l ON l.id = m.leg_id WHERE l.upgrade_id = $1 ORDER BY l.number, m.ordinal`, upgrade)
	if err != nil {
		return nil, fmt.Errorf("reading the moves: %w", err)
	}
	byLeg := map[int][]versions.Move{}
	for _, r := range rows {
		byLeg[r.Leg] = append(byLeg[r.Leg], versions.Move{Package: r.Package, From: r.From, To: r.To})
	}
	return byLeg, nil
}

func addMoves(ctx context.Context, tx *sqlx.Tx, leg int64, moves []versions.Move) error {
	for i, m := range moves {
		if _, err := tx.ExecContext(ctx, `INSERT INTO move (leg_id, ordinal, package, from_version, to_version) VALUES ($1, $2, $3, $4, $5)`, leg, i, m.Package, m.From, m.To); err != nil {
			return fmt.Errorf("storing a move: %w", err)
		}
	}
	return nil
}

// Leg is a leg of an upgrade's route.
type Leg struct {
	Number int             `db:"number"`
	Status string          `db:"status"` // planned, current, done or abandoned
	Reason string          `db:"reason"` // why it was left or abandoned
	Runs   int             `db:"runs"`
	Causes int             `db:"causes"` // that it brought
	Left   int             `db:"left"`   // of them, not cleared and not decided
	Moves  []versions.Move `db:"-"`
}

// Legs lists the legs of an upgrade's route in order, or ErrNotFound.
func (s *Store) Legs(ctx context.Context, upgrade int64) ([]Leg, error) {
	var list []Leg
	err := s.db.SelectContext(ctx, &list, `
		SELECT l.number, l.status, l.reason, (SELECT count(*) FROM run r WHERE r.leg_id = l.id AND r.number IS NOT NULL) AS runs,
			count(c.id) FILTER (WHERE NOT c.known) AS causes,
			count(c.id) FILTER (WHERE NOT c.known AND c.status <> 'cleared' AND NOT EXISTS (SELECT FROM decision d WHERE d.cause_id = c.id AND d.undone_at IS NULL AND d.kind <> 'fix')) AS left
		FROM leg l LEFT JOIN cause c ON c.leg_id = l.id WHERE l.upgrade_id = $1 GROUP BY l.id ORDER BY l.number`, upgrade)
	if err != nil {
		return nil, fmt.Errorf("reading the legs: %w", err)
	}
	if len(list) == 0 {
		return nil, fmt.Errorf("upgrade %d: %w", upgrade, ErrNotFound)
	}
	moves, err := s.moves(ctx, s.db, upgrade)
	if err != nil {
		return nil, err
	}
	for i := range list {
		list[i].Moves = moves[list[i].Number]
	}
	return list, nil
}

// NewLeg is what a person says of a leg: what it moves, and why the current one is left.
type NewLeg struct {
	Moves          []versions.Move
	Reason, Author string
}

// PlanLeg puts a leg at the end of the route.
func (s *Store) PlanLeg(ctx context.Context, upgrade int64, n NewLeg) error {
	return s.inTx(ctx, func(tx *sqlx.Tx) error {
		if _, err := s.leg(ctx, tx, upgrade); err != nil {
			return err
		}
		leg, number, err := addLeg(ctx, tx, upgrade, "planned")
		if err == nil {
			err = addMoves(ctx, tx, leg, n.Moves)
		}
		if err != nil {
			return err
		}
		return addEvent(ctx, tx, upgrade, event{kind: "route", text: fmt.Sprintf("leg %d planned: %s", number, inWords(n.Moves)), author: n.Author})
	})
}

func addLeg(ctx context.Context, tx *sqlx.Tx, upgrade int64, status string) (id int64, number int, err error) {
	err = tx.QueryRowxContext(ctx, `
		INSERT INTO leg (upgrade_id, number, status) SELECT $1, max(number) + 1, $2 FROM leg WHERE upgrade_id = $1 RETURNING id, number`, upgrade, status).Scan(&id, &number)
	if err != nil {
		return 0, 0, fmt.Errorf("storing the leg: %w", err)
	}
	return id, number, nil
}

func inWords(moves []versions.Move) string {
	text := ""
	for i, m := range moves {
		if i > 0 {
			text += ", "
		}
		text += fmt.Sprintf("%s %s to %s", m.Package, m.From, m.To)
	}
	return text
}

// NextLeg ends the current leg and begins the next: the first that is planned,
// or one with the moves that are given. It is measured against the latest run
// of every check of the leg that ends, and takes over its notes of what moves
// again. Without either it returns ErrNotYet.
func (s *Store) NextLeg(ctx context.Context, upgrade int64, n NewLeg) error {
	return s.inTx(ctx, func(tx *sqlx.Tx) error {
		current, err := s.leg(ctx, tx, upgrade)
		if err != nil {
			return err
		}
		var next int64
		number := 0
		switch err := tx.QueryRowxContext(ctx, `SELECT id, number FROM leg WHERE upgrade_id = $1 AND status = 'planned' ORDER BY number LIMIT 1`, upgrade).Scan(&next, &number); {
		case len(n.Moves) > 0:
			if next, number, err = addLeg(ctx, tx, upgrade, "planned"); err != nil {
				return err
			}
			if err := addMoves(ctx, tx, next, n.Moves); err != nil {
				return err
			}
		case err != nil:
			return fmt.Errorf("%w: no leg is planned: say what moves next", ErrNotYet)
		}
		if _, err := tx.ExecContext(ctx, `UPDATE leg SET status = 'done', reason = $2 WHERE id = $1`, current, n.Reason); err != nil {
			return fmt.Errorf("storing the leg: %w", err)
		}
		if err := s.turnTo(ctx, tx, next, current); err != nil {
			return err
		}
		if _, err := baselineOf(ctx, tx, current, next); err != nil {
			return err
		}
		text := fmt.Sprintf("leg %d begun", number)
		if n.Reason != "" {
			text += ", with the gate shut: " + n.Reason
		}
		return addEvent(ctx, tx, upgrade, event{kind: "route", text: text, author: n.Author})
	})
}

// RestartLeg abandons the current leg and begins it anew, with its moves or
// with others, from the same baseline. What was recorded stays on record.
func (s *Store) RestartLeg(ctx context.Context, upgrade int64, n NewLeg) error {
	return s.inTx(ctx, func(tx *sqlx.Tx) error {
		current, err := s.leg(ctx, tx, upgrade)
		if err != nil {
			return err
		}
		next, number, err := addLeg(ctx, tx, upgrade, "planned")
		if err != nil {
			return err
		}
		if len(n.Moves) > 0 {
			err = addMoves(ctx, tx, next, n.Moves)
		} else if _, err = tx.ExecContext(ctx, `INSERT INTO move SELECT $2, ordinal, package, from_version, to_version FROM move WHERE leg_id = $1`, current, next); err != nil {
			err = fmt.Errorf("storing the moves: %w", err)
		}
		if err != nil {
			return err
		}
		if _, err := tx.ExecContext(ctx, `UPDATE leg SET status = 'abandoned', reason = $2 WHERE id = $1`, current, n.Reason); err != nil {
			return fmt.Errorf("storing the leg: %w", err)
		}
		if err := s.turnTo(ctx, tx, next, current); err != nil {
			return err
		}
		if _, err := tx.ExecContext(ctx, `INSERT INTO baseline SELECT $2, run_id FROM baseline WHERE leg_id = $1`, current, next); err != nil {
			return fmt.Errorf("storing the baseline: %w", err)
		}
		return addEvent(ctx, tx, upgrade, event{kind: "route", text: fmt.Sprintf("a leg abandoned (%s), leg %d begun in its place", n.Reason, number), author: n.Author})
	})
}

// turnTo makes a leg the current one, with the notes of the one before it on
// what moves again.
func (s *Store) turnTo(ctx context.Context, tx *sqlx.Tx, next, before int64) error {
	for _, q := range []string{
		`UPDATE leg SET status = 'current' WHERE id = $1 AND $2 > 0`,
		`INSERT INTO notes (leg_id, name, package, text) SELECT $1, name, package, text FROM notes n
			WHERE leg_id = $2 AND (package = '' OR package IN (SELECT package FROM move WHERE leg_id = $1)) AND NOT EXISTS (SELECT FROM notes o WHERE o.leg_id = $1 AND o.name = n.name AND o.package = n.package)`,
		`INSERT INTO change (notes_id, identity, line, facts) SELECT n.id, c.identity, c.line, c.facts FROM notes n
			JOIN notes o ON o.leg_id = $2 AND o.name = n.name AND o.package = n.package JOIN change c ON c.notes_id = o.id WHERE n.leg_id = $1`,
	} {
		if _, err := tx.ExecContext(ctx, q, next, before); err != nil {
			return fmt.Errorf("beginning the leg: %w", err)
		}
	}
	return s.enqueue(ctx, tx, next)
}

// Earlier are the names of the causes of the upgrade's other legs: they are not
// given again.
func (a *Analysis) Earlier() ([]string, error) {
	var names []string
	err := a.tx.SelectContext(a.ctx, &names, `SELECT c.name FROM cause c JOIN leg l ON l.id = c.leg_id WHERE l.upgrade_id = $1 AND l.id <> $2`, a.Upgrade, a.Leg)
	if err != nil {
		return nil, fmt.Errorf("reading the causes: %w", err)
	}
	return names, nil
}

// OutOfSight are the symptoms that the leg before, which is done, left out of sight: no
// run of it could have shown them at its end. Leg is its number, 0 for none.
func (a *Analysis) OutOfSight() (leg int, list []symptom.Symptom, err error) {
	var rows []struct {
		Number int                  `db:"number"`
		Facts  doc[symptom.Symptom] `db:"facts"`
	}
	err = a.tx.SelectContext(a.ctx, &rows, `
		SELECT p.number, s.facts FROM leg l JOIN leg p ON p.upgrade_id = l.upgrade_id AND p.status = 'done' AND p.number < l.number JOIN symptom s ON s.upgrade_id = p.upgrade_id AND s.leg_id = p.id
		WHERE l.id = $1 AND s.status = 'hidden' AND p.number = (SELECT max(number) FROM leg WHERE upgrade_id = l.upgrade_id AND status = 'done' AND number < l.number)
		ORDER BY s.id`, a.Leg)
	if err != nil {
		return 0, nil, fmt.Errorf("reading what the leg before left: %w", err)
	}
	for _, r := range rows {
		leg, list = r.Number, append(list, r.Facts.v)
	}
	return leg, list, nil
}

// Warned counts the deprecations that the baseline shows.
func (a *Analysis) Warned() (int, error) {
	var n int
	err := a.tx.GetContext(a.ctx, &n, `
		SELECT coalesce(sum(f.seen), 0) FROM finding f JOIN baseline b ON b.run_id = f.run_id WHERE f.upgrade_id = $2 AND b.leg_id = $1 AND f.facts->>'kind' = 'deprecation'`, a.Leg, a.Upgrade)
	if err != nil {
		return 0, fmt.Errorf("counting the deprecations: %w", err)
	}
	return n, nil
}
