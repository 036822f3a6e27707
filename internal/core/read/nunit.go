package read

import (
	"io"
	"strconv"
	"strings"

	"unicausa/internal/core/symptom"
)

// NUnit's results: test-run with nested suites and test-case elements, as of version 3
// (docs.nunit.org, "Test Result XML Format"), and the test-results of version 2. Other
// runners write the first as well.
//
// xUnit.net's: assemblies or assembly with collections of test elements
// (xunit.net, "XML v2 Format").
var nunitDocument = xmlDocument(readDotnetXML, "test-run", "test-results", "assemblies", "assembly")

// dotnetOutcomes are the words of both formats for how a test ended; another word is
// one for a test that was not run.
var dotnetOutcomes = map[string]symptom.Outcome{
	"Passed": symptom.Passed, "Pass": symptom.Passed, "Success": symptom.Passed, "Warning": symptom.Passed,
	"Failed": symptom.Failed, "Fail": symptom.Failed, "Failure": symptom.Failed, "Error": symptom.Failed,
}

func readDotnetXML(x *xmlScanner, out *sink) error {
	stated, line, failed := -1, 0, 0
	for {
		t, err := x.next()
		if err == io.EOF {
			if stated >= 0 {
				out.state(line, "failures", stated, failed)
			}
			return nil
		}
		if err != nil {
			return err
		}
		switch {
		case t.End:
		case t.Name == "test-run" || t.Name == "assembly":
			if n, err := strconv.Atoi(t.attr("failed")); err == nil && n >= 0 {
				stated, line = max(stated, 0)+n, t.Line
			}
		case t.Name == "test-case":
			err = dotnetCase(x, t, symptom.Symptom{Tool: "nunit", Unit: t.attr("classname"), Test: t.attr("name")}, out, &failed)
		case t.Name == "test":
			err = dotnetCase(x, t, symptom.Symptom{Tool: "xunit", Unit: t.attr("type"), Test: t.attr("name")}, out, &failed)
		case t.Name == "error" && t.attr("type") != "": // of an assembly that could not be set up
			s := symptom.Symptom{Kind: symptom.Crash, Phase: symptom.PhaseTest, Tool: "xunit", Unit: t.attr("name")}
			from := t.Line
			if err = dotnetResult(x, &s, out); err == nil {
				failure(&s, s.Detail)
				out.add(s, from, x.in.line)
			}
		}
		if err != nil {
			return err
		}
	}
}

// dotnetCase reads one test to its end.
func dotnetCase(x *xmlScanner, t xmlToken, s symptom.Symptom, out *sink, failed *int) error {
	s.Kind, s.Phase = symptom.TestFailure, symptom.PhaseTest
	if s.Unit == "" { // version 2 has no class: the name is full
		if i := strings.LastIndexByte(before(s.Test, "("), '.'); i > 0 {
			s.Unit = s.Test[:i]
		}
	}
	for _, joint := range []string{".", "::"} {
		s.Test = strings.TrimPrefix(s.Test, s.Unit+joint)
	}
	outcome, known := dotnetOutcomes[t.attr("result")]
	if !known || t.attr("executed") == "False" {
		outcome = symptom.Skipped
	}
	seconds, _ := strconv.ParseFloat(t.attr("duration")+t.attr("time"), 64)
	from := t.Line
	if err := dotnetResult(x, &s, out); err != nil {
		return err
	}
	out.testOutcome(symptom.Test{Suite: s.Unit, Name: s.Test, Outcome: outcome, Seconds: seconds})
	if outcome == symptom.Failed {
		*failed++
		failure(&s, s.Detail)
		out.claim(from, x.in.line)
		out.add(s, from, x.in.line)
	}
	return nil
}

// dotnetResult takes the message and the stack of one result, to its end: as NUnit and
// xUnit.net name them, and as VSTest does.
func dotnetResult(x *xmlScanner, s *symptom.Symptom, out *sink) error {
	for depth := 1; depth > 0; {
		t, err := x.next()
		if err != nil {
			return x.broken(err)
		}
		switch {
		case t.End:
			depth--
		case t.Name == "message", t.Name == "stack-trace", t.Name == "Message", t.Name == "StackTrace":
			text, _, err := x.whole()
			if err != nil {
				return err
			}
			text = strings.Trim(plainText(text), "\r\n")
			if bare := strings.TrimSpace(text); bare == "" || bare == "None" {
				continue
			}
			if strings.EqualFold(t.Name, "message") && s.Message == "" {
				said := text
				if i := strings.Index(text, "\nE "); i >= 0 { // pytest marks what went wrong in the code that it shows
					said = strings.TrimLeft(text[i+2:], " ")
				}
				s.Message = headline(said, "", "", "")
			}
			s.Detail = strings.TrimSpace(s.Detail + "\n" + text)
		case t.Name == "output", t.Name == "StdOut", t.Name == "StdErr":
			text, line, err := x.whole()
			if err != nil {
				return err
			}
			within(text, line, out)
		case t.Name != "":
			depth++
		}
	}
	if s.Message == "" {
		s.Message = "failed"
	}
	s.Refs = append(s.Refs, dotnetRefs(s.Message)...)
	return nil
}
