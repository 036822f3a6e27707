package read

import (
	"fmt"
	"regexp"
	"strconv"
	"strings"

	"unicausa/internal/core/symptom"
)

// Pattern is a line of trouble that a project describes itself. Match is a
// regular expression (Go's syntax) whose named groups fill the fields message
// (needed, the whole line without it), file, line, column, code, test, missing,
// owner and module. Like are lines that it must match, Unlike lines that it
// must not; there is at least one of each.
type Pattern struct {
	Name   string   `json:"name" yaml:"name"`
	Match  string   `json:"match" yaml:"match"`
	Kind   string   `json:"kind,omitempty" yaml:"kind"`   // of a symptom; error without
	Level  string   `json:"level,omitempty" yaml:"level"` // error, warning or note; by the kind without
	Phase  string   `json:"phase,omitempty" yaml:"phase"` // run without
	Like   []string `json:"like" yaml:"like"`
	Unlike []string `json:"unlike" yaml:"unlike"`
}

// Patterns are patterns that hold what they promise.
type Patterns struct {
	list []compiled
}

type compiled struct {
	Pattern
	re *regexp.Regexp
}

// patternFields are the names of the groups that a pattern may have.
var patternFields = map[string]bool{"message": true, "file": true, "line": true, "column": true, "code": true, "test": true, "missing": true, "owner": true, "module": true}

var patternKinds = map[string]string{
	"error": "error", "warning": "warning", "deprecation": "warning", "test-failure": "error", "crash": "error", "resolve": "error", "lint": "warning",
}

// NewPatterns checks patterns: an error says which one is at fault, and what
// to do.
func NewPatterns(list []Pattern) (*Patterns, error) {
	p := &Patterns{}
	for i, pattern := range list {
		if pattern.Name == "" {
			return nil, fmt.Errorf("pattern %d has no name: give it one", i+1)
		}
		c, err := compile(pattern)
		if err != nil {
			return nil, fmt.Errorf("pattern %q: %w", pattern.Name, err)
		}
		p.list = append(p.list, c)
	}
	return p, nil
}

func compile(p Pattern) (compiled, error) {
	re, err := regexp.Compile(p.Match)
	switch {
	case p.Match == "":
		return compiled{}, fmt.Errorf("match is missing: give a regular expression with named groups, for example ^E(?<code>\\d+) (?<message>.*)$")
	case err != nil:
		return compiled{}, fmt.Errorf("match is no regular expression: %w", err)
	}
	for _, name := range re.SubexpNames() {
		if name != "" && !patternFields[name] {
			return compiled{}, fmt.Errorf("match has a group %q: known are message, file, line, column, code, test, missing, owner and module", name)
		}
	}
	if p.Kind == "" {
		p.Kind = string(symptom.Error)
	}
	level, known := patternKinds[p.Kind]
	if !known {
		return compiled{}, fmt.Errorf("kind is %q: give error, warning, deprecation, test-failure, crash, resolve or lint", p.Kind)
	}
	if p.Level == "" {
		p.Level = level
	}
	if p.Level != "error" && p.Level != "warning" && p.Level != "note" {
		return compiled{}, fmt.Errorf("level is %q: give error, warning or note", p.Level)
	}
	if p.Phase == "" {
		p.Phase = string(symptom.PhaseRun)
	}
	if symptom.Phase(p.Phase).Order() < 0 {
		return compiled{}, fmt.Errorf("phase is %q: give resolve, configure, parse, compile, link, start, run or test", p.Phase)
	}
	if len(p.Like) == 0 || len(p.Unlike) == 0 {
		return compiled{}, fmt.Errorf("it wants at least one line under like, which it has to match, and one under unlike, which it must not")
	}
	for _, line := range p.Like {
		if !re.MatchString(line) {
			return compiled{}, fmt.Errorf("match does not match its own example %q", line)
		}
	}
	for _, line := range p.Unlike {
		if re.MatchString(line) {
			return compiled{}, fmt.Errorf("match matches %q, which it must not", line)
		}
	}
	return compiled{p, re}, nil
}

// Symptom reads a line by the first pattern that matches it, and names that.
func (p *Patterns) Symptom(line string) (s symptom.Symptom, name string, ok bool) {
	if p == nil {
		return s, "", false
	}
	for _, c := range p.list {
		m := c.re.FindStringSubmatch(line)
		if m == nil {
			continue
		}
		s = symptom.Symptom{Kind: symptom.Kind(c.Kind), Level: c.Level, Phase: symptom.Phase(c.Phase), Tool: c.Name, Message: strings.TrimSpace(line), Basis: symptom.ByPattern}
		for i, group := range c.re.SubexpNames() {
			if m[i] != "" && group != "" {
				fill(&s, group, m[i])
			}
		}
		return s, c.Name, true
	}
	return s, "", false
}

// fill sets a field by a group's name.
func fill(s *symptom.Symptom, group, value string) {
	switch group {
	case "message":
		s.Message = value
	case "file":
		s.File = value
	case "line":
		s.Line, _ = strconv.Atoi(value)
	case "column":
		s.Column, _ = strconv.Atoi(value)
	case "code":
		s.Code = value
	case "test":
		s.Test = value
	case "missing":
		s.Refs = append(s.Refs, ref(symptom.Missing, value))
	case "owner":
		s.Refs = append(s.Refs, ref(symptom.Owner, value))
	case "module":
		s.Refs = append(s.Refs, ref(symptom.Module, value))
	}
}
