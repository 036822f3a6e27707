package read

import (
	"strings"

	"unicausa/internal/core/symptom"
)

// cargoTest reads Rust's test harness:
//
//	     Running unittests src/lib.rs (target/debug/deps/shelf-0a1b)
//	test tests::opens ... FAILED
//	---- tests::opens stdout ----
//	thread 'tests::opens' panicked at src/lib.rs:12:9:
//	assertion `left == right` failed
//	  left: 1
//	 right: 2
//	failures:
//	    tests::opens
//	test result: FAILED. 3 passed; 1 failed; 0 ignored; …
//
// Format: library/test/src/formatters/pretty.rs.
type cargoTest struct {
	unit   string
	failed []cargoFailure
	at     int // the failure whose output is being read, -1 for none
	active bool
}

type cargoFailure struct {
	name string
	line int
	end  int
	body []string
}

var cargoTestReader = stream{name: "cargo test", marks: []string{"^test ", "^Running ", "^Doc-tests ", " stdout ----", "^failures:"}, open: func() lineReader { return &cargoTest{at: -1} }}

func (c *cargoTest) listening() bool { return c.active }

func (c *cargoTest) line(l Line, out *sink) verdict {
	text := l.Text
	trimmed := strings.TrimSpace(text)
	switch {
	case strings.HasPrefix(trimmed, "Running ") && strings.HasSuffix(trimmed, ")"), strings.HasPrefix(trimmed, "Doc-tests "):
		c.finish(out)
		c.unit = strings.TrimPrefix(before(strings.TrimPrefix(strings.TrimPrefix(trimmed, "Running "), "Doc-tests "), " ("), "unittests ")
		return noise
	case strings.HasPrefix(text, "test result: "):
		if n, ok := counted(text, "failed"); ok {
			out.state(l.Number, "failed", n, len(c.failed))
		}
		c.finish(out)
		out.finished(c.unit)
		return noise
	case strings.HasPrefix(text, "test ") && strings.Contains(text, " ... "):
		return c.outcome(l, out)
	case strings.HasPrefix(text, "---- ") && strings.HasSuffix(text, " stdout ----"):
		name := strings.TrimSuffix(strings.TrimPrefix(text, "---- "), " stdout ----")
		for i := range c.failed {
			if c.failed[i].name == name {
				c.at, c.active = i, true
				return took
			}
		}
		return pass
	case text == "failures:" && c.active:
		c.at = -1
		return noise
	case c.at >= 0:
		f := &c.failed[c.at]
		f.body, f.end = append(f.body, text), l.Number
		return took
	case c.active && strings.HasPrefix(text, "    "):
		return noise
	}
	return pass
}

func (c *cargoTest) outcome(l Line, out *sink) verdict {
	name, word, _ := strings.Cut(l.Text[len("test "):], " ... ")
	name = strings.TrimSuffix(name, " - should panic")
	word = strings.TrimSpace(before(word, " <"))
	outcome, known := map[string]symptom.Outcome{"ok": symptom.Passed, "FAILED": symptom.Failed, "ignored": symptom.Skipped}[before(word, ",")]
	if !known {
		return pass
	}
	out.testOutcome(symptom.Test{Suite: c.unit, Name: name, Outcome: outcome})
	if outcome != symptom.Failed {
		return noise
	}
	c.failed, c.active = append(c.failed, cargoFailure{name: name, line: l.Number, end: l.Number}), true
	return took
}

// finish hands out the failures of one test binary.
func (c *cargoTest) finish(out *sink) {
	for _, f := range c.failed {
		s := symptom.Symptom{Kind: symptom.TestFailure, Phase: symptom.PhaseTest, Tool: "cargo test", Unit: c.unit, Test: f.name, Message: f.name + " failed", Detail: strings.Join(f.body, "\n")}
		for i, line := range f.body {
			if p, ok := nativeHead(line); ok && p.Tool == "rust" {
				s.File, s.Line, s.Column, s.Message = p.File, p.Line, p.Column, p.Message
				if i+1 < len(f.body) && strings.HasPrefix(s.Message, "thread '") {
					s.Message = strings.TrimSpace(f.body[i+1])
				}
				break
			}
			if strings.HasPrefix(line, "error") && s.Message == f.name+" failed" { // a doc test that does not compile
				if e, ok := rustcHead(line); ok {
					s.Message, s.Code, s.Refs = e.Message, e.Code, e.Refs
				}
			}
		}
		left, right := "", ""
		for _, line := range f.body {
			t := strings.TrimSpace(line)
			if v, ok := strings.CutPrefix(t, "left: "); ok {
				left = v
			}
			if v, ok := strings.CutPrefix(t, "right: "); ok {
				right = v
			}
		}
		if left != "" {
			s.Refs = append(s.Refs, ref(symptom.Expected, clip(right)), ref(symptom.Actual, clip(left)))
		}
		out.add(s, f.line, f.line)
	}
	c.failed, c.at, c.active = nil, -1, false
}

func (c *cargoTest) close(out *sink) { c.finish(out) }
