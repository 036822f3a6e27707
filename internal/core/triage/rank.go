package triage

import (
	"fmt"
	"sort"

	"unicausa/internal/core/symptom"
)

// rank orders causes by what to do first: new before known, an early phase
// before a late one, since it hides what comes behind; then what takes most
// symptoms with it; then what is mechanical.
func rank(causes []explained) {
	for i := range causes {
		causes[i].reason = reason(&causes[i])
	}
	sort.SliceStable(causes, func(i, j int) bool {
		a, b := &causes[i], &causes[j]
		if a.Known != b.Known {
			return !a.Known
		}
		if x, y := urgency(a), urgency(b); x != y {
			return x < y
		}
		if len(a.Members) != len(b.Members) {
			return len(a.Members) > len(b.Members)
		}
		if x, y := mechanical(a), mechanical(b); x != y {
			return x
		}
		return a.Signature < b.Signature
	})
}

// urgency is the phase of the cause's root; what only warns comes last.
func urgency(e *explained) int {
	root := e.Root()
	if root.Kind == symptom.Deprecation || root.Kind == symptom.Warning || root.Kind == symptom.Lint {
		return len(symptom.Phases)
	}
	return root.Phase.Order()
}

// mechanical tells whether a rename pair settles the cause.
func mechanical(e *explained) bool {
	if len(e.links) == 0 || e.links[0].Score < 0.5 {
		return false
	}
	for _, p := range e.links[0].Change.Renames {
		if tail(p.From) == e.Misses() {
			return true
		}
	}
	return false
}

// reason says in one line why a cause has its place.
func reason(e *explained) string {
	n, followers := len(e.Members), 0
	for _, m := range e.Members {
		if m.Follower {
			followers++
		}
	}
	root := e.Root()
	switch {
	case e.Known:
		return "there before the bump"
	case root.Phase.Order() <= symptom.PhaseParse.Order():
		return fmt.Sprintf("stops the %s phase: what comes behind it is hidden", root.Phase)
	case root.Kind == symptom.Deprecation:
		return "only warns: it can wait, and comes due later"
	case mechanical(e):
		return fmt.Sprintf("a rename clears %s", plural(n, "symptom"))
	case followers > 0:
		return fmt.Sprintf("clears %s, %d of them only follow from it", plural(n, "symptom"), followers)
	case root.Phase == symptom.PhaseCompile:
		return fmt.Sprintf("the code does not compile without it: clears %s", plural(n, "symptom"))
	}
	return fmt.Sprintf("clears %s", plural(n, "symptom"))
}

func plural(n int, word string) string {
	if n == 1 {
		return "1 " + word
	}
	return fmt.Sprintf("%d %ss", n, word)
}
