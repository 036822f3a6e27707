package triage

import (
	"unicausa/internal/core/compare"
	"unicausa/internal/core/read"
	"unicausa/internal/core/source"
	"unicausa/internal/core/symptom"
)

// Snapshot is what checks printed on one state of the source. Tree may be nil:
// then nothing is known but what the tools said.
type Snapshot struct {
	Results []read.Result
	Tree    *source.Tree
}

// sameTree reports whether one tree was given for both sides.
func sameTree(c Case) bool {
	for _, b := range c.Before {
		for _, a := range c.After {
			if a.Tree == b.Tree {
				return true
			}
		}
	}
	return false
}

// merged folds the symptoms of a side, and gives each one's source tree. The
// newest snapshot that has a symptom says where it stands.
func merged(side []Snapshot) ([]symptom.Symptom, map[string]*source.Tree) {
	var list []symptom.Symptom
	at, trees := map[string]int{}, map[string]*source.Tree{}
	for n := len(side) - 1; n >= 0; n-- {
		for _, s := range symptom.Merge(placed(side[n])) {
			if i, ok := at[s.ID]; ok {
				list[i].At = append(list[i].At, s.At...)
				list[i].Count += s.Count
				list[i].AddFrames(s.Frames)
				continue
			}
			at[s.ID], trees[s.ID] = len(list), side[n].Tree
			list = append(list, s)
		}
	}
	return list, trees
}

// placed takes the symptoms of a snapshot, with their files as its tree names them.
func placed(snapshot Snapshot) []symptom.Symptom {
	n := 0
	for _, r := range snapshot.Results {
		n += len(r.Symptoms)
	}
	list := make([]symptom.Symptom, 0, n)
	for _, r := range snapshot.Results {
		for _, s := range r.Symptoms {
			place(&s, snapshot.Tree)
			list = append(list, s)
		}
	}
	return list
}

func results(side []Snapshot) []read.Result {
	var list []read.Result
	for _, s := range side {
		list = append(list, s.Results...)
	}
	return list
}

func place(s *symptom.Symptom, tree *source.Tree) {
	if name, exact := tree.Find(s.File, s.Unit); name != "" {
		s.File = name
		if !exact {
			s.Line, s.Column = 0, 0
		}
	}
	frames := append([]symptom.Frame(nil), s.Frames...)
	for i, f := range frames {
		if !f.Own {
			continue
		}
		name, exact := tree.Find(f.File, s.Unit)
		switch {
		case name == "":
			frames[i].Own = tree == nil
		case exact:
			frames[i].File = name
		default:
			frames[i].File, frames[i].Line = name, 0
		}
	}
	s.Frames = frames
	if name, _ := tree.Find(s.File, s.Unit); name == "" { // the tree knows better what is the project's own
		for _, f := range frames {
			if f.Own && tree != nil {
				s.File, s.Line, s.Column = f.File, f.Line, 0
				break
			}
		}
	}
}

// lost makes symptoms of the tests that the after side lost.
func lost(c Case) []symptom.Symptom {
	var before, after []symptom.Test
	var blocked []string
	for _, r := range results(c.Before) {
		before = append(before, r.Tests...)
	}
	if len(before) == 0 {
		return nil
	}
	suites := map[string]bool{}
	for _, r := range results(c.After) {
		after = append(after, r.Tests...)
		blocked = append(blocked, r.Reach.Blocked...)
		named := compare.CountOf([]read.Result{r}).Telling == compare.Named
		for _, t := range r.Tests {
			suites[t.Suite] = suites[t.Suite] || named
		}
	}
	var list []symptom.Symptom
	for _, l := range compare.LostTests(before, after, blocked, compare.Named) {
		if suites[l.Test.Suite] || l.Skipped { // else the suite was not run on this side, or passing tests are not named
			list = append(list, l.Symptom())
		}
	}
	return symptom.Merge(list)
}

// latestTree is the source that the newest runs were made on, or nil.
func latestTree(c Case) *source.Tree {
	if n := len(c.After); n > 0 {
		return c.After[n-1].Tree
	}
	return nil
}
