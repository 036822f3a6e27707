// Package route proposes the legs of an upgrade: which versions to stop at on
// the way, and why.
package route

import (
	"fmt"
	"sort"
	"strings"

	"github.com/Masterminds/semver/v3"

	"unicausa/internal/core/notes"
	"unicausa/internal/core/versions"
)

// Leg is a proposed step with the reason for it.
type Leg struct {
	Moves []versions.Move `json:"moves"`
	Why   string          `json:"why"`
}

// Propose splits moves into legs by the versions that their notes tell of: to
// the last release of the line that is left, where its warnings can be cleared,
// then to the last release of each major line, then to the end. Warned is how
// many deprecations the baseline shows. A move that crosses no major version,
// and one whose notes tell of no release before it, stays one leg.
func Propose(moves []versions.Move, changes []notes.Change, warned int) []Leg {
	var legs []Leg
	straight := true
	for _, m := range moves {
		straight = straight && len(stopsOf(m, changes)) == 1
	}
	if straight {
		return []Leg{{Moves: moves, Why: "one step: the notes tell of no release to stop at on the way"}}
	}
	for _, m := range moves {
		stops := stopsOf(m, changes)
		from := m.From
		for n, stop := range stops {
			leg := Leg{Moves: []versions.Move{{Package: m.Package, From: from, To: stop}}}
			switch {
			case len(stops) == 1:
				leg.Why = "one step: the notes tell of no release to stop at on the way"
			case n == 0 && major(stop) == major(m.From):
				leg.Why = "the last release of the line that is left: what it warns of is what the next one takes away"
				if warned > 0 {
					leg.Why += fmt.Sprintf("; the baseline shows %s already", counted(warned, "deprecation"))
				}
			case n == len(stops)-1:
				leg.Why = fmt.Sprintf("to the end: %s", brought(m.Package, from, stop, changes))
			default:
				leg.Why = fmt.Sprintf("the last release of line %s: %s", major(stop), brought(m.Package, from, stop, changes))
			}
			legs = append(legs, leg)
			from = stop
		}
	}
	return legs
}

// stopsOf lists the versions that a move stops at, its end last.
func stopsOf(m versions.Move, changes []notes.Change) []string {
	last := map[string]string{} // major line to its last release on the way
	for i := range changes {
		c := &changes[i]
		v := c.Version
		if m.Package != "" && c.Package != "" && c.Package != m.Package || release(v) == nil || versions.Order(v, m.From) <= 0 || versions.Order(v, m.To) >= 0 {
			continue
		}
		if line := major(v); line != major(m.To) && (last[line] == "" || versions.Order(v, last[line]) > 0) {
			last[line] = v
		}
	}
	stops := []string{}
	for _, v := range last {
		stops = append(stops, v)
	}
	sort.Slice(stops, func(i, j int) bool { return versions.Order(stops[i], stops[j]) < 0 })
	return append(stops, m.To)
}

// release is a version that is a whole release, else nil: notes head sections
// with "5" for a line and mention pre-releases that nobody stops at.
func release(v string) *semver.Version {
	parsed, err := semver.NewVersion(strings.TrimPrefix(v, "v"))
	if err != nil || parsed.Prerelease() != "" || !strings.Contains(v, ".") {
		return nil
	}
	return parsed
}

// major is the number of a version's major line; before 1.0 the minor counts.
func major(v string) string {
	parsed, err := semver.NewVersion(strings.TrimPrefix(v, "v"))
	switch {
	case err != nil:
		return v
	case parsed.Major() == 0:
		return fmt.Sprintf("0.%d", parsed.Minor())
	}
	return fmt.Sprint(parsed.Major())
}

// brought counts what the notes tell of the versions between two.
func brought(pkg, from, to string, changes []notes.Change) string {
	n := 0
	for i := range changes {
		c := &changes[i]
		if (pkg == "" || c.Package == "" || c.Package == pkg) && c.Kind != notes.Added && c.Kind != notes.Fixed && notes.Within(c.Version, from, to) {
			n++
		}
	}
	return counted(n, "change") + " to look at"
}

func counted(n int, word string) string {
	if n == 1 {
		return "1 " + word
	}
	return fmt.Sprintf("%d %ss", n, word)
}
