package cluster

import (
	"flag"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"unicausa/internal/core/symptom"
)

var update = flag.Bool("update", false, "write what is drawn into testdata/rules")

// TestRules holds the rules by which symptoms become causes, each with what it must not take
// along: a file of testdata/rules is a small tree, what its tools print ("-- log --"), the
// names that the notes have ("-- names --"), the tests that passed ("-- passed --") and what
// is drawn of it ("-- want --").
func TestRules(t *testing.T) {
	list, err := filepath.Glob("testdata/rules/*.txt")
	if err != nil || len(list) == 0 {
		t.Fatal("no rules", err)
	}
	for _, file := range list {
		t.Run(strings.TrimSuffix(filepath.Base(file), ".txt"), func(t *testing.T) {
			text, err := os.ReadFile(file)
			if err != nil {
				t.Fatal(err)
			}
			tree := files(string(text))
			take := func(name string) string {
				defer delete(tree, name)
				if f := tree[name]; f != nil {
					return string(f.Data)
				}
				return ""
			}
			log, names, passed, want := take("log"), take("names"), take("passed"), take("want")
			ctx := &Context{Subjects: []string{"jar"}, Names: setOf(names)}
			var tests []symptom.Test
			for _, name := range strings.Fields(passed) {
				tests = append(tests, symptom.Test{Name: name, Outcome: symptom.Passed})
			}
			ctx.Passed = PassedTests(tests)
			got := because(Group(t.Context(), gather(t, log, tree, ctx), ctx))
			if *update {
				before, _, _ := strings.Cut(string(text), "-- want --\n")
				if err := os.WriteFile(file, []byte(before+"-- want --\n"+got), 0o644); err != nil {
					t.Fatal(err)
				}
			} else if got != want {
				t.Errorf("got\n%s\nwant\n%s", got, want)
			}
		})
	}
}

// because writes causes as drawn does, with the reason of each member that is not the same as
// that of the one before.
func because(causes []Cause) string {
	var b strings.Builder
	for _, c := range causes {
		b.WriteString(drawn([]Cause{c}) + "\n")
		last := ""
		for _, m := range c.Members {
			if reason := m.Because.What + " " + m.Because.Value; reason != last {
				b.WriteString("    " + reason + "\n")
				last = reason
			}
		}
	}
	return b.String()
}
