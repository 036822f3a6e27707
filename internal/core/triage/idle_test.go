package triage

import (
	"testing"
	"testing/fstest"

	"unicausa/internal/core/source"
)

// TestIdleNames holds that a name of the project's own which nothing uses is a cause of
// its own, whatever else stands on its line.
func TestIdleNames(t *testing.T) {
	tree, err := source.NewTree(fstest.MapFS{
		"go.mod":   {Data: []byte("module press\n\nrequire example.org/jar v5.0.0\n")},
		"press.go": {Data: []byte("package press\n\nimport \"example.org/jar\"\n\nfunc f() {\n\tn, err := jar.Fill(1)\n\tm, bad := jar.Fill(2)\n\tjar.Fill(n, m)\n}\n")},
	})
	if err != nil {
		t.Fatal(err)
	}
	after := fresh(t, "build.log", "# press\n./press.go:6:5: declared and not used: err\n./press.go:7:5: declared and not used: bad\n./press.go:8:11: too many arguments in call to jar.Fill\n\thave (int, int)\n\twant (int)\n")
	after.Tree = tree
	r := Run(t.Context(), Case{After: []Snapshot{after}})
	of := map[string]string{}
	for _, s := range r.Symptoms {
		of[s.Message] = s.Cause
	}
	fill := of["too many arguments in call to jar.Fill"]
	if fill == "" || of["declared and not used: err"] == fill || of["declared and not used: bad"] == fill {
		t.Errorf("the causes are %v", of)
	}
}
