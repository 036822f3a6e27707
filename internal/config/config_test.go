package config

import (
	"os"
	"path/filepath"
	"strings"
	"testing"
)

func TestLoad(t *testing.T) {
	for _, test := range []struct{ name, text, wrong string }{
		{"empty", "", ""},
		{"a pattern", "patterns:\n  - name: printer\n    match: '^LP (?<message>.*)$'\n    like: ['LP x']\n    unlike: [x]\n", ""},
		{"a slip", "pattern:\n  - name: printer\n", "field pattern not found"},
		{"no YAML", "patterns: [", "unicausa.yaml: yaml"},
		{"a bad pattern", "patterns:\n  - name: printer\n    match: '('\n", `pattern "printer": match is no regular expression`},
		{"checks", "checks:\n  - {name: build, run: 'make {target}', targets: [linux, arm], clean: make clean, env: {CC: gcc}}\n  - {name: lint, run: lint, informative: true, times: 3}\n  - name: weigh a bin\n    steps: [{do: weigh, expect: 12 kg}]\n", ""},
		{"a check without a name", "checks: [{run: make}]", `check 1 is named ""`},
		{"a check that does nothing", "checks: [{name: build}]", `check "build" does nothing`},
		{"a check that does both", "checks: [{name: build, run: make, steps: [{do: a, expect: b}]}]", "has both run and steps"},
		{"a check twice", "checks: [{name: build, run: make}, {name: build, run: make}]", "is described twice"},
		{"too many times", "checks: [{name: build, run: make, times: 99}]", "is run 99 times: give 1 to 50"},
		{"a target that is not listed", "checks: [{name: build, run: 'make {target}'}]", "has {target} and no targets"},
		{"a target twice", "checks: [{name: build, run: make, targets: [a, a]}]", `has the target "a", twice`},
		{"a file outside", "checks: [{name: build, run: make, files: [../x.xml]}]", "lies outside of the project"},
		{"a step that says nothing", "checks: [{name: walk, steps: [{do: weigh}]}]", "has a step 1 without do or expect"},
		{"a walk-through with files", "checks: [{name: walk, files: [a], steps: [{do: a, expect: b}]}]", "is walked through"},
		{"a slip in a check", "checks: [{name: build, cmd: make}]", "field cmd not found"},
	} {
		file := filepath.Join(t.TempDir(), Name)
		if err := os.WriteFile(file, []byte(test.text), 0o644); err != nil {
			t.Fatal(err)
		}
		_, patterns, err := Load(file, false)
		switch {
		case test.wrong == "" && (err != nil || patterns == nil):
			t.Errorf("%s: %v", test.name, err)
		case test.wrong != "" && (err == nil || !strings.Contains(err.Error(), test.wrong)):
			t.Errorf("%s: want %q, got %v", test.name, test.wrong, err)
		}
	}
	if _, patterns, err := Load("none.yaml", true); err != nil || patterns != nil {
		t.Errorf("a missing file gives %v, %v", patterns, err)
	}
	if _, _, err := Load("none.yaml", false); err == nil {
		t.Error("a missing file that was named gives no error")
	}
}
