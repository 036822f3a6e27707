package read

import "sort"

// marks finds in one pass over a line which readers may want it. Every stream
// reader names byte strings of which a first line of its diagnostics holds at
// least one; a line without any is only counted. Letters match in either case.
//
// It is the automaton of Aho and Corasick, "Efficient String Matching: An Aid
// to Bibliographic Search", CACM 18 (1975), with all failure links resolved
// into one table, over classes of bytes that no mark tells apart.
type marks struct {
	class [256]uint8
	width int      // number of classes
	next  []uint16 // state*width + class to state
	found []uint64 // state to the set of readers whose marks end there
}

// newMarks takes each reader's marks; a set bit n in a mask stands for list n,
// of which there may be 64.
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
	m.grow()
	for n, list := range lists {
		for _, mark := range list {
			m.insert(mark, 1<<n)
		}
	}
	m.resolve()
	return m
}

func (m *marks) grow() uint16 {
	m.next = append(m.next, make([]uint16, m.width)...)
	m.found = append(m.found, 0)
	return uint16(len(m.found) - 1)
}

func (m *marks) insert(mark string, reader uint64) {
	state := 0
	for i := range len(mark) {
		at := state*m.width + int(m.class[lower(mark[i])])
		if m.next[at] == 0 {
			m.next[at] = m.grow()
		}
		state = int(m.next[at])
	}
	m.found[state] |= reader
}

// resolve walks the tree of marks breadth first and fills in where a state
// goes when the next byte does not continue any mark.
func (m *marks) resolve() {
	fallback := make([]int, len(m.found))
	var queue []int
	for c := range m.width {
		if s := int(m.next[c]); s != 0 {
			queue = append(queue, s)
		}
	}
	for len(queue) > 0 {
		state := queue[0]
		queue = queue[1:]
		m.found[state] |= m.found[fallback[state]]
		for c := range m.width {
			at, other := state*m.width+c, m.next[fallback[state]*m.width+c]
			if s := int(m.next[at]); s != 0 {
				fallback[s] = int(other)
				queue = append(queue, s)
			} else {
				m.next[at] = other
			}
		}
	}
}

// in is the set of readers with a mark in the line.
func (m *marks) in(line []byte) (set uint64) {
	state := 0
	for _, c := range line {
		state = int(m.next[state*m.width+int(m.class[c])])
		set |= m.found[state]
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
