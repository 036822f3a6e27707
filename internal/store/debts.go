package store

import (
	"context"
	"fmt"
	"sort"
	"strings"
	"time"

	"github.com/jmoiron/sqlx"

	"unicausa/internal/core/debt"
	"unicausa/internal/core/versions"
)

// Debt is what was put off in a project, and until when.
type Debt struct {
	ID          int64     `db:"id"`
	Upgrade     int64     `db:"upgrade_id"`
	UpgradeName string    `db:"upgrade_name"`
	Cause       string    `db:"cause"`
	Kind        string    `db:"kind"`
	Text        string    `db:"text"`
	Due         string    `db:"due"`
	File        string    `db:"file"`
	Code        string    `db:"code"`
	Author      string    `db:"author"`
	At          time.Time `db:"created_at"`
	Settled     bool      `db:"is_settled"`
	How         string    `db:"settled"` // it was settled
	IsDue       bool      `db:"-"`
	Why         string    `db:"-"` // it is due
}

// DebtDetail is a debt with where its code stands in the latest source, File empty where it
// is gone, and a unified diff that takes it out.
type DebtDetail struct {
	Debt  Debt
	File  string
	Line  int
	Patch string
}

// NewDebt is a debt that a person writes down.
type NewDebt struct{ Kind, Text, Due, Cause, File, Code, Author string }

// FoundDebt is code, new since the baseline, that puts something off. Key is what a person
// may vouch for.
type FoundDebt struct {
	debt.Found
	Key string
}

const selectDebt = `
	SELECT d.id, d.upgrade_id, u.name AS upgrade_name, d.cause, d.kind, d.text, d.due, d.file, d.code, d.author, d.created_at, d.settled_at IS NOT NULL AS is_settled, d.settled
	FROM debt d JOIN upgrade u ON u.id = d.upgrade_id WHERE u.project_id = (SELECT project_id FROM upgrade WHERE id = $1)`

// judge tells of a debt whether it is due: by the moves of an upgrade, seen from
// there, by the day, or, where somebody else's release is waited for, by what is out. A version without a package is one of the debt's own
// upgrade's first package.
func (d *Debt) judge(own, moves, released []versions.Move, today string) {
	if d.Settled {
		return
	}
	due := debt.ParseDue(d.Due, own)
	if d.Why, d.IsDue = due.Reached(moves, today); !d.IsDue && d.Kind == "waiting" {
		d.Why, d.IsDue = due.Out(released)
	}
}

// Debts lists the debts of an upgrade's project: what is due first, then what
// is open, then what is settled, each the latest first.
func (s *Store) Debts(ctx context.Context, upgrade int64) ([]Debt, error) {
	if _, err := s.leg(ctx, s.db, upgrade); err != nil {
		return nil, err
	}
	var list []Debt
	if err := s.db.SelectContext(ctx, &list, selectDebt+` ORDER BY d.id DESC`, upgrade); err != nil {
		return nil, fmt.Errorf("reading the debts: %w", err)
	}
	moves, err := s.reachedBy(ctx, upgrade)
	if err != nil {
		return nil, err
	}
	released, err := s.releases(ctx, upgrade)
	if err != nil {
		return nil, err
	}
	for i := range list {
		own := moves
		if list[i].Upgrade != upgrade {
			if own, err = s.reachedBy(ctx, list[i].Upgrade); err != nil {
				return nil, err
			}
		}
		list[i].judge(own, moves, released, today())
	}
	order := func(d *Debt) int {
		switch {
		case d.IsDue:
			return 0
		case !d.Settled:
			return 1
		}
		return 2
	}
	sort.SliceStable(list, func(i, j int) bool { return order(&list[i]) < order(&list[j]) })
	return list, nil
}

func today() string { return time.Now().UTC().Format(time.DateOnly) }

// reachedBy are the moves of an upgrade's legs up to its current one.
func (s *Store) reachedBy(ctx context.Context, upgrade int64) ([]versions.Move, error) {
	legs, err := s.Legs(ctx, upgrade)
	if err != nil {
		return nil, err
	}
	var list []versions.Move
	for _, l := range legs {
		if l.Status == "planned" || l.Status == "abandoned" {
			continue
		}
		list = append(list, l.Moves...)
	}
	return list, nil
}

// releases are the newest versions that package managers know of.
func (s *Store) releases(ctx context.Context, upgrade int64) ([]versions.Move, error) {
	said, _, err := listing(ctx, s.db, upgrade)
	var list []versions.Move
	for _, l := range said.Listed {
		list = append(list, versions.Move{Package: l.Name, From: l.Has, To: l.Newest})
	}
	return list, err
}

// AddDebt writes a debt down.
func (s *Store) AddDebt(ctx context.Context, upgrade int64, n NewDebt) (Debt, error) {
	var id int64
	err := s.inTx(ctx, func(tx *sqlx.Tx) (err error) {
		if _, err := s.leg(ctx, tx, upgrade); err != nil {
			return err
		}
		id, err = addDebt(ctx, tx, upgrade, n)
		return err
	})
	if err != nil {
		return Debt{}, err
	}
	return s.debt(ctx, upgrade, id)
}

func addDebt(ctx context.Context, tx *sqlx.Tx, upgrade int64, n NewDebt) (int64, error) {
	var id int64
	err := tx.GetContext(ctx, &id, `INSERT INTO debt (upgrade_id, cause, kind, text, due, file, code, author) VALUES ($1, $2, $3, $4, $5, $6, $7, $8) RETURNING id`,
		upgrade, n.Cause, n.Kind, n.Text, n.Due, n.File, n.Code, n.Author)
	if err != nil {
		return 0, fmt.Errorf("storing the debt: %w", err)
	}
	return id, addEvent(ctx, tx, upgrade, event{kind: "debt", cause: n.Cause, text: fmt.Sprintf("debt until %s: %s", n.Due, n.Text), author: n.Author})
}

// putOff writes down what a decision puts off, in place of what an earlier one
// did, and the workaround that it names.
func putOff(ctx context.Context, tx *sqlx.Tx, upgrade int64, cause string, d NewDecision) error {
	if _, err := tx.ExecContext(ctx, `
		UPDATE debt SET settled_by = $3, settled_at = now(), settled = 'decided anew'
		WHERE upgrade_id = $1 AND cause = $2 AND kind IN ('deferred', 'waiting') AND settled_at IS NULL`, upgrade, cause, d.Author); err != nil {
		return fmt.Errorf("storing the debts: %w", err)
	}
	kind := map[string]string{"defer": "deferred", "wait": "waiting"}[d.Kind]
	if kind != "" && d.Due != "" {
		if _, err := addDebt(ctx, tx, upgrade, NewDebt{Kind: kind, Text: cause + ": " + d.Reason, Due: d.Due, Cause: cause, Author: d.Author}); err != nil {
			return err
		}
	}
	if d.Code == "" {
		return nil
	}
	_, err := addDebt(ctx, tx, upgrade, NewDebt{Kind: "workaround", Text: cause + ": " + d.Reason, Due: d.Due, Cause: cause, File: d.File, Code: d.Code, Author: d.Author})
	return err
}

// SettleDebt says that a debt is paid. It returns ErrNotFound where the project
// has none with this number that is open.
func (s *Store) SettleDebt(ctx context.Context, upgrade, id int64, how, author string) (Debt, error) {
	err := s.inTx(ctx, func(tx *sqlx.Tx) error {
		var text string
		err := tx.GetContext(ctx, &text, `
			UPDATE debt SET settled_by = $3, settled_at = now(), settled = $4 WHERE id = $2 AND settled_at IS NULL
				AND upgrade_id IN (SELECT o.id FROM upgrade o JOIN upgrade u ON u.project_id = o.project_id WHERE u.id = $1) RETURNING text`, upgrade, id, author, how)
		if err := found(err, fmt.Sprintf("open debt %d", id)); err != nil {
			return err
		}
		return addEvent(ctx, tx, upgrade, event{kind: "debt", text: fmt.Sprintf("debt paid: %s (%s)", text, how), author: author})
	})
	if err != nil {
		return Debt{}, err
	}
	return s.debt(ctx, upgrade, id)
}

func (s *Store) debt(ctx context.Context, upgrade, id int64) (Debt, error) {
	list, err := s.Debts(ctx, upgrade)
	if err != nil {
		return Debt{}, err
	}
	for _, d := range list {
		if d.ID == id {
			return d, nil
		}
	}
	return Debt{}, fmt.Errorf("debt %d: %w", id, ErrNotFound)
}

// Debt is one debt, with where its code stands in the latest source and the
// patch that takes it out.
func (s *Store) Debt(ctx context.Context, upgrade, id int64) (DebtDetail, error) {
	d, err := s.debt(ctx, upgrade, id)
	if err != nil {
		return DebtDetail{}, err
	}
	detail := DebtDetail{Debt: d}
	a, err := s.Inspect(ctx, upgrade)
	if err != nil {
		return detail, err
	}
	defer a.Cancel()
	_, tree, err := a.Trees()
	if err != nil || d.Code == "" {
		return detail, err
	}
	detail.File, detail.Line = debt.Find(tree, d.File, d.Code)
	if detail.Line == 0 {
		detail.File = ""
	}
	detail.Patch = debt.Removal(tree, d.File, d.Code)
	return detail, nil
}

// FoundDebts lists the code, new since the baseline, that puts something off
// and stands in no open debt.
func (s *Store) FoundDebts(ctx context.Context, upgrade int64) ([]FoundDebt, error) {
	leg, err := s.leg(ctx, s.db, upgrade)
	if err != nil {
		return nil, err
	}
	var found []doc[debt.Found]
	if err := s.db.SelectContext(ctx, &found, `SELECT facts FROM found_debt WHERE leg_id = $1 ORDER BY ordinal`, leg); err != nil {
		return nil, fmt.Errorf("reading what is put off in code: %w", err)
	}
	debts, err := s.Debts(ctx, upgrade)
	if err != nil {
		return nil, err
	}
	type place struct{ file, code string }
	booked := map[place]bool{}
	for _, d := range debts {
		for _, line := range strings.Split(d.Code, "\n") {
			if !d.Settled {
				booked[place{d.File, strings.TrimSpace(line)}] = true
			}
		}
	}
	var list []FoundDebt
	for _, d := range found {
		f := d.v
		if !booked[place{f.File, f.Code}] {
			list = append(list, FoundDebt{Found: f, Key: "found:" + f.File + ":" + f.Code})
		}
	}
	return list, nil
}

// SaveFound keeps the code of the latest source that puts something off.
func (a *Analysis) SaveFound(found []debt.Found) error {
	if _, err := a.tx.ExecContext(a.ctx, `DELETE FROM found_debt WHERE leg_id = $1`, a.Leg); err != nil {
		return fmt.Errorf("storing what is put off in code: %w", err)
	}
	rows := make([][]any, 0, len(found))
	for i, f := range found {
		rows = append(rows, []any{a.Leg, i, asJSON(f)})
	}
	return a.copyRows("found_debt", []string{"leg_id", "ordinal", "facts"}, rows)
}
