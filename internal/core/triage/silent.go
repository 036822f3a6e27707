package triage

import (
	"path"
	"regexp"
	"slices"
	"strings"

	"unicausa/internal/core/exposure"
	"unicausa/internal/core/notes"
	"unicausa/internal/core/source"
)

// Silent reports whether a change is a silent risk: it tells of another
// behaviour, default or setting, nothing that breaks prints anything, and what
// it is about stands in the code for certain. Weaker ones are quiet alone.
func Silent(c *notes.Change, found *exposure.Found) bool {
	return quiet(c) && tells(c) && concerns(c, found)
}

// Perhaps reports whether a change may be a silent risk, and is not certain to
// be one.
func Perhaps(c *notes.Change, found *exposure.Found) bool { return quiet(c) && !Silent(c, found) }

// quiet reports whether a change breaks without printing anything: another
// behaviour, default or setting.
func quiet(c *notes.Change) bool {
	switch c.Kind {
	case notes.Behaviour, notes.Default:
		return true
	case notes.Added, notes.Fixed, notes.Deprecated:
		return false
	}
	return slices.ContainsFunc(c.Symbols, func(s notes.Symbol) bool {
		return s.Side != notes.NewOne && (s.Role == notes.Option || s.Role == notes.Flag || s.Role == notes.File || s.Role == notes.Environment)
	})
}

var (
	// changed are the words in which notes tell that something is otherwise now.
	changed = regexp.MustCompile(`(?i)\b(?:no longer|not any ?more|anymore|instead|rather than|previously|formerly|used to|until now|before(?:hand)?,? (?:it|they|this)|by default|defaults? to|the default|changed|changes|is now|are now|now (?:returns?|raises?|throws?|uses?|sets?|emits?|rejects?|requires?|treats?|ignores?|always|only|fails?|errors?|behaves?|includes?|sorts?|rounds?|writes?|prints?)|stricter|removed|ignored|reversed?|unless told otherwise)\b`)

	// adds are the first words of what only adds to what there is.
	adds = regexp.MustCompile(`(?i)^\W*(?:\(?\w+\)?[:_)*]\W*)?(?:add(?:s|ed)?|allow(?:s|ed)?|support(?:s|ed)?|improv\w+|document\w*|refactor\w*|extract\w*|implement\w*|introduc\w+|enabl\w+|test\w*|fix\w*|perf\w*|optimi\w+|expos\w+|new)\b|\b(?:may|can) (?:now|also)\b|\bnow (?:accepts?|allows?|supports?|takes?)\b`)

	// narrates are the headings of what explains, and tells of nothing that changed.
	narrates = regexp.MustCompile(`(?i)^\W*(?:the\s+)?(?:ideas?|why|how|about|overview|motivation|background|introduction|rationale)\b`)

	// value is in front of a name that is what a setting was, not what has it.
	value = regexp.MustCompile(`(?i)\bchanged from\s*$`)

	// from is in front of what something was or is to be, which is not what is told of.
	from = regexp.MustCompile(`(?i)\b(?:from|to)\s*$`)

	// part is in front of what has the subject of a sentence within it.
	part = regexp.MustCompile(`(?i)\b(?:in|inside|within)\s*$`)

	// aboutBreaking are headings and documents of what breaks.
	aboutBreaking = regexp.MustCompile(`(?i)breaking|incompatib|migrat|upgrad`)
)

// opening is how much of an entry's text is read for what it tells.
const opening = 300

// tells reports whether the entry tells of something that is otherwise now, and
// not of an addition or of what no user sees.
func tells(c *notes.Change) bool {
	if c.Minor || adds.MatchString(c.Title) && !c.Breaking || narrates.MatchString(c.Title) {
		return false
	}
	if changed.MatchString(c.Title) || changed.MatchString(c.Text[:min(len(c.Text), opening)]) {
		return true
	}
	return c.Breaking || len(c.Before) > 0 && slices.ContainsFunc(append([]string{path.Base(c.Notes)}, c.Context...), aboutBreaking.MatchString)
}

// everyones are names that stand in any program, whoever's they are.
var everyones = map[string]bool{}

func init() {
	for _, name := range strings.Fields("GET POST PUT DELETE PATCH HEAD None True False null nil true false undefined self this dict list tuple str int float bool bytes char string number object byte vec Vec Option Result Map Set Date Array Object String Promise " +
		"new default main init") {
		everyones[name] = true
	}
}

// concerns reports whether the code uses what the entry is about: the first name
// in its title stands there for certain, and so do two in three of the others, unless
// it is about a default, which nothing names; of a title without names, half of the
// names of its text.
func concerns(c *notes.Change, found *exposure.Found) bool {
	certain := map[string]bool{}
	for _, p := range found.Places {
		if leads(&p) || !valued(c, &p) {
			continue
		}
		if p.Sure >= exposure.Certain || p.Sure >= exposure.Likely && p.Zone != source.Text && !exposure.Common(p.Name) {
			certain[p.Name] = true
		}
	}
	first, firstAt := "", len(c.Title)
	var titled, titledFound, all, allFound int
	for _, name := range found.Searched {
		last := notes.LastPart(name)
		if everyones[last] || strings.HasSuffix(last, "Error") || strings.HasSuffix(last, "Exception") {
			continue
		}
		hit := 0
		if certain[name] || certain[last] {
			hit = 1
		}
		all, allFound = all+1, allFound+hit
		at := strings.Index(c.Title, last)
		if at < 0 || owner.MatchString(c.Title[at+len(last):]) {
			continue
		}
		before := strings.TrimRight(owned.ReplaceAllString(c.Title[:at], ""), "`'\"")
		switch {
		case value.MatchString(before) && at < firstAt:
			return false
		case from.MatchString(before):
			continue
		}
		titled, titledFound = titled+1, titledFound+hit
		if at < firstAt {
			first, firstAt = name, at
		}
	}
	if titled > 0 {
		if part.MatchString(strings.TrimRight(owned.ReplaceAllString(c.Title[:firstAt], ""), "`'\"")) {
			return false
		}
		return (certain[first] || certain[notes.LastPart(first)]) && (c.Kind == notes.Default || 3*titledFound >= 2*titled)
	}
	return allFound > 0 && 2*allFound >= all
}

// owned is what stands in front of a name as its owner: "django.test." of
// "django.test.TestCase".
var owned = regexp.MustCompile(`[\w.:]*[.:]$`)

// owner is behind a name that only owns what is told of.
var owner = regexp.MustCompile(`^(?:\.|::)\w`)

// imports is a line that brings names, and uses none.
var imports = regexp.MustCompile(`^\s*(?:import|from|use|using|require|#include)\b|\brequire\(`)

// leads reports whether a name at a place is only imported there, or the module that
// something else is taken from.
func leads(p *exposure.Place) bool {
	if p.Zone == source.Code && imports.MatchString(p.Text) {
		return true
	}
	end := p.Column - 1 + len(p.Name)
	return p.Zone == source.Code && p.Name[0] >= 'a' && p.Name[0] <= 'z' && end < len(p.Text) && p.Text[end] == '.'
}

// valued reports whether a place has a flag with a value that the change names it with:
// "-fsanitize=implicit-conversion" is not any other -fsanitize.
func valued(c *notes.Change, p *exposure.Place) bool {
	if !strings.HasPrefix(p.Name, "-") || !strings.Contains(c.Text, p.Name+"=") {
		return true
	}
	for rest := c.Text; ; {
		i := strings.Index(rest, p.Name)
		if i < 0 {
			return false
		}
		rest = rest[i+len(p.Name):]
		if !strings.HasPrefix(rest, "=") {
			return true // it is named by itself as well
		}
		with, _, _ := strings.Cut(rest, " ")
		if strings.Contains(p.Text, p.Name+strings.TrimRight(with, ".,;:)")) {
			return true
		}
	}
}
