package editor

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"time"

	"unicausa/internal/core/exposure"
	"unicausa/internal/core/notes"
	"unicausa/internal/core/rewrite"
	"unicausa/internal/core/source"
	"unicausa/internal/core/triage"
	"unicausa/internal/report"
)

// ErrUnkept says that a decision has no place to be recorded at.
var ErrUnkept = errors.New("a triage of files keeps no decisions: begin an upgrade (unicausa begin)")

// Drawn is what a triage of files gives.
type Drawn struct {
	Report  triage.Report
	Texts   report.Texts
	Changes []notes.Change
	Tree    *source.Tree
}

// Local are the problems of a triage of files, which is drawn again when they change.
type Local struct {
	Draw  func(ctx context.Context) (Drawn, error)
	Stamp func() string // another one when the files have changed

	last Drawn
}

// Problems draws the causes.
func (l *Local) Problems(ctx context.Context) ([]Problem, error) {
	drawn, err := l.Draw(ctx)
	if err != nil {
		return nil, err
	}
	l.last = drawn
	symptoms, changes := map[string]*triage.Symptom{}, map[string]*triage.Change{}
	for i := range drawn.Report.Symptoms {
		symptoms[drawn.Report.Symptoms[i].ID] = &drawn.Report.Symptoms[i]
	}
	for i := range drawn.Report.Changes {
		changes[drawn.Report.Changes[i].ID] = &drawn.Report.Changes[i]
	}
	list := []Problem{}
	for i := range drawn.Report.Causes {
		c := &drawn.Report.Causes[i]
		if c.Known {
			continue
		}
		base := Problem{Cause: c.ID, Title: c.Title}
		for _, s := range c.Steps {
			base.Steps = append(base.Steps, s.Text)
		}
		if len(c.Links) > 0 {
			if change := changes[c.Links[0].Change]; change != nil {
				base.Entry = &Entry{Change: change.ID, Place: fmt.Sprintf("%s:%d", change.Notes, change.Line), Likely: c.Links[0].Standing == "likely", Text: []string{change.Title}}
				if lines := drawn.Texts[change.Notes]; change.End <= len(lines) && change.Line >= 1 {
					base.Entry.Text = lines[change.Line-1 : change.End]
				}
			}
		}
		for _, id := range c.Symptoms {
			if s := symptoms[id]; s != nil && s.File != "" && s.Line > 0 {
				p := base
				p.File, p.Line, p.Column, p.Message, p.Level = s.File, s.Line, s.Column, s.Message, s.Level
				list = append(list, p)
			}
		}
	}
	return list, nil
}

// look is how often the files are looked at.
const look = time.Second

// Follow looks at the files until ctx ends.
func (l *Local) Follow(ctx context.Context, changed func()) {
	stamp := l.Stamp()
	tick := time.NewTicker(look)
	defer tick.Stop()
	for {
		select {
		case <-ctx.Done():
			return
		case <-tick.C:
			if now := l.Stamp(); now != stamp {
				stamp = now
				changed()
			}
		}
	}
}

// Edits are those of a change's patch, made of the notes.
func (l *Local) Edits(ctx context.Context, change string, only []string) ([]rewrite.Edit, error) {
	i := slices.IndexFunc(l.last.Changes, func(c notes.Change) bool { return c.ID == change })
	if i < 0 || l.last.Tree == nil {
		return nil, nil
	}
	p := rewrite.Of(l.last.Tree, &l.last.Changes[i], exposure.Search(ctx, l.last.Tree, l.last.Changes[i:i+1])[0], l.last.Changes)
	if len(only) > 0 {
		return rewrite.Select(p.Edits, only), nil
	}
	return p.Edits, nil
}

// Decide is refused.
func (l *Local) Decide(context.Context, string, string, string) error { return ErrUnkept }
