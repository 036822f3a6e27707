package rewrite

import (
	"strings"
	"testing"

	"unicausa/internal/core/source"
)

// TestUnlike holds calls against what a package declares.
func TestUnlike(t *testing.T) {
	jar := map[string]string{
		"jar.go":   "package jar\n\n// New is in a comment.\nfunc New(lid *Lid, n int) *Jar { return nil }\n\nfunc (j *Jar) Shut(force int) {}\n\nfunc Sum(jars ...Jar) int { return 0 }\n\ntype Lid struct{}\n\nvar s = \"Ghost\"\n",
		"jar.d.ts": "export declare function fill(jar: Jar, kind?: string, n: number = 5): void;\nexport function mix(a: string, { b, c }: Options, ...rest: number[]): void;\n",
		"jar.py":   "def seal(self, lid, force=1):\n    pass\n\ndef press(a, *more):\n    return shake(a)\n",
		"lib.rs":   "pub fn weigh(&self, unit: Unit<A, B>) -> u8 { 0 }\n",
	}
	for _, test := range []struct{ name, file, code, want string }{
		{"New", "a.go", "package a\n\nimport \"x/jar\"\n\nvar x = jar.New(a, f(1, 2))\n", ""},
		{"New", "a.go", "package a\n\nimport \"x/jar\"\n\nvar x = jar.New(a)\n", "New takes 2 arguments (jar.go:4), and 1 stand here"},
		{"Shut", "a.go", "package a\n\nimport \"x/jar\"\n\nvar x = jar.Shut(5)\n", "Shut is a method now (jar.go:6)"},
		{"Shut", "a.go", "package a\n\nvar x = j.Shut(5)\n", ""},
		{"Sum", "a.go", "package a\n\nvar x = jar.Sum(1, 2, 3)\n", ""},
		{"Lid", "a.go", "package a\n\nvar x = jar.Lid{}\n", ""},
		{"Ghost", "a.go", "package a\n\nvar x = jar.Ghost(1)\n", "not there"},
		{"fill", "a.ts", "fill(jar);\n", ""},
		{"fill", "a.ts", "fill(jar, 'a', 5, 6);\n", "fill takes 1 to 3 arguments (jar.d.ts:1), and 4 stand here"},
		{"mix", "a.ts", "mix('a', { b: 1, c: 2 }, 3, 4);\n", ""},
		{"mix", "a.ts", "mix('a');\n", "mix takes 2 or more arguments"},
		{"seal", "a.py", "jar.seal(lid, 2)\n", ""},
		{"seal", "a.py", "jar.seal()\n", "seal takes 1 to 2 arguments"},
		{"press", "a.py", "press(*all)\n", ""},
		{"shake", "a.py", "shake(1, 2, 3)\n", ""},
		{"weigh", "a.rs", "jar.weigh(unit)\n", ""},
	} {
		found := Declarations(jar, []string{test.name})
		list, ok := found[test.name]
		if !ok {
			if test.want != "not there" {
				t.Errorf("%s is declared nowhere", test.name)
			}
			continue
		}
		at := strings.Index(test.code, test.name)
		line := strings.Count(test.code[:at], "\n") + 1
		column := at - strings.LastIndexByte(test.code[:at], '\n')
		args, owned := Called(test.file, test.code, line, column, source.ImportsOf(test.file, strings.Split(test.code, "\n")))
		if got := Unlike(test.name, list, args, owned); !strings.Contains(got, test.want) || (got == "") != (test.want == "") {
			t.Errorf("%q (%d arguments) of %+v: %q, want %q", test.code, args, list, got, test.want)
		}
	}
}
