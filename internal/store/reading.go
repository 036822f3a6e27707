package store

import (
	"fmt"
	"maps"

	"unicausa/internal/core/analysis"
	"unicausa/internal/core/compare"
	"unicausa/internal/core/read"
	"unicausa/internal/core/symptom"
)

// SaveReading stores what was read of a run's inputs, and the versions that its
// lock files name.
func (a *Analysis) SaveReading(run analysis.Run, inputs []int64, reading analysis.Reading) error {
	results := reading.Results
	for i, r := range results {
		_, err := a.tx.ExecContext(a.ctx, `UPDATE input SET format = $2, tools = $3, lines = $4, problem = $5, stated = $6, unread = $7 WHERE id = $1`,
			inputs[i], r.Format, asJSON(orEmpty(r.Tools)), r.Lines, r.Problem, asJSON(orEmpty(r.Stated)), asJSON(orEmpty(head(r.Unread, 1000))))
		if err != nil {
			return fmt.Errorf("storing what was read: %w", err)
		}
	}
	seen := 0
	err := a.copySeq("finding", []string{"upgrade_id", "run_id", "input_id", "n", "line", "test", "identity", "seen", "facts"}, func(yield func([]any) bool) {
		n := 0
		for i, r := range results {
			for _, s := range r.Symptoms {
				line := s.At[0].Line
				seen += max(s.Count, 1)
				count := s.Count
				s.At, s.Count = nil, 0
				if n++; !yield([]any{a.Upgrade, run.ID, inputs[i], n, line, utf8(s.Test), "", max(count, 1), asJSON(s)}) {
					return
				}
			}
		}
	})
	if err != nil {
		return err
	}
	err = a.copySeq("occurrence", []string{"upgrade_id", "run_id", "n", "line", "end_line"}, func(yield func([]any) bool) {
		n := 0
		for _, r := range results {
			for _, s := range r.Symptoms {
				n++
				for _, at := range s.At {
					if !yield([]any{a.Upgrade, run.ID, n, at.Line, at.End}) {
						return
					}
				}
			}
		}
	})
	if err != nil {
		return err
	}
	err = a.copySeq("test_outcome", []string{"upgrade_id", "run_id", "input_id", "suite", "name", "outcome", "seconds"}, func(yield func([]any) bool) {
		for i, r := range results {
			for _, t := range r.Tests {
				if !yield([]any{a.Upgrade, run.ID, inputs[i], utf8(t.Suite), utf8(t.Name), string(t.Outcome), t.Seconds}) {
					return
				}
			}
		}
	})
	if err != nil {
		return err
	}
	_, err = a.tx.ExecContext(a.ctx, `UPDATE run SET status = CASE WHEN interrupted THEN 'interrupted' ELSE 'processed' END, reach = $2, symptoms = $3, versions = $4 || versions WHERE id = $1`, run.ID, asJSON(reading.Reach), seen, asJSON(saidVersions(results, reading.Locked)))
	if err != nil {
		return fmt.Errorf("storing what was read: %w", err)
	}
	return nil
}

// versions are those that lock files name, and those that the outputs tell.
func saidVersions(results []read.Result, locked map[string]string) map[string]string {
	seen := maps.Clone(locked)
	if seen == nil {
		seen = map[string]string{}
	}
	for _, r := range results {
		for name, version := range r.Versions {
			seen[name] = version
		}
	}
	return seen
}

// SaveNotices stores how a run was made otherwise than its baseline.
func (a *Analysis) SaveNotices(run analysis.Run, notices []string) error {
	if _, err := a.tx.ExecContext(a.ctx, `UPDATE run SET notices = $2 WHERE id = $1`, run.ID, asJSON(orEmpty(notices))); err != nil {
		return fmt.Errorf("storing what was noticed of a run: %w", err)
	}
	return nil
}

// Recorded gives back runs with what was read of them, each input named by InputName.
func (a *Analysis) Recorded(runs ...analysis.Run) ([]analysis.Recorded, error) {
	list := make([]analysis.Recorded, len(runs))
	for i, run := range runs {
		results, err := a.results(run)
		if err != nil {
			return nil, err
		}
		tree, err := a.Tree(run.Source)
		if err != nil {
			return nil, err
		}
		list[i] = analysis.Recorded{Run: run, Results: results, Tree: tree}
	}
	return list, nil
}

// InputName names an input across the runs of an upgrade: "7/build.log".
func InputName(run int, name string) string { return fmt.Sprintf("%d/%s", run, name) }

func (a *Analysis) results(run analysis.Run) ([]read.Result, error) {
	inputs, err := a.store.inputsIn(a.ctx, a.tx, `r.id = $1`, run.ID)
	if err != nil {
		return nil, err
	}
	byInput := map[int64]*read.Result{}
	list := make([]read.Result, len(inputs[run.ID]))
	for i, in := range inputs[run.ID] {
		list[i] = read.Result{Name: InputName(run.Number, in.Name), Format: in.Format, Tools: in.Tools, Lines: in.Lines, Bytes: in.Bytes, Problem: in.Problem, Unread: in.Unread, Stated: in.Stated}
		byInput[in.ID] = &list[i]
	}
	if len(list) > 0 {
		if c := run.Reach.Count; c.Telling == compare.Counted {
			list[0].Tallies = []read.Tally{{Total: c.Total, Passed: c.Passed, Failed: c.Failed, Skipped: c.Skipped}}
		}
		list[0].Reach = read.Reach{Blocked: run.Reach.Blocked, Cut: run.Reach.Cut, Done: run.Reach.Done}
	}
	if err := a.findings(run, byInput); err != nil {
		return nil, err
	}
	var tests []struct {
		Input   int64   `db:"input_id"`
		Suite   string  `db:"suite"`
		Name    string  `db:"name"`
		Outcome string  `db:"outcome"`
		Seconds float64 `db:"seconds"`
	}
	if err := a.tx.SelectContext(a.ctx, &tests, `SELECT input_id, suite, name, outcome, seconds FROM test_outcome WHERE upgrade_id = $1 AND run_id = $2`, a.Upgrade, run.ID); err != nil {
		return nil, fmt.Errorf("reading the tests: %w", err)
	}
	for _, t := range tests {
		r := byInput[t.Input]
		r.Tests = append(r.Tests, symptom.Test{Suite: t.Suite, Name: t.Name, Outcome: symptom.Outcome(t.Outcome), Seconds: t.Seconds})
	}
	return list, nil
}

// findings adds to the results of a run's inputs what was read of them, with its places.
func (a *Analysis) findings(run analysis.Run, byInput map[int64]*read.Result) error {
	places := map[int][]symptom.At{}
	rows, err := a.tx.QueryxContext(a.ctx, `SELECT n, line, end_line FROM occurrence WHERE upgrade_id = $1 AND run_id = $2 ORDER BY n, line`, a.Upgrade, run.ID)
	if err != nil {
		return fmt.Errorf("reading the places: %w", err)
	}
	defer rows.Close()
	for rows.Next() {
		var n int
		var at symptom.At
		if err := rows.Scan(&n, &at.Line, &at.End); err != nil {
			return fmt.Errorf("reading the places: %w", err)
		}
		places[n] = append(places[n], at)
	}
	if err := rows.Err(); err != nil {
		return fmt.Errorf("reading the places: %w", err)
	}
	found, err := a.tx.QueryxContext(a.ctx, `SELECT n, input_id, seen, facts FROM finding WHERE upgrade_id = $1 AND run_id = $2 ORDER BY input_id, line, n`, a.Upgrade, run.ID)
	if err != nil {
		return fmt.Errorf("reading the symptoms: %w", err)
	}
	defer found.Close()
	for found.Next() {
		var n, seen int
		var input int64
		var facts doc[symptom.Symptom]
		if err := found.Scan(&n, &input, &seen, &facts); err != nil {
			return fmt.Errorf("reading the symptoms: %w", err)
		}
		r, s := byInput[input], facts.v
		if s.At, s.Count = places[n], seen; r == nil || len(s.At) == 0 {
			continue
		}
		for i := range s.At {
			s.At[i].Input = r.Name
		}
		r.Symptoms = append(r.Symptoms, s)
	}
	if err := found.Err(); err != nil {
		return fmt.Errorf("reading the symptoms: %w", err)
	}
	return nil
}
