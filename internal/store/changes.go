package store

import (
	"context"
	"fmt"
	"slices"
	"strings"
	"time"

	"github.com/jmoiron/sqlx"

	"unicausa/internal/core/exposure"
	"unicausa/internal/core/link"
	"unicausa/internal/core/notes"
	"unicausa/internal/core/source"
	"unicausa/internal/core/triage"
	"unicausa/internal/core/versions"
)

// Change is a change of the notes, of a document, and what it is to this code base.
type Change struct {
	notes.Change
	Document        int64
	Candidate       bool     // its version lies within what moves
	Added           bool     // a person added it
	Corrected       bool     // a person corrected its kind or its pairs
	Causes          []string // that it explains
	Files           int      // with places that count
	Places, Said    int      // that count: in code, strings and settings; in comments and documents
	Silent, Perhaps bool     // a silent risk for certain, which holds the gate, or one that may be
	State           triage.ChangeState
	Reason, Author  string // of who set the state
}

// ChangeDetail is a change with its places, what was said of it, and its lines as written.
type ChangeDetail struct {
	Row      Change
	Searched []string // the old names that were looked for
	Waits    bool     // it has not been looked for yet
	At       []exposure.Place
	Words    []ChangeWord
	Text     []string
}

// Changes lists the changes of an upgrade's notes, and what each is to the code.
func (s *Store) Changes(ctx context.Context, upgrade int64) ([]Change, error) {
	set, err := s.changeSet(ctx, upgrade)
	if err != nil {
		return nil, err
	}
	rows := make([]Change, 0, len(set.list))
	for i := range set.list {
		rows = append(rows, set.row(&set.list[i]))
	}
	return rows, nil
}

// Change is one change with its places and what was said of it, or ErrNotFound.
func (s *Store) Change(ctx context.Context, upgrade int64, id string) (ChangeDetail, error) {
	set, err := s.changeSet(ctx, upgrade)
	if err != nil {
		return ChangeDetail{}, err
	}
	i := slices.IndexFunc(set.list, func(c notes.Change) bool { return c.ID == id })
	if i < 0 {
		return ChangeDetail{}, fmt.Errorf("change %s: %w", id, ErrNotFound)
	}
	c := &set.list[i]
	found, looked := set.found[id]
	d := ChangeDetail{Row: set.row(c), Waits: !looked, Searched: found.Searched, At: found.Places, Words: set.words[id]}
	lines, err := s.NotesLines(ctx, upgrade, set.documents[id], c.Line, c.End-c.Line+1)
	d.Text = lines.Lines
	return d, err
}

// changeSet is all that a leg has of its changes.
type changeSet struct {
	list      []notes.Change
	documents map[string]int64
	found     map[string]exposure.Found
	words     map[string][]ChangeWord
	causes    map[string][]explainedCause
	moves     []versions.Move
}

type explainedCause struct {
	Change string `db:"change"`
	Name   string `db:"name"`
	Status string `db:"status"`
}

func (s *Store) changeSet(ctx context.Context, upgrade int64) (*changeSet, error) {
	u, err := s.Upgrade(ctx, upgrade)
	if err != nil {
		return nil, err
	}
	leg, err := s.leg(ctx, s.db, upgrade)
	if err != nil {
		return nil, err
	}
	set := &changeSet{found: map[string]exposure.Found{}, causes: map[string][]explainedCause{}}
	set.moves = u.Moves
	if set.list, set.documents, err = changes(ctx, s.db, leg); err != nil {
		return nil, err
	}
	if set.words, err = changeWords(ctx, s.db, leg); err != nil {
		return nil, err
	}
	var found []struct {
		Change string              `db:"change"`
		Facts  doc[exposure.Found] `db:"facts"`
	}
	if err := s.db.SelectContext(ctx, &found, `SELECT change, facts FROM exposure WHERE leg_id = $1`, leg); err != nil {
		return nil, fmt.Errorf("reading the exposure: %w", err)
	}
	for _, f := range found {
		set.found[f.Change] = f.Facts.v
	}
	var causes []explainedCause
	err = s.db.SelectContext(ctx, &causes, `
		SELECT l.change, c.name, c.status FROM link l JOIN cause c ON c.id = l.cause_id
		WHERE c.leg_id = $1 AND NOT c.known AND l.state <> 'rejected' AND (l.state = 'confirmed' OR l.score >= $2 AND l.score = (
			SELECT max(o.score) FROM link o WHERE o.cause_id = c.id AND o.state <> 'rejected'))
		ORDER BY length(c.name), c.name`, leg, link.LikelyFrom)
	if err != nil {
		return nil, fmt.Errorf("reading the links: %w", err)
	}
	for _, c := range causes {
		set.causes[c.Change] = append(set.causes[c.Change], c)
	}
	return set, nil
}

// addedByHand is the document of the changes that people added.
const addedByHand = "added by hand"

func (s *changeSet) row(c *notes.Change) Change {
	found := s.found[c.ID]
	r := Change{Change: *c, Document: s.documents[c.ID], Candidate: triage.Candidate(c, s.moves), Added: c.Notes == addedByHand, Files: found.Files, Places: found.Count, Said: found.Said}
	shown, cleared := false, false
	for _, cause := range s.causes[c.ID] {
		r.Causes = append(r.Causes, cause.Name)
		shown, cleared = shown || cause.Status != "cleared", cleared || cause.Status == "cleared"
	}
	state := triage.StateOf(c, found.Count, shown, cleared)
	r.Silent = state == triage.Exposed && r.Candidate && triage.Silent(c, &found)
	r.Perhaps = state == triage.Exposed && r.Candidate && triage.Perhaps(c, &found)
	for _, w := range s.words[c.ID] {
		if w.State != nil {
			if r.Reason, r.Author = w.Reason, w.Author; *w.State == "" {
				r.Reason, r.Author, state = "", "", triage.StateOf(c, found.Count, shown, cleared)
			} else {
				state = triage.ChangeState(*w.State)
			}
		}
		r.Corrected = r.Corrected || !r.Added && w.Kind != nil && *w.Kind != "" || len(w.Renames) > 0
	}
	r.State = state
	r.Silent, r.Perhaps = r.Silent && state == triage.Exposed, r.Perhaps && state == triage.Exposed
	return r
}

// ChangeWord is what a person said of a change. What is nil was left as it is; an empty
// state or kind, and no renames, take back what was said before.
type ChangeWord struct {
	Kind    *string        `db:"kind"`
	Renames []notes.Rename `db:"-"`
	State   *string        `db:"state"`
	Reason  string         `db:"reason"`
	Author  string         `db:"author"`
	At      time.Time      `db:"created_at"`
}

func changeWords(ctx context.Context, q sqlx.QueryerContext, leg int64) (map[string][]ChangeWord, error) {
	var list []struct {
		ChangeWord
		Change  string              `db:"change"`
		Renames doc[[]notes.Rename] `db:"renames"`
	}
	err := sqlx.SelectContext(ctx, q, &list, `
		SELECT change, kind, coalesce(renames, 'null') AS renames, state, reason, author, created_at FROM change_word WHERE leg_id = $1 ORDER BY id`, leg)
	if err != nil {
		return nil, fmt.Errorf("reading what was said of the changes: %w", err)
	}
	byChange := map[string][]ChangeWord{}
	for _, w := range list {
		w.ChangeWord.Renames = w.Renames.v
		byChange[w.Change] = append(byChange[w.Change], w.ChangeWord)
	}
	return byChange, nil
}

// SayOfChange keeps what a person says of a change, and makes work for the leg
// where that may link causes otherwise.
func (s *Store) SayOfChange(ctx context.Context, upgrade int64, id string, w ChangeWord) error {
	return s.inTx(ctx, func(tx *sqlx.Tx) error {
		leg, err := s.leg(ctx, tx, upgrade)
		if err != nil {
			return err
		}
		var facts doc[notes.Change]
		err = tx.GetContext(ctx, &facts, `SELECT c.facts FROM change c JOIN notes n ON n.id = c.notes_id WHERE n.leg_id = $1 AND c.identity = $2`, leg, id)
		if err := found(err, "change "+id); err != nil {
			return err
		}
		if err := addWord(ctx, tx, leg, id, w); err != nil {
			return err
		}
		title := facts.v.Title
		text := title + " corrected"
		if w.State != nil && *w.State != "" {
			text = fmt.Sprintf("%s: %s", title, *w.State)
		}
		if err := addEvent(ctx, tx, upgrade, event{kind: "change", text: text}); err != nil {
			return err
		}
		if w.Kind == nil && w.Renames == nil {
			return nil
		}
		return s.enqueue(ctx, tx, leg)
	})
}

// enqueue asks for the causes of a leg to be drawn anew.
func (s *Store) enqueue(ctx context.Context, tx *sqlx.Tx, leg int64) error {
	if _, err := tx.ExecContext(ctx, `UPDATE leg SET asked = asked + 1 WHERE id = $1`, leg); err != nil {
		return fmt.Errorf("queueing the work: %w", err)
	}
	if err := s.Enqueue(ctx, tx.Tx, leg); err != nil {
		return fmt.Errorf("queueing the work: %w", err)
	}
	return nil
}

func addWord(ctx context.Context, tx *sqlx.Tx, leg int64, id string, w ChangeWord) error {
	var renames any
	if w.Renames != nil {
		renames = asJSON(w.Renames)
	}
	_, err := tx.ExecContext(ctx, `INSERT INTO change_word (leg_id, change, kind, renames, state, reason, author) VALUES ($1, $2, $3, $4, $5, $6, $7)`,
		leg, id, w.Kind, renames, w.State, w.Reason, w.Author)
	if err != nil {
		return fmt.Errorf("storing what was said of a change: %w", err)
	}
	return nil
}

// NewChange is a change that a person adds. Source is the address where it is told.
type NewChange struct {
	Title, Kind, Package, Version, Source, Author string
	Renames                                       []notes.Rename
}

// AddChange writes a change into the document of those that people added, which
// is read like any other, and gives its ID.
func (s *Store) AddChange(ctx context.Context, upgrade int64, n NewChange, read func(name, pkg string, text []byte) []notes.Change) (id string, err error) {
	err = s.inTx(ctx, func(tx *sqlx.Tx) error {
		leg, err := s.leg(ctx, tx, upgrade)
		if err != nil {
			return err
		}
		var text string
		err = tx.GetContext(ctx, &text, `
			INSERT INTO notes (leg_id, name, package, text) VALUES ($1, $2, $3, '# Added by hand') ON CONFLICT (leg_id, name, package) DO UPDATE SET text = notes.text RETURNING text`,
			leg, addedByHand, n.Package)
		if err != nil {
			return fmt.Errorf("storing the notes: %w", err)
		}
		text += "\n\n" + entryOf(n)
		list := read(addedByHand, n.Package, []byte(text))
		if len(list) == 0 {
			return fmt.Errorf("nothing was read of %q", n.Title)
		}
		id = list[len(list)-1].ID
		if _, err := s.saveNotes(ctx, tx, leg, NewNotes{Name: addedByHand, Package: n.Package, Text: text}, list); err != nil {
			return err
		}
		w := ChangeWord{Kind: &n.Kind, Reason: "added by hand", Author: n.Author}
		if len(n.Renames) > 0 {
			w.Renames = n.Renames
		}
		if err := addWord(ctx, tx, leg, id, w); err != nil {
			return err
		}
		if err := addEvent(ctx, tx, upgrade, event{kind: "change", text: "added by hand: " + n.Title}); err != nil {
			return err
		}
		return s.enqueue(ctx, tx, leg)
	})
	return id, err
}

// entryOf writes an added change as a section of Markdown.
func entryOf(n NewChange) string {
	version := strings.TrimSpace(n.Version)
	if version == "" {
		version = "Changes"
	}
	line := "- " + strings.Join(strings.Fields(n.Title), " ")
	if n.Source != "" {
		line += " ([source](" + n.Source + "))"
	}
	return "## " + version + "\n\n" + line
}

// SaveExposure stores where changes touch the tree of the leg's latest run.
func (a *Analysis) SaveExposure(found map[string]exposure.Found) error {
	if _, err := a.tx.ExecContext(a.ctx, `DELETE FROM exposure WHERE leg_id = $1`, a.Leg); err != nil {
		return fmt.Errorf("storing the exposure: %w", err)
	}
	rows := make([][]any, 0, len(found))
	for _, id := range sortedNames(found) {
		rows = append(rows, []any{a.Leg, id, asJSON(found[id])})
	}
	return a.copyRows("exposure", []string{"leg_id", "change", "facts"}, rows)
}

// Trees are the source trees of the latest accepted run and of the latest run
// of all, as far as runs came with one; either may be nil.
func (a *Analysis) Trees() (baseline, latest *source.Tree, err error) {
	for _, t := range []struct {
		tree  **source.Tree
		which string
	}{{&baseline, "r.id IN (SELECT run_id FROM baseline WHERE leg_id = $1)"}, {&latest, "(r.leg_id = $1 OR r.id IN (SELECT run_id FROM baseline WHERE leg_id = $1))"}} {
		var digests []string
		err := a.tx.SelectContext(a.ctx, &digests, `SELECT r.source FROM run r WHERE r.number IS NOT NULL AND r.source IS NOT NULL AND `+t.which+` ORDER BY r.number DESC LIMIT 1`, a.Leg)
		if err != nil {
			return nil, nil, fmt.Errorf("finding the source tree: %w", err)
		}
		if len(digests) == 1 {
			if *t.tree, err = a.Tree(digests[0]); err != nil {
				return nil, nil, err
			}
		}
	}
	return baseline, latest, nil
}

// Seen are the versions that the leg's runs since the bump named, of each the
// latest.
func (a *Analysis) Seen() (map[string]string, error) {
	var list []doc[map[string]string]
	if err := a.tx.SelectContext(a.ctx, &list, `SELECT versions FROM run WHERE leg_id = $1 AND number IS NOT NULL ORDER BY number`, a.Leg); err != nil {
		return nil, fmt.Errorf("reading the versions: %w", err)
	}
	seen := map[string]string{}
	for _, d := range list {
		for name, version := range d.v {
			seen[name] = version
		}
	}
	return seen, nil
}

// correct applies what people said of a change to how it was read.
func correct(c *notes.Change, words []ChangeWord) {
	kind, renames := c.Kind, c.Renames
	for _, w := range words {
		if w.Kind != nil {
			if c.Kind = notes.Kind(*w.Kind); c.Kind == "" {
				c.Kind = kind
			}
		}
		if w.Renames != nil {
			if c.Renames = w.Renames; len(c.Renames) == 0 {
				c.Renames = renames
			}
			c.Pair()
		}
	}
}
