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

// Project is the made-up project's name.
const Project = "orchard-ledger"

// Upgrade is one upgrade of the story.
type Upgrade struct {
	Folder string // under recordings
	Name   string
	Moves  []api.Move
	Notes  []Document
	Stages []Stage
}

// Document is one of the notes.
type Document struct{ Package, File string }

// Stage is a commit with every check recorded on it. Claims are made with the
// commit, before it is checked; decisions come after.
type Stage struct {
	Folder    string
	Claims    []Act
	Decisions []Act
}

// Act is a decision on the one open cause whose title holds About. Without a
// kind it confirms the cause's first link, or, with Into, merges the cause into
// the one whose title holds that.
type Act struct {
	About  string
	Into   string
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
	there, err := c.Upgrades(ctx)
	if err != nil {
		return err
	}
	for _, u := range Story {
		id, runs := int64(0), 0
		for _, row := range there {
			if row.Upgrade.Project == Project && row.Upgrade.Name == u.Name {
				id, runs = row.Upgrade.ID, row.Runs
			}
		}
		if err := u.load(ctx, c, id, runs, told); err != nil {
			return fmt.Errorf("loading %s: %w", u.Name, err)
		}
	}
	return nil
}

// load replays an upgrade from the stage on that its recorded runs have
// reached; an ID of 0 begins it.
func (u Upgrade) load(ctx context.Context, c *client.Client, id int64, recorded int, told func(string)) error {
	if id == 0 {
		begun, err := c.Begin(ctx, api.NewUpgrade{Project: Project, Name: u.Name, Moves: u.Moves})
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
	for i, s := range u.Stages {
		done := recorded >= checksPerStage*(i+1)
		if done && i+1 < len(u.Stages) && recorded > checksPerStage*(i+1) {
			continue // the stage behind it has begun
		}
		if !done {
			if err := s.replay(ctx, c, id, path.Join("recordings", u.Folder, s.Folder)); err != nil {
				return fmt.Errorf("%s: %w", s.Folder, err)
			}
		}
		if i == 0 {
			if _, err := c.AcceptBaseline(ctx, id, author); err != nil {
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

// checksPerStage is how many runs record.sh records on each commit.
const checksPerStage = 4

// replay claims and records one stage.
func (s Stage) replay(ctx context.Context, c *client.Client, upgrade int64, dir string) error {
	runs, err := runsOf(dir)
	if err != nil {
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
	for _, facts := range runs {
		name := facts.Check + ".log"
		log, err := files.ReadFile(path.Join(dir, name))
		if err != nil {
			return fmt.Errorf("reading the recording: %w", err)
		}
		run, err := c.Record(ctx, upgrade, facts, []client.Input{{Name: name, Content: bytes.NewReader(log)}}, source, nil)
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

// runsOf reads the facts of the runs of a stage.
func runsOf(dir string) ([]api.RunFacts, error) {
	data, err := files.ReadFile(path.Join(dir, "runs.jsonl"))
	if err != nil {
		return nil, fmt.Errorf("reading the recording: %w", err)
	}
	var list []api.RunFacts
	for lines := bufio.NewScanner(bytes.NewReader(data)); lines.Scan(); {
		var f api.RunFacts
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
		_, err = c.Decide(ctx, upgrade, cause.ID, api.NewDecision{Kind: a.Kind, Reason: a.Reason, Due: a.Due, Commit: commit, Author: author})
		return err
	}
	if cause.Link == nil {
		return fmt.Errorf("%s has no link to confirm", cause.ID)
	}
	_, err = c.JudgeLink(ctx, upgrade, cause.ID, cause.Link.Change.ID, api.LinkJudgement{State: api.LinkJudgementStateConfirmed, Author: author})
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
	_, err = c.Correct(ctx, upgrade, api.NewCorrection{Kind: api.NewCorrectionKindMerge, Cause: into.ID, From: from.ID, Reason: a.Reason, Author: author})
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
		return api.Cause{}, fmt.Errorf("%d open causes are about %q, want one", len(found), about)
	}
	return found[0], nil
}

const author = "Mirja"
