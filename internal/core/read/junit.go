package read

import (
	"io"
	"strconv"
	"strings"

	"unicausa/internal/core/symptom"
)

// junit reads JUnit XML as commonly emitted: testsuites or testsuite at the
// top, suites nested to any depth, testcase with failure, error, skipped,
// reruns, system-out and system-err, which may hold anything that a program
// prints. Counts may be missing, wrong or negative; they are stated beside
// what was read.
type junit struct {
	xml     *xmlScanner
	out     *sink
	suites  []junitSuite
	current junitCase
}

type junitSuite struct {
	name   string
	file   string
	line   int
	stated int // failures and errors by its own attributes, -1 without
	failed int
}

// junitCase is one testcase while it is being read.
type junitCase struct {
	test    symptom.Test
	file    string
	line    int // of <testcase, in the input
	message string
	text    strings.Builder
	printed string // what stands in system-out and system-err
	class   string // the exception's type
	at      int    // source line by its attribute
}

var junitDocument = xmlDocument(readJUnit, "testsuites", "testsuite")

func readJUnit(x *xmlScanner, out *sink) error {
	j := &junit{xml: x, out: out}
	x.said = func(text string, line int) { within(text, line, out) }
	for {
		t, err := x.next()
		if err == io.EOF {
			return nil
		}
		if err == nil {
			switch {
			case t.End && t.Name == "testsuite":
				j.leave()
			case t.End:
			case t.Name == "testcase":
				err = j.testcase(t)
			case t.Name != "":
				err = j.start(t)
			}
		}
		if err != nil {
			for len(j.suites) > 0 {
				j.leave()
			}
			return err
		}
	}
}

func (j *junit) start(t xmlToken) error {
	switch t.Name {
	case "testsuite":
		j.suites = append(j.suites, junitSuite{name: t.attr("name"), file: t.attr("file"), line: t.Line, stated: stated(t)})
	case "error", "failure": // of a suite that could not be set up
		c := junitCase{line: t.Line, message: t.attr("message"), class: t.attr("type"), test: symptom.Test{Suite: j.suite()}}
		body, _, err := j.xml.whole()
		c.text.WriteString(body)
		j.fail(&c, j.xml.in.line)
		return err
	case "system-out", "system-err":
		body, line, err := j.xml.whole()
		within(body, line, j.out)
		return err
	}
	return nil
}

func (j *junit) suite() string {
	if len(j.suites) == 0 {
		return ""
	}
	return j.suites[len(j.suites)-1].name
}

func (j *junit) leave() {
	if len(j.suites) == 0 {
		return
	}
	s := j.suites[len(j.suites)-1]
	j.suites = j.suites[:len(j.suites)-1]
	if s.stated >= 0 {
		j.out.state(s.line, "failures", s.stated, s.failed)
	}
	j.out.finished(s.name)
	if len(j.suites) > 0 {
		j.suites[len(j.suites)-1].failed += s.failed
	}
}

// testcase reads one test to its end.
func (j *junit) testcase(t xmlToken) error {
	c := &j.current
	*c = junitCase{line: t.Line, file: t.attr("file")}
	c.test = symptom.Test{Suite: t.attr("classname"), Name: t.attr("name"), Outcome: symptom.Passed}
	if c.test.Suite == "" {
		c.test.Suite = j.suite()
	}
	if c.file == "" && len(j.suites) > 0 {
		c.file = j.suites[len(j.suites)-1].file
	}
	switch t.attr("status") {
	case "notrun", "disabled", "skipped", "ignored":
		c.test.Outcome = symptom.Skipped
	}
	if took := t.attr("time"); took != "" {
		c.test.Seconds, _ = strconv.ParseFloat(strings.ReplaceAll(took, ",", ""), 64)
	}
	c.at, _ = leadingNumber(t.attr("line"))
	for {
		t, err := j.xml.next()
		if err != nil {
			return j.xml.broken(err)
		}
		if t.End {
			j.out.testOutcome(c.test)
			if c.test.Outcome == symptom.Failed {
				j.fail(c, t.Line)
			}
			j.out.echo = ""
			return nil
		}
		if t.Name != "" {
			if err := j.child(c, t); err != nil {
				return err
			}
		}
	}
}

// child takes an element inside of a testcase.
func (j *junit) child(c *junitCase, t xmlToken) error {
	message, class := t.attr("message"), t.attr("type")
	body, line, err := j.xml.whole()
	if err != nil {
		return err
	}
	switch t.Name {
	case "failure", "error":
		c.test.Outcome = symptom.Failed
		if c.message == "" {
			c.message, c.class = message, class
		}
		c.text.WriteString(body)
		j.out.echo += message + body
	case "skipped":
		if c.test.Outcome == symptom.Passed {
			c.test.Outcome = symptom.Skipped
		}
	case "system-out", "system-err":
		c.printed += body
		j.out.test, j.out.unit = c.test.Name, c.test.Suite
		within(body, line, j.out)
		j.out.test, j.out.unit = "", ""
	}
	return nil
}

func (j *junit) fail(c *junitCase, end int) {
	if len(j.suites) > 0 {
		j.suites[len(j.suites)-1].failed++
	}
	s := symptom.Symptom{
		Kind: symptom.TestFailure, Phase: symptom.PhaseTest, Tool: "junit", Unit: c.test.Suite, Test: c.test.Name,
		Code: c.class, File: c.file, Line: c.at,
	}
	body := plainText(c.text.String())
	if strings.TrimSpace(body) == "" {
		body = strings.TrimSpace(plainText(c.message))
	}
	if body == "" || body == c.class {
		body = strings.TrimSpace(plainText(c.printed))
	}
	s.Message = headline(c.message, body, c.class, c.test.Name)
	s.Detail = body
	failure(&s, body)
	within := ""
	if suite := j.suite(); pathLike(suite) {
		within = suite
	}
	asFinding(&s, body, within)
	if s.Test == "" && s.Kind == symptom.TestFailure {
		j.out.block(s.Unit)
	}
	if s.Kind != symptom.TestFailure {
		j.out.echo = ""
	}
	j.out.claim(c.line, end)
	j.out.add(s, c.line, end)
}

// headline is the first line that says what went wrong: not the test's name,
// and not the bare type of the exception where there is more.
func headline(message, body, class, test string) string {
	spare := ""
	for _, text := range []string{plainText(message), body, class} {
		for line := range strings.SplitSeq(text, "\n") {
			line = strings.TrimSpace(line)
			switch {
			case line == "":
			case line == class, excerpt("  " + line), frameLine(line), test != "" && strings.HasSuffix(line, test), strings.HasSuffix(line, ":") && !strings.Contains(line, " "):
				if spare == "" {
					spare = line
				}
			default:
				return line
			}
		}
	}
	if spare != "" {
		return spare
	}
	return "failed"
}

// frameLine reports whether a line is nothing but a frame of a stack, or a line
// of source.
func frameLine(line string) bool {
	number := strings.TrimPrefix(line, "=> ")
	if _, n := leadingNumber(number); n > 0 && strings.HasPrefix(number[n:], ": ") { // Test::Unit's excerpt
		return true
	}
	f, ok := parseFrame(line)
	return ok && f.Line > 0 && !strings.Contains(f.File, " ")
}

// plainText removes control sequences and carriage returns from a text.
func plainText(s string) string {
	if strings.IndexByte(s, 0x1b) >= 0 {
		s = string(stripEscapes([]byte(s)))
	}
	return strings.ToValidUTF8(strings.ReplaceAll(s, "\r", ""), "\uFFFD")
}

// stated is the number of failures that a suite's attributes give, or -1.
func stated(t xmlToken) int {
	sum := -1
	for _, name := range []string{"failures", "errors"} {
		if n, err := strconv.Atoi(t.attr(name)); err == nil && n >= 0 {
			sum = max(sum, 0) + n
		}
	}
	return sum
}
