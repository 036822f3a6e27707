package config

import (
	"fmt"
	"path/filepath"
	"regexp"
	"strings"
)

// Check is one check as the project describes it: a command, or steps that a
// person walks through.
type Check struct {
	Name        string            `yaml:"name"`
	Run         string            `yaml:"run"`         // a command line for the shell; {target} is replaced
	Folder      string            `yaml:"folder"`      // where it runs, below the project
	Targets     []string          `yaml:"targets"`     // modules, platforms, configurations: one run for each
	Env         map[string]string `yaml:"env"`         // beside the environment
	Files       []string          `yaml:"files"`       // output that the command writes; {target} is replaced
	Pictures    []string          `yaml:"pictures"`    // patterns of pictures that it leaves, beside those that its output names
	Clean       string            `yaml:"clean"`       // a command line that removes what was built
	Times       int               `yaml:"times"`       // runs in a row, where flakiness is in doubt
	Informative bool              `yaml:"informative"` // its failures hold nothing up
	Steps       []Step            `yaml:"steps"`
}

// Step is what a person does in a walk-through, and what is to be seen then.
type Step struct {
	Do     string `yaml:"do"`
	Expect string `yaml:"expect"`
}

// ByHand reports whether a person walks through the check.
func (c *Check) ByHand() bool { return len(c.Steps) > 0 }

// For is the check with {target} replaced in its command lines and files.
func (c Check) For(target string) Check {
	put := func(s string) string { return strings.ReplaceAll(s, "{target}", target) }
	c.Run, c.Clean, c.Folder = put(c.Run), put(c.Clean), put(c.Folder)
	files := make([]string, len(c.Files))
	for i, f := range c.Files {
		files[i] = put(f)
	}
	c.Files = files
	return c
}

var (
	checkName  = regexp.MustCompile(`^[A-Za-z0-9][A-Za-z0-9 ._-]*$`)
	targetName = regexp.MustCompile(`^[A-Za-z0-9./][A-Za-z0-9 ._/-]*$`)
)

// mostTimes bounds how often a check is run in a row.
const mostTimes = 50

// validate says which check is described wrongly, and what to do.
func validate(checks []Check) error {
	seen := map[string]bool{}
	for i := range checks {
		c := &checks[i]
		if !checkName.MatchString(c.Name) {
			return fmt.Errorf("check %d is named %q: use letters, digits, spaces, dots and dashes", i+1, c.Name)
		}
		if err := c.validate(); err != nil {
			return fmt.Errorf("check %q %w", c.Name, err)
		}
		if seen[c.Name] {
			return fmt.Errorf("check %q is described twice: give targets to one of them, or another name", c.Name)
		}
		seen[c.Name] = true
	}
	return nil
}

func (c *Check) validate() error {
	switch {
	case c.Run == "" && !c.ByHand():
		return fmt.Errorf("does nothing: give it run, a command line, or steps to walk through")
	case c.Run != "" && c.ByHand():
		return fmt.Errorf("has both run and steps: make two checks of it")
	case c.Times < 0 || c.Times > mostTimes:
		return fmt.Errorf("is run %d times: give 1 to %d", c.Times, mostTimes)
	case c.ByHand() && (c.Times > 1 || c.Clean != "" || len(c.Files) > 0 || len(c.Env) > 0):
		return fmt.Errorf("is walked through: times, clean, files and env are for commands")
	case len(c.Targets) == 0 && strings.Contains(c.Run+strings.Join(c.Files, ""), "{target}"):
		return fmt.Errorf("has {target} and no targets: list them")
	}
	targets := map[string]bool{}
	for _, t := range c.Targets {
		if !targetName.MatchString(t) || targets[t] {
			return fmt.Errorf("has the target %q, twice or with other characters than letters, digits, spaces, dots, slashes and dashes", t)
		}
		targets[t] = true
	}
	for _, path := range append([]string{c.Folder}, c.Files...) {
		if path != "" && !filepath.IsLocal(path) {
			return fmt.Errorf("names %q, which lies outside of the project", path)
		}
	}
	for i, s := range c.Steps {
		if strings.TrimSpace(s.Do) == "" || strings.TrimSpace(s.Expect) == "" {
			return fmt.Errorf("has a step %d without do or expect: say what to do, and what is to be seen then", i+1)
		}
	}
	return nil
}
