package versions

import (
	"regexp"
	"slices"
	"strings"
)

// Offered is a move that a project seems to be about, and what says so.
type Offered struct {
	Package, From, To string
	Said              string // a file's name, or "the outputs"
}

// saidByOutputs is what says a move that tools' outputs tell.
const saidByOutputs = "the outputs"

// Offer lists what seems to be meant to move between two states of a project, and between
// the versions that its tools said on either side: what a manifest names and what only
// outputs tell, the greatest step first. Versions that come along unasked are not offered,
// unless nothing else moves.
func Offer(before, after State, saidBefore, saidAfter map[string]string) []Offered {
	var direct, rest []Offered
	told := map[string]bool{}
	for _, m := range Compare(before, after, Context{}).Moves {
		if m.Change != Moved || strings.Contains(m.From+m.To, ",") {
			continue
		}
		o := Offered{Package: m.Name, From: m.From, To: m.To, Said: fileOf(after, m.Name)}
		told[m.Name] = true
		if m.Direct {
			direct = append(direct, o)
		} else {
			rest = append(rest, o)
		}
	}
	for _, w := range after.Wishes {
		was := wished(before, w)
		from, to := lowest(was), lowest(w.Range)
		if !told[w.Name] && from != "" && to != "" && Order(from, to) < 0 {
			told[w.Name] = true
			direct = append(direct, Offered{Package: w.Name, From: from, To: to, Said: w.File})
		}
	}
	for name, to := range after.Runtimes {
		if from := before.Runtimes[name]; !told[name] && lowest(from) != "" && Order(lowest(from), lowest(to)) < 0 {
			told[name] = true
			direct = append(direct, Offered{Package: name, From: lowest(from), To: lowest(to), Said: manifestOf(after)})
		}
	}
	for name, to := range saidAfter {
		if from := saidBefore[name]; !told[name] && from != "" && Order(from, to) < 0 {
			direct = append(direct, Offered{Package: name, From: from, To: to, Said: saidByOutputs})
		}
	}
	if len(direct) == 0 {
		direct = rest
	}
	slices.SortFunc(direct, func(a, b Offered) int {
		if d := step(a) - step(b); d != 0 {
			return d
		}
		return strings.Compare(a.Package, b.Package)
	})
	return direct
}

// step is how great a step a move is: 0 where the first number of the version changes, 1
// where the second does (or the first that is not 0), 2 for less.
func step(o Offered) int {
	from, to := strings.Split(o.From, "."), strings.Split(o.To, ".")
	for i := range min(len(from), len(to), 2) {
		if from[i] != to[i] {
			return i
		}
	}
	return 2
}

func fileOf(s State, name string) string {
	for _, p := range s.Packages {
		if p.Name == name {
			return p.File
		}
	}
	return ""
}

func manifestOf(s State) string {
	for _, f := range s.Files {
		if manifest, _ := Known(f); manifest {
			return f
		}
	}
	return ""
}

// wished is the range that a state's manifests ask for a package.
func wished(s State, w Wish) string {
	for _, o := range s.Wishes {
		if o.Ecosystem == w.Ecosystem && o.Name == w.Name && o.File == w.File {
			return o.Range
		}
	}
	return ""
}

var firstVersion = regexp.MustCompile(`\d+(\.\d+)*([-+][0-9A-Za-z.]+)?`)

// lowest is the version that a range begins with, "" where it names none.
func lowest(text string) string { return firstVersion.FindString(text) }
