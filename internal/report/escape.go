package report

import "strings"

// harmless is a text as Markdown shows it word for word, outside of its code spans: what
// a tool printed and what notes say loads no picture, is no markup and no link.
func harmless(text string) string {
	var b strings.Builder
	for i := 0; i < len(text); {
		switch c := text[i]; {
		case c == '`':
			run := len(text[i:]) - len(strings.TrimLeft(text[i:], "`"))
			if end := closing(text[i+run:], run); end >= 0 {
				b.WriteString(text[i : i+run+end+run])
				i += run + end + run
				continue
			}
			b.WriteString(strings.Repeat("\\`", run))
			i += run
		case c == '<':
			b.WriteString("&lt;")
			i++
		case c == '!' && strings.HasPrefix(text[i:], "!["):
			b.WriteString(`!\[`)
			i += 2
		case c == ']' && strings.HasPrefix(text[i:], "]("):
			b.WriteString(`]\(`)
			i += 2
		default:
			b.WriteByte(c)
			i++
		}
	}
	return b.String()
}

// closing is where a run of so many backticks stands that ends a code span, -1 for nowhere.
func closing(text string, run int) int {
	for i := 0; i < len(text); {
		n := strings.IndexByte(text[i:], '`')
		if n < 0 {
			return -1
		}
		i += n
		length := len(text[i:]) - len(strings.TrimLeft(text[i:], "`"))
		if length == run {
			return i
		}
		i += length
	}
	return -1
}
