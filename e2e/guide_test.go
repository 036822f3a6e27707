package e2e

import (
	"bytes"
	"io"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/creack/pty"
)

// TestGuide goes the guide's way, command by command as it stands there, on a project that
// it sees for the first time: from nothing to its causes, a proved fix and the gate. It takes
// less than the three minutes that the guide promises.
func TestGuide(t *testing.T) {
	text, err := os.ReadFile(filepath.Join("..", "docs", "guide.md"))
	if err != nil {
		t.Fatal(err)
	}
	_, section, found := strings.Cut(string(text), "## Three minutes on a project of your own\n")
	section, _, _ = strings.Cut(section, "\n## ")
	if !found {
		t.Fatal("the guide has no such section")
	}
	bin := t.TempDir()
	if out, err := exec.Command("go", "build", "-o", filepath.Join(bin, "unicausa"), "unicausa/cmd/unicausa").CombinedOutput(); err != nil {
		t.Fatalf("%v\n%s", err, out)
	}
	project(t)
	t.Setenv("PATH", bin+string(os.PathListSeparator)+os.Getenv("PATH"))
	for name, value := range map[string]string{"GIT_AUTHOR_NAME": "Mirja", "GIT_AUTHOR_EMAIL": "mirja@example.org", "GIT_COMMITTER_NAME": "Mirja", "GIT_COMMITTER_EMAIL": "mirja@example.org", "TERM": "xterm", "PAGER": "cat"} {
		t.Setenv(name, value)
	}
	start, recorded, done := time.Now(), 0, map[string]bool{}
	for line := range strings.SplitSeq(section, "\n") {
		line, code := strings.CutPrefix(line, "    ")
		command, comment, _ := strings.Cut(line, "#")
		command = strings.TrimSpace(command)
		switch {
		case !code:
			continue
		case strings.Contains(comment, "now bump the version"):
			write(t, map[string]string{"jar/jar.go": jarNew})
			commit(t, "Move to jar 5")
			continue
		case strings.Contains(comment, "fix it"):
			replace(t, "shelf.go", "jar.OpenLid(", "jar.Open(")
			continue
		}
		command = strings.TrimPrefix(command, "cd your/project && ")
		wanted, status := "", 0
		answers := ""
		switch {
		case strings.HasPrefix(command, "unicausa serve"):
			continue // that of the tests
		case command == "unicausa begin":
			answers, wanted = "example.org/pantry/jar=4.2.0..5.0.0\n\n\ny\n", "unicausa.yaml is written"
		case command == "unicausa notes --installed":
			through(t, command, "", 0, "give its notes: unicausa notes example.org/pantry/jar=FILE")
			command, wanted = strings.Replace(strings.TrimPrefix(strings.TrimSpace(comment), "or: "), "example.org/jar", "example.org/pantry/jar", 1), "CHANGELOG.md: 3 changes"
		case command == "unicausa record --all":
			recorded++
			status = map[int]int{1: 0, 2: 1, 3: 1}[recorded] // jars are larger now, too
			wanted = map[int]string{1: "check", 2: "1 cause left", 3: "1 cause left"}[recorded]
		case command == "unicausa prepare":
			status = 1
		case command == "unicausa causes":
			wanted = "jar.OpenLid was renamed to Open"
		case command == "unicausa cause C1":
			wanted = "CHANGELOG.md:5"
		case command == "unicausa gate":
			status, wanted = 1, "C2 is undecided"
		}
		through(t, command, answers, status, wanted)
		done[command] = true
	}
	if took := time.Since(start); took > 3*time.Minute {
		t.Errorf("it takes %s", took)
	}
	if len(done) < 10 || recorded != 3 {
		t.Errorf("only %d commands were found", len(done))
	}
	want(t, 0, []string{"Use Open in place of OpenLid", "cleared C1"}, "commits")
}

// through runs a command line in a terminal and checks its status and what it shows.
func through(t *testing.T, line, answers string, status int, wanted string) {
	t.Helper()
	cmd := exec.Command("sh", "-c", line)
	terminal, err := pty.StartWithSize(cmd, &pty.Winsize{Rows: 60, Cols: 160})
	if err != nil {
		t.Fatal(err)
	}
	defer terminal.Close()
	io.WriteString(terminal, answers)
	var shown bytes.Buffer
	io.Copy(&shown, terminal) // ends with an error once the command has
	cmd.Wait()
	if got := cmd.ProcessState.ExitCode(); got != status || !strings.Contains(shown.String(), wanted) {
		t.Fatalf("%s ends with %d, want %d, and no %q in\n%s", line, got, status, wanted, shown.String())
	}
}
