package rewrite

import (
	"fmt"
	"strings"

	"unicausa/internal/core/source"
)

// match is a place that has a template's shape: tokens from up to end, and those
// that each hole took.
type match struct {
	from, end int
	took      [][2]int // by the hole's number less one; 0, 0 where it took nothing
	why       string   // it is left as it is
}

// program is a file's text as tokens.
type program struct {
	name    string
	text    string
	tokens  []source.Token
	partner []int
}

// programOf lexes a file; one whose brackets do not close has no partner.
func programOf(name, text string) *program {
	p := &program{name: name, text: text, tokens: source.Tokens(name, text)}
	p.partner = pairs(p.tokens)
	return p
}

// matches finds the places of a template in a program, in order; those inside of
// one another are all there.
func (p *program) matches(t *Template) []match {
	if p.partner == nil {
		return nil
	}
	first := 0 // the piece that is no hole
	if t.from[0].hole != "" {
		first = 1
	}
	var list []match
	for i := range p.tokens {
		if !equal(p.tokens[i], t.from[first].Token) {
			continue
		}
		m := &matcher{program: p, template: t, took: make([][2]int, t.holes)}
		from := i
		if first == 1 {
			if from = p.chainStart(i); from == i {
				continue
			}
			m.took[t.from[0].number-1] = [2]int{from, i}
		}
		m.try(first, i)
		if len(m.found) == 0 {
			continue
		}
		one := m.found[0]
		one.from = from
		switch {
		case len(m.found) > 1:
			one.why = "the example fits in more than one way here"
		case first == 1 && !joint(p.tokens[i]) && !p.begins(from), p.goesOn(t, one.end):
			one.why = "it is a part of a longer expression, of which the example does not tell what belongs together"
		default:
			one.why = p.unfit(t, &one)
		}
		list = append(list, one)
	}
	return list
}

// chainStart is where the operand that ends before a token begins.
func (p *program) chainStart(end int) int {
	i := end
	for i > 0 {
		t := p.tokens[i-1]
		switch {
		case t.Is(")", "]", "}") && p.partner[i-1] >= 0 && !(t.Is("}") && i < end):
			i = p.partner[i-1]
			if i > 0 && !p.tokens[i].NewLine && (p.tokens[i-1].Kind == source.Word && !keywords[p.tokens[i-1].Text] || p.tokens[i-1].Is(")", "]")) {
				continue // what a call or an index takes: the callee is in front
			}
		case t.Kind != source.Mark && !(t.Kind == source.Word && keywords[t.Text]):
			i--
		default:
			return i
		}
		if i == 0 || !joint(p.tokens[i-1]) {
			if i > 0 && p.tokens[i-1].Is("new") {
				i--
			}
			return i
		}
		i--
	}
	return i
}

// begins reports whether an expression begins at a token.
func (p *program) begins(i int) bool {
	if i == 0 || p.tokens[i].NewLine {
		return true
	}
	t := p.tokens[i-1]
	return t.Is("(", "[", "{", ",", ";", ":", "=", ":=", "=>", "&&", "||", "+=", "->") || keywords[t.Text] && t.Kind == source.Word
}

// ends reports whether an expression ends before a token.
func (p *program) ends(i int) bool {
	if i == len(p.tokens) {
		return true
	}
	t := p.tokens[i]
	return t.NewLine && !joint(t) || t.Is(")", "]", "}", ",", ";", ":", "{", "&&", "||", "=>") || keywords[t.Text] && t.Kind == source.Word
}

// matcher tries a template at one place.
type matcher struct {
	*program
	template *Template
	took     [][2]int
	found    []match // at most two
}

// try matches the pieces from one on with the tokens from i on.
func (m *matcher) try(piece, i int) {
	pattern := m.template.from
	switch {
	case len(m.found) > 1:
		return
	case piece == len(pattern):
		m.found = append(m.found, match{end: i, took: append([][2]int{}, m.took...)})
		return
	}
	want := pattern[piece]
	if want.hole == "" {
		if i < len(m.tokens) && !equal(m.tokens[i], want.Token) && m.tokens[i].Is(",") && want.Is(")", "]", "}") { // a comma at the end
			i++
		}
		if i < len(m.tokens) && equal(m.tokens[i], want.Token) {
			m.try(piece+1, i+1)
		}
		return
	}
	n := want.number - 1
	if before := m.took[n]; before[1] > before[0] { // what it took before
		if k := before[1] - before[0]; i+k <= len(m.tokens) && m.alike(before[0], i, k) {
			m.try(piece+1, i+k)
		}
		return
	}
	if want.hole == rest {
		end := m.partner[i-1]
		m.took[n] = [2]int{i, end}
		m.try(piece+1, end)
		m.took[n] = [2]int{}
		return
	}
	last := piece+1 == len(pattern)
	for end := i; end < len(m.tokens); {
		if t := m.tokens[end]; t.Is(",", ";", ")", "]", "}") || end-i > mostExample || end > i && t.NewLine && !joint(t) && m.outside(piece) {
			break
		}
		if end++; m.partner[end-1] >= end {
			end = m.partner[end-1] + 1
		}
		if !operand(m.tokens, m.partner, i, end) || last && !m.ends(end) {
			continue
		}
		m.took[n] = [2]int{i, end}
		m.try(piece+1, end)
		m.took[n] = [2]int{}
	}
}

// outside reports whether a piece stands outside of the template's own brackets, where
// a line's end may end the statement.
func (m *matcher) outside(piece int) bool {
	depth := 0
	for _, p := range m.template.from[:piece] {
		switch {
		case p.hole != "":
		case p.Is("(", "[", "{"):
			depth++
		case p.Is(")", "]", "}"):
			depth--
		}
	}
	return depth == 0
}

func (p *program) alike(a, b, n int) bool {
	for k := range n {
		if !equal(p.tokens[a+k], p.tokens[b+k]) {
			return false
		}
	}
	return true
}

// goesOn reports whether what the template ends with goes on behind it: "a + b" where
// "* c" follows.
func (p *program) goesOn(t *Template, end int) bool {
	last := t.from[len(t.from)-1]
	return last.hole == "" && last.Kind == source.Mark && !last.Is(")", "]", "}", ";") && !p.ends(end)
}

// unfit says why the code after cannot take a place; "" where it can.
func (p *program) unfit(t *Template, m *match) string {
	for i := m.from + 1; i < m.end; i++ {
		if p.tokens[i].Noted && !m.inHole(i) {
			return "a comment stands in it"
		}
	}
	if statements(t.to) > statements(t.from) && (m.from > 0 && !p.tokens[m.from].NewLine && !p.tokens[m.from-1].Is(";", "{", "}") || m.end < len(p.tokens) && !p.tokens[m.end].NewLine && !p.tokens[m.end].Is(";", "}")) {
		return "it is a part of a statement, and several statements take its place"
	}
	for n, took := range m.took {
		if t.uses(n+1) > 1 && t.uses(n+1) > t.shows(n+1) {
			for i := took[0]; i < took[1]; i++ {
				if p.tokens[i].Is("(", "++", "--") {
					return fmt.Sprintf("%s would be evaluated more than once", p.slice(took[0], took[1]))
				}
			}
		}
	}
	return ""
}

func (m *match) inHole(i int) bool {
	for _, took := range m.took {
		if i > took[0] && i < took[1] {
			return true
		}
	}
	return false
}

// statements counts those of a code.
func statements(c code) int {
	n := 0
	for _, s := range split(c) {
		if len(s) > 0 && !s[len(s)-1].Is(",") {
			n++
		}
	}
	return n
}

// uses counts a hole on the side after, shows on the side before.
func (t *Template) uses(number int) int  { return count(t.to, number) }
func (t *Template) shows(number int) int { return count(t.from, number) }

func count(c code, number int) int {
	n := 0
	for _, p := range c {
		if p.hole != "" && p.number == number {
			n++
		}
	}
	return n
}

// slice is the text of tokens from i up to j.
func (p *program) slice(i, j int) string {
	if i >= j {
		return ""
	}
	return p.text[p.tokens[i].Offset:p.tokens[j-1].End()]
}

// render is the code after for a place, with the places inside of its holes changed
// as well. Further lines are indented as the place's first; what brackets hold stays
// on one line where it was on one.
func (p *program) render(t *Template, m *match, inner []match) string {
	line := p.text[strings.LastIndexByte(p.text[:p.from(m.from)], '\n')+1:]
	indent := line[:len(line)-len(strings.TrimLeft(line, " \t"))]
	flat := !strings.Contains(p.slice(m.from, m.end), "\n")
	depth := 0
	var b strings.Builder
	for i, piece := range t.to {
		mark := piece.hole == "" && piece.Kind == source.Mark
		if mark && piece.Is(")", "]", "}") {
			depth--
		}
		space := piece.before
		switch {
		case i == 0:
			space = ""
		case flat && depth > 0 && strings.Contains(space, "\n"), flat && mark && piece.Is(")", "]", "}") && strings.Contains(space, "\n"):
			space = " "
			if t.to[i-1].Is("(", "[") || mark && piece.Is(")", "]") {
				space = ""
			}
		default:
			space = strings.ReplaceAll(space, "\n", "\n"+indent)
		}
		if mark && piece.Is("(", "[", "{") {
			depth++
		}
		b.WriteString(space)
		if piece.hole == "" {
			b.WriteString(piece.Text)
			continue
		}
		took := m.took[piece.number-1]
		text := p.within(t, took, inner)
		if loose(p.tokens[took[0]:took[1]]) && tight(t.to, i) && !tight(t.from, first(t.from, piece.number)) {
			text = "(" + text + ")"
		}
		b.WriteString(text)
	}
	return b.String()
}

// within is the text of a run of tokens with the places in it changed.
func (p *program) within(t *Template, run [2]int, inner []match) string {
	var b strings.Builder
	at := run[0]
	for k := range inner {
		m := &inner[k]
		if m.from >= run[1] { // they are in order
			break
		}
		if m.why != "" || m.from < at || m.end > run[1] {
			continue
		}
		b.WriteString(p.text[p.from(at):p.tokens[m.from].Offset])
		b.WriteString(p.render(t, m, inner[k+1:]))
		at = m.end
		if at == run[1] {
			return b.String()
		}
		b.WriteString(p.text[p.tokens[m.end-1].End():p.tokens[at].Offset])
	}
	if at < run[1] {
		b.WriteString(p.slice(at, run[1]))
	}
	return b.String()
}

func (p *program) from(i int) int { return p.tokens[i].Offset }

// loose reports whether tokens are an expression of several operands, which a
// neighbouring operator could tear apart.
func loose(tokens []source.Token) bool {
	depth := 0
	for i, t := range tokens {
		switch {
		case t.Is("(", "[", "{"):
			depth++
		case t.Is(")", "]", "}"):
			depth--
		case depth == 0 && i > 0 && (t.Kind == source.Mark && !joint(t) && !t.Is("!", "?") || t.Kind == source.Word && keywords[t.Text]):
			return true
		}
	}
	return false
}

// tight reports whether an operator or a member stands beside a piece.
func tight(c code, i int) bool {
	binds := func(p piece) bool {
		return p.hole == "" && p.Kind == source.Mark && !p.Is("(", "[", "{", ")", "]", "}", ",", ";", ":", "=", ":=", "=>")
	}
	return i > 0 && binds(c[i-1]) || i+1 < len(c) && binds(c[i+1])
}

func first(c code, number int) int {
	for i, p := range c {
		if p.hole != "" && p.number == number {
			return i
		}
	}
	return 0
}
