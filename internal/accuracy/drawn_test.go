package accuracy

import (
	"flag"
	"fmt"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"unicausa/internal/core/cluster"
	"unicausa/internal/core/triage"
)

var update = flag.Bool("update", false, "write what is drawn now as what is to be drawn")

// TestDrawn holds what is drawn of each case, to the last reason and weight, so that a change
// to how causes are drawn, linked or ranked shows what it changes. Where that is meant, -update
// writes it anew, and the difference is read.
func TestDrawn(t *testing.T) {
	cases, err := LoadAll("testdata")
	if err != nil {
		t.Fatal(err)
	}
	for _, c := range cases {
		t.Run(c.Name, func(t *testing.T) {
			in, err := c.Triage()
			if err != nil {
				t.Fatal(err)
			}
			report := triage.Run(t.Context(), in)
			got := drawn(&report)
			file := filepath.Join("testdata", c.Name, "drawn.golden")
			if *update {
				if err := os.WriteFile(file, []byte(got), 0o644); err != nil {
					t.Fatal(err)
				}
				return
			}
			want, err := os.ReadFile(file)
			if err != nil {
				t.Fatal(err)
			}
			if diff := firstDifference(string(want), got); diff != "" {
				t.Errorf("%s; where that is meant: go test ./internal/accuracy -run TestDrawn -update, and read the difference", diff)
			}
		})
	}
}

// drawn is a report as text: each cause with its reasons, members, links and steps.
func drawn(r *triage.Report) string {
	symptoms := map[string]*triage.Symptom{}
	for i := range r.Symptoms {
		symptoms[r.Symptoms[i].ID] = &r.Symptoms[i]
	}
	at := map[string]string{}
	for _, c := range r.Changes {
		at[c.ID] = fmt.Sprintf("%s:%d", filepath.Base(c.Notes), c.Line)
	}
	var b strings.Builder
	for _, c := range r.Causes {
		fmt.Fprintf(&b, "%s %s in %s, package %q, known %v: %s\n  first for: %s\n", c.ID, c.Kind, c.Phase, c.Package, c.Known, c.Title, c.Reason)
		for _, why := range c.Because {
			fmt.Fprintf(&b, "  because %s\n", reason(why))
		}
		for _, id := range c.Symptoms {
			s, what := symptoms[id], "has"
			if slices.Contains(c.Followers, id) {
				what = "followed by"
			}
			fmt.Fprintf(&b, "  %s %s:%d %s %q", what, s.File, s.Line, s.Test, strings.SplitN(s.Message, "\n", 2)[0])
			if s.Because != nil {
				fmt.Fprintf(&b, " by %s", reason(*s.Because))
			}
			b.WriteByte('\n')
		}
		for _, l := range c.Links {
			fmt.Fprintf(&b, "  %s %.3f %s\n", at[l.Change], l.Score, l.Standing)
			for _, why := range l.Because {
				fmt.Fprintf(&b, "    %s\n", reason(why))
			}
		}
		for _, s := range c.Steps {
			fmt.Fprintf(&b, "  do %s: %s\n", s.Kind, s.Text)
		}
	}
	return b.String()
}

func reason(b cluster.Because) string {
	return fmt.Sprintf("%s: %.60q %.3f", b.What, b.Value, b.Weight)
}

// firstDifference tells of the first line in which two texts differ, "" where none does.
func firstDifference(want, got string) string {
	a, b := strings.Split(want, "\n"), strings.Split(got, "\n")
	for i := range max(len(a), len(b)) {
		var was, is string
		if i < len(a) {
			was = a[i]
		}
		if i < len(b) {
			is = b[i]
		}
		if was != is {
			return fmt.Sprintf("line %d is\n%s\nand was\n%s", i+1, is, was)
		}
	}
	return ""
}
