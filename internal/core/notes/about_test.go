package notes

import "testing"

func TestAbout(t *testing.T) {
	two := []string{"example.org/jar/v5", "@pantry/shelf"}
	for _, c := range []struct {
		name, text string
		packages   []string
		want       string
	}{
		{"CHANGELOG.md", "# Changes", []string{"example.org/jar"}, "example.org/jar"},
		{"jar-5.md", "", two, "example.org/jar/v5"},
		{"notes/shelf/CHANGELOG.md", "", two, "@pantry/shelf"},
		{"CHANGELOG.md", "# Upgrading Shelf to 3\n", two, "@pantry/shelf"},
		{"CHANGELOG.md", "# Bookshelves\n", two, ""},
		{"CHANGELOG.md", "", nil, ""},
	} {
		if got := About(c.name, c.text, c.packages); got != c.want {
			t.Errorf("%s %q: %q, want %q", c.name, c.text, got, c.want)
		}
	}
}
