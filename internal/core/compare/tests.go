package compare

import (
	"slices"
	"sort"
	"strings"
	"unicode"

	"unicausa/internal/core/source"
	"unicausa/internal/core/symptom"
)

// Lost is a test that passed in the baseline and that a later run of the same
// check did not pass again, although its suite was reached.
type Lost struct {
	Test    symptom.Test
	Skipped bool         // it is there, and skipped; otherwise it is not there at all
	Perhaps symptom.Test // a test that is new and may be this one under another name
}

// LostTests lists the tests that passed before and are missing or skipped
// after, in order. A test whose suite is in blocked is not lost but hidden; a
// failed test is a symptom, not lost. Only a run that names every test can lose
// one that it does not name.
func LostTests(before, after []symptom.Test, blocked []string, told Telling) []Lost {
	if len(before) == 0 {
		return nil
	}
	hidden := map[string]bool{}
	for _, unit := range blocked {
		hidden[unit] = true
	}
	now := make(map[string]symptom.Outcome, len(after))
	for _, t := range after {
		key := t.Key()
		now[key] = better(now[key], t.Outcome)
	}
	var others map[string][]string // by the name alone: runners write suites in several ways
	var list []Lost
	listed := map[string]bool{}
	for _, t := range before {
		if t.Outcome != symptom.Passed || hidden[t.Suite] || listed[t.Key()] {
			continue
		}
		outcome, present := now[t.Key()]
		if !present {
			if others == nil {
				others = spelt(after)
			}
			outcome, present = anySpelling(t, others, now)
		}
		if present && outcome != symptom.Skipped && outcome != symptom.Gone || !present && told != Named && told != "" {
			continue
		}
		listed[t.Key()] = true
		list = append(list, Lost{Test: t, Skipped: outcome == symptom.Skipped})
	}
	sort.Slice(list, func(i, j int) bool { return list[i].Test.Key() < list[j].Test.Key() })
	if len(list) > 0 {
		offer(list, before, after)
	}
	return list
}

// spelt lists the keys of tests by the last part of their names.
func spelt(tests []symptom.Test) map[string][]string {
	index := map[string][]string{}
	for _, t := range tests {
		name := plainName(lastPart(t.Name))
		if !slices.Contains(index[name], t.Key()) && len(index[name]) < mostNamesakes {
			index[name] = append(index[name], t.Key())
		}
	}
	return index
}

// anySpelling finds a test whose suite and name, written as one, are the end of
// the other's: one printer tells the suite where another puts it into the name.
func anySpelling(t symptom.Test, others map[string][]string, now map[string]symptom.Outcome) (symptom.Outcome, bool) {
	if len(others) == 0 {
		return "", false
	}
	full := plainName(t.Key())
	for _, key := range others[plainName(lastPart(t.Name))] {
		other := plainName(key)
		if other != "" && (strings.HasSuffix(full, other) || strings.HasSuffix(other, full)) {
			return now[key], true
		}
	}
	return "", false
}

// mostNamesakes bounds the tests of one name that are compared by their suites.
const mostNamesakes = 100

func lastPart(name string) string {
	for _, mark := range []string{" > ", " › "} {
		if i := strings.LastIndex(name, mark); i >= 0 {
			name = name[i+len(mark):]
		}
	}
	return name
}

// plainName is a name's letters and digits alone.
func plainName(name string) string {
	return strings.Map(func(r rune) rune {
		if unicode.IsLetter(r) || unicode.IsDigit(r) {
			return unicode.ToLower(r)
		}
		return -1
	}, name)
}

// alike is how much of their words two names share at least to be offered as
// one test (the coefficient of Dice).
const alike = 0.6

// offer finds, for each missing test, a new one that may be it renamed or
// moved: the new test whose name is most alike, which no other claims first.
func offer(lost []Lost, before, after []symptom.Test) {
	old := map[string]bool{}
	for _, t := range before {
		old[t.Key()] = true
	}
	var fresh []symptom.Test
	seen := map[string]bool{}
	for _, t := range after {
		if !old[t.Key()] && !seen[t.Key()] && t.Outcome != symptom.Skipped && t.Outcome != symptom.Gone {
			seen[t.Key()] = true
			fresh = append(fresh, t)
		}
	}
	if len(lost)*len(fresh) > 250_000 { // another set of tests, not renamed ones
		return
	}
	type claim struct {
		lost, fresh int
		score       float64
	}
	var claims []claim
	for i, l := range lost {
		for j, t := range fresh {
			score := dice(l.Test.Name, t.Name)
			if l.Test.Suite == t.Suite {
				score += 0.1
			}
			if !l.Skipped && score >= alike {
				claims = append(claims, claim{i, j, score})
			}
		}
	}
	sort.SliceStable(claims, func(i, j int) bool { return claims[i].score > claims[j].score })
	given := map[int]bool{}
	for _, c := range claims {
		if lost[c.lost].Perhaps.Name == "" && !given[c.fresh] {
			lost[c.lost].Perhaps, given[c.fresh] = fresh[c.fresh], true
		}
	}
}

// dice is the share of words that two names have in common.
func dice(a, b string) float64 {
	x, y := nameWords(a), nameWords(b)
	shared := 0
	for w := range x {
		if y[w] {
			shared++
		}
	}
	if len(x)+len(y) == 0 {
		return 0
	}
	return 2 * float64(shared) / float64(len(x)+len(y))
}

// nameWords are the words of a name that tell it from others.
func nameWords(name string) map[string]bool {
	words := map[string]bool{}
	for _, w := range source.NameWords(name) {
		if w != "test" && w != "it" && w != "should" {
			words[w] = true
		}
	}
	return words
}

// SameTests reports whether two recordings ran the same set of tests, but for a
// few: that of one may be a repetition of the other.
func SameTests(a, b []symptom.Test) bool {
	keys := map[string]bool{}
	for _, t := range a {
		keys[t.Key()] = true
	}
	shared, all := 0, map[string]bool{}
	for _, t := range b {
		if !all[t.Key()] {
			all[t.Key()] = true
			if keys[t.Key()] {
				shared++
			}
		}
	}
	return shared > 0 && 10*shared >= 9*max(len(keys), len(all))
}

// better keeps the outcome that says most of a test that ran more than once.
func better(a, b symptom.Outcome) symptom.Outcome {
	rank := map[symptom.Outcome]int{"": 0, symptom.Gone: 1, symptom.Skipped: 2, symptom.Passed: 3, symptom.Failed: 4}
	if rank[b] > rank[a] {
		return b
	}
	return a
}

// Symptom is the missing test as a symptom.
func (l Lost) Symptom() symptom.Symptom {
	message := l.Test.Name + " passed in the baseline and is missing now"
	if l.Skipped {
		message = l.Test.Name + " passed in the baseline and is skipped now"
	} else if l.Perhaps.Name != "" {
		message += "; " + l.Perhaps.Name + " is new and may be it under another name"
	}
	return symptom.Symptom{
		Kind: symptom.MissingTest, Level: "error", Phase: symptom.PhaseTest, State: symptom.New,
		Message: message, Unit: l.Test.Suite, Test: l.Test.Name, At: []symptom.At{},
	}
}
