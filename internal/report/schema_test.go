package report

import (
	"bytes"
	"go/ast"
	"go/parser"
	"go/token"
	"os/exec"
	"path/filepath"
	"strconv"
	"strings"
	"testing"

	_ "github.com/owenrumney/go-sarif/v3/pkg/report/v210/sarif" // whose source has the schema
	"github.com/xeipuuv/gojsonschema"

	"unicausa/internal/api"
	"unicausa/internal/core/symptom"
	"unicausa/internal/core/triage"
)

// TestSARIFIsValid holds every SARIF log against the schema of SARIF 2.1.0.
func TestSARIFIsValid(t *testing.T) {
	r := triage.Report{
		Symptoms: []triage.Symptom{{Symptom: symptom.Symptom{ID: "s", Kind: symptom.Error, Level: "error", Message: "undefined: jar.OpenLid", File: "shelf.go", Line: 3, State: symptom.New, At: []symptom.At{{Input: "build.log", Line: 1}}}, Cause: "C1"}},
		Causes:   []triage.Cause{{ID: "C1", Title: "jar.OpenLid was renamed", Kind: "renamed", Root: "s", Symptoms: []string{"s"}, Links: []triage.Link{{Change: "c", Score: 0.9, Standing: "likely"}}}},
		Changes:  []triage.Change{{ID: "c", Notes: "CHANGELOG.md", Line: 5, End: 5, Title: "`OpenLid` was renamed"}},
	}
	shut := api.Gate{
		Reasons: []api.GateReason{{Code: "undecided", Text: "C1 is undecided", Cause: "C1", Path: "/causes/C1"}, {Code: "check-fails", Text: "build fails", Check: "build"}},
		Vouched: []api.Vouched{{Reason: api.GateReason{Code: "lost-test", Text: "a test is missing"}, Word: "it is gone", Author: "Mirja"}},
	}
	schema := gojsonschema.NewStringLoader(sarifSchema(t))
	for name, write := range map[string]func(b *bytes.Buffer) error{
		"a report": func(b *bytes.Buffer) error {
			return SARIF(b, &r, Texts{"CHANGELOG.md": {"", "", "", "", "- `OpenLid` was renamed"}})
		},
		"no trouble": func(b *bytes.Buffer) error { return SARIF(b, &triage.Report{}, nil) },
		"a gate":     func(b *bytes.Buffer) error { return GateAs(b, "sarif", shut, "http://127.0.0.1:7236/upgrades/1") },
		"an open gate": func(b *bytes.Buffer) error {
			return GateAs(b, "sarif", api.Gate{Open: true, Reasons: []api.GateReason{}, Vouched: []api.Vouched{}}, "http://127.0.0.1:7236/upgrades/1")
		},
	} {
		var b bytes.Buffer
		if err := write(&b); err != nil {
			t.Fatalf("%s: %v", name, err)
		}
		result, err := gojsonschema.Validate(schema, gojsonschema.NewBytesLoader(b.Bytes()))
		if err != nil {
			t.Fatal(err)
		}
		if !result.Valid() {
			t.Errorf("%s: %v\n%s", name, result.Errors(), b.String())
		}
	}
}

// sarifSchema is the schema of SARIF 2.1.0, as a library's source has it.
func sarifSchema(t *testing.T) string {
	t.Helper()
	dir, err := exec.Command("go", "list", "-f", "{{.Dir}}", "github.com/owenrumney/go-sarif/v3/pkg/report/v210/sarif").Output()
	if err != nil {
		t.Fatal(err)
	}
	files, err := filepath.Glob(filepath.Join(strings.TrimSpace(string(dir)), "*.go"))
	if err != nil {
		t.Fatal(err)
	}
	schema := ""
	for _, name := range files {
		file, err := parser.ParseFile(token.NewFileSet(), name, nil, 0)
		if err != nil {
			t.Fatal(err)
		}
		ast.Inspect(file, func(n ast.Node) bool {
			if text, ok := n.(*ast.BasicLit); ok && text.Kind == token.STRING && strings.Contains(text.Value, "sarif-schema-2.1.0") && len(text.Value) > len(schema) {
				schema, _ = strconv.Unquote(text.Value)
			}
			return true
		})
	}
	if len(schema) < 10_000 {
		t.Fatal("the library's source has no schema")
	}
	return schema
}
