package triage

import (
	"unicausa/internal/core/cluster"
	"unicausa/internal/core/exposure"
	"unicausa/internal/core/link"
	"unicausa/internal/core/notes"
	"unicausa/internal/core/read"
	"unicausa/internal/core/symptom"
)

// Report is a triage report, version 1; docs/report.md describes it. Lists are
// never nil.
type Report struct {
	Format   string    `json:"format"`
	Version  int       `json:"version"`
	Summary  Summary   `json:"summary"`
	Inputs   []Input   `json:"inputs"`
	Symptoms []Symptom `json:"symptoms"`
	Causes   []Cause   `json:"causes"`
	Changes  []Change  `json:"changes"`
	Unread   []Unread  `json:"unread"`
}

// Summary counts symptoms by state; Linked counts causes with a link.
type Summary struct {
	Symptoms  int `json:"symptoms"`
	New       int `json:"new"`
	Unchanged int `json:"unchanged"`
	Updated   int `json:"updated"`
	Absent    int `json:"absent"`
	Causes    int `json:"causes"`
	Linked    int `json:"linked"`
	Unread    int `json:"unread"`
}

// Sides of an input.
const (
	Before = "before"
	After  = "after"
)

// Input says what one input was and how it was read.
type Input struct {
	Name    string        `json:"name"`
	Side    string        `json:"side"`
	Format  string        `json:"format"`
	Tools   []string      `json:"tools"`
	Lines   int           `json:"lines"`
	Bytes   int64         `json:"bytes"`
	Stated  []read.Stated `json:"stated"`
	Problem string        `json:"problem,omitempty"`
}

// Symptom is a symptom in the report: its names as a plain list, and its cause.
type Symptom struct {
	symptom.Symptom
	Symbols []string `json:"symbols"`
	Cause   string   `json:"cause,omitempty"`
	// Because is why it is of that cause.
	Because *cluster.Because `json:"because,omitempty"`
	Source  string           `json:"source,omitempty"` // the source line, where the tree was at hand
	// Orphan is a key that it asks for and that edits since the baseline took away.
	Orphan *Orphan `json:"orphan,omitempty"`
}

// Cause is a cause in the report. Reason says in one line why it has its rank.
type Cause struct {
	ID        string            `json:"id"`
	Title     string            `json:"title"`
	Kind      string            `json:"kind"`
	Phase     symptom.Phase     `json:"phase"`
	Package   string            `json:"package"`
	Root      string            `json:"root"`
	Symptoms  []string          `json:"symptoms"`
	Followers []string          `json:"followers"`
	Rank      int               `json:"rank"`
	Reason    string            `json:"reason"`
	Steps     []Step            `json:"steps"` // what to do next, first things first
	Known     bool              `json:"known,omitempty"`
	Because   []cluster.Because `json:"because"`
	Links     []Link            `json:"links"`
	Signature string            `json:"signature"`
}

// Step is one suggestion of what to do about a cause. Kind is rename, note,
// places, expectation or look; Text says it in a sentence.
type Step struct {
	Kind   string   `json:"kind"`
	Text   string   `json:"text"`
	Change string   `json:"change,omitempty"` // whose patch or words it rests on
	Places []string `json:"places,omitempty"` // files, those with most symptoms first
}

// Link ties a cause to a change. Score is a probability; Standing is what may
// be said of it.
type Link struct {
	Change   string            `json:"change"`
	Score    float64           `json:"score"`
	Standing link.Standing     `json:"standing"`
	Because  []cluster.Because `json:"because"`
}

// Change is an entry of the notes in the report. Candidate tells that its
// version lies within what moved; Silent, that it touches the code and nothing
// that was printed shows it.
type Change struct {
	ID        string          `json:"id"`
	Notes     string          `json:"notes"`
	Line      int             `json:"line"`
	End       int             `json:"end"`
	Package   string          `json:"package"`
	Version   string          `json:"version"`
	Kind      notes.Kind      `json:"kind"`
	Impact    string          `json:"impact"`
	Title     string          `json:"title"`
	Symbols   []string        `json:"symbols"`
	Renames   []notes.Rename  `json:"renames"`
	Requires  []notes.Minimum `json:"requires,omitempty"`
	Candidate bool            `json:"candidate"`
	State     ChangeState     `json:"state"`
	Silent    bool            `json:"silent,omitempty"`
	Perhaps   bool            `json:"perhaps,omitempty"` // it may be a silent risk
	Exposure  exposure.Found  `json:"exposure"`
}

// Unread is a line that looks like trouble and that nothing understood.
type Unread struct {
	Input string `json:"input"`
	Line  int    `json:"line"`
	Text  string `json:"text"`
}
