package versions

import (
	"testing"
)

func TestLocked(t *testing.T) {
	for _, test := range []struct{ file, text, pkg, want string }{
		{"go.mod", "module m\n\nrequire (\n\texample.org/jar/v5 v5.0.1 // indirect\n)\n", "example.org/jar", "5.0.1"},
		{"go.mod", "require example.org/jar v1.0.1\n", "example.org/jar", "1.0.1"},
		{"go.mod", "require example.org/jars v1.0.1\n", "example.org/jar", ""},
		{"web/package-lock.json", `{"packages": {"node_modules/@o/jar": {"version": "5.0.1"}}}`, "@o/jar", "5.0.1"},
		{"yarn.lock", "jar@^5.0.0:\n  version \"5.0.1\"\n", "jar", "5.0.1"},
		{"yarn.lock", "\"@o/jar@npm:^5.0.0\":\n  version: 5.0.1\n", "@o/jar", "5.0.1"},
		{"pnpm-lock.yaml", "packages:\n  jar@5.0.1:\n", "jar", "5.0.1"},
		{"Cargo.lock", "[[package]]\nname = \"jar\"\nversion = \"5.0.1\"\n", "jar", "5.0.1"},
		{"poetry.lock", "[[package]]\nname = \"lid\"\nversion = \"1\"\n", "jar", ""},
		{"requirements.txt", "Jar[extra]==5.0.1 ; python_version > '3'\n", "jar", "5.0.1"},
		{"composer.lock", `{"packages": [{"name": "o/jar", "version": "v5.0.1", "require": []}]}`, "o/jar", "5.0.1"},
		{"Gemfile.lock", "GEM\n  specs:\n    jar (5.0.1)\n      lid (~> 1)\n", "jar", "5.0.1"},
		{"mix.lock", `  "jar": {:hex, :jar, "5.0.1", "abc"`, "jar", "5.0.1"},
		{"pubspec.lock", "packages:\n  jar:\n    version: \"5.0.1\"\n", "jar", "5.0.1"},
		{"packages.lock.json", `{"version": 1, "dependencies": {"net8.0": {"Jars.Jar": {"type": "Direct", "resolved": "5.0.1"}}}}`, "Jars.Jar", "5.0.1"},
		{"Pipfile.lock", `{"_meta": {}, "default": {"jar": {"version": "==5.0.1"}}}`, "jar", "5.0.1"},
		{"notes.txt", "jar 5.0.1", "jar", ""},
	} {
		if got := Locked(test.file, []byte(test.text), test.pkg); got != test.want {
			t.Errorf("%s in %s: got %q, want %q", test.pkg, test.file, got, test.want)
		}
	}
}

func TestOrder(t *testing.T) {
	ordered := []string{"0.9", "1", "1.2", "1.10", "2.0.0-alpha.1", "2.0.0-rc.1", "2.0.0", "2.0.1", "10.0"}
	for i, a := range ordered {
		for j, b := range ordered {
			want := 0
			if i < j {
				want = -1
			} else if i > j {
				want = 1
			}
			if got := Order(a, b); got != want {
				t.Errorf("Order(%s, %s) is %d, want %d", a, b, got, want)
			}
		}
	}
	for _, pair := range [][2]string{{"2031.02", "2031.10"}, {"1.2.3.4", "1.2.3.10"}, {"r7", "r8"}} {
		if Order(pair[0], pair[1]) >= 0 || Order(pair[1], pair[0]) <= 0 {
			t.Errorf("%s does not come before %s", pair[0], pair[1])
		}
	}
}
