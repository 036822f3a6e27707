// Package pglocal runs a PostgreSQL of our own: Debian's programs, a data
// folder that belongs to nobody else, on loopback only. Run by root, the
// server runs as the user postgres, since PostgreSQL refuses root.
package pglocal

import (
	"bytes"
	"context"
	"crypto/rand"
	"encoding/hex"
	"errors"
	"fmt"
	"net"
	"os"
	"os/exec"
	"os/user"
	"path/filepath"
	"sort"
	"strconv"
	"strings"
	"time"

	"github.com/jackc/pgx/v5"
)

// ErrNotInstalled says that there is no PostgreSQL on this machine.
var ErrNotInstalled = errors.New("PostgreSQL is not installed: install Debian's package postgresql, or name a database with --database-url")

// Server is a PostgreSQL that runs on a data folder.
type Server struct {
	URL    string // with the password: not for logs
	Port   int
	PID    int
	folder string
	bin    string
	as     *user.User // whom the server runs as, nil for ourselves
}

// Start starts the server of a data folder, making the folder first where it
// is new, or joins the one that runs on it already.
func Start(ctx context.Context, folder string) (*Server, error) {
	folder, err := filepath.Abs(folder)
	if err != nil {
		return nil, fmt.Errorf("finding the data folder: %w", err)
	}
	s := &Server{folder: folder}
	if s.bin, err = findPrograms(); err != nil {
		return nil, err
	}
	if os.Geteuid() == 0 {
		if s.as, err = user.Lookup("postgres"); err != nil {
			return nil, fmt.Errorf("the database cannot run as root, and there is no user postgres: %w", ErrNotInstalled)
		}
	}
	if err := os.MkdirAll(folder, 0o755); err != nil {
		return nil, fmt.Errorf("making the data folder: %w (name one of your own with --data)", err)
	}
	unlock, err := Lock(filepath.Join(folder, "starting"))
	if err != nil {
		return nil, err
	}
	defer unlock()
	if err := s.initialise(ctx); err != nil {
		return nil, err
	}
	if !s.running(ctx) {
		if err := s.start(ctx, 0); err != nil {
			return nil, err
		}
	}
	return s, s.connect(ctx)
}

// findPrograms is the folder of the newest PostgreSQL's programs.
func findPrograms() (string, error) {
	found, _ := filepath.Glob("/usr/lib/postgresql/*/bin/postgres")
	sort.Slice(found, func(i, j int) bool { return version(found[i]) > version(found[j]) })
	if len(found) > 0 {
		return filepath.Dir(found[0]), nil
	}
	if p, err := exec.LookPath("postgres"); err == nil {
		return filepath.Dir(p), nil
	}
	return "", ErrNotInstalled
}

func version(program string) int {
	n, _ := strconv.Atoi(filepath.Base(filepath.Dir(filepath.Dir(program))))
	return n
}

func (s *Server) cluster() string  { return filepath.Join(s.folder, "postgres") }
func (s *Server) password() string { return filepath.Join(s.folder, "password") }

// initialise makes the cluster once, with a password of its own.
func (s *Server) initialise(ctx context.Context) error {
	if _, err := os.Stat(filepath.Join(s.cluster(), "PG_VERSION")); err == nil {
		return nil
	}
	secret := make([]byte, 16)
	if _, err := rand.Read(secret); err != nil {
		return fmt.Errorf("making a password: %w", err)
	}
	if err := os.WriteFile(s.password(), []byte(hex.EncodeToString(secret)), 0o600); err != nil {
		return fmt.Errorf("keeping the password: %w", err)
	}
	// What an earlier start left half made is made anew.
	if err := os.RemoveAll(s.cluster()); err != nil {
		return fmt.Errorf("making the data folder: %w", err)
	}
	if err := os.Mkdir(s.cluster(), 0o700); err != nil {
		return fmt.Errorf("making the data folder: %w", err)
	}
	if s.as != nil {
		uid, _ := strconv.Atoi(s.as.Uid)
		gid, _ := strconv.Atoi(s.as.Gid)
		for _, name := range []string{s.cluster(), s.password()} {
			if err := os.Chown(name, uid, gid); err != nil {
				return fmt.Errorf("giving the data folder to postgres: %w", err)
			}
		}
	}
	out, err := s.run(ctx, "initdb", "-D", s.cluster(), "-U", "unicausa", "--auth=scram-sha-256", "--pwfile", s.password(), "-E", "UTF8", "--locale=C.UTF-8", "--no-instructions")
	if err != nil {
		os.RemoveAll(s.cluster())
		return fmt.Errorf("making the database in %s: %w\n%s", s.folder, err, out)
	}
	return nil
}

// start starts the server on a port of loopback, 0 for a free one. Another program may
// take the port between finding and using it, and what is left of a server that was killed
// may take a while to go, so it is tried more than once.
func (s *Server) start(ctx context.Context, at int) error {
	var out []byte
	var err error
	for try := range 5 {
		if try > 0 {
			time.Sleep(time.Second)
		}
		port := at
		if port == 0 {
			if port, err = freePort(); err != nil {
				return fmt.Errorf("finding a free port: %w", err)
			}
		}
		options := fmt.Sprintf("-c listen_addresses=127.0.0.1 -c port=%d -c unix_socket_directories='' -c max_connections=200 -c log_min_messages=warning", port)
		out, err = s.run(ctx, "pg_ctl", "start", "-w", "-t", "60", "-D", s.cluster(), "-l", filepath.Join(s.cluster(), "log.txt"), "-o", options)
		if err == nil {
			return nil
		}
	}
	log, _ := os.ReadFile(filepath.Join(s.cluster(), "log.txt"))
	return fmt.Errorf("starting the database in %s: %w\n%s%s", s.folder, err, out, tail(log, 2000))
}

// connect reads where the server listens, and makes sure that it answers.
func (s *Server) connect(ctx context.Context) error {
	pid, err := os.ReadFile(filepath.Join(s.cluster(), "postmaster.pid"))
	lines := strings.Split(string(pid), "\n")
	if err != nil || len(lines) < 4 {
		return fmt.Errorf("the database in %s does not say where it listens", s.folder)
	}
	s.PID, _ = strconv.Atoi(strings.TrimSpace(lines[0]))
	s.Port, _ = strconv.Atoi(strings.TrimSpace(lines[3])) // line 4 of postmaster.pid is the port
	secret, err := os.ReadFile(s.password())
	if err != nil {
		return fmt.Errorf("reading the database's password: %w", err)
	}
	s.URL = fmt.Sprintf("postgres://unicausa:%s@127.0.0.1:%d/postgres?sslmode=disable", secret, s.Port)
	for deadline := time.Now().Add(20 * time.Second); ; time.Sleep(100 * time.Millisecond) {
		conn, err := pgx.Connect(ctx, s.URL)
		if err == nil {
			return conn.Close(ctx)
		}
		if time.Now().After(deadline) || ctx.Err() != nil {
			return fmt.Errorf("the database in %s does not answer: %w", s.folder, err)
		}
	}
}

// Stop stops the server, unless another service still uses it.
func (s *Server) Stop(ctx context.Context) error {
	if conn, err := pgx.Connect(ctx, s.URL); err == nil {
		var others int
		for range 10 { // a connection that was closed just now may still be listed
			err = conn.QueryRow(ctx, `SELECT count(*) FROM pg_stat_activity WHERE backend_type = 'client backend' AND pid <> pg_backend_pid()`).Scan(&others)
			if err != nil || others == 0 {
				break
			}
			time.Sleep(50 * time.Millisecond)
		}
		conn.Close(ctx)
		if err == nil && others > 0 {
			return nil
		}
	}
	out, err := s.run(ctx, "pg_ctl", "stop", "-w", "-m", "fast", "-D", s.cluster())
	if err != nil && s.running(ctx) {
		return fmt.Errorf("stopping the database: %w\n%s", err, out)
	}
	return nil
}

// run runs one of PostgreSQL's programs, as postgres where we are root.
func (s *Server) run(ctx context.Context, program string, args ...string) ([]byte, error) {
	name := filepath.Join(s.bin, program)
	if s.as != nil {
		args = append([]string{"-u", s.as.Username, "--", name}, args...)
		name = "runuser"
	}
	cmd := exec.CommandContext(ctx, name, args...)
	cmd.Dir = "/"
	// The server outlives pg_ctl and would keep a pipe open: a file ends the wait.
	out, err := os.CreateTemp("", "unicausa-pg")
	if err != nil {
		return nil, err
	}
	defer os.Remove(out.Name())
	defer out.Close()
	cmd.Stdout, cmd.Stderr = out, out
	err = cmd.Run()
	text, _ := os.ReadFile(out.Name())
	return bytes.TrimSpace(text), err
}

func freePort() (int, error) {
	l, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		return 0, err
	}
	defer l.Close()
	return l.Addr().(*net.TCPAddr).Port, nil
}

func tail(b []byte, n int) []byte { return b[max(0, len(b)-n):] }
