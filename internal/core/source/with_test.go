package source

import (
	"strings"
	"testing"
	"testing/fstest"
)

// TestWith puts files in the place of others, twice over.
func TestWith(t *testing.T) {
	tree, err := NewTree(fstest.MapFS{"a.go": {Data: []byte("package a\n")}, "b/b.go": {Data: []byte("package b\n\nimport \"fmt\"\n")}})
	if err != nil {
		t.Fatal(err)
	}
	changed := tree.With(map[string][]byte{"a.go": nil, "b/b.go": []byte("package other\n"), "c.go": []byte("package c\n")})
	for _, test := range []struct {
		tree  *Tree
		files string
		b     string
	}{
		{tree, "a.go b/b.go", "package b"},
		{changed, "b/b.go c.go", "package other"},
		{changed.With(map[string][]byte{"a.go": []byte("package a\n"), "c.go": nil}), "a.go b/b.go", "package other"},
		{tree.Only([]string{"b/b.go", "none.go"}), "b/b.go", "package b"},
		{changed.Only(nil), "", ""},
	} {
		if got := strings.Join(test.tree.Files(), " "); got != test.files {
			t.Errorf("the files are %s, want %s", got, test.files)
		}
		if got := test.tree.Line("b/b.go", 1); got != test.b {
			t.Errorf("b.go begins with %q, want %q", got, test.b)
		}
		if test.tree.Has("a.go") != strings.Contains(test.files, "a.go") {
			t.Error("what it has is not what it lists")
		}
	}
	if got := changed.Imports("b/b.go"); len(got) > 0 {
		t.Errorf("the file that took its place imports %+v", got)
	}
	if name, _ := changed.Find("/checkout/c.go", ""); name != "c.go" {
		t.Errorf("the file that came is found as %q", name)
	}
	var none *Tree
	if none.Has("a.go") || len(none.Files()) > 0 {
		t.Error("no tree has files")
	}
}
