package triage

import (
	"context"

	"unicausa/internal/core/cluster"
	"unicausa/internal/core/guard"
	"unicausa/internal/core/link"
)

// How many tests are asked one by one what explains them: of one cause, and of all.
const (
	mostAsked    = 60
	mostAskedAll = 2000
)

// dissent takes causes apart that nothing but a suspected name holds together, such as the
// one function that every test calls, where different changes likely explain different
// tests of them. What no change explains stays together.
func dissent(ctx context.Context, groups []cluster.Cause, index *link.Index) []cluster.Cause {
	list, asked := make([]cluster.Cause, 0, len(groups)), 0
	for _, g := range groups {
		guard.Check(ctx)
		n := len(g.Members)
		if g.Known || n > mostAsked || asked+n > mostAskedAll || !g.Suspected() {
			list = append(list, g)
			continue
		}
		asked += n
		if by, differ := heldBy(g, index); differ {
			list = append(list, g.Parted(by)...)
		} else {
			list = append(list, g)
		}
	}
	return list
}

// heldBy is what holds each test of a cause when it is asked alone: the change that likely
// explains it, or else the way in which it fails. Differ reports whether some are explained,
// and not all by the same.
func heldBy(c cluster.Cause, index *link.Index) (by []string, differ bool) {
	explained := false
	for i := range c.Members {
		alone := cluster.Cause{Signature: c.Signature, Members: c.Members[i : i+1]}
		if l := link.Explanation(index.Links(&alone)); l != nil {
			by, explained = append(by, l.Change.ID), true
		} else {
			by = append(by, "fails "+c.Members[i].Way())
		}
		differ = differ || by[i] != by[0]
	}
	return by, differ && explained
}
