// Package notes reads release notes into changes: one entry each, with its
// version, kind, symbols, rename pairs and exact lines.
package notes

import "strings"

// Kind says what a change does to those who use the package.
type Kind string

// The kinds of a change.
const (
	Removed     Kind = "removed"
	Renamed     Kind = "renamed"
	Moved       Kind = "moved"
	Signature   Kind = "signature"
	Behaviour   Kind = "behaviour"
	Default     Kind = "default"
	Deprecated  Kind = "deprecated"
	Requirement Kind = "requirement"
	Added       Kind = "added"
	Fixed       Kind = "fixed"
)

// Side says which side of a change a name is on.
type Side string

// The sides of a change. A name whose side the text does not tell is Either.
const (
	Old    Side = "old"
	NewOne Side = "new"
	Either Side = "either"
)

// Role says what a name is, where the text or the name's form tells.
type Role string

// The roles of a name; most are of the language and have none.
const (
	Option      Role = "option"      // of a configuration or a call
	Flag        Role = "flag"        // of a command: --lid
	File        Role = "file"        // or a folder
	Environment Role = "environment" // variable
)

// Symbol is a name in a change. Weight tells how it stands there: 1 in a code
// span or a rename, less in a code block or in prose.
type Symbol struct {
	Name   string  `json:"name"`
	Side   Side    `json:"side"`
	Role   Role    `json:"role,omitempty"`
	Owner  string  `json:"owner,omitempty"` // "Jar" of "Jar.open"
	Weight float64 `json:"weight"`
}

// Rename is a pair of an old and a new name.
type Rename struct {
	From string `json:"from"`
	To   string `json:"to"`
}

// Change is one entry of a document. Line and End are 1-based and inclusive.
type Change struct {
	ID       string    `json:"id"`
	Notes    string    `json:"notes"` // the document's name
	Line     int       `json:"line"`
	End      int       `json:"end"`
	Package  string    `json:"package"`
	Version  string    `json:"version"` // as written, without a leading v; "" where the document names none
	Kind     Kind      `json:"kind"`
	Impact   string    `json:"impact"` // high, medium, low or unknown
	Title    string    `json:"title"`
	Text     string    `json:"text"`                   // the entry's words, without markup
	Scope    string    `json:"scope,omitempty"`        // the part of the package that a commit names
	Minor    bool      `json:"housekeeping,omitempty"` // of what no user sees: tests, documentation, chores
	Breaking bool      `json:"breaking,omitempty"`     // a mark says so
	Context  []string  `json:"context,omitempty"`      // the headings above it, outermost first
	Symbols  []Symbol  `json:"symbols,omitempty"`
	Renames  []Rename  `json:"renames,omitempty"`
	Requires []Minimum `json:"requires,omitempty"` // the least versions that it asks for
	Before   []string  `json:"before,omitempty"`   // lines of code it shows as old
	After    []string  `json:"after,omitempty"`    // lines of code it shows as new
	Examples []string  `json:"examples,omitempty"` // spans of code that show how something is written
}

// Names lists the change's symbols, each once, the old side first.
func (c *Change) Names() []string {
	seen := map[string]bool{}
	names := []string{}
	for _, side := range []Side{Old, Either, NewOne} {
		for _, s := range c.Symbols {
			if s.Side == side && s.Weight >= 0.5 && !seen[s.Name] {
				seen[s.Name] = true
				names = append(names, s.Name)
			}
		}
	}
	return names
}

// Pair makes the names of the change's pairs symbols of the sides that these say.
func (c *Change) Pair() {
	side := map[string]Side{}
	for _, r := range c.Renames {
		side[r.From], side[r.To] = Old, NewOne
	}
	symbols := make([]Symbol, 0, len(c.Symbols)+2*len(c.Renames))
	for _, s := range c.Symbols {
		if sd, ok := side[s.Name]; ok {
			s.Side, s.Weight = sd, 1
			delete(side, s.Name)
		}
		symbols = append(symbols, s)
	}
	for _, r := range c.Renames {
		for _, name := range []string{r.From, r.To} {
			if sd, ok := side[name]; ok {
				symbols = append(symbols, Symbol{Name: name, Side: sd, Role: roleOf(name, ""), Owner: ownerOf(name), Weight: 1})
				delete(side, name)
			}
		}
	}
	c.Symbols = symbols
}

// LastPart is a name without its owner: "open" of "Jar.open"; a template's field
// and a flag are whole.
func LastPart(name string) string {
	if strings.HasPrefix(name, "-") || wrapped.MatchString(name) {
		return name
	}
	return name[strings.LastIndexAny(name, ".:#>")+1:]
}
