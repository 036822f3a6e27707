// Package compare sets one side's symptoms and tests against another's: what
// is new, what was there, what went away, and what only could not be seen.
package compare

import (
	"sort"

	"unicausa/internal/core/symptom"
)

// States sets the state of every symptom of the after side against the before
// side, and appends the before symptoms that are gone as absent. Both sides
// come from symptom.Merge. Equal diagnostics are matched one to one, so three
// before and five after are two new: those on the same line first, then in the
// order of the file. A place on the before side is listed under a symptom only
// when that is not new.
func States(before, after []symptom.Symptom) []symptom.Symptom {
	byKey := map[string][]int{}
	for i := range before {
		key := before[i].Key()
		byKey[key] = append(byKey[key], i)
	}
	matched := make([]int, len(after))
	taken := make([]bool, len(before))
	for i := range matched {
		matched[i] = -1
	}
	groups := map[string][]int{}
	for i := range after {
		key := after[i].Key()
		groups[key] = append(groups[key], i)
	}
	for key, list := range groups {
		match(before, after, byKey[key], list, matched, taken)
	}
	result := make([]symptom.Symptom, 0, len(after))
	for i, s := range after {
		s.State = symptom.New
		if m := matched[i]; m >= 0 {
			s.State = symptom.Unchanged
			if symptom.Steady(before[m].Message) != symptom.Steady(s.Message) {
				s.State = symptom.Updated
			}
			s.At = append(append([]symptom.At(nil), before[m].At...), s.At...)
			s.Count = len(s.At)
		}
		result = append(result, s)
	}
	for i, s := range before {
		if !taken[i] {
			s.State = symptom.Absent
			result = append(result, s)
		}
	}
	return result
}

// match pairs the equal symptoms of both sides: by distance of their lines,
// the nearest first.
func match(before, after []symptom.Symptom, olds, news []int, matched []int, taken []bool) {
	type pair struct{ old, new, distance int }
	if len(olds) > 1 && len(news) > 1 && len(olds)*len(news) > 10_000 { // by rank: nothing is gained from all pairs
		for i := 0; i < len(olds) && i < len(news); i++ {
			matched[news[i]], taken[olds[i]] = olds[i], true
		}
		return
	}
	var pairs []pair
	for _, o := range olds {
		for _, n := range news {
			pairs = append(pairs, pair{o, n, distance(before[o].Line, after[n].Line)})
		}
	}
	sort.SliceStable(pairs, func(i, j int) bool { return pairs[i].distance < pairs[j].distance })
	for _, p := range pairs {
		if !taken[p.old] && matched[p.new] < 0 {
			matched[p.new], taken[p.old] = p.old, true
		}
	}
}

func distance(a, b int) int {
	if a > b {
		return a - b
	}
	return b - a
}
