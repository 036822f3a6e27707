package read

import (
	"strings"

	"unicausa/internal/core/symptom"
)

// outcomeOf is how an object says that it ended.
func outcomeOf(v *jsonValue) (outcome symptom.Outcome, ok bool) {
	v.each(statusKeys, func(key string, f *jsonValue) bool {
		word := strings.ToLower(f.Text)
		switch k := plainKey(key); {
		case f.Fields != nil: // <status status="FAIL">why</status>
			outcome, ok = outcomeOf(f)
		case word == "" && f.Fields == nil && f.isBool && (k == "success" || k == "passed" || k == "ok" || k == "pass"):
			outcome, ok = symptom.Failed, true
			if f.Bool {
				outcome = symptom.Passed
			}
		case word == "true" && (k == "success" || k == "passed" || k == "ok"):
			outcome, ok = symptom.Passed, true
		case word == "false" && (k == "success" || k == "passed" || k == "ok"):
			outcome, ok = symptom.Failed, true
		default:
			outcome, ok = outcomeWord(word)
		}
		return ok
	})
	return outcome, ok
}

// saidBeside is the text in which an outcome that is an object says why.
func saidBeside(v *jsonValue) (text string) {
	v.each(statusKeys, func(_ string, f *jsonValue) bool {
		if f.Fields != nil {
			text, _ = f.text(keysOf("message text reason"), nil)
		}
		return text != ""
	})
	return text
}

func outcomeWord(word string) (symptom.Outcome, bool) {
	switch word {
	case "failed", "fail", "failure", "error", "errored", "broken", "timeout", "timedout", "crash", "crashed", "xpassed", "unexpected":
		return symptom.Failed, true
	case "passed", "pass", "ok", "success", "successful", "succeeded", "completed":
		return symptom.Passed, true
	case "skipped", "skip", "pending", "ignored", "disabled", "todo", "xfailed", "notrun", "inconclusive":
		return symptom.Skipped, true
	}
	return "", false
}

// test makes an outcome, and a symptom where it failed, of an object with a name
// and a status.
func (r *roles) test(v *jsonValue, u *under) bool {
	outcome, ok := outcomeOf(v)
	name, at := v.text(testKeys, func(s string) bool { return len(s) < 500 && !strings.Contains(s, "\n") })
	if name == "" {
		return false
	}
	message := failureOf(v, 0)
	if fails := v.field("failures"); fails != nil && len(fails.List) > 0 && (!ok || outcome == symptom.Passed) && suiteOf(v) == nil {
		outcome, ok = symptom.Failed, true
	}
	if !ok {
		switch {
		case (u.list == "failures" || u.list == "failed" || u.list == "failedtests") && message != "" && v.field("line") == nil:
			outcome = symptom.Failed
		case u.list == "passes" || u.list == "passed" || u.list == "passing":
			outcome = symptom.Passed
		case u.list == "pending" || u.list == "skipped":
			outcome = symptom.Skipped
		case v.field("err") != nil && v.field("title") != nil: // mocha
			if outcome = symptom.Passed; message != "" {
				outcome = symptom.Failed
			}
		default:
			return false
		}
	}
	if suiteOf(v) != nil || !testLike(v, u) { // a suite, a check of something else
		return false
	}
	key := u.suite + "\x00" + name
	if r.failed[key] {
		return true
	}
	suite := u.suite
	if class, _ := v.text(keysOf("classname class suite"), nil); class != "" {
		suite = class
	}
	r.out.testOutcome(symptom.Test{Suite: suite, Name: name, Outcome: outcome})
	r.findings++
	if outcome != symptom.Failed {
		return true
	}
	if r.failed == nil {
		r.failed = map[string]bool{}
	}
	r.failed[key] = true
	if message == "" {
		message = saidBeside(v)
	}
	s := symptom.Symptom{Kind: symptom.TestFailure, Level: "error", Phase: symptom.PhaseTest, Tool: "report", Unit: suite, Test: name}
	s.Detail = plainText(message)
	s.Message = headline("", s.Detail, "", name)
	failure(&s, s.Detail)
	if s.File == "" {
		s.Line, s.Column, s.File = placeOf(v, 0)
		if s.File == "" {
			s.File = u.file
		}
	}
	r.out.claim(at.Line, at.Line)
	r.out.add(s, at.Line, at.Line)
	return true
}

// testLike reports whether an object with a status is a test and no finding.
func testLike(v *jsonValue, u *under) bool {
	_, rule := v.Fields["ruleId"]
	return !rule && v.field("severity") == nil
}

// suiteOf is the list of tests that an object holds, or nil.
func suiteOf(v *jsonValue) *jsonValue {
	for _, key := range []string{"tests", "testsuite", "testsuites", "suites", "specs", "examples", "assertionresults", "elements", "steps", "testcases", "results", "children", "testresults"} {
		if f := v.field(key); f != nil && len(f.List) > 0 && f.List[0].Fields != nil {
			return f
		}
	}
	for _, key := range []string{"test", "suite", "testcase"} { // one or several, in XML
		f := v.field(key)
		if f == nil {
			continue
		}
		one := f
		if len(f.List) > 0 {
			one = f.List[0]
		}
		if _, ended := outcomeOf(one); ended && one.Fields != nil {
			return f
		}
	}
	return nil
}

// failureOf gathers what a test's object says of its failure.
func failureOf(v *jsonValue, depth int) string {
	if depth > 4 {
		return ""
	}
	var parts []string
	add := func(s string) {
		if s = strings.TrimSpace(s); s != "" && !strings.Contains(strings.Join(parts, "\n"), s) {
			parts = append(parts, s)
		}
	}
	for _, f := range v.List {
		if f.Fields == nil {
			add(f.Text)
		} else {
			add(failureOf(f, depth+1))
		}
	}
	v.each(failureKeys, func(key string, f *jsonValue) bool {
		switch {
		case f.Fields != nil || f.List != nil:
			if class, _ := f.text(keysOf("class type exceptiontype name"), func(s string) bool { return !strings.Contains(s, " ") }); class != "" && depth < 2 && f.Fields != nil {
				if message, _ := f.text(messageKeys, nil); message != "" && !strings.Contains(message, class) {
					add(class + ": " + strings.TrimSpace(message))
				}
			}
			add(failureOf(f, depth+1))
		case f.Text != "" && f.Number == 0 && len(f.Text) < 100_000:
			if _, word := outcomeWord(strings.ToLower(f.Text)); !word {
				add(f.Text)
			}
		}
		return false
	})
	if b := v.field("backtrace"); b != nil {
		for _, f := range b.List {
			add(f.Text)
		}
	}
	return strings.Join(parts, "\n")
}
