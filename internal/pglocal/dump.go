package pglocal

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"io"
	"os"
	"os/exec"
	"path/filepath"
	"strconv"
	"strings"

	"github.com/jackc/pgx/v5/pgconn"
)

// program is one of PostgreSQL's own for a database, with where that is in its environment:
// a password has no place in the list of processes.
func program(ctx context.Context, url, name string, args ...string) (*exec.Cmd, error) {
	bin, err := findPrograms()
	if err != nil {
		return nil, err
	}
	c, err := pgconn.ParseConfig(url)
	if err != nil {
		return nil, fmt.Errorf("reading the database address: %w", err)
	}
	cmd := exec.CommandContext(ctx, filepath.Join(bin, name), args...)
	cmd.Env = append(os.Environ(), "PGHOST="+c.Host, "PGPORT="+strconv.Itoa(int(c.Port)), "PGUSER="+c.User, "PGPASSWORD="+c.Password, "PGDATABASE="+c.Database, "PGCONNECT_TIMEOUT=10")
	if c.TLSConfig == nil {
		cmd.Env = append(cmd.Env, "PGSSLMODE=disable")
	}
	return cmd, nil
}

// Dump writes all records of a database, as one moment has them, in the format that
// PostgreSQL's pg_dump calls custom.
func Dump(ctx context.Context, url string, w io.Writer) error {
	cmd, err := program(ctx, url, "pg_dump", "--format=custom", "--no-owner", "--no-privileges")
	if err != nil {
		return err
	}
	var said bytes.Buffer
	cmd.Stdout, cmd.Stderr = w, &said
	if err := cmd.Run(); err != nil {
		return fmt.Errorf("making the backup: %w\n%s", err, tail(said.Bytes(), 2000))
	}
	return nil
}

// ErrNoDump says that a file is no backup.
var ErrNoDump = errors.New("this is no backup that unicausa backup wrote")

// DumpVersion is the version of the tables in a backup.
func DumpVersion(ctx context.Context, url, file string) (int64, error) {
	cmd, err := program(ctx, url, "pg_restore", "--data-only", "--table=goose_db_version", "--file=-", file)
	if err != nil {
		return 0, err
	}
	out, err := cmd.Output()
	if err != nil {
		return 0, ErrNoDump
	}
	highest, rows := int64(-1), false
	for line := range strings.Lines(string(out)) { // COPY … (id, version_id, …) FROM stdin; then its rows
		switch fields := strings.Split(strings.TrimSpace(line), "\t"); {
		case strings.HasPrefix(line, "COPY "):
			rows = true
		case strings.HasPrefix(line, `\.`):
			rows = false
		case rows && len(fields) > 1:
			if n, err := strconv.ParseInt(fields[1], 10, 64); err == nil {
				highest = max(highest, n)
			}
		}
	}
	if highest < 0 {
		return 0, ErrNoDump
	}
	return highest, nil
}

// Restore puts a backup in the place of all records of a database, in one transaction.
func Restore(ctx context.Context, url, file string) error {
	read, err := program(ctx, url, "pg_restore", "--no-owner", "--no-privileges", "--file=-", file)
	if err != nil {
		return err
	}
	write, err := program(ctx, url, "psql", "--no-psqlrc", "--quiet", "--single-transaction", "--set=ON_ERROR_STOP=1", "--output="+os.DevNull,
		"--command=SET lock_timeout = '60s'; DROP SCHEMA public CASCADE; CREATE SCHEMA public", "--file=-")
	if err != nil {
		return err
	}
	var said bytes.Buffer
	read.Stderr, write.Stderr = &said, &said
	if write.Stdin, err = read.StdoutPipe(); err != nil {
		return fmt.Errorf("restoring: %w", err)
	}
	if err := read.Start(); err != nil {
		return fmt.Errorf("restoring: %w", err)
	}
	err = write.Run()
	if failed := read.Wait(); err == nil {
		err = failed
	}
	if err != nil {
		return fmt.Errorf("restoring: %w: nothing was changed\n%s", err, tail(said.Bytes(), 2000))
	}
	return nil
}
