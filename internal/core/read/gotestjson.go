package read

import (
	"encoding/json"
	"strings"
)

// goTestJSON reads the events of go test -json, one object a line. Each
// package's output goes through a reader of its own, so packages whose events
// are interleaved stay apart. Format: cmd/internal/test2json.
type goTestJSON struct {
	packages map[string]*goTest
	builds   map[string]*goBuild
	partial  map[string]*strings.Builder // output that has not seen its line's end
}

// goEvent is one event; see go doc test2json.
type goEvent struct {
	Action     string
	Package    string
	ImportPath string
	Test       string
	Output     string
	Elapsed    float64
}

var goTestJSONReader = stream{name: "go test -json", marks: []string{`"Action":"`}, open: func() lineReader {
	return &goTestJSON{packages: map[string]*goTest{}, builds: map[string]*goBuild{}, partial: map[string]*strings.Builder{}}
}}

func (g *goTestJSON) line(l Line, out *sink) verdict {
	if !strings.HasPrefix(l.Text, `{"`) || !strings.Contains(l.Text, `"Action":"`) {
		return pass
	}
	var e goEvent
	if json.Unmarshal([]byte(l.Text), &e) != nil || e.Package == "" && e.ImportPath == "" {
		return pass
	}
	out.result.Format = FormatJSON
	switch e.Action {
	case "build-output":
		return g.build(e, l.Number, out)
	case "build-fail":
		out.block(unitName(e.ImportPath))
		return noise
	case "output":
		return g.output(e, l.Number, out)
	case "pass", "fail", "skip":
		g.ended(e, out)
		return noise
	}
	return noise
}

func (g *goTestJSON) build(e goEvent, number int, out *sink) verdict {
	b := g.builds[e.ImportPath]
	if b == nil {
		b = &goBuild{}
		g.builds[e.ImportPath] = b
	}
	v := b.line(Line{Number: number, Text: strings.TrimRight(e.Output, "\r\n")}, out)
	if v == pass && troubled(e.Output) {
		return pass
	}
	return settle(v)
}

// output feeds a package's output line by line; a test may print without
// ending its line.
func (g *goTestJSON) output(e goEvent, number int, out *sink) verdict {
	key := e.Package + "\x00" + e.Test
	held := g.partial[key]
	text := e.Output
	if held != nil {
		text = held.String() + text
		delete(g.partial, key)
	}
	if !strings.HasSuffix(text, "\n") {
		if len(text) < maxLine {
			held = &strings.Builder{}
			held.WriteString(text)
			g.partial[key] = held
		}
		return noise
	}
	t := g.packages[e.Package]
	if t == nil {
		t = newGoTest()
		g.packages[e.Package] = t
	}
	if e.Test != "" {
		t.current = e.Test
	}
	result := noise
	for _, line := range strings.Split(strings.TrimSuffix(text, "\n"), "\n") {
		if v := t.line(Line{Number: number, Text: plain([]byte(line))}, out); v == took || v == more {
			result = took
		}
	}
	return result
}

// ended closes a package that printed no verdict of its own.
func (g *goTestJSON) ended(e goEvent, out *sink) {
	if e.Test != "" {
		return
	}
	if t := g.packages[e.Package]; t != nil {
		t.finish(e.Package, out)
		delete(g.packages, e.Package)
	}
	if e.Action != "fail" {
		out.finished(e.Package)
	}
}

// unitName is an import path without the test variant: "jar [jar.test]".
func unitName(importPath string) string { return before(importPath, " [") }

// settle keeps a nested reader's hold from the outer router: events of other
// packages may stand between two lines of one diagnostic.
func settle(v verdict) verdict {
	switch v {
	case pass:
		return noise
	case more:
		return took
	}
	return v
}

func (g *goTestJSON) close(out *sink) {
	for _, name := range sorted(keys(g.builds)) {
		g.builds[name].close(out)
	}
	for _, name := range sorted(keys(g.packages)) {
		g.packages[name].finish(name, out)
	}
}

func keys[V any](m map[string]V) map[string]bool {
	set := make(map[string]bool, len(m))
	for name := range m {
		set[name] = true
	}
	return set
}
