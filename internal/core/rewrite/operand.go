package rewrite

import (
	"strings"

	"unicausa/internal/core/source"
)

// pairs gives for each bracket its partner, -1 for other tokens; nil where they do
// not close. What stands in a hole of a text closes within it.
func pairs(tokens []source.Token) []int {
	partner := make([]int, len(tokens))
	var open []int
	for i, t := range tokens {
		partner[i] = -1
		switch {
		case t.Is("(", "[", "{"):
			open = append(open, i)
		case t.Is(")", "]", "}"):
			if len(open) == 0 || closer[tokens[open[len(open)-1]].Text] != t.Text {
				return nil
			}
			last := open[len(open)-1]
			partner[i], partner[last] = last, i
			open = open[:len(open)-1]
		case t.Kind == source.Quoted:
			if strings.HasPrefix(t.Text, "}") {
				if len(open) == 0 || tokens[open[len(open)-1]].Kind != source.Quoted {
					return nil
				}
				open = open[:len(open)-1]
			}
			if strings.HasSuffix(t.Text, "${") || strings.HasSuffix(t.Text, "#{") {
				open = append(open, i)
			}
		}
	}
	if len(open) > 0 {
		return nil
	}
	return partner
}

var closer = map[string]string{"(": ")", "[": "]", "{": "}"}

// keywords never stand for an operand.
var keywords = map[string]bool{}

func init() {
	for _, w := range strings.Fields("return await new import from export require def func fn function class interface type struct enum trait impl if else elif elsif for while do let const var val use using package yield throw raise in is not and or as async static public private protected final end then unless with try catch except finally switch case when match delete typeof instanceof extends implements") {
		keywords[w] = true
	}
}

// joint reports whether a mark leads from a value to its member.
func joint(t source.Token) bool { return t.Is(".", "::", "->", "?.") }

// operand reports whether tokens from i up to j are a whole operand where they stand:
// balanced, no part of a name with its owner, no callee, no key.
func operand(tokens []source.Token, partner []int, i, j int) bool {
	words := false
	for k := i; k < j; k++ {
		t := tokens[k]
		switch {
		case partner[k] > k && partner[k] < j:
			words, k = true, partner[k]
			continue
		case partner[k] >= 0, t.Is(",", ";", "="), t.Is(":") && k == i+1 && tokens[i].Kind == source.Word:
			return false
		}
		if k > i && t.Kind == source.Word && tokens[k-1].Kind == source.Word && !keywords[t.Text] && !keywords[tokens[k-1].Text] {
			return false // a type and what is declared of it
		}
		words = words || t.Kind != source.Mark && !(t.Kind == source.Word && keywords[t.Text])
	}
	last := tokens[j-1]
	switch {
	case !words || joint(last) || tokens[i].Kind == source.Mark && !tokens[i].Is("(", "[", "{", "-", "!", "&", "*"):
		return false
	case last.Kind == source.Mark && !last.Is(")", "]", "}"):
		return false
	case i > 0 && (joint(tokens[i-1]) || tokens[i-1].Is("@", "#", "\\", ":") && tokens[i-1].End() == tokens[i].Offset && (i == 1 || tokens[i-2].End() != tokens[i-1].Offset)):
		return false
	case i > 0 && tokens[i].Is("(", "[", "{") && tokens[i-1].End() == tokens[i].Offset && (tokens[i-1].Kind == source.Word || tokens[i-1].Is(")", "]")):
		return false // what a call or an index takes
	case j == len(tokens):
		return true
	}
	next := tokens[j]
	switch {
	case next.Is("(", "[", "{", "!", "?") && next.Offset == last.End(), next.Is("(") && last.Kind == source.Word:
		return false // a callee
	case j-i == 1 && last.Kind == source.Word && (next.Is(":") || next.Is("=", "=>") && i > 0 && tokens[i-1].Is("(", ",", "{", "[")):
		return false // a key
	case j-i == 1 && joint(next) && last.Text[0] >= 'A' && last.Text[0] <= 'Z':
		return false // a class
	}
	return true
}
