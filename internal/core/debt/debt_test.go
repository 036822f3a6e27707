package debt

import (
	"fmt"
	"strings"
	"testing"
	"testing/fstest"

	"unicausa/internal/core/source"
	"unicausa/internal/core/versions"
)

func tree(t *testing.T, files map[string]string) *source.Tree {
	t.Helper()
	fsys := fstest.MapFS{}
	for name, text := range files {
		fsys[name] = &fstest.MapFile{Data: []byte(text)}
	}
	made, err := source.NewTree(fsys)
	if err != nil {
		t.Fatal(err)
	}
	return made
}

// TestAdded holds which lines count as put off, in the languages that have a
// form of their own for it.
func TestAdded(t *testing.T) {
	for file, lines := range map[string][]string{
		"a.go":    {"x := lid() //nolint:staticcheck", "t.Skip(\"the lid is stuck\")"},
		"a.ts":    {"// @ts-expect-error until jar 6", "/* eslint-disable no-restricted-imports */", "it.skip('opens', open)"},
		"a.py":    {"open()  # type: ignore[attr-defined]", "import jar  # noqa: F401", "@pytest.mark.xfail(reason='jar 6')", "warnings.filterwarnings('ignore', category=DeprecationWarning)"},
		"A.java":  {"@SuppressWarnings(\"deprecation\")", "@Disabled(\"jar 6\")"},
		"a.rs":    {"#[allow(deprecated)]", "#[ignore]"},
		"a.c":     {"#pragma GCC diagnostic ignored \"-Wdeprecated-declarations\""},
		"A.cs":    {"#pragma warning disable CS0618", "[Fact(Skip = \"jar 6\")]"},
		"a.php":   {"// @phpstan-ignore-next-line", "$this->markTestSkipped('jar 6');", "error_reporting(E_ALL & ~E_DEPRECATED);"},
		"a.rb":    {"open # rubocop:disable Lint/Void"},
		"a.exs":   {"@tag :skip"},
		"lid.js":  {"// compat shim: jar 6 has no lid"},
		"lids.kt": {"@Suppress(\"DEPRECATION\")"},
	} {
		for _, line := range lines {
			after := tree(t, map[string]string{file: "one\n" + line + "\n"})
			found := Added(tree(t, map[string]string{file: "one\n"}), after)
			if len(found) != 1 || found[0].Line != 2 || found[0].File != file || found[0].Code != line {
				t.Errorf("%s: %q gives %+v", file, line, found)
			}
			if again := Added(tree(t, map[string]string{file: line + "\none\n"}), after); len(again) != 0 {
				t.Errorf("%s: %q only moved, and is found", file, line)
			}
		}
	}
	for _, line := range []string{"open(lid)", "skipped := 3", "allow(deprecated)", "ignore the lid"} {
		if found := Added(tree(t, nil), tree(t, map[string]string{"a.go": line + "\n"})); len(found) > 0 {
			t.Errorf("%q is taken for %s", line, found[0].What)
		}
	}
	if found := Added(tree(t, nil), tree(t, map[string]string{"CHANGES.md": "- a shim for jar 6\n"})); len(found) > 0 {
		t.Error("a document is taken for code")
	}
}

func TestDue(t *testing.T) {
	const today = "2031-05-01"
	moves := []versions.Move{{Package: "example.org/jar", From: "5.0.0", To: "6.0.0"}}
	for _, test := range []struct {
		text string
		want string // why it is due, "" for not yet
	}{
		{"2031-05-01", "its date, 2031-05-01, has come"},
		{"2031-05-02", ""},
		{"example.org/jar 6.0.0", "example.org/jar reaches 6.0.0"},
		{"jar@5.9", "example.org/jar reaches 6.0.0"},
		{"jar 6.0.1", ""},
		{"lid 2.0", ""},
		{"6.0", "example.org/jar reaches 6.0.0"},
		{"when the lids are here", ""},
		{"", ""},
	} {
		if got, _ := ParseDue(test.text, moves).Reached(moves, today); got != test.want {
			t.Errorf("%q is due because %q, want %q", test.text, got, test.want)
		}
	}
}

// TestRemoval holds that a workaround is found again where it moved to, and
// taken out whole.
func TestRemoval(t *testing.T) {
	const code = "if jar.Stuck() {\n\tjar.Shake()\n}"
	now := tree(t, map[string]string{"lid.go": "package lid\n", "shelf/lid.go": "func lid() {\n\tif jar.Stuck() {\n\t\tjar.Shake()\n\t}\n\tjar.Open()\n}\n"})
	if file, line := Find(now, "lid.go", code); file != "shelf/lid.go" || line != 2 {
		t.Fatalf("it stands at %s:%d", file, line)
	}
	got := Removal(now, "lid.go", code)
	want := "--- a/shelf/lid.go\n+++ b/shelf/lid.go\n@@ -1,6 +1,3 @@\n func lid() {\n-\tif jar.Stuck() {\n-\t\tjar.Shake()\n-\t}\n \tjar.Open()\n }\n"
	if got != want {
		t.Errorf("got\n%s\nwant\n%s", got, want)
	}
	if got := Removal(now, "lid.go", "jar.Sieve()"); got != "" {
		t.Errorf("what is gone is taken out by\n%s", got)
	}
	for _, code := range []string{"", " \n"} {
		if file, line := Find(now, "lid.go", code); line != 0 {
			t.Errorf("%q is found at %s", code, fmt.Sprint(file, strings.Repeat(":", line)))
		}
	}
}

// TestOut holds that what is waited for is there once its release is.
func TestOut(t *testing.T) {
	released := []versions.Move{{Package: "example.org/jar", To: "5.1.0"}, {Package: "lid", To: "2.0.0-rc.1"}}
	for due, want := range map[string]string{
		"jar 5.1.0": "example.org/jar 5.1.0 is out", "jar@5.0.0": "example.org/jar 5.1.0 is out", "example.org/jar v5.1": "example.org/jar 5.1.0 is out",
		"jar 5.2.0": "", "lid 2.0.0": "", "spoon 1.0.0": "", "2031-05-01": "", "5.0.0": "", "when it rains": "",
	} {
		if why, out := ParseDue(due, nil).Out(released); why != want || out != (want != "") {
			t.Errorf("%q: %q", due, why)
		}
	}
}
