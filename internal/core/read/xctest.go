package read

import (
	"strings"

	"unicausa/internal/core/symptom"
)

// xctest reads Swift's test printers, and Dart's:
//
//	/p/ShelfTests.swift:12: error: ShelfTests.testOpens : XCTAssertEqual failed: ("1") is not equal to ("2")
//	Test Case 'ShelfTests.testOpens' failed (0.01 seconds)
//	✘ Test opens() recorded an issue at ShelfTests.swift:12:9: Expectation failed: …
//	00:01 +1 -1: Shelf opens the lid [E]
//	  Expected: <2>
//	    Actual: <1>
//	  test/shelf_test.dart 12:5  main.<fn>
//
// Formats: swift-corelibs-xctest's PrintObserver; package:test's expanded reporter.
type xctest struct {
	messages map[string]symptom.Symptom // the assertion of a test case
	open     *symptom.Symptom
	from     int
	end      int
	body     []string
	seen     map[string]bool
}

var xctestReader = stream{name: "xctest", marks: []string{"^Test Case '", "^Test Suite '", ".swift:", ": error: -[", "^✘ Test ", " [E]", "^Executed "}, open: func() lineReader {
	return &xctest{messages: map[string]symptom.Symptom{}, seen: map[string]bool{}}
}}

func (x *xctest) line(l Line, out *sink) verdict {
	text := l.Text
	if x.open != nil {
		if strings.HasPrefix(text, "  ") || text == "" {
			if text != "" {
				x.body, x.end = append(x.body, text), l.Number
			}
			return more
		}
		x.close(out)
	}
	switch {
	case strings.HasPrefix(text, "Test Case '"):
		return x.testCase(l, out)
	case strings.HasPrefix(text, "Test Suite '"), strings.HasPrefix(strings.TrimSpace(text), "Executed ") && strings.Contains(text, " tests"):
		return noise
	case strings.HasPrefix(text, "✘ Test ") && strings.Contains(text, " recorded an issue at "):
		name, rest, _ := strings.Cut(strings.TrimPrefix(text, "✘ Test "), " recorded an issue at ")
		s := symptom.Symptom{Kind: symptom.TestFailure, Phase: symptom.PhaseTest, Tool: "swift test", Test: strings.TrimSuffix(name, "()")}
		if p, ok := placeColon(rest); ok {
			s.File, s.Line, s.Column, s.Message = p.file, p.line, p.column, strings.TrimPrefix(p.rest, ": ")
		}
		out.testOutcome(symptom.Test{Name: s.Test, Outcome: symptom.Failed})
		out.add(s, l.Number, l.Number)
		return took
	}
	if p, ok := placeColon(text); ok && extension(p.file, ".swift", ".m", ".mm") {
		if message, ok := strings.CutPrefix(p.rest, ": error: "); ok {
			name, said, ok := strings.Cut(message, " : ")
			if name = strings.Trim(name, "-[]"); ok && !strings.Contains(strings.ReplaceAll(name, " ", "."), "'") && len(strings.Fields(name)) <= 2 {
				suite, test := splitClass(strings.ReplaceAll(name, " ", "."))
				s := symptom.Symptom{Kind: symptom.TestFailure, Phase: symptom.PhaseTest, Tool: "xctest", Unit: suite, Test: test, File: p.file, Line: p.line, Message: said}
				s.Refs = expectationXC(said)
				x.seen[suite+"."+test] = true
				out.add(s, l.Number, l.Number)
				return took
			}
		}
	}
	return x.dart(l, out)
}

// testCase takes the outcome; a failure without an assertion is told from it.
func (x *xctest) testCase(l Line, out *sink) verdict {
	name := strings.Trim(between(l.Text, "'", "'"), "-[]")
	rest := behind(l.Text, "' ")
	suite, test := splitClass(strings.ReplaceAll(name, " ", "."))
	outcome, ok := map[string]symptom.Outcome{"passed": symptom.Passed, "failed": symptom.Failed, "skipped": symptom.Skipped}[firstWord(rest)]
	if !ok {
		return noise
	}
	out.tool("xctest")
	out.testOutcome(symptom.Test{Suite: suite, Name: test, Outcome: outcome})
	if outcome == symptom.Failed && !x.seen[suite+"."+test] {
		out.add(symptom.Symptom{Kind: symptom.TestFailure, Phase: symptom.PhaseTest, Tool: "xctest", Unit: suite, Test: test, Message: test + " failed"}, l.Number, l.Number)
		return took
	}
	return noise
}

func expectationXC(said string) refs {
	first, rest, ok := strings.Cut(behind(said, `("`), `")`)
	second := between(rest, `("`, `")`)
	if !ok || second == "" {
		return nil
	}
	return refs{ref(symptom.Actual, clip(first)), ref(symptom.Expected, clip(second))}
}

// dart takes "00:01 +1 -1: name [E]", with what is indented below.
func (x *xctest) dart(l Line, out *sink) verdict {
	if shape(l.Text, "dd:dd +d") == 0 {
		return pass
	}
	_, name, ok := strings.Cut(l.Text, ": ")
	if !ok {
		return pass
	}
	name, bad := strings.CutSuffix(name, " [E]")
	if !bad {
		return noise
	}
	out.tool("dart test")
	x.open = &symptom.Symptom{Kind: symptom.TestFailure, Phase: symptom.PhaseTest, Tool: "dart test", Test: name}
	if file, rest, ok := strings.Cut(name, ".dart: "); ok {
		x.open.Unit, x.open.Test = file+".dart", rest
	}
	if strings.HasPrefix(name, "loading ") {
		x.open.Unit, x.open.Test = strings.TrimPrefix(name, "loading "), ""
		out.block(x.open.Unit)
	} else {
		out.testOutcome(symptom.Test{Suite: x.open.Unit, Name: x.open.Test, Outcome: symptom.Failed})
	}
	x.from, x.end, x.body = l.Number, l.Number, nil
	return more
}

func (x *xctest) close(out *sink) {
	s := x.open
	x.open = nil
	if s == nil {
		return
	}
	body := strings.Join(x.body, "\n")
	s.Detail = body
	s.Message = headline("", body, "", "")
	if strings.HasPrefix(s.Message, "Expected: ") && len(x.body) > 1 {
		s.Message += ", " + strings.TrimSpace(x.body[1])
	}
	for _, line := range x.body { // "test/shelf_test.dart 12:5  main.<fn>"
		fields := strings.Fields(line)
		if len(fields) >= 2 && extension(fields[0], ".dart") && !strings.HasPrefix(fields[0], "package:") && s.File == "" {
			s.File = fields[0]
			s.Line, _ = leadingNumber(fields[1])
		}
	}
	s.Refs = append(runtimeRefs(s.Message), expectationIn(body)...)
	out.add(*s, x.from, x.end)
}
