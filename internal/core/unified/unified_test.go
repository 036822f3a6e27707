package unified

import (
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"
)

// TestDiff holds that git applies a diff at the very lines that it names, and that it
// is the diff that git makes.
func TestDiff(t *testing.T) {
	long := func(edit func(n int) string) string {
		var b strings.Builder
		for n := range 60 {
			b.WriteString(edit(n))
		}
		return b.String()
	}
	plain := func(n int) string { return fmt.Sprintf("line %d\n", n) }
	for _, test := range []struct{ name, before, after string }{
		{"edits near one another, and one further on", long(plain), long(func(n int) string {
			switch n {
			case 5:
				return "new\nnewer\n"
			case 8:
				return ""
			case 11:
				return "more\n" + plain(n)
			case 40, 43:
				return "other\n"
			}
			return plain(n)
		})},
		{"a file that comes", "", "a\nb\n"},
		{"a file that goes", "a\nb\n", ""},
		{"no line's end", "a\nb", "a\nc"},
		{"the first line, then the last", long(plain), "first\n" + long(plain) + "last\n"},
		{"all but one", long(plain), plain(7)},
	} {
		t.Run(test.name, func(t *testing.T) {
			dir := t.TempDir()
			git := func(in string, args ...string) string {
				t.Helper()
				cmd := exec.Command("git", append([]string{"-C", dir, "-c", "user.name=Mirja", "-c", "user.email=mirja@example.org"}, args...)...)
				cmd.Stdin = strings.NewReader(in)
				out, err := cmd.CombinedOutput()
				if err != nil {
					t.Fatalf("git %s: %v\n%s\n%s", args[0], err, out, in)
				}
				return string(out)
			}
			file := filepath.Join(dir, "a.txt")
			if err := os.WriteFile(file, []byte(test.before), 0o644); err != nil {
				t.Fatal(err)
			}
			git("", "init", "-q")
			git("", "add", "-A")
			diff := Diff("a/a.txt", "b/a.txt", test.before, test.after)
			if said := git(diff, "apply", "-v", "-"); strings.Contains(said, "offset") {
				t.Errorf("git says %s of\n%s", said, diff)
			}
			got, err := os.ReadFile(file)
			if err != nil || string(got) != test.after {
				t.Errorf("it becomes %q (%v)", got, err)
			}
			_, want, _ := strings.Cut(git("", "diff", "--no-color", "-U3"), "\n@@")
			_, own, _ := strings.Cut(diff, "\n@@")
			if heads(own) != heads(want) {
				t.Errorf("the hunks begin at\n%s\ngit's at\n%s", heads(own), heads(want))
			}
		})
	}
	if diff := Diff("a", "b", "x\n", "x\n"); diff != "" {
		t.Errorf("of the same comes %q", diff)
	}
}

// heads are the numbers of a diff's hunks.
func heads(diff string) string {
	var list []string
	for _, line := range strings.Split("@@"+diff, "\n") {
		if m := header.FindString(line); m != "" {
			list = append(list, m)
		}
	}
	return strings.Join(list, "\n")
}
