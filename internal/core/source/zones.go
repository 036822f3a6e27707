package source

import (
	"path"
	"sort"
	"strings"
)

// Zone is what kind of text a place in a file stands in.
type Zone string

// The zones of a file. A file that is no program is Text throughout.
const (
	Code    Zone = "code"
	Comment Zone = "comment"
	Literal Zone = "string"
	Text    Zone = "text"
)

// lexis is how a family of languages writes comments and strings.
type lexis struct {
	line   []string    // begin a comment up to the line's end
	blocks [][2]string // of comments
	quotes string      // of strings that end with their line
	long   [][2]string // strings over several lines
	holes  []hole      // in strings
	opener [256]bool   // bytes with which any of these begins
}

// hole is how code stands within a string: behind a mark, up to its closing brace.
type hole struct {
	quote  byte   // of the strings that have them
	prefix string // the letters in front of the quote, one of which makes it such a string; "" for any
	mark   string
}

var (
	lexisC      = &lexis{line: []string{"//"}, blocks: [][2]string{{"/*", "*/"}}, quotes: `"'`, long: [][2]string{{`"""`, `"""`}}}
	lexisDollar = &lexis{line: []string{"//"}, blocks: [][2]string{{"/*", "*/"}}, quotes: `"'`, long: [][2]string{{`"""`, `"""`}}, holes: []hole{{'"', "", "${"}}}
	lexisGo     = &lexis{line: []string{"//"}, blocks: [][2]string{{"/*", "*/"}}, quotes: `"'`, long: [][2]string{{"`", "`"}}}
	lexisScript = &lexis{line: []string{"//"}, blocks: [][2]string{{"/*", "*/"}}, quotes: `"'`, long: [][2]string{{"`", "`"}}, holes: []hole{{'`', "", "${"}}}
	lexisSharp  = &lexis{line: []string{"//"}, blocks: [][2]string{{"/*", "*/"}}, quotes: `"'`, long: [][2]string{{`"""`, `"""`}}, holes: []hole{{'"', "$", "{"}}}
	lexisPython = &lexis{line: []string{"#"}, quotes: `"'`, long: [][2]string{{`"""`, `"""`}, {"'''", "'''"}}, holes: []hole{{'"', "fF", "{"}, {'\'', "fF", "{"}}}
	lexisElixir = &lexis{line: []string{"#"}, quotes: `"'`, long: [][2]string{{`"""`, `"""`}}, holes: []hole{{'"', "", "#{"}}}
	lexisRust   = &lexis{line: []string{"//"}, blocks: [][2]string{{"/*", "*/"}}, quotes: `"`}
	lexisPHP    = &lexis{line: []string{"//", "#"}, blocks: [][2]string{{"/*", "*/"}}, quotes: `"'`}
	lexisHash   = &lexis{line: []string{"#"}, quotes: `"'`, long: [][2]string{{`"""`, `"""`}, {"'''", "'''"}}}
	lexisRuby   = &lexis{line: []string{"#"}, blocks: [][2]string{{"\n=begin", "\n=end"}}, quotes: `"'`, holes: []hole{{'"', "", "#{"}}}
	lexisDashes = &lexis{line: []string{"--"}, blocks: [][2]string{{"{-", "-}"}, {"/*", "*/"}}, quotes: `"`}
	lexisML     = &lexis{blocks: [][2]string{{"(*", "*)"}}, quotes: `"`}
	lexisErl    = &lexis{line: []string{"%"}, quotes: `"'`}
	lexisBang   = &lexis{line: []string{"!"}, quotes: `"'`}
)

// lexes maps the extensions of programs to how these are written.
var lexes = map[string]*lexis{}

func init() {
	for l, exts := range map[*lexis]string{
		lexisC:      ".c .h .cc .cpp .cxx .hpp .hh .m .mm .java .swift .zig .v .sol .proto",
		lexisDollar: ".kt .kts .scala .groovy .gradle .dart",
		lexisGo:     ".go", lexisScript: ".ts .tsx .js .jsx .mjs .cjs .mts .cts .vue .svelte", lexisSharp: ".cs",
		lexisRust: ".rs", lexisPHP: ".php", lexisPython: ".py .pyi", lexisElixir: ".ex .exs .cr", lexisHash: ".jl .r .pl .pm .sh .bash .tcl .nim", lexisRuby: ".rb .rake",
		lexisDashes: ".hs .lhs .elm .lua .sql .adb .ads", lexisML: ".ml .mli .fs .fsi .fsx", lexisErl: ".erl .hrl", lexisBang: ".f90 .f95 .f03 .f08 .f",
	} {
		for _, ext := range strings.Fields(exts) {
			lexes[ext] = l
		}
		for _, mark := range l.line {
			l.opener[mark[0]] = true
		}
		for _, b := range append(append([][2]string{}, l.blocks...), l.long...) {
			l.opener[b[0][0]] = true
		}
		for i := range len(l.quotes) {
			l.opener[l.quotes[i]] = true
		}
	}
}

// Program reports whether a file is a program, by its extension.
func Program(file string) bool { return lexes[strings.ToLower(path.Ext(file))] != nil }

// Zones are where a file's text is of which kind.
type Zones struct {
	ends  []int // of the stretches, rising
	kinds []Zone
}

// ZonesOf lexes a file for its comments and strings.
func ZonesOf(file, text string) Zones {
	l := lexes[strings.ToLower(path.Ext(file))]
	if l == nil {
		return Zones{ends: []int{len(text)}, kinds: []Zone{Text}}
	}
	var z Zones
	at := 0
	to := func(end int, kind Zone) {
		if end > at {
			z.ends, z.kinds = append(z.ends, end), append(z.kinds, kind)
			at = end
		}
	}
	for i := 0; i < len(text); {
		if !l.opener[text[i]] {
			i++
			continue
		}
		end, kind := l.opens(text, i)
		if end == 0 {
			i++
			continue
		}
		to(i, Code)
		if kind == Literal {
			for _, h := range l.within(text, i, end) {
				to(h[0], Literal)
				to(h[1], Code)
			}
		}
		to(end, kind)
		i = end
	}
	to(len(text), Code)
	return z
}

// within are the stretches of code in a string.
func (l *lexis) within(text string, from, end int) (list [][2]int) {
	for _, h := range l.holes {
		if text[from] != h.quote || h.prefix != "" && (from == 0 || strings.IndexByte(h.prefix, text[from-1]) < 0) {
			continue
		}
		for i := from; i < end; {
			n := strings.Index(text[i:end], h.mark)
			if n < 0 {
				break
			}
			open := i + n + len(h.mark)
			if h.mark == "{" && open < end && text[open] == '{' || i+n > 0 && text[i+n-1] == '\\' { // a brace as such
				i = open + 1
				continue
			}
			shut, depth := open, 1
			for shut < end && depth > 0 {
				switch text[shut] {
				case '{':
					depth++
				case '}':
					depth--
				}
				shut++
			}
			if depth > 0 {
				break
			}
			list = append(list, [2]int{open, shut - 1})
			i = shut
		}
	}
	return list
}

// opens reports whether a comment or a string begins at a place, and its end.
func (l *lexis) opens(text string, i int) (end int, kind Zone) {
	c, rest := text[i], text[i:]
	for _, b := range l.blocks {
		if strings.HasPrefix(rest, b[0]) {
			return i + until(rest, len(b[0]), b[1]), Comment
		}
	}
	for _, mark := range l.line {
		if strings.HasPrefix(rest, mark) {
			if n := strings.IndexByte(rest, '\n'); n >= 0 {
				return i + n, Comment
			}
			return len(text), Comment
		}
	}
	for _, b := range l.long {
		if strings.HasPrefix(rest, b[0]) {
			return i + until(rest, len(b[0]), b[1]), Literal
		}
	}
	if strings.IndexByte(l.quotes, c) >= 0 {
		for n := 1; n < len(rest); n++ {
			switch rest[n] {
			case '\\':
				n++
			case c:
				return i + n + 1, Literal
			case '\n':
				return 0, "" // an apostrophe, a lifetime, a prime
			}
		}
	}
	return 0, ""
}

// until is the end of a stretch that a mark closes.
func until(rest string, from int, mark string) int {
	if n := strings.Index(rest[from:], mark); n >= 0 {
		return from + n + len(mark)
	}
	return len(rest)
}

// At is the zone of the byte at an offset.
func (z Zones) At(offset int) Zone {
	i := sort.SearchInts(z.ends, offset+1)
	if i == len(z.kinds) {
		return Text
	}
	return z.kinds[i]
}
