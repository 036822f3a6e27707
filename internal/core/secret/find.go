package secret

// finder reports whether a text holds one of some words of two bytes or more, whatever its
// case. Words are found by
// the pairs of bytes that they begin with, as Wu and Manber, "A Fast Algorithm for
// Multi-Pattern Searching" (1994), have it; without a shift, since some are short.
type finder struct {
	begins [65536]bool
	words  [65536][]string
}

func newFinder(words []string) *finder {
	f := &finder{}
	for _, w := range words {
		pair := uint16(w[0])<<8 | uint16(w[1])
		f.begins[pair] = true
		f.words[pair] = append(f.words[pair], w)
	}
	return f
}

// small is a letter's small form.
var small [256]byte

func init() {
	for i := range small {
		small[i] = byte(i)
		if 'A' <= i && i <= 'Z' {
			small[i] += 'a' - 'A'
		}
	}
}

func (f *finder) in(text []byte) bool {
	if len(text) == 0 {
		return false
	}
	pair := uint16(small[text[0]])
	for i, c := range text[1:] {
		pair = pair<<8 | uint16(small[c])
		if !f.begins[pair] {
			continue
		}
		for _, w := range f.words[pair] {
			if startsWith(text[i:], w) {
				return true
			}
		}
	}
	return false
}

func startsWith(text []byte, word string) bool {
	if len(text) < len(word) {
		return false
	}
	for i := range len(word) {
		if small[text[i]] != word[i] {
			return false
		}
	}
	return true
}
