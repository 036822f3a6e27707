package e2e

import (
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"unicausa/internal/api"
	"unicausa/internal/client"
)

// TestRunners holds that red, green and green again clears a cause and opens
// the gate whichever runner printed it; testdata/runners/record.sh recorded them.
func TestRunners(t *testing.T) {
	folders, err := filepath.Glob("testdata/runners/*/green.*")
	if err != nil || len(folders) < 14 {
		t.Fatalf("%d runners: %v", len(folders), err)
	}
	// Its dots are counted by nothing: only another printer tells.
	silent := map[string]bool{"node-dots": true}
	c := here(t)
	for _, green := range folders {
		runner := filepath.Base(filepath.Dir(green))
		t.Run(runner, func(t *testing.T) {
			upgrade := begin(t, c, "runners")
			send := func(state string, exit int) {
				t.Helper()
				name := state + filepath.Ext(green)
				data, err := os.ReadFile(filepath.Join(filepath.Dir(green), name))
				if err != nil {
					t.Fatal(err)
				}
				run, err := c.Record(t.Context(), upgrade, api.RunFacts{Check: "tests", Exit: exit, StartedAt: time.Now()}, []client.Input{{Name: "tests" + filepath.Ext(green), Content: strings.NewReader(string(data))}}, nil, nil)
				if err == nil {
					run, err = c.Processed(t.Context(), upgrade, run.Number)
				}
				if err != nil || run.Status != "processed" {
					t.Fatalf("%s: %v", run.Status, err)
				}
			}
			stands := func() string {
				t.Helper()
				causes, err := c.Causes(t.Context(), upgrade)
				if err != nil {
					t.Fatal(err)
				}
				gate, err := c.Gate(t.Context(), upgrade, "")
				if err != nil {
					t.Fatal(err)
				}
				var list []string
				for _, cause := range causes {
					list = append(list, string(cause.Status))
				}
				for _, r := range gate.Reasons {
					if r.Code != "version-unseen" { // no lock file was recorded
						list = append(list, r.Code)
					}
				}
				return fmt.Sprint(list)
			}
			send("green", 0)
			if _, err := c.AcceptBaseline(t.Context(), upgrade); err != nil {
				t.Fatal(err)
			}
			send("red", 1)
			if got := stands(); got != "[shown check-fails undecided]" {
				t.Errorf("red: %s", got)
			}
			want := "[cleared]"
			if silent[runner] {
				want = "[hidden cannot-tell]"
			}
			for range 2 {
				send("green", 0)
				if got := stands(); got != want {
					t.Errorf("green: %s, want %s", got, want)
				}
			}
		})
	}
}
