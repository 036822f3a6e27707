package read

import (
	"encoding/json"
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"unicausa/internal/core/symptom"
)

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
type tally struct{ labels, read, reported, kind, place, placed, code, coded int }

func share(a, b int) float64 {
	if b == 0 {
		return 1
	}
	return float64(a) / float64(b)
}

func (t tally) String() string {
	return fmt.Sprintf("%d diagnostics: recall %.3f precision %.3f kind %.3f place %.3f code %.3f", t.labels, share(t.read, t.labels), share(t.read, t.reported), share(t.kind, t.read), share(t.place, t.placed), share(t.code, t.coded))
}

// compare pairs what was read of an output with its labels, line by line.
func (f *labelled) compare(t *testing.T, sum *tally) {
	data, err := os.ReadFile(filepath.Join("testdata/met/outputs", f.Path))
	if err != nil {
		t.Fatal(err)
	}
	r, err := All(f.Path, strings.NewReader(string(data)))
	if err != nil {
		t.Fatal(err)
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
			t.Logf("%s:%d is read and not labelled: %s", f.Path, p.line, p.s.Message)
		}
	}
	for i := range f.Symptoms {
		f.score(t, &f.Symptoms[i], sum)
	}
}

// score counts one label.
func (f *labelled) score(t *testing.T, l *diagnosticLabel, sum *tally) {
	sum.labels++
	s := l.symbol
	if s == nil {
		t.Logf("%s:%d is not read: %s", f.Path, l.Line, l.Text)
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
		t.Logf("%s:%d is a %s, read as a %s", f.Path, l.Line, l.Kind, s.Kind)
	}
	if l.File != "" {
		sum.placed++
		if strings.HasSuffix(s.File, filepath.Base(l.File)) && (l.At == 0 || s.Line == l.At) {
			sum.place++
		} else {
			t.Logf("%s:%d is at %s:%d, read as %s:%d", f.Path, l.Line, l.File, l.At, s.File, s.Line)
		}
	}
	if l.Code != "" {
		sum.coded++
		if s.Code == l.Code {
			sum.code++
		} else {
			t.Logf("%s:%d has the code %s, read as %q", f.Path, l.Line, l.Code, s.Code)
		}
	}
}

// TestMet holds how well the outputs of tools are read that no reader was
// written for. Its figures stand in testdata/met/README.md beside those at
// first sight.
func TestMet(t *testing.T) {
	data, err := os.ReadFile("testdata/met/truth.json")
	if err != nil {
		t.Fatal(err)
	}
	var truth struct{ Files []labelled }
	if err := json.Unmarshal(data, &truth); err != nil {
		t.Fatal(err)
	}
	sums := map[int]*tally{}
	for i := range truth.Files {
		f := &truth.Files[i]
		if sums[f.Batch] == nil {
			sums[f.Batch] = &tally{}
		}
		f.compare(t, sums[f.Batch])
	}
	for batch := 1; batch <= len(sums); batch++ {
		s := *sums[batch]
		t.Logf("batch %d, %v", batch, s)
		if share(s.read, s.labels) < .91 || share(s.read, s.reported) < .98 || share(s.kind, s.read) < .97 || share(s.place, s.placed) < .95 || share(s.code, s.coded) < .97 {
			t.Errorf("batch %d is read worse than it was, %v", batch, s)
		}
	}
}
