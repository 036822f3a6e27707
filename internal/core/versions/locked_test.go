package versions

import "testing"

func TestLocked(t *testing.T) {
	for _, test := range []struct{ file, text, pkg, want string }{
		{"go.mod", "module m\n\nrequire (\n\texample.org/jar v5.0.1 // indirect\n)\n", "example.org/jar", "5.0.1"},
		{"go.mod", "require example.org/jar v5.0.1\n", "example.org/jar", "5.0.1"},
		{"go.mod", "require example.org/jars v5.0.1\n", "example.org/jar", ""},
		{"web/package-lock.json", `{"packages": {"node_modules/@o/jar": {
      "version": "5.0.1"`, "@o/jar", "5.0.1"},
		{"yarn.lock", "jar@^5.0.0:\n  version \"5.0.1\"\n", "jar", "5.0.1"},
		{"yarn.lock", "\"@o/jar@npm:^5.0.0\":\n  version: 5.0.1\n", "@o/jar", "5.0.1"},
		{"pnpm-lock.yaml", "packages:\n  jar@5.0.1:\n", "jar", "5.0.1"},
		{"Cargo.lock", "[[package]]\nname = \"jar\"\nversion = \"5.0.1\"\n", "jar", "5.0.1"},
		{"poetry.lock", "[[package]]\nname = \"lid\"\nversion = \"1\"\n", "jar", ""},
		{"requirements.txt", "Jar[extra]==5.0.1 ; python_version > '3'\n", "jar", "5.0.1"},
		{"composer.lock", `{"packages": [{"name": "o/jar", "version": "v5.0.1"`, "o/jar", "5.0.1"},
		{"Gemfile.lock", "GEM\n  specs:\n    jar (5.0.1)\n      lid (~> 1)\n", "jar", "5.0.1"},
		{"mix.lock", `  "jar": {:hex, :jar, "5.0.1", "abc"`, "jar", "5.0.1"},
		{"pubspec.lock", "packages:\n  jar:\n    version: \"5.0.1\"\n", "jar", "5.0.1"},
		{"packages.lock.json", `"Jars.Jar": {"type": "Direct", "resolved": "5.0.1"`, "Jars.Jar", "5.0.1"},
		{"Pipfile.lock", `"jar": {"version": "==5.0.1"}`, "jar", "5.0.1"},
		{"notes.txt", "jar 5.0.1", "jar", ""},
	} {
		if got := Locked(test.file, []byte(test.text), test.pkg); got != test.want {
			t.Errorf("%s in %s: got %q, want %q", test.pkg, test.file, got, test.want)
		}
	}
}
