// Package gate gives the verdict: does everything that passed in the baseline
// pass again, with nothing new undecided.
package gate

import (
	"fmt"

	"unicausa/internal/core/compare"
	"unicausa/internal/core/symptom"
	"unicausa/internal/core/track"
)

// Check is one check with its baseline and its latest run after the bump.
type Check struct {
	Name     string
	Baseline *Run
	Latest   *Run
	Lost     []compare.Lost
}

// Run is what the gate needs to know of a run.
type Run struct {
	Number   int
	Exit     int
	Frontier symptom.Phase
}

// Cause is a cause with the decision on it, "" for none.
type Cause struct {
	ID       string
	Title    string
	Known    bool
	Status   track.Status
	Decision string
	Fix      track.Outcome
}

// Reason is one thing that keeps the gate shut, in one line.
type Reason struct {
	Code  string `json:"code"`
	Text  string `json:"text"`
	Check string `json:"check,omitempty"`
	Cause string `json:"cause,omitempty"`
}

// The codes of the reasons.
const (
	NoBaseline = "no-baseline"
	NotRun     = "not-run"
	Fails      = "check-fails"
	LostTest   = "lost-test"
	Undecided  = "undecided"
	Unproved   = "fix-unproved"
	Refuted    = "fix-disproved"
	Unsettled  = "cannot-tell"
)

// Verdict is the gate's answer with every reason against.
type Verdict struct {
	Open    bool     `json:"open"`
	Reasons []Reason `json:"reasons"`
}

// Judge gives the verdict over the checks and causes of a leg.
func Judge(checks []Check, causes []Cause) Verdict {
	v := Verdict{Reasons: []Reason{}}
	baselines := 0
	for _, c := range checks {
		if c.Baseline != nil {
			baselines++
		}
	}
	if baselines == 0 {
		v.shut(Reason{Code: NoBaseline, Text: "no baseline yet: record every check on the old version, then accept it with unicausa baseline"})
	}
	for _, c := range checks {
		v.check(c)
	}
	for _, c := range causes {
		v.cause(c)
	}
	v.Open = len(v.Reasons) == 0
	return v
}

func (v *Verdict) shut(r Reason) { v.Reasons = append(v.Reasons, r) }

// check holds a check to its own baseline: it has to reach what it reached
// there, with every test that passed there.
func (v *Verdict) check(c Check) {
	switch {
	case c.Baseline == nil:
		return
	case c.Latest == nil:
		v.shut(Reason{Code: NotRun, Check: c.Name, Text: fmt.Sprintf("%s has not been run since the bump", c.Name)})
		return
	case c.Latest.Exit != 0 && c.Baseline.Exit == 0:
		v.shut(Reason{Code: Fails, Check: c.Name, Text: fmt.Sprintf("%s fails (status %d in run %d) and passed in the baseline", c.Name, c.Latest.Exit, c.Latest.Number)})
	case c.Latest.Exit != 0 && c.Latest.Frontier.Order() < c.Baseline.Frontier.Order():
		v.shut(Reason{Code: Fails, Check: c.Name, Text: fmt.Sprintf("%s gets as far as %s; in the baseline it reached %s", c.Name, c.Latest.Frontier, c.Baseline.Frontier)})
	}
	for i, l := range c.Lost {
		if i == 3 && len(c.Lost) > 4 {
			v.shut(Reason{Code: LostTest, Check: c.Name, Text: fmt.Sprintf("and %d more tests of %s that passed in the baseline are missing or skipped", len(c.Lost)-i, c.Name)})
			break
		}
		what := "missing"
		if l.Skipped {
			what = "skipped"
		}
		v.shut(Reason{Code: LostTest, Check: c.Name, Text: fmt.Sprintf("%s passed in the baseline and is %s now", l.Test.Name, what)})
	}
}

// cause wants a decision on all that is new. A fix counts once a run has
// proved it; what is deferred, accepted, waited for or dismissed is decided.
func (v *Verdict) cause(c Cause) {
	if c.Known || c.Status == track.Cleared {
		return
	}
	reason := Reason{Cause: c.ID}
	switch {
	case c.Decision == "" && c.Status == track.Hidden:
		reason.Code, reason.Text = Unsettled, fmt.Sprintf("%s is out of sight, not cleared: no run since could have shown it (%s)", c.ID, c.Title)
	case c.Decision == "":
		reason.Code, reason.Text = Undecided, fmt.Sprintf("%s is undecided: %s", c.ID, c.Title)
	case c.Decision == "fix" && c.Fix == track.Disproved:
		reason.Code, reason.Text = Refuted, fmt.Sprintf("%s was claimed fixed, and a later run still shows it: %s", c.ID, c.Title)
	case c.Decision == "fix":
		reason.Code, reason.Text = Unproved, fmt.Sprintf("%s is claimed fixed, and no run has proved it yet: %s", c.ID, c.Title)
	default:
		return
	}
	v.shut(reason)
}
