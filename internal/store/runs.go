package store

import (
	"context"
	"crypto/sha256"
	"encoding/hex"
	"fmt"
	"hash"
	"io"
	"time"

	"github.com/jmoiron/sqlx"

	"unicausa/internal/api"
	"unicausa/internal/core/compare"
	"unicausa/internal/core/read"
)

// Recording stores one run while it is being sent: its facts first, then its
// inputs, then its source tree. Nothing of it is there before Commit returns,
// and then all of it is, with the work to be done on it.
type Recording struct {
	store   *Store
	ctx     context.Context
	tx      *sqlx.Tx
	upgrade int64
	leg     int64
	run     int64
	facts   api.RunFacts
	inputs  int
	shown   int // pictures
	digest  hash.Hash
}

// Record begins a recording. An upgrade that is not there gives ErrNotFound.
func (s *Store) Record(ctx context.Context, upgrade int64, facts api.RunFacts) (*Recording, error) {
	tx, err := s.db.BeginTxx(ctx, nil)
	if err != nil {
		return nil, fmt.Errorf("beginning a transaction: %w", err)
	}
	r := &Recording{store: s, ctx: ctx, tx: tx, upgrade: upgrade, facts: facts, digest: sha256.New()}
	if err := r.begin(); err != nil {
		r.Cancel()
		return nil, err
	}
	return r, nil
}

func (r *Recording) begin() (err error) {
	if r.leg, err = r.store.leg(r.ctx, r.tx, r.upgrade); err != nil {
		return err
	}
	if r.facts.StartedAt.IsZero() {
		r.facts.StartedAt = time.Now().UTC()
	} else {
		fmt.Fprintf(r.digest, "at %s\n", r.facts.StartedAt.UTC().Format(time.RFC3339Nano))
	}
	if r.facts.Versions == nil {
		r.facts.Versions = map[string]string{}
	}
	if len(r.facts.Patterns) > 0 {
		fmt.Fprintf(r.digest, "patterns %s\n", asJSON(r.facts.Patterns))
	}
	fmt.Fprintf(r.digest, "check %q command %q commit %q exit %d\n", r.facts.Check, r.facts.Command, r.facts.Commit, r.facts.Exit)
	var check int64
	err = r.tx.GetContext(r.ctx, &check, `
		INSERT INTO "check" (upgrade_id, name, required) VALUES ($1, $2, $3)
		ON CONFLICT (upgrade_id, name) DO UPDATE SET required = excluded.required RETURNING id`, r.upgrade, r.facts.Check, !r.facts.Informative)
	if err != nil {
		return fmt.Errorf("storing the check: %w", err)
	}
	err = r.tx.GetContext(r.ctx, &r.run, `
		INSERT INTO run (leg_id, check_id, command, commit_id, subject, dirty, exit, started_at, millis, versions, patterns, branch, diff)
		VALUES ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12, $13) RETURNING id`,
		r.leg, check, r.facts.Command, r.facts.Commit, r.facts.Subject, r.facts.Dirty, r.facts.Exit, r.facts.StartedAt, r.facts.Millis, asJSON(r.facts.Versions), asJSON(orEmpty(r.facts.Patterns)), r.facts.Branch, r.facts.Diff)
	if err != nil {
		return fmt.Errorf("storing the run: %w", err)
	}
	return nil
}

// Input stores one output. The error of content is passed on as it is.
func (r *Recording) Input(name string, content io.Reader) error {
	var id int64
	err := r.tx.GetContext(r.ctx, &id, `INSERT INTO input (run_id, ordinal, name) VALUES ($1, $2, $3) RETURNING id`, r.run, r.inputs, name)
	if err != nil {
		return fmt.Errorf("storing an input: %w", err)
	}
	r.inputs++
	fmt.Fprintf(r.digest, "input %q\n", name)
	w := &chunkWriter{ctx: r.ctx, tx: r.tx, input: id, line: 1}
	if _, err := io.Copy(io.MultiWriter(w, r.digest), content); err != nil {
		return err
	}
	return w.close()
}

// Picture stores a picture that a person took.
func (r *Recording) Picture(name, media string, data []byte) error {
	_, err := r.tx.ExecContext(r.ctx, `INSERT INTO picture (run_id, ordinal, name, media, data) VALUES ($1, $2, $3, $4, $5)`, r.run, r.shown, name, media, data)
	if err != nil {
		return fmt.Errorf("storing a picture: %w", err)
	}
	r.shown++
	fmt.Fprintf(r.digest, "picture %q %x\n", name, sha256.Sum256(data))
	return nil
}

// Source stores the source tree that the run was made on, a zip.
func (r *Recording) Source(data []byte) error {
	sum := sha256.Sum256(data)
	digest := hex.EncodeToString(sum[:])
	if _, err := r.tx.ExecContext(r.ctx, `INSERT INTO source (digest, data) VALUES ($1, $2) ON CONFLICT DO NOTHING`, digest, data); err != nil {
		return fmt.Errorf("storing the source tree: %w", err)
	}
	if _, err := r.tx.ExecContext(r.ctx, `UPDATE run SET source = $2 WHERE id = $1`, r.run, digest); err != nil {
		return fmt.Errorf("storing the source tree: %w", err)
	}
	fmt.Fprintf(r.digest, "source %s\n", digest)
	return nil
}

// Commit gives the run its number and makes it last. When the same content was
// stored before, that run is returned and fresh is false.
func (r *Recording) Commit() (run api.Run, fresh bool, err error) {
	defer r.Cancel()
	digest := hex.EncodeToString(r.digest.Sum(nil))
	var number int
	if err := r.tx.GetContext(r.ctx, &number, `UPDATE upgrade SET runs = runs + 1 WHERE id = $1 RETURNING runs`, r.upgrade); err != nil {
		return run, false, fmt.Errorf("numbering the run: %w", err)
	}
	_, err = r.tx.ExecContext(r.ctx, `UPDATE run SET number = $2, digest = $3 WHERE id = $1`, r.run, number, digest)
	if duplicate(err) {
		r.Cancel()
		run, err := r.store.runBy(r.ctx, r.upgrade, `r.digest = $2`, digest)
		return run, false, err
	}
	if err != nil {
		return run, false, fmt.Errorf("storing the run: %w", err)
	}
	if err := r.commits(number); err != nil {
		return run, false, err
	}
	if err := addEvent(r.ctx, r.tx, r.upgrade, event{kind: "recorded", run: number, text: fmt.Sprintf("run %d of %s recorded", number, r.facts.Check)}); err != nil {
		return run, false, err
	}
	if err := r.store.Enqueue(r.ctx, r.tx.Tx, r.leg); err != nil {
		return run, false, fmt.Errorf("queueing the work: %w", err)
	}
	if err := r.tx.Commit(); err != nil {
		return run, false, fmt.Errorf("storing the run: %w", err)
	}
	run, err = r.store.Run(r.ctx, r.upgrade, number)
	return run, true, err
}

// Cancel drops what was not committed.
func (r *Recording) Cancel() { r.tx.Rollback() }

type runRow struct {
	ID        int64                  `db:"id"`
	Number    int                    `db:"number"`
	Check     string                 `db:"check_name"`
	Command   string                 `db:"command"`
	Commit    string                 `db:"commit_id"`
	Subject   string                 `db:"subject"`
	Dirty     bool                   `db:"dirty"`
	Exit      int                    `db:"exit"`
	StartedAt time.Time              `db:"started_at"`
	Millis    int64                  `db:"millis"`
	Versions  doc[map[string]string] `db:"versions"`
	Status    string                 `db:"status"`
	Problem   string                 `db:"problem"`
	Baseline  bool                   `db:"baseline"`
	Reach     doc[compare.Reach]     `db:"reach"`
	Symptoms  int                    `db:"symptoms"`
	Notices   doc[[]string]          `db:"notices"`
	Delta     doc[*api.Delta]        `db:"delta"`
	Branch    string                 `db:"branch"`
	Diff      string                 `db:"diff"`
	Leg       int                    `db:"leg"`
	Required  bool                   `db:"required"`
	Pictures  doc[[]api.Picture]     `db:"pictures"`
}

const selectRun = `
	SELECT r.id, r.number, c.name AS check_name, r.command, r.commit_id, r.subject, r.dirty, r.exit, r.started_at, r.millis, r.versions,
		r.status, r.problem, EXISTS (SELECT FROM baseline b WHERE b.run_id = r.id) AS baseline, r.reach, r.symptoms, r.notices, r.delta, r.branch, r.diff, l.number AS leg,
		c.required, (SELECT coalesce(jsonb_agg(jsonb_build_object('name', p.name, 'media', p.media) ORDER BY p.ordinal), '[]') FROM picture p WHERE p.run_id = r.id) AS pictures
	FROM run r JOIN "check" c ON c.id = r.check_id JOIN leg l ON l.id = r.leg_id
	WHERE l.upgrade_id = $1 AND r.number IS NOT NULL`

func (r *runRow) view() api.Run {
	return api.Run{
		ID: r.ID, Number: r.Number, Status: api.RunStatus(r.Status), Problem: r.Problem, Baseline: r.Baseline, Frontier: string(r.Reach.v.Frontier),
		Symptoms: r.Symptoms, Delta: r.Delta.v, Inputs: []api.Input{}, Notices: orEmpty(r.Notices.v), Leg: r.Leg, Pictures: orEmpty(r.Pictures.v),
		Facts: api.RunFacts{Check: r.Check, Command: r.Command, Commit: r.Commit, Subject: r.Subject, Dirty: r.Dirty, Exit: r.Exit,
			StartedAt: r.StartedAt, Millis: r.Millis, Versions: r.Versions.v, Branch: r.Branch, Diff: r.Diff, Informative: !r.Required},
	}
}

// Runs lists an upgrade's runs, the latest first.
func (s *Store) Runs(ctx context.Context, upgrade int64) ([]api.Run, error) {
	if _, err := s.leg(ctx, s.db, upgrade); err != nil {
		return nil, err
	}
	var rows []runRow
	if err := s.db.SelectContext(ctx, &rows, selectRun+` ORDER BY r.number DESC`, upgrade); err != nil {
		return nil, fmt.Errorf("reading the runs: %w", err)
	}
	inputs, err := s.inputs(ctx, `l.upgrade_id = $1`, upgrade)
	if err != nil {
		return nil, err
	}
	list := make([]api.Run, 0, len(rows))
	for _, r := range rows {
		view := r.view()
		view.Inputs = append(view.Inputs, inputs[r.ID]...)
		list = append(list, view)
	}
	return list, nil
}

// Run is one run by its number in the upgrade, or ErrNotFound.
func (s *Store) Run(ctx context.Context, upgrade int64, number int) (api.Run, error) {
	return s.runBy(ctx, upgrade, `r.number = $2`, number)
}

func (s *Store) runBy(ctx context.Context, upgrade int64, condition string, arg any) (api.Run, error) {
	var r runRow
	err := s.db.GetContext(ctx, &r, selectRun+` AND `+condition, upgrade, arg)
	if err := found(err, fmt.Sprintf("run %v", arg)); err != nil {
		return api.Run{}, err
	}
	inputs, err := s.inputs(ctx, `r.id = $1`, r.ID)
	if err != nil {
		return api.Run{}, err
	}
	view := r.view()
	view.Inputs = append(view.Inputs, inputs[r.ID]...)
	return view, nil
}

// inputs reads the inputs that a condition picks, by run.
func (s *Store) inputs(ctx context.Context, condition string, arg any) (map[int64][]api.Input, error) {
	return s.inputsIn(ctx, s.db, condition, arg)
}

func (s *Store) inputsIn(ctx context.Context, q sqlx.QueryerContext, condition string, arg any) (map[int64][]api.Input, error) {
	var rows []struct {
		ID      int64              `db:"id"`
		Run     int64              `db:"run_id"`
		Name    string             `db:"name"`
		Format  string             `db:"format"`
		Tools   doc[[]string]      `db:"tools"`
		Lines   int                `db:"lines"`
		Bytes   int64              `db:"bytes"`
		Problem string             `db:"problem"`
		Stated  doc[[]read.Stated] `db:"stated"`
		Unread  doc[[]read.Unread] `db:"unread"`
	}
	err := sqlx.SelectContext(ctx, q, &rows, `
		SELECT i.id, i.run_id, i.name, i.format, i.tools, i.lines, i.bytes, i.problem, i.stated, i.unread
		FROM input i JOIN run r ON r.id = i.run_id JOIN leg l ON l.id = r.leg_id WHERE `+condition+` ORDER BY i.run_id, i.ordinal`, arg)
	if err != nil {
		return nil, fmt.Errorf("reading the inputs: %w", err)
	}
	byRun := map[int64][]api.Input{}
	for _, r := range rows {
		in := api.Input{ID: r.ID, Name: r.Name, Format: r.Format, Tools: r.Tools.v, Lines: r.Lines, Bytes: r.Bytes, Problem: r.Problem,
			Unread: []api.UnreadLine{}, Stated: []api.Stated{}}
		for _, u := range r.Unread.v {
			in.Unread = append(in.Unread, api.UnreadLine{Line: u.Line, Text: u.Text})
		}
		for _, t := range r.Stated.v {
			in.Stated = append(in.Stated, api.Stated{Line: t.Line, What: t.What, Count: t.Count, Read: t.Read})
		}
		byRun[r.Run] = append(byRun[r.Run], in)
	}
	return byRun, nil
}
