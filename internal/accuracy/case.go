// Package accuracy measures triage on labelled cases: upgrades of small
// projects whose every symptom a person has read, sorted by cause and looked
// up in the release notes.
package accuracy

import (
	"encoding/json"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"

	"unicausa/internal/core/notes"
	"unicausa/internal/core/read"
	"unicausa/internal/core/source"
	"unicausa/internal/core/triage"
	"unicausa/internal/core/versions"
)

// Case is a labelled case as its truth.json has it. Paths are below its folder.
type Case struct {
	Name      string `json:"case"`
	Ecosystem string `json:"ecosystem"`
	Subject   Moved  `json:"subject"`
	Inputs    struct {
		Before, After []string
		Notes         []struct{ Path, Package string }
		Repo          string
	} `json:"inputs"`
	Symptoms []Label `json:"symptoms"`
	Causes   []Cause `json:"causes"`

	folder string
}

// Moved is a package that moved, with others that moved beside it.
type Moved struct {
	Name, From, To string
	Also           []Moved
}

// Label is one diagnostic of the after side. Line is that of its own message,
// 1-based; Cause is empty for what was there before and for what several
// causes share.
type Label struct {
	Input string `json:"input"`
	Line  int    `json:"line"`
	Test  string `json:"test"`
	State string `json:"state"`
	Cause string `json:"cause"`
}

// Cause is a cause with the ranges of lines in the notes that explain it; none
// where the notes say nothing.
type Cause struct {
	ID    string `json:"id"`
	Title string `json:"title"`
	Notes []struct {
		Path string `json:"path"`
		Line int    `json:"line"`
		End  int    `json:"end"`
	} `json:"notes"`
}

// Load reads the case in a folder, with its outputs beside it. It returns the
// error of a file that is not there or not JSON.
func Load(folder string) (*Case, error) {
	data, err := os.ReadFile(filepath.Join(folder, "truth.json"))
	if err != nil {
		return nil, err
	}
	c := &Case{folder: folder}
	if err := json.Unmarshal(data, c); err != nil {
		return nil, fmt.Errorf("%s: %w", folder, err)
	}
	return c, nil
}

// LoadAll reads every case below a folder.
func LoadAll(folder string) ([]*Case, error) {
	return all(filepath.Join(folder, "*", "truth.json"), func(string) (string, error) { return "", nil })
}

// Record reads every case below a folder whose outputs are not kept with it:
// its make.sh records them below cache, once. It returns the error of a
// recording that fails; what that printed is in cache/NAME.log.
func Record(folder, cache string) ([]*Case, error) {
	return all(filepath.Join(folder, "*", "make.sh"), func(dir string) (string, error) {
		outputs := filepath.Join(cache, filepath.Base(dir))
		done := filepath.Join(outputs, ".done")
		if _, err := os.Stat(done); err == nil {
			return outputs, nil
		}
		if err := os.MkdirAll(outputs, 0o755); err != nil {
			return "", err
		}
		said, failed := exec.Command("bash", filepath.Join(dir, "make.sh"), outputs).CombinedOutput()
		if err := os.WriteFile(outputs+".log", said, 0o644); err != nil {
			return "", err
		}
		if failed != nil {
			return "", fmt.Errorf("recording %s: %w, see %s.log", dir, failed, outputs)
		}
		return outputs, os.WriteFile(done, nil, 0o644)
	})
}

// all loads the cases in whose folders a file of the pattern lies, each with
// its outputs where outputs says.
func all(pattern string, outputs func(dir string) (string, error)) ([]*Case, error) {
	list, err := filepath.Glob(pattern)
	if err != nil {
		return nil, err
	}
	var cases []*Case
	for _, path := range list {
		dir := filepath.Dir(path)
		c, err := Load(dir)
		if err != nil {
			return nil, err
		}
		if len(c.Inputs.After) == 0 { // labels of something else
			continue
		}
		at, err := outputs(dir)
		if err != nil {
			return nil, err
		}
		if at != "" {
			c.folder = at
		}
		cases = append(cases, c)
	}
	return cases, nil
}

// Triage is the case as triage takes it.
func (c *Case) Triage() (triage.Case, error) {
	t := triage.Case{Moves: []versions.Move{{From: c.Subject.From, To: c.Subject.To}}}
	if len(c.Subject.Also) > 0 { // each has versions of its own
		t.Moves[0].Package = c.Subject.Name
		for _, m := range c.Subject.Also {
			t.Moves = append(t.Moves, versions.Move{Package: m.Name, From: m.From, To: m.To})
		}
	}
	tree, err := source.NewTree(os.DirFS(filepath.Join(c.folder, c.Inputs.Repo)))
	if err != nil {
		return t, err
	}
	before, err := c.read(c.Inputs.Before)
	if err != nil {
		return t, err
	}
	after, err := c.read(c.Inputs.After)
	if err != nil {
		return t, err
	}
	for _, n := range c.Inputs.Notes {
		data, err := os.ReadFile(filepath.Join(c.folder, n.Path))
		if err != nil {
			return t, err
		}
		t.Changes = append(t.Changes, notes.Read(n.Path, n.Package, data)...)
	}
	t.Before, t.After = []triage.Snapshot{{Results: before}}, []triage.Snapshot{{Results: after, Tree: tree}}
	return t, nil
}

func (c *Case) read(names []string) ([]read.Result, error) {
	var list []read.Result
	for _, name := range names {
		f, err := os.Open(filepath.Join(c.folder, name))
		if err != nil {
			return nil, err
		}
		r, err := read.All(name, f)
		f.Close()
		if err != nil {
			return nil, err
		}
		list = append(list, r)
	}
	return list, nil
}
