package rewrite

import (
	"errors"
	"fmt"
	"path"
	"slices"
	"sort"
	"strings"

	"unicausa/internal/core/source"
)

// Example is a piece of code before and after an edit.
type Example struct {
	From string `json:"from"`
	To   string `json:"to"`
}

// Template is what examples of one edit have in common: code with holes, the same
// on both sides. It is their least general generalization (Plotkin, "A Note on
// Inductive Generalization", 1970) over tokens, in which a hole stands for a
// balanced run of tokens. From one example the holes are the operands that both
// of its sides show.
type Template struct {
	from, to code
	holes    int
}

// String shows both sides, the holes as ‹1›, ‹2›.
func (t *Template) String() string { return t.from.String() + " → " + t.to.String() }

// The bounds of an example.
const (
	mostExample  = 200 // tokens on one side
	mostExamples = 20
)

// Learn makes the template of one or more examples of one edit, in the language that
// a file's name tells. Fixed tells of words that are meant as they stand, though both
// sides show them: names of the package, and owners, which have members. The error says
// what an example lacks.
func Learn(file string, examples []Example, fixed func(word string, owner bool) bool) (*Template, error) {
	if len(examples) == 0 || len(examples) > mostExamples {
		return nil, fmt.Errorf("a template is made of 1 to %d examples, not of %d", mostExamples, len(examples))
	}
	var t Template
	for i, e := range examples {
		from, err := codeOf(file, e.From, "before")
		if err != nil {
			return nil, err
		}
		to, err := codeOf(file, e.To, "after")
		if err != nil {
			return nil, err
		}
		if last := len(from) - 1; last > 0 && from[last].Is(";", ",") && len(to) > 1 && same(to[len(to)-1], from[last]) {
			from, to = from[:last], to[:len(to)-1]
		}
		switch {
		case len(from) == 0:
			return nil, errors.New("the code before is empty: show what stands there today")
		case slices.EqualFunc(from, to, same):
			return nil, errors.New("the code before and after is the same")
		case i == 0:
			t.from, t.to = from, to
			continue
		}
		g := general{}
		if t.from, err = g.join(t.from, from); err != nil {
			return nil, fmt.Errorf("the code before: %w", err)
		}
		g.known = true
		if t.to, err = g.join(t.to, to); err != nil {
			return nil, fmt.Errorf("the code after: %w", err)
		}
	}
	if len(examples) == 1 {
		t.to = spelled(file, t.from, t.to)
		share(&t, fixed)
	}
	t.from, t.to = openRest(t.from), openRest(t.to)
	t.number()
	for _, p := range t.to {
		if p.hole != "" && !slices.ContainsFunc(t.from, func(o piece) bool { return o.hole == p.hole }) {
			return nil, fmt.Errorf("the code after has %s, and the code before does not", p.hole)
		}
	}
	if t.anchor() < 0 {
		return nil, errors.New("nothing of the code before stays as it is: every place would fit")
	}
	return &t, nil
}

// piece is a token of a template, or a hole.
type piece struct {
	source.Token
	before string // the space in front of it
	hole   string // what names the hole: its texts in all examples; "" for a token
	number int    // of the hole, from 1
}

// rest is the hole that stands for all that brackets hold, as "..." does in notes.
const rest = "..."

// holeAt is a hole in the place of a piece and of what follows it. To the rules of
// operands it is a word.
func holeAt(p piece, key string) piece {
	return piece{Token: source.Token{Text: "‹›", Kind: source.Word, Offset: p.Offset, NewLine: p.NewLine}, before: p.before, hole: key}
}

type code []piece

// String is the code on one line, with its holes.
func (c code) String() string {
	var b strings.Builder
	depth := 0
	for i, p := range c {
		mark := p.hole == "" && p.Kind == source.Mark
		if mark && p.Is(")", "]", "}") {
			depth--
		}
		switch lines := strings.Contains(p.before, "\n"); {
		case i == 0:
		case lines && depth == 0 && !(mark && p.Is(")", "]", "}")):
			b.WriteString("; ")
		case lines && (c[i-1].Is("(", "[") || mark && p.Is(")", "]")):
		case p.before != "":
			b.WriteByte(' ')
		}
		if mark && p.Is("(", "[", "{") {
			depth++
		}
		if p.hole != "" {
			fmt.Fprintf(&b, "‹%d›", p.number)
		} else {
			b.WriteString(p.Text)
		}
	}
	return b.String()
}

// codeOf lexes one side of an example.
func codeOf(file, text, side string) (code, error) {
	text = strings.TrimSpace(text)
	tokens := source.Tokens(file, text)
	if len(tokens) > mostExample {
		return nil, fmt.Errorf("the code %s has %d tokens: show the one call or statement that changes, at most %d tokens", side, len(tokens), mostExample)
	}
	if behind := source.Tokens(file, text+"\nend"); len(behind) == 0 || !behind[len(behind)-1].Is("end") {
		return nil, fmt.Errorf("the code %s ends within a text or a comment: show all of it", side)
	}
	if pairs(tokens) == nil {
		return nil, fmt.Errorf("the brackets of the code %s do not close: %s", side, text)
	}
	c := make(code, 0, len(tokens))
	end := 0
	for i, t := range tokens {
		if t.Is(",") && i+1 < len(tokens) && tokens[i+1].Is(")", "]", "}") { // means nothing
			end = t.End()
			continue
		}
		p := piece{Token: t, before: text[end:t.Offset]}
		if t.Noted { // the comment stays behind
			p.before = " "
		}
		c = append(c, p)
		end = t.End()
	}
	return c, nil
}

func (c code) tokens() []source.Token {
	list := make([]source.Token, len(c))
	for i := range c {
		list[i] = c[i].Token
	}
	return list
}

// same reports whether two pieces are the same; quotes of one sort are as good as of
// the other.
func same(a, b piece) bool { return a.hole == b.hole && (a.hole != "" || equal(a.Token, b.Token)) }

func equal(a, b source.Token) bool {
	if a.Kind == source.Quoted && b.Kind == source.Quoted {
		return unquoted(a.Text) == unquoted(b.Text)
	}
	return a.Text == b.Text && (a.Kind == source.Quoted) == (b.Kind == source.Quoted)
}

// unquoted is a plain string's content; any other is whole.
func unquoted(text string) string {
	if len(text) < 2 || text[0] == '`' || strings.ContainsAny(text, `\${#`) {
		return text
	}
	return text[1 : len(text)-1]
}

// share turns the operands that both sides of one example show into holes, the
// longest first.
func share(t *Template, fixed func(string, bool) bool) {
	from, to := t.from.tokens(), t.to.tokens()
	ownFrom, ownTo := pairs(from), pairs(to)
	type run struct{ i, j int }
	var runs []run
	for i := range from {
		for j := i + 1; j <= len(from) && j-i < len(from); j++ {
			named := j-i == 1 && from[i].Kind == source.Word && fixed(from[i].Text, j < len(from) && joint(from[j]))
			lines := slices.ContainsFunc(from[i+1:j], func(t source.Token) bool { return t.NewLine })
			if !named && !lines && operand(from, ownFrom, i, j) {
				runs = append(runs, run{i, j})
			}
		}
	}
	sort.SliceStable(runs, func(a, b int) bool { return runs[a].j-runs[a].i > runs[b].j-runs[b].i })
	shown := " " + textOf(t.to) + " "
	takenFrom, takenTo := make([]string, len(from)), make([]string, len(to))
	free := func(taken []string, i, j int) bool {
		return !slices.ContainsFunc(taken[i:j], func(s string) bool { return s != "" })
	}
	for _, r := range runs {
		if !free(takenFrom, r.i, r.j) || !anchored(from, takenFrom, r.i, r.j) {
			continue
		}
		key := textOf(t.from[r.i:r.j])
		if !strings.Contains(shown, " "+key+" ") && !strings.ContainsAny(key, "\"'") { // quotes may be of the other sort
			continue
		}
		found := false
		n := r.j - r.i
		for i := 0; i+n <= len(to); i++ {
			if free(takenTo, i, i+n) && slices.EqualFunc(from[r.i:r.j], to[i:i+n], equal) && operand(to, ownTo, i, i+n) {
				fill(takenTo, i, i+n, key)
				found = true
			}
		}
		if found {
			fill(takenFrom, r.i, r.j, key)
		}
	}
	t.from, t.to = holed(t.from, takenFrom), holed(t.to, takenTo)
}

// anchored reports whether a name is left when tokens become a hole too.
func anchored(tokens []source.Token, taken []string, i, j int) bool {
	for k, t := range tokens {
		if (k < i || k >= j) && taken[k] == "" && (t.Kind == source.Quoted || t.Kind == source.Word && !keywords[t.Text]) {
			return true
		}
	}
	return false
}

// fill marks a run with its hole; the mark in front keeps neighbours of one text apart.
func fill(taken []string, i, j int, key string) {
	for k := i; k < j; k++ {
		taken[k] = key
	}
	taken[i] = "\x00" + key
}

// holed puts holes in the place of the runs that are marked.
func holed(c code, taken []string) code {
	var list code
	for i := 0; i < len(c); i++ {
		key, ok := strings.CutPrefix(taken[i], "\x00")
		if !ok {
			list = append(list, c[i])
			continue
		}
		list = append(list, holeAt(c[i], key))
		for i+1 < len(c) && taken[i+1] == key {
			i++
		}
	}
	return list
}

// textOf is a run of tokens without their space, which names a hole.
func textOf(c code) string {
	texts := make([]string, len(c))
	for i, p := range c {
		if texts[i] = p.Text; p.hole != "" {
			texts[i] = p.hole
		}
	}
	return strings.Join(texts, " ")
}

// spelled writes out the short properties of a script, { lid } as { lid: lid }, where
// the name is a value before.
func spelled(file string, from, to code) code {
	switch path.Ext(file) {
	case ".js", ".jsx", ".ts", ".tsx", ".mjs", ".cjs", ".vue", ".svelte":
	default:
		return to
	}
	partner := pairs(to.tokens())
	var list code
	for i, p := range to {
		list = append(list, p)
		if p.Kind != source.Word || i == 0 || i+1 == len(to) || !to[i-1].Is("{", ",") || !to[i+1].Is("}", ",") {
			continue
		}
		open := i
		for open >= 0 && !(partner[open] > i) {
			open--
		}
		value := slices.ContainsFunc(from, func(o piece) bool { return o.Kind == source.Word && o.Text == p.Text })
		if open > 0 && to[open].Is("{") && to[open-1].Is("(", ",", "=", ":", "return") && value {
			list = append(list, piece{Token: source.Token{Text: ":", Kind: source.Mark, Offset: p.End()}}, piece{Token: source.Token{Text: p.Text, Kind: source.Word, Offset: p.End() + 2}, before: " "})
		}
	}
	return list
}

// openRest makes the hole of what stands for all that brackets hold.
func openRest(c code) code {
	for i := 1; i+1 < len(c); i++ {
		if c[i].Is(rest) && c[i-1].Is("(", "[", "{") && c[i+1].Is(closer[c[i-1].Text]) {
			c[i] = holeAt(c[i], rest)
		}
	}
	return c
}

// Examples are two from which the same template is learnt: in the place of people's
// code they have words that mean nothing.
func (t *Template) Examples() []Example {
	list := make([]Example, 2)
	for i, letter := range []string{"v", "w"} {
		list[i] = Example{From: t.from.with(letter), To: t.to.with(letter)}
	}
	return list
}

// with is the code with a word for each hole.
func (c code) with(letter string) string {
	var b strings.Builder
	for i, p := range c {
		if i > 0 {
			b.WriteString(p.before)
		}
		switch p.hole {
		case "":
			b.WriteString(p.Text)
		case rest:
			b.WriteString(rest)
		default:
			fmt.Fprintf(&b, "%s%d", letter, p.number)
		}
	}
	return b.String()
}

// number gives the holes of both sides their numbers.
func (t *Template) number() {
	numbers := map[string]int{}
	for _, side := range []code{t.from, t.to} {
		for i := range side {
			key := side[i].hole
			if key == "" {
				continue
			}
			if numbers[key] == 0 {
				numbers[key] = len(numbers) + 1
			}
			side[i].number = numbers[key]
		}
	}
	t.holes = len(numbers)
}

// anchor is the name by which places are found: the longest word or string of the
// code before that is no keyword, and gone behind if one is; -1 for none.
func (t *Template) anchor() int {
	best, most := -1, 0
	for i, p := range t.from {
		if p.hole != "" || p.Kind == source.Mark || p.Kind == source.Number || keywords[p.Text] {
			continue
		}
		weight := len(p.Text)
		if !slices.ContainsFunc(t.to, func(o piece) bool { return same(o, p) }) {
			weight += mostExample
		}
		if p.Kind == source.Word {
			weight += 2 * mostExample
		}
		if weight > most {
			best, most = i, weight
		}
	}
	return best
}
