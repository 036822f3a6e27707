package report

import (
	"os"
	"path/filepath"
	"regexp"
	"testing"
)

// TestPalette holds that the pages have the colours of the console.
func TestPalette(t *testing.T) {
	css, err := os.ReadFile(filepath.Join("..", "..", "console", "src", "style.css"))
	if err != nil {
		t.Fatal(err)
	}
	own, err := templates.ReadFile("palette.tmpl")
	if err != nil {
		t.Fatal(err)
	}
	pairs := regexp.MustCompile(`--([\w-]+): light-dark\((#\w+), (#\w+)\)`).FindAllSubmatch(own, -1)
	if len(pairs) < 10 {
		t.Fatalf("only %d colours are in the palette", len(pairs))
	}
	for _, m := range pairs {
		values := regexp.MustCompile(`--`+string(m[1])+`: (#\w+);`).FindAllSubmatch(css, -1)
		if len(values) != 2 || string(values[0][1]) != string(m[2]) || string(values[1][1]) != string(m[3]) {
			t.Errorf("%s is %s and %s, in the console %s", m[1], m[2], m[3], values)
		}
	}
}
