package notes

import (
	"regexp"
	"slices"
	"strings"

	"unicausa/internal/core/guard"
)

// document makes changes of a document's blocks.
type document struct {
	name, pkg string
	entries   []*entry
	queue     chan *entry // to be made changes of
	work      guard.Group
	title     int       // line of the first heading
	headed    bool      // there are headings below it
	leading   bool      // what is read stands between a version and the first heading below it
	path      []heading // from the outermost to the one at hand
}

type heading struct {
	level   int
	text    string
	plain   string // without markup
	version string
	pkg     string // that it names, of a repository of several
	kind    Kind
	impact  string
	line    int
	topic   bool // it names a subject, not a version or a kind of entry
}

// entry is a change in the making.
type entry struct {
	change      Change // once it is made
	told        bool   // its words say what kind of change it is
	line, end   int
	title       string
	raw         string // the words, with code spans
	code        []string
	old, new    []string
	pairs       []Rename
	fromSection bool
	subject     string // the name that the entry is about
	above       under
	head        heading
	first       bool     // it stands before any heading, or under the title
	context     []string // the headings and items above it, outermost first
}

func (d *document) read(blocks []*block) {
	for _, b := range blocks {
		if b.kind == headline {
			if d.headed = d.title > 0; d.headed {
				break
			}
			d.title = b.from
		}
	}
	var section []*block
	flush := func() {
		if len(section) > 0 {
			d.section(section)
		}
		section, d.leading = nil, false
	}
	for _, b := range blocks {
		switch {
		case b.kind == list && leads(b):
		case b.kind != headline:
			section = append(section, b)
		default:
			n := len(d.path)
			d.leading = n > 0 && d.path[n-1].version != "" && b.level > d.path[n-1].level
			flush()
			d.enter(b)
		}
	}
	flush()
}

// leads reports whether a list only leads to other parts of its document.
func leads(list *block) bool {
	for _, i := range list.sub {
		for _, b := range i.sub {
			if b.kind == headline || b.kind == paragraph && !anchored.MatchString(strings.TrimSpace(b.text)) || b.kind == codeBlock || b.kind == table {
				return false
			}
		}
	}
	return len(list.sub) > 0
}

// anchored is a text that is nothing but a link into its own document.
var anchored = regexp.MustCompile(`^\[[^\]]*\]\(#[^)]*\)$`)

// enter puts a heading on the path; what it does not say itself it has from above.
func (d *document) enter(h *block) {
	words := h.text
	next := heading{level: h.level, text: words, plain: plain(words), version: headingVersion(words), pkg: headingPackage(words), line: h.from}
	if !strings.Contains(words, "`") {
		next.kind = headingKind(next.plain)
	}
	minor := housekeeping[strings.ToLower(strings.Trim(next.plain, " :*"))]
	for len(d.path) > 0 && d.path[len(d.path)-1].level >= h.level {
		if last := d.path[len(d.path)-1]; last.level == h.level && last.version != "" && last.kind == "" && !last.topic && next.version == "" && (next.kind != "" || minor) {
			break // a patch's version is set as small as what stands below it
		}
		d.path = d.path[:len(d.path)-1]
	}
	if next.version != "" && len(d.path) > 0 && d.path[len(d.path)-1].version != "" && next.pkg == "" && !aboutVersion(plain(words)) && !strings.HasPrefix(next.version, d.path[len(d.path)-1].version+".") {
		next.version = "" // it is of something else
	}
	next.topic = !minor && (len(d.path) > 0 && (next.version == "" || len(strings.Fields(words)) > 5) && next.kind == "" || next.version == "" && next.kind == "")
	if len(d.path) > 0 {
		above := d.path[len(d.path)-1]
		if next.version == "" || next.topic {
			next.version = above.version
		}
		if next.kind == "" {
			next.kind = above.kind
		}
		if next.pkg == "" {
			next.pkg = above.pkg
		}
		next.impact = above.impact
	}
	d.path = append(d.path, next)
}

// section makes changes of the blocks under one heading. Under a subject of
// its own (a guide's section) they are one change, but for lists of entries;
// under a version or a kind of change each item and paragraph is one.
func (d *document) section(blocks []*block) {
	var head heading
	if len(d.path) > 0 {
		head = d.path[len(d.path)-1]
	}
	if contents[strings.ToLower(head.plain)] {
		d.path = d.path[:len(d.path)-1]
		toc := slices.IndexFunc(blocks, func(b *block) bool { return b.kind == list })
		if toc+1 < len(blocks) {
			d.section(blocks[toc+1:])
		}
		return
	}
	if d.described(blocks) {
		return
	}
	title := len(d.path) == 1 && head.level == 1 && len(d.entries) == 0
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
	for n, b := range blocks {
		switch b.kind {
		case list:
			done()
			d.items(b, under{})
		case table:
			done()
			d.table(b)
		case codeBlock:
			if last != nil {
				last.take(b, label)
			}
		default:
			if l := sideLabel(b.text); l != Either && last != nil {
				label = l
				continue
			}
			done()
			label = Either
			switch {
			case impactAlone(b.text) && len(d.path) > 0:
				d.path[len(d.path)-1].impact = impactOf(b.text)
			case n+1 < len(blocks) && blocks[n+1].kind == list && introduces(b.text):
				d.items(blocks[n+1], under{}.below(b.text))
				blocks[n+1] = &block{kind: list}
			default:
				last = &entry{line: b.from, end: b.end, raw: b.text}
			}
		}
	}
	done()
}

// contents are the headings of what only leads to other parts of a document.
var contents = map[string]bool{"contents": true, "table of contents": true, "on this page": true, "in this article": true, "toc": true}

// introduces reports whether a text only leads to the list behind it.
func introduces(text string) bool {
	return strings.HasSuffix(strings.TrimRight(text, "*_ "), ":") && len(proseNames(text)) == 0 && !strings.Contains(text, "`")
}

// under is what stands above the items of a list, in the same section.
type under struct {
	words []string
	kind  Kind // that the words tell of all items
}

// below adds the words of an item or a paragraph.
func (u under) below(text string) under {
	next := under{words: append(append([]string{}, u.words...), plain(text)), kind: u.kind}
	if k := headingKind(plain(text)); k != "" {
		next.kind = k
	} else if k, told := classify(plain(text), ""); told && (k == Removed || k == Renamed || k == Deprecated) {
		next.kind = k // "The following were removed:"
	}
	return next
}

// listing reports whether the blocks are mainly a list of entries.
func (d *document) listing(blocks []*block) bool {
	for _, b := range blocks {
		if b.kind == list && len(b.sub) > 1 && !sides(b) {
			return true
		}
	}
	return false
}

// guide makes one change of a section; a list of entries in it gives changes
// of their own, and so do the rows of a table of names.
func (d *document) guide(head heading, blocks []*block) {
	if d.several(head, blocks) {
		return
	}
	e := &entry{line: head.line, title: head.text, raw: head.text, fromSection: true}
	own, taken := false, false
	label := Either
	for _, b := range blocks {
		switch b.kind {
		case list:
			if sides(b) || !entries(b) {
				e.absorb(b, &label)
				break
			}
			d.items(b, under{})
			taken = true
			continue
		case table:
			if d.table(b) {
				taken = true
				continue
			}
			for _, r := range b.sub {
				e.say("\n", r.text)
			}
		case codeBlock:
			e.take(b, label)
			if taken { // an example of what has been told
				continue
			}
		default:
			if impactAlone(b.text) {
				e.head.impact = impactOf(b.text)
			}
			label = sideLabel(b.text)
			e.say("\n", b.text)
		}
		own = true
		e.end = max(e.end, b.end)
	}
	if own {
		d.add(e)
	}
}

// several makes changes of the paragraphs and items of a section whose heading
// only names a subject ("Patterns", "Units"), where two or more of them each
// tell of a change. It reports whether there are so many.
func (d *document) several(head heading, blocks []*block) bool {
	if len(strings.Fields(head.plain)) > 3 || strings.Contains(head.text, "`") || len(proseNames(head.text)) > 0 {
		return false
	}
	if _, told := classify(head.plain, ""); told {
		return false
	}
	starts := 0
	for _, b := range blocks {
		switch {
		case b.kind == table:
			return false
		case b.kind == list && !sides(b):
			for _, i := range b.sub {
				if words, _ := i.words(); stands(words) {
					starts++
				}
			}
		case b.kind == paragraph && !impactAlone(b.text) && stands(b.text):
			starts++
		}
	}
	if starts < 2 {
		return false
	}
	var last *entry
	label := Either
	for _, b := range blocks {
		switch {
		case b.kind == list && !sides(b):
			if last != nil {
				d.add(last)
				last = nil
			}
			d.items(b, under{})
		case impactAlone(b.text):
			d.path[len(d.path)-1].impact = impactOf(b.text)
		case b.kind == paragraph && (stands(b.text) || last == nil):
			if last != nil {
				d.add(last)
			}
			label = Either
			last = &entry{line: b.from, end: b.end, raw: b.text}
		case last == nil:
		case b.kind == codeBlock:
			last.take(b, label)
		case b.kind == list:
			last.absorb(b, &label)
			last.end = max(last.end, b.end)
		default:
			label = sideLabel(b.text)
			last.say("\n", b.text)
			last.end = max(last.end, b.end)
		}
	}
	if last != nil {
		d.add(last)
	}
	return true
}

// stands reports whether a paragraph begins something of its own, and does not
// go on with what stands above it.
func stands(text string) bool {
	text = strings.TrimLeft(plain(text), "*_ ")
	first, _, _ := strings.Cut(strings.ToLower(text), " ")
	return len(strings.Fields(text)) >= 4 && !goingOn[strings.Trim(first, ",:;")] && !strings.HasSuffix(text, ":") && sideLabel(text) == Either
}

// goingOn are the words with which a paragraph goes on.
var goingOn = map[string]bool{}

func init() {
	for _, w := range strings.Fields("this that it they these those to if use for you your before after note instead see as in when however also alternatively otherwise then here so but and or because we our please with by on from example e.g. i.e. such thus therefore note: tip warning") {
		goingOn[w] = true
	}
}

// entries reports whether the items of a list are changes by themselves: two or
// more of them name a symbol.
func entries(list *block) bool {
	n := 0
	for _, i := range list.sub {
		words, _ := i.words()
		if len(spansOf(words)) > 0 || len(proseNames(words)) > 0 {
			n++
		}
	}
	return n >= 2
}

// items makes a change of each item of a list. The items of a nested list are
// changes of their own where they name symbols; else they belong to the item.
func (d *document) items(l *block, above under) {
	for _, i := range l.sub {
		if d.described(i.sub) {
			continue
		}
		words, end := i.words()
		e := &entry{line: i.from, end: end, raw: words, above: above}
		label := Either
		var nested []*block
		for _, b := range i.sub {
			switch b.kind {
			case list:
				if entries(b) && !sides(b) {
					nested = append(nested, b)
					continue
				}
				e.absorb(b, &label)
			case codeBlock:
				e.take(b, label)
			case table:
				e.pairs = append(e.pairs, pairs(b)...)
			default:
				if l := sideLabel(b.text); l != Either {
					label = l
				}
			}
			e.end = max(e.end, b.end)
		}
		if len(nested) == 0 || !introduces(words) {
			d.add(e)
		}
		for _, n := range nested {
			d.items(n, above.below(words))
		}
	}
}

// table makes a change of each row of a table of old and new names.
func (d *document) table(t *block) bool {
	if len(t.sub) == 0 {
		return false
	}
	sides, ok := namesTable(t.sub[0].cells)
	if !ok {
		return d.rows(t)
	}
	for _, r := range t.sub {
		if r.head || len(r.cells) < 2 {
			continue
		}
		e := &entry{line: r.from, end: r.end, raw: sides.row(r.cells)}
		if p, ok := sides.pair(r.cells); ok {
			e.pairs = []Rename{p}
		}
		d.add(e)
	}
	return true
}

// rows makes a change of each row of a table whose rows tell of changes by
// themselves: they name something and say what becomes of it. A column of
// versions gives each its own.
func (d *document) rows(t *block) bool {
	version := -1
	for i, cell := range t.sub[0].cells {
		switch strings.ToLower(strings.Trim(cell, " *`:")) {
		case "version", "release", "since", "since version", "in version":
			version = i
		}
	}
	telling := 0
	for _, r := range t.sub[1:] {
		text := strings.Join(r.cells, " ")
		if _, told := classify(plain(text), ""); told && (len(spansOf(text)) > 0 || len(proseNames(text)) > 0) {
			telling++
		}
	}
	if telling < 2 && version < 0 || telling == 0 || 2*telling < len(t.sub)-1 {
		return false
	}
	path := d.path
	for _, r := range t.sub {
		if r.head || len(r.cells) < 2 {
			continue
		}
		var words []string
		own := ""
		for i, cell := range r.cells {
			if i == version {
				own = headingVersion(cell)
			} else if cell != "" {
				words = append(words, cell)
			}
		}
		if own != "" {
			d.path = append(slices.Clone(path), heading{version: own, line: r.from, level: 7})
		}
		d.add(&entry{line: r.from, end: r.end, raw: strings.Join(words, ": ")})
		d.path = path
	}
	return true
}

// add keeps an entry, with the headings above it.
func (d *document) add(e *entry) {
	for _, h := range d.path {
		e.head = h
		if !(e.fromSection && h.line == e.line) && h.plain != "" {
			e.context = append(e.context, h.plain)
		}
	}
	e.context = append(e.context, e.above.words...)
	if e.above.kind != "" {
		e.head.kind = e.above.kind
	}
	e.first = d.leading || d.headed && len(d.path) < 2 && (e.head.line == d.title || len(d.path) == 0) && (e.head.version == "" || !aboutVersion(e.head.text))
	d.entries = append(d.entries, e)
	d.queue <- e
}
