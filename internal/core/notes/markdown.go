package notes

import (
	"bytes"
	"regexp"
	"slices"
	"sort"
	"strings"

	"github.com/yuin/goldmark"
	"github.com/yuin/goldmark/ast"
	"github.com/yuin/goldmark/extension"
	extast "github.com/yuin/goldmark/extension/ast"
	"github.com/yuin/goldmark/text"

	"unicausa/internal/core/guard"
)

// markdown reads CommonMark with tables. A long document is read in parts, side
// by side: a heading of the second level begins anew whatever stands above it.
func markdown(source []byte) []*block {
	parts := sections(source, 32<<10)
	read := make([][]*block, len(parts))
	var wait guard.Group
	for i, p := range parts {
		wait.Go(func() { read[i] = markdownPart(p.source, p.line) })
	}
	wait.Wait()
	return slices.Concat(read...)
}

// part is a part of a document, and how many lines stand above it.
type part struct {
	source []byte
	line   int
}

// sections cuts a document before headings of the second level that stand
// outside of fences, into parts of a size at least.
func sections(source []byte, size int) []part {
	if len(source) < 2*size {
		return []part{{source, 0}}
	}
	var parts []part
	begin, above, line := 0, 0, 0
	fence := []byte(nil)
	for at := 0; at < len(source); line++ {
		end := len(source)
		if n := bytes.IndexByte(source[at:], '\n'); n >= 0 {
			end = at + n + 1
		}
		text := bytes.TrimLeft(source[at:end], " \t>-*+0123456789.")
		switch {
		case fence != nil:
			if bytes.HasPrefix(text, fence) {
				fence = nil
			}
		case bytes.HasPrefix(text, []byte("```")), bytes.HasPrefix(text, []byte("~~~")):
			fence = text[:3]
		case at-begin >= size && bytes.HasPrefix(source[at:], []byte("## ")):
			parts = append(parts, part{source[begin:at], above})
			begin, above = at, line
		}
		at = end
	}
	return append(parts, part{source[begin:], above})
}

// markdownPart reads a part that stands behind so many lines.
func markdownPart(source []byte, above int) []*block {
	m := &markdownReader{source: source, above: above}
	for i, c := range source {
		if c == '\n' {
			m.ends = append(m.ends, i)
		}
	}
	tree := goldmark.New(goldmark.WithExtensions(extension.Table)).Parser().Parse(text.NewReader(shallow(source)))
	return m.blocks(tree)
}

// deepest is how many quotes and lists deep a line may begin: nobody writes deeper, and the
// parser takes as many steps for a line as it is deep, for every line behind it.
const deepest = 40

// shallow is a document without the marks of quotes and lists that are deeper; each is a
// space, so that nothing moves.
func shallow(source []byte) []byte {
	copied := false
	for from := 0; from < len(source); {
		end := len(source)
		if n := bytes.IndexByte(source[from:], '\n'); n >= 0 {
			end = from + n
		}
		marks := 0
		for i := from; i < end; i++ {
			c := source[i]
			if c == ' ' || c == '\t' {
				continue
			}
			list := (c == '-' || c == '*' || c == '+') && i+1 < end && (source[i+1] == ' ' || source[i+1] == '\t')
			if c != '>' && !list {
				break
			}
			if marks++; marks > deepest {
				if !copied {
					source, copied = bytes.Clone(source), true
				}
				source[i] = ' '
			}
		}
		from = end + 1
	}
	return source
}

// The levels of headings that are set as bold text, and of versions in a
// paragraph of their own.
const (
	boldLevel  = 5
	plainLevel = 2
)

// leadingVersion is a line of few words that begins with a version.
var leadingVersion = regexp.MustCompile(`^v?\d+\.\d+[^\n]{0,60}$`)

// tags is a text of HTML's tags alone.
var tags = regexp.MustCompile(`^(?:<[^<>]+>\s*)+$`)

type markdownReader struct {
	source []byte
	above  int   // lines of the document above it
	ends   []int // offsets of the line endings
}

func (m *markdownReader) blocks(parent ast.Node) []*block {
	var list []*block
	for n := parent.FirstChild(); n != nil; n = n.NextSibling() {
		if _, quote := n.(*ast.Blockquote); quote {
			list = append(list, m.blocks(n)...)
			continue
		}
		if b := m.block(n); b.from > 0 { // else it is empty
			list = append(list, b)
		}
	}
	return list
}

func (m *markdownReader) block(n ast.Node) *block {
	b := &block{}
	switch n := n.(type) {
	case *ast.Heading:
		b.kind, b.level, b.text = headline, n.Level, m.raw(n)
	case *ast.List:
		b.kind, b.sub = list, m.blocks(n)
	case *ast.ListItem:
		b.kind, b.sub = item, m.blocks(n)
	case *extast.Table:
		b.kind, b.sub = table, m.blocks(n)
	case *extast.TableHeader, *extast.TableRow:
		_, head := n.(*extast.TableHeader)
		b.kind, b.head = row, head
		for c := n.FirstChild(); c != nil; c = c.NextSibling() {
			b.cells = append(b.cells, strings.TrimSpace(m.raw(c)))
		}
		b.text = strings.Join(b.cells, "\n")
	case *ast.FencedCodeBlock, *ast.CodeBlock:
		b.kind = codeBlock
		lines := n.Lines()
		for i := range lines.Len() {
			segment := lines.At(i)
			b.code = append(b.code, strings.TrimRight(string(segment.Value(m.source)), "\n"))
		}
	default:
		if b.text = m.raw(n); tags.MatchString(b.text) { // an anchor
			return b
		}
		if inner := plain(b.text); strings.HasPrefix(b.text, "**") && headingVersion(inner) != "" && aboutVersion(inner) {
			b.kind, b.level, b.text = headline, boldLevel, inner
		} else if leadingVersion.MatchString(b.text) && aboutVersion(b.text) { // v5.0.0 - May 8, 2031
			b.kind, b.level = headline, plainLevel
		}
	}
	if b.from, b.end = m.span(n); b.from > 0 {
		b.from, b.end = b.from+m.above, b.end+m.above
	}
	return b
}

// lineOf is the 1-based line of an offset.
func (m *markdownReader) lineOf(offset int) int { return sort.SearchInts(m.ends, offset) + 1 }

// span gives the first and the last line of a block, fences included.
func (m *markdownReader) span(n ast.Node) (from, end int) {
	ast.Walk(n, func(c ast.Node, entering bool) (ast.WalkStatus, error) {
		if !entering || c.Type() != ast.TypeBlock {
			return ast.WalkSkipChildren, nil
		}
		lines := c.Lines()
		if lines == nil || lines.Len() == 0 {
			return ast.WalkContinue, nil
		}
		first, last := m.lineOf(lines.At(0).Start), m.lineOf(max(lines.At(lines.Len()-1).Stop-1, 0))
		if _, fenced := c.(*ast.FencedCodeBlock); fenced {
			first, last = first-1, last+1
		}
		if from == 0 || first < from {
			from = first
		}
		end = max(end, last)
		return ast.WalkContinue, nil
	})
	return from, min(end, len(m.ends)+1)
}

// raw is a block's text with its code spans, from its own lines.
func (m *markdownReader) raw(n ast.Node) string {
	var b strings.Builder
	ast.Walk(n, func(c ast.Node, entering bool) (ast.WalkStatus, error) {
		if !entering || c.Type() != ast.TypeBlock {
			return ast.WalkSkipChildren, nil
		}
		if _, list := c.(*ast.List); list {
			return ast.WalkSkipChildren, nil
		}
		if lines := c.Lines(); lines != nil {
			for i := range lines.Len() {
				segment := lines.At(i)
				b.Write(segment.Value(m.source))
			}
			if lines.Len() > 0 {
				b.WriteByte('\n')
			}
		}
		return ast.WalkContinue, nil
	})
	return strings.TrimSpace(b.String())
}
