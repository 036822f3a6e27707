package store

import (
	"context"
	"fmt"
	"time"

	"github.com/jmoiron/sqlx"
)

// Word is what a person vouches for: the key of a reason of the gate, or of a preparation.
type Word struct {
	ID     int64     `db:"id"`
	About  string    `db:"about"`
	Reason string    `db:"reason"`
	Author string    `db:"author"`
	At     time.Time `db:"created_at"`
	Undone bool      `db:"undone"`
}

// Words lists what people vouch for in the current leg, the latest first.
func (s *Store) Words(ctx context.Context, upgrade int64) ([]Word, error) {
	leg, err := s.leg(ctx, s.db, upgrade)
	if err != nil {
		return nil, err
	}
	var list []Word
	err = s.db.SelectContext(ctx, &list, `SELECT id, about, reason, author, created_at, undone_at IS NOT NULL AS undone FROM word WHERE leg_id = $1 ORDER BY id DESC`, leg)
	if err != nil {
		return nil, fmt.Errorf("reading what people vouch for: %w", err)
	}
	return list, nil
}

// Vouch records a person's word. One that holds already gives ErrConflict.
func (s *Store) Vouch(ctx context.Context, upgrade int64, about, reason, author string) (Word, error) {
	var row Word
	err := s.inTx(ctx, func(tx *sqlx.Tx) error {
		leg, err := s.leg(ctx, tx, upgrade)
		if err != nil {
			return err
		}
		err = tx.GetContext(ctx, &row, `INSERT INTO word (leg_id, about, reason, author) VALUES ($1, $2, $3, $4)
			RETURNING id, about, reason, author, created_at, false AS undone`, leg, about, reason, author)
		if duplicate(err) {
			return fmt.Errorf("a word on %s: %w", about, ErrConflict)
		}
		if err != nil {
			return fmt.Errorf("storing the word: %w", err)
		}
		return addEvent(ctx, tx, upgrade, event{kind: "word", text: fmt.Sprintf("vouched for %s: %s", about, reason), author: author})
	})
	return row, err
}

// TakeWordBack ends a word; that it was given stays on record.
func (s *Store) TakeWordBack(ctx context.Context, upgrade, id int64, author string) error {
	return s.inTx(ctx, func(tx *sqlx.Tx) error {
		var about string
		err := tx.GetContext(ctx, &about, `
			UPDATE word SET undone_at = now(), undone_by = $3 WHERE id = $2 AND undone_at IS NULL AND leg_id IN (SELECT id FROM leg WHERE upgrade_id = $1) RETURNING about`, upgrade, id, author)
		if err := found(err, fmt.Sprintf("word %d", id)); err != nil {
			return err
		}
		return addEvent(ctx, tx, upgrade, event{kind: "word", text: "word taken back: " + about, author: author})
	})
}
