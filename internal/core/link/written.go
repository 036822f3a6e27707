package link

import (
	"math"
	"regexp"
	"slices"
	"strings"
	"unicode"

	"unicausa/internal/core/cluster"
)

// written is how texts and examples are written, whatever their words: a run of letters is
// one "w", a number one "d" ("0d" with a zero in front), signs are themselves, and blanks
// are left out. An example in which several words follow one another keeps them.
//
//	/:single            /:w
//	!<!tag>             !<!w>
//	01234               0d
//	(X:Y)               (w:w) and (d:d): a capital stands for any value
//	at line X, column Y at line d, column d
type written struct {
	form   string
	spoken bool // it keeps its words
}

var (
	alphanumeric = regexp.MustCompile(`[\pL_][\pL\d_]*|\d+`)
	placeholder  = regexp.MustCompile(`\b[A-Z]\b`)
	sentence     = regexp.MustCompile(`\pL{2,}\s+\pL+`)
)

// form is how a text is written.
func form(text string) string {
	short := alphanumeric.ReplaceAllStringFunc(text, func(run string) string {
		switch {
		case !unicode.IsDigit(rune(run[0])):
			return "w"
		case run[0] == '0' && len(run) > 1:
			return "0d"
		}
		return "d"
	})
	return strings.Join(strings.Fields(short), "")
}

// spoken is a text in small letters, with its numbers as "d".
func spoken(text string) string {
	return strings.Join(strings.Fields(number.ReplaceAllString(strings.ToLower(text), "d")), " ")
}

var number = regexp.MustCompile(`\d+`)

// ways are the forms of an example that are worth a search.
func ways(example string) []written {
	if sentence.MatchString(example) {
		way := written{spoken(placeholder.ReplaceAllString(example, "0")), true}
		if len(way.form) < shortestSpoken {
			return nil
		}
		return []written{way}
	}
	list := []written{{form: form(example)}}
	if other := form(placeholder.ReplaceAllString(example, "1")); other != list[0].form {
		list = append(list, written{form: other})
	}
	return slices.DeleteFunc(list, func(w written) bool { return signsOf(w.form) == 0 })
}

// everyday are forms that all code has: an option with its value, a word in brackets.
var everyday = regexp.MustCompile(`^(?:w[:=].{0,3}|[\[({<]w[\])}>])$`)

// shortestSpoken is the least length of an example of several words.
const shortestSpoken = 8

// signsOf counts the signs of a form, a zero in front of a number among them; those in a
// path, a call or a list are everywhere.
func signsOf(form string) int {
	n := 0
	for _, sign := range usual.ReplaceAllString(form, "") {
		if sign != 'w' && sign != 'd' {
			n++
		}
	}
	return n
}

var usual = regexp.MustCompile(`\(\)|w[./,]w|w\(w\)|d[.,]d|["'` + "`" + `;]`)

// seen is a text of a cause in both its forms.
type seen struct{ form, spoken string }

func seenAs(text string) seen {
	text = strings.ToValidUTF8(text[:min(len(text), longestSeen)], "")
	return seen{form(text), spoken(text)}
}

// How much of a cause's texts is looked at: of each, in bytes, and how many of a kind.
const (
	longestSeen = 500
	mostSeen    = 60
)

func (s seen) has(w written) bool {
	if w.spoken {
		return strings.Contains(s.spoken, w.form)
	}
	return strings.Contains(s.form, w.form)
}

// compared are the two values of one failed comparison.
type compared struct{ expected, actual seen }

// How much an example says that is in one of two compared values alone, in the message or a
// text of the source line, and in one further away; and how much more where it is there word
// for word, and less where it has one sign alone.
const (
	inValue  = 1.5
	inQuote  = 1.0
	inBody   = 0.7
	verbatim = 1.5
	fewSigns = 0.6
)

// observe takes the texts in which the examples of notes are looked for, and those that a
// message itself shows.
func (q *query) observe(m *cluster.Member, expected, actual string) {
	if len(q.compared)+len(q.quotes) > mostSeen {
		return
	}
	if expected != "" || actual != "" {
		q.compared = append(q.compared, compared{seenAs(expected), seenAs(actual)})
	} else {
		q.quotes = append(q.quotes, seenAs(m.Symptom.Message))
		for _, text := range texts.FindAllString(m.Symptom.Message, 8) {
			q.proposed = append(q.proposed, slices.DeleteFunc(ways(text[1:len(text)-1]), func(w written) bool { return signsOf(w.form) < 2 })...)
		}
	}
	for _, text := range texts.FindAllString(m.Source, 8) {
		q.quotes = append(q.quotes, seenAs(text))
	}
}

// example is the example of a change that the cause's texts hold, and how much that says.
func (q *query) example(x *Index, i int) (best string, weight float64) {
	second := 0.0
	for n, example := range x.changes[i].Examples {
		score := 0.0
		for _, w := range x.ways[i][n] {
			if !everyday.MatchString(w.form) {
				score = math.Max(score, q.holds(w, spoken(example))/math.Sqrt(float64(len(x.byForm[w]))))
			}
		}
		if slices.ContainsFunc(q.proposed, seenAs(example).has) {
			score = math.Max(score, inQuote)
		}
		if score > weight {
			best, weight, second = example, score, weight
		} else {
			second = math.Max(second, score)
		}
	}
	return best, weight + second/2
}

// holds is how much it says that an example is written in this way.
func (q *query) holds(w written, words string) (score float64) {
	for _, c := range q.compared {
		if c.expected.has(w) != c.actual.has(w) {
			score = inValue
		}
	}
	few := !w.spoken && signsOf(w.form) < 2
	if few && !strings.ContainsAny(w.form, "0d") {
		return fewSigns * score
	}
	for _, texts := range []struct {
		list   []seen
		weight float64
	}{{q.quotes, inQuote}, {q.further, inBody}} {
		for _, s := range texts.list {
			if s.has(w) {
				score = math.Max(score, texts.weight)
				if strings.Contains(s.spoken, words) {
					score = math.Max(score, verbatim*texts.weight)
				}
			}
		}
	}
	if few {
		score *= fewSigns
	}
	return score
}

// exampled are the changes of which an example is written as some text of the cause.
func (x *Index) exampled(q *query) (list []int) {
	texts := slices.Concat(q.quotes, q.further)
	for _, c := range q.compared {
		texts = append(texts, c.expected, c.actual)
	}
	if len(texts) == 0 {
		return nil
	}
	var forms, words strings.Builder
	for _, s := range texts {
		forms.WriteString(s.form + "\x00")
		words.WriteString(s.spoken + "\x00")
	}
	all := seen{forms.String(), words.String()}
	for w, changes := range x.byForm {
		if len(changes) <= mostOf && all.has(w) {
			list = append(list, changes...)
		}
	}
	return list
}
