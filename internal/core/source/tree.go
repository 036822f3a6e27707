// Package source reads a source tree as facts: which file is meant, what a
// line says, what a file imports, where a function begins and ends. Files are
// lexed line by line, not parsed.
package source

import (
	"bytes"
	"io"
	"io/fs"
	"path"
	"sort"
	"strings"

	"unicausa/internal/core/versions"
)

// maxFile is the size above which a file is taken for data; its lines are not read.
const maxFile = 2 << 20

// skipped folders hold what others wrote or what a tool made.
var skipped = map[string]bool{".git": true, "node_modules": true, "vendor": true, "dist": true, "build": true, "target": true, "out": true, "__pycache__": true, ".venv": true}

// Tree is a source tree. The nil tree is empty: nothing is found in it.
type Tree struct {
	fsys    fs.FS
	files   map[string]bool
	order   []string
	byBase  map[string][]string
	lines   map[string][]string
	imports map[string][]Import

	code     []string // the files that are indexed; nil until they are asked for
	declared map[string][]Declaration
	byName   map[string][]Declaration // nil until it is asked for
	fields   map[string]map[string]int
	own      map[string][]byte // what stands in the place of the files of fsys
}

// NewTree lists the files of fsys, without those that a .gitignore in it names.
// It returns the error of the walk.
func NewTree(fsys fs.FS) (*Tree, error) {
	return list(fsys, &ignoring{fsys: fsys})
}

// Tracked is NewTree for files that git has picked: none of them is ignored.
func Tracked(fsys fs.FS) (*Tree, error) { return list(fsys, nil) }

// list walks fsys; without ignored, nothing is.
func list(fsys fs.FS, ignored *ignoring) (*Tree, error) {
	t := &Tree{fsys: fsys, files: map[string]bool{}, byBase: map[string][]string{}, lines: map[string][]string{}, imports: map[string][]Import{}, declared: map[string][]Declaration{}, fields: map[string]map[string]int{}}
	err := fs.WalkDir(fsys, ".", func(name string, d fs.DirEntry, err error) error {
		switch {
		case err != nil:
			return err
		case d.IsDir() && skipped[d.Name()] && name != ".":
			return fs.SkipDir
		case ignored != nil && name != "." && ignored.file(name, d.IsDir()):
			if d.IsDir() {
				return fs.SkipDir
			}
		case d.IsDir():
			if ignored != nil {
				ignored.enter(name)
			}
		case d.Type().IsRegular():
			t.files[name] = true
			t.order = append(t.order, name)
			t.byBase[path.Base(name)] = append(t.byBase[path.Base(name)], name)
		}
		return nil
	})
	sort.Strings(t.order)
	for _, list := range t.byBase {
		sort.Strings(list)
	}
	return t, err
}

// With is the tree with some files as they are given; one of which nothing is given is
// not there.
func (t *Tree) With(files map[string][]byte) *Tree {
	w := &Tree{fsys: t.fsys, files: map[string]bool{}, byBase: map[string][]string{}, lines: map[string][]string{}, imports: map[string][]Import{}, declared: map[string][]Declaration{}, fields: map[string]map[string]int{}, own: map[string][]byte{}}
	for name, data := range t.own {
		w.own[name] = data
	}
	for name, data := range files {
		w.own[name] = data
	}
	for _, name := range t.order {
		w.files[name] = true
	}
	for name, data := range files {
		w.files[name] = data != nil
	}
	for name, there := range w.files {
		if !there {
			delete(w.files, name)
			continue
		}
		w.order = append(w.order, name)
		w.byBase[path.Base(name)] = append(w.byBase[path.Base(name)], name)
	}
	sort.Strings(w.order)
	for _, list := range w.byBase {
		sort.Strings(list)
	}
	return w
}

// Only is the tree with some of its files alone.
func (t *Tree) Only(files []string) *Tree {
	gone := map[string][]byte{}
	for _, name := range t.Files() {
		gone[name] = nil
	}
	for _, name := range files {
		delete(gone, name)
	}
	return t.With(gone)
}

// Has reports whether the tree has a file.
func (t *Tree) Has(file string) bool { return t != nil && t.files[file] }

// Files lists the tree's files in order.
func (t *Tree) Files() []string {
	if t == nil {
		return nil
	}
	return t.order
}

// compiled maps what a build writes to what it was written from.
var compiled = map[string][]string{".js": {".ts", ".tsx", ".jsx", ".mts"}, ".jsx": {".tsx"}, ".mjs": {".mts", ".ts"}, ".cjs": {".cts", ".ts"}}

// Find gives the tree's own path of a file as a tool printed it: as it is,
// under another checkout's path, as a bare name in the unit (package) that was
// tested, or as the source of a compiled file. Exact reports whether lines in
// the printed file are lines in the found one. It returns "" when no file, or
// more than one, fits.
func (t *Tree) Find(file, unit string) (name string, exact bool) {
	if t == nil || file == "" {
		return "", false
	}
	file = path.Clean(strings.ReplaceAll(file, `\`, "/"))
	if t.files[file] {
		return file, true
	}
	if name := t.bySuffix(file, unit); name != "" {
		return name, true
	}
	ext := path.Ext(file)
	for _, other := range compiled[ext] {
		if name := t.bySuffix(strings.TrimSuffix(file, ext)+other, unit); name != "" {
			return name, false
		}
	}
	return "", false
}

// Holds reports whether the tree has a file that a tool printed.
func (t *Tree) Holds(file string) bool {
	name, exact := t.Find(file, "")
	return name != "" && exact
}

// bySuffix finds the one file that shares the longest tail of the path.
func (t *Tree) bySuffix(file, unit string) string {
	best, most, several := "", 0, false
	for _, candidate := range t.byBase[path.Base(file)] {
		n := 2 * sharedTail(candidate, file)
		if within(candidate, file, unit) {
			n++
		}
		switch {
		case n > most:
			best, most, several = candidate, n, false
		case n == most:
			several = true
		}
	}
	if several {
		return ""
	}
	return best
}

// within reports whether a file stands in a folder that a unit is named after: a
// bare name in the package's own, another in one of the module's name.
func within(candidate, file, unit string) bool {
	switch {
	case unit == "":
		return false
	case !strings.Contains(file, "/"):
		return strings.HasSuffix("/"+unit, "/"+path.Dir(candidate))
	}
	return strings.Contains("/"+candidate, "/"+path.Base(unit)+"/")
}

func sharedTail(a, b string) int {
	as, bs := strings.Split(a, "/"), strings.Split(b, "/")
	n := 0
	for n < len(as) && n < len(bs) && as[len(as)-1-n] == bs[len(bs)-1-n] {
		n++
	}
	return n
}

// Read is the content of a file of the tree, nil where it is large or binary.
// It may be called side by side.
func (t *Tree) Read(file string) []byte { return t.ReadInto(file, nil) }

// ReadInto is Read into a buffer, which it may have to replace by a larger one.
func (t *Tree) ReadInto(file string, buffer []byte) []byte {
	if t == nil || !t.files[file] {
		return nil
	}
	if data := t.own[file]; data != nil {
		return append(buffer[:0], data...)
	}
	f, err := t.fsys.Open(file)
	if err != nil {
		return nil
	}
	defer f.Close()
	info, err := f.Stat()
	if err != nil || info.Size() < 0 || info.Size() > maxFile && !lockFile(file, info.Size()) {
		return nil // an archive may claim any size, one beyond the sign too
	}
	if int64(cap(buffer)) < info.Size() {
		buffer = make([]byte, info.Size()+info.Size()/4)
	}
	data := buffer[:info.Size()]
	if n, err := io.ReadFull(f, data); err != nil || bytes.IndexByte(data[:min(n, 512)], 0) >= 0 {
		return nil
	}
	return data
}

// lockFile reports whether a file that is large for source text is a lock file,
// which may be.
func lockFile(file string, size int64) bool {
	_, lock := versions.Known(file)
	return lock && size <= 8*maxFile
}

// Lines are the lines of a file of the tree, or nil.
func (t *Tree) Lines(file string) []string {
	if t == nil || !t.files[file] {
		return nil
	}
	if lines, ok := t.lines[file]; ok {
		return lines
	}
	var lines []string
	if data := t.Read(file); data != nil {
		lines = strings.Split(string(data), "\n")
	}
	t.lines[file] = lines
	return lines
}

// Line is one line of a file, 1-based, or "".
func (t *Tree) Line(file string, n int) string {
	lines := t.Lines(file)
	if n < 1 || n > len(lines) {
		return ""
	}
	return strings.TrimRight(lines[n-1], "\r")
}

// Of is a tree of the files that are given.
func Of(files map[string][]byte) *Tree { return (&Tree{}).With(files) }
