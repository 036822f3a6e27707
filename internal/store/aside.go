package store

import (
	"context"
	"errors"
	"fmt"
	"unicausa/internal/core/analysis"

	"github.com/jmoiron/sqlx"
)

// ErrBusy says that somebody else works on the upgrade.
var ErrBusy = errors.New("somebody else works on it")

// Try counts a try at a run, or at the leg as it is where there is none, and gives how many
// there were without an end. It is kept whatever becomes of the analysis, and of the process.
func (a *Analysis) Try(run *analysis.Run) (tries int, err error) {
	table, id := tried(run, a.Leg)
	if err := a.store.db.GetContext(a.ctx, &tries, `UPDATE `+table+` SET tries = tries + 1 WHERE id = $1 RETURNING tries`, id); err != nil {
		return 0, fmt.Errorf("counting the tries: %w", err)
	}
	return tries, nil
}

// Untry takes a try back that ended for reasons of its own: the service stopped, or the
// database did.
func (s *Store) Untry(ctx context.Context, leg int64, run *analysis.Run) error {
	table, id := tried(run, leg)
	if _, err := s.db.ExecContext(ctx, `UPDATE `+table+` SET tries = greatest(tries - 1, 0) WHERE id = $1`, id); err != nil {
		return fmt.Errorf("counting the tries: %w", err)
	}
	return nil
}

func tried(run *analysis.Run, leg int64) (table string, id int64) {
	if run != nil {
		return "run", run.ID
	}
	return "leg", leg
}

// Done says that the leg was drawn, with the run where there is one. It is part of the
// analysis.
func (a *Analysis) Done(run *analysis.Run) error {
	_, err := a.tx.ExecContext(a.ctx, `UPDATE leg SET tries = 0, problem = '', drawn = $2 WHERE id = $1`, a.Leg, a.asked)
	if err == nil && run != nil {
		_, err = a.tx.ExecContext(a.ctx, `UPDATE run SET tries = 0 WHERE id = $1`, run.ID)
	}
	if err != nil {
		return fmt.Errorf("ending the analysis: %w", err)
	}
	return nil
}

// SetAside keeps a run that cannot be processed, or a leg that cannot be drawn, from being
// tried again by this version of the program, and records why.
func (s *Store) SetAside(ctx context.Context, upgrade, leg int64, run *analysis.Run, why error) error {
	return s.inTx(ctx, func(tx *sqlx.Tx) error {
		e := event{kind: "failed", text: fmt.Sprintf("the causes could not be drawn: %v", why)}
		query, id := `UPDATE leg SET problem = $2, aside_by = $3, drawn = asked WHERE id = $1`, leg
		if run != nil {
			e.run, e.text = run.Number, fmt.Sprintf("run %d could not be processed: %v", run.Number, why)
			query, id = `UPDATE run SET status = 'failed', problem = $2, aside_by = $3 WHERE id = $1 AND status = 'stored'`, run.ID
		}
		if _, err := tx.ExecContext(ctx, query, id, utf8(why.Error()), s.Version); err != nil {
			return fmt.Errorf("recording a failure: %w", err)
		}
		return addEvent(ctx, tx, upgrade, e)
	})
}

// Aside is what of an upgrade was set aside.
type Aside struct {
	Runs   []int        // numbers
	Notes  []NotesAside // documents
	Causes bool         // the current leg could not be drawn
}

// NotesAside is a document that was set aside.
type NotesAside struct {
	ID      int64  `db:"id"`
	Name    string `db:"name"`
	Package string `db:"package"`
	Text    string `db:"text"`
}

// Retry queues again what of an upgrade's current leg was set aside, or one run of it, and
// gives what that is. Documents are given for the caller to read anew: they take part
// again once they are added. A run that was not set aside gives ErrNotFound.
func (s *Store) Retry(ctx context.Context, upgrade int64, run *int, author string) (Aside, error) {
	var aside Aside
	err := s.inTx(ctx, func(tx *sqlx.Tx) error {
		leg, err := s.leg(ctx, tx, upgrade)
		if err != nil {
			return err
		}
		err = tx.SelectContext(ctx, &aside.Runs, `
			UPDATE run SET status = 'stored', problem = '', tries = 0 WHERE leg_id = $1 AND status = 'failed' AND ($2::int IS NULL OR number = $2) RETURNING number`, leg, run)
		if err != nil {
			return fmt.Errorf("queueing runs again: %w", err)
		}
		if run != nil && len(aside.Runs) == 0 {
			return fmt.Errorf("run %d among those that were set aside: %w", *run, ErrNotFound)
		}
		if run == nil {
			if err := tx.SelectContext(ctx, &aside.Notes, `SELECT id, name, package, text FROM notes WHERE leg_id = $1 AND problem <> '' ORDER BY id`, leg); err != nil {
				return fmt.Errorf("reading the notes: %w", err)
			}
			if err := tx.GetContext(ctx, &aside.Causes, `SELECT problem <> '' FROM leg WHERE id = $1`, leg); err != nil {
				return fmt.Errorf("reading the leg: %w", err)
			}
			if _, err := tx.ExecContext(ctx, `UPDATE leg SET problem = '', tries = 0 WHERE id = $1`, leg); err != nil {
				return fmt.Errorf("queueing the leg again: %w", err)
			}
		}
		if err := addEvent(ctx, tx, upgrade, event{kind: "retried", text: aside.text(), author: author}); err != nil {
			return err
		}
		return s.enqueue(ctx, tx, leg)
	})
	return aside, err
}

// text tells what is tried again.
func (a Aside) text() string {
	if len(a.Runs) == 1 && len(a.Notes) == 0 {
		return fmt.Sprintf("run %d is tried again", a.Runs[0])
	}
	return "tried again: " + counted(len(a.Runs), "run") + ", " + counted(len(a.Notes), "document")
}

// counted is a number of things in words.
func counted(n int, thing string) string {
	if n == 1 {
		return "1 " + thing
	}
	return fmt.Sprintf("%d %ss", n, thing)
}

// Held tells what was set aside of an upgrade's current leg, and holds its gate: the runs
// behind which no other of their check was processed, by number, and the drawing of the
// causes, by 0, each with the reason.
func (s *Store) Held(ctx context.Context, upgrade int64) (map[int]string, error) {
	var rows []struct {
		Run     int    `db:"run"`
		Problem string `db:"problem"`
	}
	err := s.db.SelectContext(ctx, &rows, `
		SELECT r.number AS run, c.name || ': ' || r.problem AS problem FROM run r JOIN leg l ON l.id = r.leg_id JOIN "check" c ON c.id = r.check_id
		WHERE l.upgrade_id = $1 AND l.status = 'current' AND r.status = 'failed'
			AND NOT EXISTS (SELECT FROM run o WHERE o.check_id = r.check_id AND o.status = 'processed' AND o.number > r.number)
		UNION ALL SELECT 0, problem FROM leg WHERE upgrade_id = $1 AND status = 'current' AND problem <> ''`, upgrade)
	if err != nil {
		return nil, fmt.Errorf("reading what was set aside: %w", err)
	}
	held := map[int]string{}
	for _, r := range rows {
		held[r.Run] = r.Problem
	}
	return held, nil
}

// Outgrown lists the upgrades in whose current leg another version of the program has set
// something aside.
func (s *Store) Outgrown(ctx context.Context) ([]int64, error) {
	var list []int64
	err := s.db.SelectContext(ctx, &list, `
		SELECT l.upgrade_id FROM leg l WHERE l.status = 'current' AND (l.problem <> '' AND l.aside_by <> $1
			OR EXISTS (SELECT FROM run r WHERE r.leg_id = l.id AND r.status = 'failed' AND r.aside_by <> $1)
			OR EXISTS (SELECT FROM notes n WHERE n.leg_id = l.id AND n.problem <> '' AND n.aside_by <> $1)) ORDER BY 1`, s.Version)
	if err != nil {
		return nil, fmt.Errorf("finding what was set aside: %w", err)
	}
	return list, nil
}
