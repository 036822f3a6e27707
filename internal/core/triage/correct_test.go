package triage

import (
	"fmt"
	"sort"
	"strings"
	"testing"

	"unicausa/internal/core/cluster"
	"unicausa/internal/core/notes"
)

const jarLog = "# p\na.go:1:1: undefined: jar.Lid\nb.go:2:1: undefined: jar.Lid\nc.go:3:1: undefined: jar.Lid\nd.go:4:1: undefined: jar.Cap\n"

// drawn writes the causes of a report as "C1: a.go b.go", in the order of their IDs.
func drawn(r Report) string {
	files := map[string][]string{}
	for _, s := range r.Symptoms {
		files[s.Cause] = append(files[s.Cause], s.File)
	}
	var lines []string
	for id, list := range files {
		sort.Strings(list)
		lines = append(lines, id+": "+strings.Join(list, " "))
	}
	sort.Strings(lines)
	return strings.Join(lines, "; ")
}

func TestCorrections(t *testing.T) {
	first := Run(t.Context(), Case{After: []Snapshot{fresh(t, "a.log", jarLog)}})
	id := map[string]string{} // file to symptom
	for _, s := range first.Symptoms {
		id[s.File] = s.ID
	}
	var prior []cluster.Identity
	for _, c := range first.Causes {
		prior = append(prior, cluster.Identity{ID: c.ID, Signature: c.Signature, Symptoms: c.Symptoms})
	}
	move := func(cause string, files ...string) Correction {
		c := Correction{Cause: cause, By: "Ada"}
		for _, f := range files {
			c.Symptoms = append(c.Symptoms, id[f])
		}
		return c
	}
	merge := func(from, cause string, files ...string) Correction {
		c := move(cause, files...)
		c.From = from
		return c
	}
	for _, test := range []struct {
		name string
		list []Correction
		want string
	}{
		{"none", nil, "C1: a.go b.go c.go; C2: d.go"},
		{"moved", []Correction{move("C2", "a.go")}, "C1: b.go c.go; C2: a.go d.go"},
		{"split off", []Correction{move("C3", "a.go", "b.go")}, "C1: c.go; C3: a.go b.go; C2: d.go"},
		{"all moved", []Correction{move("C2", "a.go", "b.go", "c.go")}, "C2: a.go b.go c.go d.go"},
		{"pinned where it is", []Correction{move("C1", "a.go")}, "C1: a.go b.go c.go; C2: d.go"},
		{"the latest word holds", []Correction{move("C2", "a.go"), move("C1", "a.go")}, "C1: a.go b.go c.go; C2: d.go"},
		{"merged", []Correction{merge("C2", "C1", "d.go")}, "C1: a.go b.go c.go d.go"},
		{"merged the other way", []Correction{merge("C1", "C2", "a.go", "b.go", "c.go")}, "C2: a.go b.go c.go d.go"},
		{"split off, then merged again", []Correction{move("C3", "a.go"), merge("C3", "C1", "a.go")}, "C1: a.go b.go c.go; C2: d.go"},
		{"merged, and one taken out", []Correction{merge("C2", "C1", "d.go"), move("C3", "b.go")}, "C1: a.go c.go d.go; C3: b.go"},
		{"merged in a circle", []Correction{merge("C2", "C1", "d.go"), merge("C1", "C2", "a.go", "b.go", "c.go")}, "C2: a.go b.go c.go d.go"},
	} {
		want := strings.Split(test.want, "; ")
		sort.Strings(want)
		c := Case{After: []Snapshot{fresh(t, "a.log", jarLog)}, Prior: prior, Corrections: test.list}
		if got := drawn(Run(t.Context(), c)); got != strings.Join(want, "; ") {
			t.Errorf("%s: %s, want %s", test.name, got, test.want)
		}
		// The next analysis has the causes as they were corrected.
		r := Run(t.Context(), c)
		known := map[string]int{}
		c.Prior = nil
		for i, p := range prior {
			known[p.ID] = i
			c.Prior = append(c.Prior, cluster.Identity{ID: p.ID, Signature: p.Signature})
		}
		for _, cause := range r.Causes {
			if i, ok := known[cause.ID]; ok {
				c.Prior[i].Symptoms = cause.Symptoms
			} else {
				c.Prior = append(c.Prior, cluster.Identity{ID: cause.ID, Signature: cause.Signature, Symptoms: cause.Symptoms})
			}
		}
		if again := drawn(Run(t.Context(), c)); again != drawn(r) {
			t.Errorf("%s: the next analysis says %s, the first %s", test.name, again, drawn(r))
		}
	}
	r := Run(t.Context(), Case{After: []Snapshot{fresh(t, "a.log", jarLog)}, Prior: prior, Corrections: []Correction{move("C2", "a.go")}})
	if because := fmt.Sprint(r.Causes); !strings.Contains(because, "put here by Ada") {
		t.Errorf("the evidence does not say who moved it: %s", because)
	}
}

func TestVerdictsTeach(t *testing.T) {
	changes := notes.Read("jar.md", "", []byte("## 5.0.0\n\n- Some names were removed.\n  `Lid` and `Cap` are no longer there.\n"+strings.Repeat("  They had been there for long.\n", 12)))
	links := func(judged map[string]map[string]bool) (lid, other float64) {
		r := Run(t.Context(), Case{After: []Snapshot{fresh(t, "a.log", jarLog)}, Changes: changes, Judged: judged})
		for _, c := range r.Causes {
			score := 0.0
			if len(c.Links) > 0 {
				score = c.Links[0].Score
			}
			if strings.Contains(c.Title, "Lid") {
				lid = score
			} else {
				other = score
			}
		}
		return lid, other
	}
	_, plain := links(nil)
	_, yes := links(map[string]map[string]bool{"C1": {changes[0].ID: true}})
	_, no := links(map[string]map[string]bool{"C1": {changes[0].ID: false}})
	if !(no < plain && plain <= yes) {
		t.Errorf("rejected for another cause %.2f, without a word %.2f, confirmed %.2f", no, plain, yes)
	}
}

func TestSteps(t *testing.T) {
	const document = "## 5.0.0\n\n- `Lid` was renamed to `Cap`.\n- `Fill` takes a context. Pass context.Background() if there is none.\n- Weights are rounded to even grams.\n" +
		"- The press waits for the second lid before it turns.\n- The press waits for the third lid before it turns.\n"
	changes := notes.Read("jar.md", "", []byte(document))
	for _, test := range []struct{ name, log, want string }{
		{"a rename", "# p\na.go:1:1: undefined: jar.Lid\nb.go:1:1: undefined: jar.Lid\nb.go:2:1: undefined: jar.Lid\n", "rename: Write Cap where Lid stands.; places: Edit 2 files, b.go first."},
		{"what the note says", "# p\na.go:1:1: not enough arguments in call to jar.Fill\n", "note: Pass context.Background() if there is none.; places: Edit a.go."},
		{"a result that changed", "--- FAIL: TestWeightsRounded (0.00s)\n    a_test.go:3: weights rounded: got 2, want 3\nFAIL\nFAIL\tp\t0.1s\n", "expectation: 3 was expected and is now 2. If that is right, the expectation moves, not the code.; places: Edit a_test.go."},
		{"nothing in the notes", "# p\na.go:1:1: undefined: jar.Sieve\n", "places: Edit a.go.; look: Cannot tell: nothing in the notes names this. Look at what Sieve does in the new version."},
		{"two entries alike", "--- FAIL: TestPress (0.00s)\n    a_test.go:3: the press waits for a lid before it turns\nFAIL\nFAIL\tp\t0.1s\n", "places: Edit a_test.go.; look: No entry of the notes is likely; jar.md:6 and jar.md:7 are as near: read both."},
	} {
		r := Run(t.Context(), Case{After: []Snapshot{fresh(t, "a.log", test.log)}, Changes: changes})
		var got []string
		for _, s := range r.Causes[0].Steps {
			got = append(got, s.Kind+": "+s.Text)
		}
		if strings.Join(got, "; ") != test.want {
			t.Errorf("%s:\ngot  %s\nwant %s", test.name, strings.Join(got, "; "), test.want)
		}
	}
}

// TestSettledElsewhere holds that a change which explained the same cause in
// another upgrade is likelier here, and says why; of another cause it is not.
func TestSettledElsewhere(t *testing.T) {
	changes := notes.Read("jar.md", "", []byte("## 5.0.0\n\n- The lids `Lid` of jars changed.\n- Caps changed: `Cap`.\n"))
	score := func(settled map[string]map[string]int, cause string) (float64, string) {
		r := Run(t.Context(), Case{After: []Snapshot{fresh(t, "a.log", jarLog)}, Changes: changes, Settled: settled})
		for _, c := range r.Causes {
			if c.ID == cause && len(c.Links) > 0 {
				return c.Links[0].Score, fmt.Sprint(c.Links[0].Because)
			}
		}
		t.Fatalf("%s has no link", cause)
		return 0, ""
	}
	first := Run(t.Context(), Case{After: []Snapshot{fresh(t, "a.log", jarLog)}, Changes: changes})
	settled := map[string]map[string]int{first.Causes[0].Signature: {first.Causes[0].Links[0].Change: 3}}
	before, _ := score(nil, "C1")
	after, why := score(settled, "C1")
	if after <= before || !strings.Contains(why, "explained it in other upgrades") {
		t.Errorf("the score goes from %v to %v: %s", before, after, why)
	}
	other, _ := score(nil, "C2")
	if same, why := score(settled, "C2"); same != other {
		t.Errorf("another cause's goes from %v to %v: %s", other, same, why)
	}
}
