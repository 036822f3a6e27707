package e2e

import (
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"
)

// The made-up library before and after its major version, and what uses it.
const (
	jarOld = `package jar

// Jar is a jar.
type Jar struct{ lid bool }

// OpenLid opens a jar.
func OpenLid(j *Jar) bool { j.lid = true; return j.lid }

// Grams is what a jar holds.
func Grams(n int) int { return n * 250 }
`
	jarNew = `package jar

// Jar is a jar.
type Jar struct{ lid bool }

// Open opens a jar.
func Open(j *Jar) bool { j.lid = true; return j.lid }

// Grams is what a jar holds.
func Grams(n int) int { return n * 300 }
`
	jarNotes = `# Changelog of jar

## 5.0.0

- **Breaking:** ` + "`OpenLid`" + ` was renamed to ` + "`Open`" + `.
- Jars hold 300 grams instead of 250: ` + "`Grams`" + ` counts so.

## 4.2.0

- ` + "`OpenLid`" + ` is faster.
`
	shelf = `package pantry

import "example.org/pantry/jar"

// Breakfast opens two jars.
func Breakfast() bool {
	a, b := &jar.Jar{}, &jar.Jar{}
	return jar.OpenLid(a) && jar.OpenLid(b)
}

// Weight is the weight of a shelf.
func Weight(jars int) int { return jar.Grams(jars) }
`
	shelfTest = `package pantry

import "testing"

func TestBreakfast(t *testing.T) {
	if !Breakfast() {
		t.Error("no jar is open")
	}
}

func TestWeight(t *testing.T) {
	if got := Weight(4); got != 1000 {
		t.Errorf("weight of four jars: got %d, want 1000", got)
	}
}
`
)

// project makes a git repository with the pantry in it, and works there.
func project(t *testing.T) {
	t.Helper()
	t.Chdir(t.TempDir())
	t.Setenv("UNICAUSA_SERVER", server)
	t.Setenv("UNICAUSA_TOKEN", tokenOf(t, "Mirja"))
	for _, name := range []string{"GOFLAGS", "GOWORK"} {
		t.Setenv(name, "")
	}
	write(t, map[string]string{
		"go.mod": "module example.org/pantry\n\ngo 1.26\n", "jar/jar.go": jarOld, "shelf.go": shelf, "shelf_test.go": shelfTest, "CHANGELOG.md": jarNotes,
		".gitignore": ".unicausa.json\n",
	})
	run(t, "git", "init", "-q", "-b", "main")
	commit(t, "Jars on a shelf")
}

func run(t *testing.T, name string, args ...string) {
	t.Helper()
	if out, err := exec.Command(name, args...).CombinedOutput(); err != nil {
		t.Fatalf("%s %s: %v\n%s", name, strings.Join(args, " "), err, out)
	}
}

func commit(t *testing.T, subject string) {
	t.Helper()
	run(t, "git", "add", "-A")
	run(t, "git", "-c", "user.name=Mirja", "-c", "user.email=mirja@example.org", "commit", "-q", "-m", subject)
}

func replace(t *testing.T, file, old, new string) {
	t.Helper()
	data, err := os.ReadFile(file)
	if err != nil {
		t.Fatal(err)
	}
	if !strings.Contains(string(data), old) {
		t.Fatalf("%s holds no %q", file, old)
	}
	write(t, map[string]string{file: strings.ReplaceAll(string(data), old, new)})
}

// checks records build and test with the real compiler.
func checks(t *testing.T, status int, parts ...string) string {
	t.Helper()
	_, build := unicausa(t, "record", "--check", "build", "--", "go", "build", "./...")
	got, test := unicausa(t, "record", "--check", "test", "--", "go", "test", "-count=1", "-json", "./...")
	printed := build + test
	if got != status {
		t.Fatalf("exit status %d, want %d\n%s", got, status, printed)
	}
	for _, part := range parts {
		if !strings.Contains(printed, part) {
			t.Fatalf("no %q in\n%s", part, printed)
		}
	}
	return printed
}

// hand is how a person acts: by the command line, or in the browser.
type hand interface {
	confirm(t *testing.T, cause string)
	decide(t *testing.T, cause, kind, reason string)
	vouch(t *testing.T, code, reason string)
	gate(t *testing.T, open bool, parts ...string)
}

type byCommand struct{}

func (byCommand) confirm(t *testing.T, cause string) {
	want(t, 0, []string{cause + ": link to CHANGELOG.md:5 confirmed"}, "confirm", cause)
}

func (byCommand) decide(t *testing.T, cause, kind, reason string) {
	want(t, 0, []string{cause + ": " + kind + ", " + reason}, "decide", cause, kind, "--reason", reason)
}

func (byCommand) vouch(t *testing.T, code, reason string) {
	gate, err := here(t).Gate(t.Context(), current(t), "")
	if err != nil {
		t.Fatal(err)
	}
	for i, r := range gate.Reasons {
		if r.Code == code {
			want(t, 0, []string{r.Key + ": " + reason, "Mirja"}, "vouch", fmt.Sprint(i+1), "--reason", reason)
		}
	}
}

func (byCommand) gate(t *testing.T, open bool, parts ...string) {
	status := 1
	if open {
		status = 0
	}
	want(t, status, parts, "gate")
}

// TestFromGreenToGreen goes the whole way with the real Go compiler: a green
// baseline, the bump, a wrong fix, a right one, a deleted red test, an
// accepted behaviour, and the open gate. The checks are recorded in a terminal;
// a person acts there too, or in Chromium.
func TestFromGreenToGreen(t *testing.T) {
	t.Run("by command", func(t *testing.T) { fromGreenToGreen(t, byCommand{}) })
	t.Run("in the console", func(t *testing.T) { fromGreenToGreen(t, inConsole{browser(t)}) })
}

func fromGreenToGreen(t *testing.T, person hand) {
	project(t)
	want(t, 0, []string{"of pantry begun", "checks that are found here"}, "begin", "--project", "pantry", "--name", t.Name(), "--move", "example.org/pantry/jar=4.2.0..5.0.0")
	want(t, 0, []string{"CHANGELOG.md: 3 changes"}, "notes", "example.org/pantry/jar=CHANGELOG.md")
	person.gate(t, false, "no baseline yet")
	checks(t, 0, "run 1 of build: passes", "run 2 of test: passes", "unicausa baseline")
	want(t, 0, []string{"build: run 1 accepted, passes", "test: run 2 accepted, passes"}, "baseline")
	person.gate(t, false, "build has not been run since the bump")

	write(t, map[string]string{"jar/jar.go": jarNew})
	commit(t, "Move to jar 5")
	checks(t, 1, "shelf.go:8:13: undefined: jar.OpenLid", "1 new, 0 gone, 1 cause left", "opened: C1", "run 4 of test: status 1")
	listed := want(t, 0, []string{"C1", "jar.OpenLid was renamed to Open", "a rename clears"}, "causes")
	if strings.Contains(listed, "C2") {
		t.Errorf("more than one cause:\n%s", listed)
	}
	want(t, 0, []string{"same missing symbol jar.OpenLid", "shelf.go:8", "return jar.OpenLid(a) && jar.OpenLid(b)", "1 CHANGELOG.md:5", "`OpenLid` was renamed to `Open`"}, "cause", "c1")
	person.confirm(t, "C1")

	replace(t, "shelf.go", "jar.OpenLid(a)", "jar.Open(a)")
	commit(t, "Open the first jar")
	person.decide(t, "C1", "fix", "both callers")
	person.gate(t, false, "C1 is claimed fixed, and no run has proved it yet")
	checks(t, 1, "fix disproved: C1")
	person.gate(t, false, "C1 was claimed fixed, and a later run still shows it")

	replace(t, "shelf.go", "jar.OpenLid(b)", "jar.Open(b)")
	message := want(t, 0, []string{"Use Open in place of OpenLid", "(CHANGELOG.md:5)", "Unicausa-Cause: C1"}, "message", "C1")
	commit(t, message) // its trailer claims the fix
	printed := checks(t, 1, "fix proved: C1", "1 uncovered: hidden until now", "opened: C2")
	if strings.Contains(printed, "introduced") {
		t.Errorf("what was hidden is called introduced:\n%s", printed)
	}
	want(t, 0, []string{"TestWeight", "got 1200, want 1000", "CHANGELOG.md:6"}, "cause", "C2")

	// A test that is deleted while red is not fixed.
	replace(t, "shelf_test.go", "func TestWeight", "func testWeight")
	commit(t, "No test, no failure")
	checks(t, 1)
	person.gate(t, false, "TestWeight passed in the baseline and is missing now", "C2 shows no more because 1 test was deleted or skipped while red")

	replace(t, "shelf_test.go", "func testWeight", "func TestWeight")
	replace(t, "shelf_test.go", "1000", "1200")
	commit(t, "Jars hold 300 grams")
	person.decide(t, "C2", "accept", "jars are larger now")
	checks(t, 0, "0 causes left")
	person.gate(t, false, "no run says which example.org/pantry/jar it ran")
	person.vouch(t, "version-unseen", "it is a folder of ours")
	person.gate(t, true, "he gate is open", "it is a folder of ours")
	want(t, 0, []string{"Use Open in place of OpenLid", "names C1 · cleared C1", "Jars hold 300 grams", "Move to jar 5", "brought C1"}, "commits")
	want(t, 0, []string{"no cause is left"}, "causes")
	want(t, 0, []string{"✓ C1"}, "causes", "--all")
}

func TestRecordFiles(t *testing.T) {
	project(t)
	want(t, 0, nil, "begin", "--name", t.Name(), "--move", "example.org/jar=1..2")
	write(t, map[string]string{"out/build.log": "shelf.c:3:9: warning: unused variable 'lid' [-Wunused-variable]\n", "out/bin": "\x00\x01\x02", "out/empty.log": ""})
	want(t, 0, []string{"run 1 of build: passes", "1 symptom read", "out/bin: this is a binary file"}, "record", "--check", "build", "--file", "out/build.log", "--file", "out/bin", "--file", "out/empty.log")
	want(t, 0, []string{"build: run 1 accepted, passes, 1 symptom known"}, "baseline")
	want(t, 0, []string{"0 new, 0 gone"}, "record", "--check", "build", "--file", "out/build.log", "--no-source")
	want(t, 1, []string{"1 new"}, "record", "--check", "lint", "--exit", "1", "--file", writeNew(t, "lint.log", "shelf.c:9:1: error: missing brace\n"))
}

// TestWorseThanBaseline holds that record ends with 1 as often as a check does
// worse than in its baseline, also where its output does not say why.
func TestWorseThanBaseline(t *testing.T) {
	project(t)
	want(t, 0, nil, "begin", "--name", t.Name(), "--move", "example.org/jar=1..2")
	file := func(text string) string { return writeNew(t, "lids.log", text) }
	want(t, 0, nil, "record", "--check", "lids", "--file", file("12 lids fit\n"))
	want(t, 0, nil, "record", "--check", "caps", "--exit", "1", "--file", file("caps.c:9:1: error: no cap\n"))
	want(t, 0, nil, "baseline")
	for range 2 {
		mute := []string{"status 3", "unread as a whole"}
		want(t, 1, mute, "record", "--check", "lids", "--exit", "3", "--file", file("11 lids fit\none gave way\n"))
	}
	want(t, 0, []string{"lids fails, and nothing in its output says why"}, "causes")
	want(t, 0, nil, "record", "--check", "caps", "--exit", "1", "--file", file("caps.c:10:1: error: no cap\n"))
	want(t, 0, []string{"1 gone"}, "record", "--check", "lids", "--file", file("12 lids fit\n"))
}

func writeNew(t *testing.T, name, text string) string {
	t.Helper()
	name = filepath.Join(t.TempDir(), name)
	write(t, map[string]string{name: text})
	return name
}

// TestCommandErrors holds that bad usage ends with status 2 and says what to do.
func TestCommandErrors(t *testing.T) {
	t.Chdir(t.TempDir())
	t.Setenv("UNICAUSA_SERVER", server)
	for _, test := range []struct {
		name string
		args []string
		part string
	}{
		{"no upgrade", []string{"gate"}, "begin one here (unicausa begin), or name one with --upgrade"},
		{"unknown upgrade", []string{"gate", "--upgrade", "999999"}, "upgrade 999999: not found"},
		{"no service", []string{"gate", "--upgrade", "1", "--server", "http://127.0.0.1:9"}, "start it with: unicausa serve"},
		{"bad move", []string{"begin", "--name", "x", "--move", "jar"}, "give PACKAGE=FROM..TO"},
		{"no move", []string{"begin", "--again"}, "nothing tells what moves"},
		{"nothing to record", []string{"record", "--check", "build", "--upgrade", "1"}, "give a command behind --, or files with --file"},
		{"missing file", []string{"record", "--check", "build", "--upgrade", "1", "--file", "gone.log"}, "cannot read gone.log: no such file or directory"},
		{"missing program", []string{"record", "--check", "build", "--upgrade", "1", "--", "no-such-program"}, "cannot run no-such-program"},
		{"no notes", []string{"notes", "--upgrade", "1"}, "unicausa notes example.org/jar=CHANGELOG.md"},
		{"missing notes", []string{"notes", "--upgrade", "1", "gone.md"}, "cannot read the notes gone.md"},
		{"no cause", []string{"cause", "--upgrade", "1"}, "this wants C3"},
		{"unknown cause", []string{"cause", "--upgrade", "1", "C99"}, "cause C99: not found"},
		{"no cause's name", []string{"cause", "--upgrade", "1", "seven"}, "they are named C1, C2 and so on"},
		{"bad decision", []string{"decide", "--upgrade", "1", "--reason", "x", "C1", "ignore"}, "give fix, defer, accept, wait or dismiss"},
		{"no decision", []string{"decide", "--upgrade", "1", "--reason", "x", "C1"}, "this wants a cause and a decision"},
		{"no such link", []string{"confirm", "--upgrade", "1", "C1", "77"}, "none with the number 77"},
		{"no link's number", []string{"reject", "--upgrade", "1", "C1", "first"}, `there is no change at first`},
		{"unknown flag", []string{"gate", "--loudly"}, "unicausa gate --help"},
		{"taken address", []string{"serve", "--database-url", database, "--listen", strings.TrimPrefix(server, "http://")}, "give another --listen address"},
		{"bad database", []string{"serve", "--database-url", "postgres://127.0.0.1:9/none", "--listen", "127.0.0.1:0"}, "connecting to the database"},
	} {
		t.Run(test.name, func(t *testing.T) { want(t, 2, []string{test.part}, test.args...) })
	}
	write(t, map[string]string{".unicausa.json": "{"})
	want(t, 2, []string{"is not what begin writes"}, "gate")
}
