package read

import (
	"strconv"
	"strings"

	"unicausa/internal/core/symptom"
)

// goTest reads what a Go test binary and go test print:
//
//	=== RUN   TestLid                    with -v; also PAUSE, CONT, NAME
//	    lid_test.go:12: got 3, want 4    the log, before the verdict with -v, behind it without
//	--- FAIL: TestLid (0.00s)            subtests are indented by four spaces a level
//	panic: … / fatal error: …            and the stacks of the goroutines
//	FAIL	example.org/jar	0.004s       the package's verdict, which names it
//	FAIL	example.org/jar [build failed]
//	ok  	example.org/jar	0.004s
//
// Formats: the testing package, cmd/go/internal/test, cmd/internal/test2json.
type goTest struct {
	current string              // the test whose log is being printed
	logs    map[string][]string // log lines printed before the verdict
	failed  []*goFailure        // of the package at hand, whose name comes last
	tests   []symptom.Test
	at      *goFailure // the failure whose log follows
	crash   *goCrash
}

type goFailure struct {
	name      string
	depth     int // indentation of its verdict
	line, end int
	log       []string
}

type goCrash struct {
	s         symptom.Symptom
	line, end int
	function  string
	first     bool // still in the first goroutine's stack
	done      bool
	recovered bool // by the testing package, which names the test first
}

var goTestReader = stream{name: "go test", marks: []string{"^--- FAIL", "^--- PASS", "^--- SKIP", "^=== ", "^FAIL", "^ok  \t", "^?   \t", "^---\t", "^PASS", "^coverage: ", "^exit status ", "^panic: ", "^fatal error: ", "^WARNING: DATA RACE"}, open: func() lineReader { return newGoTest() }}

func newGoTest() *goTest { return &goTest{logs: map[string][]string{}} }

// listening is for the log of a test, whose lines have no mark.
func (g *goTest) listening() bool { return g.current != "" || g.at != nil }

func (g *goTest) line(l Line, out *sink) verdict {
	if g.crash != nil && !g.crash.done {
		if v := g.stack(l); v != pass {
			return v
		}
	}
	trimmed := strings.TrimLeft(l.Text, " ")
	depth := len(l.Text) - len(trimmed)
	if strings.HasPrefix(trimmed, "--- ") {
		return g.verdict(l, trimmed, depth)
	}
	if depth == 0 {
		return g.flush(l, out)
	}
	if g.at != nil && depth > g.at.depth {
		g.at.log = append(g.at.log, trimmed)
		g.at.end = l.Number
		return more
	}
	if g.current != "" && depth >= 4 {
		g.logs[g.current] = append(g.logs[g.current], trimmed)
		return noise
	}
	return pass
}

// verdict takes "--- FAIL: TestLid (0.00s)" and its kin.
func (g *goTest) verdict(l Line, trimmed string, depth int) verdict {
	word, rest, ok := strings.Cut(trimmed[4:], ": ")
	if !ok {
		return pass
	}
	outcome, known := map[string]symptom.Outcome{"FAIL": symptom.Failed, "PASS": symptom.Passed, "SKIP": symptom.Skipped}[word]
	open := strings.LastIndex(rest, " (")
	if !known || open < 0 || !strings.HasSuffix(rest, "s)") {
		return pass
	}
	name := rest[:open]
	seconds, _ := strconv.ParseFloat(strings.TrimSuffix(rest[open+2:], "s)"), 64)
	g.tests = append(g.tests, symptom.Test{Name: name, Outcome: outcome, Seconds: seconds})
	g.at = nil
	if outcome != symptom.Failed {
		delete(g.logs, name)
		g.at = &goFailure{depth: depth} // takes the log of a test that passed or was skipped
		return noise
	}
	g.at = &goFailure{name: name, depth: depth, line: l.Number, end: l.Number, log: g.logs[name]}
	delete(g.logs, name)
	g.failed = append(g.failed, g.at)
	return more
}

// flush takes a line that is not indented.
func (g *goTest) flush(l Line, out *sink) verdict {
	switch {
	case strings.HasPrefix(l.Text, "=== "):
		fields := strings.Fields(l.Text)
		if len(fields) == 3 {
			g.current, g.at = fields[2], nil
		}
		return noise
	case l.Text == "FAIL" || l.Text == "PASS" || strings.HasPrefix(l.Text, "coverage: ") || strings.HasPrefix(l.Text, "exit status "):
		g.at = nil
		return noise
	case strings.HasPrefix(l.Text, "panic: "), strings.HasPrefix(l.Text, "fatal error: "), strings.HasPrefix(l.Text, "WARNING: DATA RACE"):
		g.crashed(l)
		return more
	case strings.HasPrefix(l.Text, "FAIL\t"), strings.HasPrefix(l.Text, "ok  \t"), strings.HasPrefix(l.Text, "?   \t"), strings.HasPrefix(l.Text, "---\t"):
		return g.packageVerdict(l, out)
	}
	return pass
}

// packageVerdict takes the line that closes a package and names it.
func (g *goTest) packageVerdict(l Line, out *sink) verdict {
	word, rest, _ := strings.Cut(l.Text, "\t")
	unit, note, _ := strings.Cut(rest, "\t")
	unit = strings.TrimSpace(unit)
	if i := strings.IndexByte(unit, ' '); i >= 0 {
		unit, note = unit[:i], unit[i+1:]
	}
	failures := len(g.failed)
	crashed := g.crash != nil
	g.finish(unit, out)
	out.tool("go test")
	if word != "FAIL" {
		out.finished(unit)
		return noise
	}
	if strings.HasPrefix(note, "[") { // [build failed], [setup failed]
		out.block(unit)
		out.add(symptom.Symptom{
			Kind: symptom.TestFailure, Phase: symptom.PhaseTest, Tool: "go test", Unit: unit,
			Message: unit + " " + note,
		}, l.Number, l.Number)
		return took
	}
	if !crashed { // a panic ends the package's other tests too
		out.finished(unit)
	}
	if failures == 0 && !crashed { // os.Exit, a failed TestMain: the verdict is all there is
		out.add(symptom.Symptom{
			Kind: symptom.TestFailure, Phase: symptom.PhaseTest, Tool: "go test", Unit: unit,
			Message: unit + " failed without a failing test",
		}, l.Number, l.Number)
		return took
	}
	return noise
}

// finish hands out what was gathered for a package, now that it has a name.
func (g *goTest) finish(unit string, out *sink) {
	for _, t := range g.tests {
		t.Suite = unit
		out.testOutcome(t)
	}
	parents := map[string]bool{}
	for _, f := range g.failed {
		for i := range len(f.name) {
			if f.name[i] == '/' {
				parents[f.name[:i]] = true
			}
		}
	}
	for _, f := range g.failed {
		if len(f.log) == 0 && parents[f.name] {
			continue // it failed only because a subtest did
		}
		s := f.symptom(unit)
		if c := g.crash; c != nil && c.recovered && c.line == f.end+1 { // the process tells where
			c.s.Test, s.Frames, s.File, s.Line = f.name, c.s.Frames, c.s.File, c.s.Line
		}
		out.add(s, f.line, f.end)
	}
	if g.crash != nil {
		g.crash.s.Unit = unit
		out.add(g.crash.s, g.crash.line, g.crash.end)
	}
	*g = *newGoTest()
}

func (f *goFailure) symptom(unit string) symptom.Symptom {
	s := symptom.Symptom{
		Kind: symptom.TestFailure, Phase: symptom.PhaseTest, Tool: "go test", Unit: unit, Test: f.name,
		Message: f.name + " failed", Detail: strings.Join(f.log, "\n"),
	}
	// Log and failure look alike: the line that compares values is the verdict,
	// or else the last one.
	for _, text := range f.log {
		if p, ok := goPlace(text); ok && s.Refs == nil {
			s.File, s.Line, s.Message = p.file, p.line, strings.TrimPrefix(p.rest, ": ")
			s.Refs = expectation(s.Message)
		}
	}
	return s
}

// crashed opens a crash: the headline, then the stacks.
func (g *goTest) crashed(l Line) {
	if g.crash != nil { // one process dies once; what follows belongs to it
		g.crash.done, g.crash.first = false, false
		return
	}
	kind, message := symptom.Crash, l.Text
	i := strings.Index(message, " [recovered")
	if i > 0 {
		message = message[:i]
	}
	g.crash = &goCrash{recovered: i > 0, line: l.Number, end: l.Number, first: true, s: symptom.Symptom{
		Kind: kind, Phase: symptom.PhaseRun, Tool: "go", Message: strings.TrimPrefix(message, "panic: "), Test: g.current,
	}}
}

// stack takes the lines of a crash: causes, goroutine headers, and pairs of
// a function and its place. It ends at the package's verdict.
func (g *goTest) stack(l Line) verdict {
	c := g.crash
	switch {
	case strings.HasPrefix(l.Text, "FAIL\t"), strings.HasPrefix(l.Text, "exit status "), strings.HasPrefix(l.Text, "--- "), strings.HasPrefix(l.Text, "=== RUN"):
		c.done = true
		return pass
	case strings.HasPrefix(l.Text, "goroutine "):
		c.first = len(c.s.Frames) == 0
	case strings.HasPrefix(l.Text, "\t"):
		if f, ok := parseFrame(l.Text); ok && c.first {
			f.Function = c.function
			f.Own = f.Own && !inRoot(f)
			c.s.Frames = append(c.s.Frames, f)
			if f.Own && c.s.File == "" {
				c.s.File, c.s.Line = f.File, f.Line
			}
		}
	default:
		c.function = before(l.Text, "(0x")
	}
	c.end = l.Number
	return more
}

// inRoot reports whether a frame stands in Go's own source tree, whose folders
// are named for their packages: …/src/testing/testing.go of testing.tRunner.
func inRoot(f symptom.Frame) bool {
	pkg := strings.TrimPrefix(f.Function, "created by ")
	if slash := strings.LastIndexByte(pkg, '/'); slash >= 0 {
		pkg = pkg[:slash] + before(pkg[slash:], ".")
	} else {
		pkg = before(pkg, ".")
	}
	if strings.HasPrefix(f.Function, "panic(") {
		pkg = "runtime"
	}
	return strings.Contains(f.File, "/src/"+pkg+"/")
}

func (g *goTest) close(out *sink) { g.finish("", out) }
