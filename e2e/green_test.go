package e2e

import (
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"image"
	"image/png"
	"io"
	"net/http"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/chromedp/chromedp"

	"unicausa/internal/api"
	"unicausa/internal/cli"
)

const described = `checks:
  - name: build
    run: go build ./...
    clean: go clean
  - name: test
    run: go test -count=1 -json ./{target}
    targets: [., jar]
  - name: vet
    run: go vet ./...
    informative: true
  - name: weigh a jar
    steps:
      - {do: put four jars on the scale, expect: 1000 grams}
      - {do: take one away, expect: 750 grams}
`

// walks answers a walk-through with lines of standard input.
func walks(t *testing.T, status int, answers string, parts ...string) {
	t.Helper()
	var out bytes.Buffer
	got := cli.Main(t.Context(), []string{"unicausa", "walk", "weigh", "a", "jar"}, strings.NewReader(answers), &out, &out)
	if got != status {
		t.Fatalf("exit status %d, want %d\n%s", got, status, out.String())
	}
	for _, part := range parts {
		if !strings.Contains(out.String(), part) {
			t.Fatalf("no %q in\n%s", part, out.String())
		}
	}
}

func picture(t *testing.T, name string) {
	t.Helper()
	var b bytes.Buffer
	if err := png.Encode(&b, image.NewGray(image.Rect(0, 0, 3, 2))); err != nil {
		t.Fatal(err)
	}
	if err := os.WriteFile(name, b.Bytes(), 0o644); err != nil {
		t.Fatal(err)
	}
}

// TestEveryCheck goes from the checks that a project describes, over their
// targets and a walk by hand, to an open gate: preparation, debts found in the
// code, a workaround, words, reports, the next leg, and the casebook.
func TestEveryCheck(t *testing.T) {
	project(t)
	write(t, map[string]string{"unicausa.yaml": described, "jar/jar_test.go": "package jar\n\nimport \"testing\"\n\nfunc TestGrams(t *testing.T) {\n\tif Grams(0) != 0 {\n\t\tt.Error(\"nothing weighs something\")\n\t}\n}\n"})
	commit(t, "Checks are described")
	run(t, "git", "switch", "-q", "-c", "jar-5")
	want(t, 0, []string{"build: go build ./...", "test on ., jar: go test", "vet: go vet ./..., informs", "weigh a jar: 2 steps by hand"}, "checks")
	want(t, 0, nil, "begin", "--project", t.Name(), "--name", "jar 5", "--move", "example.org/pantry/jar=4.2.0..5.0.0")
	want(t, 1, []string{"▲ A baseline is accepted", "▲ The release notes are read", "▲ Where data is migrated"}, "prepare")
	want(t, 0, nil, "notes", "example.org/pantry/jar=CHANGELOG.md")
	want(t, 2, []string{`describes no check "lint": it has build, test, vet, weigh a jar`}, "record", "--all", "--only", "lint")
	want(t, 0, []string{"build: passes after", "test@jar: passes", "build    ✓   1  passes", "vet      ✓   4  passes, informs", `left to a person: unicausa walk "weigh a jar"`}, "record", "--all", "--clean")
	walks(t, 2, "y\n", "ended at step 2 of 2: nothing was recorded")
	walks(t, 0, "y\n\n", "1 of 2  put four jars on the scale", "1000 grams", "run 5 of weigh a jar: passes")
	want(t, 0, []string{"test@jar: run 3 accepted", "weigh a jar: run 5 accepted"}, "baseline")
	want(t, 0, nil, "vouch", "backup", "--reason", "no data moves")
	want(t, 0, []string{"✓ The upgrade has a branch of its own", "✓ Where data is migrated"}, "prepare")

	// The bump: two targets, one of them hidden behind the build, and a step that a person sees fail.
	write(t, map[string]string{"jar/jar.go": jarNew})
	commit(t, "Move to jar 5")
	want(t, 1, []string{"build: status 1", "test@.", "1 cause left"}, "record", "--all")
	picture(t, "scale.png")
	walks(t, 1, "1200 grams @scale.png\ns\n", "run 10 of weigh a jar: status 1", "2 new")
	u := current(t)
	response, err := http.Get(fmt.Sprintf("%s/api/v1/upgrades/%d/runs/10/pictures/0", server, u))
	if err != nil {
		t.Fatal(err)
	}
	data, err := io.ReadAll(response.Body)
	response.Body.Close()
	if err != nil || response.Header.Get("Content-Type") != "image/png" || !bytes.HasPrefix(data, []byte("\x89PNG")) {
		t.Errorf("the picture is %q, %v", response.Header.Get("Content-Type"), err)
	}
	causes := causesOf(t)
	walked := ""
	for id, c := range causes {
		if strings.Contains(strings.Join(c.Checks, " "), "weigh a jar") && strings.Contains(c.Title, "grams") {
			walked = id
		}
	}
	want(t, 0, []string{"expected: 1000 grams, seen: 1200 grams"}, "cause", walked)

	// A workaround and a suppression: both are debts before the gate opens.
	replace(t, "shelf.go", "jar.OpenLid(", "jar.Open(")
	replace(t, "shelf.go", "return jar.Grams(jars) }", "return jar.Grams(jars) * 5 / 6 } //nolint:mnd // jars are counted as they were")
	write(t, map[string]string{"scale.png": ""})
	os.Remove("scale.png")
	commit(t, "Open in place of OpenLid\n\nUnicausa-Cause: "+owner(t, "OpenLid"))
	want(t, 0, []string{"build    ✓", "0 new"}, "record", "--all")
	walks(t, 0, "y\ny\n", "2 gone, 0 causes left", walked)
	want(t, 1, []string{"the Go linters look away since the bump, and no debt says until when: shelf.go:12"}, "gate")
	want(t, 0, []string{"1 place in the code since the baseline", "shelf.go:12  the Go linters look away"}, "debts")
	want(t, 2, []string{"due is empty"}, "debts", "add", "--found", "1", "--reason", "until the scale knows")
	want(t, 0, []string{"until the scale knows", "until jar 6.0.0"}, "debts", "add", "--found", "1", "--reason", "until the scale knows", "--due", "jar 6.0.0")
	want(t, 0, []string{"-func Weight(jars int) int"}, "debts", "patch", debtOf(t))
	if err := os.WriteFile("out.patch", []byte(want(t, 0, nil, "debts", "patch", debtOf(t))), 0o644); err != nil {
		t.Fatal(err)
	}
	run(t, "git", "apply", "--check", "out.patch")
	vouchForAll(t)
	want(t, 0, []string{"the gate is open"}, "gate", "--wait", "20s")

	// For CI, and for people.
	var verdict api.Gate
	if err := json.Unmarshal([]byte(want(t, 0, nil, "gate", "--format", "json")), &verdict); err != nil || !verdict.Open {
		t.Errorf("the verdict is %+v, %v", verdict, err)
	}
	want(t, 0, []string{"<testsuite", `failures="0"`}, "gate", "--format", "junit")
	want(t, 2, []string{`no form "yaml"`}, "gate", "--format", "yaml")
	want(t, 0, []string{"# jar 5", "Moves example.org/pantry/jar 4.2.0 to 5.0.0", "Debts that this leaves"}, "report", "pull-request")
	want(t, 0, nil, "report", "closing", "--format", "html", "--output", filepath.Join(t.TempDir(), "closing.html"))
	want(t, 2, []string{"give today, pull-request or closing"}, "report", "tale")
	want(t, 0, []string{"Mirja    vouched for", "Open in place of OpenLid", "debt until jar 6.0.0"}, "activity")

	// The next leg is measured against this one, and brings the debt due.
	want(t, 0, []string{"leg 2", "planned"}, "route", "plan", "--move", "example.org/pantry/jar=5.0.0..6.0.0")
	want(t, 1, []string{"leg 2 (example.org/pantry/jar 5.0.0 to 6.0.0) has not begun"}, "gate")
	want(t, 0, []string{"✓ leg 1", "▷ leg 2"}, "route", "next")
	want(t, 1, []string{"4 checks have not been run since the bump: build"}, "gate")
	want(t, 0, []string{"due: example.org/pantry/jar reaches 6.0.0"}, "debts")
	replace(t, "jar/jar.go", "func Open(", "func Unseal(")
	commit(t, "Move to jar 6")
	want(t, 1, nil, "record", "--all")
	for id, c := range causesOf(t) {
		if _, ok := causes[id]; ok || c.Leg != 2 {
			t.Errorf("%s is of leg %d: %s", id, c.Leg, c.Title)
		}
	}
	want(t, 2, []string{"reason is empty: say why the leg is abandoned"}, "route", "restart")
	want(t, 0, []string{"– leg 2", "▷ leg 3", "too much at once"}, "route", "restart", "--reason", "too much at once")
	want(t, 2, []string{"there is no leg", "the gate of the current leg is shut"}[1:], "route", "next", "--move", "example.org/pantry/jar=6..7")
	want(t, 0, []string{"paid"}, "debts", "pay", debtOf(t), "--how", "the scale knows")

	// What was learnt is offered to the next project, and handed on.
	want(t, 0, []string{"fix", "OpenLid"}, "casebook")
	file := filepath.Join(t.TempDir(), "casebook.json")
	want(t, 0, []string{"written to"}, "casebook", "export", file)
	if text, err := os.ReadFile(file); err != nil || strings.Contains(string(text), t.Name()) {
		t.Errorf("the export names the project, or %v", err)
	}
	want(t, 0, []string{"taken in"}, "casebook", "import", file)
	want(t, 0, []string{"0 cases taken in"}, "casebook", "import", file)
	want(t, 2, []string{"no casebook"}, "casebook", "import", writeNew(t, "x.json", "{}"))

	c := here(t)
	next := begin(t, c, "the cellar")
	recordOn(t, next, api.RunFacts{Check: "build", Commit: "a0"}, "ok\n")
	if _, err := c.AcceptBaseline(t.Context(), next); err != nil {
		t.Fatal(err)
	}
	withTree(t, c, next, map[string]string{"cellar.go": "package cellar\n\nimport \"example.org/pantry/jar\"\n\nvar x = jar.OpenLid(nil)\n"}, "# cellar\n./cellar.go:5:13: undefined: jar.OpenLid\n")
	detail, err := c.Cause(t.Context(), next, "C1")
	if err != nil {
		t.Fatal(err)
	}
	if len(detail.Cases) == 0 || detail.Cases[0].Decision != "fix" || detail.Cases[0].Project != t.Name() {
		t.Errorf("of another project's cause the casebook says %+v", detail.Cases)
	}
}

// owner is the cause whose title holds a word.
func owner(t *testing.T, word string) string {
	t.Helper()
	for id, c := range causesOf(t) {
		if strings.Contains(c.Title, word) {
			return id
		}
	}
	t.Fatalf("no cause is about %s", word)
	return ""
}

// debtOf is the number of the project's latest debt.
func debtOf(t *testing.T) string {
	t.Helper()
	debts, err := here(t).Debts(t.Context(), current(t))
	if err != nil || len(debts) == 0 {
		t.Fatalf("the debts are %v, %v", debts, err)
	}
	return fmt.Sprint(debts[0].ID)
}

// vouchForAll gives a word on every reason that takes one.
func vouchForAll(t *testing.T) {
	t.Helper()
	gate, err := here(t).Gate(t.Context(), current(t), "")
	if err != nil {
		t.Fatal(err)
	}
	for _, r := range gate.Reasons {
		if r.Key != "" {
			want(t, 0, nil, "vouch", r.Key, "--reason", "looked at")
		}
	}
}

// TestTwoPeople holds that nobody overwrites what another decided without
// having seen it, and that a decision is taken back.
func TestTwoPeople(t *testing.T) {
	c := here(t)
	upgrade := begin(t, c, "two people")
	recordOn(t, upgrade, api.RunFacts{Check: "build", Commit: "a0"}, "ok\n")
	if _, err := c.AcceptBaseline(t.Context(), upgrade); err != nil {
		t.Fatal(err)
	}
	recordOn(t, upgrade, api.RunFacts{Check: "build", Commit: "b1", Exit: 1, Branch: "jar-5"}, broken)
	none := int64(0)
	first, err := as(t, "Mirja").Decide(t.Context(), upgrade, "C1", api.NewDecision{Kind: "defer", Reason: "after the harvest", Due: "2031-11-01", Seen: &none})
	if err != nil {
		t.Fatal(err)
	}
	jonas := as(t, "Jonas")
	_, err = jonas.Decide(t.Context(), upgrade, "C1", api.NewDecision{Kind: "fix", Reason: "now", Seen: &none})
	if err == nil || !strings.Contains(err.Error(), "Mirja decided defer of C1 meanwhile (after the harvest)") {
		t.Errorf("the second decision gives %v", err)
	}
	seen := first.Decisions[0].ID
	if _, err = jonas.Decide(t.Context(), upgrade, "C1", api.NewDecision{Kind: "wait", Reason: "for jar", Due: "jar 6", Seen: &seen}); err != nil {
		t.Fatal(err)
	}
	t.Setenv("UNICAUSA_SERVER", server)
	t.Setenv("UNICAUSA_UPGRADE", fmt.Sprint(upgrade))
	want(t, 0, []string{"the decision to wait was taken back"}, "decide", "C1", "--undo")
	detail, err := c.Cause(t.Context(), upgrade, "C1")
	if err != nil {
		t.Fatal(err)
	}
	if d := detail.Cause.Decision; d == nil || d.Kind != "defer" || len(detail.Decisions) != 2 || !detail.Decisions[0].Undone {
		t.Errorf("after the undo the decision is %+v of %+v", d, detail.Decisions)
	}

	// A pull request fails for what it brought alone.
	recordOn(t, upgrade, api.RunFacts{Check: "build", Commit: "c2", Exit: 1, Branch: "main"}, broken)
	recordOn(t, upgrade, api.RunFacts{Check: "build", Commit: "d3", Exit: 1, Branch: "topic"}, broken)
	want(t, 0, []string{"the gate is open"}, "gate", "--target", "main")
	recordOn(t, upgrade, api.RunFacts{Check: "build", Commit: "e4", Exit: 1, Branch: "topic"}, broken+"./z.go:9:1: undefined: jar.Brim\n")
	want(t, 1, []string{"1 reason", "build: z.go:9: undefined: jar.Brim"}, "gate", "--target", "main")
	want(t, 1, []string{"no run on trunk to compare with"}, "gate", "--target", "trunk")
}

// inConsole acts in Chromium.
type inConsole struct{ ctx context.Context }

func (h inConsole) confirm(t *testing.T, cause string) {
	do(t, h.ctx,
		chromedp.Navigate(page(current(t), "/causes/"+cause)),
		chromedp.WaitVisible(`[data-say="confirm"]`),
		chromedp.Click(`[data-say="confirm"]`),
		chromedp.WaitVisible(`[data-state="confirmed"]`),
	)
}

func (h inConsole) decide(t *testing.T, cause, kind, reason string) {
	do(t, h.ctx,
		chromedp.Navigate(page(current(t), "/causes/"+cause)),
		chromedp.WaitVisible(`[data-decide="`+kind+`"]`),
		chromedp.Click(`[data-decide="`+kind+`"]`),
		chromedp.SendKeys(`textarea[name="reason"]`, reason),
		chromedp.Click(`//button[text()="Decide"]`),
		chromedp.WaitVisible(`//li[contains(., "`+reason+`")]`),
	)
}

func (h inConsole) vouch(t *testing.T, code, reason string) {
	do(t, h.ctx,
		chromedp.Navigate(page(current(t), "")),
		chromedp.WaitVisible(`[data-reason="`+code+`"] [data-act="vouch"]`),
		chromedp.Click(`[data-reason="`+code+`"] [data-act="vouch"]`),
		chromedp.SendKeys(`input[name="reason"]`, reason+"\r"),
		chromedp.WaitNotPresent(`[data-reason="`+code+`"]`),
	)
}

// gate reads the verdict with everything that is folded under it.
func (h inConsole) gate(t *testing.T, open bool, parts ...string) {
	t.Helper()
	want := "The gate is shut"
	if open {
		want = "The gate is open"
	}
	var text string
	do(t, h.ctx,
		chromedp.Navigate(page(current(t), "")),
		chromedp.WaitVisible(`//span[contains(., "`+want+`")]`),
		chromedp.Evaluate(`document.querySelectorAll("main details").forEach((d) => { d.open = true })`, nil),
		chromedp.Text("main", &text, chromedp.ByQuery),
	)
	for _, part := range parts {
		if !strings.Contains(text, part) {
			t.Fatalf("no %q on the page of the upgrade:\n%s", part, text)
		}
	}
}

// TestConsoleToGreen goes through the pages in Chromium: a word on a reason of
// the gate, a debt that is paid, the route, the commits, the report.
func TestConsoleToGreen(t *testing.T) {
	c := here(t)
	upgrade := begin(t, c, "to green")
	recordOn(t, upgrade, api.RunFacts{Check: "test", Commit: "a0"}, suite(""))
	if _, err := c.AcceptBaseline(t.Context(), upgrade); err != nil {
		t.Fatal(err)
	}
	recordOn(t, upgrade, api.RunFacts{Check: "test", Commit: "b1b1b1b1b1", Commits: []api.NewCommit{{ID: "b1b1b1b1b1", Subject: "No lids"}}}, strings.ReplaceAll(suite(""), `<testcase name="shuts"></testcase>`, ""))
	owed, err := c.AddDebt(t.Context(), upgrade, api.NewDebt{Kind: "shim", Text: "the old lid", Due: "2020-01-01"})
	if err != nil {
		t.Fatal(err)
	}
	pay := fmt.Sprintf(`[data-debt="%d"] [data-act="pay"]`, owed.ID)
	ctx := browser(t)
	var text string
	do(t, ctx,
		chromedp.Navigate(page(upgrade, "")),
		chromedp.WaitVisible(`[data-reason="lost-test"] [data-act="vouch"]`),
		chromedp.Text(`main`, &text),
	)
	for _, part := range []string{"due", "its date, 2020-01-01, has come", "shuts passed in the baseline and is missing now", "Route", "current"} {
		if !strings.Contains(text, part) {
			t.Errorf("no %q on the page of the upgrade:\n%s", part, text)
		}
	}
	do(t, ctx,
		chromedp.Click(`[data-reason="lost-test"] [data-act="vouch"]`),
		chromedp.SendKeys(`input[name="reason"]`, "lids do not shut any more\r"),
		chromedp.WaitNotPresent(`[data-reason="lost-test"]`),
	)
	do(t, ctx,
		chromedp.Navigate(page(upgrade, "/debts")),
		chromedp.WaitVisible(pay),
		chromedp.Click(pay),
		chromedp.SendKeys(`input[name="how"]`, "it is gone\r"),
		chromedp.WaitNotPresent(fmt.Sprintf(`[data-list="debts"]:first-of-type [data-debt="%d"] [data-act="pay"]`, owed.ID)),
		chromedp.WaitVisible(`//summary[contains(., "settled")]`),
	)
	do(t, ctx,
		chromedp.Navigate(page(upgrade, "")),
		chromedp.Click(`[data-route="plan"]`),
		chromedp.SendKeys(`section:has([data-list="legs"]) input[aria-label="To version"]`, "3\r", chromedp.ByQuery),
		chromedp.WaitVisible(`//*[contains(text(),"planned")]`),
	)
	do(t, ctx,
		chromedp.Navigate(page(upgrade, "/commits")),
		chromedp.WaitVisible(`//td[contains(.,"No lids")]`),
		chromedp.Navigate(page(upgrade, "/activity")),
		chromedp.WaitVisible(`//td[contains(.,"lids do not shut any more")]`),
	)
	do(t, ctx,
		chromedp.Navigate(page(upgrade, "/report?story=closing")),
		chromedp.WaitVisible(`iframe[title="What it took"]`),
		chromedp.Poll(`document.querySelector("iframe").contentDocument?.querySelector("h1")?.textContent.includes("What it took")`, nil, chromedp.WithPollingInterval(100*time.Millisecond)),
		chromedp.Navigate(server+"/casebook"),
		chromedp.WaitVisible(`tbody td`, chromedp.ByQuery),
	)
}
