package store

import (
	"context"
	"fmt"
	"strings"

	"github.com/jmoiron/sqlx"

	"unicausa/internal/core/notes"
)

// Notes is a document of release notes. Problem is why it takes no part, empty for one that
// does.
type Notes struct {
	Changes       int
	ID            int64
	Lines         int
	Name, Package string
	Problem       string
}

// NewNotes is a document to be added.
type NewNotes struct{ Name, Package, Text string }

// AddNotes stores a document and its changes, and makes work for the leg. A
// document of the same name and package is replaced. One with a problem could
// not be read: it is kept, and set aside.
func (s *Store) AddNotes(ctx context.Context, upgrade int64, n NewNotes, changes []notes.Change, problem error) (Notes, error) {
	var id int64
	why := ""
	if problem != nil {
		why = problem.Error()
	}
	err := s.inTx(ctx, func(tx *sqlx.Tx) error {
		leg, err := s.leg(ctx, tx, upgrade)
		if err != nil {
			return err
		}
		if id, err = s.saveNotes(ctx, tx, leg, n, changes); err != nil {
			return err
		}
		if why != "" {
			if err := s.setNotesAside(ctx, tx, upgrade, id, n.Name, why); err != nil {
				return err
			}
		}
		if err := addEvent(ctx, tx, upgrade, event{kind: "notes", text: "notes " + n.Name + " added, " + counted(len(changes), "change")}); err != nil {
			return err
		}
		return s.enqueue(ctx, tx, leg)
	})
	if err != nil {
		return Notes{}, err
	}
	return Notes{ID: id, Name: n.Name, Package: n.Package, Lines: strings.Count(n.Text, "\n") + 1, Changes: len(changes), Problem: why}, nil
}

// saveNotes writes a document and its changes.
func (s *Store) saveNotes(ctx context.Context, tx *sqlx.Tx, leg int64, n NewNotes, changes []notes.Change) (id int64, err error) {
	err = tx.GetContext(ctx, &id, `
		INSERT INTO notes (leg_id, name, package, text) VALUES ($1, $2, $3, $4)
		ON CONFLICT (leg_id, name, package) DO UPDATE SET text = excluded.text, problem = '' RETURNING id`, leg, n.Name, n.Package, n.Text)
	if err != nil {
		return 0, fmt.Errorf("storing the notes: %w", err)
	}
	if _, err := tx.ExecContext(ctx, `DELETE FROM change WHERE notes_id = $1`, id); err != nil {
		return 0, fmt.Errorf("storing the notes: %w", err)
	}
	for i := range changes {
		_, err := tx.ExecContext(ctx, `INSERT INTO change (notes_id, identity, line, facts) VALUES ($1, $2, $3, $4)`, id, changes[i].ID, changes[i].Line, asJSON(changes[i]))
		if err != nil {
			return 0, fmt.Errorf("storing a change: %w", err)
		}
	}
	return id, nil
}

// setNotesAside keeps a document that cannot be processed out of every analysis.
func (s *Store) setNotesAside(ctx context.Context, tx *sqlx.Tx, upgrade, id int64, name, why string) error {
	if _, err := tx.ExecContext(ctx, `UPDATE notes SET problem = $2, aside_by = $3 WHERE id = $1`, id, utf8(why), s.Version); err != nil {
		return fmt.Errorf("setting notes aside: %w", err)
	}
	return addEvent(ctx, tx, upgrade, event{kind: "failed", text: fmt.Sprintf("notes %s set aside: %s", name, why)})
}

// SetNotesAside does so with a leg's documents of the given names, asks for its causes
// to be drawn without them, and reports whether there was one that still took part.
func (s *Store) SetNotesAside(ctx context.Context, upgrade, leg int64, names []string, why error) (found bool, err error) {
	err = s.inTx(ctx, func(tx *sqlx.Tx) error {
		var rows []struct {
			ID   int64  `db:"id"`
			Name string `db:"name"`
		}
		err := tx.SelectContext(ctx, &rows, `SELECT id, name FROM notes WHERE leg_id = $1 AND problem = '' AND name = ANY($2) ORDER BY id`, leg, names)
		if err != nil {
			return fmt.Errorf("reading the notes: %w", err)
		}
		for _, r := range rows {
			if err := s.setNotesAside(ctx, tx, upgrade, r.ID, r.Name, why.Error()); err != nil {
				return err
			}
		}
		if found = len(rows) > 0; !found {
			return nil
		}
		return s.enqueue(ctx, tx, leg)
	})
	return found, err
}

// Notes lists an upgrade's documents.
func (s *Store) Notes(ctx context.Context, upgrade int64) ([]Notes, error) {
	leg, err := s.leg(ctx, s.db, upgrade)
	if err != nil {
		return nil, err
	}
	list := []Notes{}
	rows, err := s.db.QueryContext(ctx, `
		SELECT n.id, n.name, n.package, length(n.text) - length(replace(n.text, E'\n', '')) + 1, (SELECT count(*) FROM change c WHERE c.notes_id = n.id), n.problem
		FROM notes n WHERE n.leg_id = $1 ORDER BY n.id`, leg)
	if err != nil {
		return nil, fmt.Errorf("reading the notes: %w", err)
	}
	defer rows.Close()
	for rows.Next() {
		var n Notes
		if err := rows.Scan(&n.ID, &n.Name, &n.Package, &n.Lines, &n.Changes, &n.Problem); err != nil {
			return nil, fmt.Errorf("reading the notes: %w", err)
		}
		list = append(list, n)
	}
	return list, rows.Err()
}

// NotesLines reads count lines of a document of the upgrade, from a 1-based line.
func (s *Store) NotesLines(ctx context.Context, upgrade, id int64, from, count int) (Lines, error) {
	var text string
	err := s.db.GetContext(ctx, &text, `SELECT n.text FROM notes n JOIN leg l ON l.id = n.leg_id WHERE n.id = $1 AND l.upgrade_id = $2`, id, upgrade)
	if err := found(err, fmt.Sprintf("notes %d", id)); err != nil {
		return Lines{}, err
	}
	lines := strings.Split(text, "\n")
	first := min(from-1, len(lines))
	return Lines{From: from, Total: len(lines), Lines: lines[first:min(first+count, len(lines))]}, nil
}

// changes reads all changes of a leg's notes, as people corrected them, and each
// one's document.
func changes(ctx context.Context, q sqlx.QueryerContext, leg int64) ([]notes.Change, map[string]int64, error) {
	var rows []struct {
		Notes int64             `db:"notes_id"`
		Facts doc[notes.Change] `db:"facts"`
	}
	err := sqlx.SelectContext(ctx, q, &rows, `
		SELECT c.notes_id, c.facts FROM change c JOIN notes n ON n.id = c.notes_id WHERE n.leg_id = $1 AND n.problem = '' ORDER BY n.id, c.line, c.identity`, leg)
	if err != nil {
		return nil, nil, fmt.Errorf("reading the changes: %w", err)
	}
	list, documents := make([]notes.Change, 0, len(rows)), map[string]int64{}
	for _, r := range rows {
		list = append(list, r.Facts.v)
		documents[r.Facts.v.ID] = r.Notes
	}
	words, err := changeWords(ctx, q, leg)
	if err != nil {
		return nil, nil, err
	}
	for i := range list {
		correct(&list[i], words[list[i].ID])
	}
	return list, documents, nil
}
