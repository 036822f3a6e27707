package notes

import (
	"regexp"
	"strings"
)

// sides reports whether a list shows old and new code ("OLD: …", "NEW: …").
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
			e.say("\n", words)
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

// pairs are the old and new names of a table: of its first two columns, where
// its head does not tell.
func pairs(t *block) []Rename {
	var list []Rename
	sides := columns{0, 1}
	if len(t.sub) == 0 {
		return nil
	}
	if c, ok := namesTable(t.sub[0].cells); ok {
		sides = c
	}
	for _, r := range t.sub {
		if p, ok := sides.pair(r.cells); ok {
			list = append(list, p)
		}
	}
	return list
}

// columns are the places of the old and of the new names in a table's rows.
type columns struct{ old, new int }

// namesTable finds the columns of a table whose head sets old names beside new
// ones. Where it only says what stands in for them, the first column has the
// old ones.
func namesTable(head []string) (columns, bool) {
	c := columns{-1, -1}
	for i, cell := range head {
		switch side := sideWord(cell); {
		case side == Old && c.old < 0:
			c.old = i
		case side == NewOne && c.new < 0:
			c.new = i
		}
	}
	switch {
	case c.old >= 0 && c.new >= 0:
		return c, true
	case c.new > 0 && c.old < 0 && standsIn.MatchString(head[c.new]):
		return columns{0, c.new}, true
	case len(head) >= 2 && headingVersion(head[len(head)-2]) != "" && headingVersion(head[len(head)-1]) != "":
		return columns{len(head) - 2, len(head) - 1}, true
	}
	return c, false
}

// standsIn are the headings of columns whose names stand in for others.
var standsIn = regexp.MustCompile(`(?i)^\W*(replacement|replaced by|replace with|use instead|alternative|instead)\b`)

// pair is the pair of names of a row; none where a cell names nothing, or both
// name the same.
func (c columns) pair(cells []string) (Rename, bool) {
	if len(cells) <= max(c.old, c.new) {
		return Rename{}, false
	}
	r := Rename{From: bareName(strings.Trim(cells[c.old], "` ")), To: bareName(strings.Trim(cells[c.new], "` "))}
	if r.From == "" || r.To == "" || r.From == r.To {
		return Rename{}, false
	}
	_, head := namesTable(cells)
	return r, !head
}

// row is an entry's text for a row: the old beside the new, then the rest.
func (c columns) row(cells []string) string {
	if len(cells) <= max(c.old, c.new) {
		return strings.Join(cells, " ")
	}
	text := cells[c.old] + " → " + cells[c.new]
	for i, cell := range cells {
		if i != c.old && i != c.new && cell != "" {
			text += " (" + cell + ")"
		}
	}
	return text
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

// Bounds of what is taken of one entry: beyond them it is a document by itself, and
// what it says of a name is no longer near the name.
const (
	mostWords = 16 << 10 // bytes of its words
	mostLines = 1000     // of code
	mostPairs = 1000     // of names
)

// say adds words to an entry, behind what sets them apart.
func (e *entry) say(apart, words string) {
	if len(e.raw) < mostWords {
		e.raw += apart + words
	}
}

func (e *entry) shown(side Side, line string) {
	line = strings.TrimSpace(line)
	switch {
	case line == "", len(line) > mostWords, len(e.old)+len(e.new)+len(e.code) >= mostLines:
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

// onward is a version from which code holds: "v2.0.0 onward", "since 3.1".
var onward = regexp.MustCompile(`^(?:in |from |since |as of )?(?:version |v)?\d[\w.]*(?: and)? (?:onwards?|on|and (?:later|up)|or later)$|^(?:since|as of) (?:version |v)?\d[\w.]*$`)

func sideWord(text string) Side {
	word := strings.ToLower(strings.Trim(strings.TrimSpace(text), "*_:`#. "))
	if onward.MatchString(word) {
		return NewOne
	}
	first, _, _ := strings.Cut(word, " ")
	switch strings.Trim(first, ":*_,.") {
	case "old", "before", "previously", "was", "from", "removed", "deprecated", "current", "legacy":
		return Old
	case "new", "after", "now", "to", "replacement", "replaced", "replace", "use", "instead", "alternative":
		return NewOne
	}
	return Either
}
