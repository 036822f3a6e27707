package e2e

import (
	"fmt"
	"sort"
	"strings"
	"testing"
	"time"

	"github.com/chromedp/chromedp"

	"unicausa/internal/api"
)

const broken = "# p\n./a.go:1:1: undefined: jar.Lid\n./b.go:2:1: undefined: jar.Lid\n./c.go:3:1: undefined: jar.Lid\n./d.go:4:1: undefined: jar.Cap\n"

// causesAre waits until the causes of an upgrade hold the symptoms in certain
// files: "C1: a.go b.go; C2: d.go", the cleared ones left out.
func causesAre(t *testing.T, upgrade int64, want string) {
	t.Helper()
	c := here(t)
	got := ""
	for range 100 {
		causes, err := c.Causes(t.Context(), upgrade)
		if err != nil {
			t.Fatal(err)
		}
		var lines []string
		for _, cause := range causes {
			detail, err := c.Cause(t.Context(), upgrade, cause.ID)
			if err != nil {
				t.Fatal(err)
			}
			var files []string
			for _, s := range detail.Symptoms {
				if s.Status == "shown" {
					files = append(files, s.File)
				}
			}
			sort.Strings(files)
			if len(files) > 0 {
				lines = append(lines, cause.ID+": "+strings.Join(files, " "))
			}
		}
		sort.Strings(lines)
		if got = strings.Join(lines, "; "); got == want {
			return
		}
		time.Sleep(50 * time.Millisecond)
	}
	t.Fatalf("the causes are %s, want %s", got, want)
}

// TestCorrections holds that what people say of where symptoms belong is
// honoured by later runs, and undone as easily.
func TestCorrections(t *testing.T) {
	c := here(t)
	upgrade := begin(t, c, "corrected")
	recordOn(t, upgrade, api.RunFacts{Check: "build", Commit: "a0"}, "ok\n")
	if _, err := c.AcceptBaseline(t.Context(), upgrade); err != nil {
		t.Fatal(err)
	}
	recordOn(t, upgrade, api.RunFacts{Check: "build", Commit: "b1", Exit: 1}, broken)
	causesAre(t, upgrade, "C1: a.go b.go c.go; C2: d.go")

	t.Setenv("UNICAUSA_SERVER", server)
	t.Setenv("UNICAUSA_TOKEN", tokenOf(t, "Mirja"))
	t.Setenv("UNICAUSA_UPGRADE", fmt.Sprint(upgrade))
	want(t, 0, []string{"1 symptom split off C1 as C3", "the lid of the cellar", "Mirja"}, "split", "C1", "1", "--reason", "the lid of the cellar")
	causesAre(t, upgrade, "C1: b.go c.go; C2: d.go; C3: a.go")
	want(t, 0, []string{"put here by Mirja", "→ Edit a.go."}, "cause", "C3")
	want(t, 0, []string{"1 symptom moved to C2"}, "move", "C1", "--file", "b.go", "--to", "C2")
	causesAre(t, upgrade, "C1: c.go; C2: b.go d.go; C3: a.go")
	want(t, 0, []string{"1 symptom pinned to C1"}, "pin", "C1")
	want(t, 0, []string{"C3 merged into C2"}, "merge", "C2", "C3")
	causesAre(t, upgrade, "C1: c.go; C2: a.go b.go d.go")

	// Later runs honour it: lines moved, one symptom more.
	recordOn(t, upgrade, api.RunFacts{Check: "build", Commit: "c2", Exit: 1}, strings.ReplaceAll(broken, ":1: ", ":5: ")+"./e.go:9:1: undefined: jar.Lid\n")
	causesAre(t, upgrade, "C1: c.go e.go; C2: a.go b.go d.go")

	want(t, 0, []string{"taken back", "C3 merged into C2"}, "undo")
	causesAre(t, upgrade, "C1: c.go e.go; C2: b.go d.go; C3: a.go")
	printed := want(t, 0, []string{"1 symptom split off C1 as C3", "taken back"}, "corrections")
	id := strings.Fields(strings.Split(printed, "\n")[2])[0] // the move; the latest stands first
	want(t, 0, []string{"1 symptom moved to C2"}, "undo", id)
	causesAre(t, upgrade, "C1: b.go c.go e.go; C2: d.go; C3: a.go")

	// The fixed part of a split is cleared by itself.
	recordOn(t, upgrade, api.RunFacts{Check: "build", Commit: "d3", Exit: 1}, strings.Replace(broken, "./a.go:1:1: undefined: jar.Lid\n", "", 1))
	causesAre(t, upgrade, "C1: b.go c.go; C2: d.go")
	causes, err := c.DecideAll(t.Context(), upgrade, []string{"C1", "C2"}, api.NewDecision{Kind: "defer", Reason: "after the harvest", Due: "5.2"})
	if err != nil {
		t.Fatal(err)
	}
	deferred := 0
	for _, cause := range causes {
		if cause.Decision != nil && cause.Decision.Kind == "defer" {
			deferred++
		}
	}
	if deferred != 2 {
		t.Errorf("%d causes are deferred", deferred)
	}

	for name, bad := range map[string]struct {
		n    api.NewCorrection
		text string
	}{
		"no kind":              {api.NewCorrection{Cause: "C1"}, "give move, split, merge or pin"},
		"no symptoms":          {api.NewCorrection{Kind: "move", Cause: "C1"}, "symptoms is empty"},
		"a symptom of nowhere": {api.NewCorrection{Kind: "move", Cause: "C1", Symptoms: []string{"none"}}, "symptom none"},
		"a cause of nowhere":   {api.NewCorrection{Kind: "pin", Cause: "C99", Symptoms: []string{"none"}}, "cause C99"},
		"into itself":          {api.NewCorrection{Kind: "merge", Cause: "C1", From: "C1"}, "into itself"},
		"merge of nothing":     {api.NewCorrection{Kind: "merge", Cause: "C1"}, "from is empty"},
	} {
		if _, err := c.Correct(t.Context(), upgrade, bad.n); err == nil || !strings.Contains(err.Error(), bad.text) {
			t.Errorf("%s: the answer is %v, want %q", name, err, bad.text)
		}
	}
	if _, err := c.DecideAll(t.Context(), upgrade, []string{"C1", "C99"}, api.NewDecision{Kind: "accept", Reason: "fine"}); err == nil {
		t.Error("a decision on a cause that is not there was taken")
	}
	if detail, err := c.Cause(t.Context(), upgrade, "C1"); err != nil || detail.Cause.Decision.Kind != "defer" {
		t.Errorf("half of a decision was kept: %+v (%v)", detail.Cause.Decision, err)
	}
	want(t, 2, []string{"nothing would be left in C2"}, "split", "C2", "1")
	want(t, 2, []string{"none with the number 9"}, "split", "C1", "9")
	want(t, 2, []string{"no symptom of C1 stands in a file like z*.go"}, "move", "C1", "--file", "z*.go", "--to", "C2")
	want(t, 2, []string{"no such correction"}, "undo", "999999")
}

// TestConsoleWorkplace holds that the causes are worked through by filter, keys
// and choice: found, grouped, deferred together, split and merged, taken back.
func TestConsoleWorkplace(t *testing.T) {
	c := here(t)
	upgrade := begin(t, c, "workplace")
	recordOn(t, upgrade, api.RunFacts{Check: "build", Commit: "a0"}, "ok\n")
	if _, err := c.AcceptBaseline(t.Context(), upgrade); err != nil {
		t.Fatal(err)
	}
	var log strings.Builder
	log.WriteString(broken)
	for i := range 2000 {
		fmt.Fprintf(&log, "./z%d.go:%d:1: undefined: jar.Part%d\n", i, i+1, i)
	}
	recordOn(t, upgrade, api.RunFacts{Check: "build", Commit: "b1", Exit: 1}, log.String())
	ctx := browser(t)
	var rows int
	var where, title string
	do(t, ctx,
		chromedp.Navigate(page(upgrade, "/causes")),
		chromedp.WaitVisible(`[data-cause="C1"]`),
		chromedp.Evaluate(`document.querySelectorAll("[data-cause]").length`, &rows),
		chromedp.WaitVisible(`//h2[contains(., "jar.Lid no longer exists")]`),
		chromedp.KeyEvent("j"),
		chromedp.WaitVisible(`[data-cause][aria-current="true"]:not([data-cause="C1"])`),
		chromedp.KeyEvent("k"), chromedp.WaitVisible(`[data-cause="C1"][aria-current="true"]`),
		// Choose it and the next, and defer both.
		chromedp.KeyEvent(" "), chromedp.WaitVisible(`[data-bulk="defer"]`),
		chromedp.KeyEvent("j"), chromedp.WaitVisible(`[data-cause="C2"][aria-current="true"]`),
		chromedp.KeyEvent(" "), chromedp.WaitVisible(`[data-bulk="merge"]`), chromedp.KeyEvent("d"),
		chromedp.WaitVisible(`textarea[name="reason"]`),
		chromedp.SendKeys(`textarea[name="reason"]`, "after the harvest"),
		chromedp.Click(`fieldset button[type="submit"]`),
		chromedp.WaitNotPresent(`textarea[name="reason"]`),
		chromedp.WaitVisible(`//button[@data-cause="C1"]//span[contains(., "deferred")]`),
		chromedp.KeyEvent("l"), chromedp.Sleep(200*time.Millisecond), chromedp.SendKeys(`input[type="search"]`, "Part1999"),
		chromedp.WaitVisible(`//h2[contains(., "jar.Part1999 no longer exists")]`),
		chromedp.Sleep(500*time.Millisecond),
		chromedp.Location(&where),
	)
	if rows < 5 || rows > 60 {
		t.Errorf("%d of 2002 rows are drawn", rows)
	}
	if !strings.Contains(where, "find=Part1999") {
		t.Errorf("the filter is not in the address %s", where)
	}
	do(t, ctx,
		chromedp.Navigate(page(upgrade, "/causes?group=phase&show=undecided")),
		chromedp.WaitVisible(`//ol[@aria-label="Causes"]//p[contains(., "compile")]`),
		chromedp.WaitNotPresent(`[data-cause="C1"]`),
	)
	do(t, ctx, // On the page of the cause one symptom is split off, and taken back.
		chromedp.Navigate(page(upgrade, "/causes/C1")),
		chromedp.Click(`[data-symptom]`),
		chromedp.Click(`[data-act="split"]`),
		chromedp.WaitVisible(`[data-list="corrections"] [data-act="undo"]`),
		chromedp.WaitVisible(`//h2[contains(., "2 symptoms")]`),
	)
	do(t, ctx,
		chromedp.Click(`[data-act="undo"]`),
		chromedp.WaitVisible(`//h2[contains(., "3 symptoms")]`),
		chromedp.Text(`[data-list="steps"]`, &title),
	)
	if !strings.Contains(title, "Edit 3 files") {
		t.Errorf("what to do next is %q", title)
	}
}
