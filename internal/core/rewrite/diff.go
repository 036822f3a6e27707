package rewrite

import (
	"fmt"
	"sort"
	"strings"

	"github.com/aymanbagabas/go-udiff"

	"unicausa/internal/core/source"
	"unicausa/internal/core/unified"
)

// Diff writes edits and moves as a unified diff that git apply takes as it is. They
// have to be those of a Patch, or a part of them, on the same tree; an edit that does
// not fit the tree is an error.
func Diff(tree *source.Tree, edits []Edit, moves []Move) (string, error) {
	edits = append([]Edit{}, edits...)
	sort.SliceStable(edits, func(i, j int) bool { return edits[i].before(edits[j]) })
	moved := map[string]string{}
	for _, m := range moves {
		moved[m.From] = m.To
	}
	var b strings.Builder
	for i := 0; i < len(edits); {
		j := i
		for j < len(edits) && edits[j].File == edits[i].File {
			j++
		}
		file := edits[i].File
		text := string(tree.Read(file))
		changed, err := offsets(text, edits[i:j])
		if err != nil {
			return "", err
		}
		to := file
		if moved[file] != "" {
			to = moved[file]
			delete(moved, file)
			fmt.Fprintf(&b, "diff --git a/%s b/%s\nrename from %s\nrename to %s\n", file, to, file, to)
		}
		diff, err := unified.Edits("a/"+file, "b/"+to, text, changed)
		if err != nil {
			return "", err
		}
		b.WriteString(diff)
		i = j
	}
	for _, m := range moves {
		if moved[m.From] != "" {
			fmt.Fprintf(&b, "diff --git a/%s b/%s\nsimilarity index 100%%\nrename from %s\nrename to %s\n", m.From, m.To, m.From, m.To)
		}
	}
	return b.String(), nil
}

// offsets turns edits of one file, in order, into edits by offset.
func offsets(text string, edits []Edit) ([]udiff.Edit, error) {
	var list []udiff.Edit
	line, at := 1, 0
	for _, e := range edits {
		for line < e.Line {
			n := strings.IndexByte(text[at:], '\n')
			if n < 0 {
				return nil, fmt.Errorf("%s has no line %d: the source tree is another one now", e.File, e.Line)
			}
			line, at = line+1, at+n+1
		}
		from := at + e.Column - 1
		if e.Column < 1 || from+len(e.From) > len(text) || text[from:from+len(e.From)] != e.From {
			return nil, fmt.Errorf("%s:%d does not have %s in column %d: the source tree is another one now", e.File, e.Line, e.From, e.Column)
		}
		list = append(list, udiff.Edit{Start: from, End: from + len(e.From), New: e.To})
	}
	return list, nil
}
