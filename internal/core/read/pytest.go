package read

import (
	"strings"

	"unicausa/internal/core/symptom"
)

// pytest reads pytest's text, by its ruled sections:
//
//	tests/test_shelf.py ..F.                         [ 40%]
//	tests/test_shelf.py::test_opens PASSED           [ 10%]     with -v
//	=================== ERRORS ===================
//	_________ ERROR collecting tests/test_lid.py _________
//	_________ ERROR at setup of test_opens _________
//	=================== FAILURES =================
//	_________ TestShelf.test_opens _________
//	>       assert jar.lids() == 2
//	E       assert 1 == 2
//	tests/test_shelf.py:12: AssertionError
//	=============== warnings summary =============
//	tests/test_shelf.py::test_opens
//	  /p/shelf.py:3: DeprecationWarning: shut() is deprecated
//	============ short test summary info =========
//	FAILED tests/test_shelf.py::test_opens - assert 1 == 2      said before
//	======= 1 failed, 2 passed in 0.12s ==========
//
// Format: _pytest/terminal.py.
type pytest struct {
	section string
	open    *symptom.Symptom
	from    int
	end     int
	body    []string
	failed  int
	errors  int
	named   map[string]bool // failed tests that were told
}

var pytestReader = stream{name: "pytest", marks: []string{"^=====", "ERROR collecting", " PASSED", " FAILED", " SKIPPED", " ERROR", " XFAIL", " XPASS"}, open: func() lineReader { return &pytest{named: map[string]bool{}} }}

// listening reports whether a section is open in which every line counts.
func (p *pytest) listening() bool {
	return p.section == "failures" || p.section == "errors" || p.section == "warnings" || p.section == "summary"
}

// ruled reads the title of a line filled up with a character on both sides.
func ruled(text string, fill string) (string, bool) {
	if len(text) < 20 || !strings.HasPrefix(text, fill) || !strings.HasSuffix(text, fill) {
		return "", false
	}
	title := strings.Trim(text, fill)
	if !strings.HasPrefix(title, " ") || !strings.HasSuffix(title, " ") {
		return "", false
	}
	return strings.TrimSpace(title), true
}

func (p *pytest) line(l Line, out *sink) verdict {
	if title, ok := ruled(l.Text, "="); ok {
		return p.enter(title, l, out)
	}
	if p.listening() && bareTotal(l.Text) { // with -q
		return p.enter(l.Text, l, out)
	}
	switch p.section {
	case "failures", "errors":
		return p.inside(l, out)
	case "warnings":
		return p.warning(l, out)
	case "summary":
		return p.summary(l, out)
	case "":
		return pass
	}
	return p.progress(l, out)
}

// enter takes the rule above a section, or the last one with the totals.
func (p *pytest) enter(title string, l Line, out *sink) verdict {
	lower := strings.ToLower(title)
	known := map[string]string{"test session starts": "session", "failures": "failures", "errors": "errors", "warnings summary": "warnings", "short test summary info": "summary"}
	section := known[strings.TrimSuffix(lower, " (final)")]
	total := strings.Contains(lower, " in ") && (pytestTotal(lower) || strings.Contains(lower, "no tests ran"))
	if section == "" && !total && (p.section == "" || !strings.Contains(lower, "captured") && !strings.Contains(lower, "slowest") && !strings.Contains(lower, "coverage") && !strings.Contains(lower, "passes")) {
		return pass
	}
	p.closeTest(out)
	out.tool("pytest")
	p.section = section
	if total {
		if n, ok := counted(lower, "failed"); ok {
			out.state(l.Number, "failed", n, p.failed)
		}
		if n, ok := counted(lower, "error"); ok {
			out.state(l.Number, "errors", n, p.errors)
		}
		p.failed, p.errors, p.section = 0, 0, ""
		out.finished("pytest")
		return noise
	}
	if section == "" {
		p.section = "other"
	}
	return noise
}

// bareTotal reports whether a line is the totals without a rule:
// "1 failed, 2 passed in 0.05s".
func bareTotal(text string) bool {
	_, n := leadingNumber(text)
	took := text[strings.LastIndex(text, " in ")+1:]
	return n > 0 && strings.HasPrefix(took, "in ") && strings.HasSuffix(strings.TrimRight(took, ")0123456789:"), "s") && pytestTotal(text)
}

// pytestTotal reports whether a title counts outcomes.
func pytestTotal(title string) bool {
	for _, word := range []string{"passed", "failed", "error", "skipped", "xfailed", "xpassed", "warning", "deselected"} {
		if _, ok := counted(title, word); ok {
			return true
		}
	}
	return false
}

// progress takes the lines of the session: outcomes by name with -v.
func (p *pytest) progress(l Line, out *sink) verdict {
	suite, rest, ok := strings.Cut(l.Text, "::")
	if !ok || strings.Contains(suite, " ") {
		return pass
	}
	for _, o := range pytestOutcomes {
		i := strings.LastIndex(rest, " "+o.word)
		if i > 0 && (i+1+len(o.word) == len(rest) || rest[i+1+len(o.word)] == ' ') {
			out.testOutcome(symptom.Test{Suite: suite, Name: rest[:i], Outcome: o.outcome})
			return noise
		}
	}
	return pass
}

var pytestOutcomes = []struct {
	word    string
	outcome symptom.Outcome
}{
	{"PASSED", symptom.Passed}, {"XPASS", symptom.Passed}, {"FAILED", symptom.Failed}, {"ERROR", symptom.Failed}, {"SKIPPED", symptom.Skipped}, {"XFAIL", symptom.Skipped},
}

// inside takes the failures, each under a title of its own.
func (p *pytest) inside(l Line, out *sink) verdict {
	title, ok := ruled(l.Text, "_")
	if !ok || strings.Trim(title, "_ ") == "" {
		if p.open == nil {
			return noise
		}
		if len(p.body) < 2000 {
			p.body = append(p.body, l.Text)
		}
		p.end = l.Number
		return took
	}
	p.closeTest(out)
	p.open = &symptom.Symptom{Kind: symptom.TestFailure, Phase: symptom.PhaseTest, Tool: "pytest"}
	p.from, p.end, p.body = l.Number, l.Number, nil
	switch {
	case strings.HasPrefix(title, "ERROR collecting "):
		p.open.Unit = strings.TrimPrefix(title, "ERROR collecting ")
		p.errors++
	case strings.HasPrefix(title, "ERROR at "):
		_, name, _ := strings.Cut(title, " of ")
		p.open.Test = strings.ReplaceAll(name, ".", "::")
		p.errors++
	default:
		p.open.Test = dotsToColons(title)
		p.failed++
	}
	return took
}

// dotsToColons turns "TestShelf.test_opens[a.b]" into "TestShelf::test_opens[a.b]".
func dotsToColons(title string) string {
	head, rest, _ := strings.Cut(title, "[")
	head = strings.ReplaceAll(head, ".", "::")
	if rest != "" {
		return head + "[" + rest
	}
	return head
}

func (p *pytest) closeTest(out *sink) {
	s := p.open
	p.open = nil
	if s == nil {
		return
	}
	var said []string
	last := place{}
	testFile := ""
	for _, line := range p.body {
		if rest, ok := strings.CutPrefix(line, "E  "); ok {
			said = append(said, strings.TrimSpace(rest))
		}
		if pl, ok := placeColon(line); ok && strings.HasSuffix(pl.file, ".py") && (strings.HasPrefix(pl.rest, ": ") || pl.rest == "") {
			if testFile == "" {
				testFile = pl.file
			}
			function, _ := strings.CutPrefix(pl.rest, ": in ")
			if function == pl.rest {
				function = ""
			}
			f := frame(pl, function)
			s.Frames = append([]symptom.Frame{f}, s.Frames...)
			if f.Own {
				last = pl
			}
			s.Code = strings.TrimPrefix(pl.rest, ": ")
		} else if f, ok := parseFrame(line); ok && strings.HasPrefix(strings.TrimSpace(line), "File ") {
			s.Frames = append([]symptom.Frame{f}, s.Frames...)
			if f.Own {
				last = place{file: f.File, line: f.Line}
			}
		}
	}
	if s.Unit == "" {
		s.Unit = testFile
	}
	s.Detail = strings.Join(p.body, "\n")
	if len(said) > 0 {
		s.Message = said[0]
		for _, line := range said {
			if class, _, ok := strings.Cut(line, ": "); ok && dotted(class) && (strings.HasSuffix(class, "Error") || strings.HasSuffix(class, "Exception")) {
				s.Message = line
			}
		}
	} else {
		s.Message = strings.TrimSpace(lastFull(p.body))
	}
	if strings.HasPrefix(s.Code, "in ") || strings.Contains(s.Code, " ") {
		s.Code = ""
	}
	if last.line > 0 {
		s.File, s.Line = last.file, last.line
	}
	s.Refs = append(runtimeRefs(s.Message), expectation(s.Message)...)
	if s.Test == "" {
		out.block(s.Unit)
	} else {
		out.testOutcome(symptom.Test{Suite: s.Unit, Name: s.Test, Outcome: symptom.Failed})
	}
	p.named[strings.TrimPrefix(s.Unit+"::"+s.Test, "::")] = true
	p.named[s.Test] = true
	out.add(*s, p.from, p.end)
}

// lastFull is the last line that holds something.
func lastFull(lines []string) string {
	for i := len(lines) - 1; i >= 0; i-- {
		if strings.TrimSpace(lines[i]) != "" {
			return lines[i]
		}
	}
	return "failed"
}

// warning takes the lines of the warnings' summary: tests, then the warning
// indented below them.
func (p *pytest) warning(l Line, out *sink) verdict {
	text, ok := strings.CutPrefix(l.Text, "  ")
	if !ok {
		if strings.HasPrefix(l.Text, "-- Docs: ") {
			p.section = "other"
		}
		return noise
	}
	if s, ok := pythonWarning(text); ok {
		warningBelow(&s, l, "  ")
		out.add(s, l.Number, l.Number)
		return took
	}
	return noise
}

// summary takes the closing list: only what no section told is new.
func (p *pytest) summary(l Line, out *sink) verdict {
	for _, word := range []string{"FAILED ", "ERROR "} {
		rest, ok := strings.CutPrefix(l.Text, word)
		if !ok {
			continue
		}
		id, message, _ := strings.Cut(rest, " - ")
		suite, name, _ := strings.Cut(strings.TrimSpace(id), "::")
		if p.named[suite+"::"+name] || p.named[name] || name == "" && p.named[suite+"::"] || p.named[suite] {
			return noise
		}
		if word == "FAILED " {
			p.failed++
		} else {
			p.errors++
		}
		s := symptom.Symptom{Kind: symptom.TestFailure, Phase: symptom.PhaseTest, Tool: "pytest", Unit: suite, Test: name, File: suite, Message: message}
		if message == "" {
			s.Message = id + " failed"
		}
		s.Refs = append(runtimeRefs(s.Message), expectation(s.Message)...)
		if name != "" {
			out.testOutcome(symptom.Test{Suite: suite, Name: name, Outcome: symptom.Failed})
		}
		out.add(s, l.Number, l.Number)
		return took
	}
	if word := firstWord(l.Text); word == "" || pytestListed[word] {
		return noise
	}
	p.section = "other"
	return pass
}

// pytestListed are the other words that lines of the closing list begin with.
var pytestListed = map[string]bool{"SKIPPED": true, "XFAIL": true, "XPASS": true, "PASSED": true, "RERUN": true, "FLAKY": true, "SUBFAIL": true, "SUBFAILED": true}

func (p *pytest) close(out *sink) { p.closeTest(out) }
