package exposure

import (
	"strings"
)

// words finds names of a set in a text in one pass. A name that is more than
// one word ("--lid-color", "jar/lids") is found by its longest word.
type words struct {
	hash    map[uint64][]int32 // of a word to the names that it stands for
	names   []string
	offsets []int       // of the word in its name
	lengths [256]uint64 // first byte to the lengths of words that begin with it, 63 for longer ones
}

func newWords(names []string) *words {
	w := &words{hash: map[uint64][]int32{}, names: names, offsets: make([]int, len(names))}
	for i, name := range names {
		from, end := longestWord(name)
		if from == end {
			continue
		}
		w.offsets[i] = from
		h := hashOf(name[from:end])
		w.hash[h] = append(w.hash[h], int32(i))
		w.lengths[name[from]] |= 1 << min(end-from, 63)
	}
	return w
}

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
// offset, in rising order.
func (w *words) each(text []byte, take func(name, offset int)) {
	for i := 0; i < len(text); {
		c := text[i]
		if !inWord[c] {
			i++
			continue
		}
		j := i + 1
		for j < len(text) && inWord[text[j]] {
			j++
		}
		if w.lengths[c]&(1<<min(j-i, 63)) != 0 {
			for _, n := range w.hash[hashOf(text[i:j])] {
				if at := i - w.offsets[n]; w.standsAt(text, at, w.names[n]) {
					take(int(n), at)
				}
			}
		}
		i = j
	}
}

// standsAt tells whether a whole name stands at a place.
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
