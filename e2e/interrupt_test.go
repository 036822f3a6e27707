package e2e

import (
	"bytes"
	"fmt"
	"io"
	"os"
	"os/exec"
	"strings"
	"sync"
	"syscall"
	"testing"
	"time"
)

// recording is unicausa record in a process of its own, on a check that a shell runs.
func recording(t *testing.T, binary string, upgrade int64, script string) (cmd *exec.Cmd, out *printed, said <-chan string) {
	t.Helper()
	cmd = exec.Command(binary, "record", "--server", server, "--upgrade", fmt.Sprint(upgrade), "--check", "long", "--no-source", "--", "sh", "-c", script)
	cmd.Env = append(os.Environ(), "TMPDIR="+t.TempDir())
	out = &printed{}
	pipe, err := cmd.StdoutPipe()
	if err != nil {
		t.Fatal(err)
	}
	cmd.Stderr = out
	if err := cmd.Start(); err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { cmd.Process.Kill() })
	lines := make(chan string, 100)
	go func() {
		io.Copy(io.MultiWriter(out, writes(lines)), pipe)
		close(lines)
	}()
	return cmd, out, lines
}

// printed is what a process printed, on both of its streams.
type printed struct {
	mu   sync.Mutex
	text bytes.Buffer
}

func (p *printed) Write(b []byte) (int, error) {
	p.mu.Lock()
	defer p.mu.Unlock()
	return p.text.Write(b)
}

func (p *printed) String() string {
	p.mu.Lock()
	defer p.mu.Unlock()
	return p.text.String()
}

// writes passes on what is written.
type writes chan string

func (w writes) Write(p []byte) (int, error) { w <- string(p); return len(p), nil }

// until waits for a word of the output.
func until(t *testing.T, said <-chan string, word string) {
	t.Helper()
	for limit := time.After(20 * time.Second); ; {
		select {
		case text, more := <-said:
			if strings.Contains(text, word) {
				return
			}
			if !more {
				t.Fatalf("it ended without %q", word)
			}
		case <-limit:
			t.Fatalf("there is no %q", word)
		}
	}
}

// ended waits until nothing more is said.
func ended(t *testing.T, said <-chan string) {
	t.Helper()
	for limit := time.After(20 * time.Second); ; {
		select {
		case _, more := <-said:
			if !more {
				return
			}
		case <-limit:
			t.Fatal("it does not end")
		}
	}
}

// TestInterrupted holds that an interrupt reaches the command with its children, that what
// came until then is kept and counts for nothing, that a second one ends everything at
// once, and that a child which keeps the output open holds nothing up.
func TestInterrupted(t *testing.T) {
	t.Parallel()
	binary, c := program(t), here(t)
	upgrade := begin(t, c, "interrupted")

	cmd, out, said := recording(t, binary, upgrade, `trap : INT; (trap "echo child; exit" INT; echo ready; while :; do sleep 0.1; done); echo a.c:1:1: error: no; exit 3`)
	until(t, said, "ready")
	cmd.Process.Signal(os.Interrupt)
	ended(t, said)
	if err := cmd.Wait(); cmd.ProcessState.ExitCode() != 130 {
		t.Fatalf("it ends with %d (%v):\n%s", cmd.ProcessState.ExitCode(), err, out)
	}
	if text := out.String(); !strings.Contains(text, "child\na.c:1:1: error: no") || !strings.Contains(text, "interrupted: what came until then is kept as run 1") {
		t.Errorf("it prints\n%s", text)
	}
	run, err := c.Run(t.Context(), upgrade, 1)
	if err != nil || run.Status != "interrupted" || run.Symptoms != 1 || !run.Facts.Interrupted {
		t.Errorf("the run is %+v (%v)", run, err)
	}
	if _, err := c.AcceptBaseline(t.Context(), upgrade); err == nil {
		t.Error("an interrupted run is accepted as the baseline")
	}

	cmd, out, said = recording(t, binary, upgrade, `trap "" INT; echo ready; while :; do sleep 0.1; done`)
	until(t, said, "ready")
	cmd.Process.Signal(os.Interrupt)
	time.Sleep(200 * time.Millisecond)
	start := time.Now()
	cmd.Process.Signal(os.Interrupt)
	cmd.Wait()
	if took := time.Since(start); cmd.ProcessState.ExitCode() != 130 || took > 3*time.Second {
		t.Errorf("the second interrupt ends it with %d after %s:\n%s", cmd.ProcessState.ExitCode(), took, out)
	}
	if runs, err := c.Runs(t.Context(), upgrade); err != nil || len(runs) != 1 {
		t.Errorf("there are %d runs (%v)", len(runs), err)
	}
	for _, dir := range cmd.Env {
		if folder, ok := strings.CutPrefix(dir, "TMPDIR="); ok {
			if left, _ := os.ReadDir(folder); len(left) > 0 && folder != os.TempDir() {
				t.Errorf("%s is left", left[0].Name())
			}
		}
	}

	start = time.Now()
	cmd, out, said = recording(t, binary, upgrade, `sleep 60 & echo $!; echo done`)
	ended(t, said)
	if err := cmd.Wait(); err != nil || time.Since(start) > 15*time.Second {
		t.Errorf("a child that goes on holds it up for %s: %v\n%s", time.Since(start), err, out)
	}
	var child int
	if _, err := fmt.Sscan(out.String(), &child); err != nil || child < 2 {
		t.Fatalf("the child is not named: %s", out)
	}
	syscall.Kill(child, syscall.SIGKILL)
}
