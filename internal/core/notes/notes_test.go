package notes

import (
	"flag"
	"fmt"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"
)

var update = flag.Bool("update", false, "write the golden files")

func show(changes []Change) string {
	var b strings.Builder
	for _, c := range changes {
		fmt.Fprintf(&b, "%d-%d %s %s impact=%s | %s\n", c.Line, c.End, orDash(c.Version), c.Kind, c.Impact, c.Title)
		if c.Package != "example.org/jar" {
			fmt.Fprintf(&b, "    of %s\n", c.Package)
		}
		if len(c.Context) > 0 {
			fmt.Fprintf(&b, "    under %s\n", strings.Join(c.Context, " › "))
		}
		for _, s := range c.Symbols {
			fmt.Fprintf(&b, "    %s\n", strings.Join(strings.Fields(fmt.Sprintf("%s %s %.1f %s %s", s.Side, s.Name, s.Weight, s.Role, s.Owner)), " "))
		}
		for _, r := range c.Renames {
			fmt.Fprintf(&b, "    rename %s to %s\n", r.From, r.To)
		}
		for _, m := range c.Requires {
			fmt.Fprintf(&b, "    requires %s %s\n", m.Name, m.Least+strings.TrimSuffix("above "+m.Above, "above "))
		}
		for _, line := range c.Before {
			fmt.Fprintf(&b, "    before %s\n", line)
		}
		for _, line := range c.After {
			fmt.Fprintf(&b, "    after %s\n", line)
		}
	}
	return b.String()
}

func orDash(s string) string {
	if s == "" {
		return "-"
	}
	return s
}

// documents are the sample documents, of every form.
func documents(t testing.TB) []string {
	t.Helper()
	names, err := filepath.Glob("testdata/*.*")
	if err != nil {
		t.Fatal(err)
	}
	names = slices.DeleteFunc(names, func(name string) bool { return strings.HasSuffix(name, ".golden") })
	if len(names) < 14 {
		t.Fatalf("there are %d documents", len(names))
	}
	return names
}

// TestDocuments holds the exact changes of whole documents.
func TestDocuments(t *testing.T) {
	for _, name := range documents(t) {
		t.Run(filepath.Base(name), func(t *testing.T) {
			source, err := os.ReadFile(name)
			if err != nil {
				t.Fatal(err)
			}
			got := show(Read(filepath.Base(name), "example.org/jar", source))
			golden := name + ".golden"
			if *update {
				if err := os.WriteFile(golden, []byte(got), 0o644); err != nil {
					t.Fatal(err)
				}
			}
			want, err := os.ReadFile(golden)
			if err != nil {
				t.Fatal(err)
			}
			if got != string(want) {
				t.Errorf("the changes are others now; go test -update rewrites them\ngot:\n%s\nwant:\n%s", got, want)
			}
		})
	}
}

// TestEntries reads single entries under "## 5.0.0" and holds kind and renames.
func TestEntries(t *testing.T) {
	for _, test := range []struct{ entry, kind, renames string }{
		{"`OpenLid` was renamed to `Open`.", "renamed", "OpenLid>Open"},
		{"Renamed `OpenLid` to `Open`", "renamed", "OpenLid>Open"},
		{"Rename the method `OpenLid` to `Open`.", "renamed", "OpenLid>Open"},
		{"`OpenLid` → `Open`", "renamed", "OpenLid>Open"},
		{"`OpenLid` -> `Open`", "renamed", "OpenLid>Open"},
		{"`openLid()` is now called `open()`", "renamed", "openLid>open"},
		{"`openLid` is called `open`", "renamed", "openLid>open"},
		{"The option `lid` is now `cap`", "renamed", "lid>cap"},
		{"`OpenLid` became `Open`", "renamed", "OpenLid>Open"},
		{"`OpenLid` has been replaced by `Open`", "renamed", "OpenLid>Open"},
		{"Replace `OpenLid` with `Open`", "renamed", "OpenLid>Open"},
		{"Use `Open` instead of `OpenLid`", "renamed", "OpenLid>Open"},
		{"Removed `OpenLid`. Use `Open` instead.", "removed", "OpenLid>Open"},
		{"`OpenLid` was removed", "removed", ""},
		{"`OpenLid` is gone", "removed", ""},
		{"`OpenLid` is no longer exported", "removed", ""},
		{"Dropped `OpenLid`", "removed", ""},
		{"`OpenLid` is deprecated in favour of `Open`", "deprecated", "OpenLid>Open"},
		{"`OpenLid` is deprecated", "deprecated", ""},
		{"`lids` moved to `caps`", "moved", "lids>caps"},
		{"Lids live in a package of their own", "moved", ""},
		{"Go 1.25 or newer is required", "requirement", ""},
		{"Requires Node 20", "requirement", ""},
		{"Drop support for Python 3.8", "requirement", ""},
		{"The minimum version of Go is 1.25", "requirement", ""},
		{"`Fill` takes a context as its first argument", "signature", ""},
		{"`Open` now returns an error", "signature", ""},
		{"The default of `lid` changed to `cap`", "default", ""},
		{"Jars are stacked by default", "default", ""},
		{"`A`, `B` and `C` are gone; use `Lid` instead", "removed", "A>Lid B>Lid C>Lid"},
		{"The flag `--lid` replaced `--cap`", "renamed", "--cap>--lid"},
		{"`lid` is a string. Call `open` where you print it", "behaviour", ""},
		{"Changed in version 5.0.0: the lid is round", "behaviour", ""},
		{"Deprecated in 5.0.0: `Lid`", "deprecated", ""},
		{"Added `Shake`", "added", ""},
		{"New function `Shake`", "added", ""},
		{"Fix a crash in `Fill`", "fixed", ""},
		{"Rounding is now to even", "behaviour", ""},
		{"Halves go to the even step", "behaviour", ""},
	} {
		changes := Read("x.md", "p", []byte("## 5.0.0\n\n- "+test.entry+"\n"))
		if len(changes) != 1 {
			t.Errorf("%q gives %d changes", test.entry, len(changes))
			continue
		}
		var renames []string
		for _, r := range changes[0].Renames {
			renames = append(renames, r.From+">"+r.To)
		}
		if got := strings.Join(renames, " "); string(changes[0].Kind) != test.kind || got != test.renames {
			t.Errorf("%q is %s with %q, want %s with %q", test.entry, changes[0].Kind, got, test.kind, test.renames)
		}
		if changes[0].Version != "5.0.0" || changes[0].Line != 3 || changes[0].End != 3 {
			t.Errorf("%q stands at %d to %d in %s", test.entry, changes[0].Line, changes[0].End, changes[0].Version)
		}
	}
}

// TestSections holds that an entry that orders a removal is one under new features
// as well, and that the number of an issue in front of it is none of its words.
func TestSections(t *testing.T) {
	for _, test := range []struct {
		heading, entry, title string
		kind                  Kind
	}{
		{"Features", "remove old lids", "remove old lids", Removed},
		{"Features", "Delete the lids that nobody used", "Delete the lids that nobody used", Removed},
		{"Features", "deprecate `Lid`", "deprecate Lid", Deprecated},
		{"Features", "removal of lids can be watched", "removal of lids can be watched", Added},
		{"Fixed", "Remove a crash when lids are open", "Remove a crash when lids are open", Fixed},
		{"Changed", "JAR-12: Lids are round", "Lids are round", Behaviour},
		{"Changed", "JAR-12, JAR-13: Lids are round", "Lids are round", Behaviour},
		{"Changed", "Issue #31: Lids are round", "Lids are round", Behaviour},
		{"Changed", "#31: Lids are round", "Lids are round", Behaviour},
		{"Changed", "[#31](https://jar.example/31): Lids are round", "Lids are round", Behaviour},
		{"Changed", "UTF-8: names of lids are", "UTF-8: names of lids are", Behaviour},
	} {
		changes := Read("x.md", "p", []byte("## 5.0.0\n\n### "+test.heading+"\n\n- "+test.entry+"\n"))
		if len(changes) != 1 || changes[0].Title != test.title || changes[0].Kind != test.kind {
			t.Errorf("%q under %q: %+v", test.entry, test.heading, changes)
		}
	}
}

// TestReleaseItself holds that what a release says of itself is no entry.
func TestReleaseItself(t *testing.T) {
	for text, want := range map[string]int{
		"This is the eighth alpha release, based off 4.17 with its changes.": 0,
		"This is a version in which `Lid` changed.":                          1,
		"This release no longer accepts lids.":                               1,
	} {
		if got := Read("x.md", "p", []byte("## 5.0.0\n\n- "+text+"\n- Jars are round now.\n")); len(got) != want+1 {
			t.Errorf("%q gives %d entries, want %d", text, len(got)-1, want)
		}
	}
}

// TestSides holds on which side of a change a name stands for the words around it.
func TestSides(t *testing.T) {
	for _, test := range []struct{ entry, name, want string }{
		{"The selector was removed, use `map` instead", "map", "new 1"},
		{"Selectors are gone in favour of `map` and `pick`", "pick", "new 1"},
		{"To use `map` with lids, open them", "map", "either 1"},
		{"You can no longer use `map`", "map", "either 1"},
		{"`fill(lid)` becomes `lid.pipe(map)`", "pipe", "new 1"},
		{"`res.send(status, body)` is refused", "body", "either 0.5"},
		{"Write `source.pipe(pick(x => glue(x)))` from now on", "glue", "either 0.4"},
		{"`open({ lid: true })` is refused", "lid", "either 1"},
		{"`-Wno-error=lid-size` makes a warning of it", "-Wlid-size", "either 1"},
		{"`-Wno-lid-size` turns it off", "-Wlid-size", "either 1"},
	} {
		got := "none"
		for _, s := range Read("x.md", "p", []byte("## 5.0.0\n\n- "+test.entry+".\n"))[0].Symbols {
			if s.Name == test.name || LastPart(s.Name) == test.name {
				got = fmt.Sprintf("%s %v", s.Side, s.Weight)
			}
		}
		if got != test.want {
			t.Errorf("%s in %q is %s, want %s", test.name, test.entry, got, test.want)
		}
	}
}

// TestHeadingDecides holds that the heading above an entry tells its kind
// where its words do not.
func TestHeadingDecides(t *testing.T) {
	for heading, want := range map[string]Kind{
		"Added": Added, "New features": Added, "Fixed": Fixed, "Bug fixes": Fixed, "Removed": Removed, "Deprecations": Deprecated,
		"Changed": Behaviour, "Breaking changes": Behaviour, "💥 Breaking": Behaviour, "Moved": Moved,
	} {
		changes := Read("x.md", "p", []byte("## 5.0.0\n\n### "+heading+"\n\n- `Lid` and `Cap`\n"))
		if len(changes) != 1 || changes[0].Kind != want || changes[0].Version != "5.0.0" {
			t.Errorf("under %q: %+v", heading, changes)
		}
	}
}

func TestHeadingVersion(t *testing.T) {
	for text, want := range map[string]string{
		"5.0.0": "5.0.0", "v5.0.0": "5.0.0", "[5.0.0] - 2031-02-18": "5.0.0", "Version 5.0.0 (2031-02-18)": "5.0.0", "5.0": "5.0", "4.x": "4",
		"5.0.0-rc.1": "5.0.0-rc.1", "5.0.0rc1": "5.0.0rc1", "Migrating from 4 to 5": "5", "Upgrading from 4.2 to 5.0": "5.0", "Release 7": "7", "v3": "3",
		"From 2 to 3": "3", "jar 5.1.2 is out": "5.1.2", "2031-02-18": "", "Unreleased": "unreleased", "[Unreleased]": "unreleased", "2031.2.18": "2031.2.18", "2.0b1 (unreleased)": "2.0b1", "Breaking changes": "", "Names": "", "18.02.2031": "",
	} {
		if got := headingVersion(text); got != want {
			t.Errorf("%q names version %q, want %q", text, got, want)
		}
	}
}

func TestWithin(t *testing.T) {
	for _, test := range []struct {
		version, from, to string
		want              bool
	}{
		{"5.0.0", "4.2.0", "5.0.0", true}, {"4.2.0", "4.2.0", "5.0.0", false}, {"4.2.1", "4.2.0", "5.0.0", true}, {"5.0.1", "4.2.0", "5.0.0", false},
		{"5", "4.2.0", "5.1.0", true}, {"4", "4.2.0", "5.0.0", false}, {"", "4.2.0", "5.0.0", true}, {"9", "", "", true}, {"3", "4", "", false},
		{"unreleased", "4.2.0", "5.0.0", false}, {"unreleased", "4.2.0", "", true}, {"5.0", "4.2.0", "5.0.3", true}, {"4.2", "4.2.1", "5.0.0", true}, {"6", "4", "5", false},
	} {
		if got := Within(test.version, test.from, test.to); got != test.want {
			t.Errorf("%q within %q to %q is %v", test.version, test.from, test.to, got)
		}
	}
}

// TestForm holds that the content tells the form.
func TestForm(t *testing.T) {
	for text, want := range map[string]Form{
		"": FormMarkdown, "# 5.0\n\n- a\n": FormMarkdown, "5.0\n===\n\n**Breaking:** a\n": FormMarkdown, "See [this](a.md)\n": FormMarkdown,
		"<!DOCTYPE html><html>": FormHTML, "<?xml version=\"1.0\"?>\n<html>": FormHTML, "<!-- saved -->\n<div>a</div>": FormHTML,
		"5.0\n~~~\n\n- a\n": FormRST, ".. note:: a\n": FormRST, "Use ``a`` not ``b``\n": FormRST, "See :func:`a`\n": FormRST,
		"## 5.0\n\nUse ``a`` and ``b``\n": FormMarkdown, "5.0\n  - a\n": FormText, "5.0:\n  o use `a`\n": FormText,
		"commit 0123456789abcdef0123456789abcdef01234567 (tag: v1)\nAuthor: a\n": FormCommits, "commit to it\n": FormText,
	} {
		if got := FormOf([]byte(text)); got != want {
			t.Errorf("%q is %s, want %s", text, got, want)
		}
	}
}

func TestRequirements(t *testing.T) {
	for text, want := range map[string]string{
		"Requires Node 20": "Node 20", "It now requires at least Python 3.11.": "Python 3.11", "Go 1.25 or newer is required": "Go 1.25", "Node.js 22 is now the minimum": "Node.js 22",
		"The minimum Rust version is 1.80": "Rust 1.80", "The minimum version of Go is now 1.24": "Go 1.24", "Dropped support for Ruby 3.0": "Ruby above 3.0", "PHP 7.4 is no longer supported": "PHP above 7.4",
		"needs `jar` >= 5.1": "jar 5.1", "The `@o/lid` peer dependency was raised to ^4.2.0": "@o/lid 4.2.0", "Rounding needs care": "", "5 jars are needed": "", "Requires a lid": "",
	} {
		var got []string
		for _, m := range requirementsIn(text) {
			got = append(got, strings.TrimSpace(m.Name+" "+m.Least+strings.TrimSuffix("above "+m.Above, "above ")))
		}
		if strings.Join(got, ", ") != want {
			t.Errorf("%q requires %q, want %q", text, got, want)
		}
	}
}

// TestBlockPairs holds which names examples set against each other.
func TestBlockPairs(t *testing.T) {
	for _, test := range []struct{ before, after, want string }{
		{"a.open()", "a.lift()", "a.open>a.lift"}, {"x = press.juice;", "x = press.must;", "press.juice>press.must"}, {"fill(3)", "fill(ctx, 3)", ""}, {"a.open(1)", "a.lift(2)", ""},
		{"open(lid)", "lift(cap)", ""}, {"font: old;", "font: new;", ""}, {"--lid-color=1", "--lid-colour=1", "--lid-color>--lid-colour"}, {"a\nopen()", "a\nlift()", "open>lift"}, {"open()", "open()\nlift()", ""},
	} {
		var got []string
		for _, r := range blockPairs(strings.Split(test.before, "\n"), strings.Split(test.after, "\n")) {
			got = append(got, r.From+">"+r.To)
		}
		if strings.Join(got, " ") != test.want {
			t.Errorf("%q and %q give %v, want %s", test.before, test.after, got, test.want)
		}
	}
}

func TestRoles(t *testing.T) {
	for text, want := range map[string]Role{
		"the option `lid`": Option, "the `lid` and `cap` options": Option, "set `lid: true`": Option, "`lid` keyed": "", "the flag `--lid`": Flag, "`-l`": "",
		"`lid.yaml` is read": File, "`.lidrc`": File, "the environment variable `LID_HOME`": Environment, "`LID_HOME` (an environment variable)": Environment, "the constant `LID_HOME`": "",
	} {
		changes := Read("x.md", "p", []byte("## 5.0.0\n\n- "+text+"\n"))
		got := Role("none")
		for _, s := range changes[0].Symbols {
			got = s.Role
			break
		}
		if got != want && !(want == "" && got == "none") {
			t.Errorf("in %q it is %q, want %q", text, got, want)
		}
	}
}

func TestImpact(t *testing.T) {
	for text, want := range map[string]string{
		"High impact: x": "high", "impact: low": "low", "Likelihood of impact: very high": "high", "Medium-impact changes": "medium", "a high jar": "unknown", "": "unknown",
	} {
		if got := impactOf(text); got != want {
			t.Errorf("the impact of %q is %s, want %s", text, got, want)
		}
	}
}

// TestIdentity holds that an entry keeps its ID when others come before it.
func TestIdentity(t *testing.T) {
	one := Read("x.md", "p", []byte("## 5.0.0\n\n- `A` is gone\n- `A` is gone\n"))
	more := Read("x.md", "p", []byte("## 5.0.0\n\n- `B` is gone\n- `A` is gone\n- `A` is gone\n"))
	if one[0].ID != more[1].ID || one[1].ID != more[2].ID || one[0].ID == one[1].ID {
		t.Errorf("the IDs are %s %s and %s %s %s", one[0].ID, one[1].ID, more[0].ID, more[1].ID, more[2].ID)
	}
	other := Read("x.md", "q", []byte("## 5.0.0\n\n- `A` is gone\n"))
	if other[0].ID == one[0].ID {
		t.Error("another package's entry has the same ID")
	}
}

func TestNothingToRead(t *testing.T) {
	for _, text := range []string{"", "\n\n", "# Title\n", "```go\nx\n```\n", "---\n"} {
		if changes := Read("x.md", "p", []byte(text)); len(changes) != 0 {
			t.Errorf("%q gives %+v", text, changes)
		}
	}
}

// TestLongDocuments holds that a long document, read in parts, says the same as
// its samples one after the other.
func TestLongDocuments(t *testing.T) {
	source, err := os.ReadFile("testdata/changelog.md")
	if err != nil {
		t.Fatal(err)
	}
	body := string(source) + "\n## 1.0\n\n```\n## no heading\n- `nothing`\n```\n"
	lines, n := strings.Count(body, "\n"), 200
	first := len(Read("x.md", "p", []byte(body))) // whose introduction is left out
	later := Read("x.md", "p", []byte(body+body))[first:]
	all := Read("x.md", "p", []byte(strings.Repeat(body, n)))
	if len(all) != first+(n-1)*len(later) {
		t.Fatalf("%d changes of %d and %d times %d", len(all), first, n-1, len(later))
	}
	for i, c := range all[first:] {
		want, below := later[i%len(later)], i/len(later)*lines
		if c.Line != want.Line+below || c.End != want.End+below || c.Title != want.Title || c.Version != want.Version {
			t.Fatalf("change %d is %d-%d %s %s, want %d-%d %s %s", i, c.Line, c.End, c.Version, c.Title, want.Line+below, want.End+below, want.Version, want.Title)
		}
	}
}

func FuzzRead(f *testing.F) {
	for _, name := range documents(f) {
		source, err := os.ReadFile(name)
		if err != nil {
			f.Fatal(err)
		}
		f.Add(string(source))
	}
	f.Add("- a\n  - b\n    - `c`\n    - `d`\n")
	f.Fuzz(func(t *testing.T, text string) {
		lines := strings.Count(text, "\n") + 1
		for _, c := range Read("x.md", "p", []byte(text)) {
			if c.Line < 1 || c.End < c.Line || c.End > lines || c.Title == "" || c.ID == "" {
				t.Errorf("a change stands at %d to %d of %d lines: %+v", c.Line, c.End, lines, c)
			}
		}
	})
}

func BenchmarkRead(b *testing.B) {
	source, err := os.ReadFile("testdata/changelog.md")
	if err != nil {
		b.Fatal(err)
	}
	var long strings.Builder
	for i := range 400 {
		fmt.Fprintf(&long, "\n## %d.0.0\n\n%s", i, source[strings.Index(string(source), "### Breaking"):])
	}
	b.SetBytes(int64(long.Len()))
	for b.Loop() {
		Read("x.md", "p", []byte(long.String()))
	}
}
