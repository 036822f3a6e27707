package rewrite

import (
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"

	"unicausa/internal/core/exposure"
	"unicausa/internal/core/notes"
	"unicausa/internal/core/source"
	"unicausa/internal/core/source/sourcetest"
)

var shelf = map[string]string{
	"shelf.go": `package shelf

import "example.org/jar"

// OpenLid opens.
func Open(j *jar.Jar) error {
	if err := jar.OpenLid(j); err != nil { return jar.OpenLid(j) }
	_ = jar.Options{LidColor: "OpenLid", Tare: 3}
	return nil
}
`,
	"own.go":      "package shelf\n\nimport \"example.org/jar\"\n\ntype Own struct {\n\tTare int\n}\n\nvar o = jar.Options{Tare: 1}\n",
	"front/a.ts":  "import { renderLabel } from \"@orchard/label\";\r\nrenderLabel(1); renderLabel(2);\r\n",
	"front/b.ts":  "import { renderLabel } from \"@orchard/label\";\nfunction render() { return renderLabel(1); }",
	"front/c.ts":  "import { encode } from \"@orchard/label/barcode\";\n",
	"conf/a.yaml": "lid_color: red\n",
	"run.sh":      "jar --lid-color red\n",
	"README.md":   "Use renderLabel.\n",
}

func patchOf(t testing.TB, pkg, entries string) (*source.Tree, Patch) {
	t.Helper()
	tree := sourcetest.Tree(t, shelf)
	changes := notes.Read("x.md", pkg, []byte("## 5.0.0\n\n"+entries))
	return tree, Of(tree, &changes[0], exposure.Search(t.Context(), tree, changes)[0], changes)
}

func TestPatches(t *testing.T) {
	for _, test := range []struct{ name, pkg, entries, edits, refused, why, care string }{
		{
			"a function", "example.org/jar", "- `OpenLid` was renamed to `Open`.\n",
			"shelf.go:7:16 OpenLid>Open, shelf.go:7:52 OpenLid>Open", "shelf.go:5:4 in a comment, shelf.go:8:29 the same word in a string", "", "",
		},
		{"a field", "example.org/jar", "- `Options.LidColor` is now `Options.LidColour`, of type `Colour`.\n", "shelf.go:8:18 LidColor>LidColour", "", "", "the note says more"},
		{"a field of the project's own as well", "example.org/jar", "- `Options.Tare` is now `Options.Weight`\n", "", "own.go:6:2 nothing tells that the package's name is meant here, own.go:9:21 the project declares Tare itself, at own.go:6, shelf.go:8:39 the project declares Tare itself, at own.go:6", "no place is certain", ""},
		{
			"an imported name", "@orchard/label", "- `renderLabel` is called `render`\n",
			"front/a.ts:1:10 renderLabel>render, front/a.ts:2:1 renderLabel>render, front/a.ts:2:17 renderLabel>render",
			"README.md:1:5 in text that no check compiles, front/b.ts:1:10 render already stands in this file, at line 2, front/b.ts:2:28 render already stands in this file, at line 2", "", "",
		},
		{"a module", "@orchard/label", "- `@orchard/label/barcode` moved to `@orchard/label/codes`\n", "front/c.ts:1:25 @orchard/label/barcode>@orchard/label/codes", "", "", ""},
		{"a setting", "example.org/jar", "- The option `lid_color` is now `lid_colour`\n", "conf/a.yaml:1:1 lid_color>lid_colour", "", "", ""},
		{"a flag", "example.org/jar", "- The flag `--lid-color` is now `--lid-colour`\n", "", "run.sh:1:5 nothing tells that the package's name is meant here", "no place is certain", ""},
		{"two new names", "example.org/jar", "- `OpenLid` was renamed to `Open`.\n- `OpenLid` was renamed to `Lift`.\n", "", "", "more than one new name", ""},
		{"other arguments", "example.org/jar", "- `OpenLid(jar)` was renamed to `Open(jar, force)`\n", "", "", "OpenLid takes 1 arguments and Open 2", ""},
		{"a method that becomes a function", "example.org/jar", "- `Jar.OpenLid` was renamed to `open_lid`; the function `open_lid` stands by itself\n", "", "", "is a method and open_lid a function", ""},
		{"another owner", "example.org/jar", "- `jar.Mass` moved to `mass.Mass`\n", "", "", "belongs to jar and mass.Mass to mass", ""},
		{"the same name", "example.org/jar", "- `Jar.open` moved to `open`\n", "", "", "keeps its name", ""},
		{"removed", "example.org/jar", "- Removed `OpenLid`; use `Open` instead\n", "", "", "not of another name for the same", ""},
		{"no pair", "example.org/jar", "- `OpenLid` was renamed\n", "", "", "no pair", ""},
		{"nowhere", "example.org/jar", "- `Missing` was renamed to `Found`\n", "", "", "stands nowhere", ""},
		{"two sorts", "example.org/jar", "- `OpenLid` was renamed to `jar/lids`\n", "", "", "not of one sort", ""},
	} {
		t.Run(test.name, func(t *testing.T) {
			_, p := patchOf(t, test.pkg, test.entries)
			var edits, refused []string
			for _, e := range p.Edits {
				edits = append(edits, fmt.Sprintf("%s:%d:%d %s>%s", e.File, e.Line, e.Column, e.From, e.To))
			}
			for _, r := range p.Refused {
				refused = append(refused, fmt.Sprintf("%s:%d:%d %s", r.File, r.Line, r.Column, r.Why))
			}
			if strings.Join(edits, ", ") != test.edits || strings.Join(refused, ", ") != test.refused {
				t.Errorf("edits %s\nrefused %s", strings.Join(edits, ", "), strings.Join(refused, ", "))
			}
			if !strings.Contains(p.Why, test.why) || (test.why == "") != (p.Why == "") || !strings.Contains(p.Care, test.care) || (test.care == "") != (p.Care == "") {
				t.Errorf("why %q, care %q", p.Why, p.Care)
			}
		})
	}
}

// TestGitApplies gives patches to git apply, whole and in part, with line
// endings of both sorts and without one at the end.
func TestGitApplies(t *testing.T) {
	for _, test := range []struct {
		name, pkg, entry string
		only             func(Edit) bool
		file, want       string
	}{
		{"Go", "example.org/jar", "- `OpenLid` was renamed to `Open`.\n", func(Edit) bool { return true }, "shelf.go", strings.ReplaceAll(shelf["shelf.go"], "jar.OpenLid", "jar.Open")},
		{"CRLF", "@orchard/label", "- `renderLabel` is called `render`\n", func(Edit) bool { return true }, "front/a.ts", strings.ReplaceAll(shelf["front/a.ts"], "renderLabel", "render")},
		{
			"one place", "@orchard/label", "- `renderLabel` is called `paint`\n", func(e Edit) bool { return e.File == "front/b.ts" && e.Line == 2 }, "front/b.ts",
			"import { renderLabel } from \"@orchard/label\";\nfunction render() { return paint(1); }",
		},
	} {
		t.Run(test.name, func(t *testing.T) {
			tree, p := patchOf(t, test.pkg, test.entry)
			var some []Edit
			for _, e := range p.Edits {
				if test.only(e) {
					some = append([]Edit{e}, some...) // the order does not matter
				}
			}
			diff, err := Diff(tree, some, nil)
			if err != nil {
				t.Fatal(err)
			}
			dir := t.TempDir()
			for name, text := range shelf {
				name = filepath.Join(dir, name)
				if err := os.MkdirAll(filepath.Dir(name), 0o755); err != nil {
					t.Fatal(err)
				}
				if err := os.WriteFile(name, []byte(text), 0o644); err != nil {
					t.Fatal(err)
				}
			}
			cmd := exec.Command("git", "apply", "--check", "-v", "-")
			cmd.Dir, cmd.Stdin = dir, strings.NewReader(diff)
			if out, err := cmd.CombinedOutput(); err != nil {
				t.Fatalf("%v\n%s\n%s", err, out, diff)
			}
			cmd = exec.Command("git", "apply", "-")
			cmd.Dir, cmd.Stdin = dir, strings.NewReader(diff)
			if out, err := cmd.CombinedOutput(); err != nil {
				t.Fatalf("%v\n%s\n%s", err, out, diff)
			}
			got, err := os.ReadFile(filepath.Join(dir, test.file))
			if err != nil || string(got) != test.want {
				t.Errorf("%q (%v)\nof\n%s", got, err, diff)
			}
		})
	}
}

func TestDiffOfAnotherTree(t *testing.T) {
	tree := sourcetest.Tree(t, shelf)
	for _, e := range []Edit{{File: "shelf.go", Line: 1, Column: 1, From: "OpenLid", To: "Open"}, {File: "shelf.go", Line: 99, Column: 1, From: "OpenLid", To: "Open"}, {File: "gone.go", Line: 1, Column: 1, From: "a", To: "b"}, {File: "shelf.go", Line: 1, From: "package", To: "b"}} {
		if diff, err := Diff(tree, []Edit{e}, nil); err == nil || !strings.Contains(err.Error(), "the source tree is another one now") {
			t.Errorf("%+v gives %q, %v", e, diff, err)
		}
	}
	if diff, err := Diff(tree, nil, nil); diff != "" || err != nil {
		t.Errorf("no edits give %q, %v", diff, err)
	}
}

func TestSelect(t *testing.T) {
	edits := []Edit{{File: "a.go", Line: 12, Column: 3}, {File: "a.go", Line: 12, Column: 20}, {File: "a.go", Line: 13, Column: 3}, {File: "b.go", Line: 12, Column: 3}}
	for _, test := range []struct {
		only string
		want int
	}{{"", 4}, {"a.go", 3}, {"a.go:12", 2}, {"a.go:12:20", 1}, {"a.go:1", 0}, {"b.go a.go:13", 2}, {"c.go", 0}} {
		if got := Select(edits, strings.Fields(test.only)); len(got) != test.want {
			t.Errorf("%q keeps %v", test.only, got)
		}
	}
}
