package store

import (
	"context"
	"fmt"

	"github.com/jmoiron/sqlx"
)

// AcceptBaseline makes the latest run of every check the baseline of the
// current leg and returns those runs. Without a run it says so in an error. Who
// accepts it is told in the event.
func (s *Store) AcceptBaseline(ctx context.Context, upgrade int64, author string) ([]Run, error) {
	var numbers []int
	err := s.inTx(ctx, func(tx *sqlx.Tx) error {
		leg, err := s.leg(ctx, tx, upgrade)
		if err != nil {
			return err
		}
		if _, err := tx.ExecContext(ctx, `DELETE FROM baseline WHERE leg_id = $1`, leg); err != nil {
			return fmt.Errorf("storing the baseline: %w", err)
		}
		if numbers, err = baselineOf(ctx, tx, leg, leg); err != nil {
			return err
		}
		if len(numbers) == 0 {
			return fmt.Errorf("%w: there is no run to accept: record every check on the old version first", ErrNotYet)
		}
		return addEvent(ctx, tx, upgrade, event{kind: "baseline", text: "baseline accepted: the latest run of " + counted(len(numbers), "check"), author: author})
	})
	if err != nil {
		return nil, err
	}
	runs := []Run{}
	for _, n := range numbers {
		run, err := s.Run(ctx, upgrade, n)
		if err != nil {
			return nil, err
		}
		runs = append(runs, run)
	}
	return runs, nil
}

// baselineOf makes the latest run of every check of one leg the baseline of
// another, and gives the runs' numbers.
func baselineOf(ctx context.Context, tx *sqlx.Tx, of, leg int64) ([]int, error) {
	var numbers []int
	err := tx.SelectContext(ctx, &numbers, `
		WITH latest AS (SELECT DISTINCT ON (check_id) id, number FROM run WHERE leg_id = $1 AND number IS NOT NULL AND NOT interrupted ORDER BY check_id, number DESC),
			made AS (INSERT INTO baseline (leg_id, run_id) SELECT $2, id FROM latest)
		SELECT number FROM latest ORDER BY number`, of, leg)
	if err != nil {
		return nil, fmt.Errorf("storing the baseline: %w", err)
	}
	return numbers, nil
}
