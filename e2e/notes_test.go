package e2e

import (
	"fmt"
	"strings"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"

	"unicausa/internal/api"
)

// TestDemoNotes holds what the demo's traps are to its code: an entry that only
// announces a rename and is outside of the leg, one that names its symbols in a
// block of code alone, and those in prose without any name.
func TestDemoNotes(t *testing.T) {
	rows, err := here(t).Changes(t.Context(), upgradeOf(t, "steelyard 4 and binlabel 3"))
	if err != nil {
		t.Fatal(err)
	}
	got := map[string]api.ChangeRow{}
	for _, r := range rows {
		got[fmt.Sprintf("%s:%d", r.Change.Notes, r.Change.Line)] = r
	}
	for place, want := range map[string]struct {
		state     string
		candidate bool
		causes    int
	}{
		"steelyard.md:58":  {"not-used", false, 0},
		"steelyard.md:15":  {"handled", true, 1},
		"binlabel-3.md:25": {"handled", true, 1},
		"steelyard.md:18":  {"handled", true, 1},
		"steelyard.md:48":  {"failing", true, 1},
		"steelyard.md:9":   {"not-used", true, 0},
	} {
		r := got[place]
		if string(r.State) != want.state || r.Candidate != want.candidate || len(r.Causes) != want.causes {
			t.Errorf("%s is %s, candidate %v, explains %v; want %+v", place, r.State, r.Candidate, r.Causes, want)
		}
	}
}

// TestConsoleShowsTraps holds that the console shows these so: the announcement
// faint and only when asked for, the others with the causes that they explain.
func TestConsoleShowsTraps(t *testing.T) {
	t.Parallel()
	ctx := browser(t)
	done := upgradeOf(t, "steelyard 4 and binlabel 3")
	var few, list, detail, line string
	do(t, ctx,
		chromedp.Navigate(page(done, "/notes")),
		chromedp.WaitVisible(`[data-list="changes"] [aria-current="true"]`),
		chromedp.Text(`[data-list="changes"]`, &few), // what concerns this code, the rest a key away
		chromedp.KeyEvent("t"),
		chromedp.WaitVisible(`//ol//button[contains(., "Labels have a size")]`),
		chromedp.Text(`[data-list="changes"]`, &list),
		chromedp.Click(`//ol//button[contains(., "Labels have a size")]`),
		chromedp.WaitVisible(`//ol//button[@aria-current="true" and contains(., "Labels have a size")]`),
		chromedp.WaitVisible(`[data-detail] a`),
		chromedp.Text(`[data-detail]`, &detail),
		chromedp.Text(`[data-line="30"]`, &line),
	)
	if strings.Contains(list, "will be renamed in the next major") || !strings.Contains(list, "rounding follows the trade's rule") {
		t.Errorf("the list is\n%s", list)
	}
	if !strings.Contains(detail, "explains") || !strings.Contains(line, "- label.width / label.height") {
		t.Errorf("of the block of code alone it says %q beside %q", detail, line)
	}
	do(t, ctx,
		chromedp.Click(`//label[contains(., "outside of what moves")]/input`),
		chromedp.Click(`//ol//button[contains(., "will be renamed in the next major")]`),
		chromedp.WaitVisible(`//*[@data-detail]//p[contains(., "lies outside of what moves")]`),
	)
}

// TestConsoleNotes walks the notes by keyboard and says a word; the address
// keeps where it is.
func TestConsoleNotes(t *testing.T) {
	t.Parallel()
	ctx := browser(t)
	c := here(t)
	upgrade := begin(t, c, "walk")
	if _, err := c.AddNotes(t.Context(), upgrade, api.NewNotes{Name: "jar.md", Package: "example.org/jar", Text: jarChanges}); err != nil {
		t.Fatal(err)
	}
	withTree(t, c, upgrade, map[string]string{"a.go": "package a\n\nimport \"example.org/jar\"\n\nvar x = jar.OpenLid(jar.Lid)\nvar y = jar.OpenLid(nil)\n"}, "")
	var title, text, diff, address string
	do(t, ctx,
		chromedp.Navigate(page(upgrade, "/notes")),
		chromedp.WaitVisible(`[data-list="changes"] [aria-current="true"][data-state="exposed"]`),
		chromedp.Text(`[data-list="changes"] [aria-current="true"]`, &title),
		chromedp.Text(`[data-detail]`, &text),
		chromedp.KeyEvent("p"),
		chromedp.WaitVisible(`[data-patch] pre`),
		chromedp.Text(`[data-patch] pre`, &diff),
	)
	if !strings.Contains(title, "OpenLid was renamed to Open") || !strings.Contains(text, "a.go:5") || !strings.Contains(text, "certain") {
		t.Errorf("it begins with %q and %q", title, text)
	}
	if !strings.Contains(diff, "+var y = jar.Open(nil)") {
		t.Errorf("the patch is\n%s", diff)
	}
	do(t, ctx, // without the second place
		chromedp.Click(`//label[contains(., "line 6")]/input`),
		chromedp.WaitVisible(`//*[@data-patch]//pre[not(contains(., "+var y"))]`),
		chromedp.Text(`[data-patch] pre`, &diff),
		chromedp.KeyEvent("j"),
		chromedp.WaitVisible(`[aria-current="true"][data-state="silent"]`),
		chromedp.KeyEvent("l"),
		chromedp.WaitVisible(`input[name="reason"]`),
		chromedp.SendKeys(`input[name="reason"]`, "with the next release"+kb.Enter),
		chromedp.WaitVisible(`[aria-current="true"][data-state="later"]`),
		chromedp.Click(`[data-filter="later"]`),
		chromedp.WaitNotPresent(`[data-state="exposed"]`),
		chromedp.Location(&address),
	)
	if !strings.Contains(diff, "+var x = jar.Open(jar.Lid)") || !strings.Contains(address, "state=later") || !strings.Contains(address, "change=") {
		t.Errorf("the address is %s, the patch\n%s", address, diff)
	}
	rows, err := c.Changes(t.Context(), upgrade)
	if err != nil || rows[1].State != "later" || rows[1].Author != "keeper" {
		t.Errorf("the changes are %+v (%v)", rows, err)
	}
	do(t, ctx, // one that was read wrongly
		chromedp.Click(`//button[text()="Read wrongly"]`),
		chromedp.SetValue(`[data-correct] select`, "behaviour"),
		chromedp.SendKeys(`[data-correct] input[aria-label="Old name"]`, "Lid"),
		chromedp.SendKeys(`[data-correct] input[aria-label="New name"]`, "Cap"),
		chromedp.SendKeys(`[data-correct] input[name="reason"]`, "it says so below"+kb.Enter),
		chromedp.WaitNotPresent(`[data-correct]`),
		chromedp.WaitVisible(`//*[@data-detail]//p[contains(., "Lid") and contains(., "Cap")]`),
	)
	do(t, ctx, // one that was forgotten
		chromedp.Click(`//button[contains(., "Add an unlisted change")]`),
		chromedp.SendKeys(`input[name="title"]`, "`Lid` is square"),
		chromedp.Click(`//button[text()="Add"]`),
		chromedp.WaitVisible(`//ol//button[contains(., "Lid is square") and contains(., "added by hand")]`),
	)
}

// TestConsoleVersions holds what the versions page says of the demo, and of an
// upgrade without a source tree.
func TestConsoleVersions(t *testing.T) {
	t.Parallel()
	ctx := browser(t)
	var text string
	do(t, ctx,
		chromedp.Navigate(page(upgradeOf(t, "binlabel 4"), "/versions")),
		chromedp.WaitVisible("table"),
		chromedp.Text("main", &text),
	)
	for _, part := range []string{"Intended", "@orchardworks/label-preview 0.9.2 wants", "4.0.0 is here", "by @orchardworks/binlabel 4.0.0 › inkwell 2.3.0", "Read from go.mod, package-lock.json, package.json"} {
		if !strings.Contains(text, part) {
			t.Errorf("no %q in\n%s", part, text)
		}
	}
	do(t, ctx,
		chromedp.Navigate(page(begin(t, here(t), "bare"), "/versions")),
		chromedp.WaitVisible(`//*[@role="alert" and contains(., "no run came with its source tree")]`),
		chromedp.Navigate(page(begin(t, here(t), "no notes"), "/notes")),
		chromedp.WaitVisible(`//p[contains(., "No release notes have been added yet")]`),
	)
}
