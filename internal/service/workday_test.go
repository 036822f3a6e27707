package service

import (
	"slices"
	"strings"
	"testing"
	"time"

	"unicausa/internal/api"
	"unicausa/internal/client"
	"unicausa/internal/core/source/sourcetest"
)

// workday is an upgrade on its way through the service.
type workday struct {
	t  *testing.T
	s  *Service
	c  *client.Client
	id int64
}

func begins(t *testing.T) *workday {
	t.Helper()
	a := asking(t)
	c, err := client.New(a.server.URL, a.token)
	if err != nil {
		t.Fatal(err)
	}
	id, _ := a.begin("jar 5")
	return &workday{t: t, s: a.service, c: c, id: id}
}

// record records a run with the source that it was made on, and gives it once it is read.
func (w *workday) record(facts api.RunFacts, output string, files map[string]string) api.Run {
	w.t.Helper()
	facts.StartedAt = time.Now()
	run, err := w.c.Record(w.t.Context(), w.id, facts, []client.Input{{Name: facts.Check + ".log", Content: strings.NewReader(output)}}, sourcetest.Zip(w.t, files), nil)
	if err == nil {
		run, err = w.c.Processed(w.t.Context(), w.id, run.Number)
	}
	if err != nil {
		w.t.Fatal(err)
	}
	return run
}

func (w *workday) ok(err error) {
	w.t.Helper()
	if err != nil {
		w.t.Fatal(err)
	}
}

const (
	goMod4  = "module shelf\n\ngo 1.25\n\nrequire example.org/jar v4.2.0+incompatible\n"
	goMod5  = "module shelf\n\ngo 1.25\n\nrequire example.org/jar v5.0.0+incompatible\n"
	press   = "package shelf\n\nimport \"example.org/jar\"\n\nfunc press() {\n\tjar.OpenLid(3)\n\tjar.OpenLid(4)\n\tjar.Weigh()\n}\n"
	pressed = "package shelf\n\nimport \"example.org/jar\"\n\nfunc press() {\n\tjar.Open(3)\n\tjar.Open(4)\n\tjar.Weigh()\n}\n"
	lids    = "# shelf\npress.go:6:6: undefined: jar.OpenLid\npress.go:7:6: undefined: jar.OpenLid\n"
	history = "# Jar\n\n## 5.0.0\n\n- `jar.OpenLid` was renamed to `jar.Open`.\n- `jar.Weigh` rounds to whole grams by default; it kept fractions before.\n"
)

// begun is a workday at the bump: the baseline is accepted, and the build misses jar.OpenLid.
func bumped(t *testing.T) *workday {
	t.Helper()
	w := begins(t)
	_, err := w.c.AddNotes(t.Context(), w.id, api.NewNotes{Name: "HISTORY.md", Package: "example.org/jar", Text: history})
	w.ok(err)
	w.record(api.RunFacts{Check: "build", Command: "go build ./...", Commit: "aaaa0000", Branch: "main"}, "", map[string]string{"go.mod": goMod4, "press.go": press})
	_, err = w.c.AcceptBaseline(t.Context(), w.id)
	w.ok(err)
	w.record(api.RunFacts{Check: "build", Command: "go build ./...", Commit: "bbbb0000", Branch: "jar-5", Exit: 1, Commits: []api.NewCommit{{ID: "bbbb0000", Subject: "Move to jar 5", Author: "Mirja"}}}, lids, map[string]string{"go.mod": goMod5, "press.go": press})
	return w
}

func codes(reasons []api.GateReason) (list []string) {
	for _, r := range reasons {
		list = append(list, r.Code)
	}
	return list
}

func TestFromBumpToOpenGate(t *testing.T) {
	w := bumped(t)
	ctx := t.Context()
	causes, err := w.c.Causes(ctx, w.id)
	w.ok(err)
	if len(causes) != 1 || causes[0].ID != "C1" || causes[0].Shown != 2 || causes[0].Link == nil || causes[0].Link.Standing != api.Likely {
		t.Fatalf("%+v", causes)
	}
	d, err := w.c.Cause(ctx, w.id, "C1")
	w.ok(err)
	if len(d.Symptoms) != 2 || d.Symptoms[0].Source[len(d.Symptoms[0].Source)/2].Text != "\tjar.OpenLid(3)" || d.Symptoms[0].Places[0].Run != 2 || len(d.Steps) == 0 || d.Message == "" || d.Question == "" || d.Upstream == "" || len(d.Commits) != 1 {
		t.Errorf("%+v", d)
	}
	v, err := w.c.Versions(ctx, w.id)
	w.ok(err)
	if len(v.Moves) != 1 || v.Moves[0].Name != "example.org/jar" || !v.Moves[0].Intended || v.Moves[0].Change != "moved" {
		t.Errorf("%+v", v)
	}
	ready, err := w.c.Ready(ctx, w.id)
	w.ok(err)
	if ready.Asked != 0 {
		t.Errorf("nobody was asked: %+v", ready)
	}
	patch, err := w.c.Patch(ctx, w.id, d.Links[0].Change.ID, nil)
	w.ok(err)
	if len(patch.Edits) != 2 || !strings.Contains(patch.Diff, "+\tjar.Open(3)") {
		t.Errorf("%+v", patch)
	}
	if one, err := w.c.Patch(ctx, w.id, d.Links[0].Change.ID, []string{"press.go:6"}); err != nil || len(one.Edits) != 1 {
		t.Errorf("of one place: %+v, %v", one, err)
	}
	if none, err := w.c.Patch(ctx, w.id, d.Links[0].Change.ID, []string{"other.go"}); err != nil || none.Why != "none of the places named is one that can be edited" {
		t.Errorf("of none: %+v, %v", none, err)
	}
	g, err := w.c.Gate(ctx, w.id, "")
	w.ok(err)
	if want := []string{"check-fails", "undecided", "silent-risk"}; g.Open || !slices.Equal(codes(g.Reasons), want) || g.Reasons[1].Path != "/causes/C1" || !strings.HasPrefix(g.Reasons[2].Path, "/notes?change=") {
		t.Errorf("%+v", g)
	}
	branch, err := w.c.Gate(ctx, w.id, "main")
	w.ok(err)
	if want := []string{"brought", "brought"}; branch.Open || !slices.Equal(codes(branch.Reasons), want) || branch.Reasons[0].Path != "/compare/1/2" {
		t.Errorf("of the branch: %+v", branch)
	}
	seen := int64(0)
	_, err = w.c.Decide(ctx, w.id, "C1", api.NewDecision{Kind: "fix", Reason: "call Open", Seen: &seen})
	w.ok(err)
	run := w.record(api.RunFacts{Check: "build", Commit: "cccc0000", Branch: "jar-5", Commits: []api.NewCommit{{ID: "cccc0000", Subject: "Call Open", Author: "Mirja"}}}, "", map[string]string{"go.mod": goMod5, "press.go": pressed})
	if run.Delta == nil || !slices.Equal(run.Delta.Proved, []string{"C1"}) || !slices.Equal(run.Delta.Cleared, []string{"C1"}) {
		t.Errorf("%+v", run.Delta)
	}
	g, err = w.c.Gate(ctx, w.id, "")
	w.ok(err)
	if len(g.Reasons) != 1 || g.Reasons[0].Code != "silent-risk" || g.Reasons[0].Key == "" {
		t.Fatalf("%+v", g)
	}
	word, err := w.c.Vouch(ctx, w.id, api.NewWord{About: g.Reasons[0].Key, Reason: "grams are whole"})
	w.ok(err)
	if g, err = w.c.Gate(ctx, w.id, ""); err != nil || !g.Open || len(g.Vouched) != 1 || g.Vouched[0].Word != "grams are whole" || g.Vouched[0].Author != "keeper" {
		t.Errorf("%+v, %v", g, err)
	}
	w.ok(w.c.TakeWordBack(ctx, w.id, word.ID))
	if g, err = w.c.Gate(ctx, w.id, ""); err != nil || g.Open {
		t.Errorf("the word is taken back: %+v, %v", g, err)
	}
	o, err := w.c.Overview(ctx, w.id)
	w.ok(err)
	if o.Counts.Cleared != 1 || o.Counts.Open != 0 || len(o.Checks) != 1 || o.Checks[0].Latest.Number != 3 || len(o.History) != 2 || o.Pending != 0 {
		t.Errorf("%+v", o)
	}
	rows, err := w.c.Upgrades(ctx)
	w.ok(err)
	if len(rows) != 1 || rows[0].Runs != 3 || rows[0].CausesLeft != 0 || rows[0].LastRun == nil || !slices.Equal(rows[0].History, []int{1, 0}) {
		t.Errorf("%+v", rows)
	}
}

func TestWhatDiffersBetweenRuns(t *testing.T) {
	w := bumped(t)
	ctx := t.Context()
	c, err := w.c.Compare(ctx, w.id, 1, 2)
	w.ok(err)
	if len(c.Symptoms) != 2 || c.Symptoms[0].State != "new" || c.Symptoms[0].Places[0].Input != "build.log" || c.Symptoms[0].Places[0].Run != 2 || c.Earlier.Number != 1 {
		t.Errorf("%+v", c)
	}
	if c, err = w.c.Compare(ctx, w.id, 2, 1); err != nil || len(c.Symptoms) != 2 || c.Symptoms[0].State != "absent" {
		t.Errorf("the other way: %+v, %v", c, err)
	}
	shown, err := w.c.RunSymptoms(ctx, w.id, 2)
	w.ok(err)
	if len(shown) != 2 || shown[0].Cause != "C1" || shown[0].From != 2 || shown[0].Basis != "tool" || shown[0].Guess {
		t.Errorf("%+v", shown)
	}
	r, err := w.c.Review(ctx, w.id, "")
	w.ok(err)
	if len(r.Hunks) != 1 || r.Hunks[0].File != "go.mod" {
		t.Errorf("since the baseline: %+v", r)
	}
	if r, err = w.c.Review(ctx, w.id, "bbbb"); err != nil || !strings.HasPrefix(r.Of, "bbbb Move to jar 5") {
		t.Errorf("of a commit: %+v, %v", r, err)
	}
	r, err = w.c.ReviewDiff(ctx, w.id, api.DiffText{Of: "mine", Diff: "--- a/press.go\n+++ b/press.go\n@@ -5,3 +5,3 @@ func press() {\n func press() {\n-\tjar.OpenLid(3)\n+\tjar.Open(3)\n \tjar.OpenLid(4)\n"})
	w.ok(err)
	if len(r.Hunks) != 1 || r.Hunks[0].Standing != "asked" || len(r.Hunks[0].Asks) == 0 || r.Clean || len(r.Edits) == 0 {
		t.Errorf("an edit that the notes ask for, half done: %+v", r)
	}
	found, err := w.c.Find(ctx, w.id, "press.go")
	w.ok(err)
	if len(found) == 0 || found[0].Kind != "file" || found[0].Key != "C1" {
		t.Errorf("%+v", found)
	}
	commits, err := w.c.Commits(ctx, w.id)
	w.ok(err)
	if len(commits) != 1 || !slices.Equal(commits[0].Opened, []string{"C1"}) || commits[0].Author != "Mirja" {
		t.Errorf("%+v", commits)
	}
	table, err := w.c.Tests(ctx, w.id)
	w.ok(err)
	if len(table.Runs) != 0 || table.Tests == nil {
		t.Errorf("%+v", table)
	}
	events, err := w.c.Activity(ctx, w.id, 3)
	w.ok(err)
	if len(events) != 3 || events[0].Kind != "processed" || events[0].Run != 2 {
		t.Errorf("%+v", events)
	}
}

func TestCorrectionsAndChanges(t *testing.T) {
	w := bumped(t)
	ctx := t.Context()
	d, err := w.c.Cause(ctx, w.id, "C1")
	w.ok(err)
	made, err := w.c.Correct(ctx, w.id, api.NewCorrection{Kind: "split", Cause: "C1", Symptoms: []string{d.Symptoms[1].ID}, Reason: "another"})
	w.ok(err)
	if made.Cause != "C2" || made.Author != "keeper" {
		t.Errorf("%+v", made)
	}
	w.waitFor(func() bool { causes, err := w.c.Causes(ctx, w.id); return err == nil && len(causes) == 2 })
	if _, err := w.c.Correct(ctx, w.id, api.NewCorrection{Kind: "merge", From: "C1", Cause: "C1"}); err == nil || !strings.Contains(err.Error(), "C1 cannot be merged into itself") {
		t.Errorf("%v", err)
	}
	w.ok(w.c.UndoCorrection(ctx, w.id, made.ID))
	w.waitFor(func() bool {
		causes, err := w.c.Causes(ctx, w.id)
		return err == nil && len(slices.DeleteFunc(causes, func(c api.Cause) bool { return c.Status == "cleared" })) == 1
	})
	list, err := w.c.Corrections(ctx, w.id)
	w.ok(err)
	if len(list) != 1 || !list[0].Undone {
		t.Errorf("%+v", list)
	}
	id := d.Links[0].Change.ID
	judged, err := w.c.JudgeLink(ctx, w.id, "C1", id, api.LinkJudgement{State: "rejected", Was: "proposed"})
	w.ok(err)
	if judged.Cause.Link != nil && judged.Cause.Link.Change.ID == id {
		t.Errorf("%+v", judged.Cause.Link)
	}
	later, kind := api.ChangeWordState("later"), api.ChangeWordKind("behaviour")
	change, err := w.c.SayOfChange(ctx, w.id, id, api.ChangeWord{State: &later, Kind: &kind, Renames: &[]api.Rename{{From: "a", To: "b"}}, Reason: "after the harvest"})
	w.ok(err)
	if change.Row.State != "later" || change.Row.Author != "keeper" || len(change.Words) != 1 || change.Words[0].Renames[0].To != "b" || !change.Row.Corrected {
		t.Errorf("%+v", change)
	}
	added, err := w.c.AddChange(ctx, w.id, api.NewChange{Title: "`jar.Label` is gone", Kind: "removed", Package: "example.org/jar", Version: "5.0.0"})
	w.ok(err)
	if !added.Row.Added || added.Row.Change.Kind != "removed" {
		t.Errorf("%+v", added)
	}
	rows, err := w.c.Changes(ctx, w.id)
	w.ok(err)
	if len(rows) != 3 {
		t.Errorf("%+v", rows)
	}
	lines, err := w.c.NotesLines(ctx, w.id, change.Row.Change.NotesID, 5, 1)
	w.ok(err)
	if len(lines) != 1 || !strings.Contains(lines[0], "OpenLid") {
		t.Errorf("%q", lines)
	}
}

// waitFor waits until the service has drawn what was asked for.
func (w *workday) waitFor(drawn func() bool) {
	w.t.Helper()
	for end := time.Now().Add(time.Minute); time.Now().Before(end); time.Sleep(50 * time.Millisecond) {
		if drawn() {
			return
		}
	}
	w.t.Fatal("it is never drawn")
}

func TestEditByExampleAndCasebook(t *testing.T) {
	w := bumped(t)
	ctx := t.Context()
	d, err := w.c.Cause(ctx, w.id, "C1")
	w.ok(err)
	change := d.Links[0].Change.ID
	p, err := w.c.PatchByExample(ctx, w.id, api.Examples{Change: change, Keep: true, Examples: []api.Example{{From: "jar.OpenLid(3)", To: "jar.Open(3)"}}})
	w.ok(err)
	if !p.Kept || len(p.Edits) != 2 {
		t.Errorf("%+v", p)
	}
	if _, err := w.c.PatchByExample(ctx, w.id, api.Examples{Examples: []api.Example{{From: "a(", To: ""}}}); err == nil {
		t.Error("an example that is no code is taken")
	}
	if again, err := w.c.Patch(ctx, w.id, change, nil); err != nil || !again.Kept {
		t.Errorf("it is kept: %+v, %v", again, err)
	}
	_, err = w.c.DecideAll(ctx, w.id, []string{"C1"}, api.NewDecision{Kind: "accept", Reason: "no lids"})
	w.ok(err)
	book, err := w.c.Casebook(ctx, false)
	w.ok(err)
	if len(book.Cases) != 1 || book.Cases[0].Project != "" || len(book.Templates) != 1 || book.Templates[0].Shape == "" {
		t.Errorf("%+v", book)
	}
	if private, err := w.c.Casebook(ctx, true); err != nil || private.Cases[0].Project != "shelf" || private.Cases[0].Reason != "no lids" {
		t.Errorf("%+v, %v", private, err)
	}
	other, err := w.c.Begin(ctx, api.NewUpgrade{Project: "press", Name: "jar 5", Moves: []api.Move{{Package: "example.org/jar", From: "4.2.0", To: "5.0.0"}}})
	w.ok(err)
	next := &workday{t: t, s: w.s, c: w.c, id: other.ID}
	next.record(api.RunFacts{Check: "build", Commit: "dddd"}, "", map[string]string{"press.go": press})
	_, err = w.c.AcceptBaseline(ctx, other.ID)
	w.ok(err)
	next.record(api.RunFacts{Check: "build", Commit: "eeee", Exit: 1}, lids, map[string]string{"press.go": press})
	d, err = w.c.Cause(ctx, other.ID, "C1")
	w.ok(err)
	if len(d.Cases) != 1 || d.Cases[0].Decision != "accept" || len(d.Elsewhere) != 1 || d.Elsewhere[0].Project != "shelf" {
		t.Errorf("how it went elsewhere: %+v and %+v", d.Cases, d.Elsewhere)
	}
}

func TestRouteDebtsAndStories(t *testing.T) {
	w := bumped(t)
	ctx := t.Context()
	list, err := w.c.Preparation(ctx, w.id)
	w.ok(err)
	done := map[string]bool{}
	for _, p := range list {
		done[p.Key] = p.Done
	}
	if !done["baseline"] || !done["clean"] || !done["notes"] || done["branch"] || done["backup"] {
		t.Errorf("%+v", list)
	}
	debt, err := w.c.AddDebt(ctx, w.id, api.NewDebt{Kind: "shim", Text: "the old lid", Due: "2001-01-01", File: "press.go", Code: "\tjar.Weigh()"})
	w.ok(err)
	detail, err := w.c.Debt(ctx, w.id, debt.ID)
	w.ok(err)
	if !debt.IsDue || detail.Line != 8 || !strings.Contains(detail.Patch, "-\tjar.Weigh()") {
		t.Errorf("%+v and %+v", debt, detail)
	}
	if o, err := w.c.Overview(ctx, w.id); err != nil || len(o.Due) != 1 {
		t.Errorf("%+v, %v", o.Due, err)
	}
	if found, err := w.c.FoundDebts(ctx, w.id); err != nil || found == nil || len(found) != 0 {
		t.Errorf("%+v, %v", found, err)
	}
	paid, err := w.c.SettleDebt(ctx, w.id, debt.ID, api.Settlement{How: "it is out"})
	w.ok(err)
	if !paid.Settled || paid.How != "it is out" {
		t.Errorf("%+v", paid)
	}
	leg, err := w.c.ChangeRoute(ctx, w.id, api.NewLeg{Kind: "plan", Moves: []api.Move{{Package: "example.org/jar", From: "5.0.0", To: "6.0.0"}}})
	w.ok(err)
	if leg.Number != 2 || leg.Status != "planned" {
		t.Errorf("%+v", leg)
	}
	if _, err := w.c.ProposeRoute(ctx, w.id); err != nil {
		t.Error(err)
	}
	if leg, err = w.c.ChangeRoute(ctx, w.id, api.NewLeg{Kind: "next", Reason: "the rest is known"}); err != nil || leg.Status != "current" {
		t.Errorf("%+v, %v", leg, err)
	}
	legs, err := w.c.Legs(ctx, w.id)
	w.ok(err)
	if len(legs) != 2 || legs[0].Status != "done" || legs[0].Reason != "the rest is known" || legs[0].Left != 1 {
		t.Errorf("%+v", legs)
	}
	for _, story := range []string{"today", "pull-request", "closing"} {
		for format, says := range map[string]string{"markdown": "jar", "html": "<html"} {
			if text, err := w.c.Story(ctx, w.id, story, format); err != nil || !strings.Contains(string(text), says) {
				t.Errorf("%s as %s: %.200s, %v", story, format, text, err)
			}
		}
	}
	pruned, err := w.c.Prune(ctx, api.Prune{Keep: new(int64)})
	w.ok(err)
	if pruned.Left == 0 {
		t.Errorf("what is needed stays: %+v", pruned)
	}
	w.waitFor(func() bool { return w.c.Delete(ctx, w.id) == nil }) // once its runs are processed
	if _, err := w.c.Overview(ctx, w.id); err == nil || !strings.Contains(err.Error(), "not found") {
		t.Errorf("%v", err)
	}
	deeds, err := w.c.Deeds(ctx)
	w.ok(err)
	if len(deeds) != 2 {
		t.Errorf("%+v", deeds)
	}
}

// TestFollow holds that followers are told of what happens, as it happens.
func TestFollow(t *testing.T) {
	w := begins(t)
	told := make(chan bool, 100)
	go w.c.Follow(t.Context(), w.id, func() { told <- true })
	for end := time.After(10 * time.Second); ; {
		_, err := w.c.AddDebt(t.Context(), w.id, api.NewDebt{Kind: "shim", Text: "x", Due: "2031-01-01"})
		w.ok(err)
		select {
		case <-told:
			return
		case <-end:
			t.Fatal("nobody was told")
		case <-time.After(100 * time.Millisecond): // the listener was not there yet
		}
	}
}
