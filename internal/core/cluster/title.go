package cluster

import (
	"fmt"
	"slices"
	"strings"

	"unicausa/internal/core/symptom"
)

// Title says in a few words what a cause is, from its symptoms alone.
func (c *Cause) Title() string {
	root := c.Members[0]
	s := root.Symptom
	switch fact := root.deciding(); {
	case s.Kind == symptom.MissingTest && len(c.Members) > 1:
		return fmt.Sprintf("%d tests that passed in the baseline are missing or skipped", len(c.Members))
	case s.Kind == symptom.MissingTest:
		return s.Message
	case s.Phase == symptom.PhaseParse && s.File != "":
		return s.File + " cannot be parsed"
	case fact == nil, root.ruled != "" && fact.What == FactMissing:
	case fact.What == FactModule && s.Named(symptom.Expected) != "":
		return fmt.Sprintf("%s is not ready: it wants %s", fact.Name, s.Named(symptom.Expected))
	case fact.What == FactModule:
		return fmt.Sprintf("%s cannot be resolved", fact.Name)
	case fact.What == FactMissing && s.Kind == symptom.Deprecation:
		return qualified(fact) + " is deprecated"
	case fact.What == FactMissing && strings.Contains(fact.Owner, "/"):
		return fmt.Sprintf("%s is no longer in %s", fact.Name, fact.Owner)
	case fact.What == FactMissing:
		if n := c.lacks(); n > 0 {
			return fmt.Sprintf("%s and %d more no longer exist", qualified(fact), n)
		}
		return qualified(fact) + " no longer exists"
	case fact.What == FactOption:
		return fact.Name + " is refused"
	case fact.What == FactInterface:
		return fmt.Sprintf("values no longer fit %s: %s", fact.Name, fact.Owner)
	case fact.What == FactCallee:
		return fmt.Sprintf("calls of %s no longer fit", fact.Name)
	}
	if s.Test == "" {
		return s.Message
	}
	if n := c.tests(); n > 1 && root.about.Known && (root.about.Package != "" || !plainWord(root.about.Name)) {
		return fmt.Sprintf("%s fails in %d tests", root.about.Name, n)
	}
	return s.Test + ": " + s.Message
}

// lacks counts the names that are missing besides the one in the title,
// followers and its own family aside.
func (c *Cause) lacks() int {
	title := c.Misses()
	names := map[string]bool{}
	for _, m := range c.Members {
		if f := m.Fact(FactMissing); f != nil && !m.Follower && !strings.Contains(f.Name, title) {
			names[f.Name] = true
		}
	}
	return len(names)
}

// Lacks reports whether a name is one of those that the cause misses.
func (c *Cause) Lacks(name string) bool {
	for _, m := range c.Members {
		if f := m.Fact(FactMissing); f != nil && !m.Follower && f.Name == name {
			return true
		}
	}
	return false
}

// More says how many names are missing besides the one in the title, or "".
func (c *Cause) More() string {
	if n := c.lacks(); n > 0 {
		return fmt.Sprintf(", and %d more", n)
	}
	return ""
}

// tests counts the failed tests that stand by themselves.
func (c *Cause) tests() int {
	seen := map[string]bool{}
	for _, m := range c.Members {
		if m.Symptom.Test != "" && !m.Follower {
			seen[m.Symptom.Unit+"\x00"+m.Symptom.Test] = true
		}
	}
	return len(seen)
}

// Subject is the name that the cause's title is about, or "".
func (c *Cause) Subject() string {
	fact := c.Members[0].deciding()
	switch {
	case fact == nil || fact.What != FactMissing:
		return ""
	case strings.Contains(fact.Owner, "/"):
		return fact.Name
	}
	return qualified(fact)
}

func qualified(f *Fact) string {
	if f.Owner == "" || strings.HasSuffix(f.Owner, f.Name) {
		return f.Name
	}
	return f.Owner + "." + f.Name
}

// deciding is the fact that holds the symptom in its cause, or nil.
func (e *Evidence) deciding() *Fact {
	for _, what := range []string{FactModule, FactMissing, FactOption, FactInterface, FactCallee} {
		if f := e.Fact(what); f != nil {
			return f
		}
	}
	return nil
}

// concern is the name that the symptom is about, or "".
func (e *Evidence) concern() string {
	for _, what := range []string{FactModule, FactMissing, FactOption, FactCallee} {
		if f := e.Fact(what); f != nil {
			return f.Name
		}
	}
	if e.about.Known {
		return e.about.Name
	}
	return ""
}

// Concerns lists the names that the cause is about: those that hold it
// together, not what else stands on its lines.
func (c *Cause) Concerns() map[string]bool {
	names := map[string]bool{}
	for _, m := range c.Members {
		if m.Follower {
			continue
		}
		for _, f := range m.Facts {
			switch f.What {
			case FactModule, FactMissing, FactOption, FactCallee, FactFrame, FactInterface, FactAbout:
				names[f.Name] = true
			}
		}
	}
	return names
}

// About is the name that the cause most likely concerns, or "".
func (c *Cause) About() string {
	for _, m := range c.Members {
		if name := m.concern(); name != "" && !m.Follower {
			return name
		}
	}
	return ""
}

// Kind says what sort of breakage a cause is, from its symptoms alone.
func (c *Cause) Kind() string {
	s := c.Root()
	fact := c.Members[0].deciding()
	switch {
	case s.Phase == symptom.PhaseParse && s.File != "":
		return "syntax"
	case s.Kind == symptom.Deprecation:
		return "deprecated"
	case fact == nil && s.Kind == symptom.TestFailure:
		return "behaviour"
	case fact == nil:
		return "other"
	case fact.What == FactModule:
		return "unresolved"
	case fact.What == FactMissing:
		return "removed"
	case fact.What == FactOption:
		return "option"
	}
	return "signature"
}

// Package is the package that the cause's facts point to, or "".
func (c *Cause) Package() string {
	for _, m := range c.Members {
		if f := m.deciding(); f != nil && f.Package != "" {
			return f.Package
		}
	}
	for _, m := range c.Members {
		for _, f := range m.Facts {
			if f.Package != "" {
				return f.Package
			}
		}
	}
	return ""
}

// PackageKnown reports whether the package is known from what is broken, not only from what
// the failing code uses beside it.
func (c *Cause) PackageKnown() bool {
	for _, m := range c.Members {
		if f := m.deciding(); f != nil && f.Package != "" {
			return true
		}
		if f := m.Fact(FactFrame); f != nil && f.Package != "" {
			return true
		}
	}
	return false
}

// Silent reports whether a symptom is a failed test that says nothing by itself of
// what is broken.
func (e *Evidence) Silent() bool {
	told := e.asked.Name != "" || e.ruled != "" || e.deciding() != nil || e.Fact(FactFrame) != nil || e.Fact(FactShape) != nil
	return e.Symptom.Kind == symptom.TestFailure && !told
}

// Speaks reports whether a symptom of the cause that follows from no other says by
// itself what is broken: then the silent ones are not asked.
func (c *Cause) Speaks() bool {
	for _, m := range c.Members {
		if !m.Follower && !m.Silent() {
			return true
		}
	}
	return false
}

// Body is the source of the functions that the cause's failing tests reach.
func (c *Cause) Body() []string {
	var lines []string
	speaks := c.Speaks()
	for _, m := range c.Members {
		if m.asked.Name != "" || speaks && m.Silent() {
			continue
		}
		lines = append(lines, m.body...)
		if len(lines) > 200 {
			break
		}
	}
	return lines
}

// Warned is a name that the cause misses or calls and that was warned of before, or "".
func (c *Cause) Warned() string {
	for _, m := range c.Members {
		if !m.Follower && m.warned != "" {
			return m.warned
		}
	}
	return ""
}

// Ours reports whether a name that some symptom reaches is the project's own.
func (c *Cause) Ours(name string) bool {
	return slices.ContainsFunc(c.Members, func(m Member) bool { return m.Ours(name) })
}
