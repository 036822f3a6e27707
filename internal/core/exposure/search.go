package exposure

import (
	"bytes"
	"cmp"
	"context"
	"path"
	"regexp"
	"runtime"
	"slices"
	"strings"

	"unicausa/internal/core/guard"
	"unicausa/internal/core/notes"
	"unicausa/internal/core/source"
)

// want is one change that looks for a name, wanting all that do.
type want struct {
	change int
	symbol notes.Symbol
}

type wanting []want

type searcher struct {
	tree    *source.Tree
	changes []notes.Change
	words   *words
	wanted  []wanting
}

// files searches all files, as many side by side as there are cores, and gives
// what each part of them has of every change.
func (s *searcher) files(ctx context.Context) [][]Found {
	files := s.tree.Files()
	parts := make([][]Found, runtime.GOMAXPROCS(0))
	var wait guard.Group
	for n := range parts {
		parts[n] = make([]Found, len(s.changes))
		wait.Go(func() {
			var buffer []byte
			for i := n; i < len(files); i += len(parts) {
				guard.Check(ctx)
				data := s.tree.ReadInto(files[i], buffer)
				if cap(data) > cap(buffer) {
					buffer = data
				}
				for change, places := range s.file(files[i], data) {
					parts[n][change].add(places)
				}
			}
		})
	}
	wait.Wait()
	return parts
}

// hit is a name at an offset.
type hit struct{ name, offset int }

func (s *searcher) file(name string, data []byte) map[int][]Place {
	at := []string{name}
	defer guard.Name(func() []string { return at })
	var hits []hit
	s.words.each(data, func(n, offset int) { hits = append(hits, hit{n, offset}) })
	if len(hits) == 0 {
		return nil
	}
	// A name that is found by a word inside of it begins before that word.
	slices.SortStableFunc(hits, func(a, b hit) int { return cmp.Compare(a.offset, b.offset) })
	f := newFile(name, string(data))
	places := map[int][]Place{}
	for _, h := range hits {
		for _, w := range s.wanted[h.name] {
			at = append(at[:1], s.changes[w.change].Notes)
			if p := f.place(s.words.names[h.name], h.offset, w.symbol, &s.changes[w.change]); p.Sure > 0 {
				places[w.change] = append(places[w.change], p)
			}
		}
	}
	return places
}

// file is a file in which something was found.
type file struct {
	name    string
	text    string
	program bool
	zones   source.Zones
	imports []source.Import
	local   map[string][]int // the imports by the name that they give, and by the name that they take
	taken   map[string][]int
	modules map[string]bool // of a path: whether it is imported
	brings  map[string]bool // of a package: whether an import is of its family
	words   map[string]bool // of a package: whether a file of settings names it
	line    int             // of the offset seen, and where it begins
	from    int
	seen    int
}

func newFile(name, text string) *file {
	f := &file{name: name, text: text, program: source.Program(name), zones: source.ZonesOf(name, text), line: 1}
	if f.program {
		f.imports = source.ImportsOf(name, strings.Split(text, "\n"))
	}
	f.local, f.taken = map[string][]int{}, map[string][]int{}
	for i, imp := range f.imports {
		f.local[imp.Local] = append(f.local[imp.Local], i)
		if imp.Name != imp.Local {
			f.taken[imp.Name] = append(f.taken[imp.Name], i)
		}
	}
	f.modules, f.brings, f.words = map[string]bool{}, map[string]bool{}, map[string]bool{}
	return f
}

// place is the place at an offset; Sure is 0 where the name is not the change's.
func (f *file) place(name string, offset int, symbol notes.Symbol, c *notes.Change) Place {
	p := f.at(name, offset)
	p.Sure = f.sure(name, offset, symbol, c, p.Zone)
	return p
}

// at is the place at an offset, which must not be before that of the last call.
func (f *file) at(name string, offset int) Place {
	if n := strings.LastIndexByte(f.text[f.seen:offset], '\n'); n >= 0 {
		f.line += strings.Count(f.text[f.seen:offset], "\n")
		f.from = f.seen + n + 1
	}
	f.seen = offset
	shown, _, _ := strings.Cut(f.text[f.from:min(len(f.text), f.from+200)], "\n")
	return Place{
		File: f.name, Line: f.line, Column: offset - f.from + 1, Name: name, Zone: f.zones.At(offset),
		Text: strings.Clone(strings.TrimRight(shown, "\r")), // not all of the file is kept
	}
}

// sure tells how certain it is that the change's name is meant.
func (f *file) sure(name string, offset int, symbol notes.Symbol, c *notes.Change, zone source.Zone) float64 {
	plain := symbol.Role == ""
	switch {
	case !f.program && strings.ContainsAny(name, "{%<"): // a template's field
		return Likely
	case !f.program && (!plain || !Common(name)) && Setting(f.name) && f.configures(c.Package):
		return Certain
	case !f.program && !plain && Setting(f.name):
		return Likely
	case !f.program:
		if plain && Common(name) {
			return 0
		}
		return Said
	case zone == source.Comment:
		if Common(name) {
			return 0
		}
		return Said
	case zone == source.Literal:
		switch {
		case strings.Contains(name, "/") && f.importsModule(name, offset):
			return Certain
		case !plain || strings.ContainsAny(name, "/"):
			return Perhaps
		case Common(name):
			return 0
		}
		return Said
	}
	return f.meant(name, offset, symbol, c)
}

// configures reports whether a file of settings is a package's own: it bears its
// name, or names it within.
func (f *file) configures(pkg string) bool {
	return once(f.words, pkg, func() bool {
		name := strings.ToLower(notes.LastPart(pkg[strings.LastIndexByte(pkg, '/')+1:]))
		return name != "" && (strings.Contains(strings.ToLower(f.name), name) || strings.Contains(strings.ToLower(f.text), name))
	})
}

// imported reports whether the file imports something of a package's family.
func (f *file) imported(pkg string) bool {
	return once(f.brings, pkg, func() bool {
		return slices.ContainsFunc(f.imports, func(imp source.Import) bool { return ofFamily(imp, pkg) })
	})
}

func ofFamily(imp source.Import, pkg string) bool {
	return source.SameFamily(imp.Package, pkg) || source.SameFamily(imp.Package+"."+imp.Name, pkg)
}

// once is what find says of a key, asked a first time.
func once(known map[string]bool, key string, find func() bool) bool {
	v, ok := known[key]
	if !ok {
		v = find()
		known[key] = v
	}
	return v
}

// bearing is the first import that gives or takes a name: behind a qualifier the one
// that is called so, else the one that brings the name itself.
func (f *file) bearing(qualifier, name string) *source.Import {
	first := func(list []int, best int) int {
		if len(list) > 0 && (best < 0 || list[0] < best) {
			return list[0]
		}
		return best
	}
	best := -1
	if qualifier != "" {
		best = first(f.local[qualifier], best)
	} else {
		best = first(f.taken[name], first(f.local[name], best))
	}
	if best < 0 {
		return nil
	}
	return &f.imports[best]
}

// meant tells, of a name in code, how certain it is that the package's is
// meant: by what qualifies it and by what the file imports.
func (f *file) meant(name string, offset int, symbol notes.Symbol, c *notes.Change) float64 {
	qualifier := before(f.text[:offset])
	if imp := f.bearing(qualifier, name); imp != nil {
		ours := c.Package == "" || ofFamily(*imp, c.Package)
		switch {
		case !ours || qualifier != "" && renamedTo(c, qualifier, name):
			return 0 // another package's, or the new name already
		case qualifier != "" && imp.Name != "" && typed(symbol.Owner) && typed(qualifier) && notes.LastPart(symbol.Owner) != qualifier && notes.LastPart(symbol.Owner) != imp.Name:
			return 0 // of another type of the package
		case qualifier != "" && (c.Package == "" || imp.Name == "" && (inOther(*imp, symbol.Owner) || ofPart(*imp, c))):
			return Perhaps
		case qualifier == "" && symbol.Owner != "" && !owns(*imp, symbol.Owner):
			return Perhaps // a member of something else has this name too
		}
		return Certain
	}
	theirs, known := c.Package != "" && f.imported(c.Package), len(f.imports) > 0
	if c.Package != "" && qualifier != "" && strings.EqualFold(qualifier, notes.LastPart(path.Base(c.Package))) && strings.HasSuffix(f.text[:offset], "::") {
		return Certain // by its whole path, which needs no import
	}
	keyed := f.keyed(offset + len(name))
	member := qualifier != "" || keyed
	switch {
	case theirs && keyed && qualifier == "" && f.fieldOfOther(offset, c):
		return Perhaps // of the same package, in a part that the change does not name
	case theirs && !member && Common(name) && name[0] >= 'a' && !f.called(offset+len(name)):
		return Perhaps // it may be a variable
	case theirs && (member || symbol.Owner == ""):
		return Likely
	case theirs:
		return Perhaps
	case (known || !script(f.name)) && c.Package != "" && PerFile(f.name):
		if member && symbol.Owner != "" && !Common(name) { // a value that came from elsewhere
			return Perhaps
		}
		return 0
	}
	if Common(name) && !member {
		return 0
	}
	return Perhaps
}

// called reports whether arguments follow a name.
func (f *file) called(end int) bool { return end < len(f.text) && f.text[end] == '(' }

// inOther reports whether an owner is a module of the package other than the one that
// is imported: "linalg" of the owner "numpy.linalg", where numpy is.
func inOther(imp source.Import, owner string) bool {
	last := notes.LastPart(owner)
	return strings.ContainsAny(owner, ".:/") && last != "" && last[0] >= 'a' && !strings.EqualFold(last, imp.Package[strings.LastIndexAny(imp.Package, "/.:")+1:])
}

// majorVersion ends the path of a Go module from its second major version on.
var majorVersion = regexp.MustCompile(`/v[0-9]+$`)

// typed reports whether a name is written as a type is.
func typed(name string) bool {
	last := notes.LastPart(name)
	return last != "" && last[0] >= 'A' && last[0] <= 'Z'
}

// ofPart reports whether a change stands under the heading of another part of the
// package than the one that is imported: "pgxpool" of pgx.
func ofPart(imp source.Import, c *notes.Change) bool {
	base := path.Base(majorVersion.ReplaceAllString(imp.Package, ""))
	for _, heading := range append([]string{c.Title}, c.Context...) {
		if heading != base && len(heading) > len(base) && strings.HasPrefix(heading, base) && !strings.ContainsAny(heading, " .:/") {
			return true
		}
	}
	return false
}

// fieldOfOther reports whether a field is one of a type that an import brings from a
// part of the package that the change does not name: "Expiration:" within
// "limiter.Config{" of a change to sessions.
func (f *file) fieldOfOther(offset int, c *notes.Change) bool {
	depth := 0
	for i := offset - 1; i >= 0 && i > offset-4000; i-- {
		switch f.text[i] {
		case ')', ']', '}':
			depth++
		case '(', '[', '{':
			if depth--; depth >= 0 {
				continue
			}
			from := i
			for from > 0 && (inWord[f.text[from-1]] || f.text[from-1] == '.') {
				from--
			}
			owner, _, ok := strings.Cut(f.text[from:i], ".")
			if !ok {
				return false
			}
			for _, n := range f.local[owner] {
				if imp := f.imports[n]; imp.Name == "" {
					last := strings.ToLower(path.Base(majorVersion.ReplaceAllString(imp.Package, "")))
					return !strings.HasSuffix("/"+strings.ToLower(majorVersion.ReplaceAllString(c.Package, "")), "/"+last) && !strings.Contains(strings.ToLower(c.Text+" "+strings.Join(c.Context, " ")), last)
				}
			}
			return false
		}
	}
	return false
}

// owns reports whether an import brings a name from its owner.
func owns(imp source.Import, owner string) bool {
	owner = notes.LastPart(owner)
	return strings.EqualFold(notes.LastPart(imp.Package), owner) || strings.EqualFold(imp.Package[strings.LastIndexAny(imp.Package, "/.:")+1:], owner)
}

// renamedTo reports whether the change gives a name this owner.
func renamedTo(c *notes.Change, owner, name string) bool {
	for _, r := range c.Renames {
		if r.To == owner+"."+name && r.From != r.To {
			return true
		}
	}
	return false
}

// importsModule reports whether the file imports a module by its whole path, in
// the line of an offset.
func (f *file) importsModule(name string, offset int) bool {
	head := f.head(offset)
	block := strings.HasSuffix(f.name, ".go") && len(strings.Fields(head)) <= 2 && !strings.Contains(head, "=")
	if !block && !strings.Contains(head, "from ") && !strings.Contains(head, "import") && !strings.Contains(head, "require") {
		return false
	}
	return once(f.modules, name, func() bool {
		return slices.ContainsFunc(f.imports, func(imp source.Import) bool { return imp.Package == name })
	})
}

// mostHead bounds what is looked at in front of a name, in bytes: lines of programs
// that people write are shorter.
const mostHead = 2000

// head is what stands in front of an offset on its line.
func (f *file) head(offset int) string {
	near := f.text[max(0, offset-mostHead):offset]
	return near[strings.LastIndexByte(near, '\n')+1:]
}

// keyed reports whether a field or an argument is named: "name:" or "name =".
func (f *file) keyed(end int) bool {
	rest := strings.TrimLeft(f.text[end:min(end+8, len(f.text))], "?! \t")
	return strings.HasPrefix(rest, ":") && !strings.HasPrefix(rest, "::") && !strings.HasPrefix(rest, ":=") || strings.HasPrefix(rest, "=") && !strings.HasPrefix(rest, "==")
}

// before is the identifier in front of a name's dot: "jar" of "jar.Open"; "."
// where something other than a name stands there, "" without a dot.
func before(text string) string {
	rest := text
	switch {
	case strings.HasSuffix(rest, "?."), strings.HasSuffix(rest, "::"), strings.HasSuffix(rest, "->"):
		rest = rest[:len(rest)-2]
	case strings.HasSuffix(rest, "."):
		rest = rest[:len(rest)-1]
	default:
		return ""
	}
	from := len(rest)
	for from > 0 && inWord[rest[from-1]] {
		from--
	}
	if from == len(rest) {
		return "."
	}
	return rest[from:]
}

// script reports whether a file may use names that no import brings: a page's.
func script(file string) bool {
	for _, ext := range []string{".ts", ".tsx", ".js", ".jsx", ".mjs", ".cjs", ".vue", ".svelte"} {
		if strings.HasSuffix(file, ext) {
			return true
		}
	}
	return false
}

// PerFile reports whether each file of the language imports what it uses.
func PerFile(file string) bool {
	for _, ext := range []string{".go", ".py", ".java", ".kt", ".scala", ".rs", ".dart", ".hs"} {
		if strings.HasSuffix(file, ext) {
			return true
		}
	}
	return script(file)
}

// Common reports whether a name is an ordinary word, which text uses as such: no
// capital inside, no underscore, no dash, no digit.
func Common(name string) bool {
	rest := name
	if rest != "" && rest[0] >= 'A' && rest[0] <= 'Z' {
		rest = strings.ToLower(rest[:1]) + rest[1:]
	}
	return bytes.IndexFunc([]byte(rest), func(r rune) bool { return r < 'a' || r > 'z' }) < 0
}
