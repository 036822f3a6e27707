package core

import (
	"encoding/json"
	"go/ast"
	"go/parser"
	"go/token"
	"os"
	"path"
	"path/filepath"
	"regexp"
	"strings"
	"testing"
)

// TestNoWordsOfSamples holds that what draws and links causes knows no sample: no
// literal of it has the name of a library that a case upgrades, of the world that a
// case plays in, or of something that a case's causes are titled by. The readers,
// whose job the tools' own words are, are left out.
func TestNoWordsOfSamples(t *testing.T) {
	words := map[string]string{} // in small letters, to the case
	for _, pattern := range []string{"../../cases/*/truth.json", "../accuracy/testdata/*/truth.json"} {
		files, err := filepath.Glob(pattern)
		if err != nil || len(files) == 0 {
			t.Fatalf("no cases in %s: %v", pattern, err)
		}
		for _, file := range files {
			for _, w := range sampleWords(t, file) {
				words[strings.ToLower(w)] = path.Base(filepath.Dir(file))
			}
		}
	}
	for _, part := range []string{"cluster", "link", "triage", "notes"} {
		for literal, at := range literals(t, part) {
			for _, w := range wholeWord.FindAllString(literal, -1) {
				if of := words[strings.ToLower(w)]; of != "" {
					t.Errorf("%s has %q of the case %s in %.60q", at, w, of, literal)
				}
			}
		}
	}
}

var (
	wholeWord = regexp.MustCompile(`[A-Za-z][A-Za-z0-9_]{3,}`)
	compound  = regexp.MustCompile(`\b(?:[a-z]+[A-Z]\w{2,}|[A-Z][a-z]+[A-Z]\w+|[a-z]+_\w+)\b`)
	// Languages, and words of libraries' names that are anybody's.
	anybodys = regexp.MustCompile(`^(?i:python|javascript|typescript|java|ruby|rust|node|elixir|golang|github|core|example|date|score)$`)
)

// sampleWords are the words of a case's world, its library and its causes' titles.
func sampleWords(t *testing.T, file string) (list []string) {
	data, err := os.ReadFile(file)
	if err != nil {
		t.Fatal(err)
	}
	var truth struct {
		Subject struct{ Name string }
		Causes  []struct{ Title string }
	}
	if err := json.Unmarshal(data, &truth); err != nil {
		t.Fatalf("%s: %v", file, err)
	}
	_, world, _ := strings.Cut(path.Base(filepath.Dir(file)), "-")
	for _, w := range append(wholeWord.FindAllString(truth.Subject.Name, -1), wholeWord.FindAllString(world, -1)...) {
		if !anybodys.MatchString(w) {
			list = append(list, w)
		}
	}
	for _, c := range truth.Causes {
		list = append(list, compound.FindAllString(c.Title, -1)...)
	}
	return list
}

// literals are the texts in the code of a package, with where they stand.
func literals(t *testing.T, folder string) map[string]string {
	found, set := map[string]string{}, token.NewFileSet()
	files, err := filepath.Glob(filepath.Join(folder, "*.go"))
	if err != nil || len(files) == 0 {
		t.Fatalf("no code in %s: %v", folder, err)
	}
	for _, name := range files {
		if strings.HasSuffix(name, "_test.go") {
			continue
		}
		file, err := parser.ParseFile(set, name, nil, 0)
		if err != nil {
			t.Fatal(err)
		}
		ast.Inspect(file, func(n ast.Node) bool {
			switch n := n.(type) {
			case *ast.ImportSpec:
				return false
			case *ast.BasicLit:
				if n.Kind == token.STRING {
					found[n.Value] = set.Position(n.Pos()).String()
				}
			}
			return true
		})
	}
	return found
}
