package read

import (
	"sort"
	"strings"
)

// marks finds in one pass over a line which readers may want it. Every stream
// reader names texts of which a first line of its diagnostics holds at least
// one; a line without any is only counted. Letters match in either case. A
// mark that begins with "^" stands at the start of the line, behind blanks and
// what a wrapper put there.
//
// It is the automaton of Aho and Corasick, "Efficient String Matching: An Aid
// to Bibliographic Search", CACM 18 (1975), with all failure links resolved
// into one table, over classes of bytes that no mark tells apart.
type marks struct {
	class [256]uint8
	width int      // number of classes
	next  []uint32 // a state is the offset of its row; class to state
	found []uint64 // row number to the set of readers whose marks end there
	start uint32   // the state at the start of a line
}

// hit flags a state in which a mark ends.
const hit = 1 << 31

// newMarks takes each reader's marks; bit n of a set stands for list n, of
// which there may be 64.
func newMarks(lists [][]string) *marks {
	m := &marks{width: 1}
	for _, list := range lists {
		for _, mark := range list {
			for i := range len(mark) {
				if c := lower(mark[i]); m.class[c] == 0 {
					m.class[c] = uint8(m.width)
					m.width++
				}
			}
		}
	}
	for c := byte('A'); c <= 'Z'; c++ {
		m.class[c] = m.class[lower(c)]
	}
	root := m.grow()
	m.start = m.grow()
	for n, list := range lists {
		for _, mark := range list {
			if rest, ok := strings.CutPrefix(mark, "^"); ok {
				m.insert(m.start, rest, 1<<n)
			} else {
				m.insert(root, mark, 1<<n)
			}
		}
	}
	m.resolve()
	return m
}

// grow adds a state and gives its row's offset.
func (m *marks) grow() uint32 {
	m.next = append(m.next, make([]uint32, m.width)...)
	m.found = append(m.found, 0)
	return uint32(len(m.next) - m.width)
}

func (m *marks) insert(state uint32, mark string, reader uint64) {
	for i := range len(mark) {
		at := state + uint32(m.class[lower(mark[i])])
		if m.next[at] == 0 {
			next := m.grow()
			m.next[at] = next
		}
		state = m.next[at]
	}
	m.found[int(state)/m.width] |= reader
}

// resolve walks the tree of marks breadth first and fills in where a state
// goes when the next byte does not continue any mark; the start of a line
// falls back to its middle. Then it flags the states in which something is
// found, so that the common case costs one look-up a byte.
func (m *marks) resolve() {
	fallback := make([]uint32, len(m.found))
	row := func(state uint32) int { return int(state) / m.width }
	var queue []uint32
	visit := func(state, back uint32) {
		fallback[row(state)] = back
		queue = append(queue, state)
	}
	for c := range m.width {
		if s := m.next[c]; s != 0 {
			visit(s, 0)
		}
	}
	visit(m.start, 0)
	for len(queue) > 0 {
		state := queue[0]
		queue = queue[1:]
		back := fallback[row(state)]
		m.found[row(state)] |= m.found[row(back)]
		for c := range m.width {
			at, other := int(state)+c, m.next[int(back)+c]
			if s := m.next[at]; s != 0 {
				visit(s, other)
			} else {
				m.next[at] = other
			}
		}
	}
	for i, s := range m.next {
		if m.found[row(s)] != 0 {
			m.next[i] = s | hit
		}
	}
}

// in is the set of readers with a mark in the line.
func (m *marks) in(line []byte) (set uint64) {
	for len(line) > 0 && (line[0] == ' ' || line[0] == '\t') {
		line = line[1:]
	}
	state, next := m.start, m.next
	for _, c := range line {
		state = next[state&^hit+uint32(m.class[c])]
		if state >= hit {
			set |= m.found[int(state&^hit)/m.width]
		}
	}
	return set
}

func lower(c byte) byte {
	if 'A' <= c && c <= 'Z' {
		return c + 'a' - 'A'
	}
	return c
}

// orderStreams sorts the registered readers: by order, then by name.
func orderStreams(list []stream) {
	sort.Slice(list, func(i, j int) bool {
		return list[i].order < list[j].order || list[i].order == list[j].order && list[i].name < list[j].name
	})
}
