package store

import (
	"context"
	"fmt"
	"strings"
)

// mostFound is how many of each kind are found.
const mostFound = 8

// Found is what a text finds. About is what else tells it apart; Key is the name of the
// cause (of a file or a test, of the one that it belongs to), of the change or of the run.
type Found struct{ Kind, Name, About, Key string }

// finders look for a text in an upgrade ($1), as a pattern ($2) and as it is ($3). What has
// the text as its name or number comes first.
var finders = []string{
	`SELECT 'cause' AS kind, c.name || ' ' || c.title AS name, c.status || ', leg ' || l.number AS about, c.name AS key
		FROM cause c JOIN leg l ON l.id = c.leg_id WHERE l.upgrade_id = $1 AND (c.title ILIKE $2 OR c.name ILIKE $2)
		ORDER BY lower(c.name) <> lower($3), l.number DESC, c.known, c.status = 'cleared', c.rank`,
	`SELECT 'run' AS kind, '#' || r.number || ' ' || k.name AS name, r.subject AS about, r.number::text AS key
		FROM run r JOIN leg l ON l.id = r.leg_id JOIN "check" k ON k.id = r.check_id
		WHERE l.upgrade_id = $1 AND r.number IS NOT NULL AND (r.number::text = ltrim($3, '#') OR k.name ILIKE $2 OR r.subject ILIKE $2 OR r.commit_id ILIKE $3 || '%')
		ORDER BY r.number::text <> ltrim($3, '#'), r.number DESC`,
	`SELECT 'change' AS kind, coalesce(c.facts->>'title', c.facts->>'Title') AS name, n.name || ':' || c.line AS about, c.identity AS key
		FROM change c JOIN notes n ON n.id = c.notes_id JOIN leg l ON l.id = n.leg_id
		WHERE l.upgrade_id = $1 AND l.number = (SELECT max(number) FROM leg WHERE upgrade_id = $1 AND id IN (SELECT leg_id FROM notes))
			AND (coalesce(c.facts->>'title', c.facts->>'Title') ILIKE $2 OR n.name || ':' || c.line ILIKE $2)
		ORDER BY n.name || ':' || c.line <> $3, n.name, c.line`,
	`SELECT 'file' AS kind, s.facts->>'file' AS name, count(*) || ' in ' || c.name AS about, c.name AS key
		FROM symptom s JOIN cause c ON c.id = s.cause_id WHERE s.upgrade_id = $1 AND s.facts->>'file' ILIKE $2
		GROUP BY s.facts->>'file', c.name ORDER BY bool_and(s.status = 'cleared'), count(*) DESC, s.facts->>'file'`,
	`SELECT 'test' AS kind, s.facts->>'test' AS name, c.name || ' ' || c.title AS about, c.name AS key
		FROM symptom s JOIN cause c ON c.id = s.cause_id WHERE s.upgrade_id = $1 AND s.facts->>'test' ILIKE $2
		GROUP BY s.facts->>'test', c.name, c.title ORDER BY bool_and(s.status = 'cleared'), s.facts->>'test'`,
	`SELECT DISTINCT 'test' AS kind, t.name, t.suite AS about, '' AS key FROM test_outcome t
		WHERE t.upgrade_id = $1 AND t.name ILIKE $2 AND t.run_id IN (SELECT r.id FROM run r JOIN leg l ON l.id = r.leg_id WHERE l.upgrade_id = $1 AND r.number IS NOT NULL ORDER BY r.number DESC LIMIT 20)
			AND NOT EXISTS (SELECT FROM symptom s WHERE s.upgrade_id = $1 AND s.facts->>'test' = t.name)
		ORDER BY t.name`,
}

// Find finds causes, runs, changes, files and tests by name or number.
func (s *Store) Find(ctx context.Context, upgrade int64, text string) ([]Found, error) {
	if _, err := s.Upgrade(ctx, upgrade); err != nil {
		return nil, err
	}
	text = strings.TrimSpace(text)
	pattern := "%" + strings.NewReplacer(`\`, `\\`, "%", `\%`, "_", `\_`).Replace(text) + "%"
	list := []Found{}
	for _, query := range finders {
		var found []Found
		args := []any{upgrade, pattern}
		if strings.Contains(query, "$3") {
			args = append(args, text)
		}
		if err := s.db.SelectContext(ctx, &found, query+fmt.Sprintf(` LIMIT %d`, mostFound), args...); err != nil {
			return nil, fmt.Errorf("finding %q: %w", text, err)
		}
		list = append(list, found...)
	}
	return list, nil
}
