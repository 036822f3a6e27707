package exposure

import (
	"strings"
)

// words finds names of a set in a text in one pass. A name that is more than
// one word ("--lid-color", "jar/lids") is found by its longest word. Words are
// found by the pairs of bytes that they begin with, as Wu and Manber, "A Fast
// Algorithm for Multi-Pattern Searching" (1994), skip over what cannot match.
type words struct {
	hash    map[uint64][]int32 // of a word to the names that it stands for
	names   []string
	offsets []int        // of the word in its name
	least   int          // the length of the shortest word, at most 8
	shift   [65536]uint8 // from a pair of bytes to how far the next word may end its first least bytes
}

// newWords prepares the search. A name without a word of two bytes is never found.
func newWords(names []string) *words {
	w := &words{hash: map[uint64][]int32{}, names: names, offsets: make([]int, len(names)), least: 8}
	var anchors []string
	for i, name := range names {
		from, end := longestWord(name)
		if end-from < 2 {
			continue
		}
		w.offsets[i] = from
		h := hashOf(name[from:end])
		w.hash[h] = append(w.hash[h], int32(i))
		w.least = min(w.least, end-from)
		anchors = append(anchors, name[from:end])
	}
	for i := range w.shift {
		w.shift[i] = uint8(w.least - 1)
	}
	for _, word := range anchors {
		for q := 1; q < w.least; q++ {
			at := &w.shift[pairOf(word[q-1], word[q])]
			*at = min(*at, uint8(w.least-1-q))
		}
	}
	return w
}

func pairOf(a, b byte) uint16 { return uint16(a)<<8 | uint16(b) }

// longestWord is the longest run of bytes of an identifier in a name.
func longestWord(name string) (from, end int) {
	for i := 0; i < len(name); {
		if !inWord[name[i]] {
			i++
			continue
		}
		j := i
		for j < len(name) && inWord[name[j]] {
			j++
		}
		if j-i > end-from {
			from, end = i, j
		}
		i = j
	}
	return from, end
}

// each calls take with every name that stands whole in the text, and its
// offset, in rising order of their words.
func (w *words) each(text []byte, take func(name, offset int)) {
	if len(w.hash) == 0 {
		return
	}
	for j := w.least - 1; j < len(text); {
		if s := w.shift[pairOf(text[j-1], text[j])]; s > 0 {
			j += int(s)
			continue
		}
		if from := j - w.least + 1; inWord[text[from]] && (from == 0 || !inWord[text[from-1]]) {
			end := from
			for end < len(text) && inWord[text[end]] {
				end++
			}
			for _, n := range w.hash[hashOf(text[from:end])] {
				if at := from - w.offsets[n]; w.standsAt(text, at, w.names[n]) {
					take(int(n), at)
				}
			}
		}
		j++
	}
}

// standsAt reports whether a whole name stands at a place.
func (w *words) standsAt(text []byte, at int, name string) bool {
	end := at + len(name)
	if at < 0 || end > len(text) || string(text[at:end]) != name {
		return false
	}
	plain := !strings.ContainsAny(name, "-/")
	before := at == 0 || !inWord[text[at-1]] && (plain || text[at-1] != '-')
	behind := end == len(text) || !inWord[text[end]] && (plain || text[end] != '-')
	return before && behind
}

// inWord are the bytes of an identifier; those beyond ASCII count as such.
var inWord [256]bool

func init() {
	for c := range inWord {
		inWord[c] = c >= 0x80 || c == '_' || c == '$' || '0' <= c && c <= '9' || 'a' <= c && c <= 'z' || 'A' <= c && c <= 'Z'
	}
}

// hashOf is FNV-1a (Fowler, Noll, Vo) of 64 bits.
func hashOf[T string | []byte](s T) uint64 {
	h := uint64(14695981039346656037)
	for i := range len(s) {
		h = (h ^ uint64(s[i])) * 1099511628211
	}
	return h
}
