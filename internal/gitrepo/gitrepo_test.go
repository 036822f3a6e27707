package gitrepo

import (
	"archive/zip"
	"bytes"
	"io/fs"
	"os"
	"os/exec"
	"path/filepath"
	"reflect"
	"strings"
	"testing"
)

func write(t *testing.T, dir string, files map[string]string) {
	t.Helper()
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

func run(t *testing.T, dir string, args ...string) {
	t.Helper()
	cmd := exec.Command("git", append([]string{"-C", dir, "-c", "user.name=Mirja", "-c", "user.email=mirja@example.org"}, args...)...)
	if out, err := cmd.CombinedOutput(); err != nil {
		t.Fatalf("%v\n%s", err, out)
	}
}

func TestHead(t *testing.T) {
	dir := t.TempDir()
	if c, ok := Head(dir); ok {
		t.Errorf("outside of a working copy there is %+v", c)
	}
	run(t, dir, "init", "-q")
	if _, ok := Head(dir); ok {
		t.Error("before the first commit there is one")
	}
	write(t, dir, map[string]string{"a.go": "package a\n"})
	run(t, dir, "add", "-A")
	run(t, dir, "commit", "-q", "-m", "Jars: first\n\nand more")
	c, ok := Head(dir)
	if !ok || len(c.ID) != 40 || c.Subject != "Jars: first" || c.Dirty {
		t.Errorf("the head is %+v", c)
	}
	write(t, dir, map[string]string{"b.go": "package a\n"})
	if c, _ := Head(dir); c.Dirty {
		t.Error("a file that git does not track makes it dirty")
	}
	write(t, dir, map[string]string{"a.go": "package b\n"})
	if c, _ := Head(dir); !c.Dirty {
		t.Error("a change does not make it dirty")
	}
}

func TestZip(t *testing.T) {
	dir := t.TempDir()
	plain := func(text []byte) []byte { return text }
	if data, _, err := Zip(dir, plain); data != nil || err != nil {
		t.Errorf("outside of a working copy: %d bytes, %v", len(data), err)
	}
	run(t, dir, "init", "-q")
	write(t, dir, map[string]string{
		"a.go": "package a\n", "sub/b.go": "package b\n", "new.go": "package n\n", "skipped/c.go": "x", ".gitignore": "skipped/\n", "pic.bin": "a\x00b", "large.txt": strings.Repeat("x", mostFile+1), "gone.go": "x",
		".env": "A=1", "sub/.env.example": "A=", "sub/site.pem": "x",
	})
	run(t, dir, "add", "a.go", "sub", "gone.go", "pic.bin", "large.txt", ".gitignore", ".env")
	run(t, dir, "add", "-f", "skipped")
	if err := os.Remove(filepath.Join(dir, "gone.go")); err != nil {
		t.Fatal(err)
	}
	if err := os.Symlink("a.go", filepath.Join(dir, "link.go")); err != nil {
		t.Fatal(err)
	}
	data, left, err := Zip(dir, plain)
	if err != nil {
		t.Fatal(err)
	}
	if want := ".env, sub/site.pem (may hold keys); skipped/c.go (ignored); 2 files that git does not know (git add them if they belong to the source)"; left.String() != want {
		t.Errorf("it is said that %q is left out", left)
	}
	r, err := zip.NewReader(bytes.NewReader(data), int64(len(data)))
	if err != nil {
		t.Fatal(err)
	}
	var names []string
	for _, f := range r.File {
		names = append(names, f.Name)
	}
	if want := []string{".gitignore", "a.go", "sub/.env.example", "sub/b.go"}; !reflect.DeepEqual(names, want) {
		t.Errorf("packed are %v, want %v", names, want)
	}
	again, _, err := Zip(dir, plain)
	if err != nil || !bytes.Equal(data, again) {
		t.Errorf("the same tree packs otherwise (%v)", err)
	}
	if sub, _, err := Zip(filepath.Join(dir, "sub"), bytes.ToUpper); err != nil || !bytes.Contains(sub, []byte("b.go")) || bytes.Contains(sub, []byte("a.go")) {
		t.Errorf("a folder packs more than itself (%v)", err)
	}
}

func TestAt(t *testing.T) {
	dir := t.TempDir()
	run(t, dir, "init", "-q")
	write(t, dir, map[string]string{"jar/a.go": "package jar\n", "top.go": "package top\n"})
	run(t, dir, "add", "-A")
	run(t, dir, "commit", "-q", "-m", "Jars")
	run(t, dir, "tag", "old")
	write(t, dir, map[string]string{"jar/a.go": "package lid\n", "jar/b.go": "package lid\n"})
	run(t, dir, "add", "-A")
	run(t, dir, "commit", "-q", "-m", "Lids")
	for _, test := range []struct{ dir, commit, file, want string }{
		{dir, "old", "jar/a.go", "package jar\n"},
		{dir, "HEAD", "jar/a.go", "package lid\n"},
		{filepath.Join(dir, "jar"), "old", "a.go", "package jar\n"},
	} {
		tree, err := At(test.dir, test.commit)
		if err != nil {
			t.Fatal(err)
		}
		if got, err := fs.ReadFile(tree, test.file); err != nil || string(got) != test.want {
			t.Errorf("%s at %s holds %q, %v", test.file, test.commit, got, err)
		}
	}
	if _, err := At(dir, "no-such"); err == nil || !strings.Contains(err.Error(), "no-such") {
		t.Errorf("a commit that is not there gives %v", err)
	}
}

// TestSince holds that the commits behind a known one are found, with the
// causes that their trailers name, and what a working copy is like.
func TestSince(t *testing.T) {
	dir := t.TempDir()
	if Branch(dir) != "" || DiffDigest(dir) != "" || len(Since(dir, nil)) != 0 {
		t.Error("outside of a working copy there is something")
	}
	run(t, dir, "init", "-q", "-b", "jar-5")
	var ids []string
	for n, message := range []string{"Baseline", "Open in place of OpenLid\n\nIt was renamed.\n\nUnicausa-Cause: C3", "Two at once\n\nUnicausa-Cause: c12, C5\nUnicausa-Cause: C5"} {
		write(t, dir, map[string]string{"a.go": strings.Repeat("package a\n", n+1)})
		run(t, dir, "add", "-A")
		run(t, dir, "commit", "-q", "-m", message)
		head, _ := Head(dir)
		ids = append(ids, head.ID)
	}
	if got := Branch(dir); got != "jar-5" {
		t.Errorf("the branch is %q", got)
	}
	list := Since(dir, []string{ids[0], "0000000000000000000000000000000000000000"})
	if len(list) != 2 || list[0].ID != ids[2] || strings.Join(list[0].Causes, " ") != "C12 C5" || strings.Join(list[1].Causes, " ") != "C3" || list[1].Subject != "Open in place of OpenLid" || list[1].Author != "Mirja" || list[1].At.IsZero() || strings.Join(list[1].Files, " ") != "a.go" {
		t.Errorf("since the baseline there are %+v", list)
	}
	if list := Since(dir, nil); len(list) != 1 || list[0].ID != ids[2] {
		t.Errorf("with nothing known there are %+v", list)
	}
	if list := Since(dir, ids); len(list) != 0 {
		t.Errorf("with all known there are %+v", list)
	}
	if DiffDigest(dir) != "" {
		t.Error("a clean working copy has a digest")
	}
	write(t, dir, map[string]string{"a.go": "package b\n"})
	one := DiffDigest(dir)
	write(t, dir, map[string]string{"a.go": "package c\n"})
	if two := DiffDigest(dir); len(one) != 64 || one == two {
		t.Errorf("the digests are %q and %q", one, two)
	}
}
