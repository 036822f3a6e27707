package cluster

import (
	"regexp"
	"strings"

	"unicausa/internal/core/source"
	"unicausa/internal/core/symptom"
)

// Context is what is known besides the symptoms: the packages that moved, the
// names that the notes of their changes mention, and the tests that passed.
type Context struct {
	Subjects   []string
	Names      map[string]bool // last parts: Open of jar.Open
	Passed     map[string]bool // names of tests, as testName writes them
	Deprecated map[string]bool // last parts of the names that were warned of before

	routes map[*source.Tree][]handler

	known map[string]bool   // package: did it move
	named map[string]string // word: the package that it names
}

// PassedTests is the set of the tests that passed, for Context.
func PassedTests(tests []symptom.Test) map[string]bool {
	set := make(map[string]bool, len(tests))
	for _, t := range tests {
		if t.Outcome == symptom.Passed {
			set[testName(t.Name)] = true
			if i := strings.LastIndexAny(t.Name, ">›"); i >= 0 {
				set[testName(strings.TrimLeft(t.Name[i:], ">› "))] = true
			}
		}
	}
	return set
}

// TestName writes a test's name so that a runner's spelling and the source's
// are the same: its last part, without "test", in small letters.
func testName(name string) string {
	name = strings.TrimSpace(name)
	if i := strings.IndexAny(name, "[("); i > 0 { // parameters
		name = name[:i]
	}
	if !strings.Contains(name, " ") {
		name = name[strings.LastIndexAny(name, ".:#/")+1:]
	}
	return strings.Trim(strings.TrimPrefix(strings.ToLower(name), "test"), "_ ")
}

// moved reports whether a package is one of those that moved.
func (c *Context) moved(pkg string) bool {
	moved, known := c.known[pkg]
	if !known {
		if c.known == nil {
			c.known = map[string]bool{}
		}
		moved = among(pkg, c.Subjects)
		c.known[pkg] = moved
	}
	return moved
}

// subject is the package that moved of which a word is the name in code, or "".
func (c *Context) subject(word string) string {
	if word == "" {
		return ""
	}
	pkg, known := c.named[word]
	if known {
		return pkg
	}
	if c.named == nil {
		c.named = map[string]string{}
	}
	for _, s := range c.Subjects {
		if source.SameFamily(s, compiledName.ReplaceAllString(word, "")) {
			pkg = s
			break
		}
	}
	c.named[word] = pkg
	return pkg
}

// compiledName is what the TypeScript compiler adds to the name of a module.
var compiledName = regexp.MustCompile(`_\d+$`)

// prefixed is the package that moved whose name a name begins with, as those
// of C libraries do, or "".
func (c *Context) prefixed(name string) string {
	head, _, ok := strings.Cut(name, "_")
	if !ok || head == "" {
		return ""
	}
	return c.subject(head)
}
