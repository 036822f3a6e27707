package source

import (
	"archive/zip"
	"bytes"
	"fmt"
	"reflect"
	"strings"
	"testing"
	"testing/fstest"
)

var files = fstest.MapFS{
	"shelf/shelf.go": {Data: []byte(`package shelf

import (
	"fmt"
	old "example.org/jar/v3"
	_ "example.org/side"
	"example.org/press/v2"
)

// Open opens "jar.Lid" and more.
func Open(n int) error {
	j := old.New(n)
	if err := j.Shut("press.Print(x)"); err != nil {
		return fmt.Errorf("no: %w", err) // press.Comment
	}
	press.Print(old.Grams(n), helper(n))
	return nil
}

func (s *Shelf) Count() int { return 0 }
`)},
	"shelf/helper.go":       {Data: []byte("package shelf\n\nfunc helper(n int) int {\n\treturn n\n}\n")},
	"shelf/shelf_test.go":   {Data: []byte("package shelf\n")},
	"label/shelf_test.go":   {Data: []byte("package label\n")},
	"front/labels.ts":       {Data: []byte("import jar, { open, type Lid, shut as close } from \"jar\";\nimport * as press from 'press';\nimport {\n  a,\n  b,\n} from \"./other\";\nimport \"side\";\nexport { c } from \"jar/c\";\n\nexport function print(lid: Lid): void {\n  const box = jar.make();\n  close(open(lid)); press.go(a); box.seal();\n}\n")},
	"front/other.ts":        {Data: []byte("export const a = () => {\n  return 1;\n};\n")},
	"front/old.js":          {Data: []byte("const { open, shut: close } = require('jar');\nconst press = require(\"press\");\n")},
	"tool/shelf.py":         {Data: []byte("import jar, press as p\nfrom jar.lids import (\n    Lid,\n    open as o,\n)\n\ndef fill(n):\n    return o(Lid(n))\n\nx = 1\n")},
	"src/Shelf.java":        {Data: []byte("import org.example.jar.Lid;\nimport static org.example.jar.Lids.open;\n")},
	"src/shelf.rs":          {Data: []byte("use jar::lids::Lid;\nuse press as p;\n")},
	"src/Shelf.php":         {Data: []byte("<?php\nuse Jar\\Lids\\Lid;\nuse function strlen;\n")},
	"node_modules/jar/a.ts": {Data: []byte("x")},
	"dist/front/labels.js":  {Data: []byte("x")},
	".git/config":           {Data: []byte("x")},
	"data.bin":              {Data: []byte("a\x00b")},
	"deep/one/config.ts":    {Data: []byte("x")},
	"deep/two/config.ts":    {Data: []byte("x")},
	"apps/web/src/box.ts":   {Data: []byte("x")},
	"apps/api/src/box.ts":   {Data: []byte("x")},
}

func newTree(t *testing.T) *Tree {
	t.Helper()
	tree, err := NewTree(files)
	if err != nil {
		t.Fatal(err)
	}
	return tree
}

func TestFilesSkipsWhatOthersWrote(t *testing.T) {
	for _, name := range newTree(t).Files() {
		for _, part := range []string{"node_modules", "dist/", ".git/"} {
			if strings.Contains(name, part) {
				t.Errorf("%s is listed", name)
			}
		}
	}
}

func TestFind(t *testing.T) {
	tree := newTree(t)
	for _, test := range []struct {
		file, unit, want string
		exact            bool
	}{
		{"shelf/shelf.go", "", "shelf/shelf.go", true},
		{"./shelf/shelf.go", "", "shelf/shelf.go", true},
		{`shelf\shelf.go`, "", "shelf/shelf.go", true},
		{"/ci/build/7/shelf/shelf.go", "", "shelf/shelf.go", true},
		{"shelf_test.go", "example.org/pantry/shelf", "shelf/shelf_test.go", true},
		{"shelf_test.go", "example.org/pantry/label", "label/shelf_test.go", true},
		{"shelf_test.go", "", "", false},
		{"dist/front/labels.js", "", "front/labels.ts", false},
		{"front/labels.js", "", "front/labels.ts", false},
		{"config.ts", "", "", false},
		{"src/box.ts", "", "", false},
		{"src/box.ts", "@pantry/web", "apps/web/src/box.ts", true},
		{"src/box.ts", "api", "apps/api/src/box.ts", true},
		{"two/config.ts", "", "deep/two/config.ts", true},
		{"gone.go", "", "", false},
		{"", "", "", false},
	} {
		if name, exact := tree.Find(test.file, test.unit); name != test.want || exact != test.exact {
			t.Errorf("Find(%q, %q) is %q %v, want %q %v", test.file, test.unit, name, exact, test.want, test.exact)
		}
	}
}

func TestImports(t *testing.T) {
	tree := newTree(t)
	for file, want := range map[string]string{
		"shelf/shelf.go":  "fmt=fmt. old=example.org/jar/v3. _=example.org/side. press=example.org/press/v2.",
		"front/labels.ts": "jar=jar.default open=jar.open Lid=jar.Lid close=jar.shut press=press. a=./other.a b=./other.b =side. c=jar/c.c",
		"front/old.js":    "open=jar.open close=jar.shut press=press.default",
		"tool/shelf.py":   "jar=jar. p=press. Lid=jar.lids.Lid o=jar.lids.open",
		"src/Shelf.java":  "Lid=org.example.jar.Lid open=org.example.jar.Lids.open",
		"src/shelf.rs":    "Lid=jar.lids.Lid p=.press",
		"src/Shelf.php":   "Lid=Jar.Lids.Lid strlen=.strlen",
		"gone.go":         "",
	} {
		var got []string
		for _, i := range tree.Imports(file) {
			got = append(got, fmt.Sprintf("%s=%s.%s", i.Local, i.Package, i.Name))
		}
		if strings.Join(got, " ") != want {
			t.Errorf("%s imports\n%s\nwant\n%s", file, strings.Join(got, " "), want)
		}
	}
}

func TestNames(t *testing.T) {
	var got []string
	for _, n := range Names(`j.Shut("jar.Lid", 'x') + open(n)?.seal() // press.Print`) {
		got = append(got, fmt.Sprintf("%s/%s@%d call=%v", n.Qualifier, n.Text, n.Column, n.Call))
	}
	want := []string{"/j@1 call=false", "j/Shut@3 call=true", "/open@26 call=true", "/n@31 call=false", "/seal@35 call=true"}
	if !reflect.DeepEqual(got, want) {
		t.Errorf("the names are\n%v\nwant\n%v", got, want)
	}
	if names := Names(`"an open string`); len(names) != 0 {
		t.Errorf("inside a string there are %v", names)
	}
}

func TestUses(t *testing.T) {
	tree := newTree(t)
	for _, test := range []struct {
		file string
		line int
		want string
	}{
		{"shelf/shelf.go", 12, "example.org/jar/v3.New"},
		{"shelf/shelf.go", 13, "example.org/jar/v3.Shut"},
		{"shelf/shelf.go", 14, "fmt.Errorf"},
		{"shelf/shelf.go", 16, "example.org/press/v2.Print example.org/jar/v3.Grams"},
		{"front/labels.ts", 12, "jar.shut jar.open press.go ./other.a jar.seal"},
		{"tool/shelf.py", 8, "jar.lids.open jar.lids.Lid"},
		{"shelf/shelf.go", 99, ""},
		{"gone.go", 1, ""},
	} {
		var got []string
		for _, u := range tree.Uses(test.file, test.line) {
			got = append(got, u.Package+"."+u.Name)
		}
		if strings.Join(got, " ") != test.want {
			t.Errorf("%s:%d uses %v, want %s", test.file, test.line, got, test.want)
		}
	}
}

func TestFunction(t *testing.T) {
	tree := newTree(t)
	for _, test := range []struct {
		file, name string
		from, end  int
	}{
		{"shelf/shelf.go", "Open", 11, 18},
		{"shelf/shelf.go", "example.org/pantry/shelf.Open", 11, 18},
		{"shelf/shelf.go", "(*Shelf).Count", 20, 20},
		{"front/labels.ts", "print", 10, 13},
		{"front/other.ts", "a", 1, 3},
		{"tool/shelf.py", "fill", 7, 9},
		{"shelf/shelf.go", "gone", 0, 0},
		{"shelf/shelf.go", "", 0, 0},
	} {
		from, end := tree.Function(test.file, test.name)
		if from != test.from || end < test.end || end > test.end+1 {
			t.Errorf("%s of %s stands at %d to %d, want %d to %d", test.name, test.file, from, end, test.from, test.end)
		}
	}
}

func TestHolds(t *testing.T) {
	const text = "return print(printer, render(fields), times);"
	for _, test := range []struct {
		name   string
		column int
		want   bool
	}{
		{"print", 14, true}, {"print", 39, true}, {"render", 30, true}, {"render", 39, false}, {"print", 8, false},
	} {
		from := strings.Index(text, test.name+"(") + 1 + len(test.name)
		if got := Holds(text, from, test.column); got != test.want {
			t.Errorf("%s holds column %d: %v", test.name, test.column, got)
		}
	}
	if !Holds("open(a,", 5, 7) || Holds("no call here", 3, 5) || Holds("", 1, 1) {
		t.Error("a list that goes on, or none, is judged wrongly")
	}
}

func TestNear(t *testing.T) {
	tree := newTree(t)
	if got := tree.Near("shelf/shelf.go", Name{Text: "helper"}); !reflect.DeepEqual(got, []string{"shelf/helper.go", "shelf/shelf.go", "shelf/shelf_test.go"}) {
		t.Errorf("helper may be in %v", got)
	}
	if got := tree.Near("front/labels.ts", Name{Text: "a"}); !reflect.DeepEqual(got, []string{"front/other.ts"}) {
		t.Errorf("a may be in %v", got)
	}
	if got := tree.Near("tool/shelf.py", Name{Text: "fill"}); !reflect.DeepEqual(got, []string{"tool/shelf.py"}) {
		t.Errorf("fill may be in %v", got)
	}
}

// TestNoTree holds that without a tree nothing is found, and nothing breaks.
func TestNoTree(t *testing.T) {
	var tree *Tree
	if name, _ := tree.Find("a.go", ""); name != "" || tree.Files() != nil || tree.Lines("a.go") != nil || tree.Line("a.go", 1) != "" || tree.Imports("a.go") != nil || tree.Uses("a.go", 1) != nil || tree.Near("a.go", Name{}) != nil {
		t.Error("something is found in no tree")
	}
	if from, end := tree.Function("a.go", "f"); from != 0 || end != 0 {
		t.Error("a function is found in no tree")
	}
}

func TestLines(t *testing.T) {
	tree := newTree(t)
	if tree.Lines("data.bin") != nil {
		t.Error("a binary file has lines")
	}
	if got := tree.Line("tool/shelf.py", 10); got != "x = 1" {
		t.Errorf("the line is %q", got)
	}
	for _, n := range []int{0, -1, 999} {
		if tree.Line("tool/shelf.py", n) != "" {
			t.Errorf("line %d is there", n)
		}
	}
}

func TestLineMap(t *testing.T) {
	lines := func(s string) []string { return strings.Fields(s) }
	for _, test := range []struct {
		name, before, after string
		want                []int
	}{
		{"nothing changed", "a b c", "a b c", []int{0, 1, 2, 3}},
		{"a line above", "a b c", "n a b c", []int{0, 2, 3, 4}},
		{"a line gone", "a b c", "a c", []int{0, 1, 0, 2}},
		{"a line edited", "a b c", "a x c", []int{0, 1, 0, 3}},
		{"one becomes three", "a b c", "a x y z c", []int{0, 1, 0, 5}},
		{"three become one", "a x y z c", "a b c", []int{0, 1, 0, 0, 0, 3}},
		{"the last is gone", "a b c", "a b", []int{0, 1, 2, 0}},
		{"one behind the last", "a b", "a b c", []int{0, 1, 2}},
		{"all new", "a b", "c d", []int{0, 0, 0}},
		{"nothing before", "", "a", []int{0}},
		{"nothing after", "a b", "", []int{0, 0, 0}},
	} {
		if got := LineMap(lines(test.before), lines(test.after)); !reflect.DeepEqual(got, test.want) {
			t.Errorf("%s: got %v, want %v", test.name, got, test.want)
		}
	}
}

// TestLargeFiles holds that of files that are large for source text only lock
// files are read.
func TestLargeFiles(t *testing.T) {
	m := fstest.MapFS{}
	for name, size := range map[string]int{"a.go": maxFile, "b.go": maxFile + 1, "package-lock.json": maxFile + 1, "yarn.lock": 8*maxFile + 1} {
		m[name] = &fstest.MapFile{Data: []byte(strings.Repeat("x", size))}
	}
	tree, err := NewTree(m)
	if err != nil {
		t.Fatal(err)
	}
	for name, want := range map[string]bool{"a.go": true, "b.go": false, "package-lock.json": true, "yarn.lock": false, "gone.go": false} {
		if got := tree.Read(name) != nil; got != want {
			t.Errorf("%s is read: %v", name, got)
		}
	}
}

// TestClaimedSizes holds that what an archive claims of a size is not believed.
func TestClaimedSizes(t *testing.T) {
	var archive bytes.Buffer
	w := zip.NewWriter(&archive)
	for name, size := range map[string]uint64{"beyond.go": 1<<63 + 5, "more.go": 100, "less.go": 1} {
		f, err := w.CreateRaw(&zip.FileHeader{Name: name, UncompressedSize64: size, CompressedSize64: 10})
		if err != nil {
			t.Fatal(err)
		}
		if _, err := f.Write([]byte("package a\n")); err != nil {
			t.Fatal(err)
		}
	}
	if err := w.Close(); err != nil {
		t.Fatal(err)
	}
	r, err := zip.NewReader(bytes.NewReader(archive.Bytes()), int64(archive.Len()))
	if err != nil {
		t.Fatal(err)
	}
	tree, err := Tracked(r)
	if err != nil {
		t.Fatal(err)
	}
	for _, name := range tree.Files() {
		if data := tree.Read(name); len(data) > 10 {
			t.Errorf("%s has %d bytes", name, len(data))
		}
	}
}

// TestIgnored holds that a tree leaves out what its .gitignore files name.
func TestIgnored(t *testing.T) {
	m := fstest.MapFS{}
	for name, text := range map[string]string{
		".gitignore": "*.tmp\n!keep.tmp\n/made/\n# a comment\n", "a.tmp": "", "keep.tmp": "", "made/a.go": "", "in/made/a.go": "", "in/.gitignore": "b-*.go\n", "in/b-1.go": "", "in/c.go": "",
		"b-1.go": "", "in/deep/b-2.go": "", "z/b-3.go": "",
	} {
		m[name] = &fstest.MapFile{Data: []byte(text)}
	}
	tree, err := NewTree(m)
	if err != nil {
		t.Fatal(err)
	}
	if got := strings.Join(tree.Files(), " "); got != ".gitignore b-1.go in/.gitignore in/c.go in/made/a.go keep.tmp z/b-3.go" {
		t.Errorf("the files are %s", got)
	}
	if tree, err = Tracked(m); err != nil || len(tree.Files()) != len(m) {
		t.Errorf("of %d files that git has, %d are listed (%v)", len(m), len(tree.Files()), err)
	}
}

func TestSameFamily(t *testing.T) {
	for _, test := range []struct {
		a, b string
		want bool
	}{
		{"example.org/jar", "example.org/jar/v5", true}, {"example.org/jar/v4", "example.org/jar/v5/lid", true}, {"gopkg.in/jar.v3", "gopkg.in/jar.v2", true}, {"@o/jar", "@o/jar/codes", true},
		{"org.jar", "org.jar.lids", true}, {"org.jar.lids", "org.jar", true}, {"jar", "jars", false}, {"", "jar", false}, {"jar::lid", "jar", true},
		{"org.jar:jar", "org.jar.Lid", true}, {"org.jar:jar-core", "org.jar", true}, {"com.jardb:lid", "org.lid.sql", true}, {"org.shelf.tools:jar-lid", "org.other.jar.lid.Screw", true}, {"org.jar:jar", "org.jar:jar-test", true}, {"org.jar:jar", "jar", true},
		{"org.jar:jar", "org.jarred.Lid", false}, {"org.jar:jar", "java.util.List", false}, {"", "org.jar:jar", false},
	} {
		for _, pair := range [][2]string{{test.a, test.b}, {test.b, test.a}} {
			if got := SameFamily(pair[0], pair[1]); got != test.want {
				t.Errorf("%q and %q: %v", pair[0], pair[1], got)
			}
		}
	}
}
