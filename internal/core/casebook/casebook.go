// Package casebook keeps what earlier upgrades learnt: causes that were
// settled, by what holds them together, so that the next project that meets
// one starts with how it went before. Its file is JSON, described in
// docs/casebook.md.
package casebook

import (
	"encoding/json"
	"fmt"
	"io"
	"sort"
	"strings"

	"unicausa/internal/core/notes"
	"unicausa/internal/core/rewrite"
)

// Format and Version name the file that Read takes.
const (
	Format  = "unicausa-casebook"
	Version = 1
)

// Case is one way in which a cause was settled.
type Case struct {
	Signature string         `json:"signature"` // what holds the cause together: "symbol|example.org/jar|OpenLid"
	Package   string         `json:"package"`
	From      string         `json:"from"` // the versions between which it was met
	To        string         `json:"to"`
	Title     string         `json:"title"`
	Kind      string         `json:"kind"`     // of the cause: renamed, removed, …
	Change    string         `json:"change"`   // the entry that explains it, its first sentence; "" for none
	ChangeID  string         `json:"changeId"` // and its identity, which is that of its words
	Decision  string         `json:"decision"` // fix, defer, accept, wait, dismiss
	Pairs     []notes.Rename `json:"pairs"`    // the shape of the patch: what took whose place
	Helped    int            `json:"helped"`   // upgrades that settled it so after the first

	// Private text; Public drops it.
	Reason  string `json:"reason,omitempty"`
	Project string `json:"project,omitempty"`
	Upgrade string `json:"upgrade,omitempty"`
}

// Public is the case without the words that people wrote and the names of
// their projects.
func (c Case) Public() Case {
	c.Reason, c.Project, c.Upgrade = "", "", ""
	return c
}

// own are the beginnings of signatures that mean something in one project only:
// a test, a file, a message, a place.
var own = []string{"test|", "flaky|", "spoiled|", "says|", "place|", "throws||", "about||", "symbol||", "by hand"}

// Portable reports whether a signature can mean the same in another project.
func Portable(signature string) bool {
	signature = strings.TrimPrefix(signature, "known|")
	if signature == "" {
		return false
	}
	for _, start := range own {
		if strings.HasPrefix(signature, start) {
			return false
		}
	}
	return true
}

// Gather folds cases, oldest first, that were settled alike: the same
// signature and the same decision. Each says how often it helped after the
// first time; what it says is of the latest. Most helpful come first.
func Gather(cases []Case) []Case {
	type key struct{ signature, decision string }
	at := map[key]int{}
	list := []Case{}
	for _, c := range cases {
		if !Portable(c.Signature) {
			continue
		}
		k := key{c.Signature, c.Decision}
		i, ok := at[k]
		if !ok {
			at[k] = len(list)
			list = append(list, c)
			continue
		}
		c.Helped += list[i].Helped + 1
		list[i] = c
	}
	sort.SliceStable(list, func(i, j int) bool {
		a, b := list[i], list[j]
		if a.Helped != b.Helped {
			return a.Helped > b.Helped
		}
		return a.Signature < b.Signature || a.Signature == b.Signature && a.Decision < b.Decision
	})
	return list
}

// Matching picks the cases of a signature.
func Matching(cases []Case, signature string) []Case {
	list := []Case{}
	if !Portable(signature) {
		return list
	}
	for _, c := range cases {
		if c.Signature == strings.TrimPrefix(signature, "known|") {
			list = append(list, c)
		}
	}
	return list
}

// Template is an edit that was learnt for a change. Its examples have words that mean
// nothing in the place of people's code.
type Template struct {
	ChangeID string            `json:"changeId"`
	Change   string            `json:"change"` // the entry's first sentence
	Package  string            `json:"package"`
	Shape    string            `json:"shape"` // for people: "open(‹1›) → unseal(‹1›)"
	Examples []rewrite.Example `json:"examples"`
}

// Book is what a casebook's file holds.
type Book struct {
	Format    string     `json:"format"`
	Version   int        `json:"version"`
	Cases     []Case     `json:"cases"`
	Templates []Template `json:"templates,omitempty"`
}

var decisions = map[string]bool{"fix": true, "defer": true, "accept": true, "wait": true, "dismiss": true}

// Read reads a casebook's file. What is no casebook, of a later version, or holds a
// case without signature or decision or a template without change or examples gives
// an error that says which.
func Read(r io.Reader) (Book, error) {
	var b Book
	if err := json.NewDecoder(r).Decode(&b); err != nil {
		return b, fmt.Errorf("this is no casebook: %w", err)
	}
	if b.Format != Format {
		return b, fmt.Errorf("this is no casebook: its format is %q, want %q", b.Format, Format)
	}
	if b.Version != Version {
		return b, fmt.Errorf("the casebook is of version %d, and version %d is known: export it again with the same release", b.Version, Version)
	}
	for i, c := range b.Cases {
		switch {
		case !Portable(c.Signature):
			return b, fmt.Errorf("case %d has no signature that means anything elsewhere: %q", i+1, c.Signature)
		case !decisions[c.Decision]:
			return b, fmt.Errorf("case %d has the decision %q: give fix, defer, accept, wait or dismiss", i+1, c.Decision)
		}
	}
	for i, t := range b.Templates {
		if t.ChangeID == "" || len(t.Examples) == 0 {
			return b, fmt.Errorf("template %d has no change, or no examples: export the casebook again", i+1)
		}
	}
	return b, nil
}
