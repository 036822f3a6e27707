package store

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"strings"
	"time"

	"github.com/jmoiron/sqlx"

	"unicausa/internal/core/triage"
)

// ErrRefused says that a correction makes no sense as it is; its text tells why.
var ErrRefused = errors.New("refused")

// Correction is what a person said of where symptoms belong.
type Correction struct {
	ID             int64
	Kind           string // move, split, merge or pin
	Symptoms       []string
	From, Cause    string // the cause that was given up, and where they belong since
	Reason, Author string
	At             time.Time
	Undone         bool
}

// NewCorrection is a correction that a person makes. A merge names no symptoms.
type NewCorrection struct {
	Kind, From, Cause, Reason, Author string
	Symptoms                          []string
}

type correctionRow struct {
	ID       int64         `db:"id"`
	Kind     string        `db:"kind"`
	Symptoms doc[[]string] `db:"symptoms"`
	From     string        `db:"given_up"`
	Cause    string        `db:"cause"`
	Reason   string        `db:"reason"`
	Author   string        `db:"author"`
	At       time.Time     `db:"created_at"`
	Undone   bool          `db:"undone"`
}

func (r *correctionRow) correction() Correction {
	return Correction{ID: r.ID, Kind: r.Kind, Symptoms: r.Symptoms.v, From: r.From, Cause: r.Cause, Reason: r.Reason, Author: r.Author, At: r.At, Undone: r.Undone}
}

const selectCorrection = `SELECT id, kind, symptoms, given_up, cause, reason, author, created_at, undone_at IS NOT NULL AS undone FROM correction WHERE leg_id = $1`

// Corrections lists what people said of where symptoms belong, the latest first.
func (s *Store) Corrections(ctx context.Context, upgrade int64) ([]Correction, error) {
	leg, err := s.leg(ctx, s.db, upgrade)
	if err != nil {
		return nil, err
	}
	var rows []correctionRow
	if err := s.db.SelectContext(ctx, &rows, selectCorrection+` ORDER BY id DESC`, leg); err != nil {
		return nil, fmt.Errorf("reading the corrections: %w", err)
	}
	list := make([]Correction, len(rows))
	for i := range rows {
		list[i] = rows[i].correction()
	}
	return list, nil
}

// Corrections are those of the leg that hold, in order, as an analysis takes them.
func (a *Analysis) Corrections() ([]triage.Correction, error) {
	var rows []correctionRow
	if err := a.tx.SelectContext(a.ctx, &rows, selectCorrection+` AND undone_at IS NULL ORDER BY id`, a.Leg); err != nil {
		return nil, fmt.Errorf("reading the corrections: %w", err)
	}
	list := make([]triage.Correction, 0, len(rows))
	for _, r := range rows {
		c := triage.Correction{Symptoms: r.Symptoms.v, Cause: r.Cause, By: r.Author}
		if c.By == "" {
			c.By = "a person"
		}
		if r.Kind == "merge" {
			c.From = r.From
		}
		list = append(list, c)
	}
	return list, nil
}

// Correct records where symptoms belong. A split gets the next number that no
// cause has had. It returns ErrNotFound for a cause or a symptom that is not
// there, and ErrRefused for what makes no sense.
func (s *Store) Correct(ctx context.Context, upgrade int64, n NewCorrection) (Correction, error) {
	var made Correction
	err := s.inTx(ctx, func(tx *sqlx.Tx) error {
		leg, id, err := s.causeID(ctx, tx, upgrade, n.Cause)
		if err != nil {
			return err
		}
		from, cause, symptoms := "", n.Cause, n.Symptoms
		switch n.Kind {
		case "merge":
			if n.From == n.Cause {
				return fmt.Errorf("%w: %s cannot be merged into itself", ErrRefused, n.Cause)
			}
			_, given, err := s.causeID(ctx, tx, upgrade, n.From)
			if err != nil {
				return err
			}
			from = n.From
			if err := tx.SelectContext(ctx, &symptoms, `SELECT identity FROM symptom WHERE upgrade_id = $2 AND cause_id = $1 ORDER BY identity`, given, upgrade); err != nil {
				return fmt.Errorf("reading the symptoms: %w", err)
			}
		default:
			if err := s.ofLeg(ctx, tx, leg, symptoms); err != nil {
				return err
			}
		}
		if n.Kind == "split" {
			var all []string
			if err := tx.SelectContext(ctx, &all, `SELECT identity FROM symptom WHERE upgrade_id = $2 AND cause_id = $1`, id, upgrade); err != nil {
				return fmt.Errorf("reading the symptoms: %w", err)
			}
			if !slices.ContainsFunc(all, func(s string) bool { return !slices.Contains(symptoms, s) }) {
				return fmt.Errorf("%w: nothing would be left in %s: choose some of its symptoms", ErrRefused, n.Cause)
			}
			from = n.Cause
			if cause, err = nextCause(ctx, tx, leg); err != nil {
				return err
			}
		}
		var row correctionRow
		err = tx.GetContext(ctx, &row, `
			INSERT INTO correction (leg_id, kind, symptoms, given_up, cause, reason, author) VALUES ($1, $2, $3, $4, $5, $6, $7)
			RETURNING id, kind, symptoms, given_up, cause, reason, author, created_at, false AS undone`, leg, n.Kind, asJSON(orEmpty(symptoms)), from, cause, n.Reason, n.Author)
		if err != nil {
			return fmt.Errorf("storing the correction: %w", err)
		}
		made = row.correction()
		return s.corrected(ctx, tx, upgrade, leg, cause, told(&row), n.Author)
	})
	return made, err
}

// told is a correction in words.
func told(r *correctionRow) string {
	n := counted(len(r.Symptoms.v), "symptom")
	switch r.Kind {
	case "merge":
		return fmt.Sprintf("%s merged into %s", r.From, r.Cause)
	case "split":
		return fmt.Sprintf("%s split off %s as %s", n, r.From, r.Cause)
	case "pin":
		return fmt.Sprintf("%s pinned to %s", n, r.Cause)
	}
	return fmt.Sprintf("%s moved to %s", n, r.Cause)
}

// UndoCorrection takes a correction back; that it was made stays on record. It
// returns ErrNotFound where there is none with this number that holds.
func (s *Store) UndoCorrection(ctx context.Context, upgrade, id int64, author string) error {
	return s.inTx(ctx, func(tx *sqlx.Tx) error {
		leg, err := s.leg(ctx, tx, upgrade)
		if err != nil {
			return err
		}
		var row correctionRow
		err = tx.GetContext(ctx, &row, `
			UPDATE correction SET undone_at = now(), undone_by = $3 WHERE leg_id = $1 AND id = $2 AND undone_at IS NULL
			RETURNING id, kind, symptoms, given_up, cause, reason, author, created_at, true AS undone`, leg, id, author)
		if err := found(err, fmt.Sprintf("correction %d", id)); err != nil {
			return err
		}
		return s.corrected(ctx, tx, upgrade, leg, row.Cause, "taken back: "+told(&row), author)
	})
}

// corrected says so, and queues that the causes are drawn anew.
func (s *Store) corrected(ctx context.Context, tx *sqlx.Tx, upgrade, leg int64, cause, text, author string) error {
	if err := addEvent(ctx, tx, upgrade, event{kind: "correction", cause: cause, text: text, author: author}); err != nil {
		return err
	}
	return s.enqueue(ctx, tx, leg)
}

// ofLeg returns ErrNotFound where a symptom is not one of the leg's.
func (s *Store) ofLeg(ctx context.Context, tx *sqlx.Tx, leg int64, symptoms []string) error {
	var there []string
	if err := tx.SelectContext(ctx, &there, `SELECT identity FROM symptom WHERE upgrade_id = (SELECT upgrade_id FROM leg WHERE id = $1) AND leg_id = $1 AND identity = ANY($2)`, leg, symptoms); err != nil {
		return fmt.Errorf("reading the symptoms: %w", err)
	}
	known := map[string]bool{}
	for _, id := range there {
		known[id] = true
	}
	for _, id := range symptoms {
		if !known[id] {
			return fmt.Errorf("symptom %s: %w", id, ErrNotFound)
		}
	}
	return nil
}

// nextCause is the first name that no cause of a leg has had.
func nextCause(ctx context.Context, tx *sqlx.Tx, leg int64) (string, error) {
	var names []string
	err := tx.SelectContext(ctx, &names, `SELECT name FROM cause WHERE leg_id = $1 UNION SELECT cause FROM correction WHERE leg_id = $1`, leg)
	if err != nil {
		return "", fmt.Errorf("reading the causes: %w", err)
	}
	highest := 0
	for _, name := range names {
		var n int
		if _, err := fmt.Sscanf(strings.TrimPrefix(name, "C"), "%d", &n); err == nil {
			highest = max(highest, n)
		}
	}
	return fmt.Sprintf("C%d", highest+1), nil
}
