package read

import (
	"strings"

	"unicausa/internal/core/symptom"
)

// ctest reads CTest, and GoogleTest's printer:
//
//	1/2 Test #1: shelf ............***Failed    0.00 sec
//	The following tests FAILED:           said before
//		  1 - shelf (Failed)
//	[ RUN      ] Shelf.Opens
//	/p/shelf_test.cc:12: Failure
//	Expected equality of these values: …
//	[  FAILED  ] Shelf.Opens (0 ms)
//
// Formats: cmCTestRunTest.cxx; PrettyUnitTestResultPrinter in gtest.cc.
type ctest struct {
	closing bool
	failed  int
	running string // the GoogleTest case that runs
	body    []string
	bodyAt  int
	summing bool
}

var ctestReader = stream{name: "ctest", marks: []string{" Test #", "^The following tests", "% tests passed", "^Errors while running CTest", "^[ RUN      ]", "^[  FAILED  ]", "^[       OK ]", "^[  PASSED  ]", "^[  SKIPPED ]", "^[ SKIPPED  ]", "^[  ERROR   ]", "^[==========]", "^[----------]", " FAILED TEST"}, open: func() lineReader { return &ctest{} }}

func (c *ctest) listening() bool { return c.running != "" || c.closing }

func (c *ctest) line(l Line, out *sink) verdict {
	text := strings.TrimSpace(l.Text)
	switch {
	case strings.HasPrefix(text, "[ RUN      ] "):
		c.running, c.body, c.bodyAt, c.summing = text[13:], nil, 0, false
		return noise
	case strings.HasSuffix(text, ", listed below:"):
		return noise
	case strings.HasPrefix(text, "[  FAILED  ] "), strings.HasPrefix(text, "[       OK ] "), strings.HasPrefix(text, "[  SKIPPED ] "), strings.HasPrefix(text, "[ SKIPPED  ] "):
		return c.googled(l, text, out)
	case strings.HasSuffix(text, " FAILED TESTS"), strings.HasSuffix(text, " FAILED TEST"):
		return noise
	case strings.HasPrefix(text, "[==========]"), strings.HasPrefix(text, "[----------]"), strings.HasPrefix(text, "[  PASSED  ]"):
		c.summing = strings.Contains(text, " ran.")
		return noise
	case c.running != "" && strings.HasPrefix(text, "[  ERROR   ] "+c.running): // of a test's set-up, or outside of an assertion
		return c.googled(l, "[  FAILED  ] "+text[13:], out)
	case strings.HasPrefix(text, "[  ERROR   ] ") && c.running == "":
		return noise
	case c.running != "":
		if c.bodyAt == 0 {
			c.bodyAt = l.Number
		}
		c.body = append(c.body, l.Text)
		return took
	case strings.HasPrefix(text, "The following tests FAILED"), strings.HasPrefix(text, "The following tests did not run"):
		c.closing = true
		return noise
	case c.closing:
		if _, n := leadingNumber(text); n > 0 && strings.Contains(text, " - ") || text == "" {
			return noise
		}
		c.closing = false
		if strings.HasPrefix(text, "Errors while running CTest") {
			return noise
		}
		return pass
	case strings.Contains(text, "% tests passed, "):
		if n, ok := counted(strings.ReplaceAll(text, " tests failed", " failed"), "failed"); ok {
			out.state(l.Number, "failed", n, c.failed)
			c.failed = 0
		}
		return noise
	}
	_, rest, ok := strings.Cut(text, " Test #")
	_, n := leadingNumber(rest)
	if !ok || n == 0 || !strings.HasPrefix(rest[n:], ": ") {
		return pass
	}
	name, result := rest[n+2:], ""
	if i := strings.IndexAny(name, ". "); i > 0 {
		if j := strings.Index(name, " ."); j > 0 {
			i = j
		}
		name, result = name[:i], name[i:]
	}
	outcome := symptom.Failed
	switch {
	case strings.Contains(result, "Passed"):
		outcome = symptom.Passed
	case strings.Contains(result, "Skipped"), strings.Contains(result, "Not Run (Disabled)"):
		outcome = symptom.Skipped
	}
	out.tool("ctest")
	out.testOutcome(symptom.Test{Name: name, Outcome: outcome})
	if outcome != symptom.Failed {
		return noise
	}
	c.failed++
	why := strings.TrimSpace(strings.TrimLeft(result, " .*"))
	if i := strings.Index(why, "  "); i > 0 {
		why = why[:i]
	}
	out.add(symptom.Symptom{Kind: symptom.TestFailure, Phase: symptom.PhaseTest, Tool: "ctest", Test: name, Message: name + ": " + why}, l.Number, l.Number)
	return took
}

// googled takes the end of a GoogleTest case; the list at the end of the run
// repeats the failed ones.
func (c *ctest) googled(l Line, text string, out *sink) verdict {
	name := text[13:]
	if c.running == "" {
		return noise
	}
	name = before(name, ", where")
	if i := strings.LastIndex(name, " ("); i > 0 {
		name = name[:i]
	}
	suite, test, _ := strings.Cut(name, ".")
	outcome := map[string]symptom.Outcome{"[  FAILED  ]": symptom.Failed, "[       OK ]": symptom.Passed, "[  SKIPPED ]": symptom.Skipped}[text[:12]]
	out.tool("gtest")
	out.testOutcome(symptom.Test{Suite: suite, Name: test, Outcome: outcome})
	c.running = ""
	if outcome != symptom.Failed {
		return noise
	}
	s := symptom.Symptom{Kind: symptom.TestFailure, Phase: symptom.PhaseTest, Tool: "gtest", Unit: suite, Test: test, Detail: strings.Join(c.body, "\n")}
	for i, line := range c.body {
		if p, ok := placeColon(line); ok && (strings.HasPrefix(p.rest, ": Failure") || strings.HasPrefix(p.rest, ": error")) {
			s.File, s.Line = p.file, p.line
			s.Message = strings.TrimSpace(strings.Join(c.body[i+1:min(i+4, len(c.body))], " "))
			break
		}
	}
	if s.Message == "" {
		s.Message = headline("", s.Detail, "", "")
	}
	s.Refs = append(runtimeRefs(s.Message), expectationIn(s.Detail)...)
	out.add(s, l.Number, l.Number)
	return took
}

func (c *ctest) close(out *sink) {
	if c.running != "" { // the program died in it
		suite, test, _ := strings.Cut(c.running, ".")
		out.testOutcome(symptom.Test{Suite: suite, Name: test, Outcome: symptom.Failed})
	}
}
