// Package docs has no code: its test holds that the documents lead somewhere.
package docs

import (
	"os"
	"path/filepath"
	"regexp"
	"strings"
	"testing"
)

var (
	// link is a link or a picture of Markdown: its text and where it leads.
	link    = regexp.MustCompile(`!?\[[^\]]*\]\(([^)\s]+)\)`)
	heading = regexp.MustCompile(`(?m)^#+ (.+)$`)
	fenced  = regexp.MustCompile("(?ms)^```.*?^```|^    .*?$")
)

// anchor is what a heading is called in an address, as forges make it.
func anchor(heading string) string {
	heading = strings.ToLower(strings.ReplaceAll(heading, "`", ""))
	heading = regexp.MustCompile(`[^\p{L}\p{N} _-]`).ReplaceAllString(heading, "")
	return strings.ReplaceAll(heading, " ", "-")
}

// TestLinks holds that every link to a file of ours leads to one, and to a heading that it has.
func TestLinks(t *testing.T) {
	documents, err := filepath.Glob("*.md")
	if err != nil {
		t.Fatal(err)
	}
	more, err := filepath.Glob("decisions/*.md")
	if err != nil {
		t.Fatal(err)
	}
	documents = append(append(documents, more...), "../README.md", "../CHANGELOG.md")
	linked := map[string]bool{}
	for _, name := range documents {
		text, err := os.ReadFile(name)
		if err != nil {
			t.Fatal(err)
		}
		for _, m := range link.FindAllStringSubmatch(string(fenced.ReplaceAll(text, nil)), -1) {
			if strings.Contains(m[1], "://") || strings.HasPrefix(m[1], "mailto:") {
				continue
			}
			path, to, _ := strings.Cut(m[1], "#")
			file := filepath.Join(filepath.Dir(name), path)
			if path == "" {
				file = name
			}
			linked[strings.TrimPrefix(file, "../docs/")] = true
			target, err := os.ReadFile(file)
			if err != nil {
				t.Errorf("%s leads to %s, which is not there", name, m[1])
				continue
			}
			if to == "" {
				continue
			}
			found := false
			for _, h := range heading.FindAllStringSubmatch(string(target), -1) {
				found = found || anchor(h[1]) == to
			}
			if !found {
				t.Errorf("%s leads to %s, and %s has no such heading", name, m[1], file)
			}
		}
	}
	pictures, err := filepath.Glob("screenshots/*")
	if err != nil {
		t.Fatal(err)
	}
	for _, name := range append(documents, pictures...) {
		if !linked[name] && !strings.HasPrefix(name, "../") {
			t.Errorf("nothing leads to %s", name)
		}
	}
}
