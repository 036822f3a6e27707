package view

import (
	"unicausa/internal/api"
	"unicausa/internal/core/casebook"
	"unicausa/internal/core/cluster"
	"unicausa/internal/core/notes"
	"unicausa/internal/core/triage"
	"unicausa/internal/store"
)

// Causes are the causes of a leg.
func Causes(all []store.Cause) []api.Cause { return list(all, cause) }

func cause(c store.Cause) api.Cause {
	return api.Cause{
		ID: c.Name, Title: c.Title, Kind: c.Kind, Phase: c.Phase, Package: c.Package, Rank: c.Rank, Reason: c.Reason, Status: api.CauseStatus(c.Status),
		Known: c.Known, Shown: c.Shown, Hidden: c.Hidden, Silenced: c.Silenced, Leg: c.Leg, Symptoms: c.Total, First: c.First, Since: c.Since, Checks: orEmpty(c.Checks), Files: c.Files,
		Returned: c.Returned, Uncovered: c.Uncovered, Into: c.Into, From: c.From, Decision: optional(c.Decision, decision), Link: optional(c.Link, link),
	}
}

// CauseDetail is a cause with all that the records have of it.
func CauseDetail(d store.CauseDetail) api.CauseDetail {
	return api.CauseDetail{
		Cause: cause(d.Cause), Root: d.Cause.Root, Because: list(d.Cause.Because, because), Links: list(d.Links, link), Decisions: list(d.Decisions, decision),
		Life: list(d.Life, func(p store.LifePoint) api.LifePoint { return api.LifePoint(p) }), Corrections: Corrections(d.Corrections), Symptoms: list(d.Symptoms, symptomOf),
		Steps: list(d.Cause.Steps, func(s triage.Step) api.Step {
			return api.Step{Kind: api.StepKind(s.Kind), Text: s.Text, Change: s.Change, Places: s.Places}
		}),
		Cases: []api.SettledCase{}, Commits: []api.Commit{},
	}
}

func decision(d store.Decision) api.Decision {
	return api.Decision{ID: d.ID, Kind: api.DecisionKind(d.Kind), Reason: d.Reason, Due: d.Due, Commit: d.Commit, Author: d.Author, AfterRun: d.AfterRun,
		Outcome: api.DecisionOutcome(d.Outcome), OutcomeRun: d.OutcomeRun, At: d.At, Undone: d.Undone}
}

// NewDecision is a decision as a caller makes it.
func NewDecision(d api.NewDecision) store.NewDecision {
	return store.NewDecision{Kind: string(d.Kind), Reason: d.Reason, Due: d.Due, Commit: d.Commit, Author: d.Author, File: d.File, Code: d.Code, Seen: d.Seen}
}

func link(l store.Link) api.Link {
	return api.Link{Change: change(l.Change, l.Document), Score: l.Score, Standing: api.LinkStanding(l.Standing()), State: api.LinkState(l.State), Because: list(l.Because, because)}
}

func because(b cluster.Because) api.Because {
	return api.Because{What: b.What, Value: b.Value, Weight: b.Weight}
}

// symptomOf is a symptom of a cause.
func symptomOf(s store.Symptom) api.Symptom {
	return api.Symptom{
		ID: s.ID, Kind: string(s.Kind), Level: s.Level, Phase: string(s.Phase), Tool: s.Tool, Code: s.Code, Message: s.Message, Detail: s.Detail, File: s.File, Line: s.Line,
		Column: s.Column, Unit: s.Unit, Test: s.Test, State: api.SymptomState(s.State), Status: api.SymptomStatus(s.Status), Still: s.Still, Origin: string(s.Origin),
		Follower: s.Follower, First: s.First, Last: s.Last, Because: optional(s.Because, because),
		Places: list(s.Places, func(p store.Place) api.Place { return api.Place(p) }), Source: list(s.Source, line),
	}
}

// Corrections are what people said of where symptoms belong.
func Corrections(all []store.Correction) []api.Correction { return list(all, Correction) }

// Correction is one of them.
func Correction(c store.Correction) api.Correction {
	return api.Correction{ID: c.ID, Kind: api.CorrectionKind(c.Kind), Symptoms: orEmpty(c.Symptoms), From: c.From, Cause: c.Cause, Reason: c.Reason, Author: c.Author, At: c.At, Undone: c.Undone}
}

// Elsewhere are causes of the same signature in other upgrades.
func Elsewhere(all []store.Elsewhere) []api.Elsewhere {
	return list(all, func(e store.Elsewhere) api.Elsewhere {
		return api.Elsewhere{Upgrade: e.Upgrade, Name: e.Name, Project: e.Project, Cause: e.Cause, Title: e.Title, Status: api.ElsewhereStatus(e.Status), Decision: e.Decision}
	})
}

// Cases are settled causes.
func Cases(all []casebook.Case) []api.SettledCase {
	return list(all, func(c casebook.Case) api.SettledCase {
		return api.SettledCase{Signature: c.Signature, Package: c.Package, From: c.From, To: c.To, Title: c.Title, Kind: c.Kind, Change: c.Change, ChangeID: c.ChangeID,
			Decision: c.Decision, Pairs: list(c.Pairs, rename), Helped: c.Helped, Reason: c.Reason, Project: c.Project, Upgrade: c.Upgrade}
	})
}

// Casebook is settled causes with the templates that were kept.
func Casebook(cases []casebook.Case, templates []casebook.Template) api.Casebook {
	book := api.Casebook{Format: casebook.Format, Version: casebook.Version, Cases: Cases(cases)}
	for _, t := range templates {
		book.Templates = append(book.Templates, api.KeptTemplate{ChangeID: t.ChangeID, Change: t.Change, Package: t.Package, Shape: t.Shape, Examples: examples(t.Examples)})
	}
	return book
}

func rename(r notes.Rename) api.Rename { return api.Rename(r) }
