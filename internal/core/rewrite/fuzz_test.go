package rewrite

import (
	"testing"

	"unicausa/internal/core/source"
	"unicausa/internal/core/source/sourcetest"
)

// FuzzByExample holds that no example and no code ends the program, that edits stand
// where they say and do not overlap, and that brackets close behind them as before.
func FuzzByExample(f *testing.F) {
	f.Add("a.ts", "open(lid, n)", "unseal(n, lid)", "open(a, open(b, c));\n")
	f.Add("a.py", "jar.weight = g", "jar.set(weight=g)", "self.jar.weight = f(1,\n 2)\n")
	f.Add("a.go", "jar.Open(lid)", "jar.Unlock(lid)\njar.Lift()", "func f() {\n\tshelf.Open(1)\n}\n")
	f.Add("a.ts", "f(...)", "g(...)", "f(`${f(1)}`)")
	f.Fuzz(func(t *testing.T, file, from, to, code string) {
		if !source.Program(file) || len(code) > 10_000 {
			return
		}
		tree := sourcetest.Tree(t, map[string]string{"a" + file[len(file)-min(len(file), 3):]: code})
		p, err := ByExample(t.Context(), tree, []Example{{From: from, To: to}}, nil)
		if err != nil {
			return
		}
		for _, name := range tree.Files() {
			text := string(tree.Read(name))
			edits, err := offsets(text, p.Edits)
			if err != nil {
				t.Fatalf("%v: %+v", err, p.Edits)
			}
			end := 0
			for _, e := range edits {
				if e.Start < end || e.End < e.Start {
					t.Fatalf("the edits overlap: %+v", p.Edits)
				}
				end = e.End
			}
			if _, err := Diff(tree, p.Edits, nil); err != nil {
				t.Fatal(err)
			}
			changed := text
			for i := len(edits) - 1; i >= 0; i-- {
				changed = changed[:edits[i].Start] + edits[i].New + changed[edits[i].End:]
			}
			if len(edits) > 0 && pairs(source.Tokens(name, changed)) == nil {
				t.Fatalf("%q became %q, whose brackets do not close", text, changed)
			}
		}
	})
}
