package read

import (
	"strings"
)

// marks finds in one pass over a line which readers may want it. Every stream
// reader names texts of which a first line of its diagnostics holds at least
// one; a line without any is only counted. A mark that begins with "^" stands
// at the start of the line, behind blanks and what a wrapper put there.
//
// It is the automaton of Aho and Corasick, "Efficient String Matching: An Aid
// to Bibliographic Search", CACM 18 (1975), with all failure links resolved
// into one table, over classes of bytes that no mark tells apart. States are
// numbered breadth first, the common ones together, and behind them those in
// which a mark ends.
type marks struct {
	class [256]uint8
	next  []uint16   // from a state, by class, to a state: a row each
	found [][]ending // of the states from hits on
	hits  uint16
	start uint16 // the state at the start of a line
}

// rowLength is how many classes of bytes there may be; a power of two makes
// for fast look-ups.
const rowLength = 128

// ending is a mark that ends in a state.
type ending struct {
	text    string
	how     how
	readers uint64
}

// how a mark stands in a line.
type how uint8

const (
	written how = iota // letter by letter, as the tool prints it
	anyhow             // in either case
	aWord              // in either case: a word not inside of a name or path, a number as of a line
)

// markList is what one reader looks for.
type markList struct {
	texts []string
	how   how
}

// markTree is a trie of marks, from which the automaton is made.
type markTree struct {
	class    [256]uint8
	edges    []uint32 // from a state, by class, to a state: a row each; 0 for none
	endings  [][]ending
	fallback []uint32
}

// newMarks takes each reader's marks; bit n of a set stands for list n, of
// which there may be 64.
func newMarks(lists []markList) *marks {
	t := &markTree{}
	t.classify(lists)
	root, start := t.grow(), t.grow()
	for n, list := range lists {
		for _, mark := range list.texts {
			from := root
			text, ok := strings.CutPrefix(mark, "^")
			if ok {
				from = start
			}
			t.insert(from, ending{text: text, how: list.how, readers: 1 << n})
		}
	}
	return t.resolve(root, start)
}

// classify gives each byte that stands in a mark a class, and makes room.
func (t *markTree) classify(lists []markList) {
	classes, bytes := 1, 2
	for _, list := range lists {
		for _, mark := range list.texts {
			bytes += len(mark)
			for i := range len(mark) {
				if c := lower(mark[i]); t.class[c] == 0 {
					t.class[c] = uint8(classes)
					classes++
				}
			}
		}
	}
	if classes > rowLength {
		panic("read: more bytes in marks than the automaton has room for")
	}
	for c := byte('A'); c <= 'Z'; c++ {
		t.class[c] = t.class[lower(c)]
	}
	t.edges = make([]uint32, 0, bytes*rowLength)
}

func (t *markTree) grow() uint32 {
	t.edges = append(t.edges, make([]uint32, rowLength)...)
	t.endings = append(t.endings, nil)
	t.fallback = append(t.fallback, 0)
	return uint32(len(t.endings) - 1)
}

// row is where a state leads.
func (t *markTree) row(state uint32) []uint32 {
	return t.edges[state*rowLength : (state+1)*rowLength]
}

func (t *markTree) insert(state uint32, e ending) {
	for i := range len(e.text) {
		c := t.class[e.text[i]]
		next := t.row(state)[c]
		if next == 0 {
			next = t.grow()
			t.row(state)[c] = next
		}
		state = next
	}
	t.endings[state] = append(t.endings[state], e)
}

// resolve walks the tree breadth first and fills in where a state goes when the
// next byte does not continue any mark; the start of a line falls back to its
// middle. Then it numbers the states.
func (t *markTree) resolve(root, start uint32) *marks {
	queue := []uint32{root, start}
	for i := 0; i < len(queue); i++ {
		state := queue[i]
		back := t.fallback[state]
		if state != back {
			t.endings[state] = append(t.endings[state], t.endings[back]...)
		}
		edges, others := t.row(state), t.row(back)
		for c, next := range edges {
			if next == 0 {
				edges[c] = others[c]
				continue
			}
			if state != root {
				t.fallback[next] = others[c]
			}
			queue = append(queue, next)
		}
	}
	m := &marks{class: t.class, next: make([]uint16, 0, len(t.edges))}
	if len(queue) > 1<<16 {
		panic("read: more marks than the automaton has room for")
	}
	order := make([]uint32, 0, len(queue))
	for _, ends := range []bool{false, true} {
		for _, state := range queue {
			if (len(t.endings[state]) > 0) == ends {
				order = append(order, state)
			}
		}
		if !ends {
			m.hits = uint16(len(order))
		}
	}
	number := make([]uint16, len(queue))
	for n, state := range order {
		number[state] = uint16(n)
	}
	for _, state := range order {
		for _, next := range t.row(state) {
			m.next = append(m.next, number[next])
		}
	}
	for _, state := range order[m.hits:] {
		m.found = append(m.found, t.endings[state])
	}
	m.start = number[start]
	return m
}

// in is the set of readers with a mark in the line.
func (m *marks) in(line []byte) uint64 { return marksIn(m, line) }

// inText is the same of a line that is read already.
func (m *marks) inText(line string) uint64 { return marksIn(m, line) }

func marksIn[T string | []byte](m *marks, line T) (set uint64) {
	for len(line) > 0 && (line[0] == ' ' || line[0] == '\t') {
		line = line[1:]
	}
	state, next := m.start, m.next
	for i := range len(line) {
		c := line[i]
		if state = next[int(state)*rowLength+int(m.class[c])]; state < m.hits {
			continue
		}
		for _, e := range m.found[state-m.hits] {
			if set&e.readers != e.readers && stands(&e, line, i+1) {
				set |= e.readers
			}
		}
	}
	return set
}

// stands reports whether the mark, which ends before a byte of a line, stands
// there as it must.
func stands[T string | []byte](e *ending, line T, end int) bool {
	from := end - len(e.text)
	switch last := e.text[len(e.text)-1]; {
	case e.how == written:
		return string(line[from:end]) == e.text
	case e.how == aWord && isLetter(last):
		return standsAlone(line, from, end, isLetter(e.text[0]))
	case e.how == aWord && isDigit(last) && !isLetter(e.text[0]):
		return numbersLine(line, end, e.text[0])
	}
	return true
}

// standsAlone reports whether a word is no part of a longer name, as in
// "error.c", "error_path" and "/errors/fatal"; letters may go on.
func standsAlone[T string | []byte](line T, from, end int, whole bool) bool {
	for end < len(line) && isLetter(line[end]) {
		end++
	}
	if end < len(line) {
		switch c := line[end]; {
		case c == '_', c == '/':
			return false
		case (c == '-' || c == '.') && end+1 < len(line) && (isLetter(line[end+1]) || isDigit(line[end+1])):
			return false
		}
	}
	if !whole {
		return true
	}
	for from > 0 && isLetter(line[from-1]) {
		from--
	}
	return from == 0 || line[from-1] != '/' && (line[from-1] != '_' || 'a' > line[from])
}

// numbersLine reports whether digits that go on at a byte of a line may be the
// number of one: no version, share or count. Lead is what stands before them.
func numbersLine[T string | []byte](line T, at int, lead byte) bool {
	dots := 0
	for ; at < len(line) && (isDigit(line[at]) || line[at] == '.' && at+1 < len(line) && isDigit(line[at+1])); at++ {
		if line[at] == '.' {
			dots++
		}
	}
	if dots > 1 {
		return false
	}
	if at == len(line) {
		return true
	}
	switch c := line[at]; c {
	case '%', '/':
		return false
	case ' ':
		return lead == ':' || at+1 < len(line) && (line[at+1] == ' ' || line[at+1] == '|')
	}
	return true
}

func lower(c byte) byte {
	if 'A' <= c && c <= 'Z' {
		return c + 'a' - 'A'
	}
	return c
}
