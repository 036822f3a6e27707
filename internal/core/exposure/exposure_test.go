package exposure

import (
	"fmt"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"unicausa/internal/core/notes"
	"unicausa/internal/core/source/sourcetest"
)

// shelf is a project that uses example.org/jar and @orchard/label.
var shelf = map[string]string{
	"go.mod": "module shelf\n",
	"shelf/shelf.go": `package shelf

import (
	"example.org/jar/v4"
	"example.org/tin"
)

// OpenLid is what jar has.
func Open(j *jar.Jar) error {
	jar.OpenLid(j)
	tin.OpenLid(j)
	note := "OpenLid"
	_ = jar.Options{LidColor: note}
	return j.Kilos()
}
`,
	"shelf/own.go":        "package shelf\n\ntype Own struct{ Kilos int }\n\nfunc OpenLid() {}\n\nfunc use(o Own) int { OpenLid(); return o.Kilos }\n",
	"front/label.ts":      "import { renderLabel, size as dims } from \"@orchard/label\";\nimport { close } from \"./own\";\nrenderLabel(dims);\nclose();\nconst s = `renderLabel`;\n",
	"front/paths.ts":      "import { a } from \"@orchard/label/barcode\";\nexport const where = \"@orchard/label/barcode\";\n",
	"conf/shelf.yaml":     "lid: round\njar:\n  lid_color: red # lid_color\n",
	"conf/run.sh":         "jar fill --lid-color red --lid-colors 2\n",
	"docs/guide.md":       "Call renderLabel with a lid.\n",
	"labels/crate.txt":    "{kg} kg of {name}\n",
	"vendor/jar/jar.go":   "package jar\n\nfunc OpenLid() {}\n",
	"dist/label.js":       "renderLabel()\n",
	"logo.png":            "\x89PNG\x00renderLabel",
	"legacy/Jar.cs":       "using Orchard;\nvar x = OpenLid();\n",
	"legacy/jar_test.rb":  "OpenLid\n",
	"front/broken/x.ts":   "renderLabel(\n",
	"generated/.keep":     "",
	".gitignore":          "generated/\n*.tmp\n!keep.tmp\n",
	"generated/code.go":   "package g\n\nimport \"example.org/jar\"\n\nvar _ = jar.OpenLid\n",
	"scratch.tmp":         "renderLabel\n",
	"front/keep.tmp":      "renderLabel\n",
	"front/.gitignore":    "own-*.ts\n",
	"front/own-notes.ts":  "import { renderLabel } from \"@orchard/label\";\n",
	"front/other-note.ts": "import { renderLabel } from \"@orchard/label\";\n",
}

func places(f Found) string {
	var list []string
	for _, p := range f.Places {
		list = append(list, fmt.Sprintf("%s:%d:%d %s %.1f", p.File, p.Line, p.Column, p.Zone, p.Sure))
	}
	slices.Sort(list)
	return strings.Join(list, "\n")
}

// TestSearch holds every place of single changes, and how sure each is.
func TestSearch(t *testing.T) {
	tree := sourcetest.Tree(t, shelf)
	for _, test := range []struct {
		name, pkg, entry string
		files, count     int
		want             []string
	}{
		{
			"a function of a package", "example.org/jar", "`jar.OpenLid` was renamed to `jar.Open`", 3, 3,
			[]string{"legacy/Jar.cs:2:9 code 0.5", "legacy/jar_test.rb:1:1 code 0.5", "shelf/shelf.go:10:6 code 1.0", "shelf/shelf.go:12:11 string 0.3", "shelf/shelf.go:8:4 comment 0.3"},
		},
		{"a member", "example.org/jar", "`Jar.Kilos` is gone", 1, 1, []string{"shelf/shelf.go:14:11 code 0.7"}},
		{"a field that is set", "example.org/jar", "`Options.LidColor` is now `Options.LidColour`", 1, 1, []string{"shelf/shelf.go:13:18 code 0.7"}},
		{
			"an imported name", "@orchard/label", "`renderLabel` is called `render`", 3, 4,
			[]string{
				"docs/guide.md:1:6 text 0.3", "front/broken/x.ts:1:1 code 0.5", "front/keep.tmp:1:1 text 0.3", "front/label.ts:1:10 code 1.0", "front/label.ts:3:1 code 1.0", "front/label.ts:5:12 string 0.3",
				"front/other-note.ts:1:10 code 1.0",
			},
		},
		{"a module", "@orchard/label", "`@orchard/label/barcode` moved to `@orchard/label/codes`", 1, 2, []string{"front/paths.ts:1:20 string 1.0", "front/paths.ts:2:23 string 0.5"}},
		{"a flag", "example.org/jar", "The flag `--lid-color` was removed", 1, 1, []string{"conf/run.sh:1:10 code 0.5"}},
		{"a setting", "example.org/jar", "The option `lid_color` is gone", 1, 2, []string{"conf/shelf.yaml:3:20 text 1.0", "conf/shelf.yaml:3:3 text 1.0"}},
		{"a template's field", "@orchard/label", "The field `{kg}` is deprecated", 1, 1, []string{"labels/crate.txt:1:1 text 0.7"}},
		{"a word of prose", "@orchard/label", "Labels `close` by themselves", 0, 0, nil},
		{"no name", "example.org/jar", "Halves go to the even step", 0, 0, nil},
		{"another package", "example.org/tin", "`OpenLid` is gone", 3, 3, []string{
			"legacy/Jar.cs:2:9 code 0.5", "legacy/jar_test.rb:1:1 code 0.5", "shelf/shelf.go:11:6 code 1.0", "shelf/shelf.go:12:11 string 0.3", "shelf/shelf.go:8:4 comment 0.3",
		}},
	} {
		t.Run(test.name, func(t *testing.T) {
			changes := notes.Read("x.md", test.pkg, []byte("## 5.0.0\n\n- "+test.entry+"\n"))
			got := Search(t.Context(), tree, changes)[0]
			if list := places(got); list != strings.Join(test.want, "\n") || got.Files != test.files || got.Count != test.count || got.Said != len(test.want)-test.count {
				t.Errorf("%d places in %d files, %d said:\n%s", got.Count, got.Files, got.Said, list)
			}
		})
	}
}

// TestLanguages holds how sure the first place of `Jar.open` is in programs of
// several languages, whose package is named as each of them names it.
func TestLanguages(t *testing.T) {
	for _, test := range []struct {
		name, file, pkg, text string
		want                  float64
	}{
		{"Go, qualified", "a.go", "example.org/jar", "package a\nimport \"example.org/jar\"\nvar x = jar.open()\n", Certain},
		{"Go, under another name", "a.go", "example.org/jar", "package a\nimport j \"example.org/jar/v4\"\nvar x = j.open()\n", Certain},
		{"Go, of a value", "a.go", "example.org/jar", "package a\nimport \"example.org/jar\"\nfunc f(x jar.Jar) { x.open() }\n", Likely},
		{"Go, another package's", "a.go", "example.org/jar", "package a\nimport \"os\"\nvar x = os.open()\n", 0},
		{"Go, without an import", "a.go", "example.org/jar", "package a\nfunc open() {}\n", 0},
		{"TypeScript, imported", "a.ts", "jar", "import { open } from \"jar\";\nopen();\n", Certain},
		{"TypeScript, under another name", "a.ts", "jar", "import { open as o } from \"jar\";\n", Certain},
		{"TypeScript, of a namespace", "a.tsx", "jar", "import * as j from 'jar';\nj.open();\n", Certain},
		{"TypeScript, imported from elsewhere", "a.ts", "jar", "import { open } from \"./own\";\nopen();\n", 0},
		{"JavaScript, required", "a.js", "jar", "const { open } = require('jar');\n", Certain},
		{"JavaScript, in a page", "a.js", "jar", "x.open();\n", Perhaps},
		{"Python, of a module", "a.py", "jar", "import jar\njar.open()\n", Certain},
		{"Python, from a module", "a.py", "jar", "from jar import open as o\n", Certain},
		{"Python, another module's", "a.py", "jar", "import os\nos.open()\n", 0},
		{"Java, of a value", "A.java", "org.jar", "import org.jar.Jar;\nclass A { void f(Jar j) { j.open(); } }\n", Likely},
		{"Java, without an import", "A.java", "org.jar", "class A { void open() {} }\n", 0},
		{"Rust, of a value", "a.rs", "jar", "use jar::Jar;\nfn f(j: Jar) { j.open(); }\n", Likely},
		{"PHP", "a.php", "o/jar", "<?php\n$jar->open();\n", Perhaps},
		{"Ruby", "a.rb", "jar", "jar.open\n", Perhaps},
		{"C, a comment", "a.c", "jar", "/* open */\n", 0},
		{"C, a call", "a.c", "jar", "jar->open(1);\n", Perhaps},
		{"settings", "a.yaml", "jar", "open: 1\n", 0},
		{"prose", "a.md", "jar", "to open\n", 0},
	} {
		changes := notes.Read("x.md", test.pkg, []byte("## 5.0.0\n\n- `Jar.open` was removed\n"))
		got := 0.0
		for _, p := range Search(t.Context(), sourcetest.Tree(t, map[string]string{test.file: test.text}), changes)[0].Places {
			got = max(got, p.Sure)
		}
		if got != test.want {
			t.Errorf("%s: %.1f, want %.1f", test.name, got, test.want)
		}
	}
}

// TestSearchOfAllAtOnce holds that many changes together find what each finds alone.
func TestSearchOfAllAtOnce(t *testing.T) {
	tree := sourcetest.Tree(t, shelf)
	changes := notes.Read("x.md", "example.org/jar", []byte("## 5.0.0\n\n- `OpenLid` is gone\n- `Jar.Kilos` is gone\n- `Options.LidColor` and `Kilos`\n- nothing\n"))
	all := Search(t.Context(), tree, changes)
	for i := range changes {
		alone := Search(t.Context(), tree, changes[i:i+1])[0]
		if places(alone) != places(all[i]) || fmt.Sprint(alone.Searched) != fmt.Sprint(all[i].Searched) {
			t.Errorf("%s: alone\n%s\ntogether\n%s", changes[i].Title, places(alone), places(all[i]))
		}
	}
	if none := Search(t.Context(), nil, changes); len(none) != len(changes) || none[0].Count != 0 || len(none[0].Searched) != 1 {
		t.Errorf("without a tree it finds %+v", none)
	}
}

func TestPlacesAreBounded(t *testing.T) {
	tree := sourcetest.Tree(t, map[string]string{"a.go": "package a\n\nimport \"example.org/jar\"\n" + strings.Repeat("var _ = jar.OpenLid\n", 700)})
	got := Search(t.Context(), tree, notes.Read("x.md", "example.org/jar", []byte("## 5\n\n- `OpenLid` is gone\n")))[0]
	if got.Count != 700 || len(got.Places) != mostPlaces || got.Places[0].Line != 4 {
		t.Errorf("%d of %d places are kept", len(got.Places), got.Count)
	}
}

func TestDeclared(t *testing.T) {
	tree := sourcetest.Tree(t, map[string]string{
		"a.go": "package a\n\ntype Own struct {\n\tKilos int\n}\n\nfunc (o Own) Net() int { return o.Kilos }\n\n// func Comment\nvar x = Call()\n",
		"b.py": "def fill(jar):\n    return jar.pour()\n", "c.ts": "export const lid = 1;\nuse(cap);\n",
	})
	got := Declared(tree, []string{"Kilos", "Net", "Call", "Comment", "fill", "pour", "lid", "cap", "missing"})
	for name, want := range map[string]string{"Kilos": "a.go:4", "Net": "a.go:7", "Call": ":0", "Comment": ":0", "fill": "b.py:1", "pour": ":0", "lid": "c.ts:1", "cap": ":0", "missing": ":0"} {
		if p := got[name]; fmt.Sprintf("%s:%d", p.File, p.Line) != want {
			t.Errorf("%s is declared at %s:%d, want %s", name, p.File, p.Line, want)
		}
	}
}

// TestWords compares the search with the plain way, over texts of few letters.
func TestWords(t *testing.T) {
	random := rand.New(rand.NewPCG(1, 2))
	names := []string{"ab", "b_a", "--aa-b", "ab/b", "a-ba", "{ab}", "ba.ab", "é", "abab_a_b"}
	const letters = "ab_-/ .{}é"
	for range 3000 {
		var b strings.Builder
		for range random.IntN(40) {
			runes := []rune(letters)
			b.WriteRune(runes[random.IntN(len(runes))])
		}
		text := b.String()
		var got, want []string
		w := newWords(names)
		w.each([]byte(text), func(n, at int) { got = append(got, fmt.Sprint(names[n], "@", at)) })
		for i, name := range names {
			for at := 0; at+len(name) <= len(text); at++ {
				if w.standsAt([]byte(text), at, name) {
					want = append(want, fmt.Sprint(names[i], "@", at))
				}
			}
		}
		slices.Sort(got)
		slices.Sort(want)
		if !slices.Equal(got, want) {
			t.Fatalf("in %q it finds %v, want %v", text, got, want)
		}
	}
}

func BenchmarkSearch(b *testing.B) {
	files := map[string]string{}
	size := 0
	for i := range 2000 {
		var text strings.Builder
		text.WriteString("package a\n\nimport \"example.org/jar\"\n")
		for j := range 200 {
			fmt.Fprintf(&text, "func f%d(x int) int { return jar.Name%d(x) + other%d.Value }\n", j, (i*j)%700, j)
		}
		files[fmt.Sprintf("p%d/a.go", i)] = text.String()
		size += text.Len()
	}
	tree := sourcetest.Tree(b, files)
	var list strings.Builder
	list.WriteString("## 5.0.0\n\n")
	for i := range 500 {
		fmt.Fprintf(&list, "- `Gone%d` was removed\n", i*7)
	}
	changes := notes.Read("x.md", "example.org/jar", []byte(list.String()))
	b.SetBytes(int64(size))
	for b.Loop() {
		Search(b.Context(), tree, changes)
	}
}

// TestNamesInNames holds that names of which one stands inside the other are
// both found, whichever comes first.
func TestNamesInNames(t *testing.T) {
	tree := sourcetest.Tree(t, map[string]string{"a.ts": "import 'forms'\nx('my-form', form)\ny('a-my-form')\n"})
	for _, entry := range []string{"`form` and `my-form` are gone", "`my-form` and `form` are gone"} {
		changes := notes.Read("x.md", "forms", []byte("## 5\n\n- "+entry+"\n"))
		if got := places(Search(t.Context(), tree, changes)[0]); !strings.Contains(got, "a.ts:2:4 ") || !strings.Contains(got, "a.ts:2:14 ") {
			t.Errorf("%s: got\n%s", entry, got)
		}
	}
}
