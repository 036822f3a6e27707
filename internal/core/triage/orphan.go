package triage

import (
	"regexp"
	"slices"

	"unicausa/internal/core/cluster"
	"unicausa/internal/core/source"
	"unicausa/internal/core/symptom"
)

// Orphan is a key that code still asks for, and that the project's own edits
// took out of a file: half a fix.
type Orphan struct {
	Name string `json:"name"`
	File string `json:"file"`
}

var (
	// keyed is a key at the beginning of a line, as settings are written in
	// YAML, JSON, TOML, INI files and in the literals of most languages.
	keyed = regexp.MustCompile(`^\s*["']?([A-Za-z_][\w.-]{3,})["']?\s*(?:=>|:|=)`)
	// asked is a key in quotes, as code asks for one.
	asked = regexp.MustCompile("[\"'`]([A-Za-z_][\\w.-]{3,})[\"'`]")
)

// mostKeyed bounds, in lines, the files that are read for keys.
const mostKeyed = 5000

// takenOut are the keys that files of the baseline's tree had and have no more,
// with the file of each.
func takenOut(before, after *source.Tree) map[string]string {
	gone := map[string]string{}
	if before == nil || after == nil {
		return gone
	}
	for _, file := range before.Files() {
		old, now := before.Lines(file), after.Lines(file)
		if len(old) > mostKeyed || slices.Equal(old, now) {
			continue
		}
		kept := keys(now)
		for name := range keys(old) {
			if !kept[name] && gone[name] == "" {
				gone[name] = file
			}
		}
	}
	return gone
}

func keys(lines []string) map[string]bool {
	found := map[string]bool{}
	for _, line := range lines {
		if m := keyed.FindStringSubmatch(line); m != nil {
			found[m[1]] = true
		}
	}
	return found
}

// orphaned finds, of what is new and fails at run time, the key that the code
// it reaches still asks for.
func orphaned(e *cluster.Evidence, gone map[string]string) *Orphan {
	s := e.Symptom
	if len(gone) == 0 || s.State != symptom.New || s.Kind != symptom.TestFailure && s.Kind != symptom.Crash {
		return nil
	}
	for _, line := range e.Lines() {
		for _, m := range asked.FindAllStringSubmatch(line, -1) {
			if file := gone[m[1]]; file != "" {
				return &Orphan{Name: m[1], File: file}
			}
		}
	}
	return nil
}

// baselineTree is the source that the newest run of the baseline was made on,
// or nil.
func baselineTree(c Case) *source.Tree {
	if n := len(c.Before); n > 0 {
		return c.Before[n-1].Tree
	}
	return nil
}

// orphans notes them in the report, each with what to do in its cause.
func (r *Report) orphans(evidence []*cluster.Evidence, gone map[string]string) {
	byID := map[string]*Orphan{}
	for _, e := range evidence {
		if o := orphaned(e, gone); o != nil {
			byID[e.Symptom.ID] = o
		}
	}
	byCause := map[string]*Orphan{}
	for i := range r.Symptoms {
		s := &r.Symptoms[i]
		if s.Orphan = byID[s.ID]; s.Orphan != nil && byCause[s.Cause] == nil {
			byCause[s.Cause] = s.Orphan
		}
	}
	for i := range r.Causes {
		if o := byCause[r.Causes[i].ID]; o != nil {
			step := Step{Kind: StepLook, Text: o.File + " has lost " + o.Name + " since the baseline, and the code still asks for it."}
			r.Causes[i].Steps = append([]Step{step}, r.Causes[i].Steps...)
		}
	}
}
