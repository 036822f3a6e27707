package rewrite

import (
	"path"
	"strings"

	"unicausa/internal/core/notes"
	"unicausa/internal/core/source"
)

// Move gives a file of the tree another path.
type Move struct {
	From string `json:"from"`
	To   string `json:"to"`
}

// moves are those of the tree's files that pairs of names rename: a file of that
// name in any folder, the files below a folder, or those with an ending. A file whose
// new path is taken stays.
func moves(tree *source.Tree, renames []notes.Rename) []Move {
	var list []Move
	taken := map[string]bool{}
	for _, name := range tree.Files() {
		taken[name] = true
	}
	for _, r := range renames {
		for _, name := range tree.Files() {
			to := moved(name, r)
			if to == "" || taken[to] {
				continue
			}
			taken[to] = true
			list = append(list, Move{From: name, To: to})
		}
	}
	return list
}

// moved is the new path of a file that a pair renames, "" where it does not.
func moved(name string, r notes.Rename) string {
	if strings.HasPrefix(r.From, "-") || strings.Contains(r.From, " ") || strings.Contains(r.To, " ") {
		return ""
	}
	from, isFolder := strings.CutSuffix(strings.TrimPrefix(r.From, "./"), "/")
	to := strings.TrimSuffix(strings.TrimPrefix(r.To, "./"), "/")
	ending, isEnding := strings.CutPrefix(from, "*")
	switch {
	case isEnding && strings.HasPrefix(to, "*"):
		if stem, ok := strings.CutSuffix(name, ending); ok && strings.HasPrefix(ending, ".") {
			return stem + to[1:]
		}
	case isFolder:
		if i := strings.Index("/"+name, "/"+from+"/"); i >= 0 && strings.HasSuffix(r.To, "/") {
			return name[:i] + to + name[i+len(from):]
		}
	case path.Ext(from) == "" && !strings.HasPrefix(path.Base(from), "."), path.Ext(to) == "" && !strings.HasPrefix(path.Base(to), "."):
	case strings.Contains(from, "/") == strings.Contains(to, "/") || path.Dir(from) == "." || path.Dir(to) == ".":
		if dir, ok := strings.CutSuffix("/"+name, "/"+from); ok {
			return strings.TrimPrefix(dir+"/"+to, "/")
		}
	}
	return ""
}
