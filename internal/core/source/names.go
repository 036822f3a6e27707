package source

import (
	"path"
	"strings"
	"unicode"
	"unicode/utf8"
)

// Name is an identifier on a line. Qualifier is what stands before its dot
// ("jar" in jar.Open); Call tells that an argument list follows. Column is the
// 1-based byte position.
type Name struct {
	Text      string
	Qualifier string
	Column    int
	Call      bool
}

// Names lists the identifiers on a line of code, outside of string literals
// and of a comment that runs to the line's end.
func Names(line string) []Name {
	var list []Name
	var quote, around byte // around is the quote of the text that code stands in: `${code}`
	for i := 0; i < len(line); {
		c := line[i]
		switch {
		case quote != 0:
			if c == '\\' {
				i++
			} else if c == quote {
				quote = 0
			} else if (c == '$' && quote != '\'' || c == '#' && quote == '"') && strings.HasPrefix(line[i+1:], "{") {
				quote, around = 0, quote
				i++
			}
			i++
			continue
		case around != 0 && c == '}':
			quote, around = around, 0
			i++
			continue
		case c == '"' || c == '\'' || c == '`':
			quote = c
			i++
			continue
		case strings.HasPrefix(line[i:], "//"):
			return list
		}
		r, size := utf8.DecodeRuneInString(line[i:])
		if !start(r) {
			i += size
			continue
		}
		j := i
		for j < len(line) {
			r, size := utf8.DecodeRuneInString(line[j:])
			if !start(r) && !unicode.IsDigit(r) {
				break
			}
			j += size
		}
		name := Name{Text: line[i:j], Column: i + 1, Call: strings.HasPrefix(strings.TrimLeft(line[j:], "?!"), "(")}
		if n := len(list); n > 0 && i > 0 {
			previous := list[n-1]
			end := previous.Column - 1 + len(previous.Text)
			if dot := line[end:i]; dot == "." || dot == "?." || dot == "::" || dot == "->" {
				name.Qualifier = previous.Text
			}
		}
		list = append(list, name)
		i = j
	}
	return list
}

func start(r rune) bool { return r == '_' || r == '$' || unicode.IsLetter(r) }

// Use is a name of another package that a line uses.
type Use struct {
	Package string
	Name    string
	Column  int
	Call    bool
}

// Uses lists the imported names that a line uses, in order: members of an
// imported package, imported names themselves, and members of a variable that
// the file makes from one (x := jar.New(), const x = new Jar()).
func (t *Tree) Uses(file string, line int) []Use {
	text := t.Line(file, line)
	if text == "" {
		return nil
	}
	imports := map[string]Import{}
	for _, imp := range t.Imports(file) {
		if imp.Local != "" && imp.Local != "_" {
			imports[imp.Local] = imp
		}
	}
	var list []Use
	for _, n := range Names(text) {
		if imp, ok := imports[n.Qualifier]; ok && n.Qualifier != "" {
			list = append(list, Use{Package: imp.Package, Name: n.Text, Column: n.Column, Call: n.Call})
		} else if imp, ok := imports[n.Text]; ok && n.Qualifier == "" && imp.Name != "" {
			name := imp.Name
			if name == "default" {
				name = imp.Local
			}
			list = append(list, Use{Package: imp.Package, Name: name, Column: n.Column, Call: n.Call})
		} else if n.Qualifier != "" {
			if imp, ok := t.madeFrom(file, n.Qualifier, imports); ok {
				list = append(list, Use{Package: imp.Package, Name: n.Text, Column: n.Column, Call: n.Call})
			}
		}
	}
	return list
}

// Holds reports whether a column (1-based) lies inside the parentheses that open
// at or behind another one; a list that does not close on the line goes on.
func Holds(text string, from, column int) bool {
	open := strings.IndexByte(text[min(max(from-1, 0), len(text)):], '(')
	if open < 0 {
		return false
	}
	open += from - 1
	depth := 0
	for i := open; i < len(text); i++ {
		switch text[i] {
		case '(':
			depth++
		case ')':
			if depth--; depth == 0 {
				return column-1 > open && column-1 <= i
			}
		}
	}
	return column-1 > open
}

// madeFrom finds the import that a variable's declaration mentions.
func (t *Tree) madeFrom(file, variable string, imports map[string]Import) (Import, bool) {
	for _, text := range t.Lines(file) {
		i := strings.Index(text, variable)
		if i < 0 {
			continue
		}
		rest := strings.TrimLeft(text[i+len(variable):], " ,erok_")
		if !strings.HasPrefix(rest, ":=") && !strings.HasPrefix(rest, "=") && !strings.HasPrefix(rest, ":") && !strings.HasPrefix(rest, "*") {
			if !strings.HasPrefix(strings.TrimSpace(text), "func ") {
				continue
			}
		}
		for _, n := range Names(text[i+len(variable):]) {
			if imp, ok := imports[n.Text]; ok && n.Qualifier == "" {
				return imp, true
			}
			break
		}
	}
	return Import{}, false
}

// Function gives the lines (1-based, inclusive) of the named function or test
// in a file, by its heading and its indentation; 0, 0 when it is not there.
func (t *Tree) Function(file, name string) (from, end int) {
	name = name[strings.LastIndexAny(name, ".#")+1:]
	if name == "" {
		return 0, 0
	}
	for i, text := range t.Lines(file) {
		if heading(text, name) {
			return i + 1, t.blockEnd(file, i+1)
		}
	}
	return 0, 0
}

// heading reports whether a line declares the function, or is the test with
// that name in quotes.
func heading(text, name string) bool {
	i := strings.Index(text, name)
	if i < 0 {
		return false
	}
	head, tail := text[:i], strings.TrimLeft(text[i+len(name):], " ")
	for _, word := range []string{"func ", "function ", "def ", "fn ", "it(", "test(", "it ", "test ", "const ", ") ", "fun "} {
		if strings.Contains(head+" ", word) && (strings.HasPrefix(tail, "(") || strings.HasPrefix(tail, "=") || strings.HasPrefix(tail, "'") || strings.HasPrefix(tail, `"`) || strings.HasPrefix(tail, "`") || strings.HasPrefix(tail, "<")) {
			return true
		}
	}
	return false
}

// Block is the last line of the block that a line opens, or the line itself: the end
// of a function without a name.
func (t *Tree) Block(file string, line int) int {
	text := strings.TrimSpace(t.Line(file, line))
	if text == "" || !strings.HasSuffix(text, "{") && !strings.HasSuffix(text, " do") && !strings.HasSuffix(text, "|") {
		return line
	}
	return t.blockEnd(file, line)
}

// blockEnd is the last line of the block whose heading stands at from: the
// next line that is indented no more than the heading and what leads into it.
func (t *Tree) blockEnd(file string, from int) int {
	lines := t.Lines(file)
	depth := indent(lines[from-1])
	for i := from; i < len(lines) && i < from+200; i++ {
		text := strings.TrimSpace(lines[i])
		if text == "" || indent(lines[i]) > depth || opens(text) {
			continue
		}
		if strings.IndexByte("})]", text[0]) >= 0 {
			return i + 1
		}
		return i
	}
	return min(len(lines), from+200)
}

// opens reports whether a line, indented as the heading is, only leads into the
// block: its brace on a line of its own, or the end of parameters that stand
// on lines of their own.
func opens(text string) bool {
	if text[0] == '{' {
		return !strings.HasSuffix(text, "}")
	}
	return text[0] == ')' && strings.HasSuffix(text, "{") || text[0] == ')' && strings.HasSuffix(text, ":") || text == "):" || text[0] == ')' && strings.HasSuffix(text, "=>")
}

func indent(s string) int {
	n := 0
	for n < len(s) && (s[n] == ' ' || s[n] == '\t') {
		n++
	}
	return n
}

// Near lists the files in which a name that a file calls may be declared: the
// file itself, the file it is imported from, or, with a qualifier, the files
// of the package of that name; for Go also the other files of its folder.
func (t *Tree) Near(file string, n Name) []string {
	if t == nil {
		return nil
	}
	for _, imp := range t.Imports(file) {
		if imp.Local != n.Text && imp.Local != n.Qualifier || imp.Local == "" {
			continue
		}
		if strings.HasPrefix(imp.Package, ".") {
			base := path.Join(path.Dir(file), imp.Package)
			for _, ext := range []string{"", ".ts", ".tsx", ".js", ".mjs", "/index.ts", "/index.js", ".py"} {
				if t.files[base+ext] {
					return []string{base + ext}
				}
			}
			base = strings.TrimSuffix(base, path.Ext(base))
			for _, ext := range []string{".ts", ".tsx", ".mts"} {
				if t.files[base+ext] {
					return []string{base + ext}
				}
			}
		}
		return t.inFolder(imp.Package)
	}
	if n.Qualifier == "" || path.Ext(file) != ".go" {
		if path.Ext(file) == ".go" {
			return t.siblings(file)
		}
		return []string{file}
	}
	return t.siblings(file)
}

// siblings are the Go files of a file's folder.
func (t *Tree) siblings(file string) []string {
	dir := path.Dir(file)
	var list []string
	for _, name := range t.order {
		if path.Dir(name) == dir && path.Ext(name) == path.Ext(file) {
			list = append(list, name)
		}
	}
	return list
}

// inFolder are the files of the folder that an import path of the project ends in.
func (t *Tree) inFolder(pkg string) []string {
	var list []string
	for _, name := range t.order {
		dir := path.Dir(name)
		if dir != "." && strings.HasSuffix("/"+pkg, "/"+dir) {
			list = append(list, name)
		}
	}
	return list
}
