package link

import (
	"math"
	"regexp"
	"slices"
	"sort"
	"strconv"
	"strings"

	"unicausa/internal/core/guard"
	"unicausa/internal/core/notes"
	"unicausa/internal/core/source"
	"unicausa/internal/core/symptom"
	"unicausa/internal/core/versions"
)

// The features by which a change is judged. Each is 0 where it does not apply
// and of the order of 1 where it does.
const (
	named      = iota // a name that is missing, not resolved or refused stands in the change, as old
	called            // the call that no longer fits, or the function that threw
	concerned         // the name that the cause is most likely about
	nearby            // other names on its lines and in the functions of its tests
	seconded          // a second name of the cause
	newSide           // a missing name is the new side of the change
	inTitle           // the best name stands in the change's first sentence
	inText            // the best name stands in its words, unmarked
	hinted            // the words that the best name is made of stand in it
	worded            // words in common, against the change that shares most (BM25)
	enough            // words in common, by themselves
	covered           // the share of its first sentence's words that the cause has
	said              // the share of the message's words that it has
	phrased           // words that follow one another in the message do so in it
	breaking          // it is said to break: by a mark, its heading or its document
	majored           // it came with a version that may break
	patched           // it came with a version that repairs
	tested            // words of the failed tests' names in common
	fits              // the kind of change breaks code in this way
	misfits           // it breaks code in another way
	shown             // its old code is like the source line
	ours              // it is in the notes of the package
	others            // it is in the notes of another package
	harmless          // it describes a fix, an addition, of speed or of documentation
	repaired          // and it is a program that runs otherwise, which a repair explains as well
	harmlessly        // and something is missing, which such a change does not explain
	nameless          // something is missing, and it does not name it
	foreign           // the name it has is owned by another type
	gone              // the missing name is the old one of its pairs
	differing         // it tells of what the expected and the actual values differ in
	exampled          // what it shows as code is how the cause's texts are written
	swept             // it takes away all that was deprecated, and the broken name was
	outdone           // another change names the missing symbol more clearly
	features          // their number
)

// words say the features in the evidence.
var words = [features]string{
	"names the missing symbol", "names the call that no longer fits", "names the symbol concerned", "names a symbol nearby", "names a second symbol of it", "gives it as the new name", "begins with the name",
	"mentions the name", "uses the words of the name", "shares the words", "shares many words", "opens with words like", "uses the message's words", "uses the message's phrases", "is marked as breaking", "came with a major version", "came with a patch", "shares words with the test", "changes of this kind break code like this", "changes of this kind break code in other ways",
	"shows the old code as", "notes of the package", "notes of another package", "describes a fix or an addition", "is a change of behaviour", "removes no name", "does not name what is missing", "is about another type", "renames it to", "describes what differs", "shows how it is written", "removes what was warned of before", "another entry names it more clearly",
}

// Candidate is a change with what speaks for it and against it.
type Candidate struct {
	Change   *notes.Change
	Features [features]float64
	values   [features]string
	strong   bool
	index    int
}

func (c *Candidate) set(feature int, weight float64, value string) {
	if math.Abs(weight) > math.Abs(c.Features[feature]) {
		c.Features[feature], c.values[feature] = weight, value
	}
}

// compare marks the changes that have the broken name less clearly than another.
func compare(list []Candidate) {
	clear := func(c *Candidate) float64 {
		return math.Min(1, math.Max(c.Features[named], c.Features[called])) + c.Features[gone]
	}
	most := 0.0
	for i := range list {
		most = math.Max(most, clear(&list[i]))
	}
	for i := range list {
		if behind := most - clear(&list[i]); behind > 0.2 {
			list[i].set(outdone, behind, "")
		}
	}
}

// judge fills in the features of one change.
func (x *Index) judge(q *query, i int, score, best float64) Candidate {
	change := x.changes[i]
	defer guard.Name(func() []string { return []string{change.Notes} })
	c := Candidate{Change: change}
	x.weighNames(q, i, &c)
	x.weighScope(q, i, &c)
	if name := q.cause.Warned(); name != "" && sweeps.MatchString(change.Title) {
		c.set(swept, 1, name)
	}
	if name := q.cause.Misses(); name != "" && c.Features[named] == 0 && c.Features[concerned] == 0 && c.Features[inText] == 0 && c.Features[swept] == 0 {
		c.set(nameless, 1, name)
	}
	if best > 0 && score > 0 {
		c.set(worded, score/best*math.Min(1, score/8), "")
		c.set(enough, math.Min(1, score/20), "")
	}
	share, value := x.covered(q.words, i)
	c.set(covered, share, value)
	c.set(said, x.overlap(q.said, i)*x.several(q.said, i), "")
	share, value = x.phrased(q.phrases, i)
	c.set(phrased, share, value)
	switch x.releases[i] {
	case "major":
		c.set(majored, 1, change.Version)
	case "patch":
		c.set(patched, 1, change.Version)
	}
	if x.breaking[i] {
		c.set(breaking, 1, "")
	}
	c.set(tested, x.overlap(q.tests, i)*x.several(q.tests, i), strings.Join(q.testWords, ", "))
	weight, words := x.told(q.differs, i)
	c.set(differing, weight, words)
	for _, pair := range q.values {
		if holds(change.Text, pair[0]) && holds(change.Text, pair[1]) || holdsBoth(change.Text, pair) {
			c.set(differing, 1.5, strings.Join(pair[:], ", "))
		}
	}
	for _, shape := range q.shapes {
		if slices.ContainsFunc(slices.Concat([]string{change.Text}, change.Before, change.After), func(s string) bool { return strings.Contains(s, shape) }) {
			c.set(differing, 1, shape)
		}
	}
	if example, weight := q.example(x, i); weight > 0 {
		c.set(exampled, weight, example)
	}
	q.kinds(change, &c)
	q.demands(change, &c)
	if line, share := q.shows(change.Before); share > 0.5 {
		c.set(shown, share, line)
	}
	switch known := q.pkg != "" && change.Package != ""; {
	case !known && x.single:
		c.set(ours, 0.7, change.Package)
	case known && q.ours(change.Package):
		c.set(ours, 1, change.Package)
	case known && q.told && !platforms[strings.ToLower(change.Package)]:
		c.set(others, 1, change.Package)
	}
	runs := q.cause.Root().Phase.Order() > symptom.PhaseCompile.Order()
	if (x.harmless[i] || x.typed[i] && runs) && !(change.Kind == notes.Added && q.rule(x.tokens[i])) { // a rule that is new finds what it finds
		c.set(harmless, 1, string(change.Kind))
		if q.cause.Misses() != "" || q.cause.Root().Phase == symptom.PhaseCompile {
			c.set(harmlessly, 1, "")
		} else if runs && !x.typed[i] {
			c.set(repaired, 1, "")
		}
	}
	return c
}

// told is how clearly a change tells of what values differ in: by the rarest of the words for
// it, and a part of each other one.
func (x *Index) told(differs map[string]bool, i int) (weight float64, words string) {
	var shared []string
	for w := range differs {
		if x.counts[i][w] > 0 {
			shared = append(shared, w)
		}
	}
	sort.Slice(shared, func(a, b int) bool {
		p, q := len(x.byWord[shared[a]]), len(x.byWord[shared[b]])
		return p < q || p == q && shared[a] < shared[b]
	})
	for n, w := range shared {
		share := rare(float64(len(x.byWord[w])))
		if n > 0 {
			share *= besides
		}
		weight += share
		shared[n] = x.spelt[w]
	}
	return math.Min(weight, mostTold), strings.Join(shared[:min(len(shared), 4)], ", ")
}

// How much each further word for a difference adds, and all of them at most.
const (
	besides  = 0.3
	mostTold = 1.5
)

// sweeps are entries that take away all that was deprecated, without names.
var sweeps = regexp.MustCompile(`(?i)\b(?:remov|delet|drop|expire)\w*\b.{0,60}\bdeprecat.{0,60}|\bdeprecat\w*\b.{0,60}\b(?:methods|functions|classes|api|apis|members|code|features|options|constructors|aliases|overloads)\b.{0,60}\b(?:remov|delet|drop)`)

// releases is what the version of each change may do, after Semantic Versioning 2.0.0: a
// major one breaks, as one of 0.x does, a patch repairs, and the others add. The first of a
// package's versions that share two numbers is no patch, whatever its third, where older
// ones are there that share two others.
func releases(changes []*notes.Change) []string {
	first := map[string]int{}     // third number of the first version of a series
	oldest := map[string]string{} // first version of a package
	series := func(c *notes.Change, m []string) string { return c.Package + "\x00" + m[1] + "." + m[2] }
	for _, c := range changes {
		if m := semantic.FindStringSubmatch(c.Version); m != nil && m[3] != "" {
			n, _ := strconv.Atoi(m[3])
			if least, ok := first[series(c, m)]; !ok || n < least {
				first[series(c, m)] = n
			}
			if o, ok := oldest[c.Package]; !ok || versions.Order(c.Version, o) < 0 {
				oldest[c.Package] = c.Version
			}
		}
	}
	for p, v := range oldest {
		if m := semantic.FindStringSubmatch(v); m != nil {
			delete(first, p+"\x00"+m[1]+"."+m[2])
		}
	}
	list := make([]string, len(changes))
	for i, c := range changes {
		m := semantic.FindStringSubmatch(c.Version)
		switch {
		case m == nil:
		case m[3] != "" && m[3] != strconv.Itoa(first[series(c, m)]):
			list[i] = "patch"
		case m[1] == "0" || m[2] == "0":
			list[i] = "major"
		default:
			list[i] = "minor"
		}
	}
	return list
}

var semantic = regexp.MustCompile(`^v?(\d+)\.(\d+)(?:\.(\d+))?(?:\D|$)`)

// holds reports whether a number stands in a text by itself.
func holds(text, number string) bool {
	number = strings.TrimLeft(number, "\"'`<([ ")
	for from := 0; ; {
		i := strings.Index(text[from:], number)
		if i < 0 {
			return false
		}
		from += i + len(number)
		inside := func(b byte) bool { return b >= '0' && b <= '9' }
		if (from == len(number) || !inside(text[from-len(number)-1])) && (from == len(text) || !inside(text[from])) {
			return true
		}
	}
}

// ours reports whether a change is of the cause's package.
func (q *query) ours(of string) bool {
	same, known := q.families[of]
	if !known {
		same = source.SameFamily(q.pkg, of)
		q.families[of] = same
	}
	return same
}

// platforms are what programs stand on. Packages of theirs go by names of their
// own, so that their notes are never those of another package.
var platforms = func() map[string]bool {
	set := map[string]bool{}
	for _, name := range strings.Fields("jdk java openjdk kotlin scala groovy clang gcc llvm go golang node node.js nodejs deno bun python cpython pypy ruby jruby php rust rustc typescript dotnet .net swift elixir erlang otp perl lua r d ghc haskell ocaml zig nim") {
		set[name] = true
	}
	return set
}()

// families say which kinds of change break code in which way, likeliest first.
var families = map[string][]notes.Kind{
	"removed":     {notes.Removed, notes.Renamed, notes.Moved, notes.Deprecated},
	"deprecated":  {notes.Deprecated, notes.Renamed, notes.Removed},
	"unresolved":  {notes.Moved, notes.Removed, notes.Renamed, notes.Requirement},
	"signature":   {notes.Signature, notes.Behaviour, notes.Renamed},
	"option":      {notes.Removed, notes.Renamed, notes.Default, notes.Requirement, notes.Signature},
	"behaviour":   {notes.Behaviour, notes.Default, notes.Signature},
	"requirement": {notes.Requirement, notes.Moved, notes.Removed},
}

// demands tells a change that asks for a version of what the cause's messages
// name: a runtime or a package that does not fit.
func (q *query) demands(change *notes.Change, c *Candidate) {
	phase := q.cause.Root().Phase
	if len(change.Requires) == 0 || phase != symptom.PhaseResolve && phase != symptom.PhaseConfigure && phase != symptom.PhaseStart {
		return
	}
	message := strings.ToLower(q.cause.Root().Message + " " + q.cause.Root().Detail)
	for _, need := range change.Requires {
		if need.Name != "" && nameSet(message)[strings.ToLower(need.Name)] {
			c.set(named, 0.9, need.Name+" "+need.Range())
		}
	}
}

// kinds weighs the way the code is broken against what the change did.
func (q *query) kinds(change *notes.Change, c *Candidate) {
	way := q.cause.Kind()
	if kind := q.cause.Root().Kind; (kind == symptom.TestFailure || kind == symptom.Crash) && q.cause.Misses() == "" && way != "option" {
		way = "behaviour"
	}
	if phase := q.cause.Root().Phase; phase == symptom.PhaseResolve && way == "other" || phase == symptom.PhaseConfigure && way == "other" {
		way = "requirement"
	}
	fitting, known := families[way]
	if !known {
		return
	}
	for n, kind := range fitting {
		if kind == change.Kind {
			c.set(fits, 1-0.2*float64(n), string(kind))
			return
		}
	}
	c.set(misfits, 1, string(change.Kind))
}

// shows finds the line of old code in a change that is most like a source
// line: the share of names that both have (Jaccard).
func (q *query) shows(before []string) (string, float64) {
	best, at := 0.0, ""
	for _, b := range before {
		old := nameSet(b)
		if len(old) == 0 {
			continue
		}
		if q.lineNames == nil {
			for _, line := range q.lines {
				q.lineNames = append(q.lineNames, nameSet(line))
			}
		}
		for _, now := range q.lineNames {
			shared := 0
			for name := range old {
				if now[name] {
					shared++
				}
			}
			if len(old) == 1 && len(now) > 2 {
				continue
			}
			if union := len(old) + len(now) - shared; union > 0 && float64(shared)/float64(union) > best {
				best, at = float64(shared)/float64(union), b
			}
		}
	}
	return at, best
}

func nameSet(line string) map[string]bool {
	set := map[string]bool{}
	for _, n := range source.Names(line) {
		set[n.Text] = true
	}
	return set
}
