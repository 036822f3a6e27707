package service

import (
	"context"
	"io"
	"log/slog"
	"os"
	"slices"
	"strings"
	"testing"
	"time"

	"unicausa/internal/core/analysis"
	"unicausa/internal/core/guard"
	"unicausa/internal/core/notes"
	"unicausa/internal/core/versions"
	"unicausa/internal/pglocal/pgtest"
	"unicausa/internal/store"
)

func TestMain(m *testing.M) { os.Exit(pgtest.Main(m)) }

// serving is a service on a database of its own.
func serving(t *testing.T) *Service {
	t.Helper()
	url, _ := pgtest.Database(t, "")
	s, err := Start(t.Context(), Config{Database: url, MaxUpload: 1 << 20, Token: "service", User: "keeper", Version: "this", Log: slog.New(slog.NewTextHandler(io.Discard, nil))})
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { s.Stop(context.WithoutCancel(t.Context())) })
	return s
}

// recorded records a run of one output, and waits until nothing waits any more.
func recorded(t *testing.T, s *Service, upgrade int64, check, output string) store.Run {
	t.Helper()
	spool, err := store.NewSpool(store.RunFacts{Check: check, Exit: 1, StartedAt: time.Now()})
	if err != nil {
		t.Fatal(err)
	}
	defer spool.Close()
	if err := spool.Input(check+".log", strings.NewReader(output)); err != nil {
		t.Fatal(err)
	}
	run, _, err := s.store.Record(t.Context(), upgrade, spool)
	if err != nil {
		t.Fatal(err)
	}
	for range 600 {
		if run, err = s.store.Run(t.Context(), upgrade, run.Number); err != nil || run.Status != "stored" {
			break
		}
		time.Sleep(50 * time.Millisecond)
	}
	if err != nil {
		t.Fatal(err)
	}
	return run
}

// TestSetAside holds that a panic over a run sets that run aside, and one over
// a document the document; each is kept with the reason, and what comes behind
// it is processed.
func TestSetAside(t *testing.T) {
	s := serving(t)
	s.worker.leg = func(a *store.Analysis, run *analysis.Run) error {
		if run != nil && run.Check == "poison" {
			panic("lid is stuck")
		}
		changes, err := a.Changes()
		if slices.ContainsFunc(changes, func(c notes.Change) bool { return c.Notes == "poison.md" }) {
			defer guard.Name(func() []string { return []string{"a.go", "poison.md"} })
			panic("cap is stuck")
		}
		if err != nil {
			return err
		}
		return advance(a, run)
	}
	u, err := s.store.Begin(t.Context(), "shelf", "jar 5", []versions.Move{{Package: "jar", From: "4", To: "5"}})
	if err != nil {
		t.Fatal(err)
	}
	const reason = "cannot be processed, which is a defect of Unicausa: "
	if run := recorded(t, s, u.ID, "poison", "x\n"); run.Status != "failed" || !strings.Contains(run.Problem, reason+"lid is stuck") {
		t.Errorf("the run that panics is %s: %s", run.Status, run.Problem)
	}
	if run := recorded(t, s, u.ID, "build", "a.c:1:1: error: no\n"); run.Status != "processed" || run.Symptoms != 1 {
		t.Errorf("the run behind it is %s with %d symptoms: %s", run.Status, run.Symptoms, run.Problem)
	}
	for _, name := range []string{"poison.md", "jar.md"} {
		text := "## 5.0.0\n\n- `OpenLid` is gone\n"
		if _, err := s.store.AddNotes(t.Context(), u.ID, store.NewNotes{Name: name, Package: "jar", Text: text}, notes.Read(name, "jar", []byte(text)), nil); err != nil {
			t.Fatal(err)
		}
	}
	if run := recorded(t, s, u.ID, "test", "b.c:1:1: error: no\n"); run.Status != "processed" {
		t.Errorf("a run beside a document that panics is %s: %s", run.Status, run.Problem)
	}
	list, err := s.store.Notes(t.Context(), u.ID)
	if err != nil || len(list) != 2 || !strings.Contains(list[0].Problem, "a.go, within poison.md "+reason+"cap is stuck") || list[1].Problem != "" {
		t.Errorf("the documents are %+v (%v)", list, err)
	}
	changes, err := s.store.Changes(t.Context(), u.ID)
	if err != nil || len(changes) != 1 || changes[0].Change.Notes != "jar.md" {
		t.Errorf("the changes are %+v (%v)", changes, err)
	}
}
