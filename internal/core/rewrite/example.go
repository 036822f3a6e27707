package rewrite

import (
	"context"
	"fmt"
	"maps"
	"path"
	"slices"
	"sort"
	"strings"

	"unicausa/internal/core/exposure"
	"unicausa/internal/core/notes"
	"unicausa/internal/core/source"

	"github.com/aymanbagabas/go-udiff"
)

// Shape is the template of examples of one edit, in the language that most of the
// tree's programs are in. The change, which may be nil, is the one they are of.
func Shape(tree *source.Tree, examples []Example, c *notes.Change) (*Template, error) {
	b := newBook(tree, examples, c)
	return b.template(b.language())
}

// ByExample makes a patch of examples of one edit. With a change, which may be nil,
// only places count that are its for certain enough. An error says what is wrong
// with the examples.
func ByExample(ctx context.Context, tree *source.Tree, examples []Example, c *notes.Change) (Patch, error) {
	b := newBook(tree, examples, c)
	b.asked = true
	t, err := b.template(b.language())
	if err != nil {
		return Patch{}, err
	}
	p := Patch{Edits: []Edit{}, Refused: []Refusal{}, Templates: []string{t.String()}}
	name := t.from[t.anchor()]
	var places map[string]map[int]exposure.Place
	if c != nil {
		p.Change = c.ID
		own := *c
		own.Symbols = append(slices.Clone(c.Symbols), notes.Symbol{Name: strings.Trim(name.Text, "\"'`"), Side: notes.Old, Weight: 1})
		places = placesOf(tree, exposure.Search(ctx, tree, []notes.Change{own})[0])
	}
	for _, file := range tree.Files() {
		if source.Program(file) && (c == nil || len(places[file]) > 0) {
			b.file(&p, file, places[file])
		}
	}
	p.settle()
	if p.Why == "" && len(p.Edits) == 0 && len(p.Refused) == 0 {
		p.Why = fmt.Sprintf("%s stands nowhere in the code", name.Text)
	}
	return p, nil
}

// book makes the templates of one set of examples, one for each language.
type book struct {
	tree      *source.Tree
	examples  []Example
	change    *notes.Change
	names     map[string]bool   // of the change
	owners    map[string]bool   // that files import
	pairs     map[string]string // names that are exchanged as well
	asked     bool              // by a person
	templates map[string]*Template
	declared  map[string]exposure.Place // where the tree declares the name itself; nil until it is asked for
}

func newBook(tree *source.Tree, examples []Example, c *notes.Change) *book {
	b := &book{tree: tree, examples: examples, change: c, names: map[string]bool{}, owners: map[string]bool{}, templates: map[string]*Template{}}
	if c != nil {
		for _, s := range c.Symbols {
			b.names[notes.LastPart(s.Name)] = s.Weight >= 0.7 || b.names[notes.LastPart(s.Name)] // less stands in examples alone
		}
		b.owners[notes.LastPart(path.Base(c.Package))] = true
	}
	for _, file := range tree.Files() {
		if source.Program(file) {
			for _, imp := range tree.Imports(file) {
				b.owners[imp.Local] = true
			}
		}
	}
	return b
}

// language is a file name of the language that most of the tree's programs are in.
func (b *book) language() string {
	count := map[string]int{}
	best := ""
	for _, file := range b.tree.Files() {
		if ext := strings.ToLower(path.Ext(file)); source.Program(file) {
			if count[ext]++; count[ext] > count[best] {
				best = ext
			}
		}
	}
	return "x" + best
}

func (b *book) template(file string) (*Template, error) {
	ext := strings.ToLower(path.Ext(file))
	if t := b.templates[ext]; t != nil {
		return t, nil
	}
	t, err := Learn(file, b.examples, func(word string, owner bool) bool { return b.names[word] || owner && b.owners[word] })
	if err == nil {
		b.templates[ext] = t
	}
	return t, err
}

// file adds the edits of one file, and what is left alone there.
func (b *book) file(p *Patch, name string, places map[int]exposure.Place) {
	text := string(b.tree.Read(name))
	t, err := b.template(name)
	if err != nil || !strings.Contains(text, unquoted(t.from[t.anchor()].Text)) {
		return
	}
	prog := programOf(name, text)
	lines := newLines(text)
	anchor := t.from[t.anchor()].Token
	covered := map[int]bool{}
	all := prog.matches(t)
	first, taken := len(p.Edits), -1 // the end of the last place that is edited
	for k := range all {
		m := &all[k]
		why := m.why
		place, exposed := b.within(prog, m, places)
		if b.change != nil && !exposed {
			continue
		}
		for i := m.from; i < m.end; i++ {
			if equal(prog.tokens[i], anchor) && !m.inHole(i) {
				covered[i] = true
			}
		}
		line, column := lines.at(prog.from(m.from))
		loose := false // the language does not tell whose name it is, and a person asks for the edit
		if why == "" && b.change != nil {
			if b.declared == nil {
				b.declared = exposure.Declared(b.tree, []string{anchor.Text})
				if own := b.tree.Declared(anchor.Text); len(own) > 0 {
					b.declared[anchor.Text] = exposure.Place{File: own[0].File, Line: own[0].From}
				}
			}
			if loose = b.asked && place.Sure == exposure.Perhaps && place.Zone == source.Code && !exposure.PerFile(name) && b.declared[anchor.Text].File == ""; !loose {
				why = refused(b.tree, place, "", b.declared[anchor.Text])
			}
		}
		if why != "" {
			p.Refused = append(p.Refused, Refusal{File: name, Line: line, Column: column, Name: anchor.Text, Why: why})
			continue
		}
		if m.from < taken {
			continue // within another one, whose edit has it
		}
		taken = m.end
		e := Edit{File: name, Line: line, Column: column, From: prog.slice(m.from, m.end), To: prog.render(t, m, all[k+1:]), Why: "it has the shape of the example"}
		if b.change != nil {
			e.Why = sureness(place) + ", and " + e.Why
		}
		if loose {
			e.Why = "nothing else declares the name, and it has the shape of the example"
		}
		for _, took := range m.took {
			e.Took = append(e.Took, prog.slice(took[0], took[1]))
		}
		p.Edits = append(p.Edits, e)
		if word := prog.missing(t); word != "" && p.Care == "" {
			p.Care = fmt.Sprintf("%s is new in %s: see that it is imported", word, name)
		}
	}
	p.sound(name, text, first)
	for i, token := range prog.tokens {
		if !equal(token, anchor) || covered[i] {
			continue
		}
		if place, exposed := places[token.Offset]; b.change != nil && (!exposed || place.Sure <= exposure.Said) {
			continue
		}
		line, column := lines.at(token.Offset)
		why := "it does not have the shape of the example"
		switch {
		case prog.partner == nil:
			why = "the file's brackets do not close: its code cannot be told apart"
		case imports(b.tree, name, line, anchor.Text):
			if b.pairs[anchor.Text] != "" || slices.ContainsFunc(t.to, func(p piece) bool { return p.hole == "" && equal(p.Token, anchor) }) {
				continue // whose name another edit exchanges, or keeps
			}
			why = "it is imported here: the example does not tell what the import becomes"
		}
		p.Refused = append(p.Refused, Refusal{File: name, Line: line, Column: column, Name: anchor.Text, Why: why})
	}
}

// sound refuses a file's edits, those from first on, where brackets that close would not
// close behind them: something in the file or in the example was taken for what it is not.
func (p *Patch) sound(name, text string, first int) {
	list, err := offsets(text, p.Edits[first:])
	if err == nil {
		changed, err := udiff.Apply(text, list)
		if err == nil && pairs(source.Tokens(name, changed)) != nil {
			return
		}
	}
	for _, e := range p.Edits[first:] {
		p.Refused = append(p.Refused, Refusal{File: e.File, Line: e.Line, Column: e.Column, Name: e.From, Why: "with it the file's brackets would not close"})
	}
	p.Edits = p.Edits[:first]
}

// missing is a name with members, or of a type, that the code after brings and the file
// does not have.
func (p *program) missing(t *Template) string {
	for i, piece := range t.to {
		owner := i+1 < len(t.to) && joint(t.to[i+1].Token)
		if piece.hole != "" || piece.Kind != source.Word || i > 0 && joint(t.to[i-1].Token) || !owner && !(piece.Text[0] >= 'A' && piece.Text[0] <= 'Z' && i+1 < len(t.to) && t.to[i+1].Is("(", "{")) {
			continue
		}
		stands := func(token source.Token) bool { return token.Kind == source.Word && token.Text == piece.Text }
		if !slices.ContainsFunc(p.tokens, stands) {
			return piece.Text
		}
	}
	return ""
}

// within is the surest of a change's places that the fixed part of a match holds.
func (b *book) within(prog *program, m *match, places map[int]exposure.Place) (best exposure.Place, ok bool) {
	for i := m.from; i < m.end; i++ {
		if p, here := places[prog.from(i)]; here && !m.inHole(i) && (!ok || p.Sure > best.Sure) {
			best, ok = p, true
		}
	}
	return best, ok
}

// placesOf are a change's places by file and offset.
func placesOf(tree *source.Tree, found exposure.Found) map[string]map[int]exposure.Place {
	places := map[string]map[int]exposure.Place{}
	lines := map[string]lines{}
	for _, p := range found.Places {
		if places[p.File] == nil {
			places[p.File], lines[p.File] = map[int]exposure.Place{}, newLines(string(tree.Read(p.File)))
		}
		offset := lines[p.File][p.Line-1] + p.Column - 1
		if old, ok := places[p.File][offset]; !ok || p.Sure > old.Sure {
			places[p.File][offset] = p
		}
	}
	return places
}

// lines are the offsets at which the lines of a text begin.
type lines []int

func newLines(text string) lines {
	l := lines{0}
	for i := range len(text) {
		if text[i] == '\n' {
			l = append(l, i+1)
		}
	}
	return l
}

// at is the line and the column of an offset, both 1-based.
func (l lines) at(offset int) (line, column int) {
	line = sort.SearchInts(l, offset+1)
	return line, offset - l[line-1] + 1
}

// byShown takes the examples that an entry shows beside its pairs of names, and tells
// which names they settle: what an example shows to change more than its name is
// not exchanged for another name alone. Imported are those that are imported under
// another name with it.
func (p *Patch) byShown(tree *source.Tree, c *notes.Change, found exposure.Found, pairs map[string]string, all []notes.Change) (shapes map[string]bool, imported map[string]string) {
	shapes, imported = map[string]bool{}, map[string]string{}
	var places map[string]map[int]exposure.Place
	if c.Kind == notes.Added || c.Kind == notes.Fixed {
		return shapes, imported
	}
	examples := shown(c, c.Kind != notes.Removed) // within something that is gone, a part of it is of no use
	for i := range all {                          // which may stand beside a list of names
		if o := &all[i]; o.ID != c.ID && len(pairs) > 0 && o.Notes == c.Notes && o.Version == c.Version {
			examples = append(examples, shown(o, true)...)
		}
	}
	for _, e := range examples {
		b := newBook(tree, []Example{e}, c)
		b.pairs = maps.Clone(pairs)
		if b.pairs == nil {
			b.pairs = map[string]string{}
		}
		t, err := b.template(b.language())
		if err != nil {
			continue
		}
		name := t.from[t.anchor()].Text
		sought := slices.ContainsFunc(found.Places, func(at exposure.Place) bool { return at.Name == name })
		if !sought || shapes[name] || t.renames(pairs) || !t.holds() || passing(t.brings(), c, all) != "" {
			continue
		}
		shapes[name] = true
		if to := t.callee(); to != "" && pairs[name] == "" {
			b.pairs[name], imported[name] = to, to
		}
		if places == nil {
			places = placesOf(tree, found)
		}
		edits := len(p.Edits)
		for _, file := range tree.Files() {
			if source.Program(file) && len(places[file]) > 0 {
				b.file(p, file, places[file])
			}
		}
		if len(p.Edits) > edits {
			p.Templates = append(p.Templates, t.String())
		}
	}
	return shapes, imported
}

// callee is what a template calls in the place of the function that it called, "" where
// it calls the same, or something else takes its place.
func (t *Template) callee() string {
	if len(t.from) < 2 || len(t.to) < 2 || t.from[0].hole != "" || t.to[0].hole != "" || !t.from[1].Is("(") || !t.to[1].Is("(") || t.from[0].Text == t.to[0].Text {
		return ""
	}
	return t.to[0].Text
}

// brings are the names that the code after has and the code before has not.
func (t *Template) brings() []string {
	var list []string
	for _, p := range t.to {
		if p.hole == "" && p.Kind == source.Word && !keywords[p.Text] && !slices.ContainsFunc(t.from, func(o piece) bool { return same(o, p) }) {
			list = append(list, p.Text)
		}
	}
	return list
}

// renames reports whether a template does no more than pairs of names do.
func (t *Template) renames(pairs map[string]string) bool {
	return slices.EqualFunc(t.from, t.to, func(a, b piece) bool {
		return same(a, b) || a.hole == "" && b.hole == "" && pairs[a.Text] == b.Text
	})
}

// shown are the examples that an entry gives: the statements of its code before and
// after that stand in the place of one another, and with parts the lines of these.
func shown(c *notes.Change, parts bool) []Example {
	before, after := statementsOf(c.Before), statementsOf(c.After)
	var list []Example
	i, j := 0, 0
	same := common(len(before), len(after), func(i, j int) bool { return before[i] == after[j] })
	for _, s := range append(same, [2]int{len(before), len(after)}) {
		old, new := before[i:s[0]], after[j:s[1]]
		i, j = s[0]+1, s[1]+1
		switch {
		case len(old) == 0 || len(new) == 0:
		case len(old) != len(new):
			list = append(list, Example{From: strings.Join(old, "\n"), To: strings.Join(new, "\n")})
		default:
			for k := range old {
				if parts {
					list = append(list, byLine(old[k], new[k])...)
				}
				list = append(list, Example{From: old[k], To: new[k]})
			}
		}
	}
	return list
}

// holds reports whether the code after is made of something of the code before, and
// no statement of another sort: what takes its place, not what stands beside it.
func (t *Template) holds() bool {
	assigns := func(c code) bool {
		return slices.ContainsFunc(c, func(p piece) bool { return p.hole == "" && p.Is("=", ":=") && p.before == " " })
	}
	if assigns(t.to) && !assigns(t.from) {
		return false
	}
	return slices.ContainsFunc(t.from, func(a piece) bool {
		return (a.hole != "" || a.Kind == source.Word && !keywords[a.Text]) && slices.ContainsFunc(t.to, func(b piece) bool { return same(a, b) })
	})
}

// byLine are the lines of two statements that stand in the place of one another: of
// the fields of a value, of what a function does.
func byLine(old, new string) []Example {
	before, after := strings.Split(old, "\n"), strings.Split(new, "\n")
	if len(before) != len(after) || len(before) == 1 {
		return nil
	}
	var list []Example
	for i := range before {
		if before[i] != after[i] {
			list = append(list, Example{From: before[i], To: after[i]})
		}
	}
	return list
}

// statementsOf joins lines of code until their brackets close.
func statementsOf(lines []string) []string {
	var list []string
	open := 0
	for _, line := range lines {
		if strings.TrimSpace(line) == "" {
			continue
		}
		if open > 0 {
			list[len(list)-1] += "\n" + line
		} else {
			list = append(list, strings.TrimSpace(line))
		}
		for _, t := range source.Tokens("", line) {
			switch {
			case t.Is("(", "[", "{"):
				open++
			case t.Is(")", "]", "}"):
				open = max(open-1, 0)
			}
		}
	}
	return list
}
