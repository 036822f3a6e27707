package read

import (
	"strings"

	"unicausa/internal/core/symptom"
)

// unittest reads Python's unittest:
//
//	test_opens (tests.test_shelf.ShelfTest.test_opens) ... ok     with -v
//	======================================================================
//	FAIL: test_opens (tests.test_shelf.ShelfTest.test_opens)
//	----------------------------------------------------------------------
//	Traceback (most recent call last):
//	…
//	AssertionError: 1 != 2
//
//	----------------------------------------------------------------------
//	Ran 4 tests in 0.001s
//	FAILED (failures=1, errors=1)
//
// Format: unittest/runner.py.
type unittest struct {
	open   *symptom.Symptom
	from   int
	end    int
	body   []string
	ruled  bool // the rule below the name was seen
	failed int
}

var unittestReader = stream{name: "unittest", marks: []string{"^FAIL: ", "^ERROR: ", ") ... ", "^Ran ", "^FAILED (", "^UNEXPECTED SUCCESS: "}, open: func() lineReader { return &unittest{} }}

func (u *unittest) line(l Line, out *sink) verdict {
	if u.open != nil {
		if strings.HasPrefix(l.Text, "------") && !u.ruled { // below the name, and the docstring
			u.ruled, u.body, u.end = true, nil, l.Number
			return more
		}
		if strings.HasPrefix(l.Text, "======") || strings.HasPrefix(l.Text, "------") {
			u.close(out)
			return more
		}
		if u.end = l.Number; !strings.HasPrefix(l.Text, "------") {
			u.body = append(u.body, l.Text)
		}
		return more
	}
	if rest, ok := strings.CutPrefix(l.Text, "UNEXPECTED SUCCESS: "); ok {
		suite, name := unittestName(rest)
		out.testOutcome(symptom.Test{Suite: suite, Name: name, Outcome: symptom.Failed})
		out.add(symptom.Symptom{Kind: symptom.TestFailure, Phase: symptom.PhaseTest, Tool: "unittest", Unit: suite, Test: name, Message: "passes, and was expected to fail", File: moduleFile(suite)}, l.Number, l.Number)
		return took
	}
	for _, word := range []string{"FAIL: ", "ERROR: "} {
		if rest, ok := strings.CutPrefix(l.Text, word); ok && strings.HasPrefix(l.above(1), "======") {
			suite, name := unittestName(rest)
			u.open = &symptom.Symptom{Kind: symptom.TestFailure, Phase: symptom.PhaseTest, Tool: "unittest", Unit: suite, Test: name}
			u.from, u.end, u.body, u.ruled = l.Number, l.Number, nil, false
			u.failed++
			return more
		}
	}
	if head, verdict, ok := strings.Cut(l.Text, ") ... "); ok && strings.Contains(head, " (") {
		outcome, known := map[string]symptom.Outcome{"ok": symptom.Passed, "FAIL": symptom.Failed, "ERROR": symptom.Failed, "skipped": symptom.Skipped, "expected failure": symptom.Skipped}[before(verdict, " '")]
		if known {
			suite, name := unittestName(head + ")")
			out.testOutcome(symptom.Test{Suite: suite, Name: name, Outcome: outcome})
			return noise
		}
	}
	if strings.HasPrefix(l.Text, "FAILED (") && u.failed > 0 {
		total := 0
		for _, part := range strings.Split(strings.Trim(l.Text[8:], ")"), ", ") {
			if n, m := leadingNumber(behind(part, "=")); m > 0 && (strings.HasPrefix(part, "failures") || strings.HasPrefix(part, "errors")) {
				total += n
			}
		}
		out.state(l.Number, "failures", total, u.failed)
		u.failed = 0
		return noise
	}
	if n, ok := counted(l.Text, "test"); ok && n >= 0 && strings.HasPrefix(l.Text, "Ran ") {
		out.finished("unittest")
		return noise
	}
	return pass
}

// moduleFile is the file of a class in a module: tests/test_shelf.py of
// tests.test_shelf.ShelfTest.
func moduleFile(class string) string {
	i := strings.LastIndexByte(class, '.')
	if i < 0 {
		return ""
	}
	return strings.ReplaceAll(class[:i], ".", "/") + ".py"
}

// unittestName parts "test_opens (tests.test_shelf.ShelfTest.test_opens)" and
// "setUpClass (tests.test_shelf.ShelfTest)"; a subtest's parameters stay.
func unittestName(text string) (suite, name string) {
	name, rest, ok := strings.Cut(strings.TrimSpace(text), " (")
	if !ok {
		return "", text
	}
	suite, more, _ := strings.Cut(rest, ")")
	suite = strings.TrimSuffix(suite, "."+name)
	if more = strings.TrimSpace(more); more != "" {
		name += " " + more
	}
	if strings.HasPrefix(suite, "unittest.loader._FailedTest") {
		return name, ""
	}
	return suite, name
}

func (u *unittest) close(out *sink) {
	s := u.open
	u.open = nil
	if s == nil {
		return
	}
	body := strings.Join(u.body, "\n")
	s.Detail = body
	s.Message = "failed"
	for _, line := range u.body { // the last exception says what failed
		if e, ok := pythonException(line); ok && !strings.HasPrefix(line, " ") && strings.Contains(line, ":") {
			s.Message, s.Code = e.Message, e.Code
		}
	}
	failure(s, body)
	if s.Test == "" {
		out.block(s.Unit)
	} else {
		out.testOutcome(symptom.Test{Suite: s.Unit, Name: s.Test, Outcome: symptom.Failed})
	}
	out.add(*s, u.from, u.end)
}
