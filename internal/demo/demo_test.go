package demo

import (
	"archive/zip"
	"bytes"
	"io/fs"
	"os"
	"path"
	"path/filepath"
	"testing"

	"unicausa/internal/api"
	"unicausa/internal/config"
	"unicausa/internal/core/notes"
	"unicausa/internal/core/read"
)

// TestStoryHoldsTogether holds that every stage of the story is recorded, with
// every check, a commit and a source tree, and that every note can be read.
func TestStoryHoldsTogether(t *testing.T) {
	for _, u := range Story {
		for _, d := range u.Notes {
			text, err := File("notes/" + d.File)
			if err != nil {
				t.Fatal(err)
			}
			if len(notes.Read(d.File, d.Package, text)) < 3 {
				t.Errorf("%s holds hardly a change", d.File)
			}
		}
		commits := map[string]bool{}
		for i, s := range u.Stages {
			dir := path.Join("recordings", u.Folder, s.Folder)
			runs, err := runsOf(dir)
			if err != nil {
				t.Fatal(err)
			}
			if len(runs) < 4 || commits[runs[0].Commit] || len(runs[0].Commit) != 40 {
				t.Errorf("%s has %d runs on %s", dir, len(runs), runs[0].Commit)
			}
			commits[runs[0].Commit] = true
			for _, r := range runs {
				log, err := File(path.Join(dir, r.File))
				if err != nil {
					t.Fatal(err)
				}
				result, err := read.All(r.Check, bytes.NewReader(log))
				if err != nil {
					t.Fatal(err)
				}
				if len(result.Unread) > 0 || result.Problem != "" {
					t.Errorf("%s of %s is not read whole: %v %s", r.Check, dir, result.Unread, result.Problem)
				}
				if i == 0 && r.Exit != 0 {
					t.Errorf("the baseline of %s is not green: %s ends with %d", u.Name, r.Check, r.Exit)
				}
			}
			configured(t, path.Join(dir, "source.zip"))
		}
	}
}

// configured holds that what a recorded source tree says of its own checks can be read.
func configured(t *testing.T, archive string) {
	t.Helper()
	data, err := File(archive)
	if err != nil {
		t.Error(err)
		return
	}
	tree, err := zip.NewReader(bytes.NewReader(data), int64(len(data)))
	if err != nil {
		t.Errorf("%s: %v", archive, err)
		return
	}
	text, err := fs.ReadFile(tree, config.Name)
	if err != nil { // it has none
		return
	}
	file := filepath.Join(t.TempDir(), config.Name)
	if err := os.WriteFile(file, text, 0o600); err != nil {
		t.Fatal(err)
	}
	if _, _, err := config.Load(file, false); err != nil {
		t.Errorf("%s: %v", archive, err)
	}
}

// TestStoryIsWhole holds what the story has to tell.
func TestStoryIsWhole(t *testing.T) {
	kinds := map[api.NewDecisionKind]int{}
	confirmed, merged, legs, debts, words := 0, 0, 0, 0, 0
	for _, u := range Story {
		for _, s := range u.Stages {
			if len(s.Next) > 0 {
				legs++
			}
			for _, a := range append(append([]Act{}, s.Claims...), s.Decisions...) {
				if a.Debt != nil {
					debts++
				} else if a.Word != "" {
					words++
				} else if a.Into != "" {
					merged++
				} else if a.Kind == "" {
					confirmed++
				} else if kinds[a.Kind]++; a.Reason == "" {
					t.Errorf("%s is decided without a reason", a.About)
				}
			}
		}
	}
	if kinds[api.NewDecisionKindFix] < 10 || kinds[api.NewDecisionKindAccept] != 2 || kinds[api.NewDecisionKindDefer] != 1 || confirmed < 1 || merged != 1 || legs != 1 || debts != 1 || words != 1 {
		t.Errorf("the story decides %v and confirms %d links, merges %d causes; %d legs begin, %d debts and %d words", kinds, confirmed, merged, legs, debts, words)
	}
	if n := len(Story); n != 5 || len(Story[n-1].Stages) != 1 {
		t.Errorf("there are %d upgrades, and the last has %d stages", n, len(Story[n-1].Stages))
	}
}
