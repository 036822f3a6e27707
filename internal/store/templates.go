package store

import (
	"context"
	"fmt"

	"unicausa/internal/core/casebook"
)

// KeepTemplate keeps what was learnt for a change of an upgrade, in the place of what
// was. A template without examples says that none holds there, another upgrade's neither.
func (s *Store) KeepTemplate(ctx context.Context, upgrade int64, t casebook.Template, author string) error {
	_, err := s.db.ExecContext(ctx, `
		INSERT INTO template (upgrade_id, change, facts, author) VALUES ($1, $2, $3, $4)
		ON CONFLICT (coalesce(upgrade_id, 0), change) DO UPDATE SET facts = excluded.facts, author = excluded.author, created_at = now()`, upgrade, t.ChangeID, asJSON(t), author)
	if err != nil {
		return fmt.Errorf("keeping a template: %w", err)
	}
	return nil
}

// Templates are those that are kept, by what they are called, one for each change: the
// upgrade's own before that of another, the latest first.
func (s *Store) Templates(ctx context.Context, upgrade int64) ([]casebook.Template, error) {
	var rows []doc[casebook.Template]
	err := s.db.SelectContext(ctx, &rows, `
		SELECT facts FROM (SELECT DISTINCT ON (change) change, facts FROM template
			ORDER BY change, upgrade_id = $1 DESC NULLS LAST, created_at DESC) t ORDER BY facts->>'package', facts->>'change', change`, upgrade)
	if err != nil {
		return nil, fmt.Errorf("reading the templates: %w", err)
	}
	var list []casebook.Template
	for _, r := range rows {
		if len(r.v.Examples) > 0 {
			list = append(list, r.v)
		}
	}
	return list, nil
}

// TakeTemplates keeps templates that were handed on, and tells how many were not known.
func (s *Store) TakeTemplates(ctx context.Context, list []casebook.Template) (fresh int, err error) {
	for _, t := range list {
		result, err := s.db.ExecContext(ctx, `INSERT INTO template (change, facts) SELECT $1, $2 WHERE NOT EXISTS (SELECT FROM template WHERE change = $1 AND facts = $2)
			ON CONFLICT (coalesce(upgrade_id, 0), change) DO UPDATE SET facts = excluded.facts, created_at = now()`, t.ChangeID, asJSON(t))
		if err != nil {
			return fresh, fmt.Errorf("keeping a template: %w", err)
		}
		n, err := result.RowsAffected()
		if err != nil {
			return fresh, fmt.Errorf("keeping a template: %w", err)
		}
		fresh += int(n)
	}
	return fresh, nil
}
