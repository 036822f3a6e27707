// Package link finds the change of the release notes that explains a cause.
// Every point of a score has a reason that can be shown; where the reasons are
// thin there is no link.
package link

import (
	"math"
	"regexp"
	"sort"
	"strings"

	"unicausa/internal/core/notes"
)

// Index holds the changes that may explain something, by their names and words.
type Index struct {
	changes []*notes.Change
	names   map[string][]int // last part of a name to changes that have it
	words   map[string][]int // word to changes that have it
	lengths []float64
	mean    float64
	counts  []map[string]int
}

// NewIndex takes the changes that may explain anything.
func NewIndex(changes []notes.Change) *Index {
	x := &Index{names: map[string][]int{}, words: map[string][]int{}}
	for i := range changes {
		c := &changes[i]
		n := len(x.changes)
		x.changes = append(x.changes, c)
		seen := map[string]bool{}
		for _, s := range c.Symbols {
			if name := lastPart(s.Name); !seen[name] {
				seen[name] = true
				x.names[name] = append(x.names[name], n)
			}
		}
		count := map[string]int{}
		total := 0
		for _, text := range append(append(append([]string{c.Text}, c.Context...), c.Before...), c.After...) {
			for _, w := range wordsOf(text) {
				count[w]++
				total++
			}
		}
		for w := range count {
			x.words[w] = append(x.words[w], n)
		}
		x.counts = append(x.counts, count)
		x.lengths = append(x.lengths, float64(total))
		x.mean += float64(total)
	}
	if len(x.changes) > 0 {
		x.mean /= float64(len(x.changes))
	}
	return x
}

// rarity weighs a name by how few changes have it: 1 for one, falling slowly.
func (x *Index) rarity(name string) float64 {
	df := float64(len(x.names[name]))
	return 1 / (1 + math.Log(math.Max(df, 1))/2.5)
}

// bm25 scores the changes against words (Robertson and Zaragoza, "The
// Probabilistic Relevance Framework: BM25 and Beyond", 2009; k1 1.2, b 0.75).
func (x *Index) bm25(query map[string]float64) map[int]float64 {
	const k1, b = 1.2, 0.75
	scores := map[int]float64{}
	n := float64(len(x.changes))
	for w, weight := range query {
		list := x.words[w]
		if len(list) == 0 {
			continue
		}
		df := float64(len(list))
		idf := math.Log(1 + (n-df+0.5)/(df+0.5))
		for _, i := range list {
			tf := float64(x.counts[i][w])
			scores[i] += weight * idf * tf * (k1 + 1) / (tf + k1*(1-b+b*x.lengths[i]/x.mean))
		}
	}
	return scores
}

// shared names the rarest words that a query and a change have in common.
func (x *Index) shared(q *query, i int) string {
	var list []string
	for w := range q.words {
		if x.counts[i][w] > 0 {
			list = append(list, w)
		}
	}
	sort.Slice(list, func(a, b int) bool {
		m, n := len(x.words[list[a]]), len(x.words[list[b]])
		return m < n || m == n && list[a] < list[b]
	})
	return strings.Join(list[:min(len(list), 4)], ", ")
}

// lastPart is a name without its qualifiers; a path stands as a whole.
func lastPart(name string) string {
	name = strings.Trim(name, "{}<>()[]$%&*'\"` ")
	if strings.Contains(name, "/") {
		return name
	}
	if i := strings.LastIndexAny(name, ".#:>"); i >= 0 && i+1 < len(name) {
		return name[i+1:]
	}
	return name
}

var word = regexp.MustCompile(`[A-Za-z][A-Za-z0-9]+`)

// wordsOf are the words of a text in lower case, names split at their humps,
// inflections cut, without the commonest ones.
func wordsOf(text string) []string {
	var list []string
	for _, w := range word.FindAllString(text, -1) {
		parts := humps(w)
		if len(parts) > 1 {
			list = append(list, strings.ToLower(w))
		}
		for _, p := range parts {
			if p = stemWord(strings.ToLower(p)); len(p) > 2 && !stopWords[p] {
				list = append(list, p)
			}
		}
	}
	return list
}

func humps(w string) []string {
	var parts []string
	from := 0
	for i := 1; i < len(w); i++ {
		upper := 'A' <= w[i] && w[i] <= 'Z'
		lowerBefore := 'a' <= w[i-1] && w[i-1] <= 'z' || '0' <= w[i-1] && w[i-1] <= '9'
		if upper && lowerBefore {
			parts = append(parts, w[from:i])
			from = i
		}
	}
	return append(parts, w[from:])
}

// stemWord cuts the commonest English endings.
func stemWord(w string) string {
	for _, ending := range []string{"ing", "ed", "es", "s"} {
		if s, ok := strings.CutSuffix(w, ending); ok && len(s) > 3 {
			return s
		}
	}
	return w
}

var stopWords = map[string]bool{}

func init() {
	for _, w := range strings.Fields(`the and for with that this from are was were not now use used has have had but you your its can will would should may
		also into than then them they their there which when what where how all any one two more most other some such only very been being does did
		function method type value error undefined test expect got want actual expected equal strict line file string number return call null
		nil true false new old version chang break`) {
		stopWords[stemWord(w)] = true
		stopWords[w] = true
	}
}
