package review

import (
	"regexp"
	"sort"
	"strings"

	"github.com/aymanbagabas/go-udiff"

	"unicausa/internal/core/source"
)

// edit is a block as tokens: what went, what came, and what is on both sides.
type edit struct {
	out, in, both []string
}

func (e edit) went(name string) bool { return holds(e.out, name) && !holds(e.in, name) }
func (e edit) came(name string) bool { return holds(e.in, name) }

// holds reports whether a name is one of some tokens, or stands in one that is a text.
func holds(tokens []string, name string) bool {
	for _, t := range tokens {
		if t == name || len(t) > len(name) && strings.ContainsAny(t[:1], "\"'`") && word(t, name) || strings.ContainsAny(name, "-/.") && word(t, name) {
			return true
		}
	}
	return false
}

// word reports whether a name stands whole in a text.
func word(text, name string) bool {
	for from := 0; ; {
		i := strings.Index(text[from:], name)
		if i < 0 {
			return false
		}
		i += from
		end := i + len(name)
		if (i == 0 || !inWord(text[i-1])) && (end == len(text) || !inWord(text[end])) {
			return true
		}
		from = i + 1
	}
}

func inWord(c byte) bool {
	return c == '_' || c == '$' || 'a' <= c && c <= 'z' || 'A' <= c && c <= 'Z' || '0' <= c && c <= '9' || c >= 0x80
}

// settingToken is a word or a mark of a file that is no program.
var settingToken = regexp.MustCompile(`[\w$@./-]*[\w$]|[^\s\w]`)

// edit lexes both sides of a block and tells them apart.
func (a *asker) edit(b *block) edit {
	old, new := a.tokens(a.before, b.was, b.removed, b.removedAt), a.tokens(a.after, b.file, b.added, b.addAt)
	var e edit
	at := 0
	oldText := strings.Join(old, "\n") + "\n"
	offsets := []int{0}
	for _, t := range old {
		offsets = append(offsets, offsets[len(offsets)-1]+len(t)+1)
	}
	for _, d := range udiff.Lines(oldText, strings.Join(new, "\n")+"\n") {
		from, end := sort.SearchInts(offsets, d.Start), sort.SearchInts(offsets, d.End)
		e.both = append(e.both, old[min(at, len(old)):min(from, len(old))]...)
		e.out = append(e.out, old[min(from, len(old)):min(end, len(old))]...)
		for _, t := range strings.Split(strings.TrimSuffix(d.New, "\n"), "\n") {
			if t != "" {
				e.in = append(e.in, t)
			}
		}
		at = end
	}
	e.both = append(e.both, old[min(at, len(old)):]...)
	return e
}

// tokens are those of some lines of a file, without comments: as the whole file is lexed
// where the tree has it, or else by themselves.
func (a *asker) tokens(tree *source.Tree, file string, lines []string, at []int) []string {
	text := strings.Join(lines, "\n")
	var list []string
	if !source.Program(file) {
		return settingToken.FindAllString(text, -1)
	}
	add := func(t source.Token) { list = append(list, strings.ReplaceAll(t.Text, "\n", " ")) }
	if !tree.Has(file) || len(at) == 0 {
		for _, t := range source.Tokens(file, text) {
			add(t)
		}
		return list
	}
	wanted := map[int]bool{}
	for _, n := range at {
		wanted[n] = true
	}
	whole := string(tree.Read(file))
	line, seen := 1, 0
	for _, t := range source.Tokens(file, whole) {
		line += strings.Count(whole[seen:t.Offset], "\n")
		seen = t.Offset
		if wanted[line] {
			add(t)
		}
	}
	return list
}
