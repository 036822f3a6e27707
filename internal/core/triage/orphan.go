package triage

import (
	"bytes"
	"regexp"

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

// takenOut are those of the wanted keys that files of the baseline's tree had
// and have no more, with the file of each.
func takenOut(before, after *source.Tree, wanted map[string]bool) map[string]string {
	gone := map[string]string{}
	if before == nil || after == nil || before == after || len(wanted) == 0 {
		return gone
	}
	var old, now []byte
	for _, file := range before.Files() {
		old, now = before.ReadInto(file, old), after.ReadInto(file, now)
		if bytes.Count(old, newline) >= mostKeyed || bytes.Equal(old, now) {
			continue
		}
		kept := keys(now)
		for name := range keys(old) {
			if wanted[name] && !kept[name] && gone[name] == "" {
				gone[name] = file
			}
		}
	}
	return gone
}

var newline = []byte("\n")

func keys(text []byte) map[string]bool {
	found := map[string]bool{}
	for line := range bytes.Lines(text) {
		if m := keyed.FindSubmatch(line); m != nil {
			found[string(m[1])] = true
		}
	}
	return found
}

// asks are the keys that the code asks for which a symptom reaches, if it is
// new and fails at run time.
func asks(e *cluster.Evidence) []string {
	s := e.Symptom
	if s.State != symptom.New || s.Kind != symptom.TestFailure && s.Kind != symptom.Crash {
		return nil
	}
	var names []string
	for _, line := range e.Lines() {
		for _, m := range asked.FindAllStringSubmatch(line, -1) {
			names = append(names, m[1])
		}
	}
	return names
}

// baselineTree is the source that the newest run of the baseline was made on,
// or nil.
func baselineTree(c Case) *source.Tree {
	if n := len(c.Before); n > 0 {
		return c.Before[n-1].Tree
	}
	return nil
}

// orphans notes in the report which key each symptom misses that edits took
// away, with what to do in its cause.
func (r *Report) orphans(evidence []*cluster.Evidence, before, after *source.Tree) {
	wanted := map[string]bool{}
	for _, e := range evidence {
		for _, name := range asks(e) {
			wanted[name] = true
		}
	}
	gone := takenOut(before, after, wanted)
	if len(gone) == 0 {
		return
	}
	byID := map[string]*Orphan{}
	for _, e := range evidence {
		for _, name := range asks(e) {
			if file := gone[name]; file != "" {
				byID[e.Symptom.ID] = &Orphan{Name: name, File: file}
				break
			}
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
