package exposure

import (
	"strings"

	"unicausa/internal/core/source"
)

// declares are words in front of a name that is declared.
var declares = map[string]bool{}

func init() {
	for _, w := range strings.Fields("func def fn function class type interface struct enum trait object record const let var val public private protected static abstract async get set fun sub module mod") {
		declares[w] = true
	}
}

// Declared finds where the tree declares names itself; a name that it does not
// declare has no file.
func Declared(tree *source.Tree, names []string) map[string]Place {
	found := map[string]Place{}
	w := newWords(names)
	for _, name := range tree.Files() {
		if !source.Program(name) {
			continue
		}
		data := tree.Read(name)
		var f *file
		w.each(data, func(n, offset int) {
			if found[names[n]].File != "" {
				return
			}
			if f == nil {
				f = &file{name: name, text: string(data), program: true, zones: source.ZonesOf(name, string(data)), line: 1}
			}
			if f.zones.At(offset) != source.Code || !f.declaresAt(offset, offset+len(names[n])) {
				return
			}
			found[names[n]] = f.at(names[n], offset)
		})
	}
	return found
}

// declaresAt reports whether a name is declared where it stands: behind a word of
// declaration, or as a field with its type.
func (f *file) declaresAt(from, end int) bool {
	head := strings.TrimSpace(f.head(from))
	word := head[strings.LastIndexAny(head, " \t(")+1:]
	switch {
	case declares[word]:
		return true
	case strings.HasPrefix(head, "func (") && strings.HasSuffix(head, ")"): // a method with its receiver
		return true
	case head == "" && strings.HasSuffix(f.name, ".go"): // a field
		rest := f.text[end:min(end+2, len(f.text))]
		return len(rest) == 2 && (rest[0] == ' ' || rest[0] == '\t') && (rest[1] == '*' || rest[1] == '[' || rest[1] == ' ' || inWord[rest[1]]) && !assigned(f.text[end:])
	}
	return false
}

// assigned reports whether what follows a name on its line assigns to it.
func assigned(rest string) bool {
	rest = strings.TrimLeft(rest, " \t")
	return strings.HasPrefix(rest, "=") || strings.HasPrefix(rest, ":") || strings.HasPrefix(rest, "+") || strings.HasPrefix(rest, "-")
}

// Bare reports whether a name in code stands without anything that qualifies it.
func Bare(p Place) bool {
	head := p.Text[:min(max(p.Column-1, 0), len(p.Text))]
	return before(head) == ""
}

// Stands is the first line of a file on which a name stands in code without
// anything that qualifies it, 0 for none.
func Stands(tree *source.Tree, name, word string) int {
	data := tree.Read(name)
	f := &file{name: name, text: string(data), program: true, zones: source.ZonesOf(name, string(data)), line: 1}
	line := 0
	newWords([]string{word}).each(data, func(_, offset int) {
		if line == 0 && f.zones.At(offset) == source.Code && before(f.text[:offset]) == "" {
			line = strings.Count(f.text[:offset], "\n") + 1
		}
	})
	return line
}
