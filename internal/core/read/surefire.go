package read

import (
	"strings"

	"unicausa/internal/core/symptom"
)

// surefire reads the text of Maven's test plug-ins:
//
//	[INFO] Running shelves.ShelfTest
//	[ERROR] Tests run: 3, Failures: 1, Errors: 0, Skipped: 0, Time elapsed: 0.05 s <<< FAILURE! - in shelves.ShelfTest
//	[ERROR] shelves.ShelfTest.opens  Time elapsed: 0.01 s  <<< FAILURE!
//	[ERROR] opens(shelves.ShelfTest)  Time elapsed: 0.01 s  <<< ERROR!      older
//	org.opentest4j.AssertionFailedError: expected: <2> but was: <1>
//		at shelves.ShelfTest.opens(ShelfTest.java:12)
//	[ERROR] Failures:
//	[ERROR]   ShelfTest.opens:12 expected: <2> but was: <1>                 said before
//
// Format: maven-surefire-common's StatelessTestsetInfoReporter and
// DefaultReporterFactory.
type surefire struct {
	open   *symptom.Symptom
	from   int
	end    int
	body   []string
	total  bool // in the list at the end
	failed int
}

var surefireReader = stream{name: "surefire", marks: []string{"<<< FAILURE!", "<<< ERROR!", "^[ERROR] ", "^[INFO] Running", "^[INFO] Tests run:", "^[WARNING] Tests run:", "^Tests run:", "^Failures:", "^Errors:"}, open: func() lineReader { return &surefire{} }}

func (u *surefire) line(l Line, out *sink) verdict {
	text := l.Text
	for _, mark := range []string{"[ERROR] ", "[INFO] ", "[WARNING] "} {
		text = strings.TrimPrefix(text, mark)
	}
	if u.open != nil {
		if text != "" && text == l.Text && !strings.Contains(text, "<<<") && !strings.HasPrefix(text, "Tests run:") && !strings.HasPrefix(text, "Running ") {
			u.body, u.end = append(u.body, text), l.Number
			return more
		}
		u.close(out)
	}
	switch {
	case strings.HasPrefix(text, "Tests run: "):
		if strings.Contains(text, "Time elapsed") {
			u.total = false
			name := strings.TrimSpace(text[strings.LastIndex(text, " in ")+len(" in "):])
			if strings.Contains(text, " in ") {
				out.finished(name)
			}
			return noise
		}
		failures, _ := leadingNumber(behind(text, "Failures: "))
		errors, _ := leadingNumber(behind(text, "Errors: "))
		out.state(l.Number, "failures", failures+errors, u.failed)
		u.failed = 0
		return noise
	case strings.Contains(text, "<<< FAILURE!"), strings.Contains(text, "<<< ERROR!"):
		name := strings.TrimSpace(before(before(before(text, "Time elapsed"), "<<<"), " -- "))
		suite, test := splitClass(name)
		if i := strings.IndexByte(name, '('); i > 0 && strings.HasSuffix(name, ")") && strings.Contains(name[i:], ".") {
			suite, test = strings.TrimSuffix(name[i+1:], ")"), name[:i]
		}
		u.open = &symptom.Symptom{Kind: symptom.TestFailure, Phase: symptom.PhaseTest, Tool: "surefire", Unit: suite, Test: test}
		u.from, u.end, u.body = l.Number, l.Number, nil
		u.failed++
		out.testOutcome(symptom.Test{Suite: suite, Name: test, Outcome: symptom.Failed})
		return more
	case text == "Failures: " || text == "Failures:" || text == "Errors: " || text == "Errors:":
		u.total = true
		return noise
	case u.total && strings.HasPrefix(text, "  "):
		return noise
	case strings.HasPrefix(text, "Running ") && text != l.Text:
		return noise
	}
	return pass
}

func (u *surefire) close(out *sink) {
	s := u.open
	u.open = nil
	if s == nil {
		return
	}
	body := strings.Join(u.body, "\n")
	s.Detail = body
	s.Message = headline("", body, "", "")
	if e, ok := jvmException(s.Message); ok {
		s.Code, s.Refs = e.Code, e.Refs
	}
	failure(s, body)
	out.add(*s, u.from, u.end)
}
