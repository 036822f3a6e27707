package notes

import (
	"regexp"
	"strings"
)

// rst reads reStructuredText as the Docutils specification has it, as far as
// change logs use it: sections, lists, literal blocks, tables, definition
// lists, and directives of which the content matters.
func rst(source []byte) []*block {
	r := &rstReader{lines: splitLines(source), levels: map[string]int{}}
	return r.blocks(0, len(r.lines), 0)
}

type rstReader struct {
	lines  []string
	levels map[string]int // adornment to the level of its headings
}

// blocks reads the lines from a to b, which are indented by at least base.
func (r *rstReader) blocks(a, b, base int) []*block {
	var blocks []*block
	for i := a; i < b; {
		line := r.lines[i]
		switch {
		case line == "":
			i++
		case base == 0 && r.section(i) > 0:
			h, end := r.headline(i)
			blocks = append(blocks, h)
			i = end
		case strings.HasPrefix(strings.TrimSpace(line), ".. ") || strings.TrimSpace(line) == "..":
			found, end := r.directive(i, b)
			blocks = append(blocks, found...)
			i = end
		case bulleted(line) || strings.HasPrefix(strings.TrimSpace(line), "#. "):
			l, end := r.list(i, b)
			blocks = append(blocks, l)
			i = end
		case r.simpleTable(i):
			t, end := r.tableBlock(i, b)
			blocks = append(blocks, t)
			i = end
		case strings.HasPrefix(strings.TrimSpace(line), "+-"):
			t, end := r.grid(i, b)
			blocks = append(blocks, t)
			i = end
		default:
			found, end := r.paragraph(i, b)
			blocks = append(blocks, found...)
			i = end
		}
	}
	return blocks
}

// section reports whether a section title begins in a line: 1 with a line under
// it, 2 with one above as well.
func (r *rstReader) section(i int) int {
	at := func(n int) string {
		if i+n < len(r.lines) {
			return r.lines[i+n]
		}
		return ""
	}
	switch {
	case adorned(at(0)) && len(at(0)) >= 3 && at(1) != "" && at(2) == at(0):
		return 2
	case at(0) != "" && !adorned(at(0)) && indent(at(0)) == 0 && adorned(at(1)) && len(at(1)) >= 3 && len([]rune(at(1)))+2 >= len([]rune(at(0))):
		return 1
	}
	return 0
}

func (r *rstReader) headline(i int) (*block, int) {
	over := r.section(i) - 1
	style := r.lines[i+1][:1]
	if over == 1 {
		style = r.lines[i][:1] + "above"
	}
	if r.levels[style] == 0 {
		r.levels[style] = len(r.levels) + 1
	}
	return &block{kind: headline, level: r.levels[style], text: inline(strings.TrimSpace(r.lines[i+over])), from: i + 1 + over, end: i + 2 + over}, i + 2 + over
}

// under is the line behind the block that is indented by more than base, from
// a line on.
func (r *rstReader) under(i, b, base int) int {
	end := i
	for n := i; n < b; n++ {
		if r.lines[n] == "" {
			continue
		}
		if indent(r.lines[n]) <= base {
			break
		}
		end = n + 1
	}
	return end
}

var directiveHead = regexp.MustCompile(`^\s*\.\. (?:\|[^|]+\| )?([\w:-]+)::\s*(.*)$`)

// directive reads an explicit markup block: code keeps its lines, notes and
// statements of versions their text, comments and targets nothing.
func (r *rstReader) directive(i, b int) ([]*block, int) {
	base := indent(r.lines[i])
	end := max(r.under(i+1, b, base), i+1)
	m := directiveHead.FindStringSubmatch(r.lines[i])
	if m == nil {
		return nil, end
	}
	name, argument := m[1], strings.TrimSpace(m[2])
	from := i + 1
	for from < end && strings.HasPrefix(strings.TrimSpace(r.lines[from]), ":") { // its options
		from++
	}
	switch name {
	case "code-block", "code", "sourcecode", "highlight", "parsed-literal":
		return []*block{{kind: codeBlock, code: dedent(r.lines[from:end]), from: i + 1, end: end}}, end
	case "module", "currentmodule", "program", "default-role", "image", "figure", "toctree", "contents", "include", "raw", "index", "only", "meta":
		return nil, end
	}
	inner := r.blocks(from, end, base+1)
	lead := ""
	switch name {
	case "versionadded":
		lead = "Added in " + argument
	case "versionchanged":
		lead = "Changed in " + argument
	case "deprecated", "versionremoved":
		lead = strings.ToUpper(name[:1]) + strings.TrimPrefix(name[1:], "ersion") + " in " + argument
	default:
		lead = argument
	}
	if lead == "" {
		return inner, end
	}
	head := &block{text: inline(lead), from: i + 1, end: i + 1}
	if len(inner) > 0 && inner[0].kind == paragraph {
		inner[0].text, inner[0].from = head.text+": "+inner[0].text, head.from
		return inner, end
	}
	return append([]*block{head}, inner...), end
}

func (r *rstReader) list(i, b int) (*block, int) {
	l := &block{kind: list}
	at := indent(r.lines[i])
	end := i
	for i < b && r.lines[i] != "" && indent(r.lines[i]) == at {
		line := strings.Replace(r.lines[i], "#. ", "1. ", 1)
		_, n := bullet(line)
		if n == 0 {
			break
		}
		end = max(r.under(i+1, b, at), i+1)
		it := &block{kind: item, from: i + 1, end: end}
		first := r.lines[i]
		r.lines[i] = strings.Repeat(" ", at+n) + line[at+n:]
		it.sub = r.blocks(i, end, at+1)
		r.lines[i] = first
		it.grow()
		l.sub = append(l.sub, it)
		for i = end; i < b && r.lines[i] == ""; i++ {
		}
	}
	l.grow()
	return l, end
}

// paragraph reads the lines up to a blank one; what ends with "::" has a
// literal block behind it. An indented block right under a single line is its
// definition.
func (r *rstReader) paragraph(i, b int) ([]*block, int) {
	base, end := indent(r.lines[i]), i+1
	for end < b && r.lines[end] != "" && indent(r.lines[end]) == base && !strings.HasPrefix(strings.TrimSpace(r.lines[end]), ".. ") {
		if base == 0 && r.section(end) > 0 {
			break
		}
		end++
	}
	p := &block{text: inline(rstField.ReplaceAllString(joined(r.lines[i:end]), "$1: ")), from: i + 1, end: end}
	literal := strings.HasSuffix(p.text, "::")
	if literal { // "text::" reads as "text:", "::" alone as nothing
		p.text = strings.TrimRight(strings.TrimSuffix(p.text, ":"), " ")
		p.text = strings.TrimSuffix(p.text, " :")
		if p.text == ":" {
			p.text = ""
		}
	}
	next := end
	for next < b && r.lines[next] == "" {
		next++
	}
	if literal && next < b && indent(r.lines[next]) > base {
		last := r.under(next, b, base)
		code := &block{kind: codeBlock, code: dedent(r.lines[next:last]), from: next + 1, end: last}
		if p.text == "" {
			return []*block{code}, last
		}
		return []*block{p, code}, last
	}
	if next == end && end == i+1 && next < b && indent(r.lines[next]) > base { // a definition
		last := r.under(next, b, base)
		inner := r.blocks(next, last, base+1)
		if len(inner) > 0 && inner[0].kind == paragraph {
			inner[0].text, inner[0].from = p.text+": "+inner[0].text, p.from
			return inner, last
		}
		return append([]*block{p}, inner...), last
	}
	return []*block{p}, end
}

// rstField is the name of a field at the start of a paragraph.
var rstField = regexp.MustCompile(`^:([A-Za-z][\w ]*): +`)

var simpleRule = regexp.MustCompile(`^\s*=+(?: +=+)+$`)

func (r *rstReader) simpleTable(i int) bool { return simpleRule.MatchString(r.lines[i]) }

// tableBlock reads a simple table, whose columns stand under runs of "=".
func (r *rstReader) tableBlock(i, b int) (*block, int) {
	rule := r.lines[i]
	var columns []int
	for n := range len(rule) {
		if rule[n] == '=' && (n == 0 || rule[n-1] == ' ') {
			columns = append(columns, n)
		}
	}
	t := &block{kind: table, from: i + 1}
	rules := 1
	end := i + 1
	for ; end < b; end++ {
		line := r.lines[end]
		if line == "" && rules > 1 && (end+1 >= b || !simpleRule.MatchString(r.lines[min(end+1, b-1)])) {
			break
		}
		if simpleRule.MatchString(line) {
			if rules++; rules == 2 {
				for _, row := range t.sub {
					row.head = true
				}
			}
			if rules == 3 {
				end++
				break
			}
			continue
		}
		if line == "" {
			continue
		}
		cells := make([]string, len(columns))
		for c, from := range columns {
			to := len(line)
			if c+1 < len(columns) {
				to = min(columns[c+1], len(line))
			}
			if from < to {
				cells[c] = inline(strings.TrimSpace(line[from:to]))
			}
		}
		t.addRow(cells, end+1)
	}
	t.end = end
	return t, end
}

// grid reads a grid table: "+---+" between rows, "|" between cells.
func (r *rstReader) grid(i, b int) (*block, int) {
	t := &block{kind: table, from: i + 1}
	fresh := true
	end := i
	for ; end < b; end++ {
		line := strings.TrimSpace(r.lines[end])
		switch {
		case strings.HasPrefix(line, "+="):
			for _, row := range t.sub {
				row.head = true
			}
			fresh = true
		case strings.HasPrefix(line, "+-"):
			fresh = true
		case strings.HasPrefix(line, "|"):
			var cells []string
			for _, c := range strings.Split(strings.Trim(line, "|"), "|") {
				cells = append(cells, inline(strings.TrimSpace(c)))
			}
			if fresh {
				t.addRow(cells, end+1)
			} else if last := t.sub[len(t.sub)-1]; len(last.cells) == len(cells) {
				for c := range cells {
					last.cells[c] = strings.TrimSpace(last.cells[c] + " " + cells[c])
				}
				last.end = end + 1
			}
			fresh = false
		default:
			t.end = end
			return t, end
		}
	}
	t.end = end
	return t, end
}

func (b *block) addRow(cells []string, line int) {
	b.sub = append(b.sub, &block{kind: row, cells: cells, text: strings.Join(cells, "\n"), from: line, end: line})
}

var (
	rstRole    = regexp.MustCompile(":[a-zA-Z][\\w:.+-]*:`[!~]?([^`<]+?)(?: ?<([^>`]*)>)?`")
	rstLink    = regexp.MustCompile("`([^`<]+?)\\s*<[^>`]*>`__?")
	rstTarget  = regexp.MustCompile("`([^`]+)`__?(?:[^\\w`]|$)")
	rstLiteral = regexp.MustCompile("``([^`]+?)``")
)

// wordRoles set words, not code.
var wordRoles = map[string]bool{}

func init() {
	for _, name := range strings.Fields("doc ref term numref any abbr guilabel menuselection dfn sup sub pep rfc issue pr pull gh bug user title emphasis strong math") {
		wordRoles[name] = true
	}
}

// inline turns inline markup into Markdown's: code in backticks, links and
// references into their words.
func inline(text string) string {
	if strings.IndexByte(text, '`') < 0 {
		return text
	}
	text = rstRole.ReplaceAllStringFunc(text, func(s string) string {
		m := rstRole.FindStringSubmatch(s)
		if wordRoles[strings.Trim(s[:strings.IndexByte(s, '`')], ":")] {
			return m[1]
		}
		return "\x00" + m[1] + "\x00"
	})
	text = rstLiteral.ReplaceAllString(text, "\x00$1\x00")
	text = rstLink.ReplaceAllString(text, "$1")
	text = rstTarget.ReplaceAllStringFunc(text, func(s string) string {
		name, rest, _ := strings.Cut(s[1:], "`")
		return name + strings.TrimLeft(rest, "_")
	})
	return strings.ReplaceAll(text, "\x00", "`")
}

func joined(lines []string) string {
	words := make([]string, 0, len(lines))
	for _, line := range lines {
		words = append(words, strings.TrimSpace(line))
	}
	return strings.Join(words, "\n")
}

// dedent takes the common indentation from lines.
func dedent(lines []string) []string {
	least := -1
	for _, line := range lines {
		if line != "" && (least < 0 || indent(line) < least) {
			least = indent(line)
		}
	}
	out := make([]string, len(lines))
	for i, line := range lines {
		out[i] = line[min(max(least, 0), len(line)):]
	}
	return out
}
