package review

import (
	"bytes"
	"cmp"
	"errors"
	"fmt"
	"io"
	"regexp"
	"slices"
	"strings"

	"github.com/bluekeyes/go-gitdiff/gitdiff"

	"unicausa/internal/core/source"
	"unicausa/internal/core/unified"
)

// Diff is a unified diff, as git prints it.
type Diff struct {
	files []*gitdiff.File
}

// Parse reads a unified diff. The error says where it breaks off, or that it is none.
func Parse(r io.Reader) (Diff, error) {
	text, err := io.ReadAll(r)
	if err != nil {
		return Diff{}, fmt.Errorf("reading the diff: %w", err)
	}
	files, _, err := gitdiff.Parse(bytes.NewReader(withHeaders(text)))
	if err != nil {
		return Diff{}, fmt.Errorf("this is no unified diff: %w", err)
	}
	for _, f := range files {
		if len(f.TextFragments) == 0 && !f.IsRename && !f.IsCopy && !f.IsBinary && !f.IsNew && !f.IsDelete && f.OldMode == f.NewMode {
			return Diff{}, fmt.Errorf("this is no unified diff: no hunk of %s can be read", f.OldName)
		}
	}
	if len(files) == 0 && len(bytes.TrimSpace(text)) > 0 {
		return Diff{}, errors.New("this is no unified diff: give what git diff or git show prints")
	}
	return Diff{files: files}, nil
}

// bothNames are the two lines that name a file with git's prefixes, a/ and b/.
var bothNames = regexp.MustCompile(`(?m)^--- (?:a/(.+)|/dev/null)\n\+\+\+ (?:b/(.+)|/dev/null)$`)

// withHeaders puts git's own header before each file of a diff that has none: with it, the
// prefixes are known not to be part of the names.
func withHeaders(text []byte) []byte {
	if bytes.HasPrefix(text, []byte("diff --git ")) || bytes.Contains(text, []byte("\ndiff --git ")) {
		return text
	}
	return bothNames.ReplaceAllFunc(text, func(lines []byte) []byte {
		m := bothNames.FindSubmatch(lines)
		old, _, _ := strings.Cut(string(m[1]), "\t") // behind a tab some print the time
		new, _, _ := strings.Cut(string(m[2]), "\t")
		header := fmt.Sprintf("diff --git a/%s b/%s\n", cmp.Or(old, new), cmp.Or(new, old))
		switch {
		case old == "":
			header += "new file mode 100644\n"
		case new == "":
			header += "deleted file mode 100644\n"
		case old != new:
			return lines
		}
		return append([]byte(header), lines...)
	})
}

// Between is the diff of two trees; one that is nil is empty. A file that went and one
// that came with the same content is a move.
func Between(before, after *source.Tree) (Diff, error) {
	var b strings.Builder
	names := append(slices.Clone(before.Files()), after.Files()...)
	slices.Sort(names)
	moved := moves(before, after)
	for _, name := range slices.Compact(names) {
		from, to := before.Read(name), after.Read(name)
		if bytes.Equal(from, to) || moved[name] == "" && from == nil && !after.Has(name) {
			continue
		}
		if other, ok := moved[name]; ok {
			if to == nil {
				fmt.Fprintf(&b, "diff --git a/%s b/%s\nsimilarity index 100%%\nrename from %s\nrename to %s\n", name, other, name, other)
			}
			continue
		}
		old, new := "a/"+name, "b/"+name
		switch {
		case !before.Has(name):
			old = "/dev/null"
		case !after.Has(name):
			new = "/dev/null"
		}
		fmt.Fprintf(&b, "diff --git a/%s b/%s\n", name, name)
		if old == "/dev/null" {
			b.WriteString("new file mode 100644\n")
		} else if new == "/dev/null" {
			b.WriteString("deleted file mode 100644\n")
		}
		b.WriteString(unified.Diff(old, new, string(from), string(to)))
	}
	return Parse(strings.NewReader(b.String()))
}

// moves pair the files that went with those that came, by equal content.
func moves(before, after *source.Tree) map[string]string {
	gone := map[string]string{}
	for _, name := range before.Files() {
		if data := before.Read(name); !after.Has(name) && len(data) > 0 {
			gone[string(data)] = name
		}
	}
	pairs := map[string]string{}
	for _, name := range after.Files() {
		if before.Has(name) || len(gone) == 0 {
			continue
		}
		data := string(after.Read(name))
		if was := gone[data]; was != "" {
			pairs[was], pairs[name] = name, was
			delete(gone, data)
		}
	}
	return pairs
}

// Trees are a tree as it was before the diff and as it is behind it, of which it has to
// be one. Where it is neither, both are nil.
func (d Diff) Trees(tree *source.Tree) (before, after *source.Tree) {
	if tree == nil {
		return nil, nil
	}
	if files, ok := d.apply(tree, true); ok {
		return tree.With(files), tree
	}
	if files, ok := d.apply(tree, false); ok {
		return tree, tree.With(files)
	}
	return nil, nil
}

// apply gives the files of the diff as they are on its other side: before it, where
// back is set. What the tree holds in their place has to fit; files it does not have,
// for they are large or not text, are left out.
func (d Diff) apply(tree *source.Tree, back bool) (files map[string][]byte, ok bool) {
	files = map[string][]byte{}
	expected, fits := false, false // lines of this side, and one that is there
	for _, f := range d.files {
		from, to := f.OldName, f.NewName
		if back {
			from, to = to, from
		}
		for _, fragment := range f.TextFragments {
			expected = expected || !back && fragment.OldLines > 0 || back && fragment.NewLines > 0
		}
		if f.IsBinary || from != "" && !tree.Has(from) {
			continue
		}
		if from == "" && tree.Has(to) {
			return nil, false
		}
		var out []string
		at := 0
		lines := strings.SplitAfter(string(tree.Read(from)), "\n")
		for _, fragment := range f.TextFragments {
			start := int(fragment.OldPosition)
			old, new := gitdiff.OpDelete, gitdiff.OpAdd
			if back {
				start, old, new = int(fragment.NewPosition), new, old
			}
			if start = max(start-1, 0); start < at || start > len(lines) {
				return nil, false
			}
			out = append(out, lines[at:start]...)
			at = start
			held := false
			for _, l := range fragment.Lines {
				if l.Op == new {
					out = append(out, l.Line)
					continue
				}
				if at >= len(lines) || lines[at] != l.Line {
					return nil, false
				}
				held, fits = true, true
				if at++; l.Op != old {
					out = append(out, l.Line)
				}
			}
			if !held && len(tree.Read(from)) > 0 { // of a file that was empty on this side
				return nil, false
			}
		}
		out = append(out, lines[at:]...)
		if from != "" && from != to {
			files[from] = nil
		}
		if to != "" {
			files[to] = []byte(strings.Join(out, ""))
		}
	}
	return files, fits || !expected && (len(files) > 0 || len(d.files) == 0)
}

// block is a run of lines that were removed and added.
type block struct {
	file, was        string // the paths behind and before; "" where there is none
	line, old        int    // its first lines behind and before, 1-based
	removed, added   []string
	before, behind   []string // lines around it
	moved, binary    bool     // of a file as a whole
	created, deleted bool     // its file
	removedAt, addAt []int    // the lines' numbers
}

// path is the block's file as it is now, or as it was.
func (b *block) path() string {
	if b.file != "" {
		return b.file
	}
	return b.was
}

// around is how many lines are shown around a block.
const around = 3

// blocks are the runs of changed lines. Two with nothing but brackets between them are one.
func (d Diff) blocks() []block {
	var list []block
	for _, f := range d.files {
		whole := block{file: f.NewName, was: f.OldName, moved: f.IsRename, binary: f.IsBinary, created: f.IsNew, deleted: f.IsDelete, line: 1, old: 1}
		if len(f.TextFragments) == 0 {
			list = append(list, whole)
		}
		for _, fragment := range f.TextFragments {
			old, line := int(fragment.OldPosition), int(fragment.NewPosition)
			var b *block
			var context []string
			for _, l := range fragment.Lines {
				text := strings.TrimRight(l.Line, "\r\n")
				if l.Op == gitdiff.OpContext {
					old, line = old+1, line+1
					context = append(context, text)
					continue
				}
				if b != nil && len(context) == 1 && strings.Trim(context[0], " \t()[]{};,") == "" && len(b.removed) > 0 && len(b.added) > 0 && context[0] != "" {
					b.removed, b.added = append(b.removed, context[0]), append(b.added, context[0])
					b.removedAt, b.addAt = append(b.removedAt, old-1), append(b.addAt, line-1)
				} else if b == nil || len(context) > 0 {
					if b != nil {
						b.behind = context[:min(len(context), around)]
					}
					next := whole
					next.old, next.line, next.before = old, line, slices.Clone(context[max(len(context)-around, 0):])
					list = append(list, next)
					b = &list[len(list)-1]
				}
				context = nil
				if l.Op == gitdiff.OpDelete {
					b.removed, b.removedAt = append(b.removed, text), append(b.removedAt, old)
					old++
				} else {
					b.added, b.addAt = append(b.added, text), append(b.addAt, line)
					line++
				}
			}
			if b != nil {
				b.behind = context[:min(len(context), around)]
			}
		}
	}
	return list
}
