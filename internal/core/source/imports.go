package source

import (
	"path"
	"strings"
)

// Import is one name that a file takes from elsewhere. Local is the name it
// has in the file; Name is the one it has in the package, "" for the package
// as a whole.
type Import struct {
	Local   string
	Name    string
	Package string
	Line    int // 1-based
}

// Imports lists what a file imports, in order.
func (t *Tree) Imports(file string) []Import {
	if t == nil {
		return nil
	}
	if list, ok := t.imports[file]; ok {
		return list
	}
	list := ImportsOf(file, t.Lines(file))
	t.imports[file] = list
	return list
}

// ImportsOf lists what the lines of a file import, in order.
func ImportsOf(file string, lines []string) []Import {
	switch path.Ext(file) {
	case ".go":
		return importsGo(lines)
	case ".ts", ".tsx", ".js", ".jsx", ".mjs", ".cjs", ".mts", ".cts", ".vue", ".svelte":
		return importsScript(lines)
	case ".py":
		return importsPython(lines)
	}
	return importsDotted(lines)
}

func importsGo(lines []string) []Import {
	var list []Import
	block := false
	for i, line := range lines {
		text := strings.TrimSpace(line)
		switch {
		case strings.HasPrefix(text, "import ("):
			block = true
			continue
		case block && text == ")":
			block = false
			continue
		case strings.HasPrefix(text, "import "):
			text = strings.TrimSpace(text[7:])
		case !block:
			if strings.HasPrefix(text, "func ") || strings.HasPrefix(text, "type ") {
				return list
			}
			continue
		}
		open := strings.IndexByte(text, '"')
		if open < 0 {
			continue
		}
		name, _, ok := strings.Cut(text[open+1:], `"`)
		if !ok {
			continue
		}
		local := strings.TrimSpace(text[:open])
		if local == "" {
			local = goName(name)
		}
		list = append(list, Import{Local: local, Package: name, Line: i + 1})
	}
	return list
}

// goName is the name that a Go import path usually gives its package: the last
// element, or the one before it where the last is a major version.
func goName(importPath string) string {
	base := path.Base(importPath)
	if len(base) > 1 && base[0] == 'v' && strings.Trim(base[1:], "0123456789") == "" {
		base = path.Base(path.Dir(importPath))
	}
	base, _, _ = strings.Cut(base, ".v")
	return strings.TrimPrefix(base, "go-")
}

// importsScript reads ES modules' import and export-from statements, over
// several lines, and CommonJS's require.
func importsScript(lines []string) []Import {
	var list []Import
	for i := 0; i < len(lines); i++ {
		text := strings.TrimSpace(lines[i])
		if name := requiredModule(text); name != "" {
			list = append(list, clause(between(text, " ", "="), name, i+1)...)
			continue
		}
		if !strings.HasPrefix(text, "import ") && !strings.HasPrefix(text, "import{") && !(strings.HasPrefix(text, "export ") && strings.Contains(text, " from ")) {
			continue
		}
		start := i
		for !hasModule(text) && i+1 < len(lines) && i-start < 60 {
			i++
			text += " " + strings.TrimSpace(lines[i])
		}
		head, tail, ok := strings.Cut(text, " from ")
		if !ok {
			head, tail = "", strings.TrimPrefix(text, "import ")
		}
		name := unquote(tail)
		head = strings.TrimPrefix(strings.TrimPrefix(strings.TrimPrefix(head, "import"), " type "), "export ")
		list = append(list, clause(head, name, start+1)...)
	}
	return list
}

func hasModule(text string) bool {
	return strings.Contains(text, " from ") && unquote(behindLast(text, " from ")) != "" || !strings.Contains(text, "{") && unquote(strings.TrimPrefix(text, "import ")) != ""
}

// clause reads "a, { b, c as d }" or "* as e"; the import is at line.
func clause(text, module string, line int) []Import {
	text = strings.TrimSpace(text)
	if module == "" {
		return nil
	}
	if text == "" {
		return []Import{{Package: module, Line: line}}
	}
	var list []Import
	outer, braces, _ := strings.Cut(text, "{")
	for _, part := range strings.Split(outer, ",") {
		if part = strings.TrimSpace(part); part == "" {
			continue
		}
		if local, ok := strings.CutPrefix(part, "* as "); ok {
			list = append(list, Import{Local: local, Package: module, Line: line})
		} else {
			list = append(list, Import{Local: part, Name: "default", Package: module, Line: line})
		}
	}
	for _, part := range strings.Split(strings.TrimRight(strings.TrimSpace(braces), "}; "), ",") {
		part = strings.TrimPrefix(strings.TrimSpace(part), "type ")
		name, local, renamed := strings.Cut(strings.Replace(part, ":", " as ", 1), " as ")
		name, local = strings.TrimSpace(name), strings.TrimSpace(local)
		if !renamed {
			local = name
		}
		if name != "" {
			list = append(list, Import{Local: local, Name: name, Package: module, Line: line})
		}
	}
	return list
}

func requiredModule(text string) string {
	i := strings.Index(text, "require(")
	if i < 0 || !(strings.HasPrefix(text, "import ") || strings.HasPrefix(text, "const ") || strings.HasPrefix(text, "let ") || strings.HasPrefix(text, "var ")) {
		return ""
	}
	return unquote(text[i+8:])
}

func importsPython(lines []string) []Import {
	var list []Import
	for i, line := range lines {
		text := strings.TrimSpace(line)
		if rest, ok := strings.CutPrefix(text, "from "); ok {
			module, names, ok := strings.Cut(rest, " import ")
			if !ok {
				continue
			}
			for j := i + 1; strings.Contains(names, "(") && !strings.Contains(names, ")") && j < len(lines); j++ {
				names += " " + strings.TrimSpace(lines[j])
			}
			for _, part := range strings.Split(strings.Trim(names, "() "), ",") {
				name, local, renamed := strings.Cut(strings.TrimSpace(part), " as ")
				if !renamed {
					local = name
				}
				if name != "" {
					list = append(list, Import{Local: local, Name: name, Package: module, Line: i + 1})
				}
			}
		} else if rest, ok := strings.CutPrefix(text, "import "); ok {
			for _, part := range strings.Split(rest, ",") {
				module, local, renamed := strings.Cut(strings.TrimSpace(part), " as ")
				if !renamed {
					local = module
				}
				list = append(list, Import{Local: local, Package: module, Line: i + 1})
			}
		}
	}
	return list
}

// importsDotted reads "use a::b::C;", "import a.b.C;", "using A.B;" and
// "use A\B\C;" as one name from the path before it, and the names in braces
// behind a path as several.
func importsDotted(lines []string) []Import {
	var list []Import
	for i, line := range lines {
		text := strings.TrimSpace(line)
		for _, word := range []string{"import static ", "import ", "use function ", "use const ", "use ", "using ", "pub use ", "alias "} {
			rest, ok := strings.CutPrefix(text, word)
			if !ok {
				continue
			}
			for j := i + 1; strings.Contains(rest, "{") && !strings.Contains(rest, "}") && j < len(lines) && j < i+40; j++ {
				rest += " " + strings.TrimSpace(lines[j])
			}
			head, names, several := strings.Cut(strings.TrimRight(rest, "; "), "{")
			if !several {
				list = append(list, dotted(head, i+1)...)
				break
			}
			for _, name := range strings.Split(strings.TrimRight(names, "} "), ",") {
				if name = strings.TrimSpace(name); name != "" && !strings.ContainsAny(name, "{}*") {
					list = append(list, dotted(strings.TrimRight(head, ":.\\ ")+"."+name, i+1)...)
				}
			}
			break
		}
	}
	return list
}

// dotted is the import of one path.
func dotted(text string, line int) []Import {
	text = strings.TrimRight(text, "; :")
	text, local, renamed := strings.Cut(text, " as ")
	text = strings.NewReplacer("::", ".", `\`, ".").Replace(strings.TrimSpace(text))
	if text == "" || strings.ContainsAny(text, " ()\"'$") {
		return nil
	}
	name := text[strings.LastIndexByte(text, '.')+1:]
	if !renamed {
		local = name
	}
	return []Import{{Local: local, Name: name, Package: strings.TrimSuffix(strings.TrimSuffix(text, name), "."), Line: line}}
}

// unquote is the text in the first pair of quotes of s.
func unquote(s string) string {
	s = strings.TrimSpace(s)
	if s == "" || (s[0] != '"' && s[0] != '\'' && s[0] != '`') {
		return ""
	}
	name, _, _ := strings.Cut(s[1:], s[:1])
	return name
}

func between(s, open, shut string) string {
	_, s, _ = strings.Cut(s, open)
	return before(s, shut)
}

func before(s, mark string) string {
	head, _, _ := strings.Cut(s, mark)
	return head
}

func behindLast(s, mark string) string {
	if i := strings.LastIndex(s, mark); i >= 0 {
		return s[i+len(mark):]
	}
	return ""
}
