package notes

import (
	"regexp"
	"strings"
)

// plainText reads a document without markup, as change logs have it: headings
// that are underlined, name a version, end with a colon or begin with "* " in
// an outline; bullets of any kind, nested by their indentation; paragraphs.
func plainText(source []byte) []*block {
	r := &textReader{lines: splitLines(source)}
	r.outline = r.isOutline()
	return r.blocks(0, len(r.lines), 0)
}

func splitLines(source []byte) []string {
	lines := strings.Split(strings.ReplaceAll(string(source), "\t", "        "), "\n")
	for i, line := range lines {
		lines[i] = strings.TrimRight(line, "\r \f")
	}
	return lines
}

type textReader struct {
	lines   []string
	outline bool // "* " and "** " are headings
}

// isOutline reports whether lines with stars, of two numbers that follow on each
// other, make an outline.
func (r *textReader) isOutline() bool {
	var has [5]bool
	for _, line := range r.lines {
		if n := stars(line); n < len(has) {
			has[n] = true
		}
	}
	return has[1] && has[2] || has[2] && has[3]
}

// stars counts the stars that a line of an outline begins with.
func stars(line string) int {
	n := len(line) - len(strings.TrimLeft(line, "*"))
	if n == len(line) || line[n] != ' ' {
		return 0
	}
	return n
}

// alone tells where the text of a starred line ends, with the indented lines
// that go on with it, and whether nothing stands below it: then it is an
// entry, not a heading.
func (r *textReader) alone(i int) (end int, alone bool) {
	end = i + 1
	for end < len(r.lines) && r.lines[end] != "" && indent(r.lines[end]) > 0 && !bulleted(r.lines[end]) {
		end++
	}
	next := end
	for next < len(r.lines) && r.lines[next] == "" {
		next++
	}
	if end == i+1 && !strings.HasSuffix(r.lines[i], ".") && headingVersion(r.lines[i]) != "" {
		return end, false
	}
	return end, next == len(r.lines) || stars(r.lines[next]) > 0 && stars(r.lines[next]) <= stars(r.lines[i]) || stars(r.lines[next]) == 0 && indent(r.lines[next]) == 0 && headingVersion(r.lines[next]) != ""
}

// blocks reads the lines from a to b, whose bullets are indented by more than
// least when they are nested.
func (r *textReader) blocks(a, b, least int) []*block {
	var blocks []*block
	for i := a; i < b; {
		if r.lines[i] == "" || adorned(r.lines[i]) || strings.HasPrefix(strings.TrimSpace(r.lines[i]), "-- ") { // the last signs an entry
			i++
			continue
		}
		if r.outline && least == 0 && stars(r.lines[i]) > 0 {
			if end, alone := r.alone(i); alone {
				words := make([]string, 0, end-i)
				for _, line := range r.lines[i:end] {
					words = append(words, strings.TrimLeft(line, "* "))
				}
				blocks = append(blocks, &block{text: quoted(strings.Join(words, "\n")), from: i + 1, end: end})
				i = end
				continue
			}
		}
		if level, end := r.heading(i); least == 0 && level > 0 {
			blocks = append(blocks, &block{kind: headline, level: level, text: strings.Trim(strings.TrimLeft(r.lines[i], "*# "), " :"), from: i + 1, end: end})
			i = end
			continue
		}
		if _, n := bullet(r.lines[i]); n > 0 {
			l, end := r.list(i, b)
			blocks = append(blocks, l)
			i = end
			continue
		}
		end := i + 1
		for end < b && r.lines[end] != "" && !adorned(r.lines[end]) && !bulleted(r.lines[end]) {
			if level, _ := r.heading(end); least == 0 && level > 0 {
				break
			}
			end++
		}
		blocks = append(blocks, r.text(i, end, blocks))
		i = end
	}
	return blocks
}

// text makes a paragraph of lines, or a block of code where they are indented
// under a paragraph that ends with a colon.
func (r *textReader) text(a, b int, above []*block) *block {
	if n := len(above); n > 0 && above[n-1].kind == paragraph && strings.HasSuffix(above[n-1].text, ":") && indent(r.lines[a]) >= indent(r.lines[above[n-1].from-1])+2 {
		return &block{kind: codeBlock, code: r.lines[a:b], from: a + 1, end: b}
	}
	words := make([]string, 0, b-a)
	for _, line := range r.lines[a:b] {
		words = append(words, strings.TrimSpace(line))
	}
	return &block{text: quoted(strings.Join(words, "\n")), from: a + 1, end: b}
}

// heading tells the level of the heading in a line, 0 for none, and where it
// ends.
func (r *textReader) heading(i int) (level, end int) {
	line := r.lines[i]
	if line == "" || adorned(line) {
		return 0, i
	}
	if r.outline {
		if n := stars(line); n > 0 {
			return n + 2, i + 1 // below a version that stands without stars
		}
	}
	if i+1 < len(r.lines) && adorned(r.lines[i+1]) && len(r.lines[i+1]) >= 3 && indent(line) == 0 {
		if r.lines[i+1][0] == '=' {
			return 1, i + 2
		}
		return 2, i + 2
	}
	if indent(line) > 0 || bulleted(line) {
		return 0, i
	}
	words := len(strings.Fields(line))
	switch {
	case headingVersion(line) != "" && words <= 8 && !strings.HasSuffix(line, "."):
		return 2, i + 1
	case strings.HasSuffix(line, ":") && words <= 5 && (i == 0 || r.lines[i-1] == "" || bulleted(r.lines[i-1])) && i+1 < len(r.lines) && (r.lines[i+1] == "" || bulleted(r.lines[i+1])):
		return 3, i + 1
	case words <= 6 && len(line) > 3 && line == strings.ToUpper(line) && strings.ToLower(line) != line && i+1 < len(r.lines) && r.lines[i+1] == "":
		return 3, i + 1
	}
	return 0, i
}

// list reads a list from a line on: its items, and what is indented under them.
func (r *textReader) list(i, b int) (*block, int) {
	l := &block{kind: list}
	at, _ := bullet(r.lines[i])
	for i < b {
		pos, n := bullet(r.lines[i])
		if n == 0 || pos != at {
			break
		}
		end := i + 1
		for end < b {
			line := r.lines[end]
			switch {
			case line == "":
				next := end
				for next < b && r.lines[next] == "" {
					next++
				}
				if next == b || indent(r.lines[next]) <= at {
					goto done
				}
			case indent(line) <= at && (bulleted(line) || r.lines[end-1] == ""):
				goto done
			case indent(line) <= at:
				if level, _ := r.heading(end); level > 0 {
					goto done
				}
			}
			end++
		}
	done:
		it := &block{kind: item, from: i + 1, end: end}
		first := r.lines[i]
		r.lines[i] = strings.Repeat(" ", pos+n) + first[pos+n:]
		it.sub = r.blocks(i, end, at+1)
		r.lines[i] = first
		it.grow()
		l.sub = append(l.sub, it)
		for i = end; i < b && r.lines[i] == ""; i++ {
		}
	}
	l.grow()
	return l, l.sub[len(l.sub)-1].end
}

// bullet finds a bullet at the start of a line: where it stands, and its width
// with the blanks behind it, 0 for none.
func bullet(line string) (at, width int) {
	at = indent(line)
	rest := line[at:]
	n := 0
	switch {
	case strings.HasPrefix(rest, "- "), strings.HasPrefix(rest, "* "), strings.HasPrefix(rest, "+ "), strings.HasPrefix(rest, "o "):
		n = 1
	case strings.HasPrefix(rest, "• "), strings.HasPrefix(rest, "· "), strings.HasPrefix(rest, "– "):
		n = strings.IndexByte(rest, ' ')
	default:
		for n < len(rest) && n < 3 && '0' <= rest[n] && rest[n] <= '9' {
			n++
		}
		if n == 0 || n+1 >= len(rest) || rest[n] != '.' && rest[n] != ')' || rest[n+1] != ' ' {
			return at, 0
		}
		n++
	}
	for n < len(rest) && rest[n] == ' ' {
		n++
	}
	return at, n
}

func bulleted(line string) bool { _, n := bullet(line); return n > 0 }

func indent(line string) int { return len(line) - len(strings.TrimLeft(line, " ")) }

// adorned reports whether a line only underlines: one character, repeated.
func adorned(line string) bool {
	return len(line) >= 2 && strings.IndexByte("=-~^\"'*+#_.:<>", line[0]) >= 0 && strings.Trim(line, line[:1]) == ""
}

// quoted sets names in backticks, as Markdown has them: what stands in quotes,
// and flags and calls. A text that has backticks of its own knows better.
func quoted(text string) string {
	if strings.Count(text, "`") > 0 && strings.Count(text, "`")%2 == 0 && !strings.Contains(text, "' ") {
		return text
	}
	var b strings.Builder
	for i := 0; i < len(text); i++ {
		c := text[i]
		if c == '"' || c == '\'' || c == '`' {
			close := c
			if c == '`' {
				close = '\''
			}
			if end := strings.IndexByte(text[i+1:], close); end > 0 && end < 60 && (i == 0 || text[i-1] == ' ' || text[i-1] == '(' || text[i-1] == '\n') && codeLike(text[i+1:i+1+end]) {
				b.WriteString("`" + text[i+1:i+1+end] + "`")
				i += end + 1
				continue
			}
		}
		if i == 0 || text[i-1] == ' ' || text[i-1] == '\n' || text[i-1] == '(' {
			if n := len(spelled.FindString(text[i:])); n > 0 {
				b.WriteString("`" + text[i:i+n] + "`")
				i += n - 1
				continue
			}
		}
		b.WriteByte(c)
	}
	return b.String()
}

// spelled is a flag, a call or a name with parts at the start of a text.
var spelled = regexp.MustCompile(`^(?:--?[A-Za-z][\w-]+|[A-Za-z_][\w.]*\(\)|[A-Za-z]\w*_\w+(?:\.\w+)*)`)

// codeLike reports whether quoted words are a name: one word of it.
func codeLike(s string) bool {
	return s != "" && !strings.ContainsAny(s, " \n") && strings.ContainsAny(s, "abcdefghijklmnopqrstuvwxyzABCDEFGHIJKLMNOPQRSTUVWXYZ")
}
