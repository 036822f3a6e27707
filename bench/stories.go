package main

import (
	"encoding/json"
	"fmt"
	"os"
	"path/filepath"
	"strings"
)

// tracked is how truly a story was tracked, replayed through a service step by
// step: shares of right answers, or F1 of lists, from 0 to 1; nil where the story
// has nothing of the kind.
type tracked struct {
	Origin     *float64 `json:"origin"`
	Cleared    *float64 `json:"cleared"`
	NotReached *float64 `json:"not_reached"`
	Missing    *float64 `json:"missing"`
	Flaky      *float64 `json:"flaky"`
	Gate       *float64 `json:"gate"`
	Causes     *float64 `json:"b3"`
	First      *float64 `json:"top1"`
}

func (t *tracked) cells() []string {
	var list []string
	for _, figure := range []*float64{t.Origin, t.Cleared, t.NotReached, t.Missing, t.Flaky, t.Gate, t.Causes, t.First} {
		if figure == nil {
			list = append(list, "-")
			continue
		}
		list = append(list, strings.Replace(fmt.Sprintf("%.2f", *figure), "0.", ".", 1))
	}
	return list
}

// showStories tells how the labelled stories of cases/ came out, when they were
// first replayed and when they were last.
func showStories(p *page, folder string) error {
	p.section("Tracking", "The made-up upgrades of `cases/`, recorded with real tools and labelled before they were first replayed through the service, step by step: at first sight, before anything was mended for them, and when they were last replayed. "+
		"Origin is how a new symptom came to be seen (bump, uncovered, introduced, returned); cleared, out of sight, missing and flaky compare lists at each step (F1); gate is the verdict at each step; causes is B-cubed, first whether the first link explains a cause.")
	p.table("story", "replayed", "origin", "cleared", "out of sight", "missing", "flaky", "gate", "causes", "first link")
	stories, err := filepath.Glob(filepath.Join(folder, "story-*"))
	if err != nil {
		return err
	}
	for _, story := range stories {
		for _, when := range []struct{ file, word string }{{"first-sight.json", "first"}, {"last.json", "last"}} {
			data, err := os.ReadFile(filepath.Join(story, when.file))
			if err != nil {
				return err
			}
			var t tracked
			if err := json.Unmarshal(data, &t); err != nil {
				return fmt.Errorf("%s of %s: %w", when.file, story, err)
			}
			p.row(append([]string{filepath.Base(story), when.word}, t.cells()...)...)
		}
	}
	return nil
}
