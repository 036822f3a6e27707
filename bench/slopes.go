package main

import (
	"archive/zip"
	"bytes"
	"context"
	"fmt"
	"io"
	"math"
	"strings"
	"testing/fstest"
	"time"

	"unicausa/internal/core/exposure"
	"unicausa/internal/core/notes"
	"unicausa/internal/core/read"
	"unicausa/internal/core/rewrite"
	"unicausa/internal/core/secret"
	"unicausa/internal/core/source"
	"unicausa/internal/core/versions"
	"unicausa/internal/store"
)

// grown is a step that sees what users give, on hostile input of a size in bytes.
type grown struct {
	name string
	on   func(size int) (run func())
}

func repeated(text string, size int) []byte { return bytes.Repeat([]byte(text), size/len(text)+1) }

func reading(text string) func(int) func() {
	return func(size int) func() {
		data := repeated(text, size)
		return func() { read.All("x.log", bytes.NewReader(data)) }
	}
}

func document(text string) func(int) func() {
	return func(size int) func() {
		data := append([]byte("# Changes\n\n## 5.0.0\n\n"), repeated(text, size)...)
		return func() { notes.Read("x.md", "jar", data) }
	}
}

// steps are the steps, each with what it could stumble over.
var steps = []grown{
	{"a line without an end is spooled", func(size int) func() {
		data := bytes.Repeat([]byte("x"), size)
		return func() {
			s, err := store.NewSpool(store.RunFacts{Check: "x"})
			if err == nil {
				s.Input("x.log", bytes.NewReader(data))
				s.Close()
			}
		}
	}},
	{"secrets are masked", func(size int) func() {
		data := repeated("API_KEY=3f9a8b7c6d5e4f3a2b1c token: ", size)
		return func() { io.Copy(io.Discard, secret.NewReader(&secret.Masker{}, bytes.NewReader(data))) }
	}},
	{"a log of one line", reading("a.c:1:1: error: no ")},
	{"a log of brackets", reading("        {\n")},
	{"a log of failed tests", reading("--- FAIL: TestA/b (0.00s)\n")},
	{"a report in XML, nested", reading("<testsuite name='a'>")},
	{"a report in JSON, nested", reading(`{"a":[`)},
	{"notes of one line", document("- [ ] `strict=True` → `on_error=\"raise\"` ")},
	{"notes of one list", document("- `Open` was renamed to `Connect`.\n")},
	{"notes of quotes", document("> ")},
	{"imports and uses in one file", func(size int) func() {
		var b strings.Builder
		for i := 0; b.Len() < size/2; i++ {
			fmt.Fprintf(&b, "import { lid%d } from 'jar';\n", i)
		}
		for i := 0; b.Len() < size; i++ {
			fmt.Fprintf(&b, "jar.lid(%d); lid(Lid)\n", i)
		}
		tree, _ := source.NewTree(fstest.MapFS{"a.ts": {Data: []byte(b.String())}})
		changes := notes.Read("x.md", "jar", []byte("## 5.0.0\n\n- `lid` was renamed to `cap`.\n- `jar.Lid` was removed\n"))
		return func() { exposure.Search(context.Background(), tree, changes) }
	}},
	{"an edit by example in one file", func(size int) func() {
		tree, _ := source.NewTree(fstest.MapFS{"a.ts": {Data: repeated("fill(jar, litres(fill(a, b)));\n", size)}})
		return func() {
			rewrite.ByExample(context.Background(), tree, []rewrite.Example{{From: "fill(jar, litres)", To: "fill(litres, jar)"}}, nil)
		}
	}},
	{"a lock file", func(size int) func() {
		var b strings.Builder
		b.WriteString(`{"lockfileVersion":3,"packages":{"":{}`)
		for i := 0; b.Len() < size; i++ {
			fmt.Fprintf(&b, `,"node_modules/p%d":{"version":"1.0.%d","dependencies":{"p%d":"^1.0.0"}}`, i, i, i/2)
		}
		b.WriteString("}}")
		tree, _ := source.NewTree(fstest.MapFS{"package-lock.json": {Data: []byte(b.String())}})
		return func() { versions.Read(tree) }
	}},
	{"a source tree of small files", func(size int) func() {
		var b bytes.Buffer
		w := zip.NewWriter(&b)
		for i := range size / 64 {
			f, err := w.Create(fmt.Sprintf("d%d/f%d.go", i%97, i))
			if err == nil {
				io.WriteString(f, "package a\n")
			}
		}
		w.Close()
		return func() {
			if archive, err := zip.NewReader(bytes.NewReader(b.Bytes()), int64(b.Len())); err == nil {
				source.Tracked(archive)
			}
		}
	}},
}

// measureSlopes doubles the input of each step, and tells by which power of the size its
// time grows.
func measureSlopes(p *page) {
	const first, doublings = 128 << 10, 3
	p.section("Hostile input", "Each step that sees what users give, on input that it could stumble over, at sizes that double three times. The slope is the exponent by which the time grows: 1 is in proportion. Times are the least of three.")
	p.table("step", "128 KiB", "256 KiB", "512 KiB", "1 MiB", "slope")
	for _, step := range steps {
		cells := []string{step.name}
		var times []float64
		for n := range doublings + 1 {
			run := step.on(first << n)
			least := math.Inf(1)
			for range 3 {
				from := time.Now()
				run()
				least = min(least, time.Since(from).Seconds())
			}
			times = append(times, least)
			cells = append(cells, fmt.Sprintf("%.0f ms", 1000*least))
		}
		p.row(append(cells, fmt.Sprintf("%.2f", math.Log2(times[doublings]/times[0])/doublings))...)
	}
}
