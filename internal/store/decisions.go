package store

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"time"

	"github.com/jmoiron/sqlx"
)

// Decision is what a person decided of a cause.
type Decision struct {
	ID         int64     `db:"id"`
	CauseID    int64     `db:"cause_id"`
	Kind       string    `db:"kind"` // fix, defer, accept, wait or dismiss
	Reason     string    `db:"reason"`
	Due        string    `db:"due"`
	Commit     string    `db:"commit_id"`
	Author     string    `db:"author"`
	AfterRun   int       `db:"after_run"`
	Outcome    string    `db:"outcome"` // of a fix: claimed, proved or disproved
	OutcomeRun int       `db:"outcome_run"`
	At         time.Time `db:"created_at"`
	Undone     bool      `db:"undone"`
}

// NewDecision is a decision that a person makes. Seen is the latest that its author knew of,
// 0 for none; nil leaves it open.
type NewDecision struct {
	Kind, Reason, Due, Commit, Author string
	File, Code                        string // of a workaround, where it lives and its lines
	Seen                              *int64
}

// Decide records a decision on a cause. A fix is claimed until runs prove it;
// what is put off, and the workaround it comes with, is a debt as well. A
// decision that its author had not seen gives ErrChanged.
func (s *Store) Decide(ctx context.Context, upgrade int64, cause string, d NewDecision) error {
	return s.DecideAll(ctx, upgrade, []string{cause}, d)
}

// DecideAll records one decision on several causes, all or none.
func (s *Store) DecideAll(ctx context.Context, upgrade int64, causes []string, d NewDecision) error {
	return s.inTx(ctx, func(tx *sqlx.Tx) error {
		for _, cause := range causes {
			if err := s.decide(ctx, tx, upgrade, cause, d); err != nil {
				return err
			}
		}
		return nil
	})
}

func (s *Store) decide(ctx context.Context, tx *sqlx.Tx, upgrade int64, cause string, d NewDecision) error {
	_, id, err := s.causeID(ctx, tx, upgrade, cause)
	if err != nil {
		return err
	}
	if err := unseen(ctx, tx, id, cause, d.Seen); err != nil {
		return err
	}
	outcome := ""
	if d.Kind == "fix" {
		outcome = "claimed"
	}
	_, err = tx.ExecContext(ctx, `
		INSERT INTO decision (cause_id, kind, reason, due, commit_id, author, after_run, outcome)
		VALUES ($1, $2, $3, $4, $5, $6, (SELECT runs FROM upgrade WHERE id = $7), $8)`, id, d.Kind, d.Reason, d.Due, d.Commit, d.Author, upgrade, outcome)
	if err != nil {
		return fmt.Errorf("storing the decision: %w", err)
	}
	if err := putOff(ctx, tx, upgrade, cause, d); err != nil {
		return err
	}
	return addEvent(ctx, tx, upgrade, event{kind: "decision", cause: cause, text: fmt.Sprintf("%s: %s, %s", cause, d.Kind, d.Reason), author: d.Author})
}

// unseen holds what was decided since against what the author of a decision
// knew of; the cause is locked until the transaction ends.
func unseen(ctx context.Context, tx *sqlx.Tx, id int64, cause string, seen *int64) error {
	if _, err := tx.ExecContext(ctx, `SELECT FROM cause WHERE id = $1 FOR UPDATE`, id); err != nil {
		return fmt.Errorf("reading %s: %w", cause, err)
	}
	if seen == nil {
		return nil
	}
	var latest struct {
		ID     int64  `db:"id"`
		Kind   string `db:"kind"`
		Reason string `db:"reason"`
		Author string `db:"author"`
	}
	err := tx.GetContext(ctx, &latest, `SELECT id, kind, reason, author FROM decision WHERE cause_id = $1 ORDER BY id DESC LIMIT 1`, id)
	switch {
	case errors.Is(err, sql.ErrNoRows):
		return nil
	case err != nil:
		return fmt.Errorf("reading the decisions: %w", err)
	case latest.ID > *seen:
		return fmt.Errorf("%w: %s decided %s of %s meanwhile (%s): look at it, then decide again", ErrChanged, someone(latest.Author), latest.Kind, cause, latest.Reason)
	}
	return nil
}

func someone(author string) string {
	if author == "" {
		return "somebody"
	}
	return author
}

// UndoDecision takes a decision back; that it was made stays on record, and the
// one before it holds again. It returns ErrNotFound where there is none with
// this number that holds.
func (s *Store) UndoDecision(ctx context.Context, upgrade, id int64, author string) error {
	return s.inTx(ctx, func(tx *sqlx.Tx) error {
		var row struct {
			Cause string `db:"name"`
			Kind  string `db:"kind"`
		}
		err := tx.GetContext(ctx, &row, `
			UPDATE decision d SET undone_by = $3, undone_at = now() FROM cause c JOIN leg l ON l.id = c.leg_id
			WHERE c.id = d.cause_id AND l.upgrade_id = $1 AND d.id = $2 AND d.undone_at IS NULL RETURNING c.name, d.kind`, upgrade, id, author)
		if err := found(err, fmt.Sprintf("decision %d", id)); err != nil {
			return err
		}
		if _, err := tx.ExecContext(ctx, `
			UPDATE debt SET settled_by = $3, settled_at = now(), settled = 'the decision was taken back'
			WHERE upgrade_id = $1 AND cause = $2 AND kind IN ('deferred', 'waiting') AND settled_at IS NULL`, upgrade, row.Cause, author); err != nil {
			return fmt.Errorf("storing the debts: %w", err)
		}
		return addEvent(ctx, tx, upgrade, event{kind: "decision", cause: row.Cause, text: fmt.Sprintf("%s: the decision to %s was taken back", row.Cause, row.Kind), author: author})
	})
}

// PutOff are the causes of the leg that are deferred or waited for.
func (a *Analysis) PutOff() (map[string]bool, error) {
	var names []string
	err := a.tx.SelectContext(a.ctx, &names, `
		SELECT c.name FROM decision d JOIN cause c ON c.id = d.cause_id
		WHERE c.leg_id = $1 AND d.kind IN ('defer', 'wait') AND d.id = (SELECT max(id) FROM decision WHERE cause_id = c.id AND undone_at IS NULL)`, a.Leg)
	if err != nil {
		return nil, fmt.Errorf("reading the decisions: %w", err)
	}
	putOff := map[string]bool{}
	for _, n := range names {
		putOff[n] = true
	}
	return putOff, nil
}
