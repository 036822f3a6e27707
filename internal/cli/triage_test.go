package cli

import (
	"bytes"
	"encoding/json"
	"flag"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"

	"unicausa/internal/core/symptom"
	"unicausa/internal/core/triage"
	"unicausa/internal/demo"
)

var update = flag.Bool("update", false, "write the golden files")

// call runs the command line and gives its exit status and what it printed.
func call(t *testing.T, stdin string, args ...string) (status int, out, errs string) {
	t.Helper()
	var o, e bytes.Buffer
	status = Main(t.Context(), append([]string{"unicausa"}, args...), strings.NewReader(stdin), &o, &e)
	return status, o.String(), e.String()
}

// demoFolder lays a stage of the demo and its notes into a folder, and works there.
func demoFolder(t *testing.T) {
	t.Helper()
	t.Chdir(t.TempDir())
	for to, from := range map[string]string{
		"before/build.log": "recordings/steelyard-4/00-baseline/build.log", "before/labels.log": "recordings/steelyard-4/00-baseline/labels.log",
		"before/test.json": "recordings/steelyard-4/00-baseline/test.log", "after/build.log": "recordings/steelyard-4/01-bump/build.log",
		"after/front.log": "recordings/steelyard-4/01-bump/front.log", "after/labels.log": "recordings/steelyard-4/01-bump/labels.log",
		"after/test.json": "recordings/steelyard-4/01-bump/test.log", "CHANGELOG.md": "notes/steelyard.md", "UPGRADING.md": "notes/binlabel-3.md",
	} {
		data, err := demo.File(from)
		if err == nil {
			err = os.MkdirAll(filepath.Dir(to), 0o755)
		}
		if err == nil {
			err = os.WriteFile(to, data, 0o644)
		}
		if err != nil {
			t.Fatal(err)
		}
	}
}

// TestTriageText holds the text that triage prints into a pipe: plain, without
// control sequences, 100 columns wide at most where it cuts.
func TestTriageText(t *testing.T) {
	golden, err := filepath.Abs("testdata/triage.txt")
	if err != nil {
		t.Fatal(err)
	}
	demoFolder(t)
	status, out, errs := call(t, "", "triage", "--before", "before/build.log", "--before", "before/test.json", "--before", "before/labels.log",
		"--notes", "orchardworks.example/steelyard=CHANGELOG.md", "--notes", "@orchardworks/binlabel=UPGRADING.md",
		"after/build.log", "after/test.json", "after/front.log", "after/labels.log")
	if status != 1 || errs != "" {
		t.Errorf("status %d: %s", status, errs)
	}
	if strings.Contains(out, "\x1b") {
		t.Error("piped output has control sequences")
	}
	if *update {
		if err := os.WriteFile(golden, []byte(out), 0o644); err != nil {
			t.Fatal(err)
		}
	}
	want, err := os.ReadFile(golden)
	if err != nil {
		t.Fatal(err)
	}
	if out != string(want) {
		t.Errorf("the text is another now; go test -update rewrites it\n%s", out)
	}
	for _, line := range strings.Split(out, "\n") {
		if n := len([]rune(line)); n > 102 {
			t.Errorf("%d columns: %s", n, line)
		}
	}
}

func TestTriageJSON(t *testing.T) {
	demoFolder(t)
	status, out, _ := call(t, "", "triage", "--format", "json", "--notes", "CHANGELOG.md", "--from", "3.7.0", "--to", "4.1.0", "after/build.log")
	var report triage.Report
	if err := json.Unmarshal([]byte(out), &report); err != nil {
		t.Fatal(err)
	}
	if status != 1 || report.Format != "unicausa-report" || report.Version != 1 || len(report.Inputs) != 1 || report.Inputs[0].Name != "after/build.log" || report.Inputs[0].Side != "after" || len(report.Changes) == 0 || report.Changes[0].Notes != "CHANGELOG.md" {
		t.Errorf("status %d, report %+v", status, report.Summary)
	}
	for _, s := range report.Symptoms {
		if s.Symbols == nil || s.At == nil || s.ID == "" || s.Cause == "" || s.Template == "" {
			t.Errorf("the symptom is not whole: %+v", s)
		}
	}
	for _, c := range report.Causes {
		if c.Symptoms == nil || c.Links == nil || c.Because == nil || c.Root != c.Symptoms[0] {
			t.Errorf("the cause is not whole: %+v", c)
		}
	}
}

func TestTriageStandardInput(t *testing.T) {
	status, out, _ := call(t, "a.c:1:1: error: no lid\n", "triage", "-")
	if status != 1 || !strings.Contains(out, "1 new symptom from 1 cause") || !strings.Contains(out, "a.c:1  -:1") {
		t.Errorf("status %d:\n%s", status, out)
	}
}

func TestTriageNothingNew(t *testing.T) {
	t.Chdir(t.TempDir())
	for _, test := range []struct {
		name, before, after, text string
		status                    int
	}{
		{"clean", "", "", "✓ nothing new", 0},
		{"known", "a.c:1:1: error: no\n", "a.c:9:1: error: no\n", "✓ nothing new  1 unchanged, 0 absent", 0},
		{"gone", "a.c:1:1: error: no\n", "", "✓ nothing new  0 unchanged, 1 absent", 0},
		{"new", "", "a.c:1:1: error: no\n", "1 new symptom", 1},
		{"unread", "", "printing ended with error: the printer is on fire\n", "1 line that looks like errors and could not be read", 0},
		{"malformed", "", `<testsuite><testcase name="a"`, "this XML breaks off at line 1", 0},
		{"wrong total", "", "a.ts(1,1): error TS2304: Cannot find name 'a'.\nFound 3 errors in 1 file.\n", "says 3 errors, 1 were read", 1},
	} {
		t.Run(test.name, func(t *testing.T) {
			if err := os.WriteFile("before.log", []byte(test.before), 0o644); err != nil {
				t.Fatal(err)
			}
			if err := os.WriteFile("after.log", []byte(test.after), 0o644); err != nil {
				t.Fatal(err)
			}
			status, out, errs := call(t, "", "triage", "--before", "before.log", "after.log")
			if status != test.status || !strings.Contains(out, test.text) || errs != "" {
				t.Errorf("status %d, want %d with %q:\n%s%s", status, test.status, test.text, out, errs)
			}
		})
	}
}

// TestTriageBase holds that the commit before the bump tells a moved line from
// a new one with the same words.
func TestTriageBase(t *testing.T) {
	t.Chdir(t.TempDir())
	write := func(name, text string) {
		if err := os.WriteFile(name, []byte(text), 0o644); err != nil {
			t.Fatal(err)
		}
	}
	git := func(args ...string) {
		if out, err := exec.Command("git", append([]string{"-c", "user.name=Mirja", "-c", "user.email=mirja@example.org"}, args...)...).CombinedOutput(); err != nil {
			t.Fatalf("%v\n%s", err, out)
		}
	}
	write("crate.c", "open();\na\nb\nc\nopen();\n")
	write("before.log", "crate.c:5:1: error: no lid\n")
	git("init", "-q")
	git("add", "crate.c")
	git("commit", "-q", "-m", "Crates")
	write("crate.c", "n\nn\nn\nopen();\na\nb\nc\nopen();\n")
	write("after.log", "crate.c:4:1: error: no lid\ncrate.c:8:1: error: no lid\n")
	for base, want := range map[string]int{"HEAD": 4, "": 8} { // without it the nearest line is the old one
		_, out, errs := call(t, "", "triage", "--repo", ".", "--base", base, "--format", "json", "--before", "before.log", "after.log")
		var r triage.Report
		if err := json.Unmarshal([]byte(out), &r); err != nil {
			t.Fatalf("%v\n%s", err, errs)
		}
		for _, s := range r.Symptoms {
			if (s.State == symptom.New) != (s.Line == want) {
				t.Errorf("with base %q line %d is %s", base, s.Line, s.State)
			}
		}
	}
}

// TestTriageErrors holds that bad usage and bad input end with status 2 and
// one line that says what to do.
func TestTriageErrors(t *testing.T) {
	t.Chdir(t.TempDir())
	for name, text := range map[string]string{"a.log": "fine\n", "binary": "a\x00b", "notes.bin": "\x00"} {
		if err := os.WriteFile(name, []byte(text), 0o644); err != nil {
			t.Fatal(err)
		}
	}
	if err := os.Mkdir("folder", 0o755); err != nil {
		t.Fatal(err)
	}
	for _, test := range []struct{ name, args, part string }{
		{"no file", "triage", "no file to read"},
		{"missing file", "triage gone.log", "cannot read gone.log: no such file or directory"},
		{"missing before", "triage --before gone.log a.log", "cannot read gone.log"},
		{"a folder", "triage folder", "folder is a folder: name the files in it"},
		{"a binary file", "triage binary", "binary: this is a binary file"},
		{"missing notes", "triage --notes gone.md a.log", "cannot read the notes gone.md"},
		{"binary notes", "triage --notes notes.bin a.log", "give Markdown"},
		{"missing repo", "triage --repo gone a.log", "cannot read the source tree gone"},
		{"a file as repo", "triage --repo a.log a.log", "--repo a.log is no folder"},
		{"a commit without a repo", "triage --base HEAD a.log", "--base HEAD needs --repo"},
		{"a commit that is not there", "triage --repo . --base v0 a.log", "cannot read the source tree of --base v0: git archive: fatal:"},
		{"bad format", "triage --format yaml a.log", "give text, json, markdown, html or sarif"},
		{"unknown flag", "triage --loud a.log", "see: unicausa triage --help"},
	} {
		t.Run(test.name, func(t *testing.T) {
			status, out, errs := call(t, "", strings.Fields(test.args)...)
			if status != 2 || !strings.Contains(errs, test.part) || !strings.HasPrefix(errs, "unicausa: ") && test.name != "unknown flag" {
				t.Errorf("status %d, want 2 with %q:\n%s%s", status, test.part, out, errs)
			}
			if strings.Contains(out+errs, "panic") {
				t.Errorf("it panics:\n%s%s", out, errs)
			}
		})
	}
}

func TestHelp(t *testing.T) {
	status, out, _ := call(t, "", "--help")
	for _, name := range []string{"triage", "serve", "begin", "record", "baseline", "notes", "causes", "cause", "confirm", "reject", "decide", "gate", "demo"} {
		if status != 0 || !strings.Contains(out, "   "+name) {
			t.Errorf("status %d, no %s in\n%s", status, name, out)
		}
	}
}

func TestParseMove(t *testing.T) {
	for value, want := range map[string]string{"example.org/jar=4.2.0..5.0.0": "example.org/jar 4.2.0 5.0.0", "jar=..5": "jar  5", "jar": "", "=1..2": "", "jar=1-2": ""} {
		m, err := parseMove(value)
		if got := m.Package + " " + m.From + " " + m.To; (err == nil) != (want != "") || err == nil && got != want {
			t.Errorf("%q is %q (%v), want %q", value, got, err, want)
		}
	}
}
