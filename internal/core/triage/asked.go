package triage

import (
	"fmt"

	"unicausa/internal/core/notes"
	"unicausa/internal/core/versions"
)

// Asked is what the changes within what moved say of versions: the packages
// that go by another name, and the versions that are asked for, each by the
// place in the notes.
func Asked(changes []notes.Change, moves []versions.Move) (renames []versions.Pair, needs []versions.Need) {
	for i := range changes {
		c := &changes[i]
		if !Candidate(c, moves) {
			continue
		}
		for _, r := range c.Renames {
			renames = append(renames, versions.Pair{From: r.From, To: r.To})
		}
		for _, m := range c.Requires {
			needs = append(needs, versions.Need{Package: fmt.Sprintf("%s:%d", c.Notes, c.Line), Name: m.Name, Range: m.Range()})
		}
	}
	return renames, needs
}
