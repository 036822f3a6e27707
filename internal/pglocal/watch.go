package pglocal

import (
	"context"
	"fmt"
	"log/slog"
	"net"
	"os"
	"path/filepath"
	"strings"
	"time"
)

// Watch starts the server again where it has died, at the address that it had, until ctx
// ends.
func (s *Server) Watch(ctx context.Context, log *slog.Logger) {
	told := false
	for tick := time.NewTicker(watchEvery); ; {
		select {
		case <-ctx.Done():
			tick.Stop()
			return
		case <-tick.C:
		}
		if s.answers() {
			continue
		}
		if !told {
			log.Error("the database does not answer: it is started again", "data", s.folder)
		}
		told = true
		started, err := s.revive(ctx)
		switch {
		case err != nil && ctx.Err() == nil:
			log.Error("database", "error", err)
		case started:
			log.Info("database", "port", s.Port, "data", s.folder)
			told = false
		}
	}
}

// watchEvery is how often the server is looked at.
const watchEvery = 500 * time.Millisecond

// answers reports whether somebody listens at the server's address.
func (s *Server) answers() bool {
	conn, err := net.DialTimeout("tcp", fmt.Sprintf("127.0.0.1:%d", s.Port), 2*time.Second)
	if err != nil {
		return false
	}
	conn.Close()
	return true
}

// revive starts the server, unless it runs: another service was faster, or what was killed
// has not gone yet.
func (s *Server) revive(ctx context.Context) (started bool, err error) {
	unlock, err := Lock(filepath.Join(s.folder, "starting"))
	if err != nil {
		return false, err
	}
	defer unlock()
	if s.running(ctx) {
		return false, nil
	}
	if err := s.start(ctx, s.Port); err != nil {
		return false, err
	}
	return true, s.connect(ctx)
}

// running reports whether the server runs. A note of its process that is another
// program's by now is removed: the server would take it for its own and not start.
func (s *Server) running(ctx context.Context) bool {
	if _, err := s.run(ctx, "pg_ctl", "status", "-D", s.cluster()); err != nil {
		return false
	}
	note := filepath.Join(s.cluster(), "postmaster.pid")
	text, err := os.ReadFile(note)
	if err != nil {
		return false
	}
	pid, _, _ := strings.Cut(string(text), "\n")
	name, err := os.ReadFile(filepath.Join("/proc", strings.TrimSpace(pid), "comm"))
	if err != nil || strings.HasPrefix(string(name), "postgres") {
		return true // or not to be told here
	}
	return os.Remove(note) != nil
}
