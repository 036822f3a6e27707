package read

import (
	"strings"

	"unicausa/internal/core/symptom"
)

// gradle reads what Gradle itself says, and its test events:
//
//	> Task :compileJava FAILED                  known from the compiler's lines
//	FAILURE: Build failed with an exception.
//	* What went wrong:
//	Execution failed for task ':compileJava'.   a verdict where something else told
//	> Could not resolve all files for configuration ':compileClasspath'.
//	   > Could not find example:jar:5.0.
//	ShelfTest > opens the lid FAILED
//	    java.lang.AssertionError at ShelfTest.java:12
//	3 tests completed, 1 failed
//	Deprecated Gradle features were used in this build, making it incompatible with Gradle 9.0.
//
// Formats: org.gradle.internal.buildevents.BuildExceptionReporter,
// org.gradle.api.internal.tasks.testing.logging.TestEventLogger.
type gradle struct {
	stage int
	open  *symptom.Symptom // what went wrong
	at    int
	list  []string
	test  *symptom.Symptom
	from  int
	body  []string
	told  int
}

const (
	gradleBetween = iota
	gradleFailure
	gradleWrong
)

var gradleReader = stream{name: "gradle", marks: []string{"^> Task :", "^FAILURE: ", "^* What went wrong", " FAILED", " PASSED", " SKIPPED", "tests completed", "^Deprecated Gradle", "^BUILD FAILED"}, open: func() lineReader { return &gradle{} }}

func (g *gradle) listening() bool { return g.stage != gradleBetween || g.test != nil }

func (g *gradle) line(l Line, out *sink) verdict {
	text := l.Text
	if g.test != nil {
		if strings.HasPrefix(text, "    ") {
			g.body = append(g.body, text)
			return took
		}
		if text == "" && len(g.body) == 0 {
			return took
		}
		g.closeTest(out, l.Number-1)
	}
	switch {
	case strings.HasPrefix(text, "FAILURE: Build "):
		g.stage = gradleFailure
		return noise
	case strings.HasPrefix(text, "* What went wrong"):
		g.stage = gradleWrong
		return noise
	case g.stage == gradleWrong:
		return g.wrong(l, out)
	case g.stage == gradleFailure && (text == "" || strings.HasPrefix(text, "* ") || strings.HasPrefix(text, "> ") || strings.HasPrefix(text, "BUILD FAILED") || strings.HasPrefix(text, "====") || strings.HasPrefix(text, "---")):
		if strings.HasPrefix(text, "BUILD FAILED") {
			g.stage = gradleBetween
		}
		return noise
	case strings.HasPrefix(text, "> Task :"), strings.HasPrefix(text, "BUILD FAILED in"):
		return noise
	case strings.HasPrefix(text, "Deprecated Gradle features were used"):
		out.add(symptom.Symptom{Kind: symptom.Deprecation, Level: "warning", Phase: symptom.PhaseConfigure, Tool: "gradle", Message: text}, l.Number, l.Number)
		return took
	}
	if name, ok := strings.CutSuffix(text, " FAILED"); ok && strings.Contains(name, " > ") && !strings.HasPrefix(text, " ") {
		suite, test, _ := strings.Cut(name, " > ")
		g.test = &symptom.Symptom{Kind: symptom.TestFailure, Phase: symptom.PhaseTest, Tool: "gradle", Unit: suite, Test: test}
		g.from, g.body = l.Number, nil
		out.testOutcome(symptom.Test{Suite: suite, Name: test, Outcome: symptom.Failed})
		return took
	}
	for word, outcome := range map[string]symptom.Outcome{" PASSED": symptom.Passed, " SKIPPED": symptom.Skipped} {
		if name, ok := strings.CutSuffix(text, word); ok && strings.Contains(name, " > ") && !strings.HasPrefix(text, " ") {
			suite, test, _ := strings.Cut(name, " > ")
			out.testOutcome(symptom.Test{Suite: suite, Name: test, Outcome: outcome})
			return noise
		}
	}
	if strings.Contains(text, "tests completed, ") {
		return noise
	}
	return pass
}

// wrong takes the lines behind "* What went wrong:".
func (g *gradle) wrong(l Line, out *sink) verdict {
	text := strings.TrimSpace(l.Text)
	if text == "" || strings.HasPrefix(text, "* ") {
		g.closeWrong(out, l.Number-1)
		g.stage = gradleFailure
		return noise
	}
	if g.open == nil {
		g.open = &symptom.Symptom{Kind: symptom.Error, Level: "error", Phase: symptom.PhaseConfigure, Tool: "gradle", Message: text}
		g.at, g.list = l.Number, nil
		return took
	}
	g.list = append(g.list, strings.TrimLeft(text, "> "))
	return took
}

// closeWrong drops a verdict over what the tools of the task told themselves.
func (g *gradle) closeWrong(out *sink, end int) {
	s := g.open
	g.open = nil
	if s == nil {
		return
	}
	s.Detail = strings.Join(g.list, "\n")
	for _, line := range g.list {
		if unresolved(line) || strings.HasPrefix(line, "Could not find ") || strings.HasPrefix(line, "No matching ") || strings.HasPrefix(line, "Could not resolve") {
			s.Kind, s.Phase, s.Message = symptom.Resolve, symptom.PhaseResolve, line
			if rest, ok := strings.CutPrefix(line, "Could not find "); ok {
				parts := strings.Split(strings.TrimRight(rest, "."), ":")
				s.Refs = refs{ref(symptom.Module, strings.Join(parts[:min(2, len(parts))], ":"))}
			}
		}
	}
	if s.Kind != symptom.Resolve && strings.HasPrefix(s.Message, "Execution failed for task ") && len(out.result.Symptoms) > g.told {
		return
	}
	if len(g.list) > 0 && s.Kind != symptom.Resolve {
		s.Message += " " + g.list[0]
	}
	out.add(*s, g.at, max(g.at, end))
	g.told = len(out.result.Symptoms)
}

func (g *gradle) closeTest(out *sink, end int) {
	s := g.test
	g.test = nil
	body := strings.Join(g.body, "\n")
	s.Message, s.Detail = headline("", body, "", ""), body
	if message, where, ok := strings.Cut(s.Message, " at "); ok {
		if p, ok := placeColon(where); ok {
			s.Message, s.File, s.Line = message, p.file, p.line
		}
	}
	failure(s, body)
	out.add(*s, g.from, max(g.from, end))
}

func (g *gradle) close(out *sink) {
	if g.test != nil {
		g.closeTest(out, g.from+len(g.body))
	}
	g.closeWrong(out, g.at+len(g.list))
}
