// Package demo holds Orchard Ledger, a made-up project, and its upgrades as
// record.sh recorded them, and replays them through the API: what a team would
// have recorded, claimed and decided, in that order.
package demo

import (
	"bufio"
	"bytes"
	"context"
	"embed"
	"encoding/json"
	"errors"
	"fmt"
	"path"
	"strings"

	"unicausa/internal/api"
	"unicausa/internal/client"
)

//go:embed recordings notes
var files embed.FS

// Upgrade is one upgrade of the story.
type Upgrade struct {
	Folder  string // under recordings
	Project string
	Name    string
	Moves   []api.Move
	Notes   []Document
	Stages  []Stage
}

// Document is one of the notes.
type Document struct{ Package, File string }

// Stage is a commit with its checks recorded on it. With Next a leg begins with
// it. Claims are made with the commit, before it is checked; decisions come
// after.
type Stage struct {
	Folder    string
	Next      []api.Move
	Claims    []Act
	Decisions []Act
}

// Act is a decision on the one open cause whose title holds About. Without a
// kind it confirms the cause's first link; with Into it merges the cause into
// the one whose title holds that; with Word it vouches for the reasons of the
// gate, or the preparation, whose text holds About; with Debt it writes one
// down; with Edit it teaches the edit that the change whose title holds About
// asks for.
type Act struct {
	About  string
	Into   string
	Word   string
	Edit   *api.Example
	Debt   *api.NewDebt
	Kind   api.NewDecisionKind
	Reason string
	Due    string
}

// File is one of the demo's own files, as "recordings/…" or "notes/…".
func File(name string) ([]byte, error) { return files.ReadFile(name) }

// Load replays the upgrades that the service does not have yet, and what is
// missing of one whose loading was broken off. Told is called with a line for
// every stage.
func Load(ctx context.Context, c *client.Client, told func(string)) error {
	c, err := as(ctx, c, author)
	if err != nil {
		return err
	}
	there, err := c.Upgrades(ctx)
	if err != nil {
		return err
	}
	for _, u := range Story {
		id, runs := int64(0), 0
		for _, row := range there {
			if row.Upgrade.Project == u.Project && row.Upgrade.Name == u.Name {
				id, runs = row.Upgrade.ID, row.Runs
			}
		}
		if err := u.load(ctx, c, id, runs, told); err != nil {
			return fmt.Errorf("loading %s: %w", u.Name, err)
		}
	}
	return nil
}

// as is a client by which a person of the story acts.
func as(ctx context.Context, c *client.Client, name string) (*client.Client, error) {
	const purpose = "demo"
	_ = c.RemovePerson(ctx, name, purpose) // of an earlier load, whose token nobody knows any more
	token, err := c.AddPerson(ctx, api.NewPerson{Name: name, Role: api.Writer, Token: purpose})
	if err != nil {
		return nil, err
	}
	return client.New(c.Server(), token)
}

// load replays an upgrade from the stage on that its recorded runs have
// reached; an ID of 0 begins it.
func (u Upgrade) load(ctx context.Context, c *client.Client, id int64, recorded int, told func(string)) error {
	if id == 0 {
		begun, err := c.Begin(ctx, api.NewUpgrade{Project: u.Project, Name: u.Name, Moves: u.Moves})
		if err != nil {
			return err
		}
		id = begun.ID
	}
	for _, d := range u.Notes {
		if recorded > 0 {
			break
		}
		text, err := files.ReadFile("notes/" + d.File)
		if err != nil {
			return fmt.Errorf("reading the notes: %w", err)
		}
		if _, err := c.AddNotes(ctx, id, api.NewNotes{Name: d.File, Package: d.Package, Text: string(text)}); err != nil {
			return err
		}
	}
	before := 0 // runs of the stages before
	for i, s := range u.Stages {
		runs, err := runsOf(path.Join("recordings", u.Folder, s.Folder))
		if err != nil {
			return err
		}
		before += len(runs)
		if recorded > before {
			continue // the stage behind it has begun
		}
		if recorded < before {
			if err := s.replay(ctx, c, id, path.Join("recordings", u.Folder, s.Folder), runs); err != nil {
				return fmt.Errorf("%s: %w", s.Folder, err)
			}
		}
		if i == 0 {
			if _, err := c.AcceptBaseline(ctx, id); err != nil {
				return err
			}
		}
		for _, a := range s.Decisions {
			if err := a.do(ctx, c, id, ""); err != nil {
				return fmt.Errorf("%s: %w", s.Folder, err)
			}
		}
		told(fmt.Sprintf("%s: %s", u.Name, s.Folder))
	}
	return nil
}

// replay begins a leg where one begins, claims, and records one stage.
func (s Stage) replay(ctx context.Context, c *client.Client, upgrade int64, dir string, runs []recorded) error {
	if err := s.begin(ctx, c, upgrade); err != nil {
		return err
	}
	source, err := files.ReadFile(path.Join(dir, "source.zip"))
	if err != nil {
		return fmt.Errorf("reading the recording: %w", err)
	}
	for _, a := range s.Claims {
		if err := a.do(ctx, c, upgrade, runs[0].Commit); err != nil {
			return err
		}
	}
	for _, r := range runs {
		log, err := files.ReadFile(path.Join(dir, r.File))
		if err != nil {
			return fmt.Errorf("reading the recording: %w", err)
		}
		run, err := c.Record(ctx, upgrade, r.RunFacts, []client.Input{{Name: r.File, Content: bytes.NewReader(log)}}, source, nil)
		if err != nil {
			return err
		}
		if run, err = c.Processed(ctx, upgrade, run.Number); err != nil {
			return err
		}
		if run.Status == "failed" {
			return errors.New(run.Problem)
		}
	}
	return nil
}

// begin goes on to the leg that begins with the stage, unless it has.
func (s Stage) begin(ctx context.Context, c *client.Client, upgrade int64) error {
	if len(s.Next) == 0 {
		return nil
	}
	legs, err := c.Legs(ctx, upgrade)
	if err != nil {
		return err
	}
	if last := legs[len(legs)-1]; len(last.Moves) > 0 && last.Moves[0] == s.Next[0] {
		return nil
	}
	_, err = c.ChangeRoute(ctx, upgrade, api.NewLeg{Kind: "next", Moves: s.Next})
	return err
}

// recorded is a run as record.sh wrote it down; File is its output.
type recorded struct {
	File string `json:"file"`
	api.RunFacts
}

// runsOf reads the facts of the runs of a stage.
func runsOf(dir string) ([]recorded, error) {
	data, err := files.ReadFile(path.Join(dir, "runs.jsonl"))
	if err != nil {
		return nil, fmt.Errorf("reading the recording: %w", err)
	}
	var list []recorded
	for lines := bufio.NewScanner(bytes.NewReader(data)); lines.Scan(); {
		var f recorded
		if err := json.Unmarshal(lines.Bytes(), &f); err != nil {
			return nil, fmt.Errorf("reading the recording %s: %w", dir, err)
		}
		list = append(list, f)
	}
	return list, nil
}

// do finds the cause and acts on it; what was done before the loading was
// broken off is left as it is.
func (a Act) do(ctx context.Context, c *client.Client, upgrade int64, commit string) error {
	switch {
	case a.Word != "":
		return a.vouch(ctx, c, upgrade)
	case a.Debt != nil:
		return a.owe(ctx, c, upgrade)
	case a.Edit != nil:
		return a.teach(ctx, c, upgrade)
	}
	causes, err := c.Causes(ctx, upgrade)
	if err != nil {
		return err
	}
	if a.Into != "" {
		return a.merge(ctx, c, upgrade, causes)
	}
	for _, cause := range causes {
		if strings.Contains(cause.Title, a.About) && (a.Kind == "" && cause.Link != nil && cause.Link.State == api.LinkStateConfirmed || cause.Decision != nil && cause.Decision.Reason == a.Reason) {
			return nil
		}
	}
	cause, err := open(causes, a.About)
	if err != nil {
		return err
	}
	if a.Kind != "" {
		_, err = c.Decide(ctx, upgrade, cause.ID, api.NewDecision{Kind: a.Kind, Reason: a.Reason, Due: a.Due, Commit: commit})
		return err
	}
	if cause.Link == nil {
		return fmt.Errorf("%s has no link to confirm", cause.ID)
	}
	_, err = c.JudgeLink(ctx, upgrade, cause.ID, cause.Link.Change.ID, api.LinkJudgement{State: api.LinkJudgementStateConfirmed})
	return err
}

// vouch gives a word on every reason of the gate whose text holds About, or on
// the preparation of that name.
func (a Act) vouch(ctx context.Context, c *client.Client, upgrade int64) error {
	gate, err := c.Gate(ctx, upgrade, "")
	if err != nil {
		return err
	}
	keys := []string{}
	for _, r := range gate.Reasons {
		if r.Key != "" && strings.Contains(r.Text, a.About) {
			keys = append(keys, r.Key)
		}
	}
	words, err := c.Words(ctx, upgrade)
	if err != nil {
		return err
	}
	for _, w := range words {
		if w.Reason == a.Word {
			return nil
		}
	}
	if len(keys) == 0 {
		keys = append(keys, a.About)
	}
	for _, key := range keys {
		if _, err := c.Vouch(ctx, upgrade, api.NewWord{About: key, Reason: a.Word}); err != nil {
			return err
		}
	}
	return nil
}

func (a Act) teach(ctx context.Context, c *client.Client, upgrade int64) error {
	rows, err := c.Changes(ctx, upgrade)
	if err != nil {
		return err
	}
	for _, r := range rows {
		if strings.Contains(r.Change.Title, a.About) {
			_, err := c.PatchByExample(ctx, upgrade, api.Examples{Change: r.Change.ID, Examples: []api.Example{*a.Edit}, Keep: true})
			return err
		}
	}
	return fmt.Errorf("no change tells of %s", a.About)
}

func (a Act) owe(ctx context.Context, c *client.Client, upgrade int64) error {
	debts, err := c.Debts(ctx, upgrade)
	if err != nil {
		return err
	}
	for _, d := range debts {
		if d.Text == a.Debt.Text {
			return nil
		}
	}
	n := *a.Debt
	_, err = c.AddDebt(ctx, upgrade, n)
	return err
}

func (a Act) merge(ctx context.Context, c *client.Client, upgrade int64, causes []api.Cause) error {
	made, err := c.Corrections(ctx, upgrade)
	if err != nil {
		return err
	}
	for _, m := range made {
		if m.Reason == a.Reason {
			return nil
		}
	}
	from, err := open(causes, a.About)
	if err != nil {
		return err
	}
	into, err := open(causes, a.Into)
	if err != nil {
		return err
	}
	_, err = c.Correct(ctx, upgrade, api.NewCorrection{Kind: api.NewCorrectionKindMerge, Cause: into.ID, From: from.ID, Reason: a.Reason})
	return err
}

// open finds the one open cause whose title holds some words.
func open(causes []api.Cause, about string) (api.Cause, error) {
	var found []api.Cause
	for _, cause := range causes {
		if strings.Contains(cause.Title, about) && cause.Status != "cleared" {
			found = append(found, cause)
		}
	}
	if len(found) != 1 {
		var titles []string
		for _, cause := range causes {
			titles = append(titles, cause.Title+" ("+string(cause.Status)+")")
		}
		return api.Cause{}, fmt.Errorf("%d open causes are about %q, want one of: %s", len(found), about, strings.Join(titles, "; "))
	}
	return found[0], nil
}

const author = "Mirja"
