package read

import (
	"bytes"
	"flag"
	"fmt"
	"io"
	"maps"
	"os"
	"path/filepath"
	"reflect"
	"slices"
	"strings"
	"testing"
	"testing/iotest"

	"unicausa/internal/core/symptom"
)

var update = flag.Bool("update", false, "write the golden files")

// samples are the recordings that every property is held against.
func samples(t testing.TB) []string {
	t.Helper()
	var names []string
	for _, pattern := range []string{"testdata/*.log", "testdata/*.json", "testdata/*.xml"} {
		found, err := filepath.Glob(pattern)
		if err != nil {
			t.Fatal(err)
		}
		names = append(names, found...)
	}
	if len(names) < 10 {
		t.Fatalf("only %d samples", len(names))
	}
	return names
}

// everything lists the samples and the outputs that the shapes read.
func everything(t testing.TB) []string {
	met, err := filepath.Glob("testdata/met/outputs/*")
	if err != nil || len(met) < 10 {
		t.Fatal("no outputs", err)
	}
	return append(samples(t), met...)
}

func readFile(t testing.TB, name string) []byte {
	t.Helper()
	data, err := os.ReadFile(name)
	if err != nil {
		t.Fatal(err)
	}
	return data
}

func all(t testing.TB, name string, r io.Reader) Result {
	t.Helper()
	result, err := All(name, r)
	if err != nil {
		t.Fatal(err)
	}
	return result
}

// show writes a result for people, a line for each thing that was read.
func show(r Result) string {
	var b strings.Builder
	fmt.Fprintf(&b, "%s %s, %d lines, account %+v\n", r.Format, strings.Join(r.Tools, "+"), r.Lines, r.Account)
	for _, s := range r.Symptoms {
		fmt.Fprintf(&b, "%d-%d %s %s %s", s.At[0].Line, s.At[0].End, s.Kind, s.Phase, s.Tool)
		if s.Code != "" {
			fmt.Fprintf(&b, " %s", s.Code)
		}
		if s.Basis != symptom.ByTool && s.Basis != symptom.ByPattern {
			fmt.Fprintf(&b, " (%s)", s.Basis)
		}
		for _, at := range s.At[1:] {
			fmt.Fprintf(&b, " +%d", at.Line)
		}
		fmt.Fprintf(&b, " | %s:%d:%d | %s | %s | %s\n", s.File, s.Line, s.Column, s.Unit, s.Test, s.Message)
		if s.Detail != "" {
			fmt.Fprintf(&b, "    detail %q\n", shorten(s.Detail))
		}
		for _, ref := range s.Refs {
			fmt.Fprintf(&b, "    %s %s\n", ref.Role, ref.Name)
		}
		for _, f := range s.Frames {
			fmt.Fprintf(&b, "    at %s:%d %s own=%v\n", f.File, f.Line, f.Function, f.Own)
		}
	}
	for _, test := range r.Tests {
		fmt.Fprintf(&b, "test %s | %s %s\n", test.Suite, test.Name, test.Outcome)
	}
	for _, s := range r.Stated {
		fmt.Fprintf(&b, "stated at %d: %d %s, read %d\n", s.Line, s.Count, s.What, s.Read)
	}
	for _, u := range r.Unread {
		fmt.Fprintf(&b, "unread %d: %s\n", u.Line, u.Text)
	}
	for _, name := range slices.Sorted(maps.Keys(r.Versions)) {
		fmt.Fprintf(&b, "version %s %s\n", name, r.Versions[name])
	}
	fmt.Fprintf(&b, "reach %+v\n", r.Reach)
	if r.Problem != "" {
		fmt.Fprintf(&b, "problem: %s\n", r.Problem)
	}
	return b.String()
}

// TestSamples holds the exact reading of each recording.
func TestSamples(t *testing.T) {
	for _, name := range samples(t) {
		t.Run(filepath.Base(name), func(t *testing.T) {
			got := show(all(t, filepath.Base(name), bytes.NewReader(readFile(t, name))))
			golden := name + ".golden"
			if *update {
				if err := os.WriteFile(golden, []byte(got), 0o644); err != nil {
					t.Fatal(err)
				}
			}
			if want := string(readFile(t, golden)); got != want {
				t.Errorf("the reading has changed; go test -update rewrites it\ngot:\n%s\nwant:\n%s", got, want)
			}
		})
	}
}

// TestCleanLogs holds that alarming words in names, paths, progress and
// passing tests are no trouble.
func TestCleanLogs(t *testing.T) {
	clean := 0
	for _, name := range samples(t) {
		if !strings.HasPrefix(filepath.Base(name), "clean") {
			continue
		}
		clean++
		r := all(t, name, bytes.NewReader(readFile(t, name)))
		if len(r.Symptoms)+len(r.Unread) > 0 {
			t.Errorf("%s:\n%s", name, show(r))
		}
	}
	if clean < 8 {
		t.Errorf("there are %d clean logs", clean)
	}
}

// TestLanes holds that outputs woven together by a wrapper are read apart, and
// that what stands before a line is not part of it.
func TestLanes(t *testing.T) {
	const tool = "src/a.ts(3,9): error TS2322: Type 'A' is not assignable to type 'B'."
	for name, text := range map[string]string{
		"plain":      tool + "\n  Types differ.\n",
		"services":   "web-1 | " + tool + "\napi-1 | listening\nweb-1 |   Types differ.\n",
		"workspaces": "[web] " + tool + "\n[api] listening\n[web]   Types differ.\n",
		"tasks":      "web:build: " + tool + "\napi:build: listening\nweb:build:   Types differ.\n",
		"stamps":     "2026-11-25T07:53:36.1234567Z " + tool + "\n2026-11-25T07:53:36.2Z   Types differ.\n",
		"both":       "[07:53:36] web | " + tool + "\n[07:53:37] api | x\n[07:53:38] web |   Types differ.\n",
		"UTF-16":     "\xff\xfe" + utf16(tool+"\n  Types differ.\n"),
		"progress":   "10%\r50%\r" + tool + "\n  Types differ.\n",
	} {
		r := all(t, name, strings.NewReader(text))
		if len(r.Symptoms) != 1 || r.Symptoms[0].Detail != "Types differ." || r.Symptoms[0].File != "src/a.ts" || r.Symptoms[0].At[0].Line != 1 {
			t.Errorf("%s:\n%s", name, show(r))
		}
	}
}

// TestOneBehindAnother holds that whatever a tool leaves open, what another
// prints behind it is read as it would be by itself.
func TestOneBehindAnother(t *testing.T) {
	said := func(data []byte) map[string]bool {
		list := map[string]bool{}
		for _, s := range all(t, "x", bytes.NewReader(data)).Symptoms {
			list[fmt.Sprintf("%s:%d: %s", s.File, s.Line, s.Message)] = true
		}
		return list
	}
	var data [][]byte
	var alone []map[string]bool
	var names []string
	for _, name := range samples(t) {
		if d := readFile(t, name); len(d) > 0 && d[0] < 0x80 {
			names, data, alone = append(names, name), append(data, append(d, '\n')), append(alone, said(d))
		}
	}
	for i := range data {
		for j := range data {
			both := said(append(append([]byte{}, data[i]...), data[j]...))
			for _, want := range []map[string]bool{alone[i], alone[j]} {
				for line := range want {
					if !both[line] {
						t.Errorf("%s behind %s: lost %s", names[j], names[i], line)
					}
				}
			}
		}
	}
}

func utf16(s string) string {
	var b strings.Builder
	for i := range len(s) {
		b.WriteString(s[i:i+1] + "\x00")
	}
	return b.String()
}

// TestFolders holds that files are told apart by the folder that make entered.
func TestFolders(t *testing.T) {
	r := all(t, "x", strings.NewReader("make[1]: Entering directory '/p/web'\na.c:1:1: error: no lid\nmake[1]: Leaving directory '/p/web'\nmake[1]: Entering directory '/p/api'\na.c:1:1: error: no lid\n"))
	if len(r.Symptoms) != 2 || r.Symptoms[0].File != "/p/web/a.c" || r.Symptoms[1].File != "/p/api/a.c" {
		t.Error(show(r))
	}
}

// TestModules holds that files of one name are told apart by what stands above
// their diagnostics or before them.
func TestModules(t *testing.T) {
	const said = "src/a.ts(3,9): error TS2322: No lid.\n"
	for name, text := range map[string]string{
		"headers":        "\n> @pantry/web@1.0.0 build\n> tsc -p .\n\n" + said + "\n> @pantry/api@1.0.0 build\n> tsc -p .\n\n" + said,
		"workspaces":     "[@pantry/web] " + said + "[@pantry/api] " + said,
		"tasks":          "web:build: " + said + "api:build: " + said,
		"services":       "web-1 | " + said + "api-1 | " + said + "web-2 | " + said,
		"old headers":    "> web@1.0.0 build /p/web\n" + said + "> api@1.0.0 build /p/api\n" + said,
		"one in a quote": "> web@1.0.0 build\n" + said + "> api@next is not a header\n" + strings.Replace(said, "3", "4", 1),
	} {
		r := all(t, name, strings.NewReader(text))
		if len(r.Symptoms) != 2 {
			t.Errorf("%s:\n%s", name, show(r))
			continue
		}
		a, b := r.Symptoms[0], r.Symptoms[1]
		switch name {
		case "old headers":
			if a.File != "/p/web/src/a.ts" || b.File != "/p/api/src/a.ts" {
				t.Errorf("%s: %s and %s", name, a.File, b.File)
			}
		case "one in a quote":
			if a.Unit != "web" || b.Unit != "web" {
				t.Errorf("%s: %s and %s", name, a.Unit, b.Unit)
			}
		default:
			if !strings.HasSuffix(a.Unit, "web") || !strings.HasSuffix(b.Unit, "api") {
				t.Errorf("%s: %s and %s", name, a.Unit, b.Unit)
			}
		}
	}
}

func TestPatterns(t *testing.T) {
	good := Pattern{Name: "printer", Match: `^LP(?<code>\d+) (?<file>\S+):(?<line>\d+) (?<message>.*)$`, Kind: "warning", Phase: "test", Like: []string{"LP1 a:2 x"}, Unlike: []string{"LP ready"}}
	patterns, err := NewPatterns([]Pattern{good})
	if err != nil {
		t.Fatal(err)
	}
	r, err := ForProject(Project{Patterns: patterns}, "x", strings.NewReader("LP ready\nLP12 labels/crate.txt:3 field {kg} is unknown\n"))
	if err != nil || len(r.Symptoms) != 1 {
		t.Fatalf("%v\n%s", err, show(r))
	}
	if s := r.Symptoms[0]; s.Kind != symptom.Warning || s.Level != "warning" || s.Phase != symptom.PhaseTest || s.Code != "12" || s.File != "labels/crate.txt" || s.Line != 3 || s.Message != "field {kg} is unknown" || s.Tool != "printer" {
		t.Errorf("%+v", s)
	}
	for want, change := range map[string]func(*Pattern){
		"has no name":                func(p *Pattern) { p.Name = "" },
		"match is missing":           func(p *Pattern) { p.Match = "" },
		"match is no regular":        func(p *Pattern) { p.Match = "(" },
		`has a group "colour"`:       func(p *Pattern) { p.Match = "(?<colour>x)" },
		`kind is "sad"`:              func(p *Pattern) { p.Kind = "sad" },
		`level is "loud"`:            func(p *Pattern) { p.Level = "loud" },
		`phase is "lunch"`:           func(p *Pattern) { p.Phase = "lunch" },
		"at least one line under":    func(p *Pattern) { p.Unlike = nil },
		"does not match its own":     func(p *Pattern) { p.Like = []string{"nothing"} },
		`matches "LP1 a:2 x", which`: func(p *Pattern) { p.Unlike = p.Like },
	} {
		p := good
		change(&p)
		if _, err := NewPatterns([]Pattern{p}); err == nil || !strings.Contains(err.Error(), want) {
			t.Errorf("want %q, got %v", want, err)
		}
	}
}

// TestTree reads a row that only the project's tree makes sure of.
func TestTree(t *testing.T) {
	const text = "reading crates\nlabels/crate.txt(3) crates want a lid\nall read\n"
	for _, test := range []struct {
		name    string
		project Project
		want    int
	}{
		{"without a tree", Project{}, 0},
		{"in the tree", Project{Holds: func(file string) bool { return file == "labels/crate.txt" }}, 1},
		{"not in the tree", Project{Holds: func(string) bool { return false }}, 0},
	} {
		if r, err := ForProject(test.project, "x", strings.NewReader(text)); err != nil || len(r.Symptoms) != test.want {
			t.Errorf("%s: %v\n%s", test.name, err, show(r))
		}
	}
}

// TestOneByteAtATime holds that the reading does not depend on how the bytes come.
func TestOneByteAtATime(t *testing.T) {
	for _, name := range everything(t) {
		data := readFile(t, name)
		whole := all(t, name, bytes.NewReader(data))
		single := all(t, name, iotest.OneByteReader(bytes.NewReader(data)))
		if !reflect.DeepEqual(whole, single) {
			t.Errorf("%s reads differently byte by byte:\n%s\n%s", name, show(whole), show(single))
		}
	}
}

// TestLineEndings holds that CRLF reads like LF, and that a missing last line
// ending changes nothing.
func TestLineEndings(t *testing.T) {
	for _, name := range everything(t) {
		data := readFile(t, name)
		whole := all(t, name, bytes.NewReader(data))
		for form, changed := range map[string][]byte{
			"CRLF":       bytes.ReplaceAll(data, []byte("\n"), []byte("\r\n")),
			"no newline": bytes.TrimSuffix(data, []byte{10}),
		} {
			if form == "CRLF" && strings.HasSuffix(name, ".xml") || form == "no newline" && bytes.HasSuffix(data, []byte("\n\n")) {
				continue // the XML standard itself takes the carriage returns out; a blank last line is one less
			}
			other := all(t, name, bytes.NewReader(changed))
			other.Bytes = whole.Bytes
			if got, want := show(other), show(whole); got != want && strings.Count(string(data), "\n\n\n") == 0 {
				t.Errorf("%s with %s:\n%s\nwant\n%s", name, form, got, want)
			}
		}
	}
}

// TestAccount holds that every line is accounted for, once.
func TestAccount(t *testing.T) {
	for _, name := range everything(t) {
		r := all(t, name, bytes.NewReader(readFile(t, name)))
		a := r.Account
		if sum := a.Symptom + a.Noise + a.Plain + a.Unread; sum != r.Lines {
			t.Errorf("%s: %d lines are accounted for of %d: %+v", name, sum, r.Lines, a)
		}
	}
}

// TestColours holds that control sequences of a terminal change nothing.
func TestColours(t *testing.T) {
	plain := all(t, "x", strings.NewReader("src/a.ts:3:9 - error TS2304: Cannot find name 'lid'.\n"))
	coloured := all(t, "x", strings.NewReader("\x1b[96msrc/a.ts\x1b[0m:\x1b[93m3\x1b[0m:\x1b[93m9\x1b[0m - \x1b[91merror\x1b[0m\x1b[90m TS2304: \x1b[0mCannot find name 'lid'.\x1b]8;;http://x\x07\n"))
	coloured.Bytes = plain.Bytes
	if show(plain) != show(coloured) {
		t.Errorf("got %s want %s", show(coloured), show(plain))
	}
}

// failing fails after some bytes.
type failing struct{ r io.Reader }

func (f failing) Read(p []byte) (int, error) {
	n, err := f.r.Read(p)
	if err == io.EOF {
		err = io.ErrNoProgress
	}
	return n, err
}

func TestErrorOfTheInputIsPassedOn(t *testing.T) {
	for _, text := range []string{"", "a.c:1:1: error: no\n", `<testsuite><testcase name="a"/>`} {
		if _, err := All("x.log", failing{strings.NewReader(text)}); err == nil || !strings.Contains(err.Error(), "reading x.log") {
			t.Errorf("after %q: %v", text, err)
		}
	}
}

func TestLongLineIsCut(t *testing.T) {
	text := "a.c:1:1: error: " + strings.Repeat("x", 3*maxLine) + "\nb.c:2:2: error: short\n"
	r := all(t, "x", strings.NewReader(text))
	if len(r.Symptoms) != 2 || r.Lines != 2 || len(r.Symptoms[0].Message) > maxLine || r.Symptoms[1].At[0].Line != 2 || r.Bytes != int64(len(text)) {
		t.Errorf("%d symptoms in %d lines of %d bytes", len(r.Symptoms), r.Lines, r.Bytes)
	}
}

// FuzzReaders feeds lines to each reader by itself, without the marks that
// choose lines for it.
func FuzzReaders(f *testing.F) {
	for _, name := range everything(f) {
		f.Add(readFile(f, name))
	}
	f.Fuzz(func(t *testing.T, data []byte) {
		for _, s := range streams {
			out, reader := newSink("x"), s.open()
			c := &chunk{data: data}
			c.search(streamMarks())
			for i := range c.lines {
				reader.line(Line{Number: i + 1, Text: c.line(i), c: c, index: i}, out)
			}
			reader.close(out)
			for _, m := range out.result.Symptoms {
				if at := m.At[0]; at.Line < 1 || at.End < at.Line || at.Line > len(c.lines) {
					t.Fatalf("%s: a symptom stands at %d to %d of %d lines", s.name, at.Line, at.End, len(c.lines))
				}
			}
		}
	})
}

func FuzzAll(f *testing.F) {
	for _, name := range everything(f) {
		f.Add(readFile(f, name))
	}
	f.Fuzz(func(t *testing.T, data []byte) {
		r, err := All("x", bytes.NewReader(data))
		if err != nil {
			t.Fatal(err)
		}
		if a := r.Account; r.Format != FormatBinary && a.Symptom+a.Noise+a.Plain+a.Unread != r.Lines {
			t.Errorf("%+v does not sum up to %d lines", a, r.Lines)
		}
		for _, s := range r.Symptoms {
			if at := s.At[0]; at.Line < 1 || at.End < at.Line || at.Line > r.Lines {
				t.Errorf("a symptom stands at %d to %d of %d lines", at.Line, at.End, r.Lines)
			}
		}
	})
}

// BenchmarkAll reads a log mixed of all samples.
func BenchmarkAll(b *testing.B) {
	var log bytes.Buffer
	for _, name := range samples(b) {
		if !strings.HasSuffix(name, ".xml") && !strings.Contains(name, "mixed") {
			log.Write(readFile(b, name))
		}
	}
	data := bytes.Repeat(log.Bytes(), 20)
	b.SetBytes(int64(len(data)))
	for b.Loop() {
		all(b, "x", bytes.NewReader(data))
	}
}

// BenchmarkShapes reads outputs that no reader was written for, each time twice
// as many: the speed has to stay what it is.
func BenchmarkShapes(b *testing.B) {
	var log bytes.Buffer
	for _, name := range everything(b) {
		if strings.HasPrefix(name, "testdata/met") && strings.HasSuffix(name, ".log") {
			log.Write(readFile(b, name))
		}
	}
	for times := 4; times <= 64; times *= 2 {
		b.Run(fmt.Sprint(times), func(b *testing.B) {
			data := bytes.Repeat(log.Bytes(), times)
			b.SetBytes(int64(len(data)))
			for b.Loop() {
				all(b, "x", bytes.NewReader(data))
			}
		})
	}
}
