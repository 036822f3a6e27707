package rewrite

import (
	"errors"
	"fmt"
	"slices"
)

// general joins a template's side with that of a further example. What both have
// alike stays, what differs becomes a hole; on the side after, only what differed
// alike on the side before may.
type general struct {
	holes []string // those of the side before
	known bool     // these are all
}

// join is what two codes have in common.
func (g *general) join(a, b code) (code, error) {
	as, bs := split(a), split(b)
	if len(as) != len(bs) {
		return nil, fmt.Errorf("the examples are not of one shape: %s and %s", a, b)
	}
	var out code
	for i := range as {
		part, err := g.segment(as[i], bs[i])
		if err != nil {
			return nil, err
		}
		out = append(out, part...)
	}
	return out, nil
}

// split cuts code behind its separators outside of brackets.
func split(c code) []code {
	var list []code
	depth, from := 0, 0
	for i, p := range c {
		switch {
		case p.hole != "":
		case p.Is("(", "[", "{"):
			depth++
		case p.Is(")", "]", "}"):
			depth--
		case depth == 0 && p.Is(",", ";"):
			list = append(list, c[from:i+1])
			from = i + 1
		}
		if i > from && depth == 0 && p.NewLine && !p.Is(")", "]", "}") {
			list = append(list, c[from:i])
			from = i
		}
	}
	return append(list, c[from:])
}

// node is a token, or a bracket with what it holds.
type node struct{ from, end int }

func nodes(c code) []node {
	var list []node
	partner := pairs(c.tokens())
	for i := 0; i < len(c); i++ {
		end := i + 1
		if partner != nil && c[i].hole == "" && partner[i] > i {
			end = partner[i] + 1
		}
		list = append(list, node{i, end})
		i = end - 1
	}
	return list
}

// segment joins two stretches without a separator: what is between the nodes that
// they share becomes holes.
func (g *general) segment(a, b code) (code, error) {
	as, bs := nodes(a), nodes(b)
	alike := func(x, y node) bool {
		if x.end-x.from > 1 && y.end-y.from > 1 {
			return a[x.from].Text == b[y.from].Text
		}
		return x.end-x.from == 1 && y.end-y.from == 1 && same(a[x.from], b[y.from])
	}
	shared := common(len(as), len(bs), func(i, j int) bool { return alike(as[i], bs[j]) })
	var out code
	i, j := 0, 0
	for _, s := range append(shared, [2]int{len(as), len(bs)}) {
		if i < s[0] || j < s[1] {
			if i == s[0] || j == s[1] {
				return g.whole(a, b)
			}
			first, last := as[i].from, as[s[0]-1].end
			other, end := bs[j].from, bs[s[1]-1].end
			if !stands(a, first, last) || !stands(b, other, end) {
				return g.whole(a, b)
			}
			h, err := g.hole(a[first:last], b[other:end])
			if err != nil {
				return nil, err
			}
			out = append(out, h)
		}
		if s[0] == len(as) {
			break
		}
		x, y := as[s[0]], bs[s[1]]
		if x.end-x.from == 1 {
			out = append(out, a[x.from])
		} else {
			inside, err := g.join(a[x.from+1:x.end-1], b[y.from+1:y.end-1])
			if err != nil {
				return nil, err
			}
			out = append(append(append(out, a[x.from]), inside...), a[x.end-1])
		}
		i, j = s[0]+1, s[1]+1
	}
	return out, nil
}

// stands reports whether a hole may stand for a run of pieces.
func stands(c code, i, j int) bool {
	tokens := c.tokens()
	for k := i; k < j; k++ {
		if c[k].hole != "" {
			return j-i == 1
		}
	}
	return operand(tokens, pairs(tokens), i, j)
}

// whole makes one hole of two stretches that share too little.
func (g *general) whole(a, b code) (code, error) {
	var tail code
	if n, m := len(a)-1, len(b)-1; n > 0 && m > 0 && a[n].Is(",", ";") && same(a[n], b[m]) {
		a, b, tail = a[:n], b[:m], a[n:]
	}
	if len(a) == 0 || len(b) == 0 || !stands(a, 0, len(a)) || !stands(b, 0, len(b)) {
		return nil, fmt.Errorf("%s and %s differ in what no expression can stand for", a, b)
	}
	h, err := g.hole(a, b)
	return append(code{h}, tail...), err
}

// hole stands for two runs: the same two are the same hole wherever they differ.
func (g *general) hole(a, b code) (piece, error) {
	key := textOf(a) + "\x01" + textOf(b)
	switch {
	case !g.known && !slices.Contains(g.holes, key):
		g.holes = append(g.holes, key)
	case g.known && !slices.Contains(g.holes, key):
		return piece{}, errors.New("it has " + a.String() + " in one example and " + b.String() + " in the other, and nothing before tells which")
	}
	return holeAt(a[0], key), nil
}

// common is the longest common subsequence of two lists, as pairs of indices.
func common(n, m int, alike func(i, j int) bool) [][2]int {
	length := make([][]int, n+1)
	for i := range length {
		length[i] = make([]int, m+1)
	}
	for i := n - 1; i >= 0; i-- {
		for j := m - 1; j >= 0; j-- {
			if alike(i, j) {
				length[i][j] = length[i+1][j+1] + 1
			} else {
				length[i][j] = max(length[i+1][j], length[i][j+1])
			}
		}
	}
	var list [][2]int
	for i, j := 0, 0; i < n && j < m; {
		switch {
		case alike(i, j):
			list = append(list, [2]int{i, j})
			i, j = i+1, j+1
		case length[i+1][j] >= length[i][j+1]:
			i++
		default:
			j++
		}
	}
	return list
}
