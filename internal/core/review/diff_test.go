package review

import (
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"

	"unicausa/internal/core/source"
	"unicausa/internal/core/source/sourcetest"
)

func TestParseWrong(t *testing.T) {
	for text, want := range map[string]string{
		"no diff":                               "this is no unified diff: give what git diff or git show prints",
		"--- a/x\n+++ b/x\n@@ -1,2 +1 @@\n-a\n": "this is no unified diff: ",
		"diff --git a/x b/x\n--- a/x\n+++ b/x\n@@ what @@\n": "this is no unified diff: ",
	} {
		if _, err := Parse(strings.NewReader(text)); err == nil || !strings.Contains(err.Error(), want) {
			t.Errorf("%q gives %v, want %q", text, err, want)
		}
	}
	if d, err := Parse(strings.NewReader("")); err != nil || len(d.blocks()) > 0 {
		t.Errorf("nothing gives %v, %v", d, err)
	}
}

// TestNames holds that a file goes by its own name, whatever prefix its sides have.
func TestNames(t *testing.T) {
	const hunk = "@@ -1 +1 @@\n-one\n+two\n"
	for text, want := range map[string][2]string{
		"--- a/x.go\n+++ b/x.go\n" + hunk:                                   {"x.go", "x.go"},
		"--- x.go\n+++ x.go\n" + hunk:                                       {"x.go", "x.go"},
		"--- a/x.go\n+++ a/x.go\n" + hunk:                                   {"a/x.go", "a/x.go"},
		"diff --git a/b/x.go b/b/x.go\n--- a/b/x.go\n+++ b/b/x.go\n" + hunk: {"b/x.go", "b/x.go"},
		"--- /dev/null\n+++ b/x.go\n@@ -0,0 +1 @@\n+one\n":                  {"", "x.go"},
	} {
		d, err := Parse(strings.NewReader(text))
		if err != nil || len(d.files) != 1 || d.files[0].OldName != want[0] || d.files[0].NewName != want[1] {
			t.Errorf("%q: %+v, %v", text, d.files, err)
		}
	}
}

// TestTrees holds that a diff is undone from the tree behind it and done from the one
// before it: as git prints it, and as two trees give it.
func TestTrees(t *testing.T) {
	long := strings.Repeat("line\n", 40)
	for _, test := range []struct {
		name          string
		before, after map[string]string
	}{
		{"edits, a file that comes and one that goes", map[string]string{"a.go": "one\ntwo\nthree\n", "gone.go": "g\n"}, map[string]string{"a.go": "one\n2\nthree\nfour\n", "new.go": "n\nm\n"}},
		{"a long file", map[string]string{"a.go": "first\n" + long + "last\n"}, map[string]string{"a.go": long + "last\nmore\n"}},
		{"no line's end", map[string]string{"a.go": "one\ntwo"}, map[string]string{"a.go": "one\n2"}},
		{"a file that moves", map[string]string{"a/x.go": long}, map[string]string{"b/x.go": long}},
		{"one that moves and changes", map[string]string{"a/x.go": "head\n" + long}, map[string]string{"b/x.go": "tail\n" + long}},
		{"line endings of the other sort", map[string]string{"a.go": "one\r\ntwo\r\n"}, map[string]string{"a.go": "one\r\n2\r\n"}},
		{"an empty file", map[string]string{"a.go": "one\n", "b.go": "x\n"}, map[string]string{"a.go": "", "b.go": "x\n"}},
	} {
		t.Run(test.name, func(t *testing.T) {
			between, err := Between(sourcetest.Tree(t, test.before), sourcetest.Tree(t, test.after))
			if err != nil {
				t.Fatal(err)
			}
			printed, err := Parse(strings.NewReader(gitDiff(t, test.before, test.after)))
			if err != nil {
				t.Fatal(err)
			}
			for which, d := range map[string]Diff{"of two trees": between, "of git": printed} {
				for side, have := range map[string]map[string]string{"before": test.before, "after": test.after} {
					before, after := d.Trees(sourcetest.Tree(t, have))
					if before == nil {
						t.Errorf("the diff %s does not fit the tree %s it", which, side)
						continue
					}
					holdsFiles(t, before, test.before)
					holdsFiles(t, after, test.after)
				}
				if before, _ := d.Trees(sourcetest.Tree(t, map[string]string{"a.go": "other\n", "c.go": "other\n"})); before != nil {
					t.Errorf("the diff %s fits another tree", which)
				}
			}
		})
	}
	if before, after := (Diff{}).Trees(nil); before != nil || after != nil {
		t.Error("without a tree there are two")
	}
}

func holdsFiles(t *testing.T, tree *source.Tree, want map[string]string) {
	t.Helper()
	if len(tree.Files()) != len(want) {
		t.Errorf("the tree has %v, want %d files", tree.Files(), len(want))
	}
	for name, text := range want {
		if got := string(tree.Read(name)); got != text {
			t.Errorf("%s holds %q, want %q", name, got, text)
		}
	}
}

// gitDiff is what git diff prints between two trees.
func gitDiff(t *testing.T, before, after map[string]string) string {
	t.Helper()
	dir := t.TempDir()
	git := func(args ...string) string {
		t.Helper()
		cmd := exec.Command("git", append([]string{"-C", dir, "-c", "user.name=Mirja", "-c", "user.email=mirja@example.org", "-c", "core.autocrlf=false"}, args...)...)
		out, err := cmd.CombinedOutput()
		if err != nil {
			t.Fatalf("git %s: %v\n%s", args[0], err, out)
		}
		return string(out)
	}
	lay := func(files map[string]string) {
		for name, text := range files {
			name = filepath.Join(dir, name)
			if err := os.MkdirAll(filepath.Dir(name), 0o755); err != nil {
				t.Fatal(err)
			}
			if err := os.WriteFile(name, []byte(text), 0o644); err != nil {
				t.Fatal(err)
			}
		}
	}
	git("init", "-q")
	lay(before)
	git("add", "-A")
	git("commit", "-q", "-m", "Before")
	for name := range before {
		if err := os.Remove(filepath.Join(dir, name)); err != nil {
			t.Fatal(err)
		}
	}
	lay(after)
	git("add", "-A")
	return git("diff", "--cached", "--no-color", "--find-renames")
}

// TestBlocks holds where the runs of a diff begin, and which are one.
func TestBlocks(t *testing.T) {
	d, err := Parse(strings.NewReader("--- a/a.go\n+++ b/a.go\n@@ -1,8 +1,8 @@\n one\n-f(\n+g(\n )\n-x\n+y\n five\n-six\n eight\n+nine\n ten\n"))
	if err != nil {
		t.Fatal(err)
	}
	var got []string
	for _, b := range d.blocks() {
		got = append(got, strings.Join(b.removed, "|")+">"+strings.Join(b.added, "|"))
		if len(b.removedAt) > 0 && b.removedAt[0] != b.old || len(b.addAt) > 0 && b.addAt[0] != b.line {
			t.Errorf("a block begins at %d and %d, its lines at %v and %v", b.old, b.line, b.removedAt, b.addAt)
		}
	}
	if want := "f(|)|x>g(|)|y six> >nine"; strings.Join(got, " ") != want {
		t.Errorf("the blocks are %q, want %q", strings.Join(got, " "), want)
	}
}

// FuzzParse holds that no diff ends the program, and that one that fits is undone by
// itself.
func FuzzParse(f *testing.F) {
	f.Add("--- a/a.go\n+++ b/a.go\n@@ -1 +1 @@\n-one\n+two\n", "one\n")
	f.Add("diff --git a/a b/b\nrename from a\nrename to b\n", "")
	f.Fuzz(func(t *testing.T, text, file string) {
		d, err := Parse(strings.NewReader(text))
		if err != nil {
			return
		}
		tree := sourcetest.Tree(t, map[string]string{"a.go": file})
		before, after := d.Trees(tree)
		if before != nil && before != tree && after != tree {
			t.Error("the tree is neither side")
		}
		Of(t.Context(), d, Case{Tree: tree})
	})
}
