package store

import (
	"context"
	"fmt"
	"time"

	"github.com/jmoiron/sqlx"

	"unicausa/internal/api"
)

type wordRow struct {
	ID     int64     `db:"id"`
	About  string    `db:"about"`
	Reason string    `db:"reason"`
	Author string    `db:"author"`
	At     time.Time `db:"created_at"`
	Undone bool      `db:"undone"`
}

func (r *wordRow) view() api.Word {
	return api.Word{ID: r.ID, About: r.About, Reason: r.Reason, Author: r.Author, At: r.At, Undone: r.Undone}
}

// Words lists what people vouch for in the current leg, the latest first.
func (s *Store) Words(ctx context.Context, upgrade int64) ([]api.Word, error) {
	leg, err := s.leg(ctx, s.db, upgrade)
	if err != nil {
		return nil, err
	}
	var rows []wordRow
	err = s.db.SelectContext(ctx, &rows, `SELECT id, about, reason, author, created_at, undone_at IS NOT NULL AS undone FROM word WHERE leg_id = $1 ORDER BY id DESC`, leg)
	if err != nil {
		return nil, fmt.Errorf("reading what people vouch for: %w", err)
	}
	list := make([]api.Word, len(rows))
	for i := range rows {
		list[i] = rows[i].view()
	}
	return list, nil
}

// Vouch records a person's word. One that holds already gives ErrConflict.
func (s *Store) Vouch(ctx context.Context, upgrade int64, n api.NewWord) (api.Word, error) {
	var row wordRow
	err := s.inTx(ctx, func(tx *sqlx.Tx) error {
		leg, err := s.leg(ctx, tx, upgrade)
		if err != nil {
			return err
		}
		err = tx.GetContext(ctx, &row, `INSERT INTO word (leg_id, about, reason, author) VALUES ($1, $2, $3, $4)
			RETURNING id, about, reason, author, created_at, false AS undone`, leg, n.About, n.Reason, n.Author)
		if duplicate(err) {
			return fmt.Errorf("a word on %s: %w", n.About, ErrConflict)
		}
		if err != nil {
			return fmt.Errorf("storing the word: %w", err)
		}
		return addEvent(ctx, tx, upgrade, event{kind: "word", text: fmt.Sprintf("vouched for %s: %s", n.About, n.Reason), author: n.Author})
	})
	return row.view(), err
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
