package e2e

import (
	"database/sql"
	"fmt"
	"io"
	"log/slog"
	"net/http/httptest"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"unicausa/internal/api"
	"unicausa/internal/client"
	"unicausa/internal/service"
)

// alone is a client of a service on a database of its own.
func alone(t *testing.T, name string) *client.Client {
	t.Helper()
	execute(t, db(t), `CREATE DATABASE `+name)
	return serviceOn(t, name)
}

// serviceOn is a client of one more service on a database of the tests' server.
func serviceOn(t *testing.T, name string) *client.Client {
	t.Helper()
	s, err := service.Start(t.Context(), service.Config{
		Database: strings.Replace(database, "/postgres", "/"+name, 1), MaxUpload: 512 << 20, Token: token, User: "keeper", Log: slog.New(slog.NewTextHandler(io.Discard, nil)),
	})
	if err != nil {
		t.Fatal(err)
	}
	h := httptest.NewServer(s.Handler())
	t.Cleanup(func() { h.Close(); s.Stop(t.Context()) })
	c, err := client.New(h.URL, token)
	if err != nil {
		t.Fatal(err)
	}
	return c
}

// bumped is an upgrade with a baseline and two runs since that fail.
func bumped(t *testing.T, c *client.Client, name string) (upgrade int64) {
	t.Helper()
	u, err := c.Begin(t.Context(), api.NewUpgrade{Project: "shelf", Name: name, Moves: []api.Move{{Package: "jar", From: "4", To: "5"}}})
	if err != nil {
		t.Fatal(err)
	}
	for i, output := range []string{"ok\n", "a.c:1:1: error: unknown type name 'lid'\n", "a.c:1:1: error: unknown type name 'lid'\nb.c:2:2: error: unknown type name 'cap'\n"} {
		run, err := c.Record(t.Context(), u.ID, api.RunFacts{Check: "build", Exit: min(i, 1), StartedAt: time.Now(), Commit: fmt.Sprint("c", i)}, []client.Input{{Name: "build.log", Content: strings.NewReader(output)}}, nil, nil)
		if err == nil {
			_, err = c.Processed(t.Context(), u.ID, run.Number)
		}
		if err == nil && i == 0 {
			_, err = c.AcceptBaseline(t.Context(), u.ID)
		}
		if err != nil {
			t.Fatal(err)
		}
	}
	return u.ID
}

// TestBackup holds that what was backed up is there again after everything else changed,
// with its causes and its raw output, and that what is no backup changes nothing.
func TestBackup(t *testing.T) {
	c := alone(t, "backed_up")
	t.Setenv("UNICAUSA_SERVER", c.Server())
	kept := bumped(t, c, "jar 5")
	before, err := c.Causes(t.Context(), kept)
	if err != nil || len(before) != 2 {
		t.Fatalf("there are %d causes (%v)", len(before), err)
	}
	file := filepath.Join(t.TempDir(), "all.backup")
	want(t, 0, []string{"all.backup: "}, "backup", file)
	want(t, 2, []string{"is there already"}, "backup", file)
	gone := bumped(t, c, "jar 6")
	want(t, 0, []string{"is deleted"}, "delete", "--upgrade", fmt.Sprint(kept), "--yes")
	if _, err := c.Runs(t.Context(), kept); err == nil {
		t.Error("a deleted upgrade has runs")
	}
	if _, err := c.Runs(t.Context(), gone); err != nil {
		t.Errorf("another one is gone, too: %v", err)
	}
	want(t, 2, []string{"--yes"}, "restore", file)
	nothing := filepath.Join(t.TempDir(), "no.backup")
	if err := os.WriteFile(nothing, []byte("no backup"), 0o644); err != nil {
		t.Fatal(err)
	}
	want(t, 2, []string{"this is no backup"}, "restore", nothing, "--yes")
	want(t, 0, []string{"restored and checked: 1 upgrade, 3 runs"}, "restore", file, "--yes")
	after, err := c.Causes(t.Context(), kept)
	if err != nil || len(after) != 2 || after[0].Title != before[0].Title {
		t.Errorf("afterwards there are %+v (%v)", after, err)
	}
	if _, err := c.Runs(t.Context(), gone); err == nil {
		t.Error("what came after the backup is there still")
	}
	run, err := c.Record(t.Context(), kept, api.RunFacts{Check: "build", StartedAt: time.Now()}, []client.Input{{Name: "build.log", Content: strings.NewReader("ok\n")}}, nil, nil)
	if err == nil {
		run, err = c.Processed(t.Context(), kept, run.Number)
	}
	if err != nil || run.Status != "processed" || run.Number != 4 {
		t.Errorf("a run after restoring is %+v (%v)", run, err)
	}
}

// TestPrune holds that old raw output goes and what was read of it stays.
func TestPrune(t *testing.T) {
	c := alone(t, "pruned")
	t.Setenv("UNICAUSA_SERVER", c.Server())
	upgrade := bumped(t, c, "jar 5")
	want(t, 2, []string{"without a bound"}, "prune")
	want(t, 0, []string{"the raw output of 0 runs was let go"}, "prune", "--older-than", "1")
	want(t, 0, []string{"the raw output of 1 run was let go"}, "prune", "--older-than", "0")
	runs, err := c.Runs(t.Context(), upgrade)
	if err != nil || len(runs) != 3 || runs[1].Symptoms != 1 {
		t.Fatalf("the runs are %+v (%v)", runs, err)
	}
	lines := func(input int64) int {
		status, _, _ := callAt(t, c.Server(), fmt.Sprintf("/api/v1/upgrades/%d/inputs/%d/lines", upgrade, input))
		return status
	}
	for n, want := range []int{200, 410, 200} { // the latest first; the baseline keeps its own
		if got := lines(runs[n].Inputs[0].ID); got != want {
			t.Errorf("the output of run %d gives %d, want %d", runs[n].Number, got, want)
		}
	}
	if causes, err := c.Causes(t.Context(), upgrade); err != nil || len(causes) != 2 {
		t.Errorf("there are %d causes (%v)", len(causes), err)
	}
	events, err := c.Activity(t.Context(), upgrade, 5)
	if err != nil || !strings.Contains(fmt.Sprint(events), "the raw output of 1 run was let go") {
		t.Errorf("the events are %+v (%v)", events, err)
	}
}

// callAt asks a service of its own address.
func callAt(t *testing.T, address, path string) (status int, kind, text string) {
	t.Helper()
	shared := server
	server = address
	defer func() { server = shared }()
	return call(t, "GET", path, "", "")
}

// TestPartitions parts the tables that grow, as docs/partitions.sql does, and holds that
// records stay and that an upgrade runs on them from its first run to its deletion.
func TestPartitions(t *testing.T) {
	c := alone(t, "parted")
	before := bumped(t, c, "jar 5")
	parted, err := sql.Open("pgx", strings.Replace(database, "/postgres", "/parted", 1))
	if err != nil {
		t.Fatal(err)
	}
	defer parted.Close()
	script, err := os.ReadFile("../docs/partitions.sql")
	if err != nil {
		t.Fatal(err)
	}
	execute(t, parted, string(script))
	c = serviceOn(t, "parted") // plans of before do not hold any more
	after := bumped(t, c, "jar 6")
	for _, upgrade := range []int64{before, after} {
		causes, err := c.Causes(t.Context(), upgrade)
		if err != nil || len(causes) != 2 {
			t.Fatalf("upgrade %d has %d causes (%v)", upgrade, len(causes), err)
		}
		detail, err := c.Cause(t.Context(), upgrade, "C1")
		if err != nil || len(detail.Symptoms) != 1 || len(detail.Symptoms[0].Places) == 0 {
			t.Errorf("upgrade %d: the cause is %+v (%v)", upgrade, detail, err)
		}
		if events, err := c.Activity(t.Context(), upgrade, 50); err != nil || len(events) < 5 {
			t.Errorf("upgrade %d has %d events (%v)", upgrade, len(events), err)
		}
	}
	var parts int
	err = parted.QueryRow(`SELECT count(DISTINCT tableoid) FROM (SELECT tableoid FROM finding UNION ALL SELECT tableoid FROM chunk UNION ALL SELECT tableoid FROM event) AS rows`).Scan(&parts)
	if err != nil || parts < 6 {
		t.Errorf("the rows of two upgrades stand in %d parts (%v)", parts, err)
	}
	if err := c.Delete(t.Context(), after); err != nil {
		t.Fatal(err)
	}
	var left int
	if err := parted.QueryRow(`SELECT (SELECT count(*) FROM finding WHERE upgrade_id = $1) + (SELECT count(*) FROM chunk WHERE upgrade_id = $1)`, after).Scan(&left); err != nil || left != 0 {
		t.Errorf("%d rows of a deleted upgrade are left (%v)", left, err)
	}
}
