package view

import (
	"unicausa/internal/api"
	"unicausa/internal/core/route"
	"unicausa/internal/core/versions"
	"unicausa/internal/store"
)

// Upgrade is the view of an upgrade.
func Upgrade(u store.Upgrade) api.Upgrade {
	return api.Upgrade{CreatedAt: u.CreatedAt, ID: u.ID, Leg: api.Leg{Number: u.Leg, Moves: Moves(u.Moves)}, Name: u.Name, Project: u.Project}
}

// UpgradeRow is an upgrade in a list: its gate, its causes, its runs, the latest first, and
// its history.
func UpgradeRow(u store.Upgrade, gate api.Gate, causes []store.Cause, runs []store.Run, history []store.HistoryPoint) api.UpgradeRow {
	row := api.UpgradeRow{Upgrade: Upgrade(u), Gate: gate, Runs: len(runs), History: []int{}}
	for _, c := range causes {
		if !c.Known && c.Status != "cleared" {
			row.CausesLeft++
		}
	}
	if len(runs) > 0 {
		row.LastRun = &runs[0].Facts.StartedAt
	}
	for _, h := range history {
		row.History = append(row.History, len(h.Causes))
	}
	return row
}

// Moves are what a leg moves.
func Moves(all []versions.Move) []api.Move {
	return list(all, func(m versions.Move) api.Move { return api.Move{Package: m.Package, From: m.From, To: m.To} })
}

// GivenMoves are moves as a caller gives them.
func GivenMoves(all []api.Move) []versions.Move {
	return list(all, func(m api.Move) versions.Move {
		return versions.Move{Package: m.Package, From: m.From, To: m.To}
	})
}

// Legs are the legs of a route.
func Legs(all []store.Leg) []api.LegRow { return list(all, Leg) }

// Leg is a leg of a route.
func Leg(l store.Leg) api.LegRow {
	return api.LegRow{Number: l.Number, Status: api.LegRowStatus(l.Status), Reason: l.Reason, Runs: l.Runs, Causes: l.Causes, Left: l.Left, Moves: Moves(l.Moves)}
}

// ProposedLegs are the legs of a proposed route.
func ProposedLegs(all []route.Leg) []api.ProposedLeg {
	return list(all, func(l route.Leg) api.ProposedLeg { return api.ProposedLeg{Why: l.Why, Moves: Moves(l.Moves)} })
}

// History is how many symptoms of each cause the runs left shown.
func History(all []store.HistoryPoint) []api.HistoryPoint {
	return list(all, func(p store.HistoryPoint) api.HistoryPoint { return api.HistoryPoint(p) })
}

// Events are what happened to an upgrade.
func Events(all []store.Event) []api.Event {
	return list(all, func(e store.Event) api.Event { return api.Event(e) })
}

// Found is what a text finds.
func Found(all []store.Found) []api.Found {
	return list(all, func(f store.Found) api.Found {
		return api.Found{Kind: api.FoundKind(f.Kind), Name: f.Name, About: f.About, Key: f.Key}
	})
}

// Debts are the debts of a project.
func Debts(all []store.Debt) []api.Debt { return list(all, Debt) }

// Debt is a debt.
func Debt(d store.Debt) api.Debt {
	return api.Debt{ID: d.ID, Upgrade: d.Upgrade, UpgradeName: d.UpgradeName, Cause: d.Cause, Kind: d.Kind, Text: d.Text, Due: d.Due, File: d.File, Code: d.Code,
		Author: d.Author, At: d.At, Settled: d.Settled, How: d.How, IsDue: d.IsDue, Why: d.Why}
}

// DueDebts are those debts that are due.
func DueDebts(all []store.Debt) []api.Debt {
	due := []api.Debt{}
	for _, d := range all {
		if d.IsDue {
			due = append(due, Debt(d))
		}
	}
	return due
}

// DebtDetail is a debt with where it lives.
func DebtDetail(d store.DebtDetail) api.DebtDetail {
	return api.DebtDetail{Debt: Debt(d.Debt), File: d.File, Line: d.Line, Patch: d.Patch}
}

// FoundDebts are debts that stand in code and in no list.
func FoundDebts(all []store.FoundDebt) []api.FoundDebt {
	return list(all, func(f store.FoundDebt) api.FoundDebt {
		return api.FoundDebt{Key: f.Key, File: f.File, Line: f.Line, Code: f.Code, Kind: f.Kind, What: f.What}
	})
}

// NewDebt is a debt as a caller gives it.
func NewDebt(n api.NewDebt) store.NewDebt {
	return store.NewDebt{Kind: string(n.Kind), Text: n.Text, Due: n.Due, Cause: n.Cause, File: n.File, Code: n.Code, Author: n.Author}
}
