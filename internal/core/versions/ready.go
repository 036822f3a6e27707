package versions

import (
	"cmp"
	"slices"
	"strings"
)

// ReadyCheck is the name of the check whose runs hold what package managers say when they
// are asked what is newer.
const ReadyCheck = "ready"

// Readiness says whether a dependency accepts what moves.
type Readiness string

// The readiness of a dependency.
const (
	NotReady Readiness = "not-ready"
	Unknown  Readiness = "unknown" // it says nothing, or nothing that can be read
	Accepts  Readiness = "ready"
)

// Dependency is a package of the project beside what moves.
type Dependency struct {
	Name      string
	Ecosystem string
	Has       string // the version that is there, "" for none
	Newest    string // the newest that was seen, "" where nobody was asked
	Of        string // what moves and it states a range for, "" for nothing
	Wants     string // of that, as a range
	State     Readiness
	By        []Need // who keeps it at the version that it has
}

// Ready tells who accepts the versions that a leg moves to: from the ranges that the lock
// file has of peers, dependencies and runtimes, and from what package managers said. Those
// that are not ready come first. A dependency that is named in a manifest and has no word on
// what moves is unknown.
func Ready(s State, intents []Move, said Listing) []Dependency {
	newest := map[string]string{}
	for _, l := range said.Listed {
		newest[l.Name] = l.Newest
	}
	list := []Dependency{}
	seen := map[string]bool{}
	add := func(d Dependency) {
		d.Newest = newest[d.Name]
		if d.State == NotReady {
			d.By = holders(s, d.Name, d.Newest)
		}
		if key := d.Name + " " + d.Has + " " + d.Of; !seen[key] {
			seen[key] = true
			seen[d.Name] = true
			list = append(list, d)
		}
	}
	for _, in := range intents {
		for _, p := range s.Packages {
			if r, wants := wordOn(p, in.Package); wants && key(p.Ecosystem, p.Name) != key(p.Ecosystem, in.Package) {
				add(Dependency{Name: p.Name, Ecosystem: p.Ecosystem, Has: p.Version, Of: in.Package, Wants: r, State: readiness(in.To, r)})
			}
		}
		for _, n := range said.Refusals {
			if key("", n.Name) == key("", in.Package) {
				name, has := cutVersion(n.Package)
				add(Dependency{Name: name, Has: has, Of: in.Package, Wants: n.Range, State: readiness(in.To, n.Range)})
			}
		}
	}
	moved := func(name string) bool {
		return slices.ContainsFunc(intents, func(in Move) bool { return key("", in.Package) == key("", name) })
	}
	for _, w := range s.Wishes {
		for _, p := range s.Packages {
			if p.Name == w.Name && p.Ecosystem == w.Ecosystem && !seen[p.Name] && !moved(p.Name) {
				add(Dependency{Name: p.Name, Ecosystem: p.Ecosystem, Has: p.Version, State: Unknown})
			}
		}
	}
	for _, l := range said.Listed {
		if !seen[l.Name] && !moved(l.Name) {
			add(Dependency{Name: l.Name, Has: l.Has, State: Unknown})
		}
	}
	order := []Readiness{NotReady, Unknown, Accepts}
	slices.SortStableFunc(list, func(a, b Dependency) int {
		said := func(d Dependency) int { return min(len(d.Of), 1) }
		return cmp.Or(slices.Index(order, a.State)-slices.Index(order, b.State), said(b)-said(a), cmp.Compare(a.Name, b.Name))
	})
	return list
}

// wordOn is the range of what moves that a package wants, as a peer, a dependency or a
// runtime.
func wordOn(p Package, name string) (r string, wants bool) {
	for _, wanted := range []map[string]string{p.Peers, p.Wants, p.Engines} {
		for other, r := range wanted {
			if key(p.Ecosystem, other) == key(p.Ecosystem, name) {
				return r, true
			}
		}
	}
	return "", false
}

func readiness(to, r string) Readiness {
	switch met, known := Meets(to, r); {
	case !known:
		return Unknown
	case met:
		return Accepts
	}
	return NotReady
}

// holders are who keeps a package from its newest version: packages and manifests whose
// range does not take that in.
func holders(s State, name, newest string) []Need {
	by := []Need{}
	if newest == "" {
		return by
	}
	for _, p := range s.Packages {
		for kind, wanted := range map[string]map[string]string{"dependency": p.Wants, "peer": p.Peers} {
			if r, wants := wanted[name]; wants {
				if met, known := Meets(newest, r); known && !met {
					by = append(by, Need{Package: p.Name + " " + p.Version, Name: name, Range: r, Have: newest, Kind: kind})
				}
			}
		}
	}
	for _, w := range s.Wishes {
		if w.Name == name {
			if met, known := meetsWish(newest, w); known && !met {
				by = append(by, Need{Package: w.File, Name: name, Range: w.Range, Have: newest, Kind: "manifest"})
			}
		}
	}
	slices.SortFunc(by, func(a, b Need) int { return cmp.Or(cmp.Compare(a.Package, b.Package), cmp.Compare(a.Kind, b.Kind)) })
	return by
}

// cutVersion cuts "lid 2.1.0" into name and version.
func cutVersion(text string) (name, version string) {
	name, version, _ = strings.Cut(text, " ")
	return name, clean(version)
}
