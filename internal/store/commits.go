package store

import (
	"context"
	"fmt"
	"slices"
	"sort"
	"time"
)

// NewCommit is a commit that came with a run.
type NewCommit struct {
	ID, Subject, Author string
	At                  time.Time
	Causes              []string // that its trailer Unicausa-Cause names
	Inert               bool     // it touches nothing that a check could depend on
}

// Commit is a commit with what the first runs on it or behind it brought. Shared is how
// many commits these runs cover together, when more than one.
type Commit struct {
	At         time.Time
	Author     string
	Cleared    []string // causes
	ID         string
	Introduced int
	Named      []string // causes that its message names, or that people say it fixes
	Opened     []string
	Runs       []int
	Shared     int
	Subject    string
	Uncovered  int
}

// About reports whether a commit names a cause, cleared it or brought it back.
func (c *Commit) About(cause string) bool {
	return slices.Contains(c.Named, cause) || slices.Contains(c.Cleared, cause) || slices.Contains(c.Opened, cause)
}

// commits stores the commits that came with a run. A cause that a message names
// has a claimed fix from then on, unless that commit claims it already.
func (r *recording) commits(number int) error {
	for i := len(r.facts.Commits) - 1; i >= 0; i-- { // the oldest first
		c := r.facts.Commits[i]
		result, err := r.tx.ExecContext(r.ctx, `
			INSERT INTO git_commit (upgrade_id, id, subject, author, committed_at, causes, run, inert, ordinal) VALUES ($1, $2, $3, $4, $5, $6, $7, $8,
				(SELECT coalesce(max(ordinal), 0) + 1 FROM git_commit WHERE upgrade_id = $1)) ON CONFLICT DO NOTHING`,
			r.upgrade, c.ID, utf8(c.Subject), utf8(c.Author), c.At, asJSON(orEmpty(c.Causes)), number, c.Inert)
		if err != nil {
			return fmt.Errorf("storing a commit: %w", err)
		}
		if n, err := result.RowsAffected(); err != nil || n == 0 {
			continue
		}
		for _, cause := range c.Causes {
			if err := r.claim(cause, c, number); err != nil {
				return err
			}
		}
	}
	return nil
}

// claim records the fix that a commit's message claims. A cause that is not
// there is none: the message stands in the history of commits all the same.
func (r *recording) claim(cause string, c NewCommit, number int) error {
	result, err := r.tx.ExecContext(r.ctx, `
		INSERT INTO decision (cause_id, kind, reason, due, commit_id, author, after_run, outcome)
		SELECT c.id, 'fix', $3, '', $4, $5, $6, 'claimed' FROM cause c JOIN leg l ON l.id = c.leg_id
		WHERE l.upgrade_id = $1 AND l.status = 'current' AND c.name = $2 AND NOT EXISTS (SELECT FROM decision d WHERE d.cause_id = c.id AND d.commit_id = $4)`,
		r.upgrade, cause, utf8(c.Subject), c.ID, utf8(c.Author), number-1)
	if err != nil {
		return fmt.Errorf("storing the fix of a commit: %w", err)
	}
	if n, err := result.RowsAffected(); err != nil || n == 0 {
		return err
	}
	return addEvent(r.ctx, r.tx, r.upgrade, event{kind: "decision", cause: cause, text: fmt.Sprintf("%s: fix, %s (commit %.10s)", cause, c.Subject, c.ID), author: c.Author})
}

// Commits lists the commits of an upgrade, with the causes that their messages
// name or that people say they fix, and what the first runs behind each brought,
// the latest first. Where runs cover several commits at once, what
// they brought is told of each, with how many share it. A commit that touches nothing that
// a check could depend on brought nothing, and nothing is told of one whose runs were made
// with changes that were not committed.
func (s *Store) Commits(ctx context.Context, upgrade int64) ([]Commit, error) {
	runs, err := s.Runs(ctx, upgrade)
	if err != nil {
		return nil, err
	}
	var rows []struct {
		ID      string        `db:"id"`
		Subject string        `db:"subject"`
		Author  string        `db:"author"`
		At      time.Time     `db:"committed_at"`
		Causes  doc[[]string] `db:"causes"`
		Run     int           `db:"run"`
		Inert   bool          `db:"inert"`
	}
	err = s.db.SelectContext(ctx, &rows, `
		SELECT id, subject, author, committed_at, causes || (SELECT coalesce(jsonb_agg(DISTINCT c.name), '[]') FROM decision d JOIN cause c ON c.id = d.cause_id
			JOIN leg l ON l.id = c.leg_id WHERE l.upgrade_id = $1 AND d.commit_id = git_commit.id AND d.undone_at IS NULL AND NOT git_commit.causes ? c.name) AS causes, run, inert
		FROM git_commit WHERE upgrade_id = $1 ORDER BY ordinal DESC`, upgrade)
	if err != nil {
		return nil, fmt.Errorf("reading the commits: %w", err)
	}
	sharing, head := map[int]int{}, map[int]string{} // by the run that first saw them
	for _, r := range rows {
		if sharing[r.Run]++; head[r.Run] == "" {
			head[r.Run] = r.ID
		}
	}
	list := make([]Commit, 0, len(rows))
	for _, r := range rows {
		c := Commit{ID: r.ID, Subject: r.Subject, Author: r.Author, At: r.At, Named: orEmpty(r.Causes.v), Cleared: []string{}, Opened: []string{}, Runs: []int{}}
		if sharing[r.Run] > 1 {
			c.Shared = sharing[r.Run]
		}
		cleared, opened := map[string]bool{}, map[string]bool{}
		for _, run := range runs {
			if run.Facts.Commit != head[r.Run] || run.Delta == nil {
				continue
			}
			c.Runs = append(c.Runs, run.Number)
			if r.Inert || run.Facts.Dirty { // it was not this commit, or not it alone
				continue
			}
			c.Uncovered += run.Delta.Uncovered
			c.Introduced += run.Delta.Introduced
			for _, id := range run.Delta.Cleared {
				cleared[id] = true
			}
			for _, id := range run.Delta.Opened {
				opened[id] = true
			}
		}
		c.Cleared, c.Opened = byNumber(cleared), byNumber(opened)
		sort.Ints(c.Runs)
		list = append(list, c)
	}
	return list, nil
}

// byNumber lists names of causes by their numbers.
func byNumber(names map[string]bool) []string {
	list := make([]string, 0, len(names))
	for name := range names {
		list = append(list, name)
	}
	sort.Slice(list, func(i, j int) bool {
		return len(list[i]) < len(list[j]) || len(list[i]) == len(list[j]) && list[i] < list[j]
	})
	return list
}
