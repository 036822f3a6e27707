package triage

import (
	"fmt"
	"path"
	"sort"

	"unicausa/internal/core/link"
	"unicausa/internal/core/notes"
	"unicausa/internal/core/source"
	"unicausa/internal/core/symptom"
)

// rank orders causes by what clearing them buys: new before known, an early
// phase before a late one, since it hides what comes behind; then by what goes
// away with it, what the rest of the project builds on, and what is mechanical.
func rank(causes []explained, tree *source.Tree) {
	order := dependants(causes, tree)
	for i := range causes {
		causes[i].reason = reason(&causes[i], order[i])
	}
	index := make([]int, len(causes))
	for i := range index {
		index[i] = i
	}
	sort.SliceStable(index, func(i, j int) bool {
		a, b := &causes[index[i]], &causes[index[j]]
		if a.Known != b.Known {
			return !a.Known
		}
		if x, y := urgency(a), urgency(b); x != y {
			return x < y
		}
		if x, y := worth(a, order[index[i]]), worth(b, order[index[j]]); x != y {
			return x > y
		}
		return a.Signature < b.Signature
	})
	sorted := make([]explained, len(causes))
	for n, i := range index {
		sorted[n] = causes[i]
	}
	copy(causes, sorted)
}

// worth is what clearing a cause buys: its symptoms, twice those tests that
// could not run for it, what builds on its files, and a little for a fix that
// a machine can make.
func worth(e *explained, dependants int) int {
	w := 2*len(e.Members) + 2*len(e.blocked())
	if urgency(e) <= symptom.PhaseLink.Order() { // what runs is built
		w += dependants
	}
	if mechanical(e) {
		w++
	}
	return w
}

// urgency is the earliest phase that a cause stops, what only warns last. Programs
// that run and tests hide nothing from each other.
func urgency(e *explained) int {
	least := len(symptom.Phases)
	for _, m := range e.Members {
		switch m.Symptom.Kind {
		case symptom.Deprecation, symptom.Warning, symptom.Lint:
		default:
			least = min(least, m.Symptom.Phase.Order(), symptom.PhaseRun.Order())
		}
	}
	return least
}

// warns reports whether a cause does nothing but warn of what is deprecated.
func warns(e *explained) bool {
	return e.Root().Kind == symptom.Deprecation && urgency(e) == len(symptom.Phases)
}

// blocked are the tests and suites that could not run because of a cause.
func (e *explained) blocked() []*symptom.Symptom {
	var list []*symptom.Symptom
	for _, m := range e.Members {
		if m.Follower && m.Symptom.Kind == symptom.TestFailure {
			list = append(list, m.Symptom)
		}
	}
	return list
}

// mechanical reports whether a rename settles the cause.
func mechanical(e *explained) bool {
	return len(renames(e)) > 0
}

// renames are the pairs that the cause's likely explanation has for the names
// that the cause misses.
func renames(e *explained) (list []notes.Rename) {
	l := link.Explanation(e.links)
	if l == nil {
		return nil
	}
	for _, p := range l.Change.Renames {
		if e.Lacks(link.LastPart(p.From)) {
			list = append(list, p)
		}
	}
	return list
}

// dependants counts, for each cause, the folders of the project that import
// the folder in which its root stands.
func dependants(causes []explained, tree *source.Tree) []int {
	counts := make([]int, len(causes))
	if len(causes) < 2 { // nothing to rank
		return counts
	}
	importers := tree.Importers()
	for i := range causes {
		if file := causes[i].Root().File; file != "" && len(importers) > 0 {
			counts[i] = importers[path.Dir(file)]
		}
	}
	return counts
}

// reason says in a line why a cause stands where it does.
func reason(e *explained, dependants int) string {
	n, followers := len(e.Members), 0
	for _, m := range e.Members {
		if m.Follower {
			followers++
		}
	}
	root := e.Root()
	text := "clears " + plural(n, "symptom")
	if blocked := len(e.blocked()); blocked > 0 {
		text += fmt.Sprintf(", lets %s run", plural(blocked, "test or suite"))
	} else if followers > 0 {
		text += fmt.Sprintf(", %d of them only follow from it", followers)
	}
	if dependants > 0 && root.Phase == symptom.PhaseCompile {
		text += fmt.Sprintf("; %s %s on it", plural(dependants, "package"), map[bool]string{true: "builds", false: "build"}[dependants == 1])
	}
	switch {
	case e.Known:
		return "there before the bump"
	case root.Phase.Order() >= 0 && root.Phase.Order() <= symptom.PhaseParse.Order():
		return fmt.Sprintf("stops the %s phase: what comes behind it is hidden; %s", root.Phase, text)
	case warns(e):
		return "only warns: it can wait, and comes due later"
	case mechanical(e):
		return "a rename " + text
	}
	return text
}

func plural(n int, word string) string {
	if n == 1 {
		return "1 " + word
	}
	if word == "test or suite" {
		return fmt.Sprintf("%d tests or suites", n)
	}
	return fmt.Sprintf("%d %ss", n, word)
}
