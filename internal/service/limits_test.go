package service

import (
	"context"
	"errors"
	"fmt"
	"net"
	"net/http/httptest"
	"strings"
	"testing"
	"time"

	"unicausa/internal/core/analysis"
	"unicausa/internal/core/guard"
	"unicausa/internal/core/versions"
	"unicausa/internal/store"
)

// waits waits until a run is no longer waiting.
func waits(t *testing.T, s *Service, upgrade int64, number int) store.Run {
	t.Helper()
	for range 1200 {
		run, err := s.store.Run(t.Context(), upgrade, number)
		if err != nil {
			t.Fatal(err)
		}
		if run.Status != "stored" {
			return run
		}
		time.Sleep(25 * time.Millisecond)
	}
	t.Fatalf("run %d is never processed", number)
	return store.Run{}
}

// TestRetried holds that what was set aside is tried again when somebody asks, and by a
// version of the program that is another, and that it holds the gate until then.
func TestRetried(t *testing.T) {
	s := serving(t)
	broken := true
	s.worker.leg = func(a *store.Analysis, run *analysis.Run) error {
		if broken && run != nil {
			panic("lid is stuck")
		}
		return advance(a, run)
	}
	u, err := s.store.Begin(t.Context(), "shelf", "jar 5", []versions.Move{{Package: "jar", From: "4", To: "5"}})
	if err != nil {
		t.Fatal(err)
	}
	run := recorded(t, s, u.ID, "build", "a.c:1:1: error: no\n")
	if run.Status != "failed" {
		t.Fatalf("the run is %s", run.Status)
	}
	held, err := s.store.Held(t.Context(), u.ID)
	if err != nil || !strings.Contains(held[1], "build: ") || !strings.Contains(held[1], "lid is stuck") {
		t.Errorf("the gate is held by %v (%v)", held, err)
	}
	other := 7
	if _, err := s.retry(t.Context(), u.ID, &other, "Mirja"); !errors.Is(err, store.ErrNotFound) {
		t.Errorf("a run that is not there is retried: %v", err)
	}
	if list, err := s.store.Outgrown(t.Context()); err != nil || len(list) != 0 {
		t.Errorf("this version has outgrown %v (%v)", list, err)
	}
	broken = false
	tried, err := s.retry(t.Context(), u.ID, nil, "Mirja")
	if err != nil || fmt.Sprint(tried.Runs) != "[1]" {
		t.Fatalf("tried again are %+v (%v)", tried, err)
	}
	if run := waits(t, s, u.ID, 1); run.Status != "processed" || run.Symptoms != 1 {
		t.Errorf("the run is %s with %d symptoms", run.Status, run.Symptoms)
	}
	broken = true
	recorded(t, s, u.ID, "test", "b.c:1:1: error: no\n")
	broken = false
	s.store.Version = "the next"
	if err := s.retryOutgrown(t.Context()); err != nil {
		t.Fatal(err)
	}
	if run := waits(t, s, u.ID, 2); run.Status != "processed" {
		t.Errorf("with another version the run is %s: %s", run.Status, run.Problem)
	}
}

// TestEndless holds that work which takes too much memory is ended, tried once more, and set
// aside, and that another upgrade is worked on meanwhile; and that a run which ended the
// service again and again is not tried for ever.
func TestEndless(t *testing.T) {
	s := serving(t)
	tries := 0
	s.worker.leg = func(a *store.Analysis, run *analysis.Run) error {
		if run == nil || run.Check != "endless" {
			return advance(a, run)
		}
		tries++
		_, err := guard.Call("endless.log", func() int {
			for {
				guard.Check(a.Context())
				time.Sleep(time.Millisecond)
			}
		})
		return err
	}
	begun := func(name string) int64 {
		u, err := s.store.Begin(t.Context(), "shelf", name, []versions.Move{{Package: "jar", From: "4", To: "5"}})
		if err != nil {
			t.Fatal(err)
		}
		return u.ID
	}
	endless, other := begun("endless"), begun("other")
	stop := make(chan struct{})
	go func() { // as watchMemory does
		for {
			select {
			case <-stop:
				return
			case <-time.After(400 * time.Millisecond):
			}
			s.worker.mu.Lock()
			for end := range s.worker.ends {
				(*end)(errMemory)
			}
			s.worker.mu.Unlock()
		}
	}()
	done := make(chan store.Run, 1)
	go func() { done <- recorded(t, s, endless, "endless", "x\n") }()
	time.Sleep(100 * time.Millisecond)
	start := time.Now()
	if run := recorded(t, s, other, "build", "a.c:1:1: error: no\n"); run.Status != "processed" || time.Since(start) > 3*time.Second {
		t.Errorf("beside it a run is %s after %s", run.Status, time.Since(start))
	}
	run := <-done
	close(stop)
	if run.Status != "failed" || !strings.Contains(run.Problem, "more memory than the service may use") || tries != mostTries {
		t.Errorf("it is %s after %d tries: %s", run.Status, tries, run.Problem)
	}

	s.worker.leg = advance
	ctx := context.WithoutCancel(t.Context())
	if _, err := s.store.DB().ExecContext(ctx, `UPDATE run SET tries = $1, status = 'stored', problem = '' WHERE number = 1 AND leg_id IN (SELECT id FROM leg WHERE upgrade_id = $2)`, mostDeaths, endless); err != nil {
		t.Fatal(err)
	}
	if err := s.worker.catchUp(ctx); err != nil {
		t.Fatal(err)
	}
	if run := waits(t, s, endless, 1); run.Status != "failed" || !strings.Contains(run.Problem, "the service ended each time") {
		t.Errorf("a run that ended the service is %s: %s", run.Status, run.Problem)
	}
}

// TestSlowBody holds that a body which stands still is ended, and nothing of it is stored.
func TestSlowBody(t *testing.T) {
	s := serving(t)
	server := httptest.NewUnstartedServer(s.Handler())
	server.Config.ReadTimeout = 300 * time.Millisecond
	server.Start()
	defer server.Close()
	conn, err := net.Dial("tcp", server.Listener.Addr().String())
	if err != nil {
		t.Fatal(err)
	}
	defer conn.Close()
	fmt.Fprintf(conn, "POST /api/v1/upgrades HTTP/1.1\r\nHost: localhost\r\nAuthorization: Bearer service\r\nContent-Type: application/json\r\nContent-Length: 1000\r\n\r\n{\"project\":")
	conn.SetReadDeadline(time.Now().Add(5 * time.Second))
	answer := make([]byte, 4096)
	n, err := conn.Read(answer)
	if err != nil || !strings.HasPrefix(string(answer[:n]), "HTTP/1.1 4") {
		t.Errorf("a body that stands still gives %q (%v)", answer[:n], err)
	}
	if list, err := s.store.Upgrades(t.Context()); err != nil || len(list) != 0 {
		t.Errorf("there are %d upgrades (%v)", len(list), err)
	}
}
