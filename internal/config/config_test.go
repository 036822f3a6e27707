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
