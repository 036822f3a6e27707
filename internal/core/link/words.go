package link

import (
	"iter"
	"strings"
	"sync"

	"github.com/kljensen/snowball/english"
)

// eachWord goes through the words of a text, letters and digits that begin with a
// letter, two at least, with where they stand.
func eachWord(text string) iter.Seq2[int, int] {
	letter := func(c byte) bool { return c|0x20 >= 'a' && c|0x20 <= 'z' }
	return func(yield func(from, end int) bool) {
		for from := 0; from < len(text); from++ {
			if !letter(text[from]) {
				continue
			}
			end := from + 1
			for end < len(text) && (letter(text[end]) || text[end] >= '0' && text[end] <= '9') {
				end++
			}
			if end > from+1 && !yield(from, end) {
				return
			}
			from = end
		}
	}
}

// wordsOf are the words of a text in lower case, names split at their humps,
// inflections cut, without the commonest ones.
func wordsOf(text string) []string {
	var list []string
	text = spelledOut.Replace(text)
	for from, end := range eachWord(text) {
		parts := humps(text[from:end])
		if len(parts) > 1 {
			list = append(list, strings.ToLower(text[from:end]))
		}
		for _, p := range parts {
			if p = stemWord(strings.ToLower(p)); len(p) > 2 && !stopWords[p] {
				list = append(list, p)
			}
		}
	}
	return list
}

// spelledOut gives words that code writes as one their form in code.
var spelledOut = strings.NewReplacer("regular expression", "regexp", "Regular expression", "Regexp", "time zone", "timezone", "Time zone", "Timezone", "data type", "datatype", "file name", "filename", "name space", "namespace", "call back", "callback")

// phrase is two words that follow one another, but for the commonest ones.
type phrase [2]string

// phrasesOf are the phrases of a text, with those that names are made of.
func phrasesOf(text string) []phrase {
	var list []phrase
	text = spelledOut.Replace(text)
	last := ""
	for from, end := range eachWord(text) {
		for _, p := range humps(text[from:end]) {
			if p = stemWord(strings.ToLower(p)); len(p) < 2 || stopWords[p] {
				continue
			}
			if last != "" && last != p {
				list = append(list, phrase{last, p})
			}
			last = p
		}
	}
	return list
}

func humps(w string) []string {
	var parts []string
	from := 0
	for i := 1; i < len(w); i++ {
		upper := 'A' <= w[i] && w[i] <= 'Z'
		lowerBefore := 'a' <= w[i-1] && w[i-1] <= 'z' || '0' <= w[i-1] && w[i-1] <= '9'
		if upper && lowerBefore {
			parts = append(parts, w[from:i])
			from = i
		}
	}
	return append(parts, w[from:])
}

// stemWord is a word's stem, after the English Snowball stemmer.
func stemWord(w string) string {
	stemsMu.RLock()
	stem, ok := stems[w]
	stemsMu.RUnlock()
	if ok {
		return stem
	}
	short := w
	if full, ok := abbreviations[w]; ok {
		w = full
	}
	stem = english.Stem(w, false)
	stemsMu.Lock()
	if len(stems) < 1<<16 {
		stems[short] = stem
	}
	stemsMu.Unlock()
	return stem
}

// abbreviations are short forms of words that code and notes use beside the full ones.
var abbreviations = map[string]string{
	"regex": "regexp", "regexes": "regexp", "param": "parameter", "params": "parameter", "arg": "argument", "args": "argument", "config": "configuration", "configs": "configuration", "conf": "configuration",
	"func": "function", "funcs": "function", "fn": "function", "dir": "directory", "dirs": "directory", "env": "environment", "db": "database", "id": "identifier", "ids": "identifier", "init": "initialize", "async": "asynchronous",
	"sync": "synchronous", "auth": "authentication", "attr": "attribute", "attrs": "attribute", "prop": "property", "props": "property", "ref": "reference", "refs": "reference", "msg": "message", "err": "error", "int": "integer",
	"bool": "boolean", "str": "string", "char": "character", "chars": "character", "max": "maximum", "min": "minimum", "num": "number", "len": "length", "info": "information", "spec": "specification", "impl": "implementation",
	"var": "variable", "vars": "variable", "ctx": "context", "tz": "timezone", "pkg": "package", "lib": "library", "repo": "repository", "docs": "documentation", "ctor": "constructor", "dep": "dependency", "deps": "dependency",
}

var (
	stems   = map[string]string{}
	stemsMu sync.RWMutex
)

var stopWords = map[string]bool{}

func init() {
	for _, w := range strings.Fields(`the and for with that this from are was were not now use used has have had but you your its can will would should may
		also into than then them they their there which when what where how all any one two more most other some such only very been being does did
		function method type value error undefined test expect got want actual expected equal strict return call null
		www com org net nil true false new old version chang break`) {
		stopWords[stemWord(w)] = true
		stopWords[w] = true
	}
}
