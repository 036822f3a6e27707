package store

import (
	"context"
	"fmt"
	"strings"

	"github.com/jmoiron/sqlx"

	"unicausa/internal/core/cluster"
	"unicausa/internal/core/compare"
	"unicausa/internal/core/link"
	"unicausa/internal/core/notes"
	"unicausa/internal/core/source"
	"unicausa/internal/core/symptom"
	"unicausa/internal/core/track"
	"unicausa/internal/core/triage"
)

// Cause is a cause of a leg. Because and Steps are given with one cause alone.
type Cause struct {
	ID        int64  `db:"id"`
	Name      string `db:"name"`
	Title     string `db:"title"`
	Kind      string `db:"kind"`
	Phase     string `db:"phase"`
	Package   string `db:"package"`
	Root      string `db:"root"`
	Rank      int    `db:"rank"`
	Reason    string `db:"reason"`
	Known     bool   `db:"known"`
	Status    string `db:"status"`
	First     int    `db:"first_run"`
	Since     int    `db:"since_run"`
	Shown     int    `db:"shown"`
	Hidden    int    `db:"hidden"`
	Silenced  int    `db:"silenced"`
	Leg       int    `db:"leg"`
	Signature string `db:"signature"`
	Total     int    `db:"total"`
	Files     int    `db:"files"`
	Returned  bool   `db:"returned"`
	Uncovered bool   `db:"uncovered"`
	Into      string `db:"into_cause"`
	From      string `db:"from_cause"`

	Checks   []string          `db:"-"`
	Because  []cluster.Because `db:"-"`
	Steps    []triage.Step     `db:"-"`
	Decision *Decision         `db:"-"` // the latest that was not taken back
	Link     *Link             `db:"-"` // the one that was confirmed, or the likeliest that was not rejected
}

// causeRow is a cause with what its columns keep as JSON.
type causeRow struct {
	Cause
	Checks  doc[[]string]          `db:"checks"`
	Because doc[[]cluster.Because] `db:"because"`
	Steps   doc[[]triage.Step]     `db:"steps"`
}

// Link ties a cause to a change of the notes, which is of a document. State is proposed,
// confirmed or rejected.
type Link struct {
	Change   notes.Change
	Document int64
	Score    float64
	State    string
	Because  []cluster.Because
}

// Standing is what may be said of the link, once people have judged it.
func (l *Link) Standing() link.Standing {
	switch l.State {
	case "confirmed":
		return link.Likely
	case "rejected":
		return link.Possible
	}
	return link.StandingOf(l.Score)
}

// Judgement is what a person says of a link. Was is the state that the person saw, empty
// where that is left open.
type Judgement struct{ State, Was, Author string }

// CauseDetail is a cause with all that belongs to it.
type CauseDetail struct {
	Cause       Cause
	Links       []Link
	Decisions   []Decision // the latest first
	Corrections []Correction
	Symptoms    []Symptom
	Life        []LifePoint
}

// LifePoint is how many symptoms of a cause a run left shown and hidden.
type LifePoint struct{ Hidden, Run, Shown int }

// Symptom is a symptom of a cause with why it belongs there, nil for its root, where it
// stands in the raw output, and its source line among those around it.
type Symptom struct {
	track.Symptom
	Because *cluster.Because
	Places  []Place
	Source  []SourceLine
}

// Place is lines of a run's input, from Line to End.
type Place struct {
	Check   string
	End     int
	Input   string
	InputID int64
	Line    int
	Run     int
}

// selectCause reads causes of a leg in the order to tackle them: what is shown
// by rank, then what is out of sight, then what is cleared.
const selectCause = `
	SELECT c.id, c.name, c.title, c.kind, c.phase, c.package, c.root, c.rank, c.reason, c.known, c.status, c.first_run, c.since_run, c.into_cause, c.from_cause,
		c.shown, c.hidden, c.silenced, l.number AS leg, c.signature, c.total, c.files, c.returned, c.uncovered, c.checks%s
	FROM cause c JOIN leg l ON l.id = c.leg_id WHERE c.leg_id = $1 %s
	ORDER BY c.known, array_position(ARRAY['shown', 'hidden', 'cleared'], c.status), c.rank, c.id`

// Causes lists the causes of an upgrade's current leg in the order to tackle them.
func (s *Store) Causes(ctx context.Context, upgrade int64) ([]Cause, error) {
	leg, err := s.leg(ctx, s.db, upgrade)
	if err != nil {
		return nil, err
	}
	return s.causes(ctx, leg, "")
}

// CausesOf lists those of the leg with a number; a leg that is not there gives
// ErrNotFound.
func (s *Store) CausesOf(ctx context.Context, upgrade int64, number int) ([]Cause, error) {
	var leg int64
	err := s.db.GetContext(ctx, &leg, `SELECT id FROM leg WHERE upgrade_id = $1 AND number = $2`, upgrade, number)
	if err := found(err, fmt.Sprintf("leg %d", number)); err != nil {
		return nil, err
	}
	return s.causes(ctx, leg, "")
}

func (s *Store) causes(ctx context.Context, leg int64, condition string, args ...any) ([]Cause, error) {
	more := "" // of a list, what takes room is left out
	if condition != "" {
		more = ", c.because, c.steps"
	}
	var rows []causeRow
	if err := s.db.SelectContext(ctx, &rows, fmt.Sprintf(selectCause, more, condition), append([]any{leg}, args...)...); err != nil {
		return nil, fmt.Errorf("reading the causes: %w", err)
	}
	decisions, err := s.decisions(ctx, leg)
	if err != nil {
		return nil, err
	}
	links, err := s.bestLinks(ctx, leg)
	if err != nil {
		return nil, err
	}
	list := make([]Cause, 0, len(rows))
	for _, r := range rows {
		c := r.Cause
		c.Checks, c.Because, c.Steps = r.Checks.v, r.Because.v, r.Steps.v
		c.Decision, c.Link = standing(decisions[c.ID]), links[c.ID]
		list = append(list, c)
	}
	return list, nil
}

// standing is the latest decision that was not taken back, or nil.
func standing(history []Decision) *Decision {
	for i := range history {
		if !history[i].Undone {
			return &history[i]
		}
	}
	return nil
}

// decisions reads a leg's decisions by cause, the latest first.
func (s *Store) decisions(ctx context.Context, leg int64) (map[int64][]Decision, error) {
	var rows []Decision
	err := s.db.SelectContext(ctx, &rows, `
		SELECT d.id, d.cause_id, d.kind, d.reason, d.due, d.commit_id, d.author, d.after_run, d.outcome, d.outcome_run, d.created_at, d.undone_at IS NOT NULL AS undone
		FROM decision d JOIN cause c ON c.id = d.cause_id WHERE c.leg_id = $1 ORDER BY d.id DESC`, leg)
	if err != nil {
		return nil, fmt.Errorf("reading the decisions: %w", err)
	}
	byCause := map[int64][]Decision{}
	for _, d := range rows {
		byCause[d.CauseID] = append(byCause[d.CauseID], d)
	}
	return byCause, nil
}

// selectLink reads links, of which a leg's notes ($1) have the change.
const selectLink = ` l.cause_id, l.score, l.because, l.state, ch.notes_id, ch.facts
	FROM link l JOIN cause c ON c.id = l.cause_id JOIN change ch ON ch.identity = l.change JOIN notes n ON n.id = ch.notes_id AND n.leg_id = c.leg_id
	WHERE c.leg_id = $1 `

// linkOrder puts confirmed links first, rejected ones last, each by score.
const linkOrder = `array_position(ARRAY['confirmed', 'proposed', 'rejected'], l.state), l.score DESC, l.change`

// bestLinks are a leg's links by cause: of each the confirmed one, or the likeliest that
// nobody rejected.
func (s *Store) bestLinks(ctx context.Context, leg int64) (map[int64]*Link, error) {
	all, err := s.links(ctx, leg, `SELECT DISTINCT ON (l.cause_id)`+selectLink+`AND l.state <> 'rejected' ORDER BY l.cause_id, `+linkOrder)
	if err != nil {
		return nil, err
	}
	best := make(map[int64]*Link, len(all))
	for cause, list := range all {
		best[cause] = &list[0]
	}
	return best, nil
}

// links reads a leg's links by cause, in the order of the query.
func (s *Store) links(ctx context.Context, leg int64, query string, args ...any) (map[int64][]Link, error) {
	var rows []struct {
		Cause   int64                  `db:"cause_id"`
		Score   float64                `db:"score"`
		Because doc[[]cluster.Because] `db:"because"`
		State   string                 `db:"state"`
		Notes   int64                  `db:"notes_id"`
		Facts   doc[notes.Change]      `db:"facts"`
	}
	err := s.db.SelectContext(ctx, &rows, query, append([]any{leg}, args...)...)
	if err != nil {
		return nil, fmt.Errorf("reading the links: %w", err)
	}
	words, err := changeWords(ctx, s.db, leg)
	if err != nil {
		return nil, err
	}
	byCause := map[int64][]Link{}
	for _, r := range rows {
		correct(&r.Facts.v, words[r.Facts.v.ID])
		byCause[r.Cause] = append(byCause[r.Cause], Link{Change: r.Facts.v, Document: r.Notes, Score: r.Score, State: r.State, Because: r.Because.v})
	}
	return byCause, nil
}

// Cause is one cause with all that belongs to it, or ErrNotFound.
func (s *Store) Cause(ctx context.Context, upgrade int64, name string) (CauseDetail, error) {
	leg, _, err := s.causeID(ctx, s.db, upgrade, name)
	if err != nil {
		return CauseDetail{}, err
	}
	list, err := s.causes(ctx, leg, "AND c.name = $2", name)
	if err != nil {
		return CauseDetail{}, err
	}
	if len(list) == 0 {
		return CauseDetail{}, fmt.Errorf("cause %s: %w", name, ErrNotFound)
	}
	d := CauseDetail{Cause: list[0]}
	id := d.Cause.ID
	corrections, err := s.Corrections(ctx, upgrade)
	if err != nil {
		return d, err
	}
	for _, c := range corrections {
		if c.Cause == name || c.From == name {
			d.Corrections = append(d.Corrections, c)
		}
	}
	links, err := s.links(ctx, leg, `SELECT`+selectLink+`AND l.cause_id = $2 ORDER BY `+linkOrder, id)
	if err != nil {
		return d, err
	}
	d.Links = links[id]
	decisions, err := s.decisions(ctx, leg)
	if err != nil {
		return d, err
	}
	d.Decisions = decisions[id]
	if d.Symptoms, err = s.symptoms(ctx, leg, id, d.Cause.Root); err != nil {
		return d, err
	}
	points, err := s.db.QueryContext(ctx, `SELECT run, shown, hidden FROM life WHERE cause_id = $1 ORDER BY run`, id)
	if err != nil {
		return d, fmt.Errorf("reading the life of %s: %w", name, err)
	}
	defer points.Close()
	for points.Next() {
		var p LifePoint
		if err := points.Scan(&p.Run, &p.Shown, &p.Hidden); err != nil {
			return d, fmt.Errorf("reading the life of %s: %w", name, err)
		}
		d.Life = append(d.Life, p)
	}
	return d, points.Err()
}

// around is how many source lines are shown on either side of a symptom's.
const around = 3

// symptoms reads the symptoms of a cause, its root first and at most 2,000, with their places in
// the runs and the source lines of the last run that showed them.
func (s *Store) symptoms(ctx context.Context, leg, cause int64, root string) ([]Symptom, error) {
	var rows []struct {
		Facts    doc[symptom.Symptom] `db:"facts"`
		Follower bool                 `db:"follower"`
		State    string               `db:"state"`
		Status   string               `db:"status"`
		Origin   string               `db:"origin"`
		First    int                  `db:"first_run"`
		Last     int                  `db:"last_run"`
		Source   string               `db:"source"`
		Still    string               `db:"still"`
		Because  doc[cluster.Because] `db:"because"`
	}
	err := s.db.SelectContext(ctx, &rows, `
		SELECT s.facts, s.follower, s.state, s.status, s.origin, s.first_run, s.last_run, s.because, s.still,
			coalesce((SELECT r.source FROM run r WHERE r.leg_id = s.leg_id AND r.number = s.last_run), '') AS source
		FROM symptom s WHERE s.upgrade_id = (SELECT upgrade_id FROM leg WHERE id = $1) AND s.leg_id = $1 AND s.cause_id = $2
		ORDER BY s.identity <> $3, s.follower, array_position(ARRAY['shown', 'hidden', 'cleared'], s.status), s.facts->>'file', (s.facts->>'line')::int, s.identity LIMIT 2000`, leg, cause, root)
	if err != nil {
		return nil, fmt.Errorf("reading the symptoms: %w", err)
	}
	places, err := s.places(ctx, leg, cause)
	if err != nil {
		return nil, err
	}
	trees := map[string]*source.Tree{}
	list := []Symptom{}
	for _, r := range rows {
		f := r.Facts.v
		if _, ok := trees[r.Source]; !ok {
			if trees[r.Source], err = sourceTree(ctx, s.db, r.Source); err != nil {
				return nil, err
			}
		}
		f.State = symptom.State(r.State)
		one := Symptom{Places: places[f.ID], Source: excerpt(trees[r.Source], f.File, f.Line)}
		one.Symptom = track.Symptom{Symptom: f, Status: track.Status(r.Status), Origin: compare.Origin(r.Origin), First: r.First, Last: r.Last, Follower: r.Follower, Still: r.Still}
		if r.Because.v.What != "" {
			one.Because = &r.Because.v
		}
		list = append(list, one)
	}
	return list, nil
}

func excerpt(tree *source.Tree, file string, line int) []SourceLine {
	var list []SourceLine
	lines := tree.Lines(file)
	if line < 1 || line > len(lines) {
		return list
	}
	for n := max(1, line-around); n <= min(len(lines), line+around); n++ {
		list = append(list, SourceLine{Line: n, Text: strings.TrimRight(lines[n-1], "\r")})
	}
	return list
}

// places reads where the symptoms of a cause stand in the raw output, the
// latest run first.
func (s *Store) places(ctx context.Context, leg, cause int64) (map[string][]Place, error) {
	rows, err := s.db.QueryContext(ctx, `
		SELECT f.identity, f.input_id, i.name, r.number, k.name, o.line, o.end_line
		FROM symptom s JOIN finding f ON f.upgrade_id = s.upgrade_id AND f.identity = s.identity JOIN run r ON r.id = f.run_id AND r.leg_id = s.leg_id
			JOIN occurrence o ON o.upgrade_id = f.upgrade_id AND o.run_id = f.run_id AND o.n = f.n JOIN input i ON i.id = f.input_id JOIN "check" k ON k.id = r.check_id
		WHERE s.upgrade_id = (SELECT upgrade_id FROM leg WHERE id = $1) AND s.leg_id = $1 AND s.cause_id = $2 ORDER BY r.number DESC, i.ordinal, o.line LIMIT 20000`, leg, cause)
	if err != nil {
		return nil, fmt.Errorf("reading the places: %w", err)
	}
	defer rows.Close()
	places := map[string][]Place{}
	for rows.Next() {
		var id string
		var p Place
		if err := rows.Scan(&id, &p.InputID, &p.Input, &p.Run, &p.Check, &p.Line, &p.End); err != nil {
			return nil, fmt.Errorf("reading the places: %w", err)
		}
		places[id] = append(places[id], p)
	}
	return places, rows.Err()
}

// JudgeLink records what a person says of a link. A cause or change that is
// not there gives ErrNotFound.
func (s *Store) JudgeLink(ctx context.Context, upgrade int64, cause, change string, j Judgement) error {
	return s.inTx(ctx, func(tx *sqlx.Tx) error {
		leg, id, err := s.causeID(ctx, tx, upgrade, cause)
		if err != nil {
			return err
		}
		var title string
		err = tx.GetContext(ctx, &title, `SELECT coalesce(c.facts->>'title', c.facts->>'Title') FROM change c JOIN notes n ON n.id = c.notes_id WHERE n.leg_id = $1 AND c.identity = $2 LIMIT 1`, leg, change)
		if err := found(err, "change "+change); err != nil {
			return err
		}
		if j.Was != "" {
			var state string
			err := tx.GetContext(ctx, &state, `SELECT coalesce((SELECT state FROM link WHERE cause_id = $1 AND change = $2), 'proposed')`, id, change)
			if err != nil {
				return fmt.Errorf("reading the link: %w", err)
			}
			if state != j.Was && state != j.State {
				return fmt.Errorf("%w: somebody %s the link of %s meanwhile: look at it, then judge again", ErrChanged, state, cause)
			}
		}
		_, err = tx.ExecContext(ctx, `
			INSERT INTO link (cause_id, change, score, because, state, author) VALUES ($1, $2, 0, '[]', $3, $4)
			ON CONFLICT (cause_id, change) DO UPDATE SET state = excluded.state, author = excluded.author`, id, change, j.State, j.Author)
		if err != nil {
			return fmt.Errorf("storing the link: %w", err)
		}
		if err := addEvent(ctx, tx, upgrade, event{kind: "link", cause: cause, text: fmt.Sprintf("%s: link to %q %s", cause, title, j.State), author: j.Author}); err != nil {
			return err
		}
		return s.enqueue(ctx, tx, leg)
	})
}

// causeID finds a cause by its name, which no other leg of the upgrade has.
func (s *Store) causeID(ctx context.Context, q sqlx.QueryerContext, upgrade int64, cause string) (leg, id int64, err error) {
	if _, err = s.leg(ctx, q, upgrade); err != nil {
		return 0, 0, err
	}
	var row struct {
		ID  int64 `db:"id"`
		Leg int64 `db:"leg_id"`
	}
	err = sqlx.GetContext(ctx, q, &row, `SELECT c.id, c.leg_id FROM cause c JOIN leg l ON l.id = c.leg_id WHERE l.upgrade_id = $1 AND c.name = $2`, upgrade, cause)
	return row.Leg, row.ID, found(err, "cause "+cause)
}
