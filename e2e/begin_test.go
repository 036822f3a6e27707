package e2e

import (
	"bytes"
	"encoding/json"
	"io"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"

	"github.com/creack/pty"

	"unicausa/internal/api"
	"unicausa/internal/cli"
)

// inTerminal runs the command line in a terminal, types the answers, and gives its exit
// status and what the terminal shows.
func inTerminal(t *testing.T, answers string, args ...string) (int, string) {
	t.Helper()
	master, terminal, err := pty.Open()
	if err != nil {
		t.Fatal(err)
	}
	defer master.Close()
	var shown bytes.Buffer
	read := make(chan struct{})
	go func() {
		io.Copy(&shown, master)
		close(read)
	}()
	io.WriteString(master, answers)
	status := cli.Main(t.Context(), append([]string{"unicausa"}, args...), terminal, terminal, terminal)
	terminal.Close()
	<-read
	return status, strings.ReplaceAll(shown.String(), "\r\n", "\n")
}

// git runs git in the working folder.
func gitHere(t *testing.T, args ...string) string {
	t.Helper()
	out, err := exec.Command("git", append([]string{"-c", "user.name=Ilse", "-c", "user.email=ilse@example.org"}, args...)...).CombinedOutput()
	if err != nil {
		t.Fatalf("git %v: %v\n%s", args, err, out)
	}
	return string(out)
}

// noted is the upgrade that begin noted in the working folder.
func noted(t *testing.T) int64 {
	t.Helper()
	var c struct{ Upgrade int64 }
	data, err := os.ReadFile(".unicausa.json")
	if err == nil {
		err = json.Unmarshal(data, &c)
	}
	if err != nil {
		t.Fatal(err)
	}
	return c.Upgrade
}

// TestBeginAsks holds that begin reads what moves and which checks there are, asks for the
// rest in a terminal, and refuses or takes flags elsewhere.
func TestBeginAsks(t *testing.T) {
	t.Chdir(t.TempDir())
	t.Setenv("UNICAUSA_SERVER", server)
	write(t, map[string]string{
		"package.json":       `{"scripts": {"build": "tsc", "test": "vitest run"}, "dependencies": {"binlabel": "^2.4.0", "crate": "1.0.0"}}`,
		"package-lock.json":  `{"lockfileVersion": 3, "packages": {"": {"dependencies": {"binlabel": "^2.4.0"}}, "node_modules/binlabel": {"version": "2.4.1"}, "node_modules/crate": {"version": "1.0.0"}}}`,
		"front/src/index.ts": "",
	})
	gitHere(t, "init", "-q")
	gitHere(t, "add", ".")
	gitHere(t, "commit", "-qm", "The old version")

	// Elsewhere than in a terminal nothing is guessed.
	want(t, 2, []string{"nothing tells what moves", "--move"}, "begin")
	// In one it is asked: a package of the project with its new version alone, then nothing more.
	status, shown := inTerminal(t, "binlabel\nbinlabel=3.0.2\n\n\ny\n", "begin", "--project", "asked")
	for _, part := range []string{"binlabel 2.4.1", "give PACKAGE=FROM..TO", "Name of the upgrade [binlabel 3.0.2]", "binlabel 2.4.1 → 3.0.2", "run: npm run build", "unicausa.yaml is written"} {
		if !strings.Contains(shown, part) {
			t.Errorf("no %q in:\n%s", part, shown)
		}
	}
	if status != 0 {
		t.Fatalf("status %d:\n%s", status, shown)
	}
	first := noted(t)
	want(t, 0, []string{"build", "npm run build", "test"}, "checks")
	if text := gitHere(t, "status", "--porcelain"); strings.Contains(text, ".unicausa.json") {
		t.Errorf("git sees the note: %s", text)
	}

	// Begun twice it refuses, from a subfolder too, or asks.
	t.Chdir(filepath.Join("front", "src"))
	want(t, 2, []string{"has begun here", "--again"}, "begin", "--move", "crate=1.0.0..2.0.0")
	if status, shown := inTerminal(t, "\n", "begin", "--move", "crate=1.0.0..2.0.0"); status != 2 || !strings.Contains(shown, "Begin another? [y/N]") {
		t.Errorf("status %d:\n%s", status, shown)
	}
	// A downgrade is asked about.
	want(t, 2, []string{"goes down, from 2.0.0 to 1.0.0", "--downgrade"}, "begin", "--again", "--move", "crate=2.0.0..1.0.0")
	want(t, 0, []string{"begun: crate 1.0.0"}, "begin", "--again", "--downgrade", "--project", "asked", "--move", "crate=2.0.0..1.0.0")
	t.Chdir(filepath.Join("..", ".."))
	if second := noted(t); second == first {
		t.Error("the note still names the first upgrade")
	}

	// What the manifest says already is taken.
	write(t, map[string]string{"package.json": `{"dependencies": {"binlabel": "^4.0.0", "crate": "1.0.0"}}`})
	want(t, 0, []string{"package.json says that binlabel moves from 2.4.0 to 4.0.0", "git stash"}, "begin", "--again", "--project", "asked", "--name", "read")
	o, err := here(t).Overview(t.Context(), noted(t))
	if err != nil {
		t.Fatal(err)
	}
	if len(o.Upgrade.Leg.Moves) != 1 || o.Upgrade.Leg.Moves[0] != (api.Move{Package: "binlabel", From: "2.4.0", To: "4.0.0"}) {
		t.Errorf("it moves %+v", o.Upgrade.Leg.Moves)
	}
}
