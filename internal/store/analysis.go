package store

import (
	"archive/zip"
	"bytes"
	"context"
	"database/sql"
	"fmt"
	"io"
	"iter"
	"slices"

	"github.com/jackc/pgx/v5"
	"github.com/jackc/pgx/v5/stdlib"
	"github.com/jmoiron/sqlx"

	"unicausa/internal/core/analysis"
	"unicausa/internal/core/compare"
	"unicausa/internal/core/notes"
	"unicausa/internal/core/read"
	"unicausa/internal/core/source"
	"unicausa/internal/core/symptom"
	"unicausa/internal/core/track"
	"unicausa/internal/core/versions"
)

// Analysis is the work on one leg, in one transaction that holds the leg's
// lock: two services never work on the same leg at once, and a crash leaves no
// half of it behind.
type Analysis struct {
	store   *Store
	ctx     context.Context
	conn    *sqlx.Conn
	tx      *sqlx.Tx
	asked   int64 // what asked to draw the leg anew, when the work began
	drawn   int64
	trees   map[string]*source.Tree // that were read, by digest
	changes []notes.Change          // once they were read
	Leg     int64
	Upgrade int64
}

// Analyse begins work on a leg. While other work on its upgrade is under way it returns
// ErrBusy.
func (s *Store) Analyse(ctx context.Context, leg int64) (*Analysis, error) {
	conn, err := s.db.Connx(ctx)
	if err != nil {
		return nil, fmt.Errorf("connecting to the database: %w", err)
	}
	tx, err := conn.BeginTxx(ctx, nil)
	if err != nil {
		conn.Close()
		return nil, fmt.Errorf("beginning a transaction: %w", err)
	}
	a := &Analysis{store: s, ctx: ctx, conn: conn, tx: tx, trees: map[string]*source.Tree{}, Leg: leg}
	var row struct {
		Upgrade int64 `db:"upgrade_id"`
		Asked   int64 `db:"asked"`
		Drawn   int64 `db:"drawn"`
		Ours    bool  `db:"ours"`
	}
	// The computation has a limit of its own, and the database waits for it.
	if _, err = tx.ExecContext(ctx, `SET LOCAL statement_timeout = 0; SET LOCAL idle_in_transaction_session_timeout = 0`); err == nil {
		err = tx.GetContext(ctx, &row, `SELECT upgrade_id, asked, drawn, pg_try_advisory_xact_lock(7236, upgrade_id::int) AS ours FROM leg WHERE id = $1`, leg)
	}
	if err == nil && !row.Ours {
		err = ErrBusy
	}
	if err := found(err, fmt.Sprintf("leg %d", leg)); err != nil {
		a.Cancel()
		return nil, err
	}
	a.Upgrade, a.asked, a.drawn = row.Upgrade, row.Asked, row.Drawn
	return a, nil
}

// Context is what the work ends with.
func (a *Analysis) Context() context.Context { return a.ctx }

// Asked reports whether something other than a run asks to draw the leg anew.
func (a *Analysis) Asked() bool { return a.asked > a.drawn }

// Inspect reads the records of an upgrade's leg as one moment has them. It
// takes no lock and must be cancelled, not committed.
func (s *Store) Inspect(ctx context.Context, upgrade int64) (*Analysis, error) {
	conn, err := s.db.Connx(ctx)
	if err != nil {
		return nil, fmt.Errorf("connecting to the database: %w", err)
	}
	tx, err := conn.BeginTxx(ctx, &sql.TxOptions{Isolation: sql.LevelRepeatableRead, ReadOnly: true})
	if err != nil {
		conn.Close()
		return nil, fmt.Errorf("beginning a transaction: %w", err)
	}
	a := &Analysis{store: s, ctx: ctx, conn: conn, tx: tx, trees: map[string]*source.Tree{}, Upgrade: upgrade}
	if a.Leg, err = s.leg(ctx, tx, upgrade); err != nil {
		a.Cancel()
		return nil, err
	}
	return a, nil
}

// Commit makes the work last.
func (a *Analysis) Commit() error {
	defer a.conn.Close()
	if err := a.tx.Commit(); err != nil {
		return fmt.Errorf("storing the analysis: %w", err)
	}
	return nil
}

// Cancel drops what was not committed.
func (a *Analysis) Cancel() {
	a.tx.Rollback()
	a.conn.Close()
}

// refRow is a run as an analysis takes it, with what its columns keep as JSON.
type refRow struct {
	analysis.Run
	Versions doc[map[string]string]
	Patterns doc[[]read.Pattern]
	Reach    doc[compare.Reach]
}

const selectRef = `
	SELECT r.id, r.number, c.name AS "check", r.exit, EXISTS (SELECT FROM baseline b WHERE b.run_id = r.id AND b.leg_id = $1) AS baseline, coalesce(r.source, '') AS source, r.commit_id AS "commit", r.dirty, r.command, r.versions, r.patterns, r.reach, r.interrupted,
		(SELECT coalesce(sum(bytes), 0) FROM input WHERE run_id = r.id) AS bytes
	FROM run r JOIN "check" c ON c.id = r.check_id WHERE r.number IS NOT NULL`

const ofLeg = ` AND r.leg_id = $1`

// Next is the earliest run that has not been processed, or nil.
func (a *Analysis) Next() (*analysis.Run, error) {
	list, err := a.refs(ofLeg+` AND r.status = 'stored' ORDER BY r.number LIMIT 1`, a.Leg)
	if err != nil || len(list) == 0 {
		return nil, err
	}
	return &list[0], nil
}

// Newest reports whether no later run of the leg has been processed.
func (a *Analysis) Newest(run analysis.Run) (bool, error) {
	var newest bool
	err := a.tx.GetContext(a.ctx, &newest, `SELECT NOT EXISTS (SELECT FROM run WHERE leg_id = $1 AND status = 'processed' AND number > $2)`, a.Leg, run.Number)
	if err != nil {
		return false, fmt.Errorf("reading the runs: %w", err)
	}
	return newest, nil
}

// Baseline lists the accepted runs, and Latest the latest processed run of
// each check behind its baseline, up to a run's number.
func (a *Analysis) Baseline() ([]analysis.Run, error) {
	return a.refs(` AND r.id IN (SELECT run_id FROM baseline WHERE leg_id = $1) ORDER BY r.number`, a.Leg)
}

// Latest lists the latest processed run of every check since the baseline, up
// to the given number.
func (a *Analysis) Latest(upTo int) ([]analysis.Run, error) {
	return a.refs(ofLeg+` AND r.status = 'processed' AND r.number <= $2 AND r.id IN (
		SELECT DISTINCT ON (check_id) id FROM run WHERE leg_id = $1 AND number <= $2 AND status = 'processed' AND number > coalesce(
			(SELECT max(o.number) FROM baseline b JOIN run o ON o.id = b.run_id WHERE b.leg_id = $1 AND o.check_id = run.check_id),
			(SELECT min(o.number) FROM baseline b JOIN run o ON o.id = b.run_id WHERE b.leg_id = $1))
		ORDER BY check_id, number DESC) ORDER BY r.number`, a.Leg, upTo)
}

// Since lists the processed runs since the baseline, up to a run's number, the
// latest first.
func (a *Analysis) Since(before int) ([]analysis.Run, error) {
	return a.refs(ofLeg+` AND r.status = 'processed' AND r.number < $2
		AND r.number > (SELECT coalesce(max(o.number), 0) FROM baseline b JOIN run o ON o.id = b.run_id WHERE b.leg_id = $1) ORDER BY r.number DESC`, a.Leg, before)
}

// Repeats lists the earlier recordings of a run's check on the same source, the
// latest first, at most two.
func (a *Analysis) Repeats(r analysis.Run) ([]analysis.Run, error) {
	if r.Commit == "" || r.Dirty && r.Source == "" {
		return nil, nil
	}
	return a.refs(ofLeg+` AND r.status = 'processed' AND r.number < $2 AND c.name = $3 AND r.commit_id = $4 AND r.dirty = $5 AND coalesce(r.source, '') = $6
		ORDER BY r.number DESC LIMIT 2`, a.Leg, r.Number, r.Check, r.Commit, r.Dirty, r.Source)
}

func (a *Analysis) refs(rest string, args ...any) ([]analysis.Run, error) {
	var rows []refRow
	if err := a.tx.SelectContext(a.ctx, &rows, selectRef+rest, args...); err != nil {
		return nil, fmt.Errorf("reading the runs: %w", err)
	}
	list := make([]analysis.Run, len(rows))
	for i, r := range rows {
		list[i] = r.Run
		list[i].Versions, list[i].Patterns, list[i].Reach = r.Versions.v, r.Patterns.v, r.Reach.v
	}
	return list, nil
}

// Outputs are a run's inputs by their ordinal, and their IDs.
func (a *Analysis) Outputs(run int64) (ids []int64, outputs []analysis.Output, err error) {
	var rows []struct {
		ID   int64  `db:"id"`
		Name string `db:"name"`
	}
	if err := a.tx.SelectContext(a.ctx, &rows, `SELECT id, name FROM input WHERE run_id = $1 ORDER BY ordinal`, run); err != nil {
		return nil, nil, fmt.Errorf("reading the inputs: %w", err)
	}
	for _, r := range rows {
		ids = append(ids, r.ID)
		outputs = append(outputs, analysis.Output{Name: r.Name, Text: func() io.Reader {
			return &chunkReader{ctx: a.ctx, q: a.tx, upgrade: a.Upgrade, input: r.ID}
		}})
	}
	return ids, outputs, nil
}

// Tree is the source tree that a run was made on, nil where none was sent.
func (a *Analysis) Tree(digest string) (*source.Tree, error) {
	tree, ok := a.trees[digest]
	if ok {
		return tree, nil
	}
	tree, err := sourceTree(a.ctx, a.tx, digest)
	if err == nil {
		a.trees[digest] = tree
	}
	return tree, err
}

func sourceTree(ctx context.Context, q sqlx.QueryerContext, digest string) (*source.Tree, error) {
	if digest == "" {
		return nil, nil
	}
	var data []byte
	if err := sqlx.GetContext(ctx, q, &data, `SELECT data FROM source WHERE digest = $1`, digest); err != nil {
		return nil, fmt.Errorf("reading the source tree: %w", err)
	}
	archive, err := zip.NewReader(bytes.NewReader(data), int64(len(data)))
	if err != nil {
		return nil, nil // it was checked when it came; without it less is known, no more
	}
	return source.Tracked(archive)
}

// Changes are the changes of the leg's notes.
func (a *Analysis) Changes() ([]notes.Change, error) {
	if a.changes == nil {
		list, _, err := changes(a.ctx, a.tx, a.Leg)
		if err != nil {
			return nil, err
		}
		a.changes = list
	}
	return slices.Clone(a.changes), nil
}

// Moves are the leg's moves.
func (a *Analysis) Moves() ([]versions.Move, error) {
	u, err := a.store.Upgrade(a.ctx, a.Upgrade)
	return u.Moves, err
}

// State is what is known of the leg's symptoms and causes.
func (a *Analysis) State() (*track.State, error) {
	return loadState(a.ctx, a.tx, a.Leg)
}

func loadState(ctx context.Context, q sqlx.QueryerContext, leg int64) (*track.State, error) {
	state := &track.State{Symptoms: map[string]*track.Symptom{}, Causes: map[string]*track.Cause{}}
	var causes []struct {
		Name      string `db:"name"`
		Signature string `db:"signature"`
		Known     bool   `db:"known"`
		Status    string `db:"status"`
		First     int    `db:"first_run"`
		Since     int    `db:"since_run"`
		Into      string `db:"into_cause"`
		From      string `db:"from_cause"`
	}
	if err := sqlx.SelectContext(ctx, q, &causes, `SELECT name, signature, known, status, first_run, since_run, into_cause, from_cause FROM cause WHERE leg_id = $1`, leg); err != nil {
		return nil, fmt.Errorf("reading the causes: %w", err)
	}
	for _, c := range causes {
		state.Causes[c.Name] = &track.Cause{ID: c.Name, Signature: c.Signature, Known: c.Known, Status: track.Status(c.Status), First: c.First, Since: c.Since, Into: c.Into, From: c.From}
	}
	var symptoms []struct {
		Facts  doc[symptom.Symptom] `db:"facts"`
		State  string               `db:"state"`
		Status string               `db:"status"`
		Origin string               `db:"origin"`
		First  int                  `db:"first_run"`
		Last   int                  `db:"last_run"`
		Checks doc[[]string]        `db:"checks"`
		Cause  string               `db:"cause"`
		Follow bool                 `db:"follower"`
	}
	err := sqlx.SelectContext(ctx, q, &symptoms, `
		SELECT s.facts, s.state, s.status, s.origin, s.first_run, s.last_run, s.checks, s.follower, coalesce(c.name, '') AS cause
		FROM symptom s LEFT JOIN cause c ON c.id = s.cause_id WHERE s.upgrade_id = (SELECT upgrade_id FROM leg WHERE id = $1) AND s.leg_id = $1`, leg)
	if err != nil {
		return nil, fmt.Errorf("reading the symptoms: %w", err)
	}
	for _, s := range symptoms {
		t := &track.Symptom{Symptom: s.Facts.v, Status: track.Status(s.Status), Origin: compare.Origin(s.Origin), First: s.First, Last: s.Last, Checks: s.Checks.v, Cause: s.Cause, Follower: s.Follow}
		t.State = symptom.State(s.State)
		state.Symptoms[t.ID] = t
	}
	return state, nil
}

// copyRows writes many rows at once (COPY).
func (a *Analysis) copyRows(table string, columns []string, rows [][]any) error {
	return a.copySeq(table, columns, slices.Values(rows))
}

// copySeq writes the rows of a sequence as they come (COPY).
func (a *Analysis) copySeq(table string, columns []string, rows iter.Seq[[]any]) error {
	next, stop := iter.Pull(rows)
	defer stop()
	return copyFrom(a.ctx, a.conn, table, columns, func() ([]any, error) {
		row, _ := next()
		return row, nil
	})
}

// copyFrom writes the rows that next gives, until it gives none, as they come (COPY).
func copyFrom(ctx context.Context, conn *sqlx.Conn, table string, columns []string, next func() ([]any, error)) error {
	err := conn.Raw(func(driver any) error {
		_, err := driver.(*stdlib.Conn).Conn().CopyFrom(ctx, pgx.Identifier{table}, columns, pgx.CopyFromFunc(next))
		return err
	})
	if err != nil {
		return fmt.Errorf("storing rows of %s: %w", table, err)
	}
	return nil
}

func orEmpty[T any](list []T) []T {
	if list == nil {
		return []T{}
	}
	return list
}

func head[T any](list []T, most int) []T { return list[:min(len(list), most)] }
