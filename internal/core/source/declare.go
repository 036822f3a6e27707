package source

import (
	"io/fs"
	"path"
	"regexp"
	"strings"
)

// Declaration is a function, method, type or named test that a file declares.
// From and End are its lines, 1-based and inclusive, by its indentation.
type Declaration struct {
	File      string
	Name      string
	From, End int
	Type      bool
	Test      bool // named by a text: it("shuts the lid", …)
}

// The forms of declarations over the languages, told by their line alone.
var (
	declaredFunction = regexp.MustCompile(`(?:^|[\s(])(?:func|fun|fn|def|defp|function|sub)\s+(?:\([^)]*\)\s*)?(?:self\.)?([A-Za-z_]\w*[?!]?)`)
	declaredValue    = regexp.MustCompile(`(?:^|\s)(?:(?:const|let|var|val)\s+|(?:module\.)?exports\.|this\.)([A-Za-z_$][\w$]*)\s*(?::[^=]+)?=\s*(?:async\s*)?(?:function\b|\([^)]*\)\s*(?::[^=]+)?=>|[\w$]+\s*=>)`)
	declaredMethod   = regexp.MustCompile(`^\s*(?:[\w<>\[\].,&*:~@?]+[\s*&]+)*([A-Za-z_~]\w*)\s*\([^;{}=]*\)[\w\s.,<>:*&?|]*(?:->[\w\s<>:*&]+)?\{`)
	declaredType     = regexp.MustCompile(`(?:^|\s)(?:class|struct|interface|trait|enum|type|record|union|module|defmodule|protocol|object)\s+(?:class\s+)?([A-Za-z_][\w.]*)`)
	declaredTest     = regexp.MustCompile("(?:^|[\\s.])(?:it|test|describe|context|specify|scenario|should)\\s*\\(?\\s*([\"'`])(.+?)[\"'`]\\s*(?:,|do\\b|\\{|$)")
	noMethod         = map[string]bool{"if": true, "for": true, "while": true, "switch": true, "catch": true, "return": true, "else": true, "new": true, "function": true, "foreach": true, "match": true, "until": true, "elsif": true, "sizeof": true, "defer": true, "await": true, "do": true, "try": true, "match!": true}
)

// Declarations lists what a file declares, in order.
func (t *Tree) Declarations(file string) []Declaration {
	if t == nil {
		return nil
	}
	if list, ok := t.declared[file]; ok {
		return list
	}
	var list []Declaration
	lines := t.Lines(file)
	for i, line := range lines {
		if len(line) > 1000 {
			continue
		}
		if i+1 < len(lines) && strings.TrimSpace(lines[i+1]) == "{" && indent(lines[i+1]) == indent(line) {
			line = strings.TrimRight(line, " \t\r") + " {" // as if it stood behind the heading
		}
		d, ok := declaration(line)
		if !ok {
			continue
		}
		d.File, d.From = file, i+1
		d.End = t.blockEnd(file, d.From)
		list = append(list, d)
	}
	t.declared[file] = list
	return list
}

func declaration(line string) (Declaration, bool) {
	if m := declaredTest.FindStringSubmatch(line); m != nil {
		return Declaration{Name: m[2], Test: true}, true
	}
	text := strings.TrimSpace(line)
	if strings.HasPrefix(text, "//") || strings.HasPrefix(text, "#") || strings.HasPrefix(text, "*") {
		return Declaration{}, false
	}
	if m := declaredFunction.FindStringSubmatch(line); m != nil {
		return Declaration{Name: m[1]}, true
	}
	if m := declaredValue.FindStringSubmatch(line); m != nil {
		return Declaration{Name: m[1]}, true
	}
	if m := declaredType.FindStringSubmatch(line); m != nil && !strings.Contains(line, "(") || m != nil && strings.ContainsAny(line, "{:") {
		return Declaration{Name: m[1][strings.LastIndexByte(m[1], '.')+1:], Type: true}, true
	}
	if m := declaredMethod.FindStringSubmatch(line); m != nil && !noMethod[m[1]] && !noMethod[firstWord(text)] {
		return Declaration{Name: m[1]}, true
	}
	return Declaration{}, false
}

func firstWord(s string) string {
	if i := strings.IndexAny(s, " \t("); i >= 0 {
		return s[:i]
	}
	return s
}

// code are the extensions of files that declare something.
var code = map[string]bool{}

func init() {
	for _, ext := range strings.Fields(".go .ts .tsx .js .jsx .mjs .cjs .mts .cts .vue .svelte .py .rb .php .java .kt .kts .scala .groovy .cs .fs .vb .c .h .cc .cpp .cxx .hpp .hh .m .mm .rs .swift .dart .ex .exs .erl .hs .ml .lua .pl .pm .t .r .jl") {
		code[ext] = true
	}
}

// How much of a tree is searched for declarations and imports: files, and the
// bytes in them. Their lines stay in memory.
const (
	mostIndexed = 20_000
	mostBytes   = 128 << 20
)

// codeFiles are the tree's files that declare something, as far as they are
// indexed.
func (t *Tree) codeFiles() []string {
	if t.code != nil {
		return t.code
	}
	t.code = []string{}
	var size int64
	for _, file := range t.order {
		if !code[path.Ext(file)] {
			continue
		}
		if info, err := fs.Stat(t.fsys, file); err == nil && info.Size() <= maxFile {
			size += info.Size()
		}
		if len(t.code) == mostIndexed || size > mostBytes {
			break
		}
		t.code = append(t.code, file)
	}
	return t.code
}

// Declares reports whether a line of a file declares a name.
func (t *Tree) Declares(file string, line int, name string) bool {
	for _, d := range t.Declarations(file) {
		if d.From == line && d.Name == name {
			return true
		}
	}
	return false
}

// Declared lists where the tree's own code declares a name, in the order of
// its files. The first call reads the tree's code.
func (t *Tree) Declared(name string) []Declaration {
	if t == nil {
		return nil
	}
	t.index()
	return t.byName[name]
}

func (t *Tree) index() {
	if t.byName != nil {
		return
	}
	t.byName = map[string][]Declaration{}
	for _, file := range t.codeFiles() {
		for _, d := range t.Declarations(file) {
			t.byName[d.Name] = append(t.byName[d.Name], d)
		}
	}
}

// Quoted finds the one line of code on which a text stands in quotes: where a
// test that is known by its description alone is written. It returns 0 where
// there is none, or more than one.
func (t *Tree) Quoted(text string) (file string, line int) {
	if t == nil || len(text) < 4 {
		return "", 0
	}
	for _, name := range t.codeFiles() {
		for i, s := range t.Lines(name) {
			if at := strings.Index(s, text); at > 0 && at+len(text) < len(s) && s[at-1] == s[at+len(text)] && strings.IndexByte("\"'`", s[at-1]) >= 0 {
				if line > 0 {
					return "", 0
				}
				file, line = name, i+1
			}
		}
	}
	return file, line
}

// Enclosing is the innermost declaration that holds a line, or nil.
func (t *Tree) Enclosing(file string, line int) *Declaration {
	list := t.Declarations(file)
	for i := len(list) - 1; i >= 0; i-- {
		if list[i].From <= line && line <= list[i].End {
			return &list[i]
		}
	}
	return nil
}

// Made finds the line on which a variable that a line uses was given its
// value: the last one above it, in the same block.
func (t *Tree) Made(file string, line int, variable string) int {
	lines := t.Lines(file)
	if line > len(lines) || variable == "" {
		return 0
	}
	from := 1
	if d := t.Enclosing(file, line); d != nil {
		from = d.From
	}
	for n := line; n >= max(from, line-60); n-- {
		text := lines[n-1]
		i := wordAt(text, variable)
		if i < 0 {
			continue
		}
		rest := text[i+len(variable):]
		before := strings.TrimSpace(text[:i])
		if n == line && !strings.Contains(rest, "=") {
			continue
		}
		switch trimmed := strings.TrimLeft(rest, " "); {
		case strings.HasPrefix(trimmed, "==") || strings.HasPrefix(trimmed, "=>"):
		case strings.HasPrefix(trimmed, ":=") || strings.HasPrefix(trimmed, "=") && n < line:
			return n
		case strings.HasPrefix(trimmed, ",") && strings.Contains(trimmed, ":=") || strings.HasPrefix(trimmed, ": ") && n < line:
			return n
		case (strings.HasPrefix(trimmed, ";") || strings.HasPrefix(trimmed, "{") || strings.HasPrefix(trimmed, "(")) && n < line && before != "" && !strings.ContainsAny(before, "(=.") && before != "return":
			return n // Type name;
		case strings.HasPrefix(trimmed, "<-") || strings.HasPrefix(trimmed, "in "):
			return n
		}
	}
	return 0
}

// Field finds the line on which a field or a variable of the whole file is given
// its value, or 0: outside of functions, or through this or self.
func (t *Tree) Field(file, name string) int {
	if t == nil {
		return 0
	}
	fields, ok := t.fields[file]
	if !ok {
		fields = map[string]int{}
		t.fields[file] = fields
		inside := 0 // the end of the function that is being passed
		list := t.Declarations(file)
		for i, line := range t.Lines(file) {
			for ; len(list) > 0 && list[0].From <= i+1; list = list[1:] {
				if !list[0].Type {
					inside = max(inside, list[0].End)
				}
			}
			for _, m := range given.FindAllStringSubmatch(line[:min(len(line), 300)], 2) {
				if _, ok := fields[m[2]]; !ok && (m[1] != "" || i+1 > inside) {
					fields[m[2]] = i + 1
				}
			}
		}
	}
	return fields[name]
}

// given is a name with the value that it is given.
var given = regexp.MustCompile(`(?:^|[\s({,])(this\.|self\.|@)?([A-Za-z_$][\w$]*)\s*(?::[^=:]+)?=\s*[^=>\s]`)

// wordAt is the first index at which a word stands in a text by itself, or -1.
func wordAt(text, word string) int {
	for from := 0; ; {
		i := strings.Index(text[from:], word)
		if i < 0 {
			return -1
		}
		i += from
		end := i + len(word)
		if (i == 0 || !wordByte(text[i-1]) && text[i-1] != '.') && (end == len(text) || !wordByte(text[end])) {
			return i
		}
		from = i + 1
	}
}

func wordByte(c byte) bool {
	return c == '_' || c == '$' || 'a' <= c && c <= 'z' || 'A' <= c && c <= 'Z' || '0' <= c && c <= '9' || c >= 0x80
}

// Importers counts, for each folder of the tree, the other folders whose files
// import it, by the path that an import ends in or names from its own place.
func (t *Tree) Importers() map[string]int {
	if t == nil {
		return nil
	}
	folders := map[string]bool{}
	files := t.codeFiles()
	for _, file := range files {
		folders[path.Dir(file)] = true
	}
	importing := map[string]map[string]bool{}
	for _, file := range files {
		from := path.Dir(file)
		for _, imp := range t.Imports(file) {
			for _, to := range imported(imp.Package, from, folders) {
				if to != from {
					if importing[to] == nil {
						importing[to] = map[string]bool{}
					}
					importing[to][from] = true
				}
			}
		}
	}
	counts := map[string]int{}
	for to, list := range importing {
		counts[to] = len(list)
	}
	return counts
}

// imported are the folders that an import may mean.
func imported(pkg, from string, folders map[string]bool) []string {
	if strings.HasPrefix(pkg, ".") {
		base := path.Join(from, pkg)
		if folders[base] {
			return []string{base}
		}
		return []string{path.Dir(base)}
	}
	// A path that begins with the project's own name ends in the folder.
	parts := strings.Split(strings.NewReplacer(".", "/", "::", "/").Replace(pkg), "/")
	if strings.Contains(pkg, "/") {
		parts = strings.Split(pkg, "/")
	}
	for i := 1; i < len(parts); i++ {
		if dir := strings.Join(parts[i:], "/"); folders[dir] {
			return []string{dir}
		}
	}
	return nil
}
