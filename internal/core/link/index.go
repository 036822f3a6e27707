// Package link finds the change of the release notes that explains a cause.
// Every point of a score has a reason that can be shown; where the reasons are
// thin there is no link.
package link

import (
	"cmp"
	"maps"
	"math"
	"path"
	"regexp"
	"slices"
	"sort"
	"strings"

	"unicausa/internal/core/notes"
)

// Index holds the changes of an upgrade for searching.
type Index struct {
	changes  []*notes.Change
	byName   map[string][]int     // last part of a symbol to the changes that have it
	byOwner  map[string]int       // a symbol behind its qualifier to how many changes have it so
	byScope  map[string][]int     // the part of a package that a commit names, in small letters
	byToken  map[string][]int     // word of a change's text, as it is spelt
	byWord   map[string][]int     // stem of a word
	weighed  map[string][]float64 // and what it says there (BM25), before its rarity
	names    [][]string           // last parts of each change's symbols, in their order
	tokens   []map[string]bool
	spelt    map[string]string // stem to the shortest word that has it
	counts   []map[string]int
	breaking []bool
	releases []string // what the version of each change may do
	phrases  []map[phrase]bool
	byPhrase map[phrase]int // to how many changes have it
	titles   [][]string     // stems of each change's first sentence, each once
	lengths  []float64
	mean     float64
	single   bool // all changes are of one package
	harmless []bool
	typed    []bool            // about type definitions, which are gone once a program runs
	kept     []map[string]bool // names of which a change says that they are as before
	ways     [][][]written     // the forms of each change's examples
	byForm   map[written][]int // the changes that have it
}

// NewIndex indexes changes. It keeps pointers into the slice.
func NewIndex(changes []notes.Change) *Index {
	x := &Index{byName: map[string][]int{}, byOwner: map[string]int{}, byScope: map[string][]int{}, byToken: map[string][]int{}, byWord: map[string][]int{}, spelt: map[string]string{}, byPhrase: map[phrase]int{}, byForm: map[written][]int{}}
	for i := range changes {
		c := &changes[i]
		if c.Minor {
			continue // it explains nothing
		}
		n := len(x.changes)
		x.single = n == 0 || x.single && c.Package == x.changes[0].Package
		x.changes = append(x.changes, c)
		if c.Scope != "" {
			x.byScope[strings.ToLower(c.Scope)] = append(x.byScope[strings.ToLower(c.Scope)], n)
		}
		seen := map[string]bool{}
		names := make([]string, len(c.Symbols))
		for k, s := range c.Symbols {
			names[k] = LastPart(s.Name)
			if name := names[k]; !seen[name] {
				seen[name] = true
				x.byName[name] = append(x.byName[name], n)
			}
			if name := qualified(s.Name); name != "" && !seen[name] {
				seen[name] = true
				x.byOwner[name]++
			}
		}
		x.names = append(x.names, names)
		tokens, count, total := map[string]bool{}, map[string]int{}, 0
		for _, text := range append(append([]string{c.Text}, c.Before...), c.After...) {
			for from, end := range eachWord(text) {
				t := text[from:end]
				if qualifies(text[end:]) {
					x.spell(t)
				} else if !tokens[t] {
					tokens[t] = true
					x.spell(t)
					x.byToken[t] = append(x.byToken[t], n)
				}
			}
		}
		for _, t := range Joined(c.Text) {
			if !tokens[t] {
				tokens[t] = true
				x.byToken[t] = append(x.byToken[t], n)
			}
		}
		for _, text := range c.Context {
			for from, end := range eachWord(text) {
				x.spell(text[from:end])
			}
		}
		for _, text := range append(append(append([]string{c.Text}, c.Context...), c.Before...), c.After...) {
			for _, w := range wordsOf(text) {
				count[w]++
				total++
			}
		}
		said := map[phrase]bool{}
		for _, p := range phrasesOf(c.Text) {
			if !said[p] {
				said[p] = true
				x.byPhrase[p]++
			}
		}
		x.breaking = append(x.breaking, c.Breaking || slices.ContainsFunc(append([]string{path.Base(c.Notes)}, c.Context...), breakingWords.MatchString))
		x.phrases = append(x.phrases, said)
		for w := range count {
			x.byWord[w] = append(x.byWord[w], n)
		}
		x.tokens = append(x.tokens, tokens)
		x.counts = append(x.counts, count)
		title := wordsOf(c.Title)
		sort.Strings(title)
		x.titles = append(x.titles, slices.Compact(title))
		x.lengths = append(x.lengths, float64(total))
		x.mean += float64(total)
		kept := map[string]bool{}
		for _, m := range asBefore.FindAllStringSubmatch(c.Text, -1) {
			kept[LastPart(m[1])] = true
		}
		x.kept = append(x.kept, kept)
		forms := map[written]bool{}
		var each [][]written
		for _, example := range c.Examples {
			list := ways(example)
			for _, w := range list {
				if again := slices.ContainsFunc(x.byForm[w], func(i int) bool { return x.changes[i].Title == c.Title }); !again && !forms[w] {
					forms[w] = true
					x.byForm[w] = append(x.byForm[w], n)
				}
			}
			each = append(each, list)
		}
		x.ways = append(x.ways, each)
		x.harmless = append(x.harmless, c.Kind == notes.Added || c.Kind == notes.Fixed || c.Kind == notes.Behaviour && (!strings.Contains(c.Text, "no longer") && breaksNothing.MatchString(c.Text) || chore.MatchString(c.Title)))
		x.typed = append(x.typed, aboutTypes.MatchString(c.Title))
	}
	if len(x.changes) > 0 {
		x.mean /= float64(len(x.changes))
	}
	x.weighWords()
	x.releases = releases(x.changes)
	return x
}

// Joined lists the names of words joined by dashes in a text, as rules, flags and
// style properties are spelt: no-lid, --lid-open.
func Joined(text string) []string {
	if strings.IndexByte(text, '-') < 0 {
		return nil
	}
	return joined.FindAllString(text, -1)
}

var joined = regexp.MustCompile(`-{0,2}[A-Za-z][A-Za-z0-9]*(?:-[A-Za-z0-9]+)+`)

// qualifies tells by what follows a word that it only says whose the next one
// is: App in App.Author.
func qualifies(rest string) bool {
	mark := len(rest) - len(strings.TrimLeft(rest, ".#:"))
	return mark > 0 && len(rest) > mark && wordStart(rest[mark])
}

func wordStart(b byte) bool { return b == '_' || b|0x20 >= 'a' && b|0x20 <= 'z' }

// breakingWords are those of headings and documents about what breaks.
var breakingWords = regexp.MustCompile(`(?i)breaking|incompatib|migrat|upgrad|removals?\b|removed`)

// aboutTypes are the words of entries about type definitions.
var aboutTypes = regexp.MustCompile(`(?i)\btypings?\b|\btype (definitions?|declarations?|hints?|annotations?|stubs?)\b|\.d\.ts\b`)

// breaksNothing are the words of entries about speed, documentation and tests.
var breaksNothing = regexp.MustCompile(`(?i)\b(faster|sped up|speed(ed)? up|performance|optimi[sz]\w+|documented|documentation|typos?|test coverage|covered by (unit )?tests|refactor\w*|clean(ed)? up|internal(ly)?)\b`)

// chore is the type of a commit that is about the package's own house, in the
// spelling of Conventional Commits 1.0.0 or with a capital.
var chore = regexp.MustCompile(`^(?i:build|chore|ci|docs?|style|tests?|refactor|perf)(\([^)]*\))?: `)

// asBefore finds the names that an entry mentions to say that nothing changes
// for them.
var asBefore = regexp.MustCompile(`([\w.:#$]+)(?:\(\))?[\x60'"]* (?:still )?(?:looks?|works?|behaves?|stays?|remains?|is|are|does|do) (?:just )?(?:as (?:it |they )?(?:before|was|were|did)|unchanged|untouched|unaffected|the same)\b`)

// rarity of a symbol is 1 where one change has it. Where its owner is the one that
// is meant, it is that of the two together.
func (x *Index) rarity(symbol, last string, owned bool) float64 {
	df := float64(len(x.byName[last]))
	if n := x.byOwner[qualified(symbol)]; owned && n > 0 {
		df = float64(n)
	}
	return rare(df)
}

// fading is by how many times e a name has to be more common to count as 1/2, as 1/3, and so
// on: set by hand.
const fading = 2.5

// rare is 1 for what one change has, and less the more have it.
func rare(changes float64) float64 { return 1 / (1 + math.Log(math.Max(changes, 1))/fading) }

// qualified is a symbol behind the last part of its qualifier, in one spelling, or
// "" where it has none.
func qualified(symbol string) string {
	symbol = arity.ReplaceAllString(symbol, "")
	i := strings.LastIndexAny(symbol, ".#:")
	if i <= 0 || strings.Contains(symbol, "/") {
		return ""
	}
	return strings.ToLower(LastPart(strings.TrimRight(symbol[:i], ".#:"))) + "." + LastPart(symbol)
}

// plainWord is what a word in small letters, which could be any, says against one that is
// spelt like a name.
const plainWord = 0.6

// rarityOf is rarity for a word of the text; one in small letters that could
// be any word says less than one that is spelt like a name.
func (x *Index) rarityOf(name string) float64 {
	r := rare(float64(len(x.byToken[name])))
	if strings.ToLower(name) == name && !strings.Contains(name, "_") {
		r *= plainWord
	}
	return r
}

// overlap is the share of a query's words that a change has, the rarer ones
// counting for more.
func (x *Index) overlap(query map[string]float64, i int) float64 {
	shared, total := 0.0, 0.0
	for w, weight := range query {
		idf := weight * math.Log(1+float64(len(x.changes))/(1+float64(len(x.byWord[w]))))
		total += idf
		if x.counts[i][w] > 0 {
			shared += idf
		}
	}
	if total == 0 {
		return 0
	}
	return shared / total
}

// covered is the share of the words of a change's first sentence that a query has,
// the rarer ones counting for more, with those words. One word alone is chance.
func (x *Index) covered(query map[string]float64, i int) (share float64, words string) {
	had, total := 0.0, 0.0
	var list []string
	for _, w := range x.titles[i] {
		idf := math.Log(1 + float64(len(x.changes))/(1+float64(len(x.byWord[w]))))
		total += idf
		if weight := query[w]; weight > 0 {
			had += idf * math.Min(1, weight)
			list = append(list, cmp.Or(x.spelt[w], w))
		}
	}
	if len(list) < 2 {
		return 0, ""
	}
	return had / total * (1 - 1/float64(len(list))), strings.Join(list[:min(len(list), 4)], ", ")
}

// onePhrase is how much a phrase says that no other change has, of 1.
const onePhrase = 0.5

// phrased is how much the phrases of a query that a change has say, the rarer ones
// more, with the rarest.
func (x *Index) phrased(query []phrase, i int) (weight float64, value string) {
	rarest := 0
	for _, p := range query {
		if !x.phrases[i][p] {
			continue
		}
		df := x.byPhrase[p]
		weight += onePhrase * rare(float64(df))
		words := cmp.Or(x.spelt[p[0]], p[0]) + " " + cmp.Or(x.spelt[p[1]], p[1])
		if value == "" || df < rarest || df == rarest && words < value {
			rarest, value = df, words
		}
	}
	return math.Min(1, weight), value
}

// several is the less below 1, the fewer words a query shares with a change: one
// alone is chance.
func (x *Index) several(query map[string]float64, i int) float64 {
	n := 0.0
	for w := range query {
		if x.counts[i][w] > 0 {
			n++
		}
	}
	return 1 - 1/math.Max(n, 1)
}

// weighWords fills in what each word says of the changes that have it, after BM25
// (Robertson and Zaragoza, "The Probabilistic Relevance Framework: BM25 and Beyond",
// 2009; k1 1.2, b 0.75).
func (x *Index) weighWords() {
	const k1, b = 1.2, 0.75
	x.weighed = make(map[string][]float64, len(x.byWord))
	for w, list := range x.byWord {
		weights := make([]float64, len(list))
		for n, i := range list {
			tf := float64(x.counts[i][w])
			weights[n] = tf * (k1 + 1) / (tf + k1*(1-b+b*x.lengths[i]/x.mean))
		}
		x.weighed[w] = weights
	}
}

// bm25 scores each change against words, in their order, so that equal queries have
// equal scores.
func (x *Index) bm25(query map[string]float64) []float64 {
	scores := make([]float64, len(x.changes))
	n := float64(len(x.changes))
	for _, w := range slices.Sorted(maps.Keys(query)) {
		list := x.byWord[w]
		if len(list) == 0 || len(list) > 100 && 3*len(list) > len(x.changes) { // nearly every entry has it
			continue
		}
		df := float64(len(list))
		weight := query[w] * math.Log(1+(n-df+0.5)/(df+0.5))
		for k, i := range list {
			scores[i] += weight * x.weighed[w][k]
		}
	}
	return scores
}

// shared names the rarest words that a query and a change have in common.
func (x *Index) shared(query map[string]float64, i int) string {
	var list []string
	for w := range query {
		if x.counts[i][w] > 0 {
			list = append(list, w)
		}
	}
	sort.Slice(list, func(a, b int) bool {
		m, n := len(x.byWord[list[a]]), len(x.byWord[list[b]])
		return m < n || m == n && list[a] < list[b]
	})
	list = list[:min(len(list), 4)]
	for n, w := range list {
		if word, ok := x.spelt[w]; ok {
			list[n] = word
		}
	}
	return strings.Join(list, ", ")
}

// spell keeps a word for its stem, so that reasons have words and not stems.
func (x *Index) spell(word string) {
	for _, part := range append(humps(word), word) {
		lower := strings.ToLower(part)
		stem := stemWord(lower)
		if old, ok := x.spelt[stem]; !ok || len(lower) < len(old) || len(lower) == len(old) && lower < old {
			x.spelt[stem] = lower
		}
	}
}

// LastPart is a name without its qualifiers; a path stands as a whole.
func LastPart(name string) string {
	if strings.Contains(name, "/") {
		name = arity.ReplaceAllString(name, "")
	}
	name = strings.Trim(name, "{}<>()[]$%&*'\"`=?! ")
	if strings.Contains(name, "/") {
		return name
	}
	if i := strings.LastIndexAny(name, ".#:>\\"); i >= 0 && i+1 < len(name) {
		return name[i+1:]
	}
	return name
}

// arity is the number of arguments that Elixir and Erlang write behind a name.
var arity = regexp.MustCompile(`/\d+$`)
