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
	opener [256]bool   // bytes with which any of these begins
}

var (
	lexisC      = &lexis{line: []string{"//"}, blocks: [][2]string{{"/*", "*/"}}, quotes: `"'`, long: [][2]string{{`"""`, `"""`}}}
	lexisGo     = &lexis{line: []string{"//"}, blocks: [][2]string{{"/*", "*/"}}, quotes: `"'`, long: [][2]string{{"`", "`"}}}
	lexisRust   = &lexis{line: []string{"//"}, blocks: [][2]string{{"/*", "*/"}}, quotes: `"`}
	lexisPHP    = &lexis{line: []string{"//", "#"}, blocks: [][2]string{{"/*", "*/"}}, quotes: `"'`}
	lexisHash   = &lexis{line: []string{"#"}, quotes: `"'`, long: [][2]string{{`"""`, `"""`}, {"'''", "'''"}}}
	lexisRuby   = &lexis{line: []string{"#"}, blocks: [][2]string{{"\n=begin", "\n=end"}}, quotes: `"'`}
	lexisDashes = &lexis{line: []string{"--"}, blocks: [][2]string{{"{-", "-}"}, {"/*", "*/"}}, quotes: `"`}
	lexisML     = &lexis{blocks: [][2]string{{"(*", "*)"}}, quotes: `"`}
	lexisErl    = &lexis{line: []string{"%"}, quotes: `"'`}
	lexisBang   = &lexis{line: []string{"!"}, quotes: `"'`}
)

// lexes maps the extensions of programs to how these are written.
var lexes = map[string]*lexis{}

func init() {
	for l, exts := range map[*lexis]string{
		lexisC:    ".c .h .cc .cpp .cxx .hpp .hh .m .mm .java .kt .kts .scala .groovy .gradle .cs .swift .dart .zig .v .sol .proto",
		lexisGo:   ".go .ts .tsx .js .jsx .mjs .cjs .mts .cts .vue .svelte",
		lexisRust: ".rs", lexisPHP: ".php", lexisHash: ".py .pyi .ex .exs .jl .r .pl .pm .sh .bash .tcl .nim .cr", lexisRuby: ".rb .rake",
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

// Program tells whether a file is a program, by its extension.
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
		to(end, kind)
		i = end
	}
	to(len(text), Code)
	return z
}

// opens tells whether a comment or a string begins at a place, and its end.
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
