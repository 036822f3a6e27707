package triage

import (
	"strconv"
	"strings"

	"unicausa/internal/core/cluster"
	"unicausa/internal/core/link"
)

// Correction is what a person says of where symptoms belong: they are of a
// cause, whatever the analysis finds, or all that is of one cause is of
// another (a merge). Corrections hold for every later analysis.
type Correction struct {
	Symptoms []string // IDs; of a merge: those of the cause that is given up
	From     string   // of a merge: the cause that is given up
	Cause    string   // the ID of the cause that they belong to
	By       string   // who says so, for the evidence
}

// correct numbers the causes, then moves symptoms to where people say that
// they belong. A cause that loses all its symptoms is gone; one that did not
// exist is made.
func correct(causes []explained, c Case, index *link.Index) []explained {
	of, by := latestAssignment(c.Corrections)
	var kept []explained
	moved := map[string][]cluster.Member{}
	for _, e := range causes {
		var members []cluster.Member
		for _, m := range e.Members {
			if to, ok := of[m.Symptom.ID]; ok {
				m.Follower = false
				m.Because = cluster.Because{What: "put here by " + by[m.Symptom.ID], Value: m.Symptom.Message, Weight: 1}
				moved[to] = append(moved[to], m)
				continue
			}
			members = append(members, m)
		}
		if len(members) == len(e.Members) {
			kept = append(kept, e)
			continue
		}
		if e.Members = members; len(members) > 0 {
			e.links = index.Links(&e.Cause)
			kept = append(kept, e)
		}
	}
	merged := mergers(c.Corrections)
	number(kept, prior(c.Prior, of, merged))
	at := map[string]int{}
	var list []explained
	for _, e := range kept {
		if to := merged.of(e.id); to != e.id {
			for _, m := range e.Members {
				m.Because = cluster.Because{What: "merged by " + merged[e.id].By, Value: e.id, Weight: 1}
				moved[to] = append(moved[to], m)
			}
			continue
		}
		at[e.id] = len(list)
		list = append(list, e)
	}
	for _, correction := range c.Corrections { // in their order, so that the result is one
		to := merged.of(correction.Cause)
		for _, from := range []string{correction.Cause, to} {
			members := moved[from]
			delete(moved, from)
			if len(members) == 0 {
				continue
			}
			i, ok := at[to]
			if !ok {
				i = len(list)
				at[to] = i
				list = append(list, explained{id: to, Cause: cluster.Cause{Signature: signature(c.Prior, to), Known: known(members)}})
			}
			list[i].Members = append(list[i].Members, members...)
			list[i].links = index.Links(&list[i].Cause)
		}
	}
	return list
}

// number gives the causes their IDs.
func number(causes []explained, prior []cluster.Identity) {
	next := make([]cluster.Identity, len(causes))
	for i := range causes {
		next[i] = causes[i].Identity()
	}
	for i, id := range cluster.Number(prior, next) {
		causes[i].id = id
	}
}

// latestAssignment is the cause of each symptom that was put somewhere, by the latest
// word, and whose word that is.
func latestAssignment(list []Correction) (of, by map[string]string) {
	of, by = map[string]string{}, map[string]string{}
	for _, c := range list {
		if c.From != "" {
			continue
		}
		for _, s := range c.Symptoms {
			of[s], by[s] = c.Cause, c.By
		}
	}
	return of, by
}

// prior are the earlier causes as an analysis would know them again: without
// what is there only because somebody put it there, and with what a merge took
// away.
func prior(list []cluster.Identity, of map[string]string, merged merges) []cluster.Identity {
	taken := map[string]string{} // symptom to the cause that it was merged out of
	for from, c := range merged {
		for _, s := range c.Symptoms {
			taken[s] = from
		}
	}
	out := make([]cluster.Identity, 0, len(list))
	for _, p := range list {
		next := cluster.Identity{ID: p.ID, Signature: p.Signature, About: p.About}
		for _, s := range p.Symptoms {
			if of[s] == "" && (taken[s] == "" || taken[s] == p.ID) {
				next.Symptoms = append(next.Symptoms, s)
			}
		}
		if c, ok := merged[p.ID]; ok {
			next.Symptoms = append(next.Symptoms, c.Symptoms...)
		}
		out = append(out, next)
	}
	return out
}

type merges map[string]Correction

func mergers(list []Correction) merges {
	m := merges{}
	for _, c := range list {
		if c.From != "" {
			delete(m, c.Cause) // the latest word decides which of two stays
			m[c.From] = c
		}
	}
	return m
}

// of is the cause that a cause was merged into, or itself.
func (m merges) of(id string) string {
	for range len(m) {
		c, ok := m[id]
		if !ok {
			break
		}
		id = c.Cause
	}
	return id
}

// signature is what an earlier cause was known by, or what one made by hand is.
func signature(prior []cluster.Identity, id string) string {
	for _, p := range prior {
		if p.ID == id && p.Signature != "" {
			return strings.TrimPrefix(p.Signature, "known|")
		}
	}
	return "by hand|" + id
}

func known(members []cluster.Member) bool {
	for _, m := range members {
		if m.Symptom.State == "new" {
			return false
		}
	}
	return true
}

// What verdicts on links say of the other causes of the upgrade, in log odds.
const (
	taughtYes = 0.8
	taughtNo  = -1.2
)

// remember lets how a cause was settled in other upgrades speak for the change
// that explained it there.
func remember(causes []explained, settled map[string]map[string]int) {
	for i := range causes {
		e := &causes[i]
		before := settled[e.Identity().Signature]
		for n := range e.links {
			if times := before[e.links[n].Change.ID]; times > 0 {
				e.links[n].Add(cluster.Because{What: "explained it in other upgrades", Value: strconv.Itoa(times), Weight: taughtYes})
			}
		}
		if len(before) > 0 {
			e.links = link.Sorted(e.links)
		}
	}
}

// teach lets what people confirmed and rejected of a cause's links decide, and
// speak for other causes: a
// change that was confirmed for one is likelier where it shares a name with
// another, one that was rejected is less so.
func teach(causes []explained, verdicts map[string]map[string]bool) {
	judgedFor := map[string]string{} // change to the first cause of which it was judged
	for i := range causes {
		for change := range verdicts[causes[i].id] {
			if _, ok := judgedFor[change]; !ok {
				judgedFor[change] = causes[i].id
			}
		}
	}
	for i := range causes {
		e := &causes[i]
		for n := range e.links {
			l := &e.links[n]
			other, said := judgedFor[l.Change.ID]
			if _, here := verdicts[e.id][l.Change.ID]; here || !said {
				continue
			}
			switch confirmed := verdicts[other][l.Change.ID]; {
			case confirmed && l.Strong:
				l.Add(cluster.Because{What: "confirmed for", Value: other, Weight: taughtYes})
			case confirmed:
				l.Add(cluster.Because{What: "already explains", Value: other, Weight: taughtNo})
			default:
				l.Add(cluster.Because{What: "rejected for", Value: other, Weight: taughtNo})
			}
		}
		e.links = judged(link.Sorted(e.links), verdicts[e.id])
	}
}
