package triage

import (
	"context"
	"fmt"
	"math"
	"runtime"
	"slices"
	"sort"
	"strings"
	"sync/atomic"

	"unicausa/internal/core/cluster"
	"unicausa/internal/core/guard"
	"unicausa/internal/core/link"
	"unicausa/internal/core/notes"
	"unicausa/internal/core/source"
	"unicausa/internal/core/symptom"
)

// explained is a cause with its links.
type explained struct {
	cluster.Cause
	id     string // once it is numbered
	links  []link.Link
	reason string
	after  string // what failed unread and comes first, where this only misses what that may have made
}

// explain links the causes, and joins those that one change explains: likely,
// and because both name the same broken thing in it.
func explain(ctx context.Context, groups []cluster.Cause, index *link.Index) []explained {
	links, unread := linked(ctx, groups, index), unread(groups)
	list := make([]explained, 0, len(groups))
	first := map[string]int{}  // change to the cause that it explains
	byName := map[string]int{} // what is missing to the cause of which it is likely explained
	grown := map[int]bool{}
	for n, g := range groups {
		e := explained{Cause: g, links: links[n]}
		if unread != "" && !g.Known && g.Absent() {
			e.links, e.after = nil, unread
		}
		if g.Root().Kind == symptom.MissingTest { // no change of the notes tells of it
			e.links = nil
		}
		if l := link.Explanation(e.links); l != nil && l.Strong && !g.Known {
			id := l.Change.ID
			if at, ok := first[id]; ok && joinable(&list[at].Cause, &g, l.Change) {
				list[at].Join(g, cluster.Because{What: "explained by the same change", Value: l.Change.Title, Weight: l.Score})
				grown[at] = true
				continue
			} else if !ok {
				first[id] = len(list)
			}
			if at, ok := byName[g.Misses()]; ok && retold(list[at].Cause.Misses(), link.Explanation(list[at].links).Change, l.Change) && joinable(&list[at].Cause, &g, l.Change) {
				list[at].Join(g, cluster.Because{What: "described in two documents", Value: l.Change.Title, Weight: l.Score})
				grown[at] = true
				continue
			} else if !ok && g.Misses() != "" {
				byName[g.Misses()] = len(list)
			}
		}
		list = append(list, e)
	}
	for at := range grown {
		list[at].links = index.Links(&list[at].Cause)
	}
	return list
}

// retold reports whether two changes tell the same of a name, as a change log and
// a guide do: both have it on the old side, and another name in common.
func retold(name string, a, b *notes.Change) bool {
	if name == "" || a.Notes == b.Notes || !source.SameFamily(a.Package, b.Package) || !names(a, name) || !names(b, name) {
		return false
	}
	return slices.ContainsFunc(a.Symbols, func(s notes.Symbol) bool {
		other := link.LastPart(s.Name)
		return other != name && slices.ContainsFunc(b.Symbols, func(o notes.Symbol) bool { return link.LastPart(o.Name) == other })
	})
}

// unread is what a failing check says of which nothing was read, or "".
func unread(groups []cluster.Cause) string {
	for i := range groups {
		for _, m := range groups[i].Members {
			if m.Symptom.State == symptom.New && m.Symptom.Unsaid() {
				return m.Symptom.Message
			}
		}
	}
	return ""
}

// linked finds the links of every cause, side by side.
func linked(ctx context.Context, groups []cluster.Cause, index *link.Index) [][]link.Link {
	links := make([][]link.Link, len(groups))
	var next atomic.Int64
	var work guard.Group
	for range runtime.GOMAXPROCS(0) {
		work.Go(func() {
			for {
				n := int(next.Add(1)) - 1
				if n >= len(groups) {
					return
				}
				guard.Check(ctx)
				links[n] = index.Links(&groups[n])
			}
		})
	}
	work.Wait()
	return links
}

// joinable reports whether two causes that one change explains may be one. Two
// that miss different names are, where a short entry has both; one that misses a
// name and one that is about other names alone are not, nor what a whole module
// is like and the names in it, nor two rules.
func joinable(a, b *cluster.Cause, by *notes.Change) bool {
	x, y := a.Misses(), b.Misses()
	switch {
	case a.Shape() != b.Shape(), a.Rule() != b.Rule():
		return false
	case x == "" && y == "":
		return true
	case x != "" && y != "":
		return x == y || (oneDecision(by) || inTitle(by, x, y)) && names(by, x) && names(by, y)
	case x == "":
		x, a, b = y, b, a
	}
	about := b.Concerns()
	return len(about) == 0 || about[x]
}

// An entry of more lines or names tells of more than one decision.
const (
	shortLines = 12
	shortNames = 12
)

func oneDecision(c *notes.Change) bool {
	return c.End-c.Line < shortLines && len(c.Symbols) <= shortNames
}

// inTitle reports whether an entry's first sentence names both.
func inTitle(c *notes.Change, x, y string) bool {
	return strings.Contains(c.Title, x) && strings.Contains(c.Title, y)
}

func names(c *notes.Change, name string) bool {
	return slices.ContainsFunc(c.Symbols, func(s notes.Symbol) bool {
		prefix, all := strings.CutSuffix(s.Name, "*")
		return s.Side != notes.NewOne && (link.LastPart(s.Name) == name || all && prefix != "" && strings.HasPrefix(name, link.LastPart(prefix)))
	})
}

// cause writes an explained cause as the report has it.
func (e *explained) cause(rank int) Cause {
	out := Cause{
		ID: e.id, Title: e.Title(), Kind: e.Kind(), Phase: e.Root().Phase, Package: e.Package(), Root: e.Root().ID, Symptoms: []string{}, Followers: []string{},
		Rank: rank, Reason: e.reason, Known: e.Known, Because: because(e.Members), Links: []Link{}, Signature: e.Identity().Signature,
	}
	for _, m := range e.Members {
		out.Symptoms = append(out.Symptoms, m.Symptom.ID)
		if m.Follower {
			out.Followers = append(out.Followers, m.Symptom.ID)
		}
	}
	for _, l := range e.links {
		out.Links = append(out.Links, Link{Change: l.Change.ID, Score: math.Min(0.99, math.Round(100*l.Score)/100), Standing: link.StandingOf(l.Score), Because: l.Because})
	}
	if l := link.Explanation(e.links); l != nil {
		out.Kind = string(l.Change.Kind)
		if l.Strong || e.Root().Kind == symptom.TestFailure { // a test names nothing
			out.Title = told(out.Title, &e.Cause, l.Change)
		}
	}
	out.Steps = steps(e)
	return out
}

// confirmedHere is the weight of a person's word for this very link, in log
// odds: it is the explanation then, whatever else speaks against it.
const confirmedHere = 10

// judged drops the links that people rejected and puts a confirmed one first.
func judged(links []link.Link, verdicts map[string]bool) []link.Link {
	var kept []link.Link
	for _, l := range links {
		confirmed, known := verdicts[l.Change.ID]
		if known && !confirmed {
			continue
		}
		if confirmed {
			l.Because = slices.Clone(l.Because)
			l.Add(cluster.Because{What: "confirmed by a person", Weight: confirmedHere})
		}
		kept = append(kept, l)
	}
	sort.SliceStable(kept, func(i, j int) bool { return verdicts[kept[i].Change.ID] && !verdicts[kept[j].Change.ID] })
	return kept
}

// told is a cause's title once a change explains it: with the new name, where
// the change has one for what is missing.
func told(title string, c *cluster.Cause, change *notes.Change) string {
	name := c.Misses()
	for _, p := range change.Renames {
		if name != "" && tail(p.From) == name && c.Subject() != "" {
			if change.Kind == notes.Removed || change.Kind == notes.Deprecated {
				return fmt.Sprintf("%s gives way to %s%s", c.Subject(), p.To, c.More())
			}
			return fmt.Sprintf("%s was renamed to %s%s", c.Subject(), p.To, c.More())
		}
	}
	if name != "" || strings.Contains(change.Title, " → ") { // a bare pair says less than the code
		return title
	}
	return change.Title
}

func tail(name string) string { return name[strings.LastIndexAny(name, ".:#")+1:] }

// because lists the distinct reasons of a cause's members, heaviest first.
func because(members []cluster.Member) []cluster.Because {
	seen := map[string]bool{}
	list := []cluster.Because{}
	for _, m := range members {
		if key := m.Because.What + "\x00" + m.Because.Value; !seen[key] {
			seen[key] = true
			list = append(list, m.Because)
		}
	}
	sort.SliceStable(list, func(i, j int) bool { return list[i].Weight > list[j].Weight })
	if len(list) > 6 {
		list = list[:6]
	}
	return list
}
