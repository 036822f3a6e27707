package editor

import (
	"context"
	"fmt"
	"time"

	"unicausa/internal/api"
	"unicausa/internal/client"
	"unicausa/internal/core/rewrite"
)

// mostCauses bounds how many causes are shown, the first in rank.
const mostCauses = 200

// Recorded are the problems of an upgrade in a service, kept current over its live events.
type Recorded struct {
	Client  *client.Client
	Upgrade int64
}

// Problems asks for the causes that are left and their symptoms.
func (r Recorded) Problems(ctx context.Context) ([]Problem, error) {
	causes, err := r.Client.Causes(ctx, r.Upgrade)
	if err != nil {
		return nil, err
	}
	list := []Problem{}
	for i, c := range causes {
		if c.Known || c.Status == api.CauseStatusCleared || i >= mostCauses {
			continue
		}
		detail, err := r.Client.Cause(ctx, r.Upgrade, c.ID)
		if err != nil {
			return nil, err
		}
		list = append(list, r.of(ctx, &detail)...)
	}
	return list, nil
}

func (r Recorded) of(ctx context.Context, d *api.CauseDetail) []Problem {
	base := Problem{Cause: d.Cause.ID, Title: d.Cause.Title, Page: fmt.Sprintf("%s/upgrades/%d/causes/%s", r.Client.Server(), r.Upgrade, d.Cause.ID)}
	for _, s := range d.Steps {
		base.Steps = append(base.Steps, s.Text)
	}
	for _, l := range d.Links {
		if l.State == "rejected" {
			continue
		}
		c := l.Change
		base.Entry = &Entry{Change: c.ID, Place: fmt.Sprintf("%s:%d", c.Notes, c.Line), Likely: l.Standing == api.Likely, Text: []string{c.Title}}
		if lines, err := r.Client.NotesLines(ctx, r.Upgrade, c.NotesID, c.Line, c.End-c.Line+1); err == nil {
			base.Entry.Text = lines
		}
		break
	}
	var list []Problem
	for _, s := range d.Symptoms {
		if s.File == "" || s.Line == 0 || s.Status != api.SymptomStatusShown {
			continue
		}
		p := base
		p.File, p.Line, p.Column, p.Message, p.Level = s.File, s.Line, s.Column, s.Message, s.Level
		list = append(list, p)
	}
	return list
}

// pause is between two tries to follow a service that does not answer.
const pause = 3 * time.Second

// Follow follows the upgrade's live events; a service that goes away is asked again.
func (r Recorded) Follow(ctx context.Context, changed func()) {
	for ctx.Err() == nil {
		r.Client.Follow(ctx, r.Upgrade, changed)
		select {
		case <-ctx.Done():
		case <-time.After(pause):
			changed()
		}
	}
}

// Edits asks for the patch of a change.
func (r Recorded) Edits(ctx context.Context, change string, only []string) ([]rewrite.Edit, error) {
	p, err := r.Client.Patch(ctx, r.Upgrade, change, only)
	if err != nil {
		return nil, err
	}
	list := make([]rewrite.Edit, 0, len(p.Edits))
	for _, e := range p.Edits {
		list = append(list, rewrite.Edit{File: e.File, Line: e.Line, Column: e.Column, From: e.From, To: e.To})
	}
	return list, nil
}

// Decide records a decision.
func (r Recorded) Decide(ctx context.Context, cause, kind, reason string) error {
	_, err := r.Client.Decide(ctx, r.Upgrade, cause, api.NewDecision{Kind: api.NewDecisionKind(kind), Reason: reason})
	return err
}
