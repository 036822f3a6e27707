package e2e

import (
	"bytes"
	"io"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"sync"
	"syscall"
	"testing"
	"time"

	"github.com/creack/pty"
)

// screen is what a terminal was shown so far.
type screen struct {
	mu   sync.Mutex
	text bytes.Buffer
}

func (s *screen) Write(p []byte) (int, error) {
	s.mu.Lock()
	defer s.mu.Unlock()
	return s.text.Write(p)
}

// until waits until the last drawing holds all of some texts, and gives it.
func (s *screen) until(t *testing.T, parts ...string) string {
	t.Helper()
	last := ""
	for end := time.Now().Add(30 * time.Second); time.Now().Before(end); time.Sleep(50 * time.Millisecond) {
		s.mu.Lock()
		drawn := strings.Split(s.text.String(), "\x1b[H\x1b[2J")
		s.mu.Unlock()
		last = drawn[len(drawn)-1]
		missing := false
		for _, part := range parts {
			missing = missing || !strings.Contains(last, part)
		}
		if !missing {
			return last
		}
	}
	t.Fatalf("the screen does not show %q:\n%s", parts, last)
	return ""
}

// TestWatch holds that the checks run again when files change, only those that a change
// concerns, with what it cleared and brought on one living screen, and that Ctrl-C leaves all
// recorded.
func TestWatch(t *testing.T) {
	program := filepath.Join(t.TempDir(), "unicausa")
	if out, err := exec.Command("go", "build", "-o", program, "unicausa/cmd/unicausa").CombinedOutput(); err != nil {
		t.Fatalf("%v\n%s", err, out)
	}
	t.Setenv("UNICAUSA_SERVER", server)
	t.Chdir(t.TempDir())
	write(t, map[string]string{
		"unicausa.yaml": "checks:\n  - {name: slow, folder: back, run: sleep 3; cat out.log; touch ../made.tmp}\n  - {name: quick, folder: front, run: \"cat out.log; test ! -s out.log\"}\n",
		".gitignore":    "made.tmp\n", "back/out.log": "", "front/out.log": "",
	})
	gitHere(t, "init", "-q")
	gitHere(t, "add", ".")
	gitHere(t, "commit", "-qm", "The old version")
	want(t, 0, nil, "begin", "--project", "watched", "--name", t.Name(), "--move", "jar=1..2")
	want(t, 0, nil, "record", "--all")
	want(t, 0, nil, "baseline")

	cmd := exec.Command(program, "record", "--all", "--watch")
	cmd.Env = append(os.Environ(), "TERM=xterm")
	terminal, err := pty.StartWithSize(cmd, &pty.Winsize{Rows: 40, Cols: 110})
	if err != nil {
		t.Fatal(err)
	}
	defer terminal.Close()
	defer cmd.Process.Kill()
	shown := &screen{}
	go io.Copy(shown, terminal)
	text := shown.until(t, "0 causes left", "waiting for changes")
	if strings.Index(text, "quick") > strings.Index(text, "slow") {
		t.Errorf("the slow one is first:\n%s", text)
	}
	runs := func() int {
		list, err := here(t).Runs(t.Context(), noted(t))
		if err != nil {
			t.Fatal(err)
		}
		return len(list)
	}
	if n := runs(); n != 4 {
		t.Fatalf("there are %d runs", n)
	}
	write(t, map[string]string{"front/out.log": "lid.c:3:1: error: unknown type name 'lid_t'\n"})
	shown.until(t, "after front/out.log", "brought C1", "1 cause left", "lid_t", "waiting for changes")
	if n := runs(); n != 5 {
		t.Errorf("there are %d runs: more than the one check ran", n)
	}
	write(t, map[string]string{"made.tmp": "ignored", "front/out.log": ""})
	shown.until(t, "cleared C1", "0 causes left", "waiting for changes")
	// Interrupted while a check runs, that run is kept.
	write(t, map[string]string{"back/out.log": "one line\n"})
	shown.until(t, "running slow")
	time.Sleep(1500 * time.Millisecond) // until the command runs
	terminal.Write([]byte{3})
	shown.until(t, "all that was run is recorded")
	if err := cmd.Wait(); err != nil {
		t.Errorf("it ends with %v", err)
	}
	list, err := here(t).Runs(t.Context(), noted(t))
	if err != nil || len(list) != 7 || list[0].Status != "interrupted" {
		t.Errorf("%v: there are %d runs, the last is %s", err, len(list), list[0].Status)
	}

	// Elsewhere than in a terminal each run is a line, and a signal ends it.
	cmd = exec.Command(program, "record", "--all", "--watch", "--only", "quick")
	plain := &screen{}
	cmd.Stdout, cmd.Stderr = plain, plain
	if err := cmd.Start(); err != nil {
		t.Fatal(err)
	}
	plain.until(t, "quick  ✓ passes", "0 causes left, no change yet", "waiting for changes")
	cmd.Process.Signal(syscall.SIGTERM)
	plain.until(t, "left; all that was run is recorded")
	if err := cmd.Wait(); err != nil {
		t.Errorf("it ends with %v", err)
	}
	t.Chdir(t.TempDir())
	write(t, map[string]string{"unicausa.yaml": "checks:\n  - {name: a, run: 'true'}\n"})
	want(t, 2, []string{"--watch follows the files that git knows"}, "record", "--all", "--watch", "--upgrade", "1")
}
