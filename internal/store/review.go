package store

import (
	"fmt"

	"unicausa/internal/core/link"
	"unicausa/internal/core/review"
	"unicausa/internal/core/source"
	"unicausa/internal/core/symptom"
)

// TreesOfRun are the source trees that a run came with and that the upgrade had before;
// either may be nil.
func (a *Analysis) TreesOfRun(number int) (before, after *source.Tree, err error) {
	var digests []string
	if err := a.tx.SelectContext(a.ctx, &digests, `SELECT r.source FROM run r JOIN leg l ON l.id = r.leg_id WHERE l.upgrade_id = $1 AND r.number = $2 AND r.source IS NOT NULL`, a.Upgrade, number); err != nil {
		return nil, nil, fmt.Errorf("finding the source tree of run %d: %w", number, err)
	}
	if len(digests) == 0 {
		return nil, nil, nil
	}
	if after, err = a.Tree(digests[0]); err != nil {
		return nil, nil, err
	}
	err = a.tx.SelectContext(a.ctx, &digests, `SELECT r.source FROM run r JOIN leg l ON l.id = r.leg_id
		WHERE l.upgrade_id = $1 AND r.number < $2 AND r.source IS NOT NULL AND r.source <> $3 ORDER BY r.number DESC LIMIT 1`, a.Upgrade, number, digests[0])
	if err != nil {
		return nil, nil, fmt.Errorf("finding the source tree before run %d: %w", number, err)
	}
	if len(digests) == 1 {
		before, err = a.Tree(digests[0])
	}
	return before, after, err
}

// RunOfCommit is the run that first stood on a commit, named by the beginning of its ID,
// or behind it; ErrNotFound where the upgrade has no such commit.
func (a *Analysis) RunOfCommit(id string) (run int, subject string, err error) {
	var row struct {
		Run     int    `db:"run"`
		Subject string `db:"subject"`
	}
	err = a.tx.GetContext(a.ctx, &row, `SELECT run, subject FROM git_commit WHERE upgrade_id = $1 AND starts_with(id, $2) ORDER BY ordinal DESC LIMIT 1`, a.Upgrade, id)
	return row.Run, row.Subject, found(err, "commit "+id)
}

// Reviewed are the leg's causes as a review asks for them: where their symptoms stand,
// in the tree's own paths, which names these complain of, and what explains them.
func (a *Analysis) Reviewed(tree *source.Tree) ([]review.Cause, error) {
	var rows []struct {
		Name  string               `db:"name"`
		Title string               `db:"title"`
		Facts doc[symptom.Symptom] `db:"facts"`
	}
	err := a.tx.SelectContext(a.ctx, &rows, `SELECT c.name, c.title, s.facts FROM symptom s JOIN cause c ON c.id = s.cause_id
		WHERE c.leg_id = $1 AND NOT c.known AND NOT s.follower ORDER BY length(c.name), c.name, s.id`, a.Leg)
	if err != nil {
		return nil, fmt.Errorf("reading the causes: %w", err)
	}
	var list []review.Cause
	at := map[string]int{}
	for _, r := range rows {
		i, ok := at[r.Name]
		if !ok {
			i = len(list)
			at[r.Name] = i
			list = append(list, review.Cause{ID: r.Name, Title: r.Title})
		}
		list[i].Add(tree, &r.Facts.v)
	}
	var links []struct {
		Name   string `db:"name"`
		Change string `db:"change"`
	}
	err = a.tx.SelectContext(a.ctx, &links, `SELECT c.name, l.change FROM link l JOIN cause c ON c.id = l.cause_id
		WHERE c.leg_id = $1 AND NOT c.known AND (l.state = 'confirmed' OR l.state = 'proposed' AND l.score >= $2)`, a.Leg, link.LikelyFrom)
	if err != nil {
		return nil, fmt.Errorf("reading the links: %w", err)
	}
	for _, l := range links {
		if i, ok := at[l.Name]; ok {
			list[i].Changes = append(list[i].Changes, l.Change)
		}
	}
	return list, nil
}
