package accuracy

import (
	"encoding/json"
	"fmt"
	"os"
	"path/filepath"
	"strings"

	"unicausa/internal/core/read"
	"unicausa/internal/core/symptom"
)

// Reading is how well outputs are read: shares between 0 and 1 of the labelled
// diagnostics.
type Reading struct {
	Outputs     int     `json:"outputs"`
	Diagnostics int     `json:"diagnostics"`
	Recall      float64 `json:"recall"`    // of the labelled, that are read
	Precision   float64 `json:"precision"` // of what is read, that is labelled
	Kind        float64 `json:"kind"`      // of the read, with the right kind
	Place       float64 `json:"place"`     // of those with a place, with the right one
	Code        float64 `json:"code"`      // of those with a code, with the right one
}

// Batch is how well outputs were read that no reader was written for: before
// anything was mended for them, and today.
type Batch struct {
	FirstSight, Today Reading
	Misses            []string // what is not read today as it is labelled
}

// Met reads the labelled outputs of a folder, in batches in the order in which
// they were met: truth.json labels them, first-sight.json has the first scores.
func Met(folder string) ([]Batch, error) {
	var truth struct{ Files []labelled }
	if err := load(filepath.Join(folder, "truth.json"), &truth); err != nil {
		return nil, err
	}
	var first []Reading
	if err := load(filepath.Join(folder, "first-sight.json"), &first); err != nil {
		return nil, err
	}
	sums, outputs := make([]tally, len(first)), make([]int, len(first))
	for i := range truth.Files {
		f := &truth.Files[i]
		if f.Batch < 1 || f.Batch > len(first) {
			return nil, fmt.Errorf("%s is of batch %d, which has no first score", f.Path, f.Batch)
		}
		outputs[f.Batch-1]++
		if err := f.compare(folder, &sums[f.Batch-1]); err != nil {
			return nil, err
		}
	}
	batches := make([]Batch, len(first))
	for i := range sums {
		batches[i] = Batch{FirstSight: first[i], Today: sums[i].reading(), Misses: sums[i].misses}
		batches[i].Today.Outputs = outputs[i]
	}
	return batches, nil
}

func load(file string, into any) error {
	data, err := os.ReadFile(file)
	if err != nil {
		return err
	}
	if err := json.Unmarshal(data, into); err != nil {
		return fmt.Errorf("%s: %w", file, err)
	}
	return nil
}

// diagnosticLabel is one diagnostic of an output, labelled by reading.
type diagnosticLabel struct {
	Line   int          `json:"line"`
	Kind   symptom.Kind `json:"kind"`
	File   string       `json:"file"`
	At     int          `json:"at"`
	Code   string       `json:"code"`
	Text   string       `json:"text"`
	Test   string       `json:"test"`
	Also   []int        `json:"also"`
	symbol *symptom.Symptom
}

type labelled struct {
	Path     string            `json:"path"`
	Tool     string            `json:"tool"`
	Batch    int               `json:"batch"`
	Symptoms []diagnosticLabel `json:"symptoms"`
	Optional []int             `json:"optional"`
	Loose    bool              `json:"loose_kind"`
}

// close kinds count as the same: what one tool calls an error ends another.
var closeKinds = map[symptom.Kind][]symptom.Kind{
	symptom.Crash: {symptom.Error}, symptom.Error: {symptom.Crash}, symptom.Warning: {symptom.Lint},
	symptom.TestFailure: {symptom.Crash}, symptom.Resolve: {symptom.Error}, symptom.Lint: {symptom.Warning, symptom.Error},
}

// tally counts how many diagnostics were read, and how many rightly.
type tally struct {
	labels, read, reported, kind, place, placed, code, coded int
	misses                                                   []string
}

func (t *tally) miss(format string, args ...any) {
	t.misses = append(t.misses, fmt.Sprintf(format, args...))
}

func (t *tally) reading() Reading {
	part := func(a, b int) float64 {
		if b == 0 {
			return 1
		}
		return float64(a) / float64(b)
	}
	return Reading{
		Diagnostics: t.labels, Recall: part(t.read, t.labels), Precision: part(t.read, t.reported),
		Kind: part(t.kind, t.read), Place: part(t.place, t.placed), Code: part(t.code, t.coded),
	}
}

// compare pairs what is read of an output below a folder with its labels, line
// by line.
func (f *labelled) compare(folder string, sum *tally) error {
	file, err := os.Open(filepath.Join(folder, "outputs", f.Path))
	if err != nil {
		return err
	}
	defer file.Close()
	r, err := read.All(f.Path, file)
	if err != nil {
		return err
	}
	type place struct {
		line int
		s    *symptom.Symptom
		used bool
	}
	var places []*place
	for i := range r.Symptoms {
		for _, at := range r.Symptoms[i].At {
			places = append(places, &place{line: at.Line, s: &r.Symptoms[i]})
		}
	}
	for distance := 0; distance < 2; distance++ {
		for i := range f.Symptoms {
			l := &f.Symptoms[i]
			for _, p := range places {
				if l.symbol != nil || p.used {
					continue
				}
				for _, line := range append([]int{l.Line}, l.Also...) {
					if p.line-line == distance || line-p.line == distance {
						p.used, l.symbol = true, p.s
						break
					}
				}
			}
		}
	}
	optional := map[int]bool{}
	for _, line := range f.Optional {
		optional[line] = true
	}
	for _, p := range places {
		if p.used || !optional[p.line] {
			sum.reported++
		}
		if !p.used && !optional[p.line] {
			sum.miss("%s:%d is read and not labelled: %s", f.Path, p.line, p.s.Message)
		}
	}
	for i := range f.Symptoms {
		f.score(&f.Symptoms[i], sum)
	}
	return nil
}

// score counts one label.
func (f *labelled) score(l *diagnosticLabel, sum *tally) {
	sum.labels++
	s := l.symbol
	if s == nil {
		sum.miss("%s:%d is not read: %s", f.Path, l.Line, l.Text)
		return
	}
	sum.read++
	same := s.Kind == l.Kind || f.Loose && l.Kind != symptom.TestFailure && s.Kind != symptom.TestFailure
	for _, k := range closeKinds[l.Kind] {
		same = same || s.Kind == k
	}
	if same {
		sum.kind++
	} else {
		sum.miss("%s:%d is a %s, read as a %s", f.Path, l.Line, l.Kind, s.Kind)
	}
	if l.File != "" {
		sum.placed++
		if strings.HasSuffix(s.File, filepath.Base(l.File)) && (l.At == 0 || s.Line == l.At) {
			sum.place++
		} else {
			sum.miss("%s:%d is at %s:%d, read as %s:%d", f.Path, l.Line, l.File, l.At, s.File, s.Line)
		}
	}
	if l.Code != "" {
		sum.coded++
		if s.Code == l.Code {
			sum.code++
		} else {
			sum.miss("%s:%d has the code %s, read as %q", f.Path, l.Line, l.Code, s.Code)
		}
	}
}
