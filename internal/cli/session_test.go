package cli

import (
	"bytes"
	"flag"
	"fmt"
	"io"
	"log/slog"
	"net/http/httptest"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"strings"
	"testing"

	"unicausa/internal/access"
	"unicausa/internal/pglocal/pgtest"
	"unicausa/internal/service"
)

func TestMain(m *testing.M) {
	flag.Parse()
	os.Exit(pgtest.Main(m))
}

// TestSessions plays each file of testdata/sessions: a line that begins with "$ " is a command,
// the lines below it are what it prints; "% " begins a remark. Commands of others set the scene. With -update, what
// is printed is written down, to be read.
func TestSessions(t *testing.T) {
	files, err := filepath.Glob("testdata/sessions/*.txt")
	if err != nil || len(files) == 0 {
		t.Fatalf("there are no sessions (%v)", err)
	}
	for _, file := range files {
		name, err := filepath.Abs(file)
		if err != nil {
			t.Fatal(err)
		}
		t.Run(strings.TrimSuffix(filepath.Base(file), ".txt"), func(t *testing.T) {
			want, err := os.ReadFile(name)
			if err != nil {
				t.Fatal(err)
			}
			home(t)
			var got strings.Builder
			for _, line := range strings.SplitAfter(string(want), "\n") {
				switch {
				case strings.HasPrefix(line, "$ "):
					got.WriteString(line)
					got.WriteString(steady(played(t, strings.TrimSpace(line[2:]))))
				case strings.HasPrefix(line, "% "):
					got.WriteString("\n" + line)
				}
			}
			text := strings.TrimLeft(got.String(), "\n")
			if *update {
				if err := os.WriteFile(name, []byte(text), 0o644); err != nil {
					t.Fatal(err)
				}
				return
			}
			was, is := strings.Split(string(want), "\n"), strings.Split(text, "\n")
			command := ""
			for i := range max(len(was), len(is)) {
				a, b := at(was, i), at(is, i)
				if strings.HasPrefix(a, "$ ") {
					command = a
				}
				if a != b {
					t.Fatalf("line %d, behind %q, is\n%s\nand was\n%s\nwhere that is meant: go test ./internal/cli -run TestSessions -update, and read the difference", i+1, command, b, a)
				}
			}
		})
	}
}

func at(lines []string, i int) string {
	if i < len(lines) {
		return lines[i]
	}
	return ""
}

// home is an empty folder with a service of its own, and a git that makes the same commits
// each time.
func home(t *testing.T) {
	t.Helper()
	url, _ := pgtest.Database(t, "")
	s, err := service.Start(t.Context(), service.Config{Database: url, MaxUpload: 1 << 20, Token: "session", User: "keeper", Version: "test", Log: slog.New(slog.NewTextHandler(io.Discard, nil))})
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { s.Stop(t.Context()) })
	server := httptest.NewServer(s.Handler())
	t.Cleanup(server.Close)
	t.Chdir(t.TempDir())
	for name, value := range map[string]string{
		"UNICAUSA_SERVER": server.URL, access.TokenVariable: "session", "XDG_CONFIG_HOME": t.TempDir(), "NO_COLOR": "1", "COLUMNS": "100", "PAGER": "cat", "TZ": "UTC",
		"GIT_AUTHOR_NAME": "Mirja", "GIT_AUTHOR_EMAIL": "mirja@shelf.example", "GIT_COMMITTER_NAME": "Mirja", "GIT_COMMITTER_EMAIL": "mirja@shelf.example",
		"GIT_AUTHOR_DATE": "2031-05-01T10:00:00Z", "GIT_COMMITTER_DATE": "2031-05-01T10:00:00Z", "GIT_CONFIG_GLOBAL": os.DevNull, "GIT_CONFIG_NOSYSTEM": "1",
	} {
		t.Setenv(name, value)
	}
}

// played runs a command and gives what it prints, with its exit status where that is not 0.
func played(t *testing.T, line string) string {
	t.Helper()
	args := words(line)
	var out bytes.Buffer
	status := 0
	if args[0] == "unicausa" && !strings.Contains(line, " | ") && !strings.Contains(line, " > ") {
		status = Main(t.Context(), args, strings.NewReader(""), &out, &out)
	} else {
		cmd := exec.CommandContext(t.Context(), "sh", "-c", line)
		cmd.Stdout, cmd.Stderr = &out, &out
		if err := cmd.Run(); err != nil {
			status = cmd.ProcessState.ExitCode()
		}
	}
	text := out.String()
	if text != "" && !strings.HasSuffix(text, "\n") {
		text += "\n"
	}
	if status != 0 {
		text += fmt.Sprintf("(status %d)\n", status)
	}
	return text
}

// words are the words of a command line, in which quotes hold spaces.
func words(line string) []string {
	var list []string
	for _, m := range regexp.MustCompile(`'([^']*)'|"([^"]*)"|(\S+)`).FindAllStringSubmatch(line, -1) {
		list = append(list, m[1]+m[2]+m[3])
	}
	return list
}

// unsteady is what differs from time to time: moments, how long something took, addresses.
var unsteady = []struct {
	form *regexp.Regexp
	as   string
}{
	{regexp.MustCompile(`20\d\d-\d\d-\d\d[T ]\d\d:\d\d(:\d\d(\.\d+)?Z?)?`), "MOMENT"},
	{regexp.MustCompile(`20(2[0-9])-\d\d-\d\d`), "DAY"},
	{regexp.MustCompile(`\b\d+ms\b|\b\d+\.\d+ ?s\b`), "TIME"},
	{regexp.MustCompile(`\bgo 1\.\d+(\.\d+)?\b`), "go VERSION"},
	{regexp.MustCompile(`http://127\.0\.0\.1:\d+`), "SERVER"},
	{regexp.MustCompile(`key=[\w-]+`), "key=KEY"},
	{regexp.MustCompile(`/tmp/[\w./-]+`), "FOLDER"},
	{regexp.MustCompile(`[ \t]+\n`), "\n"},
}

func steady(text string) string {
	for _, u := range unsteady {
		text = u.form.ReplaceAllString(text, u.as)
	}
	return text
}
