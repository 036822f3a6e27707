package e2e

import (
	"fmt"
	"net/http"
	"strings"
	"testing"
	"time"

	"github.com/chromedp/chromedp"

	"unicausa/internal/api"
	"unicausa/internal/client"
)

// recordOn records one output of a check on a commit and waits for it.
func recordOn(t *testing.T, upgrade int64, facts api.RunFacts, output string) api.Run {
	t.Helper()
	c := here(t)
	facts.StartedAt = time.Now()
	run, err := c.Record(t.Context(), upgrade, facts, []client.Input{{Name: facts.Check + ".log", Content: strings.NewReader(output)}}, nil, nil)
	if err == nil {
		run, err = c.Processed(t.Context(), upgrade, run.Number)
	}
	if err != nil {
		t.Fatal(err)
	}
	return run
}

func suite(failing string) string {
	return `<testsuite name="shelf"><testcase name="opens"/><testcase name="shuts">` + failing + `</testcase></testsuite>`
}

const stuck = `<failure message="the lid is stuck"/>`

// TestFlakyIsNotCleared holds that a test which fails and then passes on the
// same source is flaky, and stays so until the source changes.
func TestFlakyIsNotCleared(t *testing.T) {
	c := here(t)
	upgrade := begin(t, c, "flaky")
	recordOn(t, upgrade, api.RunFacts{Check: "test", Commit: "a0"}, suite(""))
	if _, err := c.AcceptBaseline(t.Context(), upgrade); err != nil {
		t.Fatal(err)
	}
	left := func() int {
		t.Helper()
		causes, err := c.Causes(t.Context(), upgrade)
		if err != nil {
			t.Fatal(err)
		}
		n := 0
		for _, cause := range causes {
			if cause.Status != "cleared" {
				n++
			}
		}
		return n
	}
	recordOn(t, upgrade, api.RunFacts{Check: "test", Commit: "b1", Exit: 1}, suite(stuck))
	recordOn(t, upgrade, api.RunFacts{Check: "test", Commit: "b1"}, suite(""))
	if n := left(); n != 1 {
		t.Errorf("after it passed on the same source %d causes are left", n)
	}
	table, err := c.Tests(t.Context(), upgrade)
	if err != nil || len(table.Tests) != 2 || !table.Tests[0].Flaky || table.Tests[0].Outcomes != "pfp" || table.Tests[1].Flaky {
		t.Errorf("%v: the tests are %+v", err, table.Tests)
	}
	recordOn(t, upgrade, api.RunFacts{Check: "test", Commit: "c2"}, suite(""))
	if n := left(); n != 0 {
		t.Errorf("after the source changed %d causes are left", n)
	}
}

// TestNoticesOfARun holds that a run says how it was made otherwise.
func TestNoticesOfARun(t *testing.T) {
	c := here(t)
	upgrade := begin(t, c, "notices")
	recordOn(t, upgrade, api.RunFacts{Check: "build", Command: "make", Versions: map[string]string{"example.org/jar": "4.2.0", "cc": "12"}}, "")
	if _, err := c.AcceptBaseline(t.Context(), upgrade); err != nil {
		t.Fatal(err)
	}
	run := recordOn(t, upgrade, api.RunFacts{Check: "build", Command: "make -k", Versions: map[string]string{"example.org/jar": "4.2.0", "cc": "13"}}, "")
	for _, want := range []string{"another command", "cc moved from 12 to 13", "example.org/jar is still at 4.2.0"} {
		if !strings.Contains(strings.Join(run.Notices, "\n"), want) {
			t.Errorf("no %q in %q", want, run.Notices)
		}
	}
}

// TestOwnPatterns holds that a project's own patterns are used, and refused
// when they do not hold what they promise.
func TestOwnPatterns(t *testing.T) {
	upgrade := begin(t, here(t), "patterns")
	pattern := api.Pattern{Name: "printer", Match: `^LP(?<code>\d+) (?<message>.*)$`, Like: []string{"LP1 x"}, Unlike: []string{"LP"}}
	run := recordOn(t, upgrade, api.RunFacts{Check: "labels", Patterns: []api.Pattern{pattern}}, "LP12 the tray is empty\nLP ready\n")
	symptoms, err := here(t).RunSymptoms(t.Context(), upgrade, run.Number)
	if err != nil || len(symptoms) != 1 || symptoms[0].Message != "the tray is empty" || symptoms[0].From != 1 {
		t.Errorf("%v: %+v", err, symptoms)
	}
	pattern.Unlike = []string{"LP2 y"}
	_, err = here(t).Record(t.Context(), upgrade, api.RunFacts{Check: "labels", Patterns: []api.Pattern{pattern}}, nil, nil, nil)
	if err == nil || !strings.Contains(err.Error(), `match matches "LP2 y", which it must not`) {
		t.Errorf("a bad pattern: %v", err)
	}
}

func TestRunCommands(t *testing.T) {
	t.Chdir(t.TempDir())
	t.Setenv("UNICAUSA_SERVER", server)
	t.Setenv("UNICAUSA_UPGRADE", fmt.Sprint(upgradeOf(t, "steelyard 4 and binlabel 3")))
	want(t, 0, []string{"✗    5 build", "42 new, 0 gone", "baseline", "1 test ran where the baseline has 17"}, "runs")
	want(t, 0, []string{"run 6 of test", "go test -count=1", "go 1.26.8", "C5   weighin/weighin.go:25: undefined: steelyard.OpenScale"}, "runs", "#6")
	want(t, 1, []string{"run 13 of build against run 5 of build", "1 new, 24 gone, 18 the same", "▲ error        season/season.go:43"}, "compare", "5", "13")
	if printed := want(t, 0, []string{"0 new, 9 gone"}, "compare", "5", "9"); strings.Contains(printed, "beside the bump") {
		t.Errorf("what was meant to move is noticed:\n%s", printed)
	}
	want(t, 0, []string{"●-×××●", "TestPay/half_a_step", "1 test passed in every run"}, "tests")
	want(t, 2, []string{`"x" is no number of a run`}, "runs", "x")
	want(t, 2, []string{"run 999: not found"}, "runs", "999")
	want(t, 2, []string{"this wants two runs"}, "compare", "5")
	write(t, map[string]string{"unicausa.yaml": "patterns:\n  - name: printer\n    match: '^LP (?<message>.*)$'\n    kind: warning\n    like: ['LP x']\n    unlike: [x]\n", "a.log": "x\nLP empty tray\n"})
	want(t, 0, []string{"1 pattern, each matches its own examples", "a.log:2 printer (warning): empty tray"}, "patterns", "a.log")
	want(t, 1, []string{"empty tray"}, "triage", "a.log")
	want(t, 2, []string{"cannot read the configuration"}, "triage", "--config", "none.yaml", "a.log")
}

func TestSearchOfALog(t *testing.T) {
	upgrade := begin(t, here(t), "search")
	var log strings.Builder
	for i := 1; i <= 40_000; i++ {
		fmt.Fprintf(&log, "line %d of a long log that goes on and on\n", i)
	}
	log.WriteString("the LID is stuck\n")
	run := recordOn(t, upgrade, api.RunFacts{Check: "long"}, log.String())
	at := fmt.Sprintf("/api/v1/upgrades/%d/inputs/%d/search", upgrade, run.Inputs[0].ID)
	for query, part := range map[string]string{
		"?text=lid+is":             `{"lines":[{"line":40001,"text":"the LID is stuck"}],"more":false}`,
		"?text=line+39999+":        `"line":39999`,
		"?text=line&from=40001":    `{"lines":[],"more":false}`,
		"?text=long":               `"more":true`,
		"?text=line+7+of&from=100": `{"lines":[],"more":false}`,
	} {
		if status, _, body := call(t, http.MethodGet, at+query, "", ""); status != 200 || !strings.Contains(body, part) {
			t.Errorf("%s: %d %.200s, want %s", query, status, body, part)
		}
	}
	if status, kind, _ := call(t, http.MethodGet, at+"?text=+", "", ""); status != 400 || kind != "application/problem+json" {
		t.Errorf("an empty text: %d %s", status, kind)
	}
}

// TestConsoleRuns walks from the runs to a comparison, into a log and to a
// cause from its margin.
func TestConsoleRuns(t *testing.T) {
	t.Parallel()
	upgrade := upgradeOf(t, "steelyard 4 and binlabel 3")
	ctx := browser(t)
	var where, first string
	do(t, ctx,
		chromedp.Navigate(page(upgrade, "")),
		chromedp.Click(`//nav//a[text()="Runs"]`),
		chromedp.WaitVisible(`a[data-run="13"]`),
		chromedp.Click(`input[aria-label="Pick run 5"]`),
		chromedp.Click(`input[aria-label="Pick run 13"]`),
		chromedp.Click(`//button[text()="Compare #5 with #13"]`),
		chromedp.WaitVisible(`//h2[contains(., "1 new, 24 gone, 18 the same")]`),
		chromedp.Click(`//tr[contains(., "season/season.go:43")]//a`),
		chromedp.WaitVisible(`[data-line="25"].bg-wash`),
		chromedp.Location(&where),
	)
	if !strings.Contains(where, "/runs/13?input=") || !strings.Contains(where, "line=25") {
		t.Errorf("the place leads to %s", where)
	}
	do(t, ctx,
		chromedp.SendKeys(`input[aria-label="Search this log"]`, "Weigh\r"),
		chromedp.WaitVisible(`//span[contains(., " found")]`),
		chromedp.WaitVisible(`mark`, chromedp.ByQuery),
		chromedp.Text(`[data-line="25"] a`, &first),
		chromedp.Click(`[data-line="25"] a`),
		chromedp.WaitNotPresent(`input[aria-label="Search this log"]`),
		chromedp.Location(&where),
	)
	if id := strings.Fields(strings.Trim(first, "▲△? "))[0]; !strings.HasSuffix(where, "/causes/"+id) {
		t.Errorf("the margin says %q and leads to %s", first, where)
	}
	do(t, ctx,
		chromedp.Navigate(page(upgrade, "/tests")),
		chromedp.WaitVisible(`//td[contains(., "TestPay/half_a_step")]`),
		chromedp.SendKeys(`input[type=search]`, "stack"),
		chromedp.WaitNotPresent(`//td[contains(., "TestPay/half_a_step")]`),
		chromedp.WaitVisible(`//td[contains(., "TestStack")]`),
	)
}

// TestConsoleAcceptsABaseline holds that a person accepts the baseline, after
// a word of warning.
func TestConsoleAcceptsABaseline(t *testing.T) {
	upgrade := begin(t, here(t), "accepted in the console")
	recordOn(t, upgrade, api.RunFacts{Check: "build"}, "a.c:1:1: warning: loose lid\n")
	do(t, browser(t),
		chromedp.Navigate(page(upgrade, "/runs")),
		chromedp.Click(`//button[text()="Accept the baseline"]`),
		chromedp.WaitVisible(`[role=alertdialog]`),
		chromedp.Click(`//div[@role="alertdialog"]//button[text()="Accept the baseline"]`),
		chromedp.WaitVisible(`//span[text()="Baseline: #1"]`),
	)
}
