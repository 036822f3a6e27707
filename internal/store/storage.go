package store

import (
	"context"
	"errors"
	"fmt"
	"time"

	"github.com/jmoiron/sqlx"
)

// ErrGone says that raw output was let go.
var ErrGone = errors.New("the raw output was let go")

// Pruned is what was let go of, in bytes as they are kept, and what is left.
type Pruned struct {
	Bytes, Left int64
	Runs        int
}

// Kept counts the records; Bytes is raw output, unpacked.
type Kept struct {
	Bytes          int64
	Runs, Upgrades int
}

// Prune lets go of raw output, the oldest first: what is of runs before a time, and as much
// more as is needed that no more than so many bytes (packed) are kept; nil for no such bound. Causes,
// decisions and reports stay. The latest run of every check, and what waits, is kept.
func (s *Store) Prune(ctx context.Context, before *time.Time, keep *int64, author string) (Pruned, error) {
	var done Pruned
	err := s.inTx(ctx, func(tx *sqlx.Tx) error {
		if _, err := tx.ExecContext(ctx, `SET LOCAL statement_timeout = 0`); err != nil {
			return fmt.Errorf("letting go of raw output: %w", err)
		}
		var inputs []struct {
			ID      int64     `db:"id"`
			Run     int64     `db:"run_id"`
			Upgrade int64     `db:"upgrade_id"`
			At      time.Time `db:"started_at"`
			Size    int64     `db:"size"`
			Kept    bool      `db:"kept"`
		}
		err := tx.SelectContext(ctx, &inputs, `
			SELECT i.id, i.run_id, l.upgrade_id, r.started_at, (SELECT coalesce(sum(length(data)), 0) FROM chunk c WHERE c.upgrade_id = l.upgrade_id AND c.input_id = i.id) AS size,
				r.status = 'stored' OR r.number = (SELECT max(number) FROM run o WHERE o.check_id = r.check_id) OR EXISTS (SELECT FROM baseline b WHERE b.run_id = r.id) AS kept
			FROM input i JOIN run r ON r.id = i.run_id JOIN leg l ON l.id = r.leg_id WHERE i.let_go IS NULL AND r.number IS NOT NULL ORDER BY r.started_at, i.id`)
		if err != nil {
			return fmt.Errorf("reading the inputs: %w", err)
		}
		var total int64
		for _, in := range inputs {
			total += in.Size
		}
		runs, upgrades := map[int64]bool{}, map[int64]int{}
		for _, in := range inputs {
			old, much := before != nil && in.At.Before(*before), keep != nil && total > *keep
			if in.Kept || !old && !much {
				continue
			}
			if _, err := tx.ExecContext(ctx, `DELETE FROM chunk WHERE upgrade_id = $1 AND input_id = $2`, in.Upgrade, in.ID); err != nil {
				return fmt.Errorf("letting go of raw output: %w", err)
			}
			if _, err := tx.ExecContext(ctx, `UPDATE input SET let_go = now() WHERE id = $1`, in.ID); err != nil {
				return fmt.Errorf("letting go of raw output: %w", err)
			}
			total -= in.Size
			done.Bytes += in.Size
			if !runs[in.Run] {
				runs[in.Run] = true
				upgrades[in.Upgrade]++
			}
		}
		done.Runs, done.Left = len(runs), total
		for upgrade, n := range upgrades {
			if err := addEvent(ctx, tx, upgrade, event{kind: "storage", text: "the raw output of " + counted(n, "run") + " was let go", author: author}); err != nil {
				return err
			}
		}
		return addDeed(ctx, tx, author, fmt.Sprintf("the raw output of %s was let go, %d bytes", counted(done.Runs, "run"), done.Bytes))
	})
	return done, err
}

// deletions are what an upgrade holds, in the order in which it can go.
var deletions = []string{
	`DELETE FROM occurrence WHERE upgrade_id = $1`, `DELETE FROM finding WHERE upgrade_id = $1`, `DELETE FROM test_outcome WHERE upgrade_id = $1`,
	`DELETE FROM chunk WHERE upgrade_id = $1`, `DELETE FROM event WHERE upgrade_id = $1`,
	`DELETE FROM exposure WHERE leg_id IN (SELECT id FROM leg WHERE upgrade_id = $1)`,
	`DELETE FROM change_word WHERE leg_id IN (SELECT id FROM leg WHERE upgrade_id = $1)`,
	`DELETE FROM correction WHERE leg_id IN (SELECT id FROM leg WHERE upgrade_id = $1)`,
	`DELETE FROM word WHERE leg_id IN (SELECT id FROM leg WHERE upgrade_id = $1)`,
	`DELETE FROM debt WHERE upgrade_id = $1`, `DELETE FROM git_commit WHERE upgrade_id = $1`,
	`DELETE FROM symptom WHERE upgrade_id = $1`,
	`DELETE FROM life WHERE cause_id IN (SELECT c.id FROM cause c JOIN leg l ON l.id = c.leg_id WHERE l.upgrade_id = $1)`,
	`DELETE FROM link WHERE cause_id IN (SELECT c.id FROM cause c JOIN leg l ON l.id = c.leg_id WHERE l.upgrade_id = $1)`,
	`DELETE FROM decision WHERE cause_id IN (SELECT c.id FROM cause c JOIN leg l ON l.id = c.leg_id WHERE l.upgrade_id = $1)`,
	`DELETE FROM cause WHERE leg_id IN (SELECT id FROM leg WHERE upgrade_id = $1)`,
	`DELETE FROM baseline WHERE leg_id IN (SELECT id FROM leg WHERE upgrade_id = $1)`,
	`DELETE FROM run WHERE leg_id IN (SELECT id FROM leg WHERE upgrade_id = $1)`,
	`DELETE FROM notes WHERE leg_id IN (SELECT id FROM leg WHERE upgrade_id = $1)`,
	`DELETE FROM move WHERE leg_id IN (SELECT id FROM leg WHERE upgrade_id = $1)`,
	`DELETE FROM listing WHERE upgrade_id = $1`, `DELETE FROM "check" WHERE upgrade_id = $1`, `DELETE FROM leg WHERE upgrade_id = $1`, `DELETE FROM upgrade WHERE id = $1`,
}

// Delete deletes an upgrade with all that it holds, and the source trees that no run is left
// of. One that is not there gives ErrNotFound.
func (s *Store) Delete(ctx context.Context, upgrade int64, author string) error {
	u, err := s.Upgrade(ctx, upgrade)
	if err != nil {
		return err
	}
	return s.inTx(ctx, func(tx *sqlx.Tx) error {
		var ours bool
		if _, err := tx.ExecContext(ctx, `SET LOCAL statement_timeout = 0`); err != nil {
			return fmt.Errorf("deleting the upgrade: %w", err)
		}
		if err := tx.GetContext(ctx, &ours, `SELECT pg_try_advisory_xact_lock(7236, $1::int)`, upgrade); err != nil {
			return fmt.Errorf("deleting the upgrade: %w", err)
		}
		if !ours {
			return fmt.Errorf("%w: its runs are being processed: try again in a moment", ErrNotYet)
		}
		for _, q := range deletions {
			if _, err := tx.ExecContext(ctx, q, upgrade); err != nil {
				return fmt.Errorf("deleting the upgrade: %w", err)
			}
		}
		if _, err := tx.ExecContext(ctx, `DELETE FROM source s WHERE NOT EXISTS (SELECT FROM run r WHERE r.source = s.digest)`); err != nil {
			return fmt.Errorf("deleting the upgrade: %w", err)
		}
		return addDeed(ctx, tx, author, fmt.Sprintf("upgrade %d of %s (%s) was deleted", u.ID, u.Project, u.Name))
	})
}

// Verify reads everything that is kept of every run, and counts it: that each input's raw
// output is there, whole and in order. The error names the first that is not.
func (s *Store) Verify(ctx context.Context) (Kept, error) {
	var kept Kept
	err := s.db.QueryRowContext(ctx, `SELECT (SELECT count(*) FROM upgrade), (SELECT count(*) FROM run WHERE number IS NOT NULL)`).Scan(&kept.Upgrades, &kept.Runs)
	if err != nil {
		return kept, fmt.Errorf("counting the records: %w", err)
	}
	var inputs []struct {
		ID      int64  `db:"id"`
		Name    string `db:"name"`
		Run     int    `db:"number"`
		Upgrade int64  `db:"upgrade_id"`
		Bytes   int64  `db:"bytes"`
	}
	err = s.db.SelectContext(ctx, &inputs, `
		SELECT i.id, i.name, r.number, l.upgrade_id, i.bytes FROM input i JOIN run r ON r.id = i.run_id JOIN leg l ON l.id = r.leg_id
		WHERE i.let_go IS NULL AND r.number IS NOT NULL ORDER BY i.id`)
	if err != nil {
		return kept, fmt.Errorf("reading the inputs: %w", err)
	}
	buffer := make([]byte, 1<<20)
	for _, in := range inputs {
		r := &chunkReader{ctx: ctx, q: s.db, upgrade: in.Upgrade, input: in.ID}
		var n int64
		for {
			read, err := r.Read(buffer)
			n += int64(read)
			if err != nil {
				if n != in.Bytes {
					return kept, fmt.Errorf("%s of run %d of upgrade %d has %d bytes of %d: %w", in.Name, in.Run, in.Upgrade, n, in.Bytes, err)
				}
				break
			}
		}
		kept.Bytes += n
	}
	return kept, nil
}
