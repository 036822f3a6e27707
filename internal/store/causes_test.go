package store

import (
	"errors"
	"slices"
	"strings"
	"testing"
	"time"

	"unicausa/internal/core/casebook"
	"unicausa/internal/core/link"
	"unicausa/internal/core/notes"
	"unicausa/internal/core/rewrite"
)

func names(causes []Cause) string {
	var list []string
	for _, c := range causes {
		list = append(list, c.Name+" "+c.Status)
	}
	return strings.Join(list, ", ")
}

func TestCauses(t *testing.T) {
	s, ctx := records(t), t.Context()
	u := broken(t, s, "jar 5")
	causes, err := s.Causes(ctx, u)
	if err != nil || names(causes) != "C1 shown, C2 shown" {
		t.Fatalf("%s, %v", names(causes), err)
	}
	lid := causes[0]
	if lid.Shown != 2 || lid.Files != 1 || lid.Total != 2 || !slices.Equal(lid.Checks, []string{"build"}) || lid.Because != nil || lid.Decision != nil {
		t.Errorf("%+v", lid)
	}
	if lid.Link == nil || lid.Link.Change.Title == "" || lid.Link.Standing() != link.Likely || lid.Link.Document == 0 {
		t.Errorf("it is explained by %+v", lid.Link)
	}
	d, err := s.Cause(ctx, u, "C1")
	if err != nil || len(d.Symptoms) != 2 || len(d.Cause.Because) == 0 || len(d.Cause.Steps) == 0 || len(d.Links) == 0 {
		t.Fatalf("%+v, %v", d, err)
	}
	if d.Symptoms[0].ID != d.Cause.Root || d.Symptoms[0].Places[0].Input != "build.log" || d.Symptoms[0].Places[0].Run != 3 || d.Symptoms[0].Places[0].Line != 2 {
		t.Errorf("its root is %+v", d.Symptoms[0])
	}
	if !slices.Equal(d.Life, []LifePoint{{Run: 3, Shown: 2}}) {
		t.Errorf("its life is %+v", d.Life)
	}
	record(t, s, u, "build", "c2", 1, "# shelf\nspoon.go:9:2: undefined: jar.Spoon\n")
	process(t, s, u)
	if causes, err = s.Causes(ctx, u); err != nil || names(causes) != "C2 shown, C1 cleared" {
		t.Errorf("%s, %v", names(causes), err)
	}
	history, err := s.History(ctx, u)
	if err != nil || len(history) != 2 || history[0].Causes["C1"] != 2 || history[1].Causes["C1"] != 0 || history[1].Causes["C2"] != 1 || history[1].Commit != "c2" {
		t.Errorf("%+v, %v", history, err)
	}
	run, err := s.Run(ctx, u, 4)
	if err != nil || run.Delta == nil || !slices.Equal(run.Delta.Cleared, []string{"C1"}) || run.Delta.CausesLeft != 1 || !slices.Equal(run.Notices, []string{"noticed"}) {
		t.Errorf("%+v, %v", run, err)
	}
}

func TestDecide(t *testing.T) {
	s, ctx := records(t), t.Context()
	u := broken(t, s, "jar 5")
	last := func(cause string) *Decision {
		t.Helper()
		d, err := s.Cause(ctx, u, cause)
		if err != nil {
			t.Fatal(err)
		}
		return d.Cause.Decision
	}
	nothing := int64(0)
	if err := s.DecideAll(ctx, u, []string{"C1", "C2"}, NewDecision{Kind: "accept", Reason: "for now", Author: "Mirja", Seen: &nothing}); err != nil {
		t.Fatal(err)
	}
	if err := s.Decide(ctx, u, "C1", NewDecision{Kind: "fix", Reason: "covers", Seen: &nothing}); !errors.Is(err, ErrChanged) || !strings.Contains(err.Error(), "Mirja decided accept of C1 meanwhile (for now)") {
		t.Errorf("%v", err)
	}
	if err := s.DecideAll(ctx, u, []string{"C1", "C99"}, NewDecision{Kind: "dismiss", Reason: "no"}); !errors.Is(err, ErrNotFound) || last("C1").Kind != "accept" {
		t.Errorf("all or none: %v, %+v", err, last("C1"))
	}
	if err := s.Decide(ctx, u, "C1", NewDecision{Kind: "fix", Reason: "covers", Author: "Ilse"}); err != nil {
		t.Fatal(err)
	}
	if d := last("C1"); d.Kind != "fix" || d.Outcome != "claimed" || d.AfterRun != 3 {
		t.Errorf("%+v", d)
	}
	record(t, s, u, "build", "c2", 1, "# shelf\nspoon.go:9:2: undefined: jar.Spoon\n")
	process(t, s, u)
	if d := last("C1"); d.Outcome != "proved" || d.OutcomeRun != 4 {
		t.Errorf("the run proves it: %+v", d)
	}
	if run, err := s.Run(ctx, u, 4); err != nil || !slices.Equal(run.Delta.Proved, []string{"C1"}) {
		t.Errorf("%+v, %v", run.Delta, err)
	}
	if err := s.UndoDecision(ctx, u, last("C1").ID, "Ilse"); err != nil || last("C1").Kind != "accept" {
		t.Errorf("the one before holds again: %+v, %v", last("C1"), err)
	}
	d, err := s.Cause(ctx, u, "C1")
	if err != nil || len(d.Decisions) != 2 || !d.Decisions[0].Undone {
		t.Errorf("it stays on record: %+v, %v", d.Decisions, err)
	}
}

// TestPutOff holds that what is put off is a debt, until it is decided anew or taken back.
func TestPutOff(t *testing.T) {
	s, ctx := records(t), t.Context()
	u := broken(t, s, "jar 5")
	open := func() (list []Debt) {
		t.Helper()
		all, err := s.Debts(ctx, u)
		if err != nil {
			t.Fatal(err)
		}
		for _, d := range all {
			if !d.Settled {
				list = append(list, d)
			}
		}
		return list
	}
	if err := s.Decide(ctx, u, "C1", NewDecision{Kind: "defer", Reason: "after the harvest", Due: "2031-10-01", Author: "Mirja", File: "press.go", Code: "lid := old.Lid()"}); err != nil {
		t.Fatal(err)
	}
	if debts := open(); len(debts) != 2 || debts[0].Kind != "workaround" || debts[0].Code != "lid := old.Lid()" || debts[1].Kind != "deferred" || debts[1].Text != "C1: after the harvest" {
		t.Errorf("%+v", debts)
	}
	a, err := s.Inspect(ctx, u)
	if err != nil {
		t.Fatal(err)
	}
	if off, err := a.PutOff(); err != nil || !off["C1"] || off["C2"] {
		t.Errorf("%v, %v", off, err)
	}
	a.Cancel()
	if err := s.Decide(ctx, u, "C1", NewDecision{Kind: "wait", Reason: "for jar", Due: "example.org/jar 5.1.0"}); err != nil {
		t.Fatal(err)
	}
	debts := open()
	if len(debts) != 2 || debts[0].Kind != "waiting" {
		t.Errorf("decided anew: %+v", debts)
	}
	d, err := s.Cause(ctx, u, "C1")
	if err != nil {
		t.Fatal(err)
	}
	if err := s.UndoDecision(ctx, u, d.Cause.Decision.ID, ""); err != nil {
		t.Fatal(err)
	}
	if debts := open(); len(debts) != 1 || debts[0].Kind != "workaround" {
		t.Errorf("taken back: %+v", debts)
	}
}

func TestJudgeLink(t *testing.T) {
	s, ctx := records(t), t.Context()
	u := broken(t, s, "jar 5")
	changes, err := s.Changes(ctx, u)
	if err != nil {
		t.Fatal(err)
	}
	of := func(text string) string {
		return changes[slices.IndexFunc(changes, func(c Change) bool { return strings.Contains(c.Title, text) })].ID
	}
	if err := s.JudgeLink(ctx, u, "C1", of("Spoon"), Judgement{State: "confirmed", Author: "Mirja"}); err != nil {
		t.Fatal(err)
	}
	process(t, s, u)
	d, err := s.Cause(ctx, u, "C1")
	if err != nil || d.Cause.Link.Change.ID != of("Spoon") || d.Cause.Link.State != "confirmed" || d.Cause.Link.Standing() != link.Likely {
		t.Errorf("what is confirmed comes first: %+v, %v", d.Cause.Link, err)
	}
	if err := s.JudgeLink(ctx, u, "C1", of("Spoon"), Judgement{State: "rejected", Was: "proposed"}); !errors.Is(err, ErrChanged) {
		t.Errorf("%v", err)
	}
	if err := s.JudgeLink(ctx, u, "C1", of("Spoon"), Judgement{State: "rejected", Was: "confirmed"}); err != nil {
		t.Fatal(err)
	}
	process(t, s, u)
	if d, err = s.Cause(ctx, u, "C1"); err != nil || d.Cause.Link == nil || d.Cause.Link.Change.ID != of("Lid") || d.Links[len(d.Links)-1].Standing() != link.Possible {
		t.Errorf("what is rejected comes last: %+v, %v", d.Links, err)
	}
	if err := s.JudgeLink(ctx, u, "C1", "nothing", Judgement{State: "confirmed"}); !errors.Is(err, ErrNotFound) {
		t.Errorf("%v", err)
	}
}

func TestCorrect(t *testing.T) {
	s, ctx := records(t), t.Context()
	u := broken(t, s, "jar 5")
	symptoms := func(cause string) (ids []string) {
		t.Helper()
		d, err := s.Cause(ctx, u, cause)
		if err != nil {
			t.Fatal(err)
		}
		for _, m := range d.Symptoms {
			ids = append(ids, m.ID)
		}
		return ids
	}
	lids := symptoms("C1")
	for _, refused := range []NewCorrection{{Kind: "merge", From: "C1", Cause: "C1"}, {Kind: "split", Cause: "C1", Symptoms: lids}} {
		if _, err := s.Correct(ctx, u, refused); !errors.Is(err, ErrRefused) {
			t.Errorf("%s: %v", refused.Kind, err)
		}
	}
	if _, err := s.Correct(ctx, u, NewCorrection{Kind: "move", Cause: "C1", Symptoms: []string{"nothing"}}); !errors.Is(err, ErrNotFound) {
		t.Errorf("%v", err)
	}
	split, err := s.Correct(ctx, u, NewCorrection{Kind: "split", Cause: "C1", Symptoms: lids[1:], Reason: "another", Author: "Mirja"})
	if err != nil || split.Cause != "C3" || split.From != "C1" {
		t.Fatalf("%+v, %v", split, err)
	}
	process(t, s, u)
	if !slices.Equal(symptoms("C3"), lids[1:]) || len(symptoms("C1")) != 1 {
		t.Errorf("C1 has %q, C3 %q", symptoms("C1"), symptoms("C3"))
	}
	merge, err := s.Correct(ctx, u, NewCorrection{Kind: "merge", From: "C2", Cause: "C1"})
	if err != nil || len(merge.Symptoms) != 1 {
		t.Fatalf("%+v, %v", merge, err)
	}
	process(t, s, u)
	if len(symptoms("C1")) != 2 {
		t.Errorf("C1 has %q", symptoms("C1"))
	}
	if err := s.UndoCorrection(ctx, u, merge.ID, "Mirja"); err != nil {
		t.Fatal(err)
	}
	process(t, s, u)
	list, err := s.Corrections(ctx, u)
	if err != nil || len(list) != 2 || !list[0].Undone || list[1].Undone || list[1].Author != "Mirja" || len(symptoms("C1")) != 1 {
		t.Errorf("%+v, %v", list, err)
	}
	if d, err := s.Cause(ctx, u, "C3"); err != nil || len(d.Corrections) != 1 || d.Symptoms[0].Because == nil {
		t.Errorf("it says who put it there: %+v, %v", d.Corrections, err)
	}
}

func TestChanges(t *testing.T) {
	s, ctx := records(t), t.Context()
	u := broken(t, s, "jar 5")
	get := func(text string) Change {
		t.Helper()
		list, err := s.Changes(ctx, u)
		if err != nil {
			t.Fatal(err)
		}
		i := slices.IndexFunc(list, func(c Change) bool { return strings.Contains(c.Title, text) })
		if i < 0 {
			t.Fatalf("no change has %q: %+v", text, list)
		}
		return list[i]
	}
	lid := get("Lid")
	if !slices.Equal(lid.Causes, []string{"C1"}) || lid.State != "failing" || !lid.Candidate || lid.Corrected || lid.Added {
		t.Errorf("%+v", lid)
	}
	state, kind := "handled", "deprecated"
	if err := s.SayOfChange(ctx, u, lid.ID, ChangeWord{State: &state, Reason: "done by hand", Author: "Mirja"}); err != nil {
		t.Fatal(err)
	}
	if err := s.SayOfChange(ctx, u, lid.ID, ChangeWord{Kind: &kind, Renames: []notes.Rename{{From: "jar.Lid", To: "jar.Cover"}}, Reason: "it says so"}); err != nil {
		t.Fatal(err)
	}
	process(t, s, u)
	if lid = get("Lid"); lid.State != "handled" || lid.Reason != "done by hand" || lid.Author != "Mirja" || !lid.Corrected || lid.Kind != "deprecated" || lid.Renames[0].To != "jar.Cover" {
		t.Errorf("%+v", lid)
	}
	d, err := s.Change(ctx, u, lid.ID)
	if err != nil || len(d.Words) != 2 || *d.Words[0].State != "handled" || d.Words[1].Renames[0].To != "jar.Cover" || len(d.Text) != 1 || !strings.Contains(d.Text[0], "was removed") {
		t.Errorf("%+v, %v", d, err)
	}
	none := ""
	if err := s.SayOfChange(ctx, u, lid.ID, ChangeWord{State: &none, Kind: &none, Renames: []notes.Rename{}, Reason: "taken back"}); err != nil {
		t.Fatal(err)
	}
	process(t, s, u)
	if lid = get("Lid"); lid.State != "failing" || lid.Kind != "removed" {
		t.Errorf("taken back: %+v", lid)
	}
	id, err := s.AddChange(ctx, u, NewChange{Title: "`jar.Label` wants a second argument", Kind: "signature", Package: "example.org/jar", Version: "5.0.0", Source: "https://example.org/notes", Renames: []notes.Rename{{From: "a", To: "b"}}}, notes.Read)
	if err != nil {
		t.Fatal(err)
	}
	if added := get("Label"); added.ID != id || !added.Added || added.Kind != "signature" {
		t.Errorf("%+v", added)
	}
	if _, err := s.AddChange(ctx, u, NewChange{Title: "x", Kind: "removed"}, func(string, string, []byte) []notes.Change { return nil }); err == nil {
		t.Error("nothing was read, and it is taken")
	}
}

func TestCasebook(t *testing.T) {
	s, ctx := records(t), t.Context()
	u := broken(t, s, "jar 5")
	other := broken(t, s, "jar 5 again")
	d, err := s.Cause(ctx, other, "C1")
	if err != nil {
		t.Fatal(err)
	}
	open, err := s.Elsewhere(ctx, other, d.Cause.Signature)
	if err != nil || len(open) != 1 || open[0].Upgrade != u || open[0].Cause != "C1" || open[0].Name != "jar 5" {
		t.Errorf("%+v, %v", open, err)
	}
	if err := s.Decide(ctx, u, "C1", NewDecision{Kind: "accept", Reason: "no lids"}); err != nil {
		t.Fatal(err)
	}
	cases, err := s.Cases(ctx, other)
	if err != nil || len(cases) != 1 || cases[0].Signature != d.Cause.Signature || cases[0].Decision != "accept" || cases[0].From != "4.2.0" || cases[0].ChangeID == "" {
		t.Fatalf("%+v, %v", cases, err)
	}
	if own, err := s.Cases(ctx, u); err != nil || len(own) != 0 {
		t.Errorf("not its own: %+v, %v", own, err)
	}
	a, err := s.Inspect(ctx, other)
	if err != nil {
		t.Fatal(err)
	}
	defer a.Cancel()
	settled, err := a.Settled()
	if err != nil || settled[d.Cause.Signature][cases[0].ChangeID] != 1 {
		t.Errorf("%+v, %v", settled, err)
	}
	handed := []casebook.Case{cases[0].Public(), {Signature: "missing|jar.Ladle", Title: "no ladle", Decision: "fix"}}
	if fresh, err := s.TakeCases(ctx, handed); err != nil || fresh != 2 {
		t.Errorf("%d fresh, %v", fresh, err)
	}
	if fresh, err := s.TakeCases(ctx, handed); err != nil || fresh != 0 {
		t.Errorf("the same again: %d fresh, %v", fresh, err)
	}
}

func TestTemplates(t *testing.T) {
	s, ctx := records(t), t.Context()
	u, other := begun(t, s, "jar 5"), begun(t, s, "jar 6")
	shape := casebook.Template{ChangeID: "x", Change: "Lid was removed", Package: "jar", Examples: []rewrite.Example{{From: "jar.Lid", To: "jar.Cover"}}}
	if err := s.KeepTemplate(ctx, u, shape, "Mirja"); err != nil {
		t.Fatal(err)
	}
	if list, err := s.Templates(ctx, other); err != nil || len(list) != 1 || list[0].Change != "Lid was removed" {
		t.Errorf("another upgrade has it too: %+v, %v", list, err)
	}
	if err := s.KeepTemplate(ctx, other, casebook.Template{ChangeID: "x"}, "Mirja"); err != nil {
		t.Fatal(err)
	}
	if list, err := s.Templates(ctx, other); err != nil || len(list) != 0 {
		t.Errorf("it was forgotten there: %+v, %v", list, err)
	}
	taken := casebook.Template{ChangeID: "y", Change: "Spoon was renamed", Examples: shape.Examples}
	if fresh, err := s.TakeTemplates(ctx, []casebook.Template{taken}); err != nil || fresh != 1 {
		t.Errorf("%d, %v", fresh, err)
	}
	if fresh, err := s.TakeTemplates(ctx, []casebook.Template{taken}); err != nil || fresh != 0 {
		t.Errorf("again: %d, %v", fresh, err)
	}
}

func TestDebts(t *testing.T) {
	s, ctx := records(t), t.Context()
	u, other := begun(t, s, "jar 5"), begun(t, s, "jar 6")
	past, err := s.AddDebt(ctx, u, NewDebt{Kind: "shim", Text: "the old lid", Due: "2001-01-01", File: "lid.go", Code: "func Lid() {}", Author: "Mirja"})
	if err != nil || !past.IsDue || past.Why == "" || past.UpgradeName != "jar 5" {
		t.Errorf("%+v, %v", past, err)
	}
	reached, err := s.AddDebt(ctx, u, NewDebt{Kind: "workaround", Text: "until jar 5", Due: "example.org/jar 5.0.0"})
	if err != nil || !reached.IsDue {
		t.Errorf("%+v, %v", reached, err)
	}
	later, err := s.AddDebt(ctx, u, NewDebt{Kind: "workaround", Text: "until jar 9", Due: "example.org/jar 9.0.0"})
	if err != nil || later.IsDue {
		t.Errorf("%+v, %v", later, err)
	}
	settled, err := s.SettleDebt(ctx, other, past.ID, "it is out", "Ilse")
	if err != nil || !settled.Settled || settled.How != "it is out" || settled.IsDue {
		t.Errorf("from another upgrade of the project: %+v, %v", settled, err)
	}
	if _, err := s.SettleDebt(ctx, u, past.ID, "again", ""); !errors.Is(err, ErrNotFound) {
		t.Errorf("%v", err)
	}
	list, err := s.Debts(ctx, u)
	if err != nil || len(list) != 3 || list[0].ID != reached.ID || list[1].ID != later.ID || list[2].ID != past.ID {
		t.Errorf("what is due first, what is settled last: %+v, %v", list, err)
	}
	if d, err := s.Debt(ctx, u, later.ID); err != nil || d.Debt.Text != "until jar 9" || d.Patch != "" {
		t.Errorf("%+v, %v", d, err)
	}
}

func TestWords(t *testing.T) {
	s, ctx := records(t), t.Context()
	u := begun(t, s, "jar 5")
	w, err := s.Vouch(ctx, u, "backup", "no data moves", "Mirja")
	if err != nil || w.About != "backup" || w.At.IsZero() {
		t.Errorf("%+v, %v", w, err)
	}
	if _, err := s.Vouch(ctx, u, "backup", "again", "Ilse"); !errors.Is(err, ErrConflict) {
		t.Errorf("%v", err)
	}
	if err := s.TakeWordBack(ctx, u, w.ID, "Mirja"); err != nil {
		t.Fatal(err)
	}
	if err := s.TakeWordBack(ctx, u, w.ID, "Mirja"); !errors.Is(err, ErrNotFound) {
		t.Errorf("twice: %v", err)
	}
	if _, err := s.Vouch(ctx, u, "backup", "again", "Ilse"); err != nil {
		t.Errorf("once it is taken back: %v", err)
	}
	list, err := s.Words(ctx, u)
	if err != nil || len(list) != 2 || list[0].Author != "Ilse" || list[0].Undone || !list[1].Undone {
		t.Errorf("%+v, %v", list, err)
	}
	standing, err := s.Standing(ctx, u, nil)
	if err != nil || len(standing.Leg.Words) != 1 || standing.Leg.Words["backup"].Reason != "again" {
		t.Errorf("%+v, %v", standing.Leg.Words, err)
	}
}

// TestListen holds that followers are told once what happened is stored.
func TestListen(t *testing.T) {
	s, ctx := records(t), t.Context()
	u := begun(t, s, "jar 5")
	told := make(chan int64, 10)
	go s.Listen(ctx, func(upgrade int64) { told <- upgrade })
	for end := time.After(5 * time.Second); ; {
		if _, err := s.AddDebt(ctx, u, NewDebt{Kind: "shim", Text: "x", Due: "2031-01-01"}); err != nil {
			t.Fatal(err)
		}
		select {
		case got := <-told:
			if got != u {
				t.Errorf("told of %d", got)
			}
			return
		case <-end:
			t.Fatal("nobody was told")
		case <-time.After(100 * time.Millisecond): // the listener was not there yet
		}
	}
}
