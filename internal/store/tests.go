package store

import (
	"context"
	"fmt"
	"sort"

	"unicausa/internal/core/analysis"
	"unicausa/internal/core/compare"
	"unicausa/internal/core/symptom"
)

// TestTable sets tests against runs. Passed counts the tests that passed in every run that
// named them and are left out.
type TestTable struct {
	Passed int
	Runs   []TestRun
	Tests  []TestRow
}

// TestRun is a column of the table.
type TestRun struct {
	Baseline bool
	Check    string
	Commit   string
	Number   int
}

// TestRow is a test with a letter for each run: p passed, f failed, s skipped, - not there,
// ? the run does not say, . of another check.
type TestRow struct {
	Flaky    bool // it ended both ways on the same source
	Lost     bool // it passed in the baseline and is missing or skipped in the latest run
	Name     string
	Outcomes string
	Suite    string
}

// RunSymptom is what a run shows in lines of an input, with the cause that it belongs to,
// empty before there is a baseline.
type RunSymptom struct {
	symptom.Symptom
	Cause    string
	InputID  int64
	From, To int
}

// Tests sets every test of an upgrade against every run of the checks that
// name tests: trouble first. Tests that always passed are only counted when
// there are more than mostSteady of them.
func (s *Store) Tests(ctx context.Context, upgrade int64) (TestTable, error) {
	var table TestTable
	if _, err := s.leg(ctx, s.db, upgrade); err != nil {
		return table, err
	}
	var runs []struct {
		ID       int64  `db:"id"`
		Number   int    `db:"number"`
		Check    string `db:"check_name"`
		Commit   string `db:"commit_id"`
		Source   string `db:"source"`
		Telling  string `db:"telling"`
		Baseline bool   `db:"baseline"`
	}
	err := s.db.SelectContext(ctx, &runs, `
		SELECT r.id, r.number, c.name AS check_name, r.commit_id, coalesce(r.source, '') AS source, coalesce(r.reach->'Count'->>'Telling', '') AS telling, EXISTS (SELECT FROM baseline b WHERE b.run_id = r.id AND b.leg_id IN (SELECT id FROM leg WHERE upgrade_id = $1 AND status = 'current')) AS baseline
		FROM run r JOIN "check" c ON c.id = r.check_id JOIN leg l ON l.id = r.leg_id
		WHERE l.upgrade_id = $1 AND r.status = 'processed' AND EXISTS (SELECT FROM test_outcome t WHERE t.upgrade_id = $1 AND t.run_id = r.id) ORDER BY r.number`, upgrade)
	if err != nil {
		return table, fmt.Errorf("reading the runs: %w", err)
	}
	type named struct{ check, suite, name string }
	ids := map[named]int{} // to the row
	checks := []string{}
	var cells [][]byte // by row, then by run; 0 where there is none
	for n, r := range runs {
		table.Runs = append(table.Runs, TestRun{Number: r.Number, Check: r.Check, Commit: r.Commit, Baseline: r.Baseline})
		tests, err := s.tests(ctx, upgrade, r.ID)
		if err != nil {
			return table, err
		}
		for _, t := range tests {
			key := named{r.Check, t.Suite, t.Name}
			row, ok := ids[key]
			if !ok {
				row = len(table.Tests)
				ids[key] = row
				checks = append(checks, r.Check)
				cells = append(cells, make([]byte, len(runs)))
				table.Tests = append(table.Tests, TestRow{Suite: t.Suite, Name: t.Name})
			}
			letter := t.Outcome[0]
			if t.Outcome == symptom.Gone {
				letter = '-'
			}
			switch {
			case cells[row][n] == 0:
				cells[row][n] = letter
			case cells[row][n] != letter: // both ways in one run
				cells[row][n], table.Tests[row].Flaky = 'f', true
			}
		}
	}
	newest := map[string]int{} // of each check, the latest run
	for n, r := range runs {
		newest[r.Check] = n
	}
	for row := range table.Tests {
		t := &table.Tests[row]
		outcomes := cells[row]
		base, last := byte(0), byte(0)
		for n, r := range runs {
			if r.Check != checks[row] {
				outcomes[n] = '.'
				continue
			}
			if outcomes[n] == 0 {
				outcomes[n] = '-'
				if r.Telling == string(compare.Counted) || r.Telling == string(compare.Silent) {
					outcomes[n] = '?'
				}
			}
			if r.Baseline {
				base = outcomes[n]
			}
			last = outcomes[n]
			latest := runs[newest[r.Check]]
			for m := range n { // the same source, another end, and nothing changed since
				e := runs[m]
				if r.Source == latest.Source && r.Commit == latest.Commit && e.Check == r.Check && e.Source == r.Source && e.Commit == r.Commit && r.Commit != "" && ended(outcomes[n]) && ended(outcomes[m]) && outcomes[n] != outcomes[m] {
					t.Flaky = true
				}
			}
		}
		t.Outcomes = string(outcomes)
		t.Lost = base == 'p' && (last == '-' || last == 's')
	}
	arrange(&table)
	return table, nil
}

func ended(c byte) bool { return c == 'p' || c == 'f' }

// mostSteady is how many tests that always passed are listed.
const mostSteady = 500

// arrange sorts trouble to the top and leaves out what is steady beyond a bound.
func arrange(table *TestTable) {
	weight := func(t *TestRow) int {
		switch {
		case t.Lost:
			return 0
		case t.Flaky:
			return 1
		case last(t.Outcomes) == 'f':
			return 2
		case has(t.Outcomes, 'f'):
			return 3
		case has(t.Outcomes, 's') || has(t.Outcomes, '-') || has(t.Outcomes, '?'):
			return 4
		}
		return 5
	}
	sort.SliceStable(table.Tests, func(i, j int) bool {
		a, b := &table.Tests[i], &table.Tests[j]
		if x, y := weight(a), weight(b); x != y {
			return x < y
		}
		return a.Suite < b.Suite || a.Suite == b.Suite && a.Name < b.Name
	})
	steady := sort.Search(len(table.Tests), func(i int) bool { return weight(&table.Tests[i]) == 5 })
	if len(table.Tests)-steady > mostSteady {
		table.Passed = len(table.Tests) - steady - mostSteady
		table.Tests = table.Tests[:steady+mostSteady]
	}
}

// last is how a test ended in the latest run of its check.
func last(outcomes string) byte {
	for i := len(outcomes) - 1; i >= 0; i-- {
		if outcomes[i] != '.' {
			return outcomes[i]
		}
	}
	return 0
}

func has(outcomes string, c byte) bool {
	for i := range len(outcomes) {
		if outcomes[i] == c {
			return true
		}
	}
	return false
}

// RunSymptoms lists what a run shows, a place each, in the order of the lines.
func (s *Store) RunSymptoms(ctx context.Context, upgrade int64, number int) ([]RunSymptom, error) {
	run, err := s.Run(ctx, upgrade, number)
	if err != nil {
		return nil, err
	}
	var rows []struct {
		Input int64                `db:"input_id"`
		Line  int                  `db:"line"`
		End   int                  `db:"end_line"`
		ID    string               `db:"identity"`
		Cause string               `db:"cause"`
		Facts doc[symptom.Symptom] `db:"facts"`
	}
	err = s.db.SelectContext(ctx, &rows, `
		SELECT f.input_id, o.line, o.end_line, f.identity, coalesce(c.name, '') AS cause, f.facts
		FROM occurrence o JOIN finding f USING (upgrade_id, run_id, n) JOIN run r ON r.id = o.run_id
			LEFT JOIN symptom m ON m.upgrade_id = o.upgrade_id AND m.leg_id = r.leg_id AND m.identity = f.identity LEFT JOIN cause c ON c.id = m.cause_id
		WHERE o.upgrade_id = $1 AND o.run_id = $2 ORDER BY f.input_id, o.line LIMIT 20000`, upgrade, run.ID)
	if err != nil {
		return nil, fmt.Errorf("reading the symptoms: %w", err)
	}
	list := make([]RunSymptom, 0, len(rows))
	for _, r := range rows {
		one := RunSymptom{Symptom: r.Facts.v, Cause: r.Cause, InputID: r.Input, From: r.Line, To: r.End}
		one.ID = r.ID
		list = append(list, one)
	}
	return list, nil
}

// OthersOf lists the processed runs of a run's check beside it, the latest first.
func (a *Analysis) OthersOf(run analysis.Run) ([]analysis.Run, error) {
	return a.refs(` AND r.check_id = (SELECT check_id FROM run WHERE id = $2) AND r.id <> $2 AND r.status = 'processed' ORDER BY r.number DESC`, a.Leg, run.ID)
}

// NamedTests lists the tests that other runs of a run's check name.
func (a *Analysis) NamedTests(run analysis.Run) ([]analysis.Named, error) {
	rows, err := a.tx.QueryContext(a.ctx, `
		SELECT DISTINCT ON (t.suite, t.name) t.suite, t.name, t.outcome, coalesce(r.source, '')
		FROM test_outcome t JOIN run r ON r.id = t.run_id
		WHERE t.upgrade_id = $2 AND NOT t.inferred AND r.status = 'processed' AND r.check_id = (SELECT check_id FROM run WHERE id = $1) AND r.id <> $1
		ORDER BY t.suite, t.name, r.number DESC`, run.ID, a.Upgrade)
	if err != nil {
		return nil, fmt.Errorf("reading the tests: %w", err)
	}
	defer rows.Close()
	var list []analysis.Named
	for rows.Next() {
		var t analysis.Named
		if err := rows.Scan(&t.Suite, &t.Name, &t.Outcome, &t.Source); err != nil {
			return nil, fmt.Errorf("reading the tests: %w", err)
		}
		list = append(list, t)
	}
	return list, rows.Err()
}

// Record lists how a test ended in the recordings of checks of the upgrade, the
// oldest first.
func (a *Analysis) Record(checks []string, suite, name string) ([]symptom.Outcome, error) {
	var list []symptom.Outcome
	err := a.tx.SelectContext(a.ctx, &list, `
		SELECT t.outcome FROM test_outcome t JOIN run r ON r.id = t.run_id JOIN "check" c ON c.id = r.check_id JOIN leg l ON l.id = r.leg_id
		WHERE t.upgrade_id = $1 AND l.upgrade_id = $1 AND r.status = 'processed' AND c.name = ANY($2) AND t.suite = $3 AND t.name = $4 ORDER BY r.number`, a.Upgrade, checks, suite, name)
	if err != nil {
		return nil, fmt.Errorf("reading the record of a test: %w", err)
	}
	return list, nil
}

// AddTests stores how tests ended in a run that does not name them.
func (a *Analysis) AddTests(run analysis.Run, tests []symptom.Test) error {
	if len(tests) == 0 {
		return nil
	}
	ids, _, err := a.Outputs(run.ID)
	if err != nil || len(ids) == 0 {
		return err
	}
	rows := make([][]any, len(tests))
	for i, t := range tests {
		rows[i] = []any{a.Upgrade, run.ID, ids[0], utf8(t.Suite), utf8(t.Name), string(t.Outcome), t.Seconds, true}
	}
	return a.copyRows("test_outcome", []string{"upgrade_id", "run_id", "input_id", "suite", "name", "outcome", "seconds", "inferred"}, rows)
}

// Ref finds a run by its number, or ErrNotFound.
func (a *Analysis) Ref(number int) (analysis.Run, error) {
	list, err := a.refs(` AND r.leg_id IN (SELECT o.id FROM leg o JOIN leg l ON l.upgrade_id = o.upgrade_id WHERE l.id = $1) AND r.number = $2`, a.Leg, number)
	if err == nil && len(list) == 0 {
		err = fmt.Errorf("run %d: %w", number, ErrNotFound)
	}
	if err != nil {
		return analysis.Run{}, err
	}
	return list[0], nil
}
