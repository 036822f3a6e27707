package notes

import (
	"fmt"
	"regexp"
	"slices"
	"sort"
	"strings"

	"github.com/cespare/xxhash/v2"
	"github.com/yuin/goldmark"
	"github.com/yuin/goldmark/ast"
	"github.com/yuin/goldmark/extension"
	extast "github.com/yuin/goldmark/extension/ast"
	"github.com/yuin/goldmark/text"
)

// Markdown reads a document in Markdown. Name and pkg go into every change.
// There is no bad Markdown: what holds no entry gives no change.
func Markdown(name, pkg string, source []byte) []Change {
	d := &document{name: name, pkg: pkg, source: source}
	for i, c := range source {
		if c == '\n' {
			d.ends = append(d.ends, i)
		}
	}
	tree := goldmark.New(goldmark.WithExtensions(extension.Table)).Parser().Parse(text.NewReader(source))
	d.sections(tree)
	d.identify()
	return d.changes
}

type document struct {
	name, pkg string
	source    []byte
	ends      []int // offsets of the line endings
	changes   []Change
	path      []heading
}

type heading struct {
	level   int
	text    string
	version string
	kind    Kind
	line    int
	topic   bool // it names a subject, not a version or a kind of entry
}

// entry is a change in the making.
type entry struct {
	line, end    int
	title        string
	raw          string // the words, with code spans
	code         []string
	old, new     []string
	pairs        []Rename
	fromSection  bool
	contextTexts []string
}

func (d *document) sections(tree ast.Node) {
	var blocks []ast.Node
	flush := func() {
		if len(blocks) > 0 {
			d.section(blocks)
		}
		blocks = nil
	}
	for n := tree.FirstChild(); n != nil; n = n.NextSibling() {
		h, ok := n.(*ast.Heading)
		if !ok {
			blocks = append(blocks, n)
			continue
		}
		flush()
		d.enter(h)
	}
	flush()
}

// enter puts a heading on the path; what it does not say itself it has from above.
func (d *document) enter(h *ast.Heading) {
	for len(d.path) > 0 && d.path[len(d.path)-1].level >= h.Level {
		d.path = d.path[:len(d.path)-1]
	}
	words := d.raw(h)
	line, _ := d.span(h)
	next := heading{level: h.Level, text: words, version: headingVersion(words), line: line}
	if !strings.Contains(words, "`") {
		next.kind = headingKind(plain(words))
	}
	next.topic = len(d.path) > 0 && (next.version == "" || len(strings.Fields(words)) > 5) && next.kind == "" || next.version == "" && next.kind == ""
	if len(d.path) > 0 {
		above := d.path[len(d.path)-1]
		if next.version == "" || next.topic {
			next.version = above.version
		}
		if next.kind == "" {
			next.kind = above.kind
		}
	}
	d.path = append(d.path, next)
}

// section makes changes of the blocks under one heading. Under a subject of
// its own (a guide's section) they are one change, but for lists of entries;
// under a version or a kind of change each item and paragraph is one.
func (d *document) section(blocks []ast.Node) {
	var head heading
	if len(d.path) > 0 {
		head = d.path[len(d.path)-1]
	}
	title := len(d.path) == 1 && head.level == 1 && len(d.changes) == 0
	if head.topic && !(title && d.listing(blocks)) {
		d.guide(head, blocks)
		return
	}
	var last *entry
	done := func() {
		if last != nil {
			d.add(last)
		}
		last = nil
	}
	label := Either
	for _, n := range blocks {
		switch n := n.(type) {
		case *ast.List:
			done()
			d.items(n, nil)
		case *extast.Table:
			done()
			d.table(n)
		case *ast.FencedCodeBlock, *ast.CodeBlock:
			if last != nil {
				d.code(last, n, label)
			}
		default:
			words := d.raw(n)
			if l := sideLabel(words); l != Either && last != nil {
				label = l
				continue
			}
			done()
			label = Either
			line, end := d.span(n)
			last = &entry{line: line, end: end, raw: words}
		}
	}
	done()
}

// listing tells whether the blocks are mainly a list of entries.
func (d *document) listing(blocks []ast.Node) bool {
	for _, n := range blocks {
		if list, ok := n.(*ast.List); ok && list.ChildCount() > 1 && !d.sides(list) {
			return true
		}
	}
	return false
}

// guide makes one change of a section; a list of entries in it gives changes
// of their own, and so do the rows of a table of names.
func (d *document) guide(head heading, blocks []ast.Node) {
	e := &entry{line: head.line, title: head.text, raw: head.text, fromSection: true}
	own := false
	label := Either
	for _, n := range blocks {
		line, end := d.span(n)
		switch n := n.(type) {
		case *ast.List:
			if d.sides(n) || !d.entries(n) {
				d.absorb(e, n, &label)
				break
			}
			d.items(n, nil)
			continue
		case *extast.Table:
			if d.table(n) {
				continue
			}
			e.raw += "\n" + d.raw(n)
		case *ast.FencedCodeBlock, *ast.CodeBlock:
			d.code(e, n, label)
		default:
			words := d.raw(n)
			if l := sideLabel(words); l != Either {
				label = l
			} else {
				label = Either
			}
			e.raw += "\n" + words
		}
		own = true
		if line > 0 {
			e.end = max(e.end, end)
		}
	}
	if own {
		d.add(e)
	}
}

// entries tells whether the items of a list are changes by themselves: two or
// more of them name a symbol.
func (d *document) entries(list *ast.List) bool {
	n := 0
	for item := list.FirstChild(); item != nil; item = item.NextSibling() {
		words, _ := d.own(item)
		if codeSpan.MatchString(words) || proseName.MatchString(words) {
			n++
		}
	}
	return n >= 2
}

// sides tells whether a list shows old and new code ("OLD: …", "NEW: …").
func (d *document) sides(list *ast.List) bool {
	for item := list.FirstChild(); item != nil; item = item.NextSibling() {
		words, _ := d.own(item)
		if sideLabel(words) == Either {
			return false
		}
	}
	return list.ChildCount() > 0
}

// absorb takes a list into a section's change.
func (d *document) absorb(e *entry, list *ast.List, label *Side) {
	for item := list.FirstChild(); item != nil; item = item.NextSibling() {
		words, _ := d.own(item)
		if l := sideLabel(words); l != Either {
			*label = l
			for _, m := range codeSpan.FindAllStringSubmatch(words, -1) {
				e.shown(l, m[1])
			}
		} else {
			e.raw += "\n" + words
		}
		d.eachCode(item, func(n ast.Node) { d.code(e, n, *label) })
	}
}

// items makes a change of each item of a list. The items of a nested list are
// changes of their own where they name symbols; else they belong to the item.
func (d *document) items(list *ast.List, context []string) {
	for item := list.FirstChild(); item != nil; item = item.NextSibling() {
		words, end := d.own(item)
		line, _ := d.span(item)
		e := &entry{line: line, end: end, raw: words, contextTexts: context}
		label := Either
		var nested []*ast.List
		for n := item.FirstChild(); n != nil; n = n.NextSibling() {
			switch n := n.(type) {
			case *ast.List:
				if d.entries(n) && !d.sides(n) {
					nested = append(nested, n)
					continue
				}
				d.absorb(e, n, &label)
			case *ast.FencedCodeBlock, *ast.CodeBlock:
				d.code(e, n, label)
			case *extast.Table:
				e.pairs = append(e.pairs, d.pairs(n)...)
			default:
				if l := sideLabel(d.raw(n)); l != Either {
					label = l
				}
			}
			if _, last := d.span(n); last > e.end {
				e.end = last
			}
		}
		d.add(e)
		for _, n := range nested {
			d.items(n, append(append([]string{}, context...), plain(words)))
		}
	}
}

// table makes a change of each row of a table of old and new names.
func (d *document) table(t *extast.Table) bool {
	if !namesTable(d.cells(t.FirstChild())) {
		return false
	}
	for row := t.FirstChild(); row != nil; row = row.NextSibling() {
		cells := d.cells(row)
		if _, head := row.(*extast.TableHeader); head || len(cells) < 2 {
			continue
		}
		line, end := d.span(row)
		e := &entry{line: line, end: end, raw: strings.Join(cells, " → ")}
		if p, ok := pair(cells); ok {
			e.pairs = []Rename{p}
		}
		d.add(e)
	}
	return true
}

func (d *document) pairs(t *extast.Table) []Rename {
	var list []Rename
	for row := t.FirstChild(); row != nil; row = row.NextSibling() {
		if p, ok := pair(d.cells(row)); ok {
			list = append(list, p)
		}
	}
	return list
}

func pair(cells []string) (Rename, bool) {
	if len(cells) < 2 {
		return Rename{}, false
	}
	r := Rename{From: bareName(strings.Trim(cells[0], "` ")), To: bareName(strings.Trim(cells[1], "` "))}
	return r, r.From != "" && r.To != "" && r.From != r.To && !namesTable(cells)
}

// namesTable tells whether a table's head sets old names beside new ones.
func namesTable(cells []string) bool {
	if len(cells) < 2 {
		return false
	}
	return sideWord(cells[0]) == Old && sideWord(cells[1]) == NewOne || headingVersion(cells[0]) != "" && headingVersion(cells[1]) != ""
}

func (d *document) cells(row ast.Node) []string {
	var list []string
	for c := row.FirstChild(); c != nil; c = c.NextSibling() {
		list = append(list, strings.TrimSpace(d.raw(c)))
	}
	return list
}

// code takes a block of code into an entry: as the old or the new side by the
// label before it, by comments in it, or by the marks of a diff.
func (d *document) code(e *entry, n ast.Node, label Side) {
	lines := n.Lines()
	side := label
	for i := 0; i < lines.Len(); i++ {
		segment := lines.At(i)
		line := strings.TrimRight(string(segment.Value(d.source)), "\n")
		trimmed := strings.TrimSpace(line)
		if comment := strings.TrimLeft(trimmed, "/#-*; "); comment != trimmed && sideWord(comment) != Either {
			side = sideWord(comment)
			continue
		}
		switch {
		case strings.HasPrefix(line, "- "):
			e.shown(Old, line[2:])
		case strings.HasPrefix(line, "+ "):
			e.shown(NewOne, line[2:])
		default:
			e.shown(side, line)
		}
	}
	if _, end := d.span(n); end > e.end {
		e.end = end
	}
}

func (e *entry) shown(side Side, line string) {
	line = strings.TrimSpace(line)
	switch {
	case line == "":
	case side == Old:
		e.old = append(e.old, line)
	case side == NewOne:
		e.new = append(e.new, line)
	default:
		e.code = append(e.code, line)
	}
}

func (d *document) eachCode(n ast.Node, take func(ast.Node)) {
	for c := n.FirstChild(); c != nil; c = c.NextSibling() {
		switch c.(type) {
		case *ast.FencedCodeBlock, *ast.CodeBlock:
			take(c)
		case *ast.List:
			d.eachCode(c, take)
		case *ast.ListItem:
			d.eachCode(c, take)
		}
	}
}

// sideLabel reads "OLD:", "Before:", "New code" at the start of a short text.
func sideLabel(words string) Side {
	head, _, _ := strings.Cut(strings.TrimLeft(words, "*_ "), "`")
	if len(strings.Fields(head)) > 5 {
		return Either
	}
	return sideWord(head)
}

func sideWord(text string) Side {
	word := strings.ToLower(strings.Trim(strings.TrimSpace(text), "*_:`#. "))
	first, _, _ := strings.Cut(word, " ")
	switch strings.Trim(first, ":*_,.") {
	case "old", "before", "previously", "was", "from", "removed", "deprecated", "current":
		return Old
	case "new", "after", "now", "to", "replacement", "use":
		return NewOne
	}
	return Either
}

// add finishes an entry and keeps it.
func (d *document) add(e *entry) {
	var head heading
	var context []string
	for _, h := range d.path {
		head = h
		if !(e.fromSection && h.line == e.line) {
			context = append(context, plain(h.text))
		}
	}
	context = append(context, e.contextTexts...)
	title := e.title
	if title == "" {
		title = firstSentence(e.raw)
	}
	if title = signs.ReplaceAllString(plain(title), ""); title == "" {
		return
	}
	renames := renamesIn(e.raw)
	for _, p := range e.pairs {
		if !slices.Contains(renames, p) {
			renames = append(renames, p)
		}
	}
	words := plain(e.raw)
	kind := classify(e.raw, head.kind)
	if kind == Behaviour && len(renames) > 0 {
		kind = Renamed
	}
	d.changes = append(d.changes, Change{
		Notes: d.name, Package: d.pkg, Version: head.version, Line: e.line, End: max(e.end, e.line),
		Kind: kind, Impact: impactOf(append([]string{e.raw}, context...)...), Title: title, Text: words, Context: context,
		Symbols: symbolsIn(e.raw, renames, e.old, e.new, e.code), Renames: renames, Before: e.old, After: e.new,
	})
}

// signs are labels before an entry's words.
var signs = regexp.MustCompile(`^(?i:breaking( change)?s?|deprecat(ed|ion)|removed|added|fixed|changed)\b!?:\s*`)

// identify gives each change an ID that survives edits elsewhere in the
// document: the hash of its version and words, and its number among equals.
func (d *document) identify() {
	sort.SliceStable(d.changes, func(i, j int) bool { return d.changes[i].Line < d.changes[j].Line })
	seen := map[string]int{}
	for i := range d.changes {
		c := &d.changes[i]
		key := strings.Join([]string{c.Package, c.Notes, c.Version, c.Text}, "\x00")
		seen[key]++
		c.ID = fmt.Sprintf("%016x", xxhash.Sum64String(fmt.Sprintf("%s\x00%d", key, seen[key])))
	}
}
