package view

import (
	"unicausa/internal/api"
	"unicausa/internal/core/gate"
	"unicausa/internal/store"
)

// Gate is a verdict.
func Gate(v gate.Verdict) api.Gate {
	return api.Gate{
		Open: v.Open, Reasons: list(v.Reasons, reason),
		Vouched: list(v.Vouched, func(w gate.Vouched) api.Vouched {
			return api.Vouched{Reason: reason(w.Reason), Word: w.Word.Reason, Author: w.Word.Author}
		}),
	}
}

func reason(r gate.Reason) api.GateReason {
	return api.GateReason{Code: r.Code, Text: r.Text, Check: r.Check, Cause: r.Cause, Key: r.Key, Path: address(r.At), Members: r.Members}
}

// address is where the console shows a target, below the upgrade.
func address(t gate.Target) string {
	switch t.Kind {
	case gate.AtComparison:
		return "/compare/" + t.ID + "/" + t.Other
	case gate.AtChanges:
		return "/notes?change=" + t.ID
	case gate.AtSilentRisks:
		return "/notes?state=silent"
	case gate.AtRoute: // on the upgrade's own page
		return ""
	}
	path := "/" + string(t.Kind)
	if t.ID != "" {
		path += "/" + t.ID
	}
	return path
}

// Words are what people vouch for.
func Words(all []store.Word) []api.Word { return list(all, Word) }

// Word is one of them.
func Word(w store.Word) api.Word {
	return api.Word{ID: w.ID, About: w.About, Reason: w.Reason, Author: w.Author, At: w.At, Undone: w.Undone}
}

// Pruned is what was let go of.
func Pruned(p store.Pruned) api.Pruned { return api.Pruned(p) }
