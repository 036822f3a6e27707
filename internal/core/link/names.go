package link

import (
	"maps"
	"math"
	"regexp"
	"slices"
	"sort"
	"strings"

	"unicausa/internal/core/cluster"
	"unicausa/internal/core/notes"
)

// weighNames weighs the names that the cause and the change share: by what the
// fact says, the rarity of the name in the notes, the side it stands on and
// the owner it has.
func (x *Index) weighNames(q *query, i int, c *Candidate) {
	change := x.changes[i]
	type hit struct {
		name   string
		weight float64
	}
	var hits []hit
	for k, s := range change.Symbols {
		last := x.names[i][k]
		if q.otherArguments(change.Title, last) {
			continue
		}
		f, ok := q.facts[last]
		if !ok {
			f, ok = q.module(s.Name)
		}
		if slash := strings.LastIndexByte(last, '/'); !ok && slash > 0 {
			f, ok = q.facts[last[slash+1:]]
			ok = ok && f.What == cluster.FactRule
		}
		if prefix, all := strings.CutSuffix(s.Name, "*"); !ok && all {
			f, ok = q.begins(LastPart(prefix))
		}
		if !ok || x.kept[i][last] {
			continue
		}
		owner := sameOwner(s.Name, f)
		weight := f.Weight * math.Sqrt(s.Weight) * x.rarity(s.Name, last, owner > 1) * owner
		if ofAnother(change.Title, f) {
			weight *= anotherOwner
			owner = min(owner, anotherOwner)
		}
		if owner < 1 {
			c.set(foreign, 1, s.Name)
		}
		if s.Side == notes.NewOne {
			if x.oldToo(i, last) {
				continue
			}
			if f.What == cluster.FactMissing || f.What == cluster.FactModule {
				c.set(newSide, weight, s.Name)
				continue
			}
			weight *= replacement
		}
		feature := nearby
		switch f.What {
		case cluster.FactMissing, cluster.FactModule, cluster.FactOption, cluster.FactRule:
			if feature = named; f.What == cluster.FactMissing && keeps(change, s.Name) {
				feature = nearby
			}
		case cluster.FactCallee, cluster.FactFrame, cluster.FactInterface:
			feature = called
		case cluster.FactAbout, cluster.FactQuoted, cluster.FactShape:
			feature = concerned
		case cluster.FactFunction:
			weight *= math.Sqrt(q.share[last])
		}
		c.set(feature, weight, s.Name)
		if feature != nearby {
			hits = append(hits, hit{last, weight})
			c.strong = c.strong || s.Weight >= 0.5 && owner >= 1
		}
		if feature != nearby && strings.Contains(change.Title, last) {
			c.set(inTitle, 1, s.Name)
		}
	}
	if c.Features[named] >= 0.5 {
		c.Features[foreign] = 0
	}
	sort.Slice(hits, func(a, b int) bool { return hits[a].weight > hits[b].weight })
	for _, h := range hits {
		if h.name != hits[0].name {
			c.set(seconded, h.weight, h.name)
			break
		}
	}
	for _, r := range change.Renames {
		if f, ok := q.facts[LastPart(r.From)]; ok && f.Name != LastPart(r.To) && (f.What == cluster.FactMissing || f.What == cluster.FactModule || f.What == cluster.FactOption) {
			c.set(gone, math.Min(1, sameOwner(r.From, f)), r.To)
		}
	}
	mentioned := 0.0
	for _, n := range q.best {
		if x.tokens[i][n.name] && len(hits) == 0 && !x.kept[i][n.name] {
			mentioned += n.weight * x.rarityOf(n.name)
			c.set(inText, math.Min(1, mentioned), n.name)
		} else if len(hits) == 0 {
			c.set(inText, n.weight*x.spelledOut(n.name, i), n.name)
		}
		if len(n.words) > 0 {
			c.set(hinted, n.weight*x.overlap(n.words, i), n.name)
		}
	}
}

// spelledOut is how clearly a change tells a name of several parts in words that follow one
// another: maxBodySize as "max body size". It is between 0 and 1.
func (x *Index) spelledOut(name string, i int) float64 {
	parts := phrasesOf(name)
	if len(parts) < 2 { // two words may follow one another by chance
		return 0
	}
	among := len(x.changes)
	for _, p := range parts {
		if !x.phrases[i][p] {
			return 0
		}
		among = min(among, x.byPhrase[p])
	}
	return rare(float64(among))
}

// begins is the surest fact of a name that is made of what all of an entry's names begin
// with: safeOpen of safe*.
func (q *query) begins(prefix string) (best cluster.Fact, ok bool) {
	if len(prefix) < shortestPrefix {
		return best, false
	}
	for _, name := range slices.Sorted(maps.Keys(q.facts)) {
		rest, begins := strings.CutPrefix(name, prefix)
		if f := q.facts[name]; begins && rest != "" && !('a' <= rest[0] && rest[0] <= 'z') && f.Weight > best.Weight {
			best, ok = f, true
		}
	}
	return best, ok
}

// shortestPrefix is the length from which on a beginning tells of its names.
const shortestPrefix = 3

// weighScope weighs the part of the package that a change is about: where the cause
// asks it for a name, that word in the change is the name, and a change that takes
// away its functions takes the name away.
func (x *Index) weighScope(q *query, i int, c *Candidate) {
	change := x.changes[i]
	scope := strings.ToLower(change.Scope)
	if scope == "" || !q.owners[scope] && !q.parts[scope] {
		return
	}
	if q.owners[scope] {
		c.set(concerned, 0.5, change.Scope)
	}
	for _, name := range slices.Sorted(maps.Keys(q.facts)) {
		f := q.facts[name]
		if strings.ToLower(name) == scope {
			continue
		}
		feature := nearby
		switch f.What {
		case cluster.FactMissing, cluster.FactOption:
			feature = named
		case cluster.FactCallee, cluster.FactFrame:
			feature = called
		case cluster.FactAbout, cluster.FactQuoted:
			feature = concerned
		case cluster.FactFunction, cluster.FactLine:
		default:
			continue
		}
		switch {
		case slices.Contains(x.titles[i], stemWord(strings.ToLower(name))) && x.tokens[i][name]:
			same := 0
			for _, j := range x.byScope[scope] {
				if x.tokens[j][name] {
					same++
				}
			}
			c.set(feature, f.Weight*rare(float64(same)), change.Scope+" "+name)
		case (feature == named || feature == called) && q.owners[scope] && (change.Kind == notes.Removed || change.Kind == notes.Deprecated) && members.MatchString(change.Title):
			c.set(feature, 0.5*f.Weight, members.FindString(change.Title))
		}
	}
}

// members are the words of entries for all that a part of a package has.
var members = regexp.MustCompile(`(?i)\b(methods?|functions|members|properties|fields|helpers|apis?|aliases|constants|options|exports|providers)\b`)

// keeps reports whether a change that takes no names away shows a name in its
// new code as in its old: it is still there.
func keeps(change *notes.Change, name string) bool {
	switch change.Kind {
	case notes.Removed, notes.Renamed, notes.Moved, notes.Deprecated:
		return false
	}
	has := func(line string) bool { return strings.Contains(line, name) }
	return slices.ContainsFunc(change.Before, has) && slices.ContainsFunc(change.After, has)
}

// oldToo reports whether a change has a name on its old side as well: it moved,
// and kept its name.
func (x *Index) oldToo(i int, last string) bool {
	for k, s := range x.changes[i].Symbols {
		if s.Side != notes.NewOne && x.names[i][k] == last {
			return true
		}
	}
	return false
}

// What a name in the notes weighs, against one whose owner is not told on either side. Set by
// hand; the features that they go into have fitted weights.
const (
	sameQualifier = 1.4  // of the same owner
	anotherOwner  = 0.3  // of another, or with another number of arguments
	lostElsewhere = 0.15 // of another, where the name is missing
	replacement   = 0.6  // on the new side of the change
)

// sameOwner weighs the qualifier of a name in the notes against the owner in
// the code, and their numbers of arguments: mass.Mass is not steelyard.Mass,
// and open/1 not open/2.
func sameOwner(name string, f cluster.Fact) float64 {
	if n := arity.FindString(name); n != "" && f.Arity != "" && n[1:] != f.Arity {
		return anotherOwner // another function of the name
	}
	name = arity.ReplaceAllString(name, "")
	i := strings.LastIndexAny(name, ".#:")
	if i <= 0 || f.Owner == "" || strings.Contains(name, "/") || strings.Contains(f.Owner, "/") {
		return 1
	}
	qualifier, owner := LastPart(strings.TrimRight(name[:i], ".#:")), LastPart(f.Owner)
	switch {
	case owner == f.Name: // a constructor: what it is qualified by is its package
		return 1
	case strings.EqualFold(qualifier, owner):
		return sameQualifier
	case f.What == cluster.FactMissing:
		return lostElsewhere
	}
	return 1
}

// otherArguments reports whether a title has a name with arguments of other types
// than those that the cause's messages have for it: it is another function.
func (q *query) otherArguments(title, name string) bool {
	asked := q.arguments[name]
	if len(asked) == 0 {
		return false
	}
	_, rest, ok := strings.Cut(title, name+"(")
	told, _, closed := strings.Cut(rest, ")")
	return ok && closed && !asked[typesOf(told)]
}

// typesOf is a list of types in one spelling, without their qualifiers.
func typesOf(arguments string) string {
	list := strings.Split(arguments, ",")
	for i := range list {
		list[i] = LastPart(strings.TrimSpace(list[i]))
	}
	return strings.Join(list, ",")
}

// ofAnother reports whether an entry's title is the same name of another owner,
// whatever else the entry mentions.
func ofAnother(title string, f cluster.Fact) bool {
	name, _, _ := strings.Cut(title, " ")
	name, _, _ = strings.Cut(name, "(")
	return strings.ContainsAny(name, ".#:") && LastPart(name) == f.Name && f.What == cluster.FactMissing && sameOwner(name, f) < 1
}
