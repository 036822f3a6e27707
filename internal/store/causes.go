package store

import (
	"context"
	"fmt"
	"strings"
	"time"

	"github.com/jmoiron/sqlx"

	"unicausa/internal/api"
	"unicausa/internal/core/cluster"
	"unicausa/internal/core/link"
	"unicausa/internal/core/notes"
	"unicausa/internal/core/source"
	"unicausa/internal/core/symptom"
	"unicausa/internal/core/triage"
)

type causeRow struct {
	ID        int64                  `db:"id"`
	Name      string                 `db:"name"`
	Title     string                 `db:"title"`
	Kind      string                 `db:"kind"`
	Phase     string                 `db:"phase"`
	Package   string                 `db:"package"`
	Root      string                 `db:"root"`
	Rank      int                    `db:"rank"`
	Reason    string                 `db:"reason"`
	Because   doc[[]cluster.Because] `db:"because"`
	Steps     doc[[]triage.Step]     `db:"steps"`
	Known     bool                   `db:"known"`
	Status    string                 `db:"status"`
	First     int                    `db:"first_run"`
	Since     int                    `db:"since_run"`
	Shown     int                    `db:"shown"`
	Hidden    int                    `db:"hidden"`
	Silenced  int                    `db:"silenced"`
	Leg       int                    `db:"leg"`
	Signature string                 `db:"signature"`
	Total     int                    `db:"total"`
	Files     int                    `db:"files"`
	Returned  bool                   `db:"returned"`
	Uncovered bool                   `db:"uncovered"`
	Into      string                 `db:"into_cause"`
	From      string                 `db:"from_cause"`
	Checks    doc[[]string]          `db:"checks"`
}

// selectCause reads causes of a leg in the order to tackle them: what is shown
// by rank, then what is out of sight, then what is cleared.
const selectCause = `
	SELECT c.id, c.name, c.title, c.kind, c.phase, c.package, c.root, c.rank, c.reason, c.known, c.status, c.first_run, c.since_run, c.into_cause, c.from_cause,
		c.shown, c.hidden, c.silenced, l.number AS leg, c.signature, c.total, c.files, c.returned, c.uncovered, c.checks%s
	FROM cause c JOIN leg l ON l.id = c.leg_id WHERE c.leg_id = $1 %s
	ORDER BY c.known, array_position(ARRAY['shown', 'hidden', 'cleared'], c.status), c.rank, c.id`

// Causes lists the causes of an upgrade's current leg in the order to tackle them.
func (s *Store) Causes(ctx context.Context, upgrade int64) ([]api.Cause, error) {
	leg, err := s.leg(ctx, s.db, upgrade)
	if err != nil {
		return nil, err
	}
	list, _, err := s.causes(ctx, leg, "")
	return list, err
}

// CausesOf lists those of the leg with a number; a leg that is not there gives
// ErrNotFound.
func (s *Store) CausesOf(ctx context.Context, upgrade int64, number int) ([]api.Cause, error) {
	var leg int64
	err := s.db.GetContext(ctx, &leg, `SELECT id FROM leg WHERE upgrade_id = $1 AND number = $2`, upgrade, number)
	if err := found(err, fmt.Sprintf("leg %d", number)); err != nil {
		return nil, err
	}
	list, _, err := s.causes(ctx, leg, "")
	return list, err
}

func (s *Store) causes(ctx context.Context, leg int64, condition string, args ...any) ([]api.Cause, []causeRow, error) {
	more := "" // of a list, what takes room is left out
	if condition != "" {
		more = ", c.because, c.steps"
	}
	var rows []causeRow
	if err := s.db.SelectContext(ctx, &rows, fmt.Sprintf(selectCause, more, condition), append([]any{leg}, args...)...); err != nil {
		return nil, nil, fmt.Errorf("reading the causes: %w", err)
	}
	decisions, err := s.decisions(ctx, leg)
	if err != nil {
		return nil, nil, err
	}
	links, err := s.bestLinks(ctx, leg)
	if err != nil {
		return nil, nil, err
	}
	list := make([]api.Cause, 0, len(rows))
	for _, r := range rows {
		c := api.Cause{
			ID: r.Name, Title: r.Title, Kind: r.Kind, Phase: r.Phase, Package: r.Package, Rank: r.Rank, Reason: r.Reason, Status: api.CauseStatus(r.Status),
			Known: r.Known, Shown: r.Shown, Hidden: r.Hidden, Silenced: r.Silenced, Leg: r.Leg, Symptoms: r.Total, First: r.First, Since: r.Since, Checks: r.Checks.v, Files: r.Files,
			Returned: r.Returned, Uncovered: r.Uncovered, Into: r.Into, From: r.From,
		}
		c.Decision = standing(decisions[r.ID])
		c.Link = links[r.ID]
		list = append(list, c)
	}
	return list, rows, nil
}

// standing is the latest decision that was not taken back, or nil.
func standing(history []api.Decision) *api.Decision {
	for i := range history {
		if !history[i].Undone {
			return &history[i]
		}
	}
	return nil
}

// decisions reads a leg's decisions by cause, the latest first.
func (s *Store) decisions(ctx context.Context, leg int64) (map[int64][]api.Decision, error) {
	var rows []struct {
		ID         int64     `db:"id"`
		Cause      int64     `db:"cause_id"`
		Kind       string    `db:"kind"`
		Reason     string    `db:"reason"`
		Due        string    `db:"due"`
		Commit     string    `db:"commit_id"`
		Author     string    `db:"author"`
		AfterRun   int       `db:"after_run"`
		Outcome    string    `db:"outcome"`
		OutcomeRun int       `db:"outcome_run"`
		At         time.Time `db:"created_at"`
		Undone     bool      `db:"undone"`
	}
	err := s.db.SelectContext(ctx, &rows, `
		SELECT d.id, d.cause_id, d.kind, d.reason, d.due, d.commit_id, d.author, d.after_run, d.outcome, d.outcome_run, d.created_at, d.undone_at IS NOT NULL AS undone
		FROM decision d JOIN cause c ON c.id = d.cause_id WHERE c.leg_id = $1 ORDER BY d.id DESC`, leg)
	if err != nil {
		return nil, fmt.Errorf("reading the decisions: %w", err)
	}
	byCause := map[int64][]api.Decision{}
	for _, r := range rows {
		byCause[r.Cause] = append(byCause[r.Cause], api.Decision{
			ID: r.ID, Kind: api.DecisionKind(r.Kind), Reason: r.Reason, Due: r.Due, Commit: r.Commit, Author: r.Author, AfterRun: r.AfterRun,
			Outcome: api.DecisionOutcome(r.Outcome), OutcomeRun: r.OutcomeRun, At: r.At, Undone: r.Undone,
		})
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
func (s *Store) bestLinks(ctx context.Context, leg int64) (map[int64]*api.Link, error) {
	all, err := s.links(ctx, leg, `SELECT DISTINCT ON (l.cause_id)`+selectLink+`AND l.state <> 'rejected' ORDER BY l.cause_id, `+linkOrder)
	if err != nil {
		return nil, err
	}
	best := make(map[int64]*api.Link, len(all))
	for cause, list := range all {
		best[cause] = &list[0]
	}
	return best, nil
}

// links reads a leg's links by cause, in the order of the query.
func (s *Store) links(ctx context.Context, leg int64, query string, args ...any) (map[int64][]api.Link, error) {
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
	byCause := map[int64][]api.Link{}
	for _, r := range rows {
		correct(&r.Facts.v, words[r.Facts.v.ID])
		byCause[r.Cause] = append(byCause[r.Cause], api.Link{
			Change: changeView(&r.Facts.v, r.Notes), Score: r.Score, Standing: linkStanding(r.State, r.Score), State: api.LinkState(r.State), Because: becauseView(r.Because.v),
		})
	}
	return byCause, nil
}

// linkStanding is what may be said of a link, once people have judged it.
func linkStanding(state string, score float64) api.LinkStanding {
	switch api.LinkState(state) {
	case api.LinkStateConfirmed:
		return api.Likely
	case api.LinkStateRejected:
		return api.Possible
	}
	return api.LinkStanding(link.StandingOf(score))
}

func changeView(c *notes.Change, document int64) api.Change {
	return api.Change{ID: c.ID, NotesID: document, Notes: c.Notes, Line: c.Line, End: c.End, Package: c.Package, Version: c.Version, Kind: string(c.Kind),
		Impact: c.Impact, Title: c.Title, Symbols: c.Names(), Renames: renameViews(c.Renames)}
}

func becauseView(list []cluster.Because) []api.Because {
	out := make([]api.Because, 0, len(list))
	for _, b := range list {
		out = append(out, api.Because{What: b.What, Value: b.Value, Weight: b.Weight})
	}
	return out
}

// Cause is one cause with all that belongs to it, or ErrNotFound.
func (s *Store) Cause(ctx context.Context, upgrade int64, name string) (api.CauseDetail, error) {
	leg, _, err := s.causeID(ctx, s.db, upgrade, name)
	if err != nil {
		return api.CauseDetail{}, err
	}
	list, rows, err := s.causes(ctx, leg, "AND c.name = $2", name)
	if err != nil {
		return api.CauseDetail{}, err
	}
	if len(rows) == 0 {
		return api.CauseDetail{}, fmt.Errorf("cause %s: %w", name, ErrNotFound)
	}
	d := api.CauseDetail{Cause: list[0], Root: rows[0].Root, Because: becauseView(rows[0].Because.v), Links: []api.Link{}, Decisions: []api.Decision{}, Life: []api.LifePoint{}, Steps: []api.Step{}, Corrections: []api.Correction{}, Cases: []api.SettledCase{}, Commits: []api.Commit{}}
	for _, step := range rows[0].Steps.v {
		d.Steps = append(d.Steps, api.Step{Kind: api.StepKind(step.Kind), Text: step.Text, Change: step.Change, Places: step.Places})
	}
	corrections, err := s.Corrections(ctx, upgrade)
	if err != nil {
		return d, err
	}
	for _, c := range corrections {
		if c.Cause == name || c.From == name {
			d.Corrections = append(d.Corrections, c)
		}
	}
	links, err := s.links(ctx, leg, `SELECT`+selectLink+`AND l.cause_id = $2 ORDER BY `+linkOrder, rows[0].ID)
	if err != nil {
		return d, err
	}
	d.Links = append(d.Links, links[rows[0].ID]...)
	decisions, err := s.decisions(ctx, leg)
	if err != nil {
		return d, err
	}
	d.Decisions = append(d.Decisions, decisions[rows[0].ID]...)
	if d.Symptoms, err = s.symptoms(ctx, leg, rows[0].ID, rows[0].Root); err != nil {
		return d, err
	}
	points, err := s.db.QueryContext(ctx, `SELECT run, shown, hidden FROM life WHERE cause_id = $1 ORDER BY run`, rows[0].ID)
	if err != nil {
		return d, fmt.Errorf("reading the life of %s: %w", name, err)
	}
	defer points.Close()
	for points.Next() {
		var p api.LifePoint
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
func (s *Store) symptoms(ctx context.Context, leg, cause int64, root string) ([]api.Symptom, error) {
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
	list := []api.Symptom{}
	for _, r := range rows {
		f := r.Facts.v
		if _, ok := trees[r.Source]; !ok {
			if trees[r.Source], err = sourceTree(ctx, s.db, r.Source); err != nil {
				return nil, err
			}
		}
		v := api.Symptom{
			ID: f.ID, Kind: string(f.Kind), Level: f.Level, Phase: string(f.Phase), Tool: f.Tool, Code: f.Code, Message: f.Message, Detail: f.Detail,
			File: f.File, Line: f.Line, Column: f.Column, Unit: f.Unit, Test: f.Test, State: api.SymptomState(r.State), Status: api.SymptomStatus(r.Status),
			Still: r.Still, Origin: r.Origin, Follower: r.Follower, First: r.First, Last: r.Last, Places: []api.Place{}, Source: excerpt(trees[r.Source], f.File, f.Line),
		}
		if b := r.Because.v; b.What != "" {
			v.Because = &api.Because{What: b.What, Value: b.Value, Weight: b.Weight}
		}
		v.Places = append(v.Places, places[f.ID]...)
		list = append(list, v)
	}
	return list, nil
}

func excerpt(tree *source.Tree, file string, line int) []api.SourceLine {
	list := []api.SourceLine{}
	lines := tree.Lines(file)
	if line < 1 || line > len(lines) {
		return list
	}
	for n := max(1, line-around); n <= min(len(lines), line+around); n++ {
		list = append(list, api.SourceLine{Line: n, Text: strings.TrimRight(lines[n-1], "\r")})
	}
	return list
}

// places reads where the symptoms of a cause stand in the raw output, the
// latest run first.
func (s *Store) places(ctx context.Context, leg, cause int64) (map[string][]api.Place, error) {
	rows, err := s.db.QueryContext(ctx, `
		SELECT f.identity, f.input_id, i.name, r.number, k.name, o.line, o.end_line
		FROM symptom s JOIN finding f ON f.upgrade_id = s.upgrade_id AND f.identity = s.identity JOIN run r ON r.id = f.run_id AND r.leg_id = s.leg_id
			JOIN occurrence o ON o.upgrade_id = f.upgrade_id AND o.run_id = f.run_id AND o.n = f.n JOIN input i ON i.id = f.input_id JOIN "check" k ON k.id = r.check_id
		WHERE s.upgrade_id = (SELECT upgrade_id FROM leg WHERE id = $1) AND s.leg_id = $1 AND s.cause_id = $2 ORDER BY r.number DESC, i.ordinal, o.line LIMIT 20000`, leg, cause)
	if err != nil {
		return nil, fmt.Errorf("reading the places: %w", err)
	}
	defer rows.Close()
	places := map[string][]api.Place{}
	for rows.Next() {
		var id string
		var p api.Place
		if err := rows.Scan(&id, &p.InputID, &p.Input, &p.Run, &p.Check, &p.Line, &p.End); err != nil {
			return nil, fmt.Errorf("reading the places: %w", err)
		}
		places[id] = append(places[id], p)
	}
	return places, rows.Err()
}

// JudgeLink records what a person says of a link. A cause or change that is
// not there gives ErrNotFound.
func (s *Store) JudgeLink(ctx context.Context, upgrade int64, cause, change string, j api.LinkJudgement) error {
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
			if state != string(j.Was) && state != string(j.State) {
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

// Signature is what holds a cause together, the same in every upgrade.
func (s *Store) Signature(ctx context.Context, upgrade int64, cause string) (string, error) {
	_, id, err := s.causeID(ctx, s.db, upgrade, cause)
	if err != nil {
		return "", err
	}
	var signature string
	err = s.db.GetContext(ctx, &signature, `SELECT signature FROM cause WHERE id = $1`, id)
	return signature, found(err, "cause "+cause)
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
