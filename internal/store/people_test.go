package store

import (
	"errors"
	"slices"
	"strings"
	"testing"
	"time"

	"unicausa/internal/access"
)

func TestPeople(t *testing.T) {
	s, ctx := records(t), t.Context()
	hash, ended := access.Hash("secret"), access.Hash("old")
	if err := s.AddPerson(ctx, NewPerson{Name: "Mirja", Role: access.Writer, Projects: []string{"shelf", "press"}, Token: "laptop"}, hash, "keeper"); err != nil {
		t.Fatal(err)
	}
	if err := s.AddPerson(ctx, NewPerson{Name: "Mirja", Role: access.Reader, Token: "laptop"}, ended, "keeper"); !errors.Is(err, ErrConflict) || !strings.Contains(err.Error(), `"laptop" of Mirja`) {
		t.Errorf("%v", err)
	}
	past := time.Now().Add(-time.Hour)
	if err := s.AddPerson(ctx, NewPerson{Name: "Mirja", Role: access.Admin, Projects: []string{"press"}, Token: "old", EndsAt: &past}, ended, "keeper"); err != nil {
		t.Fatal(err)
	}
	p, err := s.ByToken(ctx, hash)
	if err != nil || p == nil || p.Name != "Mirja" || !p.May(access.Writer, "shelf") || p.May(access.Admin, "shelf") || !p.May(access.Admin, "press") || p.May(access.Reader, "cellar") {
		t.Errorf("%+v, %v", p, err)
	}
	for _, none := range [][]byte{ended, access.Hash("guess")} {
		if p, err := s.ByToken(ctx, none); err != nil || p != nil {
			t.Errorf("a token that ended or is none: %+v, %v", p, err)
		}
	}
	list, err := s.People(ctx)
	if err != nil || len(list) != 1 || len(list[0].Roles) != 2 || list[0].Roles["press"] != access.Admin || len(list[0].Tokens) != 2 || list[0].Tokens[0].Name != "laptop" || list[0].Tokens[0].UsedAt == nil || list[0].Tokens[1].UsedAt != nil {
		t.Errorf("%+v, %v", list, err)
	}
	laptop, phone := "laptop", "phone"
	if err := s.RemovePerson(ctx, "Mirja", &phone, "keeper"); !errors.Is(err, ErrNotFound) {
		t.Errorf("%v", err)
	}
	if err := s.RemovePerson(ctx, "Mirja", &laptop, "keeper"); err != nil {
		t.Fatal(err)
	}
	if p, err := s.ByToken(ctx, hash); err != nil || p != nil {
		t.Errorf("a token that was revoked: %+v, %v", p, err)
	}
	if err := s.RemovePerson(ctx, "Mirja", nil, "keeper"); err != nil {
		t.Fatal(err)
	}
	deeds, err := s.Deeds(ctx)
	if err != nil || len(deeds) != 4 || deeds[0].Text != "Mirja is removed" || deeds[3].Text != `Mirja is writer, with the token "laptop"` || deeds[0].Author != "keeper" {
		t.Errorf("%+v, %v", deeds, err)
	}
}

func TestSignIn(t *testing.T) {
	s, ctx := records(t), t.Context()
	if err := s.AddPerson(ctx, NewPerson{Name: "Ilse", Role: access.Reader, Token: "t"}, access.Hash("t"), ""); err != nil {
		t.Fatal(err)
	}
	ilse, err := s.ByToken(ctx, access.Hash("t"))
	if err != nil {
		t.Fatal(err)
	}
	local := access.Local("keeper")
	for _, test := range []struct {
		name   string
		person *access.Person
		once   bool
		lasts  time.Duration
		in     bool // by its cookie
		key    bool // by its key
	}{{"a person", ilse, false, time.Hour, true, false}, {"this machine's user", local, false, time.Hour, true, false}, {"ended", ilse, false, -time.Hour, false, false}, {"a key", ilse, true, time.Hour, false, true}, {"an old key", local, true, -time.Second, false, false}} {
		t.Run(test.name, func(t *testing.T) {
			hash := access.Hash(test.name)
			if err := s.SignIn(ctx, test.person, hash, test.once, test.lasts); err != nil {
				t.Fatal(err)
			}
			if p, err := s.BySession(ctx, hash); err != nil || (p != nil) != test.in || p != nil && p.Name != test.person.Name {
				t.Errorf("by the cookie: %+v, %v", p, err)
			}
			if p, err := s.UseKey(ctx, hash); err != nil || (p != nil) != test.key {
				t.Errorf("by the key: %+v, %v", p, err)
			}
			if p, err := s.UseKey(ctx, hash); err != nil || p != nil {
				t.Errorf("a key is good once: %+v, %v", p, err)
			}
			if err := s.SignOut(ctx, hash); err != nil {
				t.Fatal(err)
			}
			if p, err := s.BySession(ctx, hash); err != nil || p != nil {
				t.Errorf("signed out: %+v, %v", p, err)
			}
		})
	}
	if err := s.SignIn(ctx, ilse, access.Hash("here"), false, time.Hour); err != nil {
		t.Fatal(err)
	}
	token := "t"
	if err := s.RemovePerson(ctx, "Ilse", &token, ""); err != nil {
		t.Fatal(err)
	}
	if p, err := s.BySession(ctx, access.Hash("here")); err != nil || p != nil {
		t.Errorf("once a token is revoked, its sign-ins end: %+v, %v", p, err)
	}
}

func TestPrune(t *testing.T) {
	s, ctx := records(t), t.Context()
	u := begun(t, s, "jar 5")
	old := time.Now().Add(-48 * time.Hour)
	for i := range 4 {
		recordFacts(t, s, u, RunFacts{Check: "build", Commit: string(rune('a' + i)), Exit: 1, StartedAt: old.Add(time.Duration(i) * time.Hour)}, strings.Repeat("press.go:7:2: undefined: jar.Lid\n", 100))
		process(t, s, u)
		if i == 0 {
			if _, err := s.AcceptBaseline(ctx, u, ""); err != nil {
				t.Fatal(err)
			}
		}
	}
	before := old.Add(150 * time.Minute)
	done, err := s.Prune(ctx, &before, nil, "keeper")
	if err != nil || done.Runs != 2 || done.Bytes == 0 || done.Left == 0 {
		t.Errorf("%+v, %v", done, err)
	}
	for number, gone := range map[int]bool{1: false, 2: true, 3: true, 4: false} { // the baseline and the latest stay
		run, err := s.Run(ctx, u, number)
		if err != nil {
			t.Fatal(err)
		}
		if _, err := s.InputLines(ctx, u, run.Inputs[0].ID, 1, 1); errors.Is(err, ErrGone) != gone {
			t.Errorf("run %d: %v", number, err)
		}
		if run.Symptoms == 0 {
			t.Errorf("what was read of run %d is gone", number)
		}
	}
	nothing := int64(0)
	if done, err := s.Prune(ctx, nil, &nothing, ""); err != nil || done.Runs != 0 {
		t.Errorf("what has to stay is no more to be let go: %+v, %v", done, err)
	}
	if _, err := s.Verify(ctx); err != nil {
		t.Error(err)
	}
	if all, err := s.Activity(ctx, u, 0, 1); err != nil || all[0].Text != "the raw output of 2 runs was let go" {
		t.Errorf("%+v, %v", all, err)
	}
}

func TestDelete(t *testing.T) {
	s, ctx := records(t), t.Context()
	u, other := broken(t, s, "jar 5"), broken(t, s, "jar 6")
	leg, err := s.leg(ctx, s.db, u)
	if err != nil {
		t.Fatal(err)
	}
	a, err := s.Analyse(ctx, leg)
	if err != nil {
		t.Fatal(err)
	}
	if _, err := s.Analyse(ctx, leg); !errors.Is(err, ErrBusy) {
		t.Errorf("two work on it: %v", err)
	}
	if err := s.Delete(ctx, u, "keeper"); !errors.Is(err, ErrNotYet) {
		t.Errorf("while somebody works on it: %v", err)
	}
	a.Cancel()
	if err := s.Delete(ctx, u, "keeper"); err != nil {
		t.Fatal(err)
	}
	if _, err := s.Upgrade(ctx, u); !errors.Is(err, ErrNotFound) {
		t.Errorf("%v", err)
	}
	if causes, err := s.Causes(ctx, other); err != nil || len(causes) != 2 {
		t.Errorf("the other one stays: %+v, %v", causes, err)
	}
	for _, table := range []string{"run", "cause", "symptom", "finding", "occurrence", "chunk", "event", "notes", "life"} {
		var left int
		query := `SELECT count(*) FROM ` + table
		if err := s.db.GetContext(ctx, &left, query); err != nil {
			t.Fatal(err)
		}
		if err := s.Delete(ctx, 99, ""); !errors.Is(err, ErrNotFound) {
			t.Errorf("%v", err)
		}
		if left == 0 {
			t.Errorf("the other upgrade has lost its rows of %s", table)
		}
	}
	if deeds, err := s.Deeds(ctx); err != nil || len(deeds) != 1 || !strings.Contains(deeds[0].Text, "of shelf (jar 5) was deleted") {
		t.Errorf("%+v, %v", deeds, err)
	}
}

// TestAside holds that what cannot be processed is set aside, holds the gate, and is tried
// again on request.
func TestAside(t *testing.T) {
	s, ctx := records(t), t.Context()
	u := begun(t, s, "jar 5")
	record(t, s, u, "build", "c0", 0, "")
	leg, err := s.leg(ctx, s.db, u)
	if err != nil {
		t.Fatal(err)
	}
	if unfinished, err := s.Unfinished(ctx); err != nil || !slices.Equal(unfinished, []int64{leg}) {
		t.Errorf("%v, %v", unfinished, err)
	}
	a, err := s.Analyse(ctx, leg)
	if err != nil {
		t.Fatal(err)
	}
	run, err := a.Next()
	if err != nil || run == nil || run.Check != "build" {
		t.Fatalf("%+v, %v", run, err)
	}
	for want := 1; want <= 2; want++ {
		if tries, err := a.Try(run); err != nil || tries != want {
			t.Errorf("%d tries, %v", tries, err)
		}
	}
	a.Cancel()
	if err := s.Untry(ctx, leg, run); err != nil {
		t.Fatal(err)
	}
	if err := s.SetAside(ctx, u, leg, run, errors.New("it took too long")); err != nil {
		t.Fatal(err)
	}
	if err := s.SetAside(ctx, u, leg, nil, errors.New("no memory")); err != nil {
		t.Fatal(err)
	}
	if _, err := s.AddNotes(ctx, u, NewNotes{Name: "NOTES.md", Text: jarNotes}, nil, nil); err != nil {
		t.Fatal(err)
	}
	if found, err := s.SetNotesAside(ctx, u, leg, []string{"NOTES.md"}, errors.New("a panic")); err != nil || !found {
		t.Errorf("%v, %v", found, err)
	}
	if found, err := s.SetNotesAside(ctx, u, leg, []string{"NOTES.md"}, errors.New("a panic")); err != nil || found {
		t.Errorf("it takes no part already: %v, %v", found, err)
	}
	held, err := s.Held(ctx, u)
	if err != nil || held[1] != "build: it took too long" || held[0] != "no memory" {
		t.Errorf("%v, %v", held, err)
	}
	if outgrown, err := s.Outgrown(ctx); err != nil || len(outgrown) != 0 {
		t.Errorf("by this version: %v, %v", outgrown, err)
	}
	s.Version = "next"
	if outgrown, err := s.Outgrown(ctx); err != nil || !slices.Equal(outgrown, []int64{u}) {
		t.Errorf("by another version: %v, %v", outgrown, err)
	}
	nine := 9
	if _, err := s.Retry(ctx, u, &nine, ""); !errors.Is(err, ErrNotFound) {
		t.Errorf("%v", err)
	}
	aside, err := s.Retry(ctx, u, nil, "Mirja")
	if err != nil || !slices.Equal(aside.Runs, []int{1}) || !aside.Causes || len(aside.Notes) != 1 || aside.Notes[0].Text != jarNotes {
		t.Errorf("%+v, %v", aside, err)
	}
	process(t, s, u)
	if held, err := s.Held(ctx, u); err != nil || len(held) != 0 {
		t.Errorf("%v, %v", held, err)
	}
	if all, err := s.Activity(ctx, u, 0, 1); err != nil || all[0].Text != "tried again: 1 run, 1 document" {
		t.Errorf("%+v, %v", all, err)
	}
}
