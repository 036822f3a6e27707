package source

import (
	"fmt"
	"strings"
	"testing"
	"testing/fstest"
)

func treeOf(t *testing.T, files map[string]string) *Tree {
	t.Helper()
	list := fstest.MapFS{}
	for name, text := range files {
		list[name] = &fstest.MapFile{Data: []byte(text)}
	}
	tree, err := NewTree(list)
	if err != nil {
		t.Fatal(err)
	}
	return tree
}

// TestDeclarations holds what a line declares in each language, and where it
// ends: "name from-end", types with a capital T, named tests with a t.
func TestDeclarations(t *testing.T) {
	for _, test := range []struct{ file, text, want string }{
		{"a.go", "func (j *Jar) Open() int {\n\treturn 1\n}\n\ntype Lid struct {\n\tn int\n}\n", "Open 1-3, T Lid 5-7"},
		{"a.py", "class Jar:\n    def open(self):\n        return 1\n\ndef lid():\n    pass\n", "T Jar 1-4, open 2-4, lid 5-7"},
		{"a.rb", "class Jar < Pot\n  def open?\n    true\n  end\nend\n", "T Jar 1-4, open? 2-3"},
		{"a.ts", "export const fill = (n: number) => {\n  return n;\n};\nexport async function shut() {\n}\n", "fill 1-3, shut 4-5"},
		{"a.js", "exports.fill = function () {\n};\nit(\"shuts the lid\", () => {\n  shut();\n});\n", "fill 1-2, t shuts the lid 3-5"},
		{"A.java", "public final class Jar {\n    int open(int n) {\n        if (n > 1) {\n        }\n        return n;\n    }\n}\n", "T Jar 1-7, open 2-6"},
		{"a.rs", "pub struct Jar {\n    lid: u8,\n}\nimpl Jar {\n    pub fn open(&self) -> u8 {\n        self.lid\n    }\n}\n", "T Jar 1-3, open 5-7"},
		{"a.ex", "defmodule Pantry.Jar do\n  def open(lid) do\n    lid\n  end\nend\n", "T Jar 1-4, open 2-3"},
		{"a.exs", "test \"opens\" do\n  open()\nend\n", "t opens 1-2"},
		{"a.cpp", "int jar::open(int n) {\n  return n;\n}\nstruct Lid {\n  int n;\n};\n", "T Lid 4-6"},
		{"a.php", "<?php\nfunction open($n) {\n    return $n;\n}\n// function shut() {\n", "open 2-4"},
	} {
		var got []string
		for _, d := range treeOf(t, map[string]string{test.file: test.text}).Declarations(test.file) {
			mark := map[bool]string{true: "T "}[d.Type] + map[bool]string{true: "t "}[d.Test]
			got = append(got, fmt.Sprintf("%s%s %d-%d", mark, d.Name, d.From, d.End))
		}
		if strings.Join(got, ", ") != test.want {
			t.Errorf("%s declares %q, want %q", test.file, got, test.want)
		}
	}
}

// TestMade holds where a variable got its value: above the line, in its block.
func TestMade(t *testing.T) {
	for _, test := range []struct {
		text, variable string
		line, want     int
	}{
		{"func a() {\n\tlid := open()\n\tshut(lid)\n}\n", "lid", 3, 2},
		{"func a() {\n\tlid, err := open()\n\tshut(lid)\n}\n", "lid", 3, 2},
		{"func a() {\n\tlid := open()\n}\nfunc b() {\n\tshut(lid)\n}\n", "lid", 5, 0},
		{"func a() {\n\tlid := open()\n\tif lid == 3 {\n\t\tshut(lid)\n\t}\n}\n", "lid", 4, 2},
		{"func a() {\n\tfor lid in lids {\n\t\tshut(lid)\n\t}\n}\n", "lid", 3, 2},
		{"func a() {\n\tLid lid;\n\tshut(lid);\n}\n", "lid", 3, 2},
		{"func a() {\n\tlids := open()\n\tshut(lid)\n}\n", "lid", 3, 0},
	} {
		if got := treeOf(t, map[string]string{"a.go": test.text}).Made("a.go", test.line, test.variable); got != test.want {
			t.Errorf("%q is made on line %d, want %d, in\n%s", test.variable, got, test.want, test.text)
		}
	}
}

// TestField holds where a field or a variable of a whole file got its value.
func TestField(t *testing.T) {
	const text = `const lids = open();

class Shelf {
  depth = 3;
  constructor(jar) {
    this.jar = jar.first();
    const inner = jar.last();
    if (jar.width == 3) {
      shut(inner);
    }
  }
}
`
	tree := treeOf(t, map[string]string{"a.js": text})
	for name, want := range map[string]int{"lids": 1, "depth": 4, "jar": 6, "inner": 0, "width": 0, "none": 0} {
		if got := tree.Field("a.js", name); got != want {
			t.Errorf("%s is given its value on line %d, want %d", name, got, want)
		}
	}
	var none *Tree
	if none.Field("a.js", "lids") != 0 {
		t.Error("no tree has a field")
	}
}

func TestDeclaredAndQuoted(t *testing.T) {
	tree := treeOf(t, map[string]string{
		"shelf/a.go":     "package shelf\n\nfunc fill() {\n}\n",
		"label/b.go":     "package label\n\nimport \"example.org/pantry/shelf\"\n\nfunc fill() {\n}\n",
		"test/a.test.js": "const { fill } = require(\"../web/a\");\nit('fills the jar', () => {\n});\nit('twice', () => {});\nit('twice', () => {});\n",
		"web/a.js":       "exports.own = () => 1;\n",
		"notes.txt":      "func fill() {\n}\n'fills the jar'\n",
	})
	var places []string
	for _, d := range tree.Declared("fill") {
		places = append(places, d.File)
	}
	if got := strings.Join(places, " "); got != "label/b.go shelf/a.go" {
		t.Errorf("fill is declared in %q", got)
	}
	if file, line := tree.Quoted("fills the jar"); file != "test/a.test.js" || line != 2 {
		t.Errorf("the test stands in %s:%d", file, line)
	}
	if file, line := tree.Quoted("twice"); line != 0 {
		t.Errorf("what stands twice is found in %s:%d", file, line)
	}
	if d := tree.Enclosing("shelf/a.go", 4); d == nil || d.Name != "fill" {
		t.Errorf("line 4 is in %+v", d)
	}
	if d := tree.Enclosing("shelf/a.go", 1); d != nil {
		t.Errorf("line 1 is in %+v", d)
	}
	if got := fmt.Sprint(tree.Importers()); got != "map[shelf:1 web:1]" {
		t.Errorf("the importers are %s", got)
	}
}
