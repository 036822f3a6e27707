package cluster

import (
	"regexp"
	"strings"

	"unicausa/internal/core/symptom"
)

// suites folds what a runner says of tests that it did not run to their end: those
// that were called off with the suite that they stand in, and those of a file that
// could not be run, under what stopped it: the crash that went through the file, or
// that stands right above its verdict, where the runner passes on what it printed.
func (g *grouping) suites() {
	failed := map[string]int{}    // tests and suites by name
	crashed := map[string]int{}   // the first crash that went through a file
	above := map[symptom.At]int{} // crashes by the line on which they end
	for i, e := range g.evidence {
		s := e.Symptom
		switch {
		case s.Kind == symptom.TestFailure && !calledOff.MatchString(s.Message):
			failed[s.Unit+"\x00"+s.Test] = i
		case s.Kind == symptom.Crash:
			for _, at := range s.At {
				above[symptom.At{Input: at.Input, Line: at.End}] = i
			}
			for _, f := range s.Frames {
				if _, ok := crashed[f.File]; f.Own && f.File != "" && !ok {
					crashed[f.File] = i
				}
			}
		}
	}
	for i, e := range g.evidence {
		s := e.Symptom
		if s.Kind != symptom.TestFailure {
			continue
		}
		of, stopped := crashed[s.Test]
		for gap := 1; gap <= widestGap && !stopped && s.Test == s.File && s.Test != "" && len(s.At) > 0; gap++ {
			of, stopped = above[symptom.At{Input: s.At[0].Input, Line: s.At[0].Line - gap}]
		}
		if stopped && e.said == "" {
			g.join(of, i, Because{What: "the file could not be run", Value: s.Test, Weight: strong}, true)
		}
		for suite := s.Test; calledOff.MatchString(s.Message) && strings.Contains(suite, suiteMark); {
			suite = suite[:strings.LastIndex(suite, suiteMark)]
			if of, ok := failed[s.Unit+"\x00"+suite]; ok {
				g.join(of, i, Because{What: "called off with its suite", Value: suite, Weight: strong}, true)
				break
			}
		}
	}
}

// widestGap is how many lines may stand between a crash and the verdict on its file:
// the version of the runtime, the name of the file.
const widestGap = 4

// suiteMark stands between the names of a suite and of what it holds.
const suiteMark = " > "

// calledOff are the words for a test that was stopped with the suite around it.
var calledOff = regexp.MustCompile(`(?i)\bdid not finish before its parent\b|\bwas cancelled\b|\bcancel(l)?ed by\b|\bparent (test|suite)\b.*\bfail`)
