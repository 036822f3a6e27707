package pglocal

import (
	"context"
	"fmt"
	"log/slog"
	"os"
	"path/filepath"
	"sync"
	"syscall"
	"testing"
	"time"

	"github.com/jackc/pgx/v5"
)

// folder is a data folder that the database's user may enter.
func folder(t *testing.T) string {
	t.Helper()
	dir := t.TempDir()
	for d := dir; d != os.TempDir() && d != "/"; d = filepath.Dir(d) {
		if err := os.Chmod(d, 0o755); err != nil {
			t.Fatal(err)
		}
	}
	return dir
}

func query(t *testing.T, s *Server, sql string) string {
	t.Helper()
	conn, err := pgx.Connect(t.Context(), s.URL)
	if err != nil {
		t.Fatal(err)
	}
	defer conn.Close(context.Background())
	var text string
	if err := conn.QueryRow(t.Context(), sql).Scan(&text); err != nil {
		t.Fatal(err)
	}
	return text
}

// TestStart starts a server from several sides at once, uses it, leaves it to
// another user, stops it, and finds the records again.
func TestStart(t *testing.T) {
	dir := folder(t)
	var wait sync.WaitGroup
	servers, errs := make([]*Server, 3), make([]error, 3)
	for i := range servers {
		wait.Go(func() { servers[i], errs[i] = Start(t.Context(), dir) })
	}
	wait.Wait()
	for i, err := range errs {
		if err != nil {
			t.Fatal(err)
		}
		if servers[i].Port != servers[0].Port || servers[i].PID != servers[0].PID {
			t.Errorf("there are two servers on one folder: %+v and %+v", servers[0], servers[i])
		}
	}
	s := servers[0]
	for setting, want := range map[string]string{"listen_addresses": "127.0.0.1", "unix_socket_directories": "", "fsync": "on", "server_encoding": "UTF8"} {
		if got := query(t, s, "SHOW "+setting); got != want {
			t.Errorf("%s is %q, want %q", setting, got, want)
		}
	}
	conn, err := pgx.Connect(t.Context(), s.URL)
	if err != nil {
		t.Fatal(err)
	}
	if _, err := conn.Exec(t.Context(), "CREATE TABLE jar AS SELECT 'blue' AS lid"); err != nil {
		t.Fatal(err)
	}
	if err := s.Stop(t.Context()); err != nil {
		t.Fatal(err)
	}
	if got := query(t, s, "SELECT lid FROM jar"); got != "blue" {
		t.Errorf("while another used it the server was stopped: %q", got)
	}
	conn.Close(t.Context())
	if err := s.Stop(t.Context()); err != nil {
		t.Fatal(err)
	}
	if _, err := pgx.Connect(t.Context(), s.URL); err == nil {
		t.Error("the stopped server answers")
	}
	again, err := Start(t.Context(), dir)
	if err != nil {
		t.Fatal(err)
	}
	if got := query(t, again, "SELECT lid FROM jar"); got != "blue" {
		t.Errorf("the record is %q", got)
	}
	info, err := os.Stat(again.password())
	if err != nil || info.Mode().Perm() != 0o600 {
		t.Errorf("the password may be read by others: %v %v", info.Mode(), err)
	}
	if err := again.Stop(context.Background()); err != nil {
		t.Error(err)
	}
}

func TestStartErrors(t *testing.T) {
	file := filepath.Join(t.TempDir(), "file")
	if err := os.WriteFile(file, nil, 0o644); err != nil {
		t.Fatal(err)
	}
	if _, err := Start(t.Context(), filepath.Join(file, "data")); err == nil {
		t.Error("a data folder inside of a file is made")
	}
}

// TestWatch kills the server, and finds it at its old address with its records; then it
// leaves a note of its process that is another's, and starts it all the same.
func TestWatch(t *testing.T) {
	dir := folder(t)
	s, err := Start(t.Context(), dir)
	if err != nil {
		t.Fatal(err)
	}
	defer s.Stop(context.Background())
	url := s.URL
	ctx, stop := context.WithCancel(t.Context())
	ended := make(chan struct{})
	go func() { s.Watch(ctx, slog.New(slog.DiscardHandler)); close(ended) }()
	if err := syscall.Kill(s.PID, syscall.SIGKILL); err != nil {
		t.Fatal(err)
	}
	time.Sleep(watchEvery) // until its port is closed
	for deadline := time.Now().Add(40 * time.Second); ; time.Sleep(100 * time.Millisecond) {
		conn, err := pgx.Connect(t.Context(), url)
		if err == nil {
			conn.Close(t.Context())
			break
		}
		if time.Now().After(deadline) {
			t.Fatalf("it is not started again: %v", err)
		}
	}
	stop()
	<-ended
	if err := s.Stop(t.Context()); err != nil {
		t.Fatal(err)
	}
	note := fmt.Sprintf("%d\n%s\n%d\n1\n\n127.0.0.1\n", os.Getpid(), s.cluster(), time.Now().Unix())
	if err := os.WriteFile(filepath.Join(s.cluster(), "postmaster.pid"), []byte(note), 0o644); err != nil {
		t.Fatal(err)
	}
	again, err := Start(t.Context(), dir)
	if err != nil {
		t.Fatalf("with the process of another program in its note it does not start: %v", err)
	}
	if err := again.Stop(t.Context()); err != nil {
		t.Error(err)
	}
}
