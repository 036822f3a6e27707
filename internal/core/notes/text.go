package notes

import (
	"regexp"
	"strings"
)

var (
	markLink  = regexp.MustCompile(`!?\[([^\]]*)\](?:\([^)]*\)|\[(?:[a-z0-9][^\]]*)?\])`)
	markText  = regexp.MustCompile(`\[([A-Z]\w*)\]\[([A-Z]\w*)\]`) // no link: two subjects
	markPlain = strings.NewReplacer("**", "", "__", "", "`", "", "\\", "")
)

// plain is a text without its markup, on one line.
func plain(words string) string {
	if strings.Contains(words, "](") || strings.Contains(words, "][") {
		words = markLink.ReplaceAllString(markText.ReplaceAllString(words, "$1 $2"), "$1")
	}
	words = unescaped(words)
	switch {
	case strings.Contains(words, "__") && strings.Contains(words, "`"): // what is code keeps its signs
		spans := strings.Split(words, "`")
		for i := 0; i < len(spans); i += 2 {
			spans[i] = markPlain.Replace(spans[i])
		}
		words = strings.Join(spans, "")
	case strings.ContainsAny(words, "*_`\\"):
		words = markPlain.Replace(words)
	}
	return oneLine(words)
}

// plainStart is a text without the marks of emphasis around its first words.
func plainStart(words string) string {
	words = strings.TrimLeft(words, " \n")
	for _, mark := range []string{"**", "__"} {
		if rest, ok := strings.CutPrefix(words, mark); ok {
			words = strings.Replace(rest, mark, "", 1)
		}
	}
	return words
}

// oneLine joins a text's words with single blanks.
func oneLine(words string) string {
	if strings.ContainsAny(words, "\n\t\r\v\f\u0085\u00a0") || strings.Contains(words, "  ") {
		return strings.Join(strings.Fields(words), " ")
	}
	return strings.Trim(words, " ")
}

// abbreviated is a text that ends with an abbreviation, not with a sentence.
var abbreviated = regexp.MustCompile(`(?i)\b(?:e\.g|i\.e|etc|vs|cf|incl|resp)\.$`)

// firstSentence is the start of a text, up to the end of its first sentence.
func firstSentence(words string) string {
	words = oneLine(words)
	for i := 0; i+1 < len(words); i++ {
		if (words[i] == '.' || words[i] == ':') && words[i+1] == ' ' && strings.Count(words[:i], "`")%2 == 0 && i > 12 && !abbreviated.MatchString(words[:i+1]) {
			return strings.TrimRight(words[:i+1], ".:")
		}
	}
	return strings.TrimRight(words, ".:")
}
