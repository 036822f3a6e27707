package notes

import (
	"strings"
)

// sides tells whether a list shows old and new code ("OLD: …", "NEW: …").
func sides(list *block) bool {
	for _, i := range list.sub {
		words, _ := i.words()
		if sideLabel(words) == Either {
			return false
		}
	}
	return len(list.sub) > 0
}

// absorb takes a list into a section's change.
func (e *entry) absorb(list *block, label *Side) {
	for _, i := range list.sub {
		words, _ := i.words()
		if l := sideLabel(words); l != Either {
			*label = l
			for _, code := range spansOf(words) {
				e.shown(l, code)
			}
		} else {
			e.raw += "\n" + words
		}
		e.takeAll(i, *label)
	}
}

// takeAll takes the blocks of code in an item and in its lists.
func (e *entry) takeAll(b *block, label Side) {
	for _, c := range b.sub {
		switch c.kind {
		case codeBlock:
			e.take(c, label)
		case list, item:
			e.takeAll(c, label)
		}
	}
}

func pairs(t *block) []Rename {
	var list []Rename
	for _, r := range t.sub {
		if p, ok := pair(r.cells); ok {
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

// take takes a block of code into an entry: as the old or the new side by the
// label before it, by comments in it, or by the marks of a diff.
func (e *entry) take(b *block, label Side) {
	side := label
	for _, line := range b.code {
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
	e.end = max(e.end, b.end)
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

// sideLabel reads "OLD:", "Before:", "New code" at the start of a short text.
func sideLabel(words string) Side {
	head, _, _ := strings.Cut(strings.TrimLeft(words, "*_ "), "`")
	if len(head) > 60 || len(strings.Fields(head)) > 5 {
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
