package rewrite

import (
	"fmt"
	"slices"
	"strings"

	"unicausa/internal/core/source"
)

// Declaration is where a package declares a name. Least and Most are the numbers of
// arguments that it takes, -1 where its form does not tell; Method tells that it is
// called on a value.
type Declaration struct {
	File        string
	Line        int
	Least, Most int
	Method      bool
}

// Declarations finds where the programs of a package declare names; one that merely
// stands in their code is declared nowhere that can be told, at line 0. A name that
// is not in the result does not stand in the package at all.
func Declarations(files map[string]string, names []string) map[string][]Declaration {
	wanted := map[string]bool{}
	for _, name := range names {
		wanted[name] = true
	}
	found := map[string][]Declaration{}
	order := make([]string, 0, len(files))
	for file := range files {
		order = append(order, file)
	}
	slices.Sort(order)
	for _, file := range order {
		text := files[file]
		if !slices.ContainsFunc(names, func(name string) bool { return strings.Contains(text, name) }) {
			continue
		}
		p := programOf(file, text)
		for i, t := range p.tokens {
			if t.Kind != source.Word || !wanted[t.Text] {
				continue
			}
			if d, ok := p.declares(i); ok {
				d.File, d.Line = file, strings.Count(text[:t.Offset], "\n")+1
				found[t.Text] = append(found[t.Text], d)
			} else if found[t.Text] == nil {
				found[t.Text] = []Declaration{{File: file, Least: -1, Most: -1}}
			}
		}
	}
	for name, list := range found { // one that is told is worth more than where it merely stands
		if slices.ContainsFunc(list, func(d Declaration) bool { return d.Line > 0 }) {
			found[name] = slices.DeleteFunc(list, func(d Declaration) bool { return d.Line == 0 })
		}
	}
	return found
}

// declares reports whether a name is declared where it stands as a token: "func Name(",
// "func (r T) Name(", "def name(", "function name(", "fn name(", "class Name".
func (p *program) declares(i int) (d Declaration, ok bool) {
	d.Least, d.Most = -1, -1
	if i == 0 {
		return d, false
	}
	before := p.tokens[i-1]
	switch {
	case before.Is("func", "function", "def", "fn", "fun"):
	case before.Is(")") && p.partner != nil && p.partner[i-1] > 0 && p.tokens[p.partner[i-1]-1].Is("func"):
		d.Method = true
	case before.Is("class", "type", "interface", "struct", "enum", "trait", "const", "let", "var", "val"):
		return d, true
	default:
		return d, false
	}
	open := i + 1
	if p.partner == nil || open >= len(p.tokens) || !p.tokens[open].Is("(") {
		return d, true
	}
	d.Least, d.Most = p.parameters(open)
	return d, true
}

// parameters counts those between brackets: the least that have to be given, and the
// most that can.
func (p *program) parameters(open int) (least, most int) {
	end := p.partner[open]
	from := open + 1
	angles := 0 // of a type's parameters
	for i := from; i <= end; i++ {
		if p.partner[i] > i {
			i = p.partner[i]
			continue
		}
		switch {
		case p.tokens[i].Is("<"):
			angles++
		case p.tokens[i].Is(">"):
			angles = max(angles-1, 0)
		}
		if i < end && (!p.tokens[i].Is(",") || angles > 0) {
			continue
		}
		if own := p.tokens[from:i]; len(own) > 0 {
			switch {
			case own[0].Is("self", "cls", "&", "mut") && slices.ContainsFunc(own, func(t source.Token) bool { return t.Is("self", "cls") }):
			case slices.ContainsFunc(own, func(t source.Token) bool { return t.Is("...", "*", "**") }) && !p.goPointer(own):
				return least, 1 << 20
			case slices.ContainsFunc(own, func(t source.Token) bool { return t.Is("=", "?") }):
				most++
			default:
				least, most = least+1, most+1
			}
		}
		from = i + 1
	}
	return least, most
}

// goPointer tells a parameter of a pointer's type from one that takes the rest.
func (p *program) goPointer(own []source.Token) bool {
	return !own[0].Is("*", "**", "...") && !slices.ContainsFunc(own, func(t source.Token) bool { return t.Is("...") })
}

// Unlike says why none of some declarations can be what a call with a number of
// arguments means, -1 where it is no call; "" where one can. Owned tells that what
// stands in front of the name is the package, not a value.
func Unlike(name string, list []Declaration, args int, owned bool) string {
	if args < 0 || slices.ContainsFunc(list, func(d Declaration) bool { return d.Most < 0 }) {
		return ""
	}
	own := slices.DeleteFunc(slices.Clone(list), func(d Declaration) bool { return owned && d.Method })
	if len(own) == 0 {
		return fmt.Sprintf("%s is a method now (%s:%d): what it is called on changes as well", name, list[0].File, list[0].Line)
	}
	if slices.ContainsFunc(own, func(d Declaration) bool { return args >= d.Least && args <= d.Most }) {
		return ""
	}
	d := own[0]
	takes := fmt.Sprint(d.Least)
	switch {
	case d.Most > 1<<10:
		takes += " or more"
	case d.Most > d.Least:
		takes += fmt.Sprintf(" to %d", d.Most)
	}
	return fmt.Sprintf("%s takes %s arguments (%s:%d), and %d stand here", name, takes, d.File, d.Line, args)
}

// Called counts the arguments of the call of the name that stands at a place of a file, -1
// where it is not called. Owned tells that a package stands in front of it.
func Called(file, text string, line, column int, imports []source.Import) (args int, owned bool) {
	p := programOf(file, text)
	offsets := newLines(text)
	if p.partner == nil || line > len(offsets) {
		return -1, false
	}
	at := offsets[line-1] + column - 1
	i := slices.IndexFunc(p.tokens, func(t source.Token) bool { return t.Offset == at })
	if i < 0 {
		return -1, false
	}
	owned = i > 1 && joint(p.tokens[i-1]) && slices.ContainsFunc(imports, func(imp source.Import) bool { return imp.Local == p.tokens[i-2].Text })
	if i+1 >= len(p.tokens) || !p.tokens[i+1].Is("(") {
		return -1, owned
	}
	args = 0
	for k := i + 2; k < p.partner[i+1]; k++ {
		if args == 0 {
			args = 1
		}
		switch {
		case p.partner[k] > k:
			k = p.partner[k]
		case p.tokens[k].Is(",") && k+1 < p.partner[i+1]:
			args++
		case p.tokens[k].Is("...", "*", "**"):
			return -1, owned // how many is not told
		}
	}
	return args, owned
}
