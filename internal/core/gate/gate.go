// Package gate gives the verdict: does everything that passed in the baseline
// pass again, with nothing new undecided.
package gate

import (
	"fmt"
	"strings"

	"unicausa/internal/core/compare"
	"unicausa/internal/core/source"
	"unicausa/internal/core/symptom"
	"unicausa/internal/core/track"
	"unicausa/internal/core/versions"
)

// Leg is what the verdict rests on.
type Leg struct {
	Checks   []Check
	Causes   []Cause
	Risks    []Risk
	Moves    []versions.Move
	Seen     []Seen
	Unbooked []Unbooked
	Left     []string        // legs that have not begun, in words
	Words    map[string]Word // what people vouched for, by the key of a reason
}

// Check is one check with its baseline and its latest run after the bump. One
// that only informs holds nothing up.
type Check struct {
	Name        string
	Informative bool
	Baseline    *Run
	Latest      *Run
	Lost        []compare.Lost
	Untold      int // tests that passed in the baseline, of which the latest run says nothing
}

// Run is what the gate needs to know of a run.
type Run struct {
	Number   int
	Exit     int
	Frontier symptom.Phase
	Tests    compare.TestCount
}

// Cause is a cause with the decision on it, "" for none.
type Cause struct {
	ID       string
	Title    string
	Known    bool
	Status   track.Status
	Silenced int // symptoms that are out of sight because their test is skipped or gone
	Decision string
	Due      string
	Fix      track.Outcome
}

// Risk is a change that touches the code, inside the versions that move, of
// which nothing that was printed shows anything.
type Risk struct {
	ID     string
	Title  string
	Places int
}

// Seen is a version that a latest run saw.
type Seen struct {
	Package, Version string
	Run              int
}

// Unbooked is code that puts something off and stands in no debt.
type Unbooked struct {
	Key, File string
	Line      int
	What      string
}

// Word is what a person vouches for, and why.
type Word struct{ Reason, Author string }

// Reason is one thing that keeps the gate shut, in one line. Key is what a
// person may vouch for, "" where no word is enough.
type Reason struct {
	Code  string
	Text  string
	Check string
	Cause string
	Key   string
	At    Target

	// Members are the keys of the reasons that are told in this line. A word on
	// the line is one on each of them, and on none that comes later.
	Members []string
}

// The codes of the reasons.
const (
	NoBaseline = "no-baseline"
	NotRun     = "not-run"
	Fails      = "check-fails"
	LostTest   = "lost-test"
	FewerTests = "fewer-tests"
	UntoldTest = "untold-tests"
	Undecided  = "undecided"
	Unproved   = "fix-unproved"
	Refuted    = "fix-disproved"
	Returned   = "fix-returned"
	Unsettled  = "cannot-tell"
	Silenced   = "silenced"
	SilentRisk = "silent-risk"
	NotMoved   = "not-moved"
	Unseen     = "version-unseen"
	NoMoment   = "no-moment"
	NotBooked  = "not-booked"
	LegLeft    = "leg-left"
	Pending    = "pending"
	Aside      = "aside"
	NoTarget   = "no-target"
	Brought    = "brought"
)

// Vouched is a reason that a person's word settled.
type Vouched struct {
	Reason
	Word Word
}

// Verdict is the gate's answer with every reason against, and those that
// people vouched for.
type Verdict struct {
	Open    bool
	Reasons []Reason
	Vouched []Vouched

	words map[string]Word
}

// Judge gives the verdict over a leg.
func Judge(leg Leg) Verdict {
	v := Verdict{Reasons: []Reason{}, Vouched: []Vouched{}, words: leg.Words}
	baselines := 0
	for _, c := range leg.Checks {
		if c.Baseline != nil {
			baselines++
		}
	}
	if baselines == 0 {
		v.shut(Reason{Code: NoBaseline, At: Target{Kind: AtRuns}, Text: "no baseline yet: record every check on the old version, then accept it with unicausa baseline"})
	}
	for _, c := range leg.Checks {
		if !c.Informative {
			v.check(c)
		}
	}
	v.notRun(leg.Checks)
	for _, c := range leg.Causes {
		v.cause(c)
	}
	if begun(leg) {
		v.moves(leg)
		v.risks(leg.Risks)
	}
	for _, u := range leg.Unbooked {
		v.shut(Reason{Code: NotBooked, Key: u.Key, At: Target{Kind: AtDebts}, Text: fmt.Sprintf("%s since the bump, and no debt says until when: %s:%d", u.What, u.File, u.Line)})
	}
	for _, left := range leg.Left {
		v.shut(Reason{Code: LegLeft, At: Target{Kind: AtRoute}, Text: left + " has not begun"})
	}
	v.Open = len(v.Reasons) == 0
	return v
}

// begun reports whether a check was run since the bump.
func begun(leg Leg) bool {
	for _, c := range leg.Checks {
		if c.Latest != nil && c.Baseline != nil {
			return true
		}
	}
	return false
}

// shut keeps a reason, unless a person vouched for it.
func (v *Verdict) shut(r Reason) {
	if word, ok := v.words[r.Key]; ok && r.Key != "" {
		v.Vouched = append(v.Vouched, Vouched{r, word})
		return
	}
	v.Reasons = append(v.Reasons, r)
}

// mostAlike is how many reasons of one kind have a line of their own: more are
// told in one.
const mostAlike = 3

// few shuts the gate for each of some reasons, or in one line for all that
// nobody vouched for. The line's text is made of how many there are and of the
// first of them by name.
func (v *Verdict) few(list []Reason, names []string, whole Reason, text string) {
	var left []Reason
	var named []string
	for i, r := range list {
		if _, ok := v.words[r.Key]; ok {
			v.shut(r)
			continue
		}
		left, named = append(left, r), append(named, names[i])
	}
	if len(left) <= mostAlike {
		for _, r := range left {
			v.shut(r)
		}
		return
	}
	for _, r := range left {
		if r.Key != "" {
			whole.Members = append(whole.Members, r.Key)
		}
	}
	whole.Text = fmt.Sprintf(text, len(left)) + ": " + strings.Join(named[:mostAlike], "; ") + fmt.Sprintf("; and %d more", len(left)-mostAlike)
	v.shut(whole)
}

// risks wants somebody to have looked at each silent risk.
func (v *Verdict) risks(risks []Risk) {
	var list []Reason
	var names []string
	for _, r := range risks {
		list = append(list, Reason{Code: SilentRisk, Key: "change:" + r.ID, At: Target{Kind: AtChanges, ID: r.ID}, Text: fmt.Sprintf("nobody has looked at a silent risk with %s: %s", counted(r.Places, "place"), r.Title)})
		names = append(names, r.Title)
	}
	v.few(list, names, Reason{Code: SilentRisk, Key: "risks", At: Target{Kind: AtSilentRisks}}, "nobody has looked at %d silent risks")
}

// notRun wants every check of the baseline to have been run since the bump.
func (v *Verdict) notRun(checks []Check) {
	var list []Reason
	var names []string
	for _, c := range checks {
		if c.Baseline != nil && c.Latest == nil && !c.Informative {
			list = append(list, Reason{Code: NotRun, Check: c.Name, At: Target{Kind: AtRuns}, Text: fmt.Sprintf("%s has not been run since the bump", c.Name)})
			names = append(names, c.Name)
		}
	}
	v.few(list, names, Reason{Code: NotRun, At: Target{Kind: AtRuns}}, "%d checks have not been run since the bump")
}

// check holds a check to its own baseline: it has to reach what it reached
// there, with every test that passed there.
func (v *Verdict) check(c Check) {
	if c.Baseline == nil || c.Latest == nil {
		return
	}
	run := atRun(c.Latest.Number)
	switch {
	case c.Latest.Exit != 0 && c.Baseline.Exit == 0:
		v.shut(Reason{Code: Fails, Check: c.Name, At: run, Text: fmt.Sprintf("%s fails (status %d in run %d) and passed in the baseline", c.Name, c.Latest.Exit, c.Latest.Number)})
	case c.Latest.Exit != 0 && c.Latest.Frontier.Order() < c.Baseline.Frontier.Order():
		v.shut(Reason{Code: Fails, Check: c.Name, At: run, Text: fmt.Sprintf("%s gets as far as %s; in the baseline it reached %s", c.Name, c.Latest.Frontier, c.Baseline.Frontier)})
	}
	v.lost(c)
	if c.Latest.Exit != 0 && c.Latest.Exit != c.Baseline.Exit {
		return // it fails: what it says of tests is not all
	}
	was, is := c.Baseline.Tests, c.Latest.Tests
	switch fewer := was.Total - is.Total - len(c.Lost); {
	case is.Telling == compare.Counted && was.Telling != compare.Silent && fewer > 0:
		v.shut(Reason{Code: FewerTests, Check: c.Name, Key: "fewer:" + c.Name, At: run, Text: fmt.Sprintf("%s counts %s and the baseline %d: %d more are missing, and it names none", c.Name, counted(is.Total, "test"), was.Total, fewer)})
	case c.Untold > 0 && (is.Telling == compare.Silent || is.Telling == compare.Counted):
		v.shut(Reason{Code: UntoldTest, Check: c.Name, Key: "untold:" + c.Name, At: run, Text: fmt.Sprintf("run %d says nothing of %s of %s that passed in the baseline: record it through the baseline's printer", c.Latest.Number, counted(c.Untold, "test"), c.Name)})
	case is.Telling == compare.Silent && was.Telling == compare.Counted:
		v.shut(Reason{Code: UntoldTest, Check: c.Name, Key: "untold:" + c.Name, At: run, Text: fmt.Sprintf("run %d of %s says nothing of tests, and the baseline counts %d", c.Latest.Number, c.Name, was.Total)})
	}
}

// lost wants every test that passed in the baseline.
func (v *Verdict) lost(c Check) {
	var list []Reason
	var names []string
	for _, l := range c.Lost {
		what := "missing"
		if l.Skipped {
			what = "skipped"
		}
		list = append(list, Reason{Code: LostTest, Check: c.Name, Key: "test:" + c.Name + ":" + l.Test.Name, At: Target{Kind: AtTests}, Text: fmt.Sprintf("%s passed in the baseline and is %s now", l.Test.Name, what)})
		names = append(names, l.Test.Name)
	}
	v.few(list, names, Reason{Code: LostTest, Check: c.Name, Key: "tests:" + c.Name, At: Target{Kind: AtTests}}, "%d tests of "+strings.ReplaceAll(c.Name, "%", "%%")+" that passed in the baseline are missing or skipped")
}

// cause wants a decision on all that is new. A fix counts once a run has
// proved it; what is deferred, accepted, waited for or dismissed is decided,
// and what is put off says until when.
func (v *Verdict) cause(c Cause) {
	if c.Known || c.Status == track.Cleared {
		return
	}
	reason := Reason{Cause: c.ID, At: Target{Kind: AtCauses, ID: c.ID}}
	switch {
	case (c.Decision == "" || c.Decision == "fix") && c.Status == track.Hidden && c.Silenced > 0:
		reason.Code, reason.Key = Silenced, "silenced:"+c.ID
		reason.Text = fmt.Sprintf("%s shows no more because %s deleted or skipped while red: %s", c.ID, were(c.Silenced), c.Title)
	case c.Decision == "" && c.Status == track.Hidden:
		reason.Code, reason.Text = Unsettled, fmt.Sprintf("%s is out of sight, not cleared: no run since could have shown it (%s)", c.ID, c.Title)
	case c.Decision == "":
		reason.Code, reason.Text = Undecided, fmt.Sprintf("%s is undecided: %s", c.ID, c.Title)
	case c.Decision == "fix" && c.Fix == track.Disproved:
		reason.Code, reason.Text = Refuted, fmt.Sprintf("%s was claimed fixed, and a later run still shows it: %s", c.ID, c.Title)
	case c.Decision == "fix" && (c.Fix == track.Back || c.Fix == track.Proved):
		reason.Code, reason.Text = Returned, fmt.Sprintf("%s was fixed, and has returned: %s", c.ID, c.Title)
	case c.Decision == "fix":
		reason.Code, reason.Text = Unproved, fmt.Sprintf("%s is claimed fixed, and no run has proved it yet: %s", c.ID, c.Title)
	case (c.Decision == "defer" || c.Decision == "wait") && c.Due == "":
		reason.Code, reason.Text = NoMoment, fmt.Sprintf("%s is put off, and nothing says until when: %s", c.ID, c.Title)
	default:
		return
	}
	v.shut(reason)
}

// moves wants every version that moves to be seen by a latest run: a stale
// build passes too.
func (v *Verdict) moves(leg Leg) {
	for _, m := range leg.Moves {
		key := "version:" + m.Package
		var other *Seen
		reached := false
		for i, s := range leg.Seen {
			if !source.SameFamily(s.Package, m.Package) {
				continue
			}
			if versions.Order(s.Version, m.To) == 0 || strings.HasPrefix(s.Version, m.To+".") {
				reached = true
			} else if other == nil {
				other = &leg.Seen[i]
			}
		}
		switch {
		case other != nil:
			v.shut(Reason{Code: NotMoved, Key: key, At: atRun(other.Run), Text: fmt.Sprintf("run %d still ran %s %s, not %s", other.Run, m.Package, other.Version, m.To)})
		case !reached:
			v.shut(Reason{Code: Unseen, Key: key, At: Target{Kind: AtVersions}, Text: fmt.Sprintf("no run says which %s it ran: record with a lock file, or vouch for %s", m.Package, m.To)})
		}
	}
}

func counted(n int, word string) string {
	if n == 1 {
		return "1 " + word
	}
	return fmt.Sprintf("%d %ss", n, word)
}

func were(tests int) string {
	if tests == 1 {
		return "1 test was"
	}
	return fmt.Sprintf("%d tests were", tests)
}
