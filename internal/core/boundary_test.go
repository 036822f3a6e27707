package core

import (
	"io/fs"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strings"
	"testing"
)

// forbidden are what core must not touch: it computes on values, and opens,
// listens, sleeps and looks at nothing.
var forbidden = []string{"os", "os/exec", "os/signal", "net", "net/http", "time", "syscall", "database/sql", "html/template", "log", "log/slog", "embed", "path/filepath"}

// arrows are the packages of core in their order: each may import those before it.
var arrows = []string{"guard", "secret", "unified", "versions", "symptom", "source", "read", "notes", "compare", "exposure", "rewrite", "cluster", "link", "triage", "route", "debt", "review", "casebook", "track", "gate", "analysis"}

func goList(t *testing.T, args ...string) []string {
	t.Helper()
	out, err := exec.Command("go", append([]string{"list"}, args...)...).Output()
	if err != nil {
		t.Fatal(err)
	}
	return strings.Split(strings.TrimSpace(string(out)), "\n")
}

// TestBoundary holds that core imports nothing of ours outside of core, nothing
// that reaches outside of the process, and itself only in one direction.
func TestBoundary(t *testing.T) {
	seeFiles(t)
	for _, name := range goList(t, "-deps", "unicausa/internal/core/...") {
		if strings.HasPrefix(name, "unicausa/") && !strings.HasPrefix(name, "unicausa/internal/core") {
			t.Errorf("core depends on %s", name)
		}
	}
	order := map[string]int{}
	for i, name := range arrows {
		order["unicausa/internal/core/"+name] = i
	}
	for _, line := range goList(t, "-f", `{{.ImportPath}} {{join .Imports " "}}`, "unicausa/internal/core/...") {
		fields := strings.Fields(line)
		if strings.HasSuffix(fields[0], "test") { // a helper of tests
			continue
		}
		for _, imported := range fields[1:] {
			for _, name := range forbidden {
				if imported == name {
					t.Errorf("%s imports %s", fields[0], name)
				}
			}
			if strings.HasPrefix(imported, "unicausa/") && order[imported] >= order[fields[0]] {
				t.Errorf("%s imports %s, against the arrows", fields[0], imported)
			}
		}
		if _, known := order[fields[0]]; !known && fields[0] != "unicausa/internal/core" {
			t.Errorf("%s has no place in the order", fields[0])
		}
	}
}

// aboveView are the packages that may speak in the types of the API; what is below them speaks
// in those of the core and of the records.
var aboveView = []string{"view", "service", "client", "cli", "report", "editor", "demo"}

// TestAPI holds that the core, the records and what they rest on know nothing of the API.
func TestAPI(t *testing.T) {
	seeFiles(t)
	for _, line := range goList(t, "-f", `{{.ImportPath}} {{join .Imports " "}}`, "unicausa/internal/...") {
		fields := strings.Fields(line)
		name := strings.TrimPrefix(fields[0], "unicausa/internal/")
		for _, imported := range fields[1:] {
			if imported == "unicausa/internal/api" && !slices.Contains(aboveView, name) {
				t.Errorf("%s imports the API's types: they belong to view and what is above it", name)
			}
		}
	}
}

// seeFiles opens every file of ours, for go test takes an earlier result where
// no file has changed that the test itself has opened.
func seeFiles(t *testing.T) {
	err := filepath.WalkDir("..", func(name string, d fs.DirEntry, err error) error {
		if err != nil || d.IsDir() || filepath.Ext(name) != ".go" {
			return err
		}
		_, err = os.ReadFile(name)
		return err
	})
	if err != nil {
		t.Fatal(err)
	}
}
