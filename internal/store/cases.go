package store

import (
	"context"
	"crypto/sha256"
	"encoding/hex"
	"fmt"

	"unicausa/internal/core/casebook"
	"unicausa/internal/core/link"
	"unicausa/internal/core/notes"
)

// Cases are the settled causes of all upgrades but one (0 for none), oldest
// first, behind those that were handed on.
func (s *Store) Cases(ctx context.Context, but int64) ([]casebook.Case, error) {
	var imported []doc[casebook.Case]
	if err := s.db.SelectContext(ctx, &imported, `SELECT facts FROM imported_case ORDER BY created_at, digest`); err != nil {
		return nil, fmt.Errorf("reading the casebook: %w", err)
	}
	var list []casebook.Case
	for _, c := range imported {
		list = append(list, c.v)
	}
	var rows []struct {
		Signature string             `db:"signature"`
		Package   string             `db:"package"`
		From      string             `db:"from_version"`
		To        string             `db:"to_version"`
		Title     string             `db:"title"`
		Kind      string             `db:"kind"`
		Decision  string             `db:"decision"`
		Reason    string             `db:"reason"`
		Project   string             `db:"project"`
		Upgrade   string             `db:"upgrade"`
		Change    doc[*notes.Change] `db:"change"`
	}
	err := s.db.SelectContext(ctx, &rows, `
		SELECT c.signature, c.package, coalesce(m.from_version, '') AS from_version, coalesce(m.to_version, '') AS to_version, c.title, c.kind,
			d.kind AS decision, d.reason, p.name AS project, u.name AS upgrade, coalesce(k.facts, 'null') AS change
		FROM decision d JOIN cause c ON c.id = d.cause_id JOIN leg l ON l.id = c.leg_id JOIN upgrade u ON u.id = l.upgrade_id JOIN project p ON p.id = u.project_id
			LEFT JOIN LATERAL (SELECT * FROM move v WHERE v.leg_id = l.id AND (c.package = v.package OR c.package LIKE v.package || '/%' OR (SELECT count(*) FROM move WHERE leg_id = l.id) = 1) ORDER BY ordinal LIMIT 1) m ON true
			LEFT JOIN LATERAL (SELECT ch.facts FROM link x JOIN change ch ON ch.identity = x.change JOIN notes n ON n.id = ch.notes_id AND n.leg_id = l.id
				WHERE x.cause_id = c.id AND (x.state = 'confirmed' OR x.state = 'proposed' AND x.score >= $2) ORDER BY x.state = 'confirmed' DESC, x.score DESC LIMIT 1) k ON true
		WHERE u.id <> $1 AND NOT c.known AND d.undone_at IS NULL AND d.id = (SELECT max(o.id) FROM decision o WHERE o.cause_id = c.id AND o.undone_at IS NULL)
			AND (d.kind <> 'fix' OR c.status = 'cleared')
		ORDER BY d.id`, but, link.LikelyFrom)
	if err != nil {
		return nil, fmt.Errorf("reading the casebook: %w", err)
	}
	for _, r := range rows {
		c := casebook.Case{Signature: r.Signature, Package: r.Package, From: r.From, To: r.To, Title: r.Title, Kind: r.Kind, Decision: r.Decision, Reason: r.Reason, Project: r.Project, Upgrade: r.Upgrade, Pairs: []notes.Rename{}}
		if r.Change.v != nil {
			c.Change, c.ChangeID, c.Pairs = r.Change.v.Title, r.Change.v.ID, orEmpty(r.Change.v.Renames)
		}
		list = append(list, c)
	}
	return casebook.Gather(list), nil
}

// Settled says of the signatures of other upgrades' causes how often each change
// explained them.
func (a *Analysis) Settled() (map[string]map[string]int, error) {
	cases, err := a.store.Cases(a.ctx, a.Upgrade)
	if err != nil {
		return nil, err
	}
	settled := map[string]map[string]int{}
	for _, c := range cases {
		if c.ChangeID == "" {
			continue
		}
		if settled[c.Signature] == nil {
			settled[c.Signature] = map[string]int{}
		}
		settled[c.Signature][c.ChangeID] += c.Helped + 1
	}
	return settled, nil
}

// TakeCases keeps cases that were handed on, and tells how many were not known.
func (s *Store) TakeCases(ctx context.Context, cases []casebook.Case) (fresh int, err error) {
	for _, c := range cases {
		text := asJSON(c)
		sum := sha256.Sum256([]byte(text))
		result, err := s.db.ExecContext(ctx, `INSERT INTO imported_case (digest, facts) VALUES ($1, $2) ON CONFLICT DO NOTHING`, hex.EncodeToString(sum[:]), text)
		if err != nil {
			return fresh, fmt.Errorf("storing a case: %w", err)
		}
		n, err := result.RowsAffected()
		if err != nil {
			return fresh, fmt.Errorf("storing a case: %w", err)
		}
		fresh += int(n)
	}
	return fresh, nil
}

// Picture is a picture of a run with its media type, or ErrNotFound.
func (s *Store) Picture(ctx context.Context, upgrade int64, run, ordinal int) (media string, data []byte, err error) {
	var row struct {
		Media string `db:"media"`
		Data  []byte `db:"data"`
	}
	err = s.db.GetContext(ctx, &row, `
		SELECT p.media, p.data FROM picture p JOIN run r ON r.id = p.run_id JOIN leg l ON l.id = r.leg_id WHERE l.upgrade_id = $1 AND r.number = $2 AND p.ordinal = $3`, upgrade, run, ordinal)
	return row.Media, row.Data, found(err, fmt.Sprintf("picture %d of run %d", ordinal, run))
}

// Elsewhere is a cause that is open in another upgrade. Decision is the latest, with its
// reason.
type Elsewhere struct {
	Upgrade  int64  `db:"upgrade"`
	Name     string `db:"name"` // of the upgrade
	Project  string `db:"project"`
	Cause    string `db:"cause"`
	Title    string `db:"title"`
	Status   string `db:"status"`
	Decision string `db:"decision"`
}

// Elsewhere are the causes of a signature that are open in other upgrades, the latest first.
func (s *Store) Elsewhere(ctx context.Context, upgrade int64, signature string) ([]Elsewhere, error) {
	var list []Elsewhere
	err := s.db.SelectContext(ctx, &list, `
		SELECT u.id AS upgrade, u.name, p.name AS project, c.name AS cause, c.title, c.status,
			coalesce((SELECT d.kind || ': ' || d.reason FROM decision d WHERE d.cause_id = c.id AND d.undone_at IS NULL ORDER BY d.id DESC LIMIT 1), '') AS decision
		FROM cause c JOIN leg l ON l.id = c.leg_id JOIN upgrade u ON u.id = l.upgrade_id JOIN project p ON p.id = u.project_id
		WHERE c.signature = $2 AND c.signature <> '' AND u.id <> $1 AND NOT c.known AND c.status <> 'cleared' AND l.status = 'current'
		ORDER BY u.id DESC LIMIT 20`, upgrade, signature)
	if err != nil {
		return nil, fmt.Errorf("looking for the cause elsewhere: %w", err)
	}
	return list, nil
}
