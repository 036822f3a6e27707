package store

import (
	"context"
	"fmt"
	"slices"
	"sort"
	"time"

	"unicausa/internal/core/compare"
	"unicausa/internal/core/gate"
	"unicausa/internal/core/symptom"
	"unicausa/internal/core/track"
	"unicausa/internal/core/versions"
)

// Standing is what the verdict on an upgrade's current leg rests on, and its
// checks as they are shown.
type Standing struct {
	Checks []Check
	Leg    gate.Leg
}

// Check is a check with its accepted run and its latest since, nil where there is none.
type Check struct {
	Baseline, Latest     *Run
	Name                 string
	Required             bool
	Passed, Failed, Lost int // tests of the latest run; lost ones passed in the baseline
}

// HistoryPoint is a run with how many symptoms of each cause it left shown.
type HistoryPoint struct {
	At      time.Time
	Causes  map[string]int
	Check   string
	Commit  string
	Exit    int
	Run     int
	Subject string
}

// Standing reads the checks with their baseline and latest run, the causes, and
// all else that the gate asks for.
func (s *Store) Standing(ctx context.Context, upgrade int64, causes []Cause) (Standing, error) {
	st := Standing{Leg: gate.Leg{Words: map[string]gate.Word{}}}
	if err := s.standChecks(ctx, upgrade, &st); err != nil {
		return st, err
	}
	for _, c := range causes {
		g := gate.Cause{ID: c.Name, Title: c.Title, Known: c.Known, Status: track.Status(c.Status), Silenced: c.Silenced}
		if c.Decision != nil {
			g.Decision, g.Due, g.Fix = c.Decision.Kind, c.Decision.Due, track.Outcome(c.Decision.Outcome)
		}
		st.Leg.Causes = append(st.Leg.Causes, g)
	}
	legs, err := s.Legs(ctx, upgrade)
	if err != nil {
		return st, err
	}
	for _, l := range legs {
		switch l.Status {
		case "current":
			st.Leg.Moves = append(st.Leg.Moves, l.Moves...)
		case "planned":
			st.Leg.Left = append(st.Leg.Left, fmt.Sprintf("leg %d (%s)", l.Number, inWords(l.Moves)))
		}
	}
	changes, err := s.Changes(ctx, upgrade)
	if err != nil {
		return st, err
	}
	for _, c := range changes {
		if c.Silent {
			st.Leg.Risks = append(st.Leg.Risks, gate.Risk{ID: c.ID, Title: c.Title, Places: c.Places})
		}
	}
	found, err := s.FoundDebts(ctx, upgrade)
	if err != nil {
		return st, err
	}
	for _, f := range found {
		st.Leg.Unbooked = append(st.Leg.Unbooked, gate.Unbooked{Key: f.Key, File: f.File, Line: f.Line, What: f.What})
	}
	words, err := s.Words(ctx, upgrade)
	if err != nil {
		return st, err
	}
	for _, w := range words {
		if !w.Undone {
			st.Leg.Words[w.About] = gate.Word{Reason: w.Reason, Author: w.Author}
		}
	}
	return st, nil
}

// standChecks reads the checks of an upgrade with their runs in its current leg.
func (s *Store) standChecks(ctx context.Context, upgrade int64, st *Standing) error {
	runs, err := s.Runs(ctx, upgrade)
	if err != nil {
		return err
	}
	leg, err := s.leg(ctx, s.db, upgrade)
	if err != nil {
		return err
	}
	var accepted []int64
	if err := s.db.SelectContext(ctx, &accepted, `SELECT run_id FROM baseline WHERE leg_id = $1`, leg); err != nil {
		return fmt.Errorf("reading the baseline: %w", err)
	}
	var current int
	if err := s.db.GetContext(ctx, &current, `SELECT number FROM leg WHERE id = $1`, leg); err != nil {
		return fmt.Errorf("reading the leg: %w", err)
	}
	var checks []struct {
		Name     string `db:"name"`
		Required bool   `db:"required"`
	}
	if err := s.db.SelectContext(ctx, &checks, `SELECT name, required FROM "check" WHERE upgrade_id = $1 AND name <> $2 ORDER BY id`, upgrade, versions.ReadyCheck); err != nil {
		return fmt.Errorf("reading the checks: %w", err)
	}
	reaches, err := s.reaches(ctx, upgrade)
	if err != nil {
		return err
	}
	for _, k := range checks {
		check := Check{Name: k.Name, Required: k.Required}
		for i := range runs { // the latest first
			r := &runs[i]
			switch {
			case r.Facts.Check != k.Name:
			case slices.Contains(accepted, r.ID):
				check.Baseline = r
			case r.Leg == current && r.Status == "processed" && check.Latest == nil && check.Baseline == nil:
				check.Latest = r
			}
		}
		g, err := s.gateCheck(ctx, upgrade, &check, reaches)
		if err != nil {
			return err
		}
		if check.Latest != nil {
			for name, version := range check.Latest.Facts.Versions {
				st.Leg.Seen = append(st.Leg.Seen, gate.Seen{Package: name, Version: version, Run: check.Latest.Number})
			}
		}
		st.Checks = append(st.Checks, check)
		st.Leg.Checks = append(st.Leg.Checks, g)
	}
	sort.Slice(st.Leg.Seen, func(i, j int) bool {
		a, b := st.Leg.Seen[i], st.Leg.Seen[j]
		return a.Run > b.Run || a.Run == b.Run && a.Package < b.Package
	})
	return nil
}

// reaches are how far the processed runs of an upgrade got, by run.
func (s *Store) reaches(ctx context.Context, upgrade int64) (map[int64]compare.Reach, error) {
	var rows []struct {
		ID    int64              `db:"id"`
		Reach doc[compare.Reach] `db:"reach"`
	}
	err := s.db.SelectContext(ctx, &rows, `SELECT r.id, r.reach FROM run r JOIN leg l ON l.id = r.leg_id WHERE l.upgrade_id = $1 AND r.status = 'processed'`, upgrade)
	if err != nil {
		return nil, fmt.Errorf("reading how far the runs got: %w", err)
	}
	reaches := make(map[int64]compare.Reach, len(rows))
	for _, r := range rows {
		reaches[r.ID] = r.Reach.v
	}
	return reaches, nil
}

// gateCheck compares the tests of a check's latest run with its baseline's,
// and counts them.
func (s *Store) gateCheck(ctx context.Context, upgrade int64, check *Check, reaches map[int64]compare.Reach) (gate.Check, error) {
	g := gate.Check{Name: check.Name, Informative: !check.Required}
	if check.Baseline != nil {
		g.Baseline = &gate.Run{Number: check.Baseline.Number, Exit: check.Baseline.Facts.Exit, Frontier: check.Baseline.Frontier}
	}
	if check.Latest == nil {
		return g, nil
	}
	g.Latest = &gate.Run{Number: check.Latest.Number, Exit: check.Latest.Facts.Exit, Frontier: check.Latest.Frontier}
	reach := reaches[check.Latest.ID]
	g.Latest.Tests = reach.Count
	var before, after []symptom.Test
	var err error
	if reach.Count.Total > 0 {
		if after, err = s.tests(ctx, upgrade, check.Latest.ID); err != nil {
			return g, err
		}
	}
	for _, t := range after {
		switch t.Outcome {
		case symptom.Passed:
			check.Passed++
		case symptom.Failed:
			check.Failed++
		}
	}
	if check.Baseline == nil {
		return g, nil
	}
	g.Baseline.Tests = reaches[check.Baseline.ID].Count
	if g.Baseline.Tests.Total == 0 {
		return g, nil
	}
	if before, err = s.tests(ctx, upgrade, check.Baseline.ID); err != nil {
		return g, err
	}
	g.Lost = compare.LostTests(before, after, reach.Blocked, reach.Count.Telling)
	g.Untold = compare.Untold(before, after, reach.Blocked)
	check.Lost = len(g.Lost)
	return g, nil
}

func (s *Store) tests(ctx context.Context, upgrade, run int64) ([]symptom.Test, error) {
	rows, err := s.db.QueryContext(ctx, `SELECT suite, name, outcome, seconds FROM test_outcome WHERE upgrade_id = $1 AND run_id = $2`, upgrade, run)
	if err != nil {
		return nil, fmt.Errorf("reading the tests: %w", err)
	}
	defer rows.Close()
	var list []symptom.Test
	for rows.Next() {
		var t symptom.Test
		if err := rows.Scan(&t.Suite, &t.Name, &t.Outcome, &t.Seconds); err != nil {
			return nil, fmt.Errorf("reading the tests: %w", err)
		}
		list = append(list, t)
	}
	return list, rows.Err()
}

// History lists, for each processed run since the baseline, how many symptoms
// of each cause it left shown.
func (s *Store) History(ctx context.Context, upgrade int64) ([]HistoryPoint, error) {
	rows, err := s.db.QueryContext(ctx, `
		SELECT r.number, k.name, r.commit_id, r.subject, r.started_at, r.exit, coalesce(c.name, ''), coalesce(f.shown, 0)
		FROM run r JOIN leg l ON l.id = r.leg_id JOIN "check" k ON k.id = r.check_id
			LEFT JOIN (life f JOIN cause c ON c.id = f.cause_id AND NOT c.known) ON c.leg_id = r.leg_id AND f.run = r.number AND f.shown > 0
		WHERE l.upgrade_id = $1 AND r.delta IS NOT NULL AND r.delta <> 'null' ORDER BY r.number`, upgrade)
	if err != nil {
		return nil, fmt.Errorf("reading the history: %w", err)
	}
	defer rows.Close()
	var list []HistoryPoint
	for rows.Next() {
		var p HistoryPoint
		var cause string
		var shown int
		if err := rows.Scan(&p.Run, &p.Check, &p.Commit, &p.Subject, &p.At, &p.Exit, &cause, &shown); err != nil {
			return nil, fmt.Errorf("reading the history: %w", err)
		}
		if n := len(list); n == 0 || list[n-1].Run != p.Run {
			p.Causes = map[string]int{}
			list = append(list, p)
		}
		if cause != "" {
			list[len(list)-1].Causes[cause] = shown
		}
	}
	return list, rows.Err()
}

// Pending counts the runs of an upgrade that wait to be processed.
func (s *Store) Pending(ctx context.Context, upgrade int64) (int, error) {
	var n int
	err := s.db.GetContext(ctx, &n, `SELECT count(*) FROM run r JOIN leg l ON l.id = r.leg_id WHERE l.upgrade_id = $1 AND r.status = 'stored' AND r.number IS NOT NULL`, upgrade)
	if err != nil {
		return 0, fmt.Errorf("reading the runs: %w", err)
	}
	return n, nil
}

// Unfinished lists the legs with runs that wait to be processed, and those whose
// changes have not been held against the code: records of an earlier version.
func (s *Store) Unfinished(ctx context.Context) ([]int64, error) {
	var legs []int64
	_, err := s.db.ExecContext(ctx, `
		UPDATE leg SET asked = asked + 1 WHERE asked = drawn
			AND id IN (SELECT n.leg_id FROM notes n JOIN change c ON c.notes_id = n.id WHERE NOT EXISTS (SELECT 1 FROM exposure e WHERE e.leg_id = n.leg_id))`)
	if err != nil {
		return nil, fmt.Errorf("finding unfinished work: %w", err)
	}
	err = s.db.SelectContext(ctx, &legs, `
		SELECT leg_id FROM run WHERE status = 'stored' AND number IS NOT NULL
		UNION SELECT id FROM leg WHERE asked > drawn`)
	if err != nil {
		return nil, fmt.Errorf("finding unfinished work: %w", err)
	}
	return legs, nil
}
