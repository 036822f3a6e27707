package cluster

import (
	"fmt"
	"regexp"
	"strings"

	"unicausa/internal/core/symptom"
)

// noType are the words of compilers that were not told a type and could not find
// it out: tsc, rustc, kotlinc, swiftc, javac.
var noType = regexp.MustCompile(`implicitly has an? '?any|type annotations needed|[Cc]annot infer (a )?type|unable to infer type|could not be inferred`)

// uninferred folds what a compiler knows no type of under what is missing on its
// line, or in the lines of its chain of calls above.
func (g *grouping) uninferred() {
	missing := map[string]int{}
	at := func(i, line int) string {
		return fmt.Sprintf("%s\x00%d\x00%p", g.evidence[i].Symptom.File, line, g.evidence[i].tree)
	}
	for i, e := range g.evidence {
		if key := at(i, e.Symptom.Line); e.Fact(FactMissing) != nil && e.Symptom.Line > 0 {
			if _, ok := missing[key]; !ok {
				missing[key] = i
			}
		}
	}
	for i, e := range g.evidence {
		s := e.Symptom
		if s.Line == 0 || s.Kind != symptom.Error || !noType.MatchString(s.Message) {
			continue
		}
		for line := s.Line; line > max(0, s.Line-longestChain); line-- {
			if of, ok := missing[at(i, line)]; ok && of != i {
				g.key[i], g.follower[i] = g.key[of], true
				g.reason[i] = Because{What: "no type is known without the missing name", Value: e.Source, Weight: good}
				break
			}
			if !strings.HasPrefix(strings.TrimSpace(e.tree.Line(s.File, line)), ".") {
				break
			}
		}
	}
}

// longestChain is how many lines a chain of calls may go on above a diagnostic.
const longestChain = 8
