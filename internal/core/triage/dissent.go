package triage

import (
	"context"
	"slices"
	"strings"

	"unicausa/internal/core/cluster"
	"unicausa/internal/core/guard"
	"unicausa/internal/core/link"
)

// mostAsked bounds the tests of a cause that are asked one by one.
const mostAsked = 60

// dissent takes causes apart that nothing but a suspected name holds together, such as the
// one function that every test calls, where different changes likely explain different
// tests of them. What no change explains stays together.
func dissent(ctx context.Context, groups []cluster.Cause, index *link.Index) []cluster.Cause {
	list := make([]cluster.Cause, 0, len(groups))
	for _, g := range groups {
		guard.Check(ctx)
		if g.Known || len(g.Members) > mostAsked || !g.Suspected() {
			list = append(list, g)
			continue
		}
		by := make([]string, len(g.Members)) // what holds each
		agreed := true
		for i := range g.Members {
			alone := cluster.Cause{Signature: g.Signature, Members: g.Members[i : i+1]}
			if l := link.Explanation(index.Links(&alone)); l != nil {
				by[i] = l.Change.ID
			} else {
				by[i] = "fails " + g.Members[i].Way()
			}
			agreed = agreed && by[i] == by[0]
		}
		if agreed || !slices.ContainsFunc(by, func(s string) bool { return !strings.HasPrefix(s, "fails ") }) {
			list = append(list, g)
			continue
		}
		list = append(list, g.Parted(by)...)
	}
	return list
}
