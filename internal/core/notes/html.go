package notes

import (
	"bytes"
	"strings"

	"golang.org/x/net/html"
	"golang.org/x/net/html/atom"
)

// htmlBlocks reads a page of HTML, as a site serves it: what stands in its
// article or main part where it has one, without navigation and the like.
func htmlBlocks(source []byte) []*block {
	r := &htmlReader{main: mainPart(source), line: 1, open: []*block{{}}, layout: layoutTables(source)}
	z := html.NewTokenizer(bytes.NewReader(source))
	for {
		kind := z.Next()
		if kind == html.ErrorToken {
			break
		}
		raw := z.Raw()
		from := r.line
		r.line += bytes.Count(raw, []byte("\n"))
		token := z.Token()
		switch kind {
		case html.StartTagToken:
			r.start(token, from)
		case html.SelfClosingTagToken:
			r.start(token, from)
			r.end(token.DataAtom)
		case html.EndTagToken:
			r.end(token.DataAtom)
		case html.TextToken:
			r.text(token.Data, from)
		}
	}
	r.flush()
	for len(r.open) > 1 {
		r.pop()
	}
	return r.open[0].sub
}

// mainPart is the element that holds the page's own content, 0 for all of it.
func mainPart(source []byte) atom.Atom {
	for _, a := range []atom.Atom{atom.Article, atom.Main} {
		if n := bytes.Count(source, []byte("<"+a.String())); n == 1 || n > 1 && a == atom.Main {
			return a
		}
	}
	return 0
}

// layoutTables are the tables, by their number from the top, that hold headings:
// they place the page's parts and are no tables of its content.
func layoutTables(source []byte) map[int]bool {
	layout := map[int]bool{}
	var open []int
	z := html.NewTokenizer(bytes.NewReader(source))
	for count := 0; ; {
		switch kind := z.Next(); kind {
		case html.ErrorToken:
			return layout
		case html.StartTagToken, html.EndTagToken:
			name, _ := z.TagName()
			switch a := atom.Lookup(name); {
			case a == atom.Table && kind == html.StartTagToken:
				open = append(open, count)
				count++
			case a == atom.Table && len(open) > 0:
				open = open[:len(open)-1]
			case kind == html.StartTagToken && len(name) == 2 && name[0] == 'h' && '1' <= name[1] && name[1] <= '6':
				for _, n := range open {
					layout[n] = true
				}
			}
		}
	}
}

// apart are elements whose content is not the document's own.
var apart = map[atom.Atom]bool{
	atom.Script: true, atom.Style: true, atom.Nav: true, atom.Footer: true, atom.Aside: true, atom.Noscript: true, atom.Svg: true,
	atom.Form: true, atom.Button: true, atom.Title: true, atom.Template: true, atom.Select: true,
}

// inTable are a table and the elements that it is made of.
var inTable = map[atom.Atom]bool{atom.Table: true, atom.Tr: true, atom.Td: true, atom.Th: true}

// inCode are elements that set code in a line.
var inCode = map[atom.Atom]bool{atom.Code: true, atom.Kbd: true, atom.Tt: true, atom.Samp: true, atom.Var: true}

type htmlReader struct {
	main    atom.Atom
	inside  int // elements of the main part that are open
	skipped int // elements apart that are open
	line    int
	open    []*block // lists, items, tables, rows, from the document down
	words   strings.Builder
	from    int // of the words, 0 for none
	last    int
	code    bool   // in a line
	pre     *block // the block of code that is open
	heading int
	cell    bool
	layout  map[int]bool
	tables  []int // numbers of those that are open
	count   int
}

// placing reports whether the innermost table only places parts of the page.
func (r *htmlReader) placing() bool {
	return len(r.tables) > 0 && r.layout[r.tables[len(r.tables)-1]]
}

func (r *htmlReader) reading() bool { return r.skipped == 0 && (r.main == 0 || r.inside > 0) }

func (r *htmlReader) top() *block { return r.open[len(r.open)-1] }

func (r *htmlReader) push(kind blockKind, line int) {
	r.flush()
	r.open = append(r.open, &block{kind: kind, from: line, end: line})
}

// pop closes the innermost block and gives it to the one around it.
func (r *htmlReader) pop() {
	b := r.top()
	r.open = r.open[:len(r.open)-1]
	b.grow()
	b.end = max(b.end, r.last)
	if b.kind == row {
		b.text = strings.Join(b.cells, "\n")
		b.end = max(b.from, b.end)
	}
	if b.kind != list && b.kind != table || len(b.sub) > 0 {
		r.top().sub = append(r.top().sub, b)
	}
}

// close closes blocks up to the innermost of a kind, if one is open.
func (r *htmlReader) close(kind blockKind, within blockKind) {
	r.flush()
	for i := len(r.open) - 1; i > 0; i-- {
		if r.open[i].kind == kind {
			for len(r.open) > i {
				r.pop()
			}
			return
		}
		if r.open[i].kind == within && within != kind {
			return
		}
	}
}

func (r *htmlReader) start(t html.Token, line int) {
	a := t.DataAtom
	if a == atom.Table {
		r.tables = append(r.tables, r.count)
		r.count++
	}
	if a == r.main && r.main != 0 {
		r.inside++
	}
	if apart[a] || a == atom.Header && r.main == 0 {
		r.skipped++
	}
	if !r.reading() {
		return
	}
	if inTable[a] && r.placing() {
		r.flush()
		return
	}
	switch a {
	case atom.H1, atom.H2, atom.H3, atom.H4, atom.H5, atom.H6:
		r.flush()
		r.heading = int(a.String()[1] - '0')
	case atom.Ul, atom.Ol, atom.Dl:
		r.push(list, line)
	case atom.Li, atom.Dt:
		r.close(item, list)
		r.push(item, line)
	case atom.Table:
		r.push(table, line)
	case atom.Tr:
		r.close(row, table)
		r.push(row, line)
	case atom.Td, atom.Th:
		r.endCell()
		r.cell = true
		if a == atom.Th && r.top().kind == row && len(r.top().cells) == 0 {
			r.top().head = true
		}
		if a == atom.Td {
			r.top().head = false
		}
	case atom.Pre:
		r.flush()
		r.pre = &block{kind: codeBlock, from: line}
	case atom.Br:
		r.words.WriteByte('\n')
	case atom.Dd:
		r.flush()
		if sub := r.top().sub; len(sub) > 0 && sub[len(sub)-1].kind == paragraph { // the term before it
			term := sub[len(sub)-1]
			r.top().sub = sub[:len(sub)-1]
			r.words.WriteString(strings.TrimRight(term.text, ":") + ": ")
			r.from, r.last = term.from, term.end
		}
	case atom.P, atom.Div, atom.Section, atom.Blockquote, atom.Details, atom.Summary, atom.Article, atom.Main, atom.Hr, atom.Figure:
		if !r.cell {
			r.flush()
		}
	default:
		if inCode[a] && r.pre == nil && !r.code {
			r.code = true
			r.words.WriteByte('`')
		}
	}
}

func (r *htmlReader) end(a atom.Atom) {
	was := r.reading()
	if (apart[a] || a == atom.Header && r.main == 0) && r.skipped > 0 {
		r.skipped--
	}
	if was && inTable[a] && r.placing() {
		r.flush()
	} else if was {
		r.ended(a)
	}
	if a == atom.Table && len(r.tables) > 0 {
		r.tables = r.tables[:len(r.tables)-1]
	}
	if a == r.main && r.inside > 0 {
		r.flush()
		r.inside--
	}
}

func (r *htmlReader) ended(a atom.Atom) {
	switch a {
	case atom.H1, atom.H2, atom.H3, atom.H4, atom.H5, atom.H6:
		r.flush()
	case atom.Ul, atom.Ol, atom.Dl:
		r.close(list, list)
	case atom.Li:
		r.close(item, list)
	case atom.Table:
		r.endCell()
		r.close(table, table)
	case atom.Tr:
		r.endCell()
		r.close(row, table)
	case atom.Td, atom.Th:
		r.endCell()
	case atom.Pre:
		if r.pre != nil {
			r.pre.end = r.line
			r.pre.code = strings.Split(strings.Trim(r.words.String(), "\n"), "\n")
			r.top().sub = append(r.top().sub, r.pre)
			r.words.Reset()
			r.pre, r.from, r.last = nil, 0, r.line
		}
	case atom.Dd, atom.P, atom.Div, atom.Section, atom.Blockquote, atom.Details, atom.Summary, atom.Figure:
		if !r.cell {
			r.flush()
		}
	default:
		if inCode[a] && r.code {
			r.code = false
			r.words.WriteByte('`')
		}
	}
}

func (r *htmlReader) text(data string, line int) {
	if !r.reading() {
		return
	}
	if r.pre == nil && strings.TrimSpace(data) == "" {
		if r.from > 0 {
			r.words.WriteByte(' ')
		}
		return
	}
	if r.from == 0 {
		lead := len(data) - len(strings.TrimLeft(data, " \t\r\n"))
		r.from = min(line+strings.Count(data[:lead], "\n"), r.line)
	}
	// A return, and a line's end written as an entity, are ends of no line of the document.
	r.last = min(line+strings.Count(strings.TrimRight(data, " \t\r\n"), "\n"), r.line)
	r.words.WriteString(data)
}

// endCell takes the words at hand into the open row.
func (r *htmlReader) endCell() {
	if !r.cell {
		return
	}
	r.cell = false
	for i := len(r.open) - 1; i > 0; i-- {
		if r.open[i].kind == row {
			r.open[i].cells = append(r.open[i].cells, oneLine(r.words.String()))
			r.open[i].end = max(r.open[i].end, r.last)
			break
		}
	}
	r.words.Reset()
	r.from = 0
}

// flush makes a paragraph or a heading of the words at hand.
func (r *htmlReader) flush() {
	if r.pre != nil || r.cell {
		return
	}
	words := strings.TrimSpace(r.words.String())
	if r.code {
		words, r.code = words+"`", false
	}
	if words != "" && r.from > 0 {
		b := &block{text: words, from: r.from, end: r.last}
		if r.heading > 0 {
			b.kind, b.level, b.text = headline, r.heading, strings.TrimRight(oneLine(words), "#¶ ")
		}
		r.top().sub = append(r.top().sub, b)
	}
	r.words.Reset()
	r.from, r.heading = 0, 0
}
