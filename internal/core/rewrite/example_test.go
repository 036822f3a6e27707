package rewrite

import (
	"fmt"
	"strings"
	"testing"

	"unicausa/internal/core/exposure"
	"unicausa/internal/core/notes"
	"unicausa/internal/core/source/sourcetest"
)

func none(string, bool) bool { return false }

// TestLearn shows what examples have in common.
func TestLearn(t *testing.T) {
	for _, test := range []struct {
		name, file string
		examples   []Example
		want, err  string
	}{
		{"arguments change places", "a.go", []Example{{"jar.Fill(juice, 5)", "jar.Fill(5, juice)"}}, "‹1›.Fill(‹2›, ‹3›) → ‹1›.Fill(‹3›, ‹2›)", ""},
		{"a string becomes an option object", "a.ts", []Example{{`open(lid, "red")`, `open(lid, { colour: "red" })`}}, `open(‹1›, ‹2›) → open(‹1›, { colour: ‹2› })`, ""},
		{"a short property", "a.ts", []Example{{`open(lid, n)`, `open({ lid, n })`}}, `open(‹1›, ‹2›) → open({ lid: ‹1›, n: ‹2› })`, ""},
		{"an attribute becomes a class", "a.py", []Example{{"jar.weight = grams", "jar.set(Weight(grams))"}}, "‹1›.weight = ‹2› → ‹1›.set(Weight(‹2›))", ""},
		{"a call becomes two", "a.go", []Example{{"jar.Open(lid)", "jar.Unlock(lid)\njar.Lift()"}}, "‹1›.Open(‹2›) → ‹1›.Unlock(‹2›); ‹1›.Lift()", ""},
		{"a class keeps its name", "a.java", []Example{{"Jar.of(lid);", "Jar.builder().lid(lid).build();"}}, "Jar.of(‹1›) → Jar.builder().lid(‹1›).build()", ""},
		{"the longest operand", "a.rs", []Example{{"weigh(jar.net() + 2, unit)", "weigh(unit, jar.net() + 2)"}}, "weigh(‹1›, ‹2›) → weigh(‹2›, ‹1›)", ""},
		{"all arguments", "a.ts", []Example{{"render(...)", "paint(...)"}}, "render(‹1›) → paint(‹1›)", ""},
		{"a key is no operand", "a.rb", []Example{{"open(lid: 5)", "unseal(lid: 5)"}}, "open(lid: ‹1›) → unseal(lid: ‹1›)", ""},
		{"wrapped", "a.py", []Example{{"weigh(jar)", "float(weigh(jar))"}}, "weigh(‹1›) → float(weigh(‹1›))", ""},
		{"comments fall away", "a.ts", []Example{{"open(lid) // before", "unseal(lid) // after"}}, "open(‹1›) → unseal(‹1›)", ""},

		{"two examples that share an argument", "a.py", []Example{{"send(jar, True)", "send(jar, strict=True)"}, {"send(lid, True)", "send(lid, strict=True)"}}, "send(‹1›, True) → send(‹1›, strict=True)", ""},
		{"two that drop one", "a.py", []Example{{"send(jar, ctx)", "send(jar)"}, {"send(lid, self.ctx)", "send(lid)"}}, "send(‹1›, ‹2›) → send(‹1›)", ""},
		{"three", "a.go", []Example{{"f(a, 1)", "g(1, a)"}, {"f(b, 2)", "g(2, b)"}, {"f(c.d(), 2)", "g(2, c.d())"}}, "f(‹1›, ‹2›) → g(‹2›, ‹1›)", ""},
		{"a receiver that stays", "a.go", []Example{{"jar.Open(a)", "jar.Lift(a)"}, {"jar.Open(b)", "jar.Lift(b)"}}, "jar.Open(‹1›) → jar.Lift(‹1›)", ""},

		{"nothing before", "a.go", []Example{{" ", "f()"}}, "", "the code before is empty"},
		{"nothing changes", "a.go", []Example{{"f( a )", "f(a)"}}, "", "the same"},
		{"brackets", "a.go", []Example{{"f(a", "g(a)"}}, "", "the brackets of the code before do not close"},
		{"other shapes", "a.go", []Example{{"f(a, 1)", "g(1, a)"}, {"f(b)", "g(b)"}}, "", "not of one shape"},
		{"a new value out of nowhere", "a.go", []Example{{"f(a)", "g(a, 1)"}, {"f(b)", "g(b, 2)"}}, "", "nothing before tells which"},
		{"arguments out of nowhere", "a.go", []Example{{"f()", "g(...)"}}, "", "the code after has ..., and the code before does not"},
		{"no example", "a.go", nil, "", "1 to 20 examples"},
	} {
		t.Run(test.name, func(t *testing.T) {
			template, err := Learn(test.file, test.examples, none)
			if test.err != "" {
				if err == nil || !strings.Contains(err.Error(), test.err) {
					t.Errorf("learnt %v, error %v; want %q", template, err, test.err)
				}
				return
			}
			if err != nil {
				t.Fatal(err)
			}
			if got := template.String(); got != test.want {
				t.Errorf("learnt\n%s\nwant\n%s", got, test.want)
			}
			again, err := Learn(test.file, template.Examples(), none)
			if err != nil || again.String() != test.want {
				t.Errorf("of its own examples %q comes %v, %v", template.Examples(), again, err)
			}
		})
	}
}

// TestByExample applies templates to a file; the places that are left stand behind it.
func TestByExample(t *testing.T) {
	for _, test := range []struct{ name, file, from, to, code, want, left string }{
		{"nested", "a.ts", "add(a, b)", "plus([a, b])", "x = add(add(1, 2), y[3]);\n", "x = plus([plus([1, 2]), y[3]]);\n", ""},
		{"over lines, with a comma at the end", "a.ts", "open(lid, n)", "unseal(n, lid)", "open(\n  jar.lid(),\n  { a: 1, b: [2] },\n);\n", "unseal({ a: 1, b: [2] }, jar.lid());\n", ""},
		{"strings and comments are no code", "a.py", "open(lid)", "unseal(lid)", "s = 'open(lid)'  # open(lid)\nopen(s)\n", "s = 'open(lid)'  # open(lid)\nunseal(s)\n", ""},
		{"the receiver as a whole", "a.ts", "jar.open(lid)", "unseal(jar, lid)", "await shelf.jars[0].first().open(x);\n", "await unseal(shelf.jars[0].first(), x);\n", ""},
		{"other arguments", "a.go", "Open(lid, n)", "Lift(n, lid)", "package a\n\nvar x = Open(1)\nvar y = Open(1, 2)\n", "package a\n\nvar x = Open(1)\nvar y = Lift(2, 1)\n", "3:9 it does not have the shape of the example"},
		{"two statements", "a.go", "jar.Open(lid)", "jar.Unlock(lid)\njar.Lift()", "package a\n\nfunc f() {\n\tshelf.Open(1)\n\tx := shelf.Open(2)\n}\n", "package a\n\nfunc f() {\n\tshelf.Unlock(1)\n\tshelf.Lift()\n\tx := shelf.Open(2)\n}\n", "5:7 it is a part of a statement, and several statements take its place"},
		{"in more than one way", "a.py", "weigh(a + b)", "weigh(a, b)", "weigh(x + y)\nweigh(x + y + z)\n", "weigh(x, y)\nweigh(x + y + z)\n", "2:1 the example fits in more than one way here"},
		{"a part of an expression", "a.ts", "lid == null", "isGone(lid)", "if (a.lid == null) {}\nif (a + b == null) {}\n", "if (isGone(a.lid)) {}\nif (a + b == null) {}\n", "2:9 it is a part of a longer expression, of which the example does not tell what belongs together"},
		{"a value of its own brackets", "a.ts", "add(a, b)", "a.plus(b)", "add(x - 1, y);\n", "(x - 1).plus(y);\n", ""},
		{"evaluated twice", "a.py", "swap(a)", "pair(a, a)", "swap(x)\nswap(next(x))\n", "pair(x, x)\nswap(next(x))\n", "2:1 next(x) would be evaluated more than once"},
		{"a comment inside", "a.ts", "open(lid)", "unseal(lid)", "open(/* why */ x);\n", "open(/* why */ x);\n", "1:1 a comment stands in it"},
		{"quotes of either sort", "a.ts", `set("lid", n)`, `setLid(n)`, "set('lid', 5);\nset('jar', 5);\n", "setLid(5);\nset('jar', 5);\n", "2:1 it does not have the shape of the example"},
		{"an assignment takes its whole value", "a.py", "jar.weight = g", "jar.set(weight=g)", "self.jar.weight = a + f(b,\n  c)\nprint(self.jar.weight)\n", "self.jar.set(weight=a + f(b,\n  c))\nprint(self.jar.weight)\n", "3:16 it does not have the shape of the example"},
		{"a macro", "a.rs", "weigh!(jar, 5)", "weigh!(5 => jar)", "let x = weigh!(a.b(), 7);\n", "let x = weigh!(7 => a.b());\n", ""},
		{"all arguments, none too", "a.ts", "render(...)", "paint(...)", "render();\nrender(1, [2, 3]);\n", "paint();\npaint(1, [2, 3]);\n", ""},
		{"brackets that do not close", "a.ts", "open(lid)", "unseal(lid)", "open(x);\nfoo(((\n", "open(x);\nfoo(((\n", "1:1 the file's brackets do not close: its code cannot be told apart"},
		{"nowhere", "a.ts", "open(lid)", "unseal(lid)", "seal(x);\n", "seal(x);\n", ""},
	} {
		t.Run(test.name, func(t *testing.T) {
			tree := sourcetest.Tree(t, map[string]string{test.file: test.code})
			p, err := ByExample(t.Context(), tree, []Example{{test.from, test.to}}, nil)
			if err != nil {
				t.Fatal(err)
			}
			text := test.code
			if len(p.Edits) > 0 {
				edits, err := offsets(text, p.Edits)
				if err != nil {
					t.Fatal(err)
				}
				for i := len(edits) - 1; i >= 0; i-- {
					text = text[:edits[i].Start] + edits[i].New + text[edits[i].End:]
				}
			} else if p.Why == "" {
				t.Error("nothing is edited, and nothing says why")
			}
			var left []string
			for _, r := range p.Refused {
				left = append(left, fmt.Sprintf("%d:%d %s", r.Line, r.Column, r.Why))
			}
			if text != test.want || strings.Join(left, ", ") != test.left {
				t.Errorf("%q\nwant %q\nleft %s\ntemplate %s", text, test.want, strings.Join(left, ", "), p.Templates)
			}
		})
	}
}

// TestExamplesOfAChange edits only what is the package's own.
func TestExamplesOfAChange(t *testing.T) {
	tree := sourcetest.Tree(t, map[string]string{
		"a.ts":     "import { fill } from \"@orchard/jar\";\nfill(jar, 5);\nfill(fill(a, 1), 2);\n",
		"other.ts": "import { fill } from \"@orchard/crate\";\nfill(crate, 5);\n",
	})
	changes := notes.Read("x.md", "@orchard/jar", []byte("## 5.0.0\n\n- `fill` takes the litres first.\n"))
	p, err := ByExample(t.Context(), tree, []Example{{"fill(jar, litres)", "fill(litres, jar)"}}, &changes[0])
	if err != nil {
		t.Fatal(err)
	}
	var got []string
	for _, e := range p.Edits {
		got = append(got, fmt.Sprintf("%s:%d %s > %s (%s; took %s)", e.File, e.Line, e.From, e.To, e.Why, strings.Join(e.Took, " and ")))
	}
	want := []string{
		"a.ts:2 fill(jar, 5) > fill(5, jar) (an import says that it is the package's, and it has the shape of the example; took jar and 5)",
		"a.ts:3 fill(fill(a, 1), 2) > fill(2, fill(1, a)) (an import says that it is the package's, and it has the shape of the example; took fill(a, 1) and 2)",
	}
	if strings.Join(got, "\n") != strings.Join(want, "\n") || len(p.Refused) > 0 {
		t.Errorf("edits\n%s\nleft %+v", strings.Join(got, "\n"), p.Refused)
	}
}

// TestExamplesInC edits what no import tells the owner of, unless the project declares it.
func TestExamplesInC(t *testing.T) {
	changes := notes.Read("x.md", "jar", []byte("## 5.0.0\n\n- `jar_fill` takes the force as well.\n"))
	for name, code := range map[string]string{
		"+jar_fill(lid, 1);": "void f(void) { jar_fill(lid); }\n",
		"nothing tells that the package's name is meant here": "static int jar_fill(int lid) { return lid; }\nvoid f(void) { jar_fill(lid); }\n",
	} {
		tree := sourcetest.Tree(t, map[string]string{"a.c": code})
		p, err := ByExample(t.Context(), tree, []Example{{"jar_fill(a)", "jar_fill(a, 1)"}}, &changes[0])
		if err != nil {
			t.Fatal(err)
		}
		got := ""
		for _, e := range p.Edits {
			got += "+" + e.To + ";"
		}
		for _, r := range p.Refused {
			got += r.Why
		}
		if !strings.Contains(got, name) {
			t.Errorf("of %q comes %q, want %q", code, got, name)
		}
	}
}

// TestShownExamples makes patches of the code that an entry shows before and after.
func TestShownExamples(t *testing.T) {
	tree := sourcetest.Tree(t, map[string]string{
		"a.ts": "import { fill, seal } from \"@orchard/jar\";\nfill(jar, \"apple\", 5);\nfill(jar);\nseal(jar);\n",
	})
	for _, test := range []struct{ name, entry, edits, refused string }{
		{
			"arguments", "- `fill` takes an object.\n\n  ```ts\n  // before\n  fill(jar, kind, litres);\n  // after\n  fill({ jar, kind, litres });\n  ```\n",
			`2:1 fill({ jar: jar, kind: "apple", litres: 5 })`, "3:1 it does not have the shape of the example",
		},
		{"no more than a rename", "- `seal` is now called `close`.\n\n  ```ts\n  // before\n  seal(jar);\n  // after\n  close(jar);\n  ```\n", "1:16 close, 4:1 close", ""},
		{"a rename with another shape", "- `seal` was renamed to `close`, which takes options.\n\n  ```ts\n  // before\n  seal(jar);\n  // after\n  close({ jar });\n  ```\n", "1:16 close, 4:1 close({ jar: jar })", ""},
	} {
		t.Run(test.name, func(t *testing.T) {
			changes := notes.Read("x.md", "@orchard/jar", []byte("## 5.0.0\n\n"+test.entry))
			p := Of(tree, &changes[0], exposure.Search(t.Context(), tree, changes)[0], changes)
			var edits, refused []string
			for _, e := range p.Edits {
				edits = append(edits, fmt.Sprintf("%d:%d %s", e.Line, e.Column, e.To))
			}
			for _, r := range p.Refused {
				refused = append(refused, fmt.Sprintf("%d:%d %s", r.Line, r.Column, r.Why))
			}
			if strings.Join(edits, ", ") != test.edits || strings.Join(refused, ", ") != test.refused {
				t.Errorf("edits %s\nrefused %s\nwhy %q, before %q after %q", strings.Join(edits, ", "), strings.Join(refused, ", "), p.Why, changes[0].Before, changes[0].After)
			}
		})
	}
}
