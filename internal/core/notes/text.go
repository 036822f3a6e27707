package notes

import (
	"regexp"
	"sort"
	"strings"

	"github.com/yuin/goldmark/ast"
)

// lineOf is the 1-based line of an offset.
func (d *document) lineOf(offset int) int { return sort.SearchInts(d.ends, offset) + 1 }

// span gives the first and the last line of a block, fences included.
func (d *document) span(n ast.Node) (from, end int) {
	ast.Walk(n, func(c ast.Node, entering bool) (ast.WalkStatus, error) {
		if !entering || c.Type() != ast.TypeBlock {
			return ast.WalkContinue, nil
		}
		lines := c.Lines()
		if lines == nil || lines.Len() == 0 {
			return ast.WalkContinue, nil
		}
		first, last := d.lineOf(lines.At(0).Start), d.lineOf(max(lines.At(lines.Len()-1).Stop-1, 0))
		if _, fenced := c.(*ast.FencedCodeBlock); fenced {
			first, last = first-1, last+1
		}
		if from == 0 || first < from {
			from = first
		}
		end = max(end, last)
		return ast.WalkContinue, nil
	})
	return from, min(end, len(d.ends)+1)
}

// raw is a block's text with its code spans, from its own lines.
func (d *document) raw(n ast.Node) string {
	var b strings.Builder
	ast.Walk(n, func(c ast.Node, entering bool) (ast.WalkStatus, error) {
		if !entering || c.Type() != ast.TypeBlock {
			return ast.WalkContinue, nil
		}
		if _, list := c.(*ast.List); list {
			return ast.WalkSkipChildren, nil
		}
		if lines := c.Lines(); lines != nil {
			for i := 0; i < lines.Len(); i++ {
				segment := lines.At(i)
				b.Write(segment.Value(d.source))
			}
			if lines.Len() > 0 {
				b.WriteByte('\n')
			}
		}
		return ast.WalkContinue, nil
	})
	return strings.TrimSpace(b.String())
}

// own is the text of an item without its nested lists and blocks of code, and
// its last line.
func (d *document) own(item ast.Node) (words string, end int) {
	var list []string
	for n := item.FirstChild(); n != nil; n = n.NextSibling() {
		switch n.(type) {
		case *ast.Paragraph, *ast.TextBlock:
			list = append(list, d.raw(n))
			if _, last := d.span(n); last > end {
				end = last
			}
		}
	}
	return strings.Join(list, "\n"), end
}

var (
	markLink  = regexp.MustCompile(`!?\[([^\]]*)\](?:\([^)]*\)|\[[^\]]*\])`)
	markPlain = strings.NewReplacer("**", "", "__", "", "`", "", "\\", "")
	blanks    = regexp.MustCompile(`\s+`)
)

// plain is a text without its markup.
func plain(words string) string {
	words = markLink.ReplaceAllString(words, "$1")
	return strings.TrimSpace(blanks.ReplaceAllString(markPlain.Replace(words), " "))
}

// firstSentence is the start of a text, up to the end of its first sentence.
func firstSentence(words string) string {
	words = strings.TrimSpace(blanks.ReplaceAllString(words, " "))
	for i := 0; i+1 < len(words); i++ {
		if (words[i] == '.' || words[i] == ':') && words[i+1] == ' ' && strings.Count(words[:i], "`")%2 == 0 && i > 12 {
			return strings.TrimRight(words[:i+1], ".:")
		}
	}
	return strings.TrimRight(words, ".:")
}
