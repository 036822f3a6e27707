package gate

import (
	"fmt"
	"maps"
	"slices"
	"strconv"
	"strings"

	"unicausa/internal/core/symptom"
)

// BranchRun is a processed run and the branch that it was made on.
type BranchRun struct {
	Number        int
	Check, Branch string
	Informative   bool
}

// Pair is a check's latest run on a branch beside its last on the target branch, 0 where the
// target has none.
type Pair struct {
	Check         string
	Informative   bool
	Target, Later int // numbers of runs
}

// Pairs finds the runs to compare: of each check the latest that was made elsewhere than on
// the target branch since the check was last run there. Runs are given the latest first.
func Pairs(runs []BranchRun, target string) []Pair {
	var pairs []Pair
	at := map[string]int{}        // of a check, its place in pairs
	onTarget := map[string]bool{} // checks whose run on the target was met
	for _, r := range runs {
		i, known := at[r.Check]
		switch {
		case r.Branch != target && !known && !onTarget[r.Check]:
			at[r.Check] = len(pairs)
			pairs = append(pairs, Pair{Check: r.Check, Informative: r.Informative, Later: r.Number})
		case r.Branch == target && !onTarget[r.Check]:
			if onTarget[r.Check] = true; known {
				pairs[i].Target = r.Number
			}
		}
	}
	return pairs
}

// Compared is a pair with what its later run has that the target's has not: new symptoms,
// and tests that it lost, a sentence each.
type Compared struct {
	Pair
	New  []symptom.Symptom
	Lost []string
}

// JudgeBranch gives the verdict over a branch: it brings nothing that the target branch has
// not.
func JudgeBranch(target string, pairs []Compared) Verdict {
	v := Verdict{Reasons: []Reason{}, Vouched: []Vouched{}}
	for _, p := range pairs {
		if p.Target == 0 {
			v.shut(Reason{Code: NoTarget, Check: p.Check, At: Target{Kind: AtRuns}, Text: fmt.Sprintf("%s has no run on %s to compare with: record it there first", p.Check, target)})
			continue
		}
		if p.Informative {
			continue
		}
		at := Target{Kind: AtComparison, ID: strconv.Itoa(p.Target), Other: strconv.Itoa(p.Later)}
		for i := range p.New {
			v.shut(Reason{Code: Brought, Check: p.Check, At: at, Text: fmt.Sprintf("%s: %s%s", p.Check, place(&p.New[i]), headline(p.New[i].Message))})
		}
		for _, lost := range p.Lost {
			v.shut(Reason{Code: LostTest, Check: p.Check, At: at, Text: p.Check + ": " + lost})
		}
	}
	if len(pairs) == 0 {
		v.shut(Reason{Code: NotRun, At: Target{Kind: AtRuns}, Text: fmt.Sprintf("no check was run on another branch than %s since", target)})
	}
	v.Open = len(v.Reasons) == 0
	return v
}

func place(s *symptom.Symptom) string {
	switch {
	case s.Test != "":
		return s.Test + ": "
	case s.File != "" && s.Line > 0:
		return fmt.Sprintf("%s:%d: ", s.File, s.Line)
	case s.File != "":
		return s.File + ": "
	}
	return ""
}

// headline is the first line of a message.
func headline(message string) string {
	first, _, _ := strings.Cut(message, "\n")
	return first
}

// Hold shuts the gate while runs wait to be processed, and where runs (by number) or the
// drawing of the causes (0) were set aside, each with the reason.
func (v *Verdict) Hold(pending int, aside map[int]string) {
	var first []Reason
	if pending > 0 {
		first = append(first, Reason{Code: Pending, At: Target{Kind: AtRuns}, Text: fmt.Sprintf("%d recorded runs wait to be processed", pending)})
	}
	v.Reasons = append(first, v.Reasons...)
	for _, run := range slices.Sorted(maps.Keys(aside)) {
		r := Reason{Code: Aside, At: atRun(run), Text: fmt.Sprintf("run %d could not be processed, %s", run, aside[run])}
		if run == 0 {
			r.At, r.Text = Target{Kind: AtRuns}, "the causes could not be drawn: "+aside[run]
		}
		v.shut(r)
	}
	v.Open = len(v.Reasons) == 0
}
