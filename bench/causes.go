package main

import (
	"context"
	"fmt"
	"math"
	"runtime"
	"strings"
	"testing/fstest"
	"time"

	"unicausa/internal/core/notes"
	"unicausa/internal/core/read"
	"unicausa/internal/core/source"
	"unicausa/internal/core/symptom"
	"unicausa/internal/core/triage"
	"unicausa/internal/core/versions"
)

// measureCauses times drawing and linking causes at sizes that grow tenfold.
func measureCauses(p *page) error {
	changes := manyChanges(4000)
	p.section("Drawing and linking causes", "Symptoms of compilers and tests, each distinct one seen ten times, drawn into causes and linked to 4,000 changes of notes, with their source tree. The time is the least of three. The slope is the exponent by which the time grows from size to size: 1 is in proportion.")
	p.table("symptoms", "distinct", "causes", "time", "memory in use", "slope")
	last, size := 0.0, 0
	for _, n := range []int{1_000, 10_000, 100_000, 1_000_000} {
		c, err := manySymptoms(n, changes)
		if err != nil {
			return err
		}
		var r triage.Report
		took := math.Inf(1)
		for range 3 {
			runtime.GC()
			from := time.Now()
			r = triage.Run(context.Background(), c)
			took = min(took, time.Since(from).Seconds())
		}
		var m runtime.MemStats
		runtime.ReadMemStats(&m)
		slope := ""
		if size > 0 {
			slope = fmt.Sprintf("%.2f", math.Log(took/last)/math.Log(float64(n)/float64(size)))
		}
		last, size = took, n
		p.row(fmt.Sprint(n), fmt.Sprint(len(r.Symptoms)), fmt.Sprint(len(r.Causes)), fmt.Sprintf("%.2f s", took), fmt.Sprintf("%d MiB", m.HeapInuse>>20), slope)
	}
	return nil
}

// manyChanges are the changes of notes with so many entries.
func manyChanges(n int) []notes.Change {
	var b strings.Builder
	b.WriteString("# Changes\n\n## 5.0.0\n\n")
	for i := range n {
		switch i % 4 {
		case 0:
			fmt.Fprintf(&b, "- `Open%d` was renamed to `Connect%d`.\n", i, i)
		case 1:
			fmt.Fprintf(&b, "- `Lid%d` was removed.\n", i)
		case 2:
			fmt.Fprintf(&b, "- `Fill%d` takes a context as its first argument.\n", i)
		default:
			fmt.Fprintf(&b, "- Weights of shelf %d are rounded to even grams by `Round%d`.\n", i, i)
		}
	}
	return notes.Read("CHANGES.md", "example.org/jar", []byte(b.String()))
}

// perFile is how many symptoms stand in one file of the made-up tree.
const perFile = 20

// manySymptoms is a case of n symptoms, a tenth of them distinct, on a tree of
// files in which they stand.
func manySymptoms(n int, changes []notes.Change) (triage.Case, error) {
	files := fstest.MapFS{}
	var list []symptom.Symptom
	var text strings.Builder
	for i := range n / 10 {
		if i%perFile == 0 {
			text.Reset()
			text.WriteString("package shelf\n\nimport \"example.org/jar\"\n\n")
		}
		file, line := fmt.Sprintf("shelf/shelf%d.go", i/perFile), 5+3*(i%perFile)
		s := symptom.Symptom{Kind: symptom.Error, Level: "error", Phase: symptom.PhaseCompile, Tool: "go", File: file, Line: line + 1, Column: 6}
		name := i / 5 % 3000 // of more names than the notes have
		switch i % 3 {
		case 0:
			s.Message = fmt.Sprintf("undefined: jar.Open%d", name)
			s.Refs = []symptom.Ref{{Role: symptom.Missing, Name: fmt.Sprintf("jar.Open%d", name)}, {Role: symptom.Owner, Name: "jar"}}
			fmt.Fprintf(&text, "func a%d() {\n\tjar.Open%d()\n}\n", i, name)
		case 1:
			s.Message = fmt.Sprintf("not enough arguments in call to jar.Fill%d", name)
			s.Refs = []symptom.Ref{{Role: symptom.Callee, Name: fmt.Sprintf("jar.Fill%d", name)}}
			fmt.Fprintf(&text, "func b%d() {\n\tjar.Fill%d(3)\n}\n", i, name)
		default:
			s.Kind, s.Phase, s.Test = symptom.TestFailure, symptom.PhaseTest, fmt.Sprintf("TestRound%d", i)
			s.Message = fmt.Sprintf("got %d, want %d", i, i+1)
			fmt.Fprintf(&text, "func TestRound%d(t *testing.T) {\n\tcheck(t, jar.Round%d(%d))\n}\n", i, name, i)
		}
		list = append(list, s)
		if i%perFile == perFile-1 || i == n/10-1 {
			files[file] = &fstest.MapFile{Data: []byte(text.String())}
		}
	}
	tree, err := source.NewTree(files)
	if err != nil {
		return triage.Case{}, err
	}
	results := make([]read.Result, 10)
	for j := range results {
		results[j].Name = fmt.Sprintf("build-%d.log", j)
		for i, s := range list {
			s.At, s.Count = []symptom.At{{Input: results[j].Name, Line: i + 1}}, 1
			results[j].Symptoms = append(results[j].Symptoms, s)
		}
	}
	return triage.Case{After: []triage.Snapshot{{Results: results, Tree: tree}}, Changes: changes, Moves: []versions.Move{{From: "4.0.0", To: "5.0.0"}}}, nil
}
