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
	if data, err := Zip(dir); data != nil || err != nil {
		t.Errorf("outside of a working copy: %d bytes, %v", len(data), err)
	}
	run(t, dir, "init", "-q")
	write(t, dir, map[string]string{
		"a.go": "package a\n", "sub/b.go": "package b\n", "new.go": "package n\n", "skipped/c.go": "x", ".gitignore": "skipped/\n", "pic.bin": "a\x00b", "large.txt": strings.Repeat("x", mostFile+1), "gone.go": "x",
	})
	run(t, dir, "add", "a.go", "sub", "gone.go")
	if err := os.Remove(filepath.Join(dir, "gone.go")); err != nil {
		t.Fatal(err)
	}
	if err := os.Symlink("a.go", filepath.Join(dir, "link.go")); err != nil {
		t.Fatal(err)
	}
	data, err := Zip(dir)
	if err != nil {
		t.Fatal(err)
	}
	r, err := zip.NewReader(bytes.NewReader(data), int64(len(data)))
	if err != nil {
		t.Fatal(err)
	}
	var names []string
	for _, f := range r.File {
		names = append(names, f.Name)
	}
	if want := []string{".gitignore", "a.go", "new.go", "sub/b.go"}; !reflect.DeepEqual(names, want) {
		t.Errorf("packed are %v, want %v", names, want)
	}
	again, err := Zip(dir)
	if err != nil || !bytes.Equal(data, again) {
		t.Errorf("the same tree packs otherwise (%v)", err)
	}
	if sub, err := Zip(filepath.Join(dir, "sub")); err != nil || !bytes.Contains(sub, []byte("b.go")) || bytes.Contains(sub, []byte("a.go")) {
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
