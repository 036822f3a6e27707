package source

import "testing"

func TestInert(t *testing.T) {
	for file, want := range map[string]bool{
		".gitignore": true, "front/.dockerignore": true, "README.md": true, "docs/LICENSE": true, "CHANGELOG.rst": true, "unicausa.yaml": true,
		"docs/guide.md": false, "readme.go": false, "changes.json": false, "go.mod": false, "ignore.py": false,
	} {
		if got := Inert(file); got != want {
			t.Errorf("%s: %v", file, got)
		}
	}
}
