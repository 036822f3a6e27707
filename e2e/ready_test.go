package e2e

import (
	"fmt"
	"strings"
	"testing"

	"github.com/chromedp/chromedp"

	"unicausa/internal/api"
	"unicausa/internal/client"
	"unicausa/internal/core/source/sourcetest"
)

// TestReady holds that the lock file and what package managers say tell who accepts the new
// version, that a cause names the one that does not, and that a debt that waits for its
// release comes due when it is out.
func TestReady(t *testing.T) {
	t.Setenv("UNICAUSA_SERVER", server)
	t.Chdir(t.TempDir())
	u, err := here(t).Begin(t.Context(), api.NewUpgrade{Project: "shelf", Name: t.Name(), Moves: []api.Move{{Package: "jar", From: "4.2.0", To: "5.0.0"}}})
	if err != nil {
		t.Fatal(err)
	}
	record := func(check, output string, exit int) {
		run, err := here(t).Record(t.Context(), u.ID, api.RunFacts{Check: check, Exit: exit}, []client.Input{{Name: check + ".log", Content: strings.NewReader(output)}}, sourcetest.Zip(t, map[string]string{
			"package.json":      `{"dependencies": {"jar": "^5.0.0", "lid": "^2.0.0", "spoon": "1.0.0"}}`,
			"package-lock.json": `{"lockfileVersion": 3, "packages": {"node_modules/jar": {"version": "5.0.0"}, "node_modules/lid": {"version": "2.1.0", "peerDependencies": {"jar": "^4.0.0"}}, "node_modules/spoon": {"version": "1.0.0"}}}`,
		}), func(int) {})
		if err == nil {
			run, err = here(t).Processed(t.Context(), u.ID, run.Number)
		}
		if err != nil || run.Status != "processed" {
			t.Fatalf("%v: %+v", err, run)
		}
	}
	record("install", "", 0)
	if _, err := here(t).AcceptBaseline(t.Context(), u.ID); err != nil {
		t.Fatal(err)
	}
	record("install", "npm error code ERESOLVE\nnpm error ERESOLVE unable to resolve dependency tree\nnpm error Could not resolve dependency:\nnpm error peer jar@\"^4.0.0\" from lid@2.1.0\n", 1)
	number := fmt.Sprint(u.ID)
	want(t, 1, []string{"not ready lid 2.1.0", "wants jar ^4.0.0", "1 dependency states no range", "unicausa ready --ask"}, "ready", "--upgrade", number)
	want(t, 0, nil, "decide", "--upgrade", number, "C1", "wait", "--reason", "lid 3 is to accept it", "--due", "lid 3.0.0")
	if printed := want(t, 0, nil, "debts", "--upgrade", number); strings.Contains(printed, "is out") {
		t.Errorf("it is due already:\n%s", printed)
	}
	write(t, map[string]string{"outdated.json": `{"lid": {"current": "2.1.0", "wanted": "2.1.0", "latest": "3.0.1"}}`, "nothing.txt": "hello\n"})
	want(t, 1, []string{"newest is 3.0.1", "held back: package.json wants lid ^2.0.0"}, "ready", "--upgrade", number, "outdated.json")
	want(t, 0, []string{"lid 3.0.1 is out"}, "debts", "--upgrade", number)
	want(t, 1, []string{`"state": "not-ready"`, `"asked": 3`}, "ready", "--upgrade", number, "--format", "json")
	want(t, 1, []string{"unknown", "spoon"}, "ready", "--upgrade", number, "--all")
	want(t, 1, []string{"nothing of nothing.txt is a listing"}, "ready", "--upgrade", number, "nothing.txt")
	want(t, 2, []string{"cannot read gone.txt"}, "ready", "--upgrade", number, "gone.txt")
	want(t, 2, []string{"no package manager of this project is known"}, "ready", "--upgrade", number, "--ask")
	want(t, 2, []string{"leave the files out"}, "ready", "--upgrade", number, "--ask", "outdated.json")
	o, err := here(t).Overview(t.Context(), u.ID)
	if err != nil {
		t.Fatal(err)
	}
	if len(o.Checks) != 1 || len(o.Causes) != 1 {
		t.Errorf("the listing is a check or a cause: %+v %+v", o.Checks, o.Causes)
	}
	ctx := browser(t)
	var ready, cause string
	do(t, ctx,
		chromedp.Navigate(page(u.ID, "/versions")),
		chromedp.WaitVisible(`[data-part="ready"] li`, chromedp.ByQuery),
		chromedp.Text(`[data-part="ready"]`, &ready, chromedp.ByQuery),
		chromedp.Navigate(page(u.ID, "/causes/C1")),
		chromedp.Text(`[data-part="not-ready"]`, &cause, chromedp.ByQuery),
	)
	for _, text := range []string{ready, cause} {
		if !strings.Contains(text, "not ready") && !strings.Contains(text, "Not ready") || !strings.Contains(text, "lid 2.1.0") {
			t.Errorf("the page shows:\n%s", text)
		}
	}
}

// TestFind holds that anything of an upgrade is found by name or number, in a terminal and
// with / on any page.
func TestFind(t *testing.T) {
	t.Setenv("UNICAUSA_SERVER", server)
	upgrade := upgradeOf(t, "steelyard 4 and binlabel 3")
	number := fmt.Sprint(upgrade)
	want(t, 0, []string{"run", "#7"}, "find", "--upgrade", number, "#7")
	want(t, 0, []string{"change", "steelyard.md:15"}, "find", "--upgrade", number, "steelyard.md:15")
	want(t, 0, []string{"file", "weighin/weighin.go"}, "find", "--upgrade", number, "weighin/weighin.go")
	want(t, 0, []string{"test ", "Test"}, "find", "--upgrade", number, "Test")
	want(t, 0, []string{`"kind": "cause"`}, "find", "--upgrade", number, "--format", "json", "c3")
	want(t, 0, []string{"Nothing here has that name"}, "find", "--upgrade", number, "100%_no")
	want(t, 2, []string{"what is looked for"}, "find", "--upgrade", number)
	ctx := browser(t)
	var where string
	do(t, ctx,
		chromedp.Navigate(page(upgrade, "/tests")),
		chromedp.WaitVisible(`table`, chromedp.ByQuery),
		chromedp.KeyEvent("/"),
		chromedp.SendKeys(`[role=combobox]`, "C3", chromedp.ByQuery),
		chromedp.WaitVisible(`//div[@role="option" and @aria-selected="true" and contains(., "C3")]`),
		chromedp.SendKeys(`[role=combobox]`, "\r", chromedp.ByQuery),
		chromedp.WaitVisible(`[data-part="cause"]`, chromedp.ByQuery),
		chromedp.Location(&where),
	)
	if !strings.HasSuffix(where, "/causes/C3") {
		t.Errorf("it leads to %s", where)
	}
}
