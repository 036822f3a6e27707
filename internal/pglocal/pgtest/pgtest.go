// Package pgtest gives tests databases of their own, on one PostgreSQL for each test binary.
package pgtest

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"os"
	"strings"
	"sync/atomic"
	"testing"

	_ "github.com/jackc/pgx/v5/stdlib" // the driver

	"unicausa/internal/pglocal"
)

// server is the address of the PostgreSQL, while Main runs.
var server string

// Main starts a PostgreSQL, runs the tests and stops it. It is what TestMain calls, and gives
// its exit status.
func Main(m *testing.M) int {
	ctx := context.Background()
	folder, err := os.MkdirTemp("", "unicausa-test")
	if err == nil {
		defer os.RemoveAll(folder)
		err = os.Chmod(folder, 0o755) // the database's user goes through it
	}
	var pg *pglocal.Server
	if err == nil {
		pg, err = pglocal.Start(ctx, folder)
	}
	if err != nil {
		fmt.Fprintln(os.Stderr, "pgtest:", err)
		return 1
	}
	defer pg.Stop(ctx)
	if err := Hurry(pg.URL); err != nil {
		fmt.Fprintln(os.Stderr, "pgtest:", err)
		return 1
	}
	server = pg.URL
	return m.Run()
}

// Hurry has a PostgreSQL not wait for the disk: nobody misses its records after a crash of the
// machine.
func Hurry(url string) error {
	db, err := sql.Open("pgx", url)
	if err != nil {
		return err
	}
	defer db.Close()
	for _, q := range []string{`ALTER SYSTEM SET fsync = off`, `ALTER SYSTEM SET synchronous_commit = off`, `ALTER SYSTEM SET full_page_writes = off`, `SELECT pg_reload_conf()`} {
		if _, err := db.Exec(q); err != nil {
			return fmt.Errorf("%s: %w", q, err)
		}
	}
	return nil
}

var made atomic.Int64

// Database makes a database, like one that is there already or, with "", empty. It gives its
// address and a pool of connections to it, which end with the test.
func Database(t *testing.T, template string) (url string, db *sql.DB) {
	t.Helper()
	if template == "" {
		template = "template1"
	}
	name := fmt.Sprintf("test%d", made.Add(1))
	admin, err := sql.Open("pgx", server)
	if err == nil {
		_, err = admin.Exec(`CREATE DATABASE ` + name + ` TEMPLATE ` + template)
		admin.Close()
	}
	url = strings.Replace(server, "/postgres?", "/"+name+"?", 1)
	db, opened := sql.Open("pgx", url)
	if err = errors.Join(err, opened); err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { db.Close() })
	return url, db
}

// Name is the name of the database at an address.
func Name(url string) string {
	rest, _, _ := strings.Cut(url, "?")
	return rest[strings.LastIndexByte(rest, '/')+1:]
}
