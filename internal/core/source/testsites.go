package source

import (
	"path"
	"strings"
	"unicode"
)

// TestSite is where a test stands in a tree. Off tells that a word beside it
// keeps it from being run: a skip in its head, or at the start of its body.
type TestSite struct {
	File string
	Line int
	Off  bool
}

// TestSites finds tests in a tree by the names that runners print.
type TestSites struct {
	tree  *Tree
	sites map[string][]TestSite // by the words of a function's name or of a title
	files map[string][]string   // by a word: the files that have it as a name
}

// mostTestFiles bounds the files that are searched.
const mostTestFiles = 20_000

// TestSites lists where tests may stand: the names and titles in files that have
// test or spec in their path, in every program where there is no such file, and
// the titles in the others. What stands in a comment is no test. It is nil
// without a tree.
func (t *Tree) TestSites() *TestSites {
	if t == nil {
		return nil
	}
	x := &TestSites{tree: t, sites: map[string][]TestSite{}, files: map[string][]string{}}
	var programs, tests []string
	for _, file := range t.Files() {
		if !Program(file) {
			continue
		}
		programs = append(programs, file)
		if lower := strings.ToLower(file); strings.Contains(lower, "test") || strings.Contains(lower, "spec") || path.Ext(file) == ".rs" {
			tests = append(tests, file)
		}
	}
	if len(tests) == 0 {
		tests = programs
	}
	whole := map[string]bool{}
	for _, file := range tests {
		whole[file] = true
	}
	for _, file := range programs[:min(len(programs), mostTestFiles)] {
		x.add(file, whole[file])
	}
	return x
}

func (x *TestSites) add(file string, names bool) {
	lines := x.tree.Lines(file)
	text := strings.Join(lines, "\n")
	zones := ZonesOf(file, text)
	seen := map[string]bool{}
	from := 0
	for n, line := range lines {
		for i := 0; i < len(line); {
			j := i
			for j < len(line) && wordByte(line[j]) {
				j++
			}
			if j == i {
				if end := closing(line, i); end > 0 {
					if zones.At(from+i) != Comment {
						x.site(line[i+1:end], file, n+1, lines)
					}
					i = end
				}
				i++
				continue
			}
			if word := line[i:j]; names && zones.At(from+i) == Code {
				x.site(word, file, n+1, lines)
				if lower := strings.ToLower(word); !seen[lower] {
					seen[lower] = true
					x.files[lower] = append(x.files[lower], file)
				}
			}
			i = j
		}
		from += len(line) + 1
	}
}

// closing is where the quote that opens at i is closed on its line, 0 for none.
func closing(line string, i int) int {
	if c := line[i]; c == '"' || c == '\'' || c == '`' {
		if end := strings.IndexByte(line[i+1:], c); end > 0 {
			return i + 1 + end
		}
	}
	return 0
}

func (x *TestSites) site(text, file string, line int, lines []string) {
	words := NameWords(text)
	if len(words) == 0 || len(words) > 40 {
		return
	}
	key := strings.Join(words, " ")
	for _, s := range x.sites[key] {
		if s.File == file { // the first is where it is declared
			return
		}
	}
	x.sites[key] = append(x.sites[key], TestSite{File: file, Line: line, Off: off(lines, line)})
}

// offWords keep a test from being run, in one framework or another.
var offWords = map[string]bool{"skip": true, "skipped": true, "skipif": true, "ignore": true, "ignored": true, "disabled": true, "disable": true, "pending": true, "todo": true,
	"xit": true, "xtest": true, "xdescribe": true, "xspecify": true, "marktestskipped": true, "marktestincomplete": true, "explicit": true, "exclude": true}

// off reports whether a test at a line is kept from being run: by a word on the
// lines that stand right above its head, on its head, or first in its body.
func off(lines []string, line int) bool {
	first := line
	for first > 1 && line-first < 5 {
		above := strings.TrimSpace(lines[first-2])
		if above == "" || !strings.ContainsAny(above[:1], "@#[") {
			break
		}
		first--
	}
	last := line
	if head := strings.TrimSpace(lines[line-1]); line < len(lines) && (strings.HasSuffix(head, "{") || strings.HasSuffix(head, ":") || strings.HasSuffix(head, " do")) {
		last++
	}
	for n := first; n <= last; n++ {
		for _, word := range strings.FieldsFunc(lines[n-1], func(r rune) bool { return !unicode.IsLetter(r) }) {
			if offWords[strings.ToLower(word)] {
				return true
			}
		}
	}
	return false
}

// Find tells where a test stands. A suite that is a file of the tree, or a
// class that some files name, bounds the search to these.
func (x *TestSites) Find(suite, name string) (TestSite, bool) {
	if x == nil {
		return TestSite{}, false
	}
	within := x.within(suite)
	if path.Ext(suite) != "" && strings.Contains(suite, "/") && Program(suite) && within == nil {
		return TestSite{}, false // its file is gone
	}
	for _, candidate := range spellings(name) {
		words := NameWords(candidate)
		for i := range words {
			if i > 0 && len(words)-i < 2 && len(strings.Join(words[i:], "")) < 5 {
				break
			}
			for _, s := range x.sites[strings.Join(words[i:], " ")] {
				if within == nil || within[s.File] {
					return s, true
				}
			}
		}
	}
	return TestSite{}, false
}

// within are the files that a suite bounds its tests to, nil for any.
func (x *TestSites) within(suite string) map[string]bool {
	if name, _ := x.tree.Find(suite, ""); suite != "" && name != "" {
		return map[string]bool{name: true}
	}
	words := strings.FieldsFunc(suite, func(r rune) bool { return r >= 0x80 || !wordByte(byte(r)) })
	if len(words) == 0 {
		return nil
	}
	files := x.files[strings.ToLower(words[len(words)-1])]
	if len(files) == 0 {
		return nil
	}
	set := map[string]bool{}
	for _, f := range files {
		set[f] = true
	}
	return set
}

// spellings are what a runner's name of a test may be in its source: without
// the parameters of the case, and its last part alone.
func spellings(name string) []string {
	name = strings.TrimSpace(name)
	list := []string{name}
	base := name
	for _, open := range []string{"[", "(", "{"} {
		if i := strings.Index(base, open); i > 0 {
			base = strings.TrimSpace(base[:i])
		}
	}
	if base != name && base != "" {
		list = append(list, base)
	}
	for _, mark := range []string{" > ", " › ", "::", "#", "."} {
		if i := strings.LastIndex(base, mark); i >= 0 && i+len(mark) < len(base) {
			list = append(list, base[i+len(mark):])
		}
	}
	if i := strings.IndexByte(base, '/'); i > 0 { // a subtest's name is made when it is run
		list = append(list, base[:i])
	}
	return list
}

// NameWords are the words of a name or title in any case style, in order and
// in small letters.
func NameWords(name string) []string {
	var words []string
	from := 0
	add := func(end int) {
		if end > from {
			words = append(words, strings.ToLower(name[from:end]))
		}
	}
	for i := 0; i < len(name); i++ {
		c := name[i]
		letter := wordByte(c) && c != '_' && c != '$' || c >= 0x80
		hump := 'A' <= c && c <= 'Z' && i > from && !('A' <= name[i-1] && name[i-1] <= 'Z')
		if !letter || hump {
			add(i)
			if from = i; !letter {
				from = i + 1
			}
		}
	}
	add(len(name))
	return words
}
