package store

import (
	"context"
	"crypto/sha256"
	"encoding/hex"
	"fmt"
	"time"

	"github.com/jmoiron/sqlx"

	"unicausa/internal/core/compare"
	"unicausa/internal/core/read"
	"unicausa/internal/core/symptom"
	"unicausa/internal/core/track"
)

// Record stores a run that was spooled: all of it in one short transaction, with the
// work to be done on it. When the same content was stored before, that run is returned
// and fresh is false. An upgrade that is not there gives ErrNotFound.
func (s *Store) Record(ctx context.Context, upgrade int64, spool *Spool) (run Run, fresh bool, err error) {
	select { // so many at once, that connections are left for everybody else
	case s.recording <- struct{}{}:
		defer func() { <-s.recording }()
	case <-ctx.Done():
		return run, false, context.Cause(ctx)
	}
	r := &recording{store: s, ctx: ctx, Spool: spool, upgrade: upgrade}
	conn, err := s.db.Connx(ctx)
	if err != nil {
		return run, false, fmt.Errorf("connecting to the database: %w", err)
	}
	defer conn.Close()
	if r.tx, err = conn.BeginTxx(ctx, nil); err != nil {
		return run, false, fmt.Errorf("beginning a transaction: %w", err)
	}
	defer r.tx.Rollback()
	number, err := r.all(conn)
	if duplicate(err) {
		r.tx.Rollback()
		run, err := s.runBy(ctx, upgrade, `r.digest = $2`, r.sum)
		return run, false, err
	}
	if err != nil {
		return run, false, err
	}
	if err := r.tx.Commit(); err != nil {
		return run, false, fmt.Errorf("storing the run: %w", err)
	}
	run, err = s.Run(ctx, upgrade, number)
	return run, true, err
}

// recording is a run on its way from the spool into the tables.
type recording struct {
	*Spool
	store   *Store
	ctx     context.Context
	tx      *sqlx.Tx
	upgrade int64
	leg     int64
	run     int64
	sum     string
}

// all stores the run and gives its number.
func (r *recording) all(conn *sqlx.Conn) (number int, err error) {
	if err := r.begin(); err != nil {
		return 0, err
	}
	if err := r.content(conn); err != nil {
		return 0, err
	}
	if err := r.tx.GetContext(r.ctx, &number, `UPDATE upgrade SET runs = runs + 1 WHERE id = $1 RETURNING runs`, r.upgrade); err != nil {
		return 0, fmt.Errorf("numbering the run: %w", err)
	}
	if _, err := r.tx.ExecContext(r.ctx, `UPDATE run SET number = $2, digest = $3 WHERE id = $1`, r.run, number, r.sum); err != nil {
		return 0, fmt.Errorf("storing the run: %w", err)
	}
	if err := r.commits(number); err != nil {
		return 0, err
	}
	if err := addEvent(r.ctx, r.tx, r.upgrade, event{kind: "recorded", run: number, text: fmt.Sprintf("run %d of %s recorded", number, r.facts.Check)}); err != nil {
		return 0, err
	}
	if err := r.store.Enqueue(r.ctx, r.tx.Tx, r.leg); err != nil {
		return 0, fmt.Errorf("queueing the work: %w", err)
	}
	return number, nil
}

// begin stores the run's facts.
func (r *recording) begin() (err error) {
	if r.leg, err = r.store.leg(r.ctx, r.tx, r.upgrade); err != nil {
		return err
	}
	r.sum = hex.EncodeToString(r.digest.Sum(nil))
	var check int64
	err = r.tx.GetContext(r.ctx, &check, `
		INSERT INTO "check" (upgrade_id, name, required) VALUES ($1, $2, $3)
		ON CONFLICT (upgrade_id, name) DO UPDATE SET required = excluded.required RETURNING id`, r.upgrade, utf8(r.facts.Check), !r.facts.Informative)
	if err != nil {
		return fmt.Errorf("storing the check: %w", err)
	}
	err = r.tx.GetContext(r.ctx, &r.run, `
		INSERT INTO run (leg_id, check_id, command, commit_id, subject, dirty, exit, started_at, millis, versions, patterns, branch, diff, interrupted)
		VALUES ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12, $13, $14) RETURNING id`,
		r.leg, check, utf8(r.facts.Command), utf8(r.facts.Commit), utf8(r.facts.Subject), r.facts.Dirty, r.facts.Exit, r.facts.StartedAt, r.facts.Millis,
		asJSON(r.facts.Versions), asJSON(orEmpty(r.facts.Patterns)), utf8(r.facts.Branch), utf8(r.facts.Diff), r.facts.Interrupted)
	if err != nil {
		return fmt.Errorf("storing the run: %w", err)
	}
	return nil
}

// content stores what the run came with.
func (r *recording) content(conn *sqlx.Conn) error {
	for i, in := range r.inputs {
		var id int64
		err := r.tx.GetContext(r.ctx, &id, `INSERT INTO input (run_id, ordinal, name, bytes) VALUES ($1, $2, $3, $4) RETURNING id`, r.run, i, utf8(in.name), in.bytes)
		if err != nil {
			return fmt.Errorf("storing an input: %w", err)
		}
		n := -1
		err = copyFrom(r.ctx, conn, "chunk", []string{"upgrade_id", "input_id", "ordinal", "first_line", "last_line", "data"}, func() ([]any, error) {
			if n++; n == len(in.chunks) {
				return nil, nil
			}
			c := in.chunks[n]
			data, err := r.read(c.span)
			return []any{r.upgrade, id, n, c.first, c.last, data}, err
		})
		if err != nil {
			return err
		}
	}
	for i, p := range r.pictures {
		data, err := r.read(p.data)
		if err == nil {
			_, err = r.tx.ExecContext(r.ctx, `INSERT INTO picture (run_id, ordinal, name, media, data) VALUES ($1, $2, $3, $4, $5)`, r.run, i, utf8(p.name), p.media, data)
		}
		if err != nil {
			return fmt.Errorf("storing a picture: %w", err)
		}
	}
	if r.source.size == 0 {
		return nil
	}
	data, err := r.read(r.source)
	if err != nil {
		return err
	}
	sum := sha256.Sum256(data)
	digest := hex.EncodeToString(sum[:])
	if _, err := r.tx.ExecContext(r.ctx, `INSERT INTO source (digest, data) VALUES ($1, $2) ON CONFLICT DO NOTHING`, digest, data); err != nil {
		return fmt.Errorf("storing the source tree: %w", err)
	}
	if _, err := r.tx.ExecContext(r.ctx, `UPDATE run SET source = $2 WHERE id = $1`, r.run, digest); err != nil {
		return fmt.Errorf("storing the source tree: %w", err)
	}
	return nil
}

// RunFacts are how a run was made.
type RunFacts struct {
	Check, Command           string
	Commit, Subject          string
	Dirty                    bool // the working copy had changes that were not committed
	Exit                     int
	StartedAt                time.Time
	Millis                   int64             // how long it took
	Versions                 map[string]string // seen, by tool or package
	Branch                   string
	Diff                     string // SHA-256 of the changes that were not committed
	Interrupted, Informative bool
	Patterns                 []read.Pattern
	Commits                  []NewCommit // since the last run, the latest first
}

// Run is a run as it was recorded, and what was read of it. Delta is nil before there is a
// baseline.
type Run struct {
	ID       int64
	Number   int
	Facts    RunFacts
	Status   string // stored, processed or failed
	Problem  string
	Baseline bool
	Frontier symptom.Phase
	Symptoms int
	Notices  []string // how it was made otherwise than its baseline, a sentence each
	Delta    *track.Delta
	Leg      int // its number
	Pictures []Picture
	Inputs   []Input
}

// Input is one output of a run.
type Input struct {
	ID      int64
	Name    string
	Format  string
	Tools   []string
	Lines   int
	Bytes   int64
	Problem string
	Stated  []read.Stated
	Unread  []read.Unread
}

// Picture is a picture that a run left.
type Picture struct {
	Name  string `json:"name"`
	Media string `json:"media"`
}

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
	Delta     doc[*track.Delta]      `db:"delta"`
	Branch    string                 `db:"branch"`
	Diff      string                 `db:"diff"`
	Stopped   bool                   `db:"interrupted"`
	Leg       int                    `db:"leg"`
	Required  bool                   `db:"required"`
	Pictures  doc[[]Picture]         `db:"pictures"`
}

const selectRun = `
	SELECT r.id, r.number, c.name AS check_name, r.command, r.commit_id, r.subject, r.dirty, r.exit, r.started_at, r.millis, r.versions,
		r.status, r.problem, EXISTS (SELECT FROM baseline b WHERE b.run_id = r.id) AS baseline, r.reach, r.symptoms, r.notices, r.delta, r.branch, r.diff, r.interrupted, l.number AS leg,
		c.required, (SELECT coalesce(jsonb_agg(jsonb_build_object('name', p.name, 'media', p.media) ORDER BY p.ordinal), '[]') FROM picture p WHERE p.run_id = r.id) AS pictures
	FROM run r JOIN "check" c ON c.id = r.check_id JOIN leg l ON l.id = r.leg_id
	WHERE l.upgrade_id = $1 AND r.number IS NOT NULL`

func (r *runRow) run(inputs []Input) Run {
	return Run{
		ID: r.ID, Number: r.Number, Status: r.Status, Problem: r.Problem, Baseline: r.Baseline, Frontier: r.Reach.v.Frontier,
		Symptoms: r.Symptoms, Delta: r.Delta.v, Inputs: inputs, Notices: r.Notices.v, Leg: r.Leg, Pictures: r.Pictures.v,
		Facts: RunFacts{Check: r.Check, Command: r.Command, Commit: r.Commit, Subject: r.Subject, Dirty: r.Dirty, Exit: r.Exit,
			StartedAt: r.StartedAt, Millis: r.Millis, Versions: r.Versions.v, Branch: r.Branch, Diff: r.Diff, Interrupted: r.Stopped, Informative: !r.Required},
	}
}

// Runs lists an upgrade's runs, the latest first.
func (s *Store) Runs(ctx context.Context, upgrade int64) ([]Run, error) {
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
	list := make([]Run, 0, len(rows))
	for _, r := range rows {
		list = append(list, r.run(inputs[r.ID]))
	}
	return list, nil
}

// Run is one run by its number in the upgrade, or ErrNotFound.
func (s *Store) Run(ctx context.Context, upgrade int64, number int) (Run, error) {
	return s.runBy(ctx, upgrade, `r.number = $2`, number)
}

func (s *Store) runBy(ctx context.Context, upgrade int64, condition string, arg any) (Run, error) {
	var r runRow
	err := s.db.GetContext(ctx, &r, selectRun+` AND `+condition, upgrade, arg)
	if err := found(err, fmt.Sprintf("run %v", arg)); err != nil {
		return Run{}, err
	}
	inputs, err := s.inputs(ctx, `r.id = $1`, r.ID)
	if err != nil {
		return Run{}, err
	}
	return r.run(inputs[r.ID]), nil
}

// inputs reads the inputs that a condition picks, by run.
func (s *Store) inputs(ctx context.Context, condition string, arg any) (map[int64][]Input, error) {
	return s.inputsIn(ctx, s.db, condition, arg)
}

func (s *Store) inputsIn(ctx context.Context, q sqlx.QueryerContext, condition string, arg any) (map[int64][]Input, error) {
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
	byRun := map[int64][]Input{}
	for _, r := range rows {
		byRun[r.Run] = append(byRun[r.Run], Input{ID: r.ID, Name: r.Name, Format: r.Format, Tools: r.Tools.v, Lines: r.Lines, Bytes: r.Bytes, Problem: r.Problem,
			Unread: r.Unread.v, Stated: r.Stated.v})
	}
	return byRun, nil
}
