package store

import (
	"errors"
	"slices"
	"strings"
	"testing"

	"unicausa/internal/core/notes"
	"unicausa/internal/core/versions"
)

func TestBegin(t *testing.T) {
	s, ctx := records(t), t.Context()
	first := begun(t, s, "jar 5")
	if _, err := s.Begin(ctx, "shelf", "jar 5", jar); !errors.Is(err, ErrConflict) || !strings.Contains(err.Error(), `"jar 5" of shelf`) {
		t.Errorf("begun twice: %v", err)
	}
	other, err := s.Begin(ctx, "press", "jar 5", jar)
	if err != nil {
		t.Fatal(err)
	}
	if other.Leg != 1 || !slices.Equal(other.Moves, jar) {
		t.Errorf("%+v", other)
	}
	list, err := s.Upgrades(ctx)
	if err != nil || len(list) != 2 || list[0].Project != "press" || list[1].ID != first || !slices.Equal(list[1].Moves, jar) {
		t.Errorf("%+v, %v", list, err)
	}
	if project, err := s.ProjectOf(ctx, first); err != nil || project != "shelf" {
		t.Errorf("%q, %v", project, err)
	}
}

// TestNotThere holds that what is not there is told by name, whatever is asked of it.
func TestNotThere(t *testing.T) {
	s, ctx := records(t), t.Context()
	u := begun(t, s, "jar 5")
	tests := []struct {
		name, what string
		ask        func() error
	}{
		{"upgrade", "upgrade 99", func() error { _, err := s.Upgrade(ctx, 99); return err }},
		{"its runs", "upgrade 99", func() error { _, err := s.Runs(ctx, 99); return err }},
		{"its causes", "upgrade 99", func() error { _, err := s.Causes(ctx, 99); return err }},
		{"its legs", "upgrade 99", func() error { _, err := s.Legs(ctx, 99); return err }},
		{"its tests", "upgrade 99", func() error { _, err := s.Tests(ctx, 99); return err }},
		{"its notes", "upgrade 99", func() error { _, err := s.Notes(ctx, 99); return err }},
		{"its changes", "upgrade 99", func() error { _, err := s.Changes(ctx, 99); return err }},
		{"its debts", "upgrade 99", func() error { _, err := s.Debts(ctx, 99); return err }},
		{"its words", "upgrade 99", func() error { _, err := s.Words(ctx, 99); return err }},
		{"its activity", "upgrade 99", func() error { _, err := s.Activity(ctx, 99, 0, 10); return err }},
		{"its corrections", "upgrade 99", func() error { _, err := s.Corrections(ctx, 99); return err }},
		{"its project", "upgrade 99", func() error { _, err := s.ProjectOf(ctx, 99); return err }},
		{"a search in it", "upgrade 99", func() error { _, err := s.Find(ctx, 99, "jar"); return err }},
		{"its records", "upgrade 99", func() error { _, err := s.Inspect(ctx, 99); return err }},
		{"run", "run 7", func() error { _, err := s.Run(ctx, u, 7); return err }},
		{"symptoms of a run", "run 7", func() error { _, err := s.RunSymptoms(ctx, u, 7); return err }},
		{"lines of an input", "input 7", func() error { _, err := s.InputLines(ctx, u, 7, 1, 10); return err }},
		{"search of an input", "input 7", func() error { _, err := s.SearchInput(ctx, u, 7, 1, "jar"); return err }},
		{"lines of notes", "notes 7", func() error { _, err := s.NotesLines(ctx, u, 7, 1, 10); return err }},
		{"picture", "picture 0 of run 7", func() error { _, _, err := s.Picture(ctx, u, 7, 0); return err }},
		{"cause", "cause C7", func() error { _, err := s.Cause(ctx, u, "C7"); return err }},
		{"causes of a leg", "leg 7", func() error { _, err := s.CausesOf(ctx, u, 7); return err }},
		{"change", "change x", func() error { _, err := s.Change(ctx, u, "x"); return err }},
		{"what is said of a change", "change x", func() error { return s.SayOfChange(ctx, u, "x", ChangeWord{Reason: "no"}) }},
		{"decision on a cause", "cause C7", func() error { return s.Decide(ctx, u, "C7", NewDecision{Kind: "fix", Reason: "no"}) }},
		{"decision to undo", "decision 7", func() error { return s.UndoDecision(ctx, u, 7, "") }},
		{"link to judge", "cause C7", func() error { return s.JudgeLink(ctx, u, "C7", "x", Judgement{State: "confirmed"}) }},
		{"correction to undo", "correction 7", func() error { return s.UndoCorrection(ctx, u, 7, "") }},
		{"word to take back", "word 7", func() error { return s.TakeWordBack(ctx, u, 7, "") }},
		{"debt", "debt 7", func() error { _, err := s.Debt(ctx, u, 7); return err }},
		{"debt to settle", "open debt 7", func() error { _, err := s.SettleDebt(ctx, u, 7, "paid", ""); return err }},
		{"person", "Ilse", func() error { return s.RemovePerson(ctx, "Ilse", nil, "") }},
		{"upgrade to delete", "upgrade 99", func() error { return s.Delete(ctx, 99, "") }},
	}
	for _, test := range tests {
		t.Run(test.name, func(t *testing.T) {
			if err := test.ask(); !errors.Is(err, ErrNotFound) || !strings.Contains(err.Error(), test.what+":") {
				t.Errorf("%v", err)
			}
		})
	}
}

func TestLegs(t *testing.T) {
	s, ctx := records(t), t.Context()
	u := broken(t, s, "jar 5")
	if err := s.NextLeg(ctx, u, NewLeg{Author: "Mirja"}); !errors.Is(err, ErrNotYet) {
		t.Errorf("no leg is planned: %v", err)
	}
	six := []versions.Move{{Package: "example.org/jar", From: "5.0.0", To: "6.0.0"}}
	if err := s.PlanLeg(ctx, u, NewLeg{Moves: six, Author: "Mirja"}); err != nil {
		t.Fatal(err)
	}
	if err := s.Decide(ctx, u, "C2", NewDecision{Kind: "accept", Reason: "a spoon less"}); err != nil {
		t.Fatal(err)
	}
	want := func(status ...string) []Leg {
		t.Helper()
		legs, err := s.Legs(ctx, u)
		if err != nil {
			t.Fatal(err)
		}
		var got []string
		for _, l := range legs {
			got = append(got, l.Status)
		}
		if !slices.Equal(got, status) {
			t.Errorf("the legs are %q, want %q", got, status)
		}
		return legs
	}
	if legs := want("current", "planned"); legs[0].Runs != 3 || legs[0].Causes != 2 || legs[0].Left != 1 || !slices.Equal(legs[1].Moves, six) {
		t.Errorf("%+v", legs)
	}
	if err := s.RestartLeg(ctx, u, NewLeg{Reason: "on another branch", Author: "Mirja"}); err != nil {
		t.Fatal(err)
	}
	legs := want("abandoned", "planned", "current")
	if legs[0].Reason != "on another branch" || !slices.Equal(legs[2].Moves, jar) {
		t.Errorf("%+v", legs)
	}
	if documents, err := s.Notes(ctx, u); err != nil || len(documents) != 1 {
		t.Errorf("it has the notes of the one before it: %+v, %v", documents, err)
	}
	record(t, s, u, "build", "c2", 1, "# shelf\npress.go:7:2: undefined: jar.Lid\n")
	process(t, s, u)
	causes, err := s.Causes(ctx, u)
	if err != nil || len(causes) != 1 || causes[0].Name != "C3" || causes[0].Leg != 3 {
		t.Errorf("numbers go on: %+v, %v", causes, err)
	}
	if err := s.NextLeg(ctx, u, NewLeg{Reason: "enough", Author: "Mirja"}); err != nil {
		t.Fatal(err)
	}
	want("abandoned", "current", "done")
	if u, err := s.Upgrade(ctx, u); err != nil || u.Leg != 2 || !slices.Equal(u.Moves, six) {
		t.Errorf("%+v, %v", u, err)
	}
	if old, err := s.CausesOf(ctx, u, 1); err != nil || len(old) != 2 {
		t.Errorf("those of the first leg: %+v, %v", old, err)
	}
}

// TestActivity holds that what happened is told, the latest first, and who did it.
func TestActivity(t *testing.T) {
	s, ctx := records(t), t.Context()
	u := broken(t, s, "jar 5")
	if _, err := s.Vouch(ctx, u, "backup", "no data moves", "Ilse"); err != nil {
		t.Fatal(err)
	}
	all, err := s.Activity(ctx, u, 0, 100)
	if err != nil {
		t.Fatal(err)
	}
	var kinds []string
	for _, e := range all {
		kinds = append(kinds, e.Kind)
	}
	if want := []string{"word", "processed", "recorded", "baseline", "recorded", "recorded", "notes", "begun"}; !slices.Equal(kinds, want) {
		t.Errorf("%q, want %q", kinds, want)
	}
	if all[0].Author != "Ilse" || all[0].Text != "vouched for backup: no data moves" || all[1].Text != "run 3 of build: 3 new, 0 gone, 2 causes left" {
		t.Errorf("%+v", all[:2])
	}
	last, err := s.LastEvent(ctx, u)
	if err != nil || last != all[0].ID {
		t.Errorf("%d, %v", last, err)
	}
	if earlier, err := s.Activity(ctx, u, all[1].ID, 2); err != nil || len(earlier) != 2 || earlier[0].ID != all[2].ID {
		t.Errorf("before one: %+v, %v", earlier, err)
	}
	if later, err := s.Events(ctx, u, all[2].ID); err != nil || len(later) != 2 || later[0].ID != all[1].ID {
		t.Errorf("after one: %+v, %v", later, err)
	}
}

func TestFind(t *testing.T) {
	s, ctx := records(t), t.Context()
	u := broken(t, s, "jar 5")
	record(t, s, u, "test", "c1", 1, "=== RUN   TestPress\n    press_test.go:9: no lid\n--- FAIL: TestPress (0.01s)\nFAIL\nFAIL\tshelf\t0.01s\n")
	process(t, s, u)
	for _, test := range []struct{ text, want string }{
		{"spoon.go", "file spoon.go C2"}, {"c2", "cause C2 C2"}, {"#3", "run #3 build 3"}, {"TestPress", "test TestPress C3"}, {"renamed", "change jar.Spoon was renamed to jar.Ladle"}, {"NOTES.md:5", "change jar.Lid was removed"},
		{"100%", ""}, {"no_such", ""},
	} {
		found, err := s.Find(ctx, u, test.text)
		if err != nil {
			t.Fatal(err)
		}
		var got []string
		for _, f := range found {
			got = append(got, f.Kind+" "+f.Name+" "+f.Key)
		}
		ok := test.want == "" && len(got) == 0 || slices.ContainsFunc(got, func(line string) bool {
			kind, rest, _ := strings.Cut(test.want, " ")
			return strings.HasPrefix(line, kind+" ") && strings.Contains(line, strings.Fields(rest)[0])
		})
		if !ok {
			t.Errorf("%q finds %q, want %q", test.text, got, test.want)
		}
	}
}

func TestNotes(t *testing.T) {
	s, ctx := records(t), t.Context()
	u := begun(t, s, "jar 5")
	read := func(text string) []notes.Change { return notes.Read("NOTES.md", "jar", []byte(text)) }
	first, err := s.AddNotes(ctx, u, NewNotes{Name: "NOTES.md", Package: "jar", Text: "# 5.0.0\n\n- `openLid` was removed.\n- `shutLid` was removed.\n"}, read("# 5.0.0\n\n- `openLid` was removed.\n- `shutLid` was removed.\n"), nil)
	if err != nil || first.Changes != 2 || first.Lines != 5 {
		t.Errorf("%+v, %v", first, err)
	}
	again, err := s.AddNotes(ctx, u, NewNotes{Name: "NOTES.md", Package: "jar", Text: "# 5.0.0\n\n- `openJar` was removed.\n"}, read("# 5.0.0\n\n- `openJar` was removed.\n"), nil)
	if err != nil || again.ID != first.ID {
		t.Errorf("replaced: %+v, %v", again, err)
	}
	broken, err := s.AddNotes(ctx, u, NewNotes{Name: "BAD.md", Text: "bad"}, read("# 5.0.0\n\n- `shutJar` was removed.\n"), errors.New("it is broken"))
	if err != nil || broken.Problem != "it is broken" {
		t.Errorf("%+v, %v", broken, err)
	}
	list, err := s.Notes(ctx, u)
	if err != nil || len(list) != 2 || list[0].Changes != 1 || list[1].Problem != "it is broken" {
		t.Errorf("%+v, %v", list, err)
	}
	if changes, err := s.Changes(ctx, u); err != nil || len(changes) != 1 || changes[0].Names()[0] != "openJar" {
		t.Errorf("what cannot be read takes no part: %+v, %v", changes, err)
	}
	lines, err := s.NotesLines(ctx, u, first.ID, 3, 1)
	if err != nil || lines.From != 3 || lines.Total != 4 || !slices.Equal(lines.Lines, []string{"- `openJar` was removed."}) {
		t.Errorf("%+v, %v", lines, err)
	}
	if past, err := s.NotesLines(ctx, u, first.ID, 99, 5); err != nil || len(past.Lines) != 0 {
		t.Errorf("behind the end: %+v, %v", past, err)
	}
}
