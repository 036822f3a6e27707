package store

import (
	"errors"
	"fmt"
	"io/fs"
	"strings"
	"testing"
	"unicausa/internal/pglocal/pgtest"

	_ "github.com/jackc/pgx/v5/stdlib"
	"github.com/pressly/goose/v3"
)

// first is a run with all that belongs to it, as the first version kept it.
const first = `
	INSERT INTO project (name) VALUES ('shelf');
	INSERT INTO upgrade (project_id, name, runs) VALUES (1, 'jar 5', 1);
	INSERT INTO leg (upgrade_id, number) VALUES (1, 1);
	INSERT INTO move VALUES (1, 0, 'jar', '4', '5');
	INSERT INTO "check" (upgrade_id, name) VALUES (1, 'build');
	INSERT INTO run (leg_id, check_id, number, digest, command, commit_id, subject, dirty, exit, started_at, millis, versions, status, symptoms)
		VALUES (1, 1, 1, 'd', 'make', 'c0', 'Jars', false, 1, now(), 5, '{}', 'processed', 2);
	INSERT INTO input (run_id, ordinal, name, bytes, lines) VALUES (1, 0, 'build.log', 9, 1);
	INSERT INTO chunk VALUES (1, 0, 1, 1, $packed);
	INSERT INTO occurrence VALUES (1, 1, 1, 1, 's1', '{"kind": "error", "message": "no lid", "test": ""}'), (1, 1, 3, 3, 's1', '{"kind": "error", "message": "no lid", "test": ""}');
	INSERT INTO test_outcome VALUES (1, 1, 'shelf', 'TestLid', 'passed', 0.1);
	INSERT INTO cause (leg_id, name, signature, title, kind, phase, package, root, rank, reason, because, known, status, first_run, since_run)
		VALUES (1, 'C1', 'x', 'no lid', 'error', 'compile', '', 's1', 1, '', '[]', false, 'shown', 1, 1);
	INSERT INTO symptom (leg_id, identity, cause_id, state, status, origin, first_run, last_run, checks, facts) VALUES (1, 's1', 1, 'new', 'shown', 'bump', 1, 1, '["build"]', '{"id": "s1", "message": "no lid"}');
	INSERT INTO event (upgrade_id, kind, text) VALUES (1, 'begun', 'begun');`

// TestMigrations brings records of every released version up to date and reads them, and
// refuses those of a later one.
func TestMigrations(t *testing.T) {
	files, err := fs.Sub(migrations, "migrations")
	if err != nil {
		t.Fatal(err)
	}
	packed := fmt.Sprintf(`'\x%x'`, encoder.EncodeAll([]byte("no lid.\n\n"), nil))
	for version := int64(1); version <= Known(); version++ {
		url, db := pgtest.Database(t, "")
		provider, err := goose.NewProvider(goose.DialectPostgres, db, files)
		if err != nil {
			t.Fatal(err)
		}
		if _, err := provider.UpTo(t.Context(), 1); err != nil {
			t.Fatal(err)
		}
		if _, err := db.Exec(strings.Replace(first, "$packed", packed, 1)); err != nil {
			t.Fatal(err)
		}
		if _, err := provider.UpTo(t.Context(), version); err != nil {
			t.Fatalf("to version %d: %v", version, err)
		}
		s, err := Open(t.Context(), url, 4)
		if err != nil {
			t.Fatalf("from version %d: %v", version, err)
		}
		run, err := s.Run(t.Context(), 1, 1)
		if err != nil || run.Symptoms != 2 || run.Facts.Check != "build" {
			t.Errorf("from version %d the run is %+v (%v)", version, run, err)
		}
		symptoms, err := s.RunSymptoms(t.Context(), 1, 1)
		if err != nil || len(symptoms) != 2 || symptoms[1].From != 3 || symptoms[0].Cause != "C1" || symptoms[0].Message != "no lid" {
			t.Errorf("from version %d the symptoms are %+v (%v)", version, symptoms, err)
		}
		lines, err := s.InputLines(t.Context(), 1, run.Inputs[0].ID, 1, 5)
		if err != nil || len(lines.Lines) == 0 || lines.Lines[0] != "no lid." {
			t.Errorf("from version %d the lines are %+v (%v)", version, lines, err)
		}
		if kept, err := s.Verify(t.Context()); err != nil || kept.Runs != 1 || kept.Bytes != 9 {
			t.Errorf("from version %d there is %+v (%v)", version, kept, err)
		}
		cause, err := s.Cause(t.Context(), 1, "C1")
		if err != nil || len(cause.Symptoms) != 1 || len(cause.Symptoms[0].Places) != 2 {
			t.Errorf("from version %d the cause is %+v (%v)", version, cause, err)
		}
		if table, err := s.Tests(t.Context(), 1); err != nil || len(table.Tests) != 1 {
			t.Errorf("from version %d the tests are %+v (%v)", version, table, err)
		}
		s.Close()
	}
	url, db := pgtest.Database(t, "")
	s, err := Open(t.Context(), url, 4)
	if err != nil {
		t.Fatal(err)
	}
	s.Close()
	if _, err := db.Exec(`INSERT INTO goose_db_version (version_id, is_applied) VALUES ($1, true)`, Known()+1); err != nil {
		t.Fatal(err)
	}
	if _, err := Open(t.Context(), url, 4); !errors.Is(err, ErrNewer) || !strings.Contains(err.Error(), "run the program that made them") {
		t.Errorf("records of a later version give %v", err)
	}
}
