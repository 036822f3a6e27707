package e2e

import (
	"context"
	"database/sql"
	"encoding/json"
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	_ "github.com/jackc/pgx/v5/stdlib"

	"unicausa/internal/api"
	"unicausa/internal/client"
	"unicausa/internal/core/source/sourcetest"
	"unicausa/internal/pglocal"
)

// db is a connection of the tests' own to the shared database.
func db(t *testing.T) *sql.DB {
	t.Helper()
	d, err := sql.Open("pgx", database)
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { d.Close() })
	return d
}

// execute runs one statement.
func execute(t *testing.T, d *sql.DB, query string, args ...any) {
	t.Helper()
	if _, err := d.ExecContext(t.Context(), query, args...); err != nil {
		t.Fatal(err)
	}
}

// hold takes the lock of an upgrade, as another service that works on it
// does, until the function that it gives is called.
func hold(t *testing.T, d *sql.DB, upgrade int64) (release func()) {
	t.Helper()
	tx, err := d.BeginTx(t.Context(), nil)
	if err != nil {
		t.Fatal(err)
	}
	if _, err := tx.ExecContext(t.Context(), `SELECT pg_advisory_xact_lock(7236, $1::int)`, upgrade); err != nil {
		t.Fatal(err)
	}
	return func() { tx.Rollback() }
}

// send records a run without waiting for it to be processed.
func send(t *testing.T, c *client.Client, upgrade int64, check, output string) api.Run {
	t.Helper()
	run, err := c.Record(t.Context(), upgrade, api.RunFacts{Check: check, Exit: 1, StartedAt: time.Now()}, []client.Input{{Name: check + ".log", Content: strings.NewReader(output)}}, nil, nil)
	if err != nil {
		t.Fatal(err)
	}
	return run
}

// TestOneServiceAtATime holds that a run waits while another service works on
// its leg, and is processed when that is done.
func TestOneServiceAtATime(t *testing.T) {
	c, d := here(t), db(t)
	upgrade := begin(t, c, "one at a time")
	release := hold(t, d, upgrade)
	run := send(t, c, upgrade, "build", "a.c:1:1: error: no\n")
	time.Sleep(300 * time.Millisecond)
	if r, err := c.Run(t.Context(), upgrade, run.Number); err != nil || r.Status != "stored" {
		t.Errorf("while the leg is held its run is %s (%v)", r.Status, err)
	}
	release()
	if r, err := c.Processed(t.Context(), upgrade, run.Number); err != nil || r.Status != "processed" || r.Symptoms != 1 {
		t.Errorf("afterwards it is %s with %d symptoms (%v)", r.Status, r.Symptoms, err)
	}
}

// TestRunThatCannotBeProcessed holds that a run whose stored output is damaged
// is set aside with the reason, says so everywhere, and holds up nobody.
func TestRunThatCannotBeProcessed(t *testing.T) {
	c, d := here(t), db(t)
	upgrade := begin(t, c, "damaged")
	release := hold(t, d, upgrade)
	bad, good := send(t, c, upgrade, "build", "a.c:1:1: error: no\n"), send(t, c, upgrade, "test", "b.c:1:1: error: no\n")
	execute(t, d, `UPDATE chunk SET data = 'damaged' WHERE input_id IN (SELECT id FROM input WHERE run_id = $1)`, bad.ID)
	release()
	after, err := c.Processed(t.Context(), upgrade, good.Number)
	if err != nil || after.Status != "processed" || after.Symptoms != 1 {
		t.Errorf("the run behind it is %s with %d symptoms (%v)", after.Status, after.Symptoms, err)
	}
	failed, err := c.Run(t.Context(), upgrade, bad.Number)
	if err != nil || failed.Status != "failed" || failed.Problem == "" {
		t.Errorf("the damaged run is %+v (%v)", failed, err)
	}
	_, err = c.AcceptBaseline(t.Context(), upgrade)
	if err != nil {
		t.Errorf("the runs that were read can be accepted: %v", err)
	}
	events := eventsOf(t, upgrade, 4)
	if !strings.Contains(strings.Join(events, "\n"), fmt.Sprintf("run %d could not be processed", bad.Number)) {
		t.Errorf("the events are %q", events)
	}
}

// eventsOf reads the first events of an upgrade's stream.
func eventsOf(t *testing.T, upgrade int64, count int) (texts []string) {
	t.Helper()
	rows, err := db(t).QueryContext(t.Context(), `SELECT text FROM event WHERE upgrade_id = $1 ORDER BY id LIMIT $2`, upgrade, count)
	if err != nil {
		t.Fatal(err)
	}
	defer rows.Close()
	for rows.Next() {
		var text string
		if err := rows.Scan(&text); err != nil {
			t.Fatal(err)
		}
		texts = append(texts, text)
	}
	return texts
}

// TestDamagedSourceTree holds that a tree that cannot be opened costs only what
// it would have told.
func TestDamagedSourceTree(t *testing.T) {
	c, d := here(t), db(t)
	upgrade := begin(t, c, "damaged tree")
	release := hold(t, d, upgrade)
	data := sourcetest.Zip(t, map[string]string{"damaged.c": "int damaged;\n"})
	run, err := c.Record(t.Context(), upgrade, api.RunFacts{Check: "build", Exit: 1}, []client.Input{{Name: "a.log", Content: strings.NewReader("damaged.c:1:1: error: no\n")}}, data, nil)
	if err != nil {
		t.Fatal(err)
	}
	execute(t, d, `UPDATE source SET data = 'no zip' WHERE digest = (SELECT source FROM run WHERE id = $1)`, run.ID)
	release()
	if r, err := c.Processed(t.Context(), upgrade, run.Number); err != nil || r.Status != "processed" || r.Symptoms != 1 {
		t.Errorf("the run is %s with %d symptoms: %s (%v)", r.Status, r.Symptoms, r.Problem, err)
	}
}

// TestChangesOfAnEarlierVersion holds that a service which starts on records
// without exposure makes it up.
func TestChangesOfAnEarlierVersion(t *testing.T) {
	c := here(t)
	upgrade := begin(t, c, "without exposure")
	if _, err := c.AddNotes(t.Context(), upgrade, api.NewNotes{Name: "jar.md", Package: "example.org/jar", Text: jarChanges}); err != nil {
		t.Fatal(err)
	}
	withTree(t, c, upgrade, map[string]string{"a.go": "package a\n\nimport \"example.org/jar\"\n\nvar x = jar.OpenLid(nil)\n"}, "")
	row(t, c, upgrade, 5, func(r api.ChangeRow) bool { return r.Places == 1 })
	execute(t, db(t), `DELETE FROM exposure WHERE leg_id = (SELECT id FROM leg WHERE upgrade_id = $1)`, upgrade)
	row(t, c, upgrade, 5, func(r api.ChangeRow) bool { return r.Places == 0 })
	shared := server
	stop, err := start(t.Context())
	server = shared
	if err != nil {
		t.Fatal(err)
	}
	defer stop()
	row(t, c, upgrade, 5, func(r api.ChangeRow) bool { return r.Places == 1 })
}

// TestNotesAreListed holds what the service knows of an upgrade's notes.
func TestNotesAreListed(t *testing.T) {
	status, _, text := call(t, "GET", fmt.Sprintf("/api/v1/upgrades/%d/notes", upgradeOf(t, "binlabel 4")), "", "")
	var list []api.Notes
	if err := json.Unmarshal([]byte(text), &list); err != nil || status != 200 {
		t.Fatalf("%d %v: %s", status, err, text)
	}
	if len(list) != 1 || list[0].Name != "binlabel-4.md" || list[0].Package != "@orchardworks/binlabel" || list[0].Changes == 0 {
		t.Errorf("the notes are %+v", list)
	}
}

// TestDemoCommand runs make demo's command against an empty database, twice:
// the second time nothing is loaded again.
func TestDemoCommand(t *testing.T) {
	t.Parallel()
	d := db(t)
	execute(t, d, `CREATE DATABASE demo_command`)
	address := strings.Replace(database, "/postgres", "/demo_command", 1)
	if address == database {
		t.Fatalf("the database is %s", database)
	}
	data := t.TempDir()
	args := []string{"demo", "--load-only", "--listen", "127.0.0.1:0", "--database-url", address, "--data", data}
	first := want(t, 0, []string{"binlabel 4", "steelyard 4"}, args...)
	second := want(t, 0, nil, args...)
	if strings.Count(second, "\n") >= strings.Count(first, "\n") {
		t.Errorf("the second time it prints\n%s", second)
	}
	other, err := sql.Open("pgx", address)
	if err != nil {
		t.Fatal(err)
	}
	defer other.Close()
	var upgrades, runs int
	if err := other.QueryRow(`SELECT (SELECT count(*) FROM upgrade), (SELECT count(*) FROM run)`).Scan(&upgrades, &runs); err != nil || upgrades != 5 || runs < 20 {
		t.Errorf("there are %d upgrades with %d runs (%v)", upgrades, runs, err)
	}
}

// TestDemoWaits holds that a second demo waits while a first one loads.
func TestDemoWaits(t *testing.T) {
	data := t.TempDir()
	if err := os.MkdirAll(data, 0o755); err != nil {
		t.Fatal(err)
	}
	unlock, err := pglocal.Lock(filepath.Join(data, "loading"))
	if err != nil {
		t.Fatal(err)
	}
	done := make(chan int, 1)
	ctx, cancel := context.WithTimeout(t.Context(), time.Minute)
	defer cancel()
	go func() {
		status, _ := unicausa(t, "demo", "--load-only", "--listen", "127.0.0.1:0", "--database-url", database, "--data", data)
		done <- status
	}()
	select {
	case status := <-done:
		t.Errorf("it did not wait, and ended with %d", status)
	case <-time.After(time.Second):
	}
	unlock()
	select {
	case status := <-done:
		if status != 0 {
			t.Errorf("afterwards it ends with %d", status)
		}
	case <-ctx.Done():
		t.Error("it waits for ever")
	}
}
