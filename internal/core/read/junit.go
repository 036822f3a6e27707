package read

import (
	"bytes"
	"encoding/xml"
	"fmt"
	"io"
	"strconv"
	"strings"

	"unicausa/internal/core/symptom"
)

// junit reads JUnit XML as commonly emitted: testsuites or testsuite at the
// top, suites nested to any depth, testcase with failure, error, skipped,
// system-out and system-err. Counts may be missing or wrong; they are stated
// beside what was read.
type junit struct {
	dec    *xml.Decoder
	out    *sink
	suites []junitSuite
}

type junitSuite struct {
	name   string
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
	class   string // the exception's type
	at      int    // source line by its attribute
}

func init() {
	registerDocument(document{format: FormatXML, sniff: junitHead, read: readJUnit})
}

func junitHead(head []byte) bool {
	head = bytes.TrimLeft(head, " \t\r\n")
	return bytes.HasPrefix(head, []byte("<?xml")) && bytes.Contains(head, []byte("<testsuite")) || bytes.HasPrefix(head, []byte("<testsuite")) ||
		bytes.HasPrefix(head, []byte("<?xml")) && !bytes.Contains(head, []byte("<!DOCTYPE html"))
}

// readJUnit never fails on bad XML: what was read stands, and the result says
// where it broke off.
func readJUnit(r io.Reader, out *sink) error {
	j := &junit{dec: xml.NewDecoder(r), out: out}
	j.dec.Strict = true
	j.dec.CharsetReader = func(_ string, in io.Reader) (io.Reader, error) { return in, nil }
	for {
		token, err := j.dec.Token()
		if err == io.EOF {
			return nil
		}
		if err != nil {
			return j.broken(err)
		}
		switch t := token.(type) {
		case xml.StartElement:
			if t.Name.Local == "testcase" {
				err = j.testcase(t)
			} else {
				err = j.start(t)
			}
			if err != nil {
				return j.broken(err)
			}
		case xml.EndElement:
			if t.Name.Local == "testsuite" {
				j.leave()
			}
		}
	}
}

// line is the line of the input that the decoder stands at.
func (j *junit) line() int {
	line, _ := j.dec.InputPos()
	return j.out.base + line
}

// broken keeps what was read and says where the XML ends; an error of the
// input itself is passed on.
func (j *junit) broken(err error) error {
	if _, syntax := err.(*xml.SyntaxError); !syntax {
		return err
	}
	line := j.line()
	j.out.result.Problem = fmt.Sprintf("this XML breaks off at line %d (%s): what stands before it was read; record the file again once the test runner has finished writing it", line, strings.TrimPrefix(err.Error(), "XML syntax error on "))
	j.out.result.Unread = append(j.out.result.Unread, Unread{Line: line, Text: "malformed XML: " + err.Error()})
	for len(j.suites) > 0 {
		j.leave()
	}
	return nil
}

func (j *junit) start(t xml.StartElement) error {
	line := j.line()
	switch t.Name.Local {
	case "testsuite":
		j.suites = append(j.suites, junitSuite{name: attr(t, "name"), line: line, stated: stated(t)})
	case "testsuites":
	case "error", "failure": // of a suite that could not be set up
		text, err := j.text(t.Name.Local)
		if err != nil {
			return err
		}
		c := junitCase{line: line, message: attr(t, "message"), class: attr(t, "type")}
		c.text.WriteString(text)
		j.fail(&c, line)
	default:
		return nil
	}
	return nil
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
func (j *junit) testcase(t xml.StartElement) error {
	line := j.line()
	c := &junitCase{line: line, file: attr(t, "file")}
	c.test = symptom.Test{Suite: attr(t, "classname"), Name: attr(t, "name"), Outcome: symptom.Passed}
	if c.test.Suite == "" && len(j.suites) > 0 {
		c.test.Suite = j.suites[len(j.suites)-1].name
	}
	c.test.Seconds, _ = strconv.ParseFloat(attr(t, "time"), 64)
	c.at, _ = strconv.Atoi(attr(t, "line"))
	for {
		token, err := j.dec.Token()
		if err != nil {
			return err
		}
		switch t := token.(type) {
		case xml.StartElement:
			if err := j.verdict(c, t); err != nil {
				return err
			}
		case xml.EndElement:
			end := j.line()
			j.out.test(c.test)
			if c.test.Outcome == symptom.Failed {
				j.fail(c, end)
			}
			return nil
		}
	}
}

// verdict takes a child of a testcase.
func (j *junit) verdict(c *junitCase, t xml.StartElement) error {
	text, err := j.text(t.Name.Local)
	if err != nil {
		return err
	}
	switch t.Name.Local {
	case "failure", "error":
		c.test.Outcome = symptom.Failed
		if c.message == "" {
			c.message, c.class = attr(t, "message"), attr(t, "type")
		}
		c.text.WriteString(text)
	case "skipped":
		if c.test.Outcome == symptom.Passed {
			c.test.Outcome = symptom.Skipped
		}
	}
	return nil
}

// text is all the text inside an element, to its end.
func (j *junit) text(name string) (string, error) {
	var b strings.Builder
	for depth := 1; depth > 0; {
		token, err := j.dec.Token()
		if err != nil {
			return "", err
		}
		switch t := token.(type) {
		case xml.CharData:
			b.Write(t)
		case xml.StartElement:
			depth++
		case xml.EndElement:
			depth--
		}
	}
	return b.String(), nil
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
	s.Message = headline(c.message, body, c.class)
	s.Detail = body
	for _, line := range strings.Split(body, "\n") {
		if f, ok := parseFrame(line); ok {
			s.Frames = append(s.Frames, f)
		}
	}
	for _, f := range s.Frames {
		if f.Own {
			s.File, s.Line = f.File, f.Line
			break
		}
	}
	if s.Test == "" {
		j.out.block(s.Unit)
	}
	s.Refs = append(runtimeRefs(s.Message), expectation(s.Message)...)
	j.out.claim(c.line, end)
	j.out.add(s, c.line, end)
}

// headline is the first line that says what went wrong.
func headline(message, body, class string) string {
	for _, text := range []string{plainText(message), body, class} {
		for _, line := range strings.Split(text, "\n") {
			if line = strings.TrimSpace(line); line != "" {
				return line
			}
		}
	}
	return "failed"
}

// plainText removes control sequences and carriage returns from a text.
func plainText(s string) string {
	if strings.IndexByte(s, 0x1b) >= 0 {
		s = stripEscapes(s)
	}
	return strings.ReplaceAll(s, "\r", "")
}

func attr(t xml.StartElement, name string) string {
	for _, a := range t.Attr {
		if a.Name.Local == name {
			return a.Value
		}
	}
	return ""
}

// stated is the number of failures that a suite's attributes give, or -1.
func stated(t xml.StartElement) int {
	sum := -1
	for _, name := range []string{"failures", "errors"} {
		if n, err := strconv.Atoi(attr(t, name)); err == nil && n >= 0 {
			sum = max(sum, 0) + n
		}
	}
	return sum
}
