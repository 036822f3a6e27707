package read

import "strings"

// position finds a place in a source file in every form that tools print:
//
//	path:12   path:12:9   path:12:9-14   path:12.9-14   path:12-14
//	path<12--14>
//	path(12)  path(12,9)  path(12:9)     path (12, 9)   path:[12,9]   path[12]
//	path line 12   path: line 12, col 9   path, line 12   path on line 12   path @ 12
//	"path", line 12   File "path", line 12   'path' (line 12)
//	line 12, column 9    12:9   [12, 9]   L12   #12:9      without the path, below a heading
type position struct {
	file         string
	line, column int
	length       int    // of the text that it takes
	form         string // which of the forms above, for telling rows of one shape
}

// bareFiles are usual names of files without an extension.
var bareFiles = map[string]bool{"Makefile": true, "GNUmakefile": true, "makefile": true, "Dockerfile": true, "Containerfile": true, "Rakefile": true, "Gemfile": true, "Vagrantfile": true, "Jenkinsfile": true, "Justfile": true, "Procfile": true, "Brewfile": true, "BUILD": true, "WORKSPACE": true, "CMakeLists.txt": true}

// pathLike reports whether s is a path by its looks: one word with an extension
// that is no number, or the name of a well-known file.
func pathLike(s string) bool {
	base := s[strings.LastIndexAny(s, `/\`)+1:]
	if bareFiles[base] || len(base) > 4 && strings.HasSuffix(base, "rc") && isWord(base) { // and those of settings
		return true
	}
	if !fileLike(s) || strings.ContainsAny(s, " ,;()[]{}=") {
		return false
	}
	dot := strings.LastIndexByte(base, '.')
	if ext := base[dot+1:]; len(ext) > 2 && 'A' <= ext[0] && ext[0] <= 'Z' && strings.ToUpper(ext) != ext && ext[:2] != "Rm" && ext[:2] != "Rn" { // a dotted name
		return false
	}
	for _, c := range []byte(base[dot+1:]) {
		if !isLetter(c) && !isDigit(c) && c != '_' && c != '+' && c != '-' {
			return false
		}
	}
	return dot > 0 || len(base) > 2 // a dot file has a name
}

// positionAt reads a place at the start of s.
func positionAt(s string) (p position, ok bool) {
	at := 0
	quote := byte(0)
	rest := s
	for _, lead := range []string{"File ", "file ", "in file ", "In file ", "at ", "in ", "In "} {
		if r, cut := strings.CutPrefix(rest, lead); cut {
			rest, at = r, len(lead)
			break
		}
	}
	if rest == "" {
		return p, false
	}
	if rest[0] == '[' { // [path:12]: (error) …
		end := strings.IndexByte(rest, ']')
		if end < 4 || end > 300 {
			return p, false
		}
		p, ok = positionAt(strings.TrimSpace(rest[1:end]))
		if !ok || p.line == 0 || p.length != len(strings.TrimSpace(rest[1:end])) {
			return position{}, false
		}
		p.length, p.form = at+end+1, "["+p.form
		return p, true
	}
	if c := rest[0]; c == '"' || c == '\'' || c == '`' {
		quote = c
		end := strings.IndexByte(rest[1:], c)
		if end < 0 || end > 300 || !pathLike(rest[1:end+1]) {
			return p, false
		}
		p.file = rest[1 : end+1]
		at += end + 2
	} else {
		n := pathEnd(rest)
		if n == 0 {
			return p, false
		}
		p.file = rest[:n]
		at += n
	}
	line, column, length, form := numbersAt(s[at:])
	if form == "" {
		return p, false
	}
	if quote != 0 {
		form = "q" + form
	}
	p.line, p.column, p.length, p.form = line, column, at+length, "path"+form
	return p, p.line > 0 || form == ":n" // a finding about all of the file is set at line 0
}

// pathEnd is the length of the path at the start of s, up to what ends one: a
// colon or bracket before a number, a comma, a blank. It is 0 where no path
// stands there.
func pathEnd(s string) int {
	from := 0
	if len(s) > 2 && s[1] == ':' && (s[2] == '\\' || s[2] == '/') { // a Windows drive
		from = 2
	}
	for i := from; i < len(s) && i < 400; i++ {
		switch c := s[i]; {
		case c == '<' && i > from && i+1 < len(s) && isDigit(s[i+1]) && pathLike(s[:i]):
			return i
		case c == ':' || c == ',' || c == ' ' || c == '\t' || c == '(' || c == '[' || c == '@' && i > 0 && s[i-1] == ' ':
			if c == '(' && i+1 < len(s) && !isDigit(s[i+1]) { // a route group's folder
				continue
			}
			if c == '[' && (i+1 >= len(s) || !isDigit(s[i+1])) {
				continue
			}
			if i > from && pathLike(s[:i]) {
				return i
			}
			if c == ':' && i+1 < len(s) && s[i+1] != ' ' && !isDigit(s[i+1]) { // a scheme, a unit
				continue
			}
			return 0
		case c == '"' || c == '<' || c == '>' || c == '|' || c == '*' || c == ';':
			return 0
		}
	}
	if pathLike(s) {
		return len(s)
	}
	return 0
}

// numbersAt reads the line and column that stand behind a path.
func numbersAt(s string) (line, column, length int, form string) {
	switch {
	case strings.HasPrefix(s, "<"): // path<12--14>
		line, n := leadingNumber(s[1:])
		_, m := leadingNumber(strings.TrimLeft(s[1+n:], "-"))
		end := strings.IndexByte(s, '>')
		if n == 0 || m == 0 || end > 20 {
			return 0, 0, 0, ""
		}
		return line, 0, end + 1, "<n>"
	case strings.HasPrefix(s, ":["), strings.HasPrefix(s, "["), strings.HasPrefix(s, "("), strings.HasPrefix(s, " ("):
		open := strings.IndexAny(s, "([")
		closing := byte(')')
		if s[open] == '[' {
			closing = ']'
		}
		end := strings.IndexByte(s, closing)
		if end < 0 || end > 40 {
			return 0, 0, 0, ""
		}
		inner := strings.TrimPrefix(strings.TrimPrefix(s[open+1:end], "at "), "line ")
		line, column, ok := pair(strings.TrimSpace(inner))
		if !ok {
			return 0, 0, 0, ""
		}
		return line, column, end + 1, s[open : open+1]
	case strings.HasPrefix(s, ":"):
		rest := s[1:]
		if strings.HasPrefix(rest, "L") && len(rest) > 1 && isDigit(rest[1]) {
			rest = rest[1:]
		}
		if n := lineWord(rest); n > 0 {
			line, column, m := lineAndColumn(rest[n:])
			return line, column, 1 + n + m, ":line"
		}
		if strings.HasPrefix(rest, " ") { // path: 12: message
			if l, n := leadingNumber(rest[1:]); n > 0 && strings.HasPrefix(rest[1+n:], ": ") {
				return l, 0, 2 + n, ": n"
			}
		}
		l, n := leadingNumber(rest)
		if n == 0 {
			return 0, 0, 0, ""
		}
		at := len(s) - len(rest) + n
		c := 0
		if at < len(s) && (s[at] == ':' || s[at] == '.') {
			if v, m := leadingNumber(s[at+1:]); m > 0 {
				c, at = v, at+1+m
			}
		}
		at += span(s[at:])
		if c > 0 {
			return l, c, at, ":n:n"
		}
		return l, 0, at, ":n"
	case strings.HasPrefix(s, " ") && len(s) > 3 && isDigit(s[1]): // path 12:9-14
		l, n := leadingNumber(s[1:])
		if rest := s[1+n:]; strings.HasPrefix(rest, ":") {
			if c, m := leadingNumber(rest[1:]); m > 0 {
				at := 2 + n + m
				return l, c, at + span(s[at:]), " n:n"
			}
		}
		return 0, 0, 0, ""
	case strings.HasPrefix(s, " @ "):
		l, n := leadingNumber(s[3:])
		if n == 0 {
			return 0, 0, 0, ""
		}
		return l, 0, 3 + n, "@"
	}
	rest := strings.TrimLeft(s, ", ")
	rest = strings.TrimPrefix(strings.TrimPrefix(strings.TrimPrefix(rest, "on "), "at "), "in ")
	if n := lineWord(rest); n > 0 {
		line, column, m := lineAndColumn(rest[n:])
		if line > 0 {
			return line, column, len(s) - len(rest) + n + m, " line"
		}
	}
	return 0, 0, 0, ""
}

// span is the length of the end of a range: "-14", "-12:14", "..14".
func span(s string) int {
	at := 0
	for _, dash := range []string{"-", "..", "–"} {
		if strings.HasPrefix(s, dash) {
			at = len(dash)
		}
	}
	if at == 0 {
		return 0
	}
	_, n := leadingNumber(s[at:])
	if n == 0 {
		return 0
	}
	at += n
	if at < len(s) && (s[at] == ':' || s[at] == '.') {
		if _, m := leadingNumber(s[at+1:]); m > 0 {
			at += 1 + m
		}
	}
	return at
}

// lineWord is the length of the word that leads to a line's number.
func lineWord(s string) int {
	blank := 0
	for blank < len(s) && s[blank] == ' ' {
		blank++
	}
	for _, word := range []string{"line: ", "line ", "Line ", "lines ", "LINE ", "line:", "[line ", "ln "} {
		if strings.HasPrefix(s[blank:], word) {
			n := blank + len(word)
			for n < len(s) && s[n] == ' ' {
				n++
			}
			return n
		}
	}
	return 0
}

// lineAndColumn reads "12", "12, col 9", "12 column 9", "12:9", "12, character 9"
// behind the word line.
func lineAndColumn(s string) (line, column, length int) {
	line, n := leadingNumber(s)
	if n == 0 {
		return 0, 0, 0
	}
	at := n + span(s[n:])
	rest := strings.TrimLeft(s[at:], ",:; ")
	for _, word := range []string{"column: ", "column ", "columns ", "col: ", "col ", "col. ", "char ", "character ", "characters ", "position ", "offset "} {
		if r, ok := strings.CutPrefix(rest, word); ok {
			if c, m := leadingNumber(r); m > 0 {
				return line, c, len(s) - len(r) + m + span(r[m:])
			}
		}
	}
	if strings.HasPrefix(s[at:], ":") {
		if c, m := leadingNumber(s[at+1:]); m > 0 {
			return line, c, at + 1 + m
		}
	}
	return line, 0, at
}

// pair reads "12", "12,9", "12, 9", "12:9" as a whole.
func pair(s string) (line, column int, ok bool) {
	line, n := leadingNumber(s)
	if n == 0 {
		return 0, 0, false
	}
	rest := s[n:]
	if rest == "" {
		return line, 0, true
	}
	if rest = strings.TrimLeft(rest, ",: "); rest == s[n:] {
		return 0, 0, false
	}
	rest = strings.TrimPrefix(strings.TrimPrefix(rest, "column "), "col ")
	column, m := leadingNumber(rest)
	if m == 0 || m < len(rest) && rest[m] != '-' && rest[m] != ',' && rest[m] != ':' {
		return 0, 0, false
	}
	return line, column, true
}

// bareAt reads a place without a path at the start of s, as it stands in a row
// below a heading: "12:9", "[12, 9]:", "line 12, column 9", "L12", "#12:9".
func bareAt(s string) (p position, ok bool) {
	rest := s
	lead := ""
	switch {
	case strings.HasPrefix(s, "["):
		end := strings.IndexByte(s, ']')
		if end < 0 || end > 40 {
			return p, false
		}
		if p.line, p.column, ok = pair(s[1:end]); !ok || end+1 < len(s) && s[end+1] != ':' && s[end+1] != ' ' {
			return p, false
		}
		p.length, p.form = end+1, "[n]"
		return p, true
	case strings.HasPrefix(s, "L") || strings.HasPrefix(s, "#"):
		rest, lead = strings.TrimPrefix(s[1:], ":"), s[:1]
		rest = strings.TrimLeft(rest, " ")
	case lineWord(s) > 0:
		n := lineWord(s)
		line, column, m := lineAndColumn(s[n:])
		p.line, p.column, p.length, p.form = line, column, n+m, "line"
		for _, of := range []string{" of file ", " in file ", " of "} {
			if rest, ok := strings.CutPrefix(s[n+m:], of); ok && line > 0 {
				if end := pathEnd(rest); end > 0 {
					p.file, p.length = rest[:end], len(s)-len(rest)+end
				}
			}
		}
		return p, line > 0
	}
	line, n := leadingNumber(rest)
	if n == 0 || n > 6 {
		return p, false
	}
	if lead == "" && n < len(rest) && rest[n] == ' ' && !strings.HasPrefix(rest[n:], "  ") && !strings.HasPrefix(rest[n:], " | ") {
		return p, false // "12 warnings"
	}
	p.line, p.length, p.form = line, len(s)-len(rest)+n, lead+"n"
	after := rest[n:]
	for _, sep := range []string{":", ",", " | P: "} {
		if r, cut := strings.CutPrefix(after, sep); cut {
			blank := len(r)
			r = strings.TrimLeft(r, " ")
			if c, m := leadingNumber(r); m > 0 && (sep == " | P: " || blank == len(r)) {
				p.column, p.length, p.form = c, len(s)-len(r)+m, lead+"n"+sep+"n"
				p.length += span(s[p.length:])
			}
			break
		}
	}
	return p, true
}
