package view

import (
	"slices"
	"unicausa/internal/api"
	"unicausa/internal/core/read"
	"unicausa/internal/core/symptom"
	"unicausa/internal/core/track"
	"unicausa/internal/store"
)

// Runs are the runs of an upgrade.
func Runs(all []store.Run) []api.Run { return list(all, Run) }

// Run is a run with its inputs.
func Run(r store.Run) api.Run {
	f := r.Facts
	return api.Run{
		ID: r.ID, Number: r.Number, Status: api.RunStatus(r.Status), Problem: r.Problem, Baseline: r.Baseline, Frontier: string(r.Frontier),
		Symptoms: r.Symptoms, Delta: optional(r.Delta, delta), Inputs: list(r.Inputs, input), Notices: orEmpty(r.Notices), Leg: r.Leg,
		Pictures: list(r.Pictures, func(p store.Picture) api.Picture { return api.Picture{Name: p.Name, Media: p.Media} }),
		Facts: api.RunFacts{Check: f.Check, Command: f.Command, Commit: f.Commit, Subject: f.Subject, Dirty: f.Dirty, Exit: f.Exit,
			StartedAt: f.StartedAt, Millis: f.Millis, Versions: f.Versions, Branch: f.Branch, Diff: f.Diff, Interrupted: f.Interrupted, Informative: f.Informative},
	}
}

// GivenFacts are how a run was made, as a caller tells it; a target is part of the check's name.
func GivenFacts(f api.RunFacts) store.RunFacts {
	check := f.Check
	if f.Target != "" {
		check += "@" + f.Target
	}
	return store.RunFacts{
		Check: check, Command: f.Command, Commit: f.Commit, Subject: f.Subject, Dirty: f.Dirty, Exit: f.Exit, StartedAt: f.StartedAt, Millis: f.Millis,
		Versions: f.Versions, Branch: f.Branch, Diff: f.Diff, Interrupted: f.Interrupted, Informative: f.Informative,
		Patterns: list(f.Patterns, func(p api.Pattern) read.Pattern {
			return read.Pattern{Name: p.Name, Match: p.Match, Kind: p.Kind, Level: p.Level, Phase: p.Phase, Like: p.Like, Unlike: p.Unlike}
		}),
		Commits: list(f.Commits, func(c api.NewCommit) store.NewCommit {
			return store.NewCommit{ID: c.ID, Subject: c.Subject, Author: c.Author, At: c.At, Causes: c.Causes, Inert: c.Inert}
		}),
	}
}

func input(in store.Input) api.Input {
	return api.Input{
		ID: in.ID, Name: in.Name, Format: in.Format, Tools: orEmpty(in.Tools), Lines: in.Lines, Bytes: in.Bytes, Problem: in.Problem,
		Unread: list(in.Unread, func(u read.Unread) api.UnreadLine { return api.UnreadLine{Line: u.Line, Text: u.Text} }),
		Stated: list(in.Stated, func(t read.Stated) api.Stated {
			return api.Stated{Line: t.Line, What: t.What, Count: t.Count, Read: t.Read}
		}),
	}
}

func delta(d track.Delta) api.Delta {
	return api.Delta{
		CausesLeft: d.CausesLeft, Cleared: orEmpty(d.Cleared), Disproved: orEmpty(d.Disproved), Gone: d.Gone, Introduced: d.Introduced, New: d.New, Opened: orEmpty(d.Opened),
		Proved: orEmpty(d.Proved), Returned: d.Returned, Uncovered: d.Uncovered, Worse: d.Worse,
		Redrawn: list(d.Redrawn, func(r track.Redrawn) api.Redrawn { return api.Redrawn(r) }),
	}
}

// Checks are checks with their accepted and latest runs.
func Checks(all []store.Check) []api.Check {
	return list(all, func(c store.Check) api.Check {
		return api.Check{Name: c.Name, Required: c.Required, Baseline: optional(c.Baseline, Run), Latest: optional(c.Latest, Run), Passed: c.Passed, Failed: c.Failed, Lost: c.Lost}
	})
}

// Commits are commits with what their runs brought.
func Commits(all []store.Commit) []api.Commit {
	return list(all, func(c store.Commit) api.Commit {
		c.Named, c.Cleared, c.Opened, c.Runs = orEmpty(c.Named), orEmpty(c.Cleared), orEmpty(c.Opened), orEmpty(c.Runs)
		return api.Commit(c)
	})
}

// Tests are the tests of an upgrade against its runs.
func Tests(t store.TestTable) api.TestTable {
	return api.TestTable{
		Passed: t.Passed, Runs: list(t.Runs, func(r store.TestRun) api.TestRun { return api.TestRun(r) }),
		Tests: list(t.Tests, func(r store.TestRow) api.TestRow { return api.TestRow(r) }),
	}
}

// RunSymptoms are what a run shows.
func RunSymptoms(all []store.RunSymptom) []api.RunSymptom {
	return list(all, func(s store.RunSymptom) api.RunSymptom {
		return api.RunSymptom{ID: s.ID, Cause: s.Cause, Kind: string(s.Kind), Level: s.Level, Phase: string(s.Phase), Message: s.Message, File: s.File, Line: s.Line,
			Test: s.Test, InputID: s.InputID, From: s.From, End: s.To, Basis: api.RunSymptomBasis(s.Basis), Guess: s.Basis == symptom.ByGuess}
	})
}

// Comparison is two runs set against each other: symptoms, the new ones first, then those
// that are gone, and a sentence for each lost test and for what else tells the runs apart.
func Comparison(earlier, later store.Run, symptoms []symptom.Symptom, lost, notices []string) api.Comparison {
	places := places(earlier, later)
	out := api.Comparison{Earlier: Run(earlier), Later: Run(later), Lost: orEmpty(lost), Notices: orEmpty(notices)}
	out.Symptoms = list(symptoms, func(m symptom.Symptom) api.Compared {
		return api.Compared{State: api.ComparedState(m.State), Kind: string(m.Kind), Message: m.Message, File: m.File, Line: m.Line, Test: m.Test, Places: places(m.At)}
	})
	order := map[api.ComparedState]int{"new": 0, "absent": 1, "updated": 2, "unchanged": 3}
	slices.SortStableFunc(out.Symptoms, func(a, b api.Compared) int { return order[a.State] - order[b.State] })
	return out
}

// places gives the places of symptoms in the inputs of runs.
func places(runs ...store.Run) func([]symptom.At) []api.Place {
	type where struct {
		run   store.Run
		input store.Input
	}
	byName := map[string]where{}
	for _, r := range runs {
		for _, in := range r.Inputs {
			byName[store.InputName(r.Number, in.Name)] = where{r, in}
		}
	}
	return func(at []symptom.At) []api.Place {
		return list(at, func(p symptom.At) api.Place {
			w := byName[p.Input]
			return api.Place{InputID: w.input.ID, Input: w.input.Name, Run: w.run.Number, Check: w.run.Facts.Check, Line: p.Line, End: p.End}
		})
	}
}

// Lines are some lines of a text.
func Lines(l store.Lines) api.Lines {
	return api.Lines{From: l.From, Lines: orEmpty(l.Lines), Total: l.Total}
}

// Hits are the lines that a search found.
func Hits(h store.Hits) api.Hits { return api.Hits{Lines: list(h.Lines, line), More: h.More} }

func line(l store.SourceLine) api.SourceLine { return api.SourceLine(l) }
