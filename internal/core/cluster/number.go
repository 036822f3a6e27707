package cluster

import (
	"sort"
	"strconv"
	"strings"
)

// Identity is what a cause is recognised by from one run to the next.
type Identity struct {
	ID        string // "C3"
	Signature string
	Symptoms  []string // IDs
}

// Number gives each of the next causes the ID of the prior one that it is: the
// one with most of its symptoms, or else with its signature. Each prior ID is
// given once; what is left gets numbers that were never used. So a cause keeps
// its number from run to run, and comes back under it.
func Number(prior, next []Identity) []string {
	owner := map[string]int{} // symptom to prior
	bySignature := map[string]int{}
	highest := 0
	for i, p := range prior {
		bySignature[p.Signature] = i
		for _, s := range p.Symptoms {
			owner[s] = i
		}
		if n, err := strconv.Atoi(strings.TrimPrefix(p.ID, "C")); err == nil {
			highest = max(highest, n)
		}
	}
	type claim struct{ prior, next, shared int }
	var claims []claim
	for n, c := range next {
		shared := map[int]int{}
		for _, s := range c.Symptoms {
			if p, ok := owner[s]; ok {
				shared[p] += 2
			}
		}
		if p, ok := bySignature[c.Signature]; ok {
			shared[p]++
		}
		for p, count := range shared {
			claims = append(claims, claim{p, n, count})
		}
	}
	sort.Slice(claims, func(i, j int) bool {
		a, b := claims[i], claims[j]
		switch {
		case a.shared != b.shared:
			return a.shared > b.shared
		case a.prior != b.prior:
			return a.prior < b.prior
		}
		return a.next < b.next
	})
	ids := make([]string, len(next))
	taken := map[int]bool{}
	for _, c := range claims {
		if ids[c.next] == "" && !taken[c.prior] {
			ids[c.next], taken[c.prior] = prior[c.prior].ID, true
		}
	}
	for n := range ids {
		if ids[n] == "" {
			highest++
			ids[n] = "C" + strconv.Itoa(highest)
		}
	}
	return ids
}
