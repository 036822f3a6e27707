package e2e

import (
	"encoding/json"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"sort"
	"strings"
	"testing"
	"time"

	"unicausa/internal/api"
	"unicausa/internal/client"
)

// story is a labelled upgrade that was recorded step by step: what each step
// should come to, in its truth.json.
type story struct {
	Subject    struct{ Name, From, To string }
	Recordings map[string]string // a second recording to the first
	Steps      []storyStep
	Causes     []struct {
		ID, Decision string
		Notes        []struct{ Path string }
	}
}

type storyStep struct {
	Step     string
	Checks   []string
	Symptoms []struct {
		Input  string
		Line   int
		Kind   string
		State  string
		Origin string
		Cause  string
	}
	Cleared    []string
	NotReached []string `json:"not_reached"`
	Missing    []string `json:"missing_tests"`
	Skipped    []string `json:"skipped_tests"`
	Flaky      []string
	Gate       string
}

// TestStory replays a labelled story through the service and holds its account
// against ours: the one that needs nothing but Go, recorded anew, or another: UNICAUSA_STORY
// is the folder of its truth.json and that of its outputs, with a colon between them.
func TestStory(t *testing.T) {
	t.Parallel()
	truth, outputs, ok := strings.Cut(os.Getenv("UNICAUSA_STORY"), ":")
	if !ok {
		truth, outputs = filepath.Join("..", "cases", "story-go"), t.TempDir()
		if out, err := exec.CommandContext(t.Context(), "bash", filepath.Join(truth, "make.sh"), outputs).CombinedOutput(); err != nil {
			t.Fatalf("recording the story: %v\n%s", err, out)
		}
	}
	data, err := os.ReadFile(filepath.Join(truth, "truth.json"))
	if err != nil {
		t.Fatal(err)
	}
	var s story
	if err := json.Unmarshal(data, &s); err != nil {
		t.Fatal(err)
	}
	c := here(t)
	u, err := c.Begin(t.Context(), api.NewUpgrade{Project: t.Name(), Name: filepath.Base(truth), Moves: []api.Move{{Package: s.Subject.Name, From: s.Subject.From, To: s.Subject.To}}})
	if err != nil {
		t.Fatal(err)
	}
	told, err := filepath.Glob(filepath.Join(outputs, "notes", "*"))
	if err != nil {
		t.Fatal(err)
	}
	for _, name := range told {
		text, err := os.ReadFile(name)
		if err == nil {
			_, err = c.AddNotes(t.Context(), u.ID, api.NewNotes{Name: filepath.Base(name), Package: s.Subject.Name, Text: string(text)})
		}
		if err != nil {
			t.Fatal(err)
		}
	}
	p := replay{t: t, c: c, upgrade: u.ID, story: &s, outputs: outputs, drawn: map[string]string{}}
	for i := range s.Steps {
		p.step(i)
	}
}

// replay is a story on its way through the service.
type replay struct {
	t       *testing.T
	c       *client.Client
	upgrade int64
	story   *story
	outputs string
	drawn   map[string]string // the story's causes to ours, by most of their symptoms
	before  map[string]api.CauseStatus
}

func (p *replay) step(i int) {
	t, step := p.t, &p.story.Steps[i]
	zip, err := exec.Command("git", "-C", filepath.Join(p.outputs, "repo"), "archive", "--format=zip", p.commit(i)).Output()
	if err != nil {
		t.Fatal(err)
	}
	runs := map[string]api.Run{} // by input
	for _, name := range step.Checks {
		runs[name] = p.record(step, name, p.commit(i), zip)
	}
	if i == 0 {
		if _, err := p.c.AcceptBaseline(t.Context(), p.upgrade); err != nil {
			t.Fatal(err)
		}
		return
	}
	p.symptoms(step, runs)
	p.causes(step)
	p.tests(step)
	if i == len(p.story.Steps)-1 {
		p.decide()
	}
	gate, err := p.c.Gate(t.Context(), p.upgrade, "")
	if err != nil {
		t.Fatal(err)
	}
	if gate.Open != (step.Gate == "open") {
		t.Errorf("%s: the gate is open: %v, want %s", step.Step, gate.Open, step.Gate)
		for _, r := range gate.Reasons {
			t.Logf("   %s", r.Text)
		}
	}
}

func (p *replay) commit(i int) string {
	out, err := exec.Command("git", "-C", filepath.Join(p.outputs, "repo"), "log", "--reverse", "--format=%H").Output()
	if err != nil {
		p.t.Fatal(err)
	}
	return strings.Fields(string(out))[i]
}

// record sends one output; it failed where something worse than a warning is
// labelled in it that was not there before.
func (p *replay) record(step *storyStep, name, commit string, zip []byte) api.Run {
	t := p.t
	check, _, _ := strings.Cut(name, ".")
	facts := api.RunFacts{Check: check, Commit: commit, StartedAt: time.Now()}
	for _, s := range step.Symptoms {
		if s.Input == step.Step+"/"+name && s.State == "new" && s.Kind != "deprecation" && s.Kind != "warning" {
			facts.Exit = 1
		}
	}
	f, err := os.Open(filepath.Join(p.outputs, step.Step, name))
	if err != nil {
		t.Fatal(err)
	}
	defer f.Close()
	run, err := p.c.Record(t.Context(), p.upgrade, facts, []client.Input{{Name: name, Content: f}}, zip, nil)
	if err == nil {
		run, err = p.c.Processed(t.Context(), p.upgrade, run.Number)
	}
	if err != nil {
		t.Fatal(err)
	}
	return run
}

// symptoms holds the origins, and learns which of our causes is which.
func (p *replay) symptoms(step *storyStep, runs map[string]api.Run) {
	t := p.t
	origins := map[string]string{}
	causes, err := p.c.Causes(t.Context(), p.upgrade)
	if err != nil {
		t.Fatal(err)
	}
	for _, c := range causes {
		detail, err := p.c.Cause(t.Context(), p.upgrade, c.ID)
		if err != nil {
			t.Fatal(err)
		}
		for _, s := range detail.Symptoms {
			origins[s.ID] = s.Origin
		}
	}
	votes := map[string]map[string]int{}
	for _, label := range step.Symptoms {
		name := filepath.Base(label.Input)
		shown, err := p.c.RunSymptoms(t.Context(), p.upgrade, runs[name].Number)
		if err != nil {
			t.Fatal(err)
		}
		at := slices.IndexFunc(shown, func(s api.RunSymptom) bool {
			return s.From >= label.Line-2 && s.From <= label.Line+2 && s.From == nearest(shown, label.Line)
		})
		if at < 0 {
			t.Errorf("%s:%d is not read", label.Input, label.Line)
			continue
		}
		s := shown[at]
		if label.Origin != origins[s.ID] {
			t.Errorf("%s:%d (%s, %s) has the origin %q, want %q: %s", label.Input, label.Line, label.Cause, s.Cause, origins[s.ID], label.Origin, s.Message)
		}
		if votes[label.Cause] == nil {
			votes[label.Cause] = map[string]int{}
		}
		votes[label.Cause][s.Cause]++
	}
	for cause, list := range votes {
		best := ""
		for id, n := range list {
			if n > list[best] || n == list[best] && id < best {
				best = id
			}
		}
		p.drawn[cause] = best
	}
}

func nearest(shown []api.RunSymptom, line int) int {
	best := 0
	for _, s := range shown {
		if d, b := s.From-line, best-line; best == 0 || d*d < b*b {
			best = s.From
		}
	}
	return best
}

// causes holds which causes are cleared, and which are out of reach.
func (p *replay) causes(step *storyStep) {
	t := p.t
	causes, err := p.c.Causes(t.Context(), p.upgrade)
	if err != nil {
		t.Fatal(err)
	}
	status := map[string]api.CauseStatus{}
	silenced := map[string]bool{}
	for _, c := range causes {
		status[c.ID], silenced[c.ID] = c.Status, c.Silenced > 0
	}
	for cause, ours := range p.drawn {
		if cause == "" { // what was there before, and what is no cause
			continue
		}
		cleared := status[ours] == "cleared" && p.before[ours] == "shown"
		if cleared != slices.Contains(step.Cleared, cause) {
			t.Errorf("%s: %s (%s) is %s after %s, want cleared: %v", step.Step, cause, ours, status[ours], p.before[ours], !cleared)
		}
		if hidden := status[ours] == "hidden" && !silenced[ours]; hidden != slices.Contains(step.NotReached, cause) {
			t.Errorf("%s: %s (%s) is %s, want hidden: %v", step.Step, cause, ours, status[ours], !hidden)
		}
	}
	p.before = status
}

// tests holds which tests are missing, and which flip.
func (p *replay) tests(step *storyStep) {
	table, err := p.c.Tests(p.t.Context(), p.upgrade)
	if err != nil {
		p.t.Fatal(err)
	}
	var lost, flaky []string
	for _, row := range table.Tests {
		name := row.Suite + "::" + row.Name
		if row.Lost {
			lost = append(lost, name)
		}
		if row.Flaky {
			flaky = append(flaky, name)
		}
	}
	same := func(what string, got, want []string) {
		sort.Strings(got)
		short := slices.Clone(got)
		for i := range short {
			short[i] = short[i][strings.LastIndexAny(short[i], "\\/:")+1:]
		}
		if !slices.Equal(short, want) && (len(short) > 0 || len(want) > 0) {
			p.t.Errorf("%s: %s are %v, want %v", step.Step, what, got, want)
		}
	}
	same("missing tests", lost, slices.Sorted(slices.Values(slices.Concat(step.Missing, step.Skipped))))
	same("flaky tests", flaky, step.Flaky)
}

// decide records what became of each cause that is left, and looks at what a
// person has to look at.
func (p *replay) decide() {
	for _, cause := range p.story.Causes {
		id := p.drawn[cause.ID]
		if cause.Decision == "" || cause.Decision == "fix" || id == "" || p.before[id] == "cleared" {
			continue
		}
		if _, err := p.c.Decide(p.t.Context(), p.upgrade, id, api.NewDecision{Kind: api.NewDecisionKind(cause.Decision), Reason: cause.ID, Due: "6.0.0"}); err != nil {
			p.t.Fatal(err)
		}
	}
	gate, err := p.c.Gate(p.t.Context(), p.upgrade, "")
	if err != nil {
		p.t.Fatal(err)
	}
	for _, r := range gate.Reasons {
		if r.Key == "" {
			continue
		}
		if _, err := p.c.Vouch(p.t.Context(), p.upgrade, api.NewWord{About: r.Key, Reason: "looked at"}); err != nil {
			p.t.Fatal(err)
		}
	}
}
