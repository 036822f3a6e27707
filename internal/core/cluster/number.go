package cluster

import (
	"slices"
	"sort"
	"strconv"
	"strings"

	"unicausa/internal/core/symptom"
)

// Identity is what a cause is recognised by from one run to the next.
type Identity struct {
	ID        string // "C3"
	Signature string
	Symptoms  []string // IDs, of what does not only follow from others
	About     []string // the names that these are about
}

// Add takes a symptom in that the cause is recognised by.
func (i *Identity) Add(s *symptom.Symptom) {
	i.Symptoms = append(i.Symptoms, s.ID)
	for _, name := range s.About() {
		if len(i.About) < mostNames && !slices.Contains(i.About, name) {
			i.About = append(i.About, name)
		}
	}
}

// mostNames bounds the names that a cause is about.
const mostNames = 100

// concern is how much two causes mean the same: 2 with one signature, 1 where
// half of the names that one is about are the other's too.
func (i *Identity) concern(other *Identity) int {
	if i.Signature == other.Signature {
		return 2
	}
	if strings.HasPrefix(i.Signature, knownMark) != strings.HasPrefix(other.Signature, knownMark) {
		return 0
	}
	shared := 0
	for _, name := range i.About {
		if slices.Contains(other.About, name) {
			shared++
		}
	}
	if shared > 0 && 2*shared >= min(len(i.About), len(other.About)) {
		return 1
	}
	return 0
}

// knownMark stands before the signature of a cause that the baseline has.
const knownMark = "known|"

// Number gives each of the next causes the ID of the prior one that it is: the
// one with the same concern and most of its symptoms, or else the one with most
// of its symptoms. Each prior ID is given once; what is left gets numbers that
// were never used. So a cause keeps its number from run to run, and comes back
// under it.
func Number(prior, next []Identity) []string {
	owner := map[string]int{}   // symptom to prior
	named := map[string][]int{} // signature or name to priors
	highest := 0
	for i := range prior {
		p := &prior[i]
		named[p.Signature] = append(named[p.Signature], i)
		for _, s := range p.Symptoms {
			owner[s] = i
		}
		for _, name := range p.About {
			named[name] = append(named[name], i)
		}
		if n, err := strconv.Atoi(strings.TrimPrefix(p.ID, "C")); err == nil {
			highest = max(highest, n)
		}
	}
	type claim struct{ prior, next, concern, shared int }
	var claims []claim
	for n := range next {
		c := &next[n]
		shared := map[int]int{}
		for _, s := range c.Symptoms {
			if p, ok := owner[s]; ok {
				shared[p]++
			}
		}
		for _, name := range append([]string{c.Signature}, c.About...) {
			for _, p := range named[name][:min(len(named[name]), mostNamesakes)] {
				shared[p] += 0
			}
		}
		for p, count := range shared {
			if concern := prior[p].concern(c); concern+count > 0 {
				claims = append(claims, claim{p, n, concern, count})
			}
		}
	}
	sort.Slice(claims, func(i, j int) bool {
		a, b := claims[i], claims[j]
		switch {
		case a.concern != b.concern:
			return a.concern > b.concern
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

// mostNamesakes bounds the earlier causes that are compared for one name.
const mostNamesakes = 50
