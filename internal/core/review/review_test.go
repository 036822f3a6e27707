package review

import (
	"fmt"
	"strings"
	"testing"

	"unicausa/internal/core/notes"
	"unicausa/internal/core/source"
	"unicausa/internal/core/source/sourcetest"
	"unicausa/internal/core/versions"
)

const jarNotes = "## 5.0.0\n\n" +
	"- `OpenLid` was renamed to `Open`.\n" + // line 3
	"- `Fill` takes the litres first.\n" +
	"- Removed `Shake`.\n" +
	"- The default of `Wait` is 30 seconds now.\n" +
	"- `jar.config.js` was renamed to `jar.config.mjs`.\n"

// press is the project before the diff.
var press = map[string]string{
	"go.mod":         "module press\n\nrequire example.org/jar v4.2.0\n",
	"press.go":       "package press\n\nimport (\n\t\"fmt\"\n\n\t\"example.org/jar\"\n)\n\nfunc Press() {\n\tj := jar.OpenLid(jar.Lid)\n\tjar.Fill(j, 5)\n\tjar.Shake(j)\n\tfmt.Println(j)\n}\n",
	"more.go":        "package press\n\nimport \"example.org/jar\"\n\nvar more = jar.OpenLid(nil)\n\nfunc Limit() int { return 12 }\n",
	"press_test.go":  "package press\n\nimport \"testing\"\n\nfunc TestLimit(t *testing.T) {\n\tif Limit() != 12 {\n\t\tt.Error(\"limit\")\n\t}\n\tif Limit() < 0 {\n\t\tt.Error(\"below\")\n\t}\n}\n",
	"README.md":      "Uses OpenLid.\n",
	"jar.config.js":  "export default {};\n",
	"front/index.ts": "export const a = 1;\n// b\nexport const c = 2;\n",
}

// TestReview edits the project, one thing at a time, and reads what the review says.
func TestReview(t *testing.T) {
	for _, test := range []struct {
		name string
		edit map[string]string // "file": "old text=>new text"; "" removes, "+" creates
		want string            // a line for each hunk
		left string
	}{
		{"a rename in one of two places", map[string]string{"press.go": "jar.OpenLid(=>jar.Open("}, "asked press.go:10 OpenLid became Open, as the note's pair says", "x.md:3 1 done, 1 left, 1 said"},
		{"a rename that forgets the new name", map[string]string{"more.go": "jar.OpenLid(nil)=>jar.Lift(nil)"}, "half more.go:5 OpenLid is gone, and Open is not there", ""},
		{"arguments", map[string]string{"press.go": "jar.Fill(j, 5)=>jar.Fill(5, j)"}, "asked press.go:11 what stands around Fill changes: it behaves otherwise, the note says", "x.md:4 1 done, 0 left, 0 said"},
		{"arguments and another number", map[string]string{"press.go": "jar.Fill(j, 5)=>jar.Fill(6, j)"}, "more press.go:11 what stands around Fill changes: it behaves otherwise, the note says; number: 5 became 6", "x.md:4 1 done, 0 left, 0 said"},
		{"what was removed", map[string]string{"press.go": "\tjar.Shake(j)\n=>"}, "asked press.go:12 Shake is gone: it was removed, the note says", "x.md:5 1 done, 0 left, 0 said"},
		{"a number that nobody asked for", map[string]string{"more.go": "return 12=>return 21"}, "unasked more.go:7 neither a change of the notes nor a cause asks for it; number: 12 became 21", ""},
		{"code that is deleted", map[string]string{"press.go": "\tjar.Fill(j, 5)\n\tjar.Shake(j)\n\tfmt.Println(j)\n=>"}, "more press.go:11 Shake is gone: it was removed, the note says; deleted-code: 2 lines of code deleted", "x.md:5 1 done, 0 left, 0 said"},
		{"a file that is deleted", map[string]string{"front/index.ts": ""}, "unasked front/index.ts:0 neither a change of the notes nor a cause asks for it; deleted-code: 2 lines of code deleted", ""},
		{"a test that asserts less", map[string]string{"press_test.go": "\tif Limit() < 0 {\n\t\tt.Error(\"below\")\n\t}\n=>"}, "unasked press_test.go:8 neither a change of the notes nor a cause asks for it; weaker-test: 1 of what the test asserts is gone; deleted-code: 2 lines of code deleted", ""},
		{"a test that is skipped", map[string]string{"press_test.go": "TestLimit(t *testing.T) {\n=>TestLimit(t *testing.T) {\n\tt.Skip(\"later\")\n"}, "unasked press_test.go:6 neither a change of the notes nor a cause asks for it; skipped-test: a test is skipped", ""},
		{"a suppression", map[string]string{"more.go": "return 12 }=>return 12 } //nolint"}, "unasked more.go:7 comments alone; suppression: the Go linters look away", ""},
		{"the move itself", map[string]string{"go.mod": "v4.2.0=>v5.0.0"}, "follows go.mod:3 the move of example.org/jar itself", ""},
		{"another dependency", map[string]string{"go.mod": "require example.org/jar v4.2.0\n=>require example.org/jar v4.2.0\nrequire example.org/lid v1.0.0\n"}, "unasked go.mod:4 neither a change of the notes nor a cause asks for it", ""},
		{"the import path", map[string]string{"more.go": "example.org/jar=>example.org/jar/v5"}, "follows more.go:3 the import path of example.org/jar", ""},
		{"an import that an edit needs", map[string]string{"press.go": "jar.Fill(j, 5)=>jar.Fill(litre.Of(5), j)\n=>\"fmt\"\n=>\"fmt\"\n\t\"example.org/litre\"\n"}, "asked press.go:12 what stands around Fill changes: it behaves otherwise, the note says\nfollows press.go:5 line 12 uses litre", "x.md:4 1 done, 0 left, 0 said"},
		{"space and comments", map[string]string{"front/index.ts": "// b=>// c"}, "layout front/index.ts:2 space and comments alone", ""},
		{"a file that moves", map[string]string{"jar.config.js": "=>", "+jar.config.mjs": "export default {};\n"}, "asked jar.config.mjs:1 jar.config.js became jar.config.mjs, as the note's pair says", "x.md:7 1 done, 0 left, 0 said"},
		{"what a cause asks for", map[string]string{"press.go": "fmt.Println(j)=>fmt.Println(j.Lid())"}, "asked press.go:13 C2 stands on line 13", ""},
		{"what a cause misses is declared", map[string]string{"more.go": "return 12 }=>return 12 }\n\ntype Crate struct{}"}, "asked more.go:8 Crate, which C2 misses, is there now", ""},
		{"a name that a cause complains of comes in", map[string]string{"more.go": "return 12 }=>return 12 }\n\nvar n = label_of(1)"}, "unasked more.go:8 neither a change of the notes nor a cause asks for it", ""},
		{"what a cause misses is used elsewhere", map[string]string{"+new.go": "package press\n\nvar c = Crate{}\n"}, "unasked new.go:1 neither a change of the notes nor a cause asks for it", ""},
		{"an error that is swallowed", map[string]string{"front/index.ts": "export const c = 2;=>try { c(); } catch (e) {}"}, "unasked front/index.ts:3 neither a change of the notes nor a cause asks for it; swallowed-error: an error is caught, and nobody looks at it", ""},
		{"a test that expects another value", map[string]string{"press_test.go": "t.Error(\"limit\")=>t.Error(\"other\")"}, "unasked press_test.go:7 neither a change of the notes nor a cause asks for it; weaker-test: what the test expects is another value", ""},
		{"a test that is gone", map[string]string{"press_test.go": ""}, "unasked press_test.go:0 neither a change of the notes nor a cause asks for it; weaker-test: a test is gone; deleted-code: 7 lines of code deleted", ""},
		{"an import of the package that is gone", map[string]string{"more.go": "import \"example.org/jar\"\n\nvar more = jar.OpenLid(nil)\n=>var more = 0\n"}, "half more.go:3 OpenLid is gone, and Open is not there; deleted-code: a line of code deleted", ""},
		{"nothing", nil, "", ""},
	} {
		t.Run(test.name, func(t *testing.T) {
			before, after := sourcetest.Tree(t, press), sourcetest.Tree(t, edited(t, test.edit))
			d, err := Between(before, after)
			if err != nil {
				t.Fatal(err)
			}
			changes := notes.Read("x.md", "example.org/jar", []byte(jarNotes))
			lines := map[string]string{}
			for _, c := range changes {
				lines[c.ID] = fmt.Sprintf("%s:%d", c.Notes, c.Line)
			}
			for side, tree := range map[string]*source.Tree{"before": before, "after": after} {
				r := Of(t.Context(), d, Case{Tree: tree, Changes: changes, Moves: []versions.Move{{Package: "example.org/jar", From: "4.2.0", To: "5.0.0"}}, Causes: []Cause{{ID: "C2", Places: map[string][]int{"press.go": {13}}, Names: []string{"Crate", "label_of"}, Missing: []string{"Crate"}}}})
				var got, left []string
				for _, h := range r.Hunks {
					line := fmt.Sprintf("%s %s:%d %s", h.Standing, h.File, h.Line, h.Why)
					for _, n := range h.Notices {
						line += "; " + n.What + ": " + n.Text
					}
					got = append(got, line)
				}
				for _, e := range r.Edits {
					left = append(left, fmt.Sprintf("%s %d done, %d left, %d said", lines[e.Change], e.Done, e.Count, e.Said))
				}
				if strings.Join(got, "\n") != test.want || strings.Join(left, "\n") != test.left || r.Note != "" {
					t.Errorf("with the tree %s it\n%s\nwant\n%s\nedits %s, note %q", side, strings.Join(got, "\n"), test.want, strings.Join(left, ", "), r.Note)
				}
				if clean := r.Clean(); clean != (!strings.Contains(test.want, "unasked") && !strings.Contains(test.want, "more ") && !strings.Contains(test.want, "half") && !strings.Contains(test.left, "1 left")) {
					t.Errorf("clean is %v", clean)
				}
			}
		})
	}
}

// edited is the project with edits.
func edited(t *testing.T, edits map[string]string) map[string]string {
	t.Helper()
	files := map[string]string{}
	for name, text := range press {
		files[name] = text
	}
	for name, edit := range edits {
		if created, ok := strings.CutPrefix(name, "+"); ok {
			files[created] = edit
			continue
		}
		if edit == "" || edit == "=>" {
			delete(files, name)
			continue
		}
		parts := strings.Split(edit, "=>")
		for len(parts) > 0 {
			n := min(2, len(parts))
			old, new := strings.TrimPrefix(parts[0], "\n"), ""
			if n == 2 {
				new = parts[1]
			}
			if len(parts) > 2 {
				new = strings.TrimSuffix(new, "\n")
			}
			if !strings.Contains(files[name], old) {
				t.Fatalf("%s does not have %q", name, old)
			}
			files[name] = strings.Replace(files[name], old, new, 1)
			parts = parts[n:]
		}
	}
	return files
}
