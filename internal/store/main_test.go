package store

import (
	"context"
	"database/sql"
	"errors"
	"os"
	"strings"
	"sync"
	"testing"
	"time"

	_ "github.com/jackc/pgx/v5/stdlib"

	"unicausa/internal/core/analysis"
	"unicausa/internal/core/debt"
	"unicausa/internal/core/exposure"
	"unicausa/internal/core/notes"
	"unicausa/internal/core/versions"
	"unicausa/internal/pglocal/pgtest"
)

func TestMain(m *testing.M) { os.Exit(pgtest.Main(m)) }

// current is a database with the tables of today, which are made once.
var current struct {
	sync.Once
	name string
}

// records are empty records of a test's own. Work that is asked for is counted, and done by
// process.
func records(t *testing.T) *Store {
	t.Helper()
	current.Do(func() {
		url, db := pgtest.Database(t, "")
		db.Close()
		s, err := Open(t.Context(), url, 1)
		if err != nil {
			t.Fatal(err)
		}
		s.Close()
		current.name = pgtest.Name(url)
	})
	url, _ := pgtest.Database(t, current.name)
	s, err := Open(t.Context(), url, 4)
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(s.Close)
	s.Version = "test"
	s.Enqueue = func(context.Context, *sql.Tx, int64) error { return nil }
	return s
}

// jar are the moves of the tests' upgrades.
var jar = []versions.Move{{Package: "example.org/jar", From: "4.2.0", To: "5.0.0"}}

// begun is an upgrade of shelf.
func begun(t *testing.T, s *Store, name string) int64 {
	t.Helper()
	u, err := s.Begin(t.Context(), "shelf", name, jar)
	if err != nil {
		t.Fatal(err)
	}
	return u.ID
}

// record stores a run of a check on a commit, with what it printed.
func record(t *testing.T, s *Store, upgrade int64, check, commit string, exit int, text string) Run {
	t.Helper()
	return recordFacts(t, s, upgrade, RunFacts{Check: check, Commit: commit, Exit: exit, StartedAt: time.Now()}, text)
}

func recordFacts(t *testing.T, s *Store, upgrade int64, facts RunFacts, text string) Run {
	t.Helper()
	spool, err := NewSpool(facts)
	if err == nil {
		defer spool.Close()
		err = spool.Input(facts.Check+".log", strings.NewReader(text))
	}
	if err != nil {
		t.Fatal(err)
	}
	run, fresh, err := s.Record(t.Context(), upgrade, spool)
	if err != nil || !fresh {
		t.Fatalf("recording %s: fresh %v, %v", facts.Check, fresh, err)
	}
	return run
}

// process does the work that waits for the upgrade's current leg, as the service does.
func process(t *testing.T, s *Store, upgrade int64) {
	t.Helper()
	ctx := t.Context()
	leg, err := s.leg(ctx, s.db, upgrade)
	if err != nil {
		t.Fatal(err)
	}
	for {
		a, err := s.Analyse(ctx, leg)
		if err != nil {
			t.Fatal(err)
		}
		run, err := a.Next()
		if err == nil && run == nil && !a.Asked() {
			a.Cancel()
			return
		}
		if err == nil && run != nil {
			err = readIn(a, *run)
		}
		if err == nil {
			err = drawIn(a, run)
		}
		if err == nil {
			err = a.Done(run)
		}
		if err == nil {
			err = a.Commit()
		}
		if err != nil {
			a.Cancel()
			t.Fatal(err)
		}
	}
}

func readIn(a *Analysis, run analysis.Run) error {
	tree, err := a.Tree(run.Source)
	if err != nil {
		return err
	}
	ids, outputs, err := a.Outputs(run.ID)
	if err != nil {
		return err
	}
	reading, err := analysis.Read(run, tree, outputs, jar)
	if err != nil {
		return err
	}
	return a.SaveReading(run, ids, reading)
}

func drawIn(a *Analysis, run *analysis.Run) error {
	leg, err := a.Load(AnyRun)
	if err != nil || len(leg.Baseline) == 0 || len(leg.Latest) == 0 {
		return err
	}
	var by *analysis.Newest
	if run != nil {
		if by, err = a.Before(*run); err != nil {
			return err
		}
		if err := a.SaveNotices(*run, []string{"noticed"}); err != nil {
			return err
		}
	}
	before, tree, err := a.Trees()
	if err != nil {
		return err
	}
	if err := a.SaveFound(debt.Added(before, tree)); err != nil {
		return err
	}
	progress := leg.Advance(a.Context(), by)
	found := map[string]exposure.Found{}
	for _, c := range progress.Report.Changes {
		found[c.ID] = c.Exposure
	}
	return errors.Join(a.SaveExposure(found), a.Save(progress))
}

const jarNotes = "# Jar 5\n\n## 5.0.0\n\n- `jar.Lid` was removed; use `jar.Cover`.\n- `jar.Spoon` was renamed to `jar.Ladle`.\n- Jars close by default.\n"

// broken is an upgrade whose build misses two names: C1 is jar.Lid, in two places, and C2
// jar.Spoon. Its tests pass.
func broken(t *testing.T, s *Store, name string) int64 {
	t.Helper()
	u := begun(t, s, name)
	if _, err := s.AddNotes(t.Context(), u, NewNotes{Name: "NOTES.md", Package: "example.org/jar", Text: jarNotes}, notes.Read("NOTES.md", "example.org/jar", []byte(jarNotes)), nil); err != nil {
		t.Fatal(err)
	}
	record(t, s, u, "build", "c0", 0, "")
	record(t, s, u, "test", "c0", 0, "=== RUN   TestPress\n--- PASS: TestPress (0.01s)\nPASS\nok  \tshelf\t0.01s\n")
	process(t, s, u)
	if _, err := s.AcceptBaseline(t.Context(), u, "Mirja"); err != nil {
		t.Fatal(err)
	}
	record(t, s, u, "build", "c1", 1, "# shelf\npress.go:7:2: undefined: jar.Lid\npress.go:8:2: undefined: jar.Lid\nspoon.go:9:2: undefined: jar.Spoon\n")
	process(t, s, u)
	return u
}
