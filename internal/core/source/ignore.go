package source

import (
	"io/fs"
	"path"
	"strings"

	gitignore "github.com/sabhiram/go-gitignore"
)

// ignoring holds the .gitignore files above a place in a walk.
type ignoring struct {
	fsys  fs.FS
	rules []rules // from the top down
}

type rules struct {
	dir  string // "." for the top
	list *gitignore.GitIgnore
}

// enter takes the .gitignore of a folder, and leaves those of folders that the
// walk has left.
func (g *ignoring) enter(dir string) {
	g.leave(dir)
	data, err := fs.ReadFile(g.fsys, path.Join(dir, ".gitignore"))
	if err != nil {
		return
	}
	g.rules = append(g.rules, rules{dir, gitignore.CompileIgnoreLines(strings.Split(string(data), "\n")...)})
}

func (g *ignoring) leave(name string) {
	for n := len(g.rules); n > 0 && !inside(name, g.rules[n-1].dir); n-- {
		g.rules = g.rules[:n-1]
	}
}

// file reports whether a file or folder is ignored.
func (g *ignoring) file(name string, dir bool) bool {
	g.leave(name)
	for _, r := range g.rules {
		rel := name
		if r.dir != "." {
			rel = strings.TrimPrefix(name, r.dir+"/")
		}
		if dir {
			rel += "/"
		}
		if r.list.MatchesPath(rel) {
			return true
		}
	}
	return false
}

func inside(name, dir string) bool { return dir == "." || strings.HasPrefix(name, dir+"/") }
