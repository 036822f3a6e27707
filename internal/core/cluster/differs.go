package cluster

import (
	"cmp"
	"math"
	"regexp"
	"slices"
	"sort"
	"strconv"
	"strings"
	"unicode"

	"unicausa/internal/core/symptom"
)

// Differs says in words of release notes how a value that a test got differs
// from the one it expected: in its decimals, its case, its order, its
// separators and so on. It returns nothing where the values are just different.
func Differs(expected, actual string) []string {
	a, b := plain(expected), plain(actual)
	if a == b || a == "" && b == "" {
		return nil
	}
	if numeric(a) && numeric(b) {
		return numbers(a, b)
	}
	squeeze := func(keep func(rune) bool) bool { return only(a, keep) == only(b, keep) }
	switch {
	case noValue[strings.ToLower(a)] != noValue[strings.ToLower(b)]:
		return []string{"null", "nil", "none", "undefined", "empty", "optional", "missing"}
	case strings.TrimRight(a, "\r\n") == strings.TrimRight(b, "\r\n"):
		return []string{"newline", "line", "break", "trailing"}
	case squeeze(func(r rune) bool { return !unicode.IsSpace(r) }):
		return []string{"space", "spaces", "whitespace", "blank", "blanks", "trim", "trimmed", "padded", "break", "indent", "pretty", "print", "formatted"}
	case strings.EqualFold(a, b):
		return []string{"case", "capital", "capitals", "upper", "lower", "uppercase", "lowercase", "letters"}
	case squeeze(func(r rune) bool { return unicode.IsLetter(r) || unicode.IsDigit(r) }) && only(a, unicode.IsLetter) != only(a, func(rune) bool { return true }):
		return append([]string{"separator", "separated", "delimiter", "punctuation"}, signs(a, b)...)
	case printable(a) != printable(b) && (escapes.MatchString(a) || escapes.MatchString(b)):
		return []string{"escape", "escaped", "encode", "encoded", "encoding", "unicode", "ascii", "character", "characters"}
	}
	x, y := pieces(a), pieces(b)
	if len(x) == len(y) && len(x) > 1 && !slices.Equal(x, y) {
		p, q := slices.Clone(x), slices.Clone(y)
		sort.Strings(p)
		sort.Strings(q)
		if slices.Equal(p, q) {
			return []string{"order", "ordered", "sort", "sorted", "alphabetical", "alphabetically", "first"}
		}
	}
	if len(x) != len(y) {
		return nil
	}
	var list []string
	for i := range x {
		if x[i] != y[i] {
			list = append(list, numbers(x[i], y[i])...)
		}
	}
	return list
}

// difference is the sort of difference between the two values of a failed
// comparison, or "" where there is none, or none that two tests could share.
func difference(s *symptom.Symptom) string {
	expected, actual := Values(s)
	if words := Differs(expected, actual); words != nil {
		return strings.Join(words, " ")
	}
	a, b := plain(expected), plain(actual)
	switch {
	case a == b:
		return ""
	case !numeric(a) || !numeric(b):
		return "text " + strconv.Itoa(cmp.Compare(len(a), len(b)))
	}
	x, _ := strconv.ParseFloat(a, 64)
	y, _ := strconv.ParseFloat(b, 64)
	return "number " + strconv.FormatBool(x < y)
}

// numbers says how two numbers differ.
func numbers(expected, actual string) []string {
	if !numeric(expected) || !numeric(actual) {
		return nil
	}
	x, _ := strconv.ParseFloat(expected, 64)
	y, _ := strconv.ParseFloat(actual, 64)
	decimals := func(s string) int { _, after, _ := strings.Cut(s, "."); return len(after) }
	switch {
	case x == y && decimals(expected) == decimals(actual):
		return []string{"zero", "zeros", "leading", "padded", "digits"}
	case x == y:
		return []string{"decimal", "zeros", "trailing", "scale", "digits", "decimals", "precision"}
	case decimals(expected) != decimals(actual) && math.Abs(x-y) <= 0.51*math.Pow10(-min(decimals(expected), decimals(actual))):
		return []string{"decimal", "decimals", "digit", "digits", "place", "places", "precision", "round", "rounded", "rounding"}
	case slices.Contains([]float64{1 << 8, 1 << 16, 1 << 32}, math.Abs(x-y)): // one of them does not fit
		return []string{"unsigned", "signed", "sign", "overflow", "overflows", "wrap", "wraps", "bits", "negative"}
	case x == -y:
		return []string{"sign", "negative", "positive"}
	case decimals(expected) > 0 && math.Abs(x-y) < 1.5*math.Pow10(-decimals(expected)):
		return []string{"round", "rounded", "rounding", "half", "halves", "precision", "digits"}
	case decimals(expected) == 0 && math.Abs(x-y) == 1:
		return []string{"round", "rounded", "rounding", "half", "halves", "inclusive", "exclusive", "including", "counted", "counts"}
	case x != 0 && y != 0 && slices.Contains([]float64{10, 100, 1000, 60, 3600, 24, 1024}, math.Max(x/y, y/x)):
		return []string{"unit", "units", "scale", "seconds", "minutes", "hours", "milliseconds", "thousand"}
	}
	return nil
}

func numeric(s string) bool {
	_, err := strconv.ParseFloat(s, 64)
	return err == nil
}

// noValue are the words for no value.
var noValue = map[string]bool{"": true, "null": true, "nil": true, "none": true, "undefined": true, "<nil>": true, "{}": true, "[]": true, "nan": true}

// plain is a value without its quotes, with its escapes read.
func plain(value string) string {
	value = strings.TrimSpace(value)
	if s, err := strconv.Unquote(value); err == nil {
		return s
	}
	if n := len(value); n > 1 && value[0] == value[n-1] && strings.IndexByte(`'"`, value[0]) >= 0 {
		value = strings.NewReplacer(`\n`, "\n", `\t`, "\t", `\u00a0`, "\u00a0").Replace(value[1 : n-1])
	}
	return value
}

func only(s string, keep func(rune) bool) string {
	return strings.Map(func(r rune) rune {
		if keep(r) {
			return r
		}
		return -1
	}, s)
}

var parts = regexp.MustCompile(`-?\d+(?:\.\d+)?|\p{L}+`)

func pieces(s string) []string { return parts.FindAllString(s, -1) }

// signs names the signs that one of two values has more of.
func signs(a, b string) []string {
	var list []string
	for sign, names := range signNames {
		if strings.Count(a, sign) != strings.Count(b, sign) {
			list = append(list, names...)
		}
	}
	sort.Strings(list)
	return slices.Compact(list)
}

// signNames are what notes call signs.
var signNames = map[string][]string{
	",": {"comma", "commas"}, ";": {"semicolon"}, ":": {"colon"}, ".": {"dot"}, "-": {"dash", "hyphen"}, "_": {"underscore"}, "/": {"slash"}, "|": {"bar", "pipe"}, "\t": {"tab"}, "+": {"plus"}, "=": {"equals"}, "#": {"hash"},
	"\"": {"quote", "quotes", "quoted"}, "'": {"quote", "quotes", "quoted"}, "(": {"parenthesis", "parentheses"}, "[": {"bracket", "brackets"}, "{": {"brace", "braces"}, "<": {"angle"}, "!": {"exclamation"}, "%": {"percent"}, "&": {"ampersand"}, "*": {"asterisk"}, "$": {"dollar"}, "\\": {"backslash"},
}

// escapes are what stands for characters that are not of ASCII, or cannot be seen.
var escapes = regexp.MustCompile(`\\[uUxN]\{?[0-9A-Fa-f]{2,}|&#x?[0-9A-Fa-f]+;|%[0-9A-F]{2}`)

// printable reports whether all of a text is of ASCII and can be seen.
func printable(s string) bool {
	return strings.IndexFunc(s, func(r rune) bool { return r > unicode.MaxASCII || r < ' ' && r != '\n' }) < 0
}

// Values are what a failed test expected and what it got, from its facts or
// from the words of its message and detail.
func Values(s *symptom.Symptom) (expected, actual string) {
	expected, actual = s.Named(symptom.Expected), s.Named(symptom.Actual)
	if expected != "" || actual != "" {
		return expected, actual
	}
	text := s.Message
	if s.Detail != "" {
		text += "\n" + s.Detail
	}
	for _, c := range compared {
		if !strings.Contains(text, c.mark) {
			continue
		}
		text := text
		if strings.HasSuffix(c.mark, "<") { // values of several lines stand whole in the detail, next to the mark
			if strings.Contains(s.Detail, c.mark) {
				text = s.Detail
			}
			if from := strings.LastIndex(text[:strings.Index(text, c.mark)], "expected:"); from > 0 {
				text = text[from:]
			}
		}
		if m := c.form.FindStringSubmatch(text); m != nil {
			expected, actual = m[c.form.SubexpIndex("e")], m[c.form.SubexpIndex("a")]
			if c.mark == "but was:<" { // what differs stands in brackets
				expected, actual = unmarked.Replace(expected), unmarked.Replace(actual)
			}
			return expected, actual
		}
	}
	return "", ""
}

var unmarked = strings.NewReplacer("[", "", "]", "")

// compared are the forms in which test frameworks set one value against
// another. Mark is what a text must hold to be worth a look.
var compared = []struct {
	mark string
	form *regexp.Regexp
}{
	{"but was:<", regexp.MustCompile(`(?s)expected:<(?P<e>.*?)> but was:<(?P<a>.*?)>[ \t]*(?:\n|$)`)},
	{"but was: <", regexp.MustCompile(`(?s)expected: <(?P<e>.*?)> but was: <(?P<a>.*?)>[ \t]*(?:\n|$)`)},
	{"assert ", regexp.MustCompile(`(?m)^\W*(?:AssertionError: )?assert (?P<a>'[^'\n]*'|"[^"\n]*"|[-\d.]+) == (?P<e>'[^'\n]*'|"[^"\n]*"|[-\d.]+)`)},
	{"Failed asserting", regexp.MustCompile(`Failed asserting that (?P<a>\S+) (?:matches expected|is identical to) (?P<e>\S+?)\.?\s`)},
	{"!=", regexp.MustCompile(`(?m)^(?P<a>'[^'\n]*'|"[^"\n]*"|[-\d.]+) !==? (?P<e>'[^'\n]*'|"[^"\n]*"|[-\d.]+)$`)},
	{"\n", regexp.MustCompile(`(?m)^\s*-\s?(?P<e>['"].*['"]),?\s*\n\s*\+\s?(?P<a>['"].*['"]),?\s*$`)},
	{"\n", regexp.MustCompile(`(?m)^\s*\+\s?(?P<a>['"].*['"]),?\s*\n\s*-\s?(?P<e>['"].*['"]),?\s*$`)},
	{"xpected", regexp.MustCompile(`(?i)\bexpected:? (?P<e>'[^'\n]*'|"[^"\n]*"|[-\d.]+),? (?:but )?(?:got|was|received|actual):? (?P<a>'[^'\n]*'|"[^"\n]*"|[-\d.]+)`)},
	{"right:", regexp.MustCompile(`(?m)^\s*left:\s+(?P<a>.+)\n\s*right:\s+(?P<e>.+)$`)},
	{"xpected", regexp.MustCompile(`(?m)^\s*(?:Expected|expected):?\s+(?P<e>\S.*)\n\s*(?:Actual|Received|actual|got):?\s+(?P<a>\S.*)$`)},
}
