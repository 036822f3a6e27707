package e2e

import (
	"fmt"
	"strings"
	"testing"

	"github.com/chromedp/chromedp"
)

// TestElsewhereAndAsking holds that a cause shows where else it is open, to those who may see
// that project, and that a question about it is ready, with the way back for its answer.
func TestElsewhereAndAsking(t *testing.T) {
	c := here(t)
	here, there := begin(t, c, "here"), begin(t, c, "there")
	for _, upgrade := range []int64{here, there} {
		sendRun(t, c, upgrade, "build", 0, "")
		if _, err := c.AcceptBaseline(t.Context(), upgrade); err != nil {
			t.Fatal(err)
		}
		sendRun(t, c, upgrade, "build", 1, "# example.org/pantry\n./shelf.go:3:9: undefined: jar.OpenElsewhere\n")
	}
	t.Setenv("UNICAUSA_SERVER", server)
	want(t, 0, nil, "decide", "--upgrade", fmt.Sprint(there), "C1", "defer", "--reason", "after the harvest", "--due", "2031-01-01")
	detail, err := c.Cause(t.Context(), here, "C1")
	if err != nil || len(detail.Elsewhere) != 1 || detail.Elsewhere[0].Upgrade != there || detail.Elsewhere[0].Decision != "defer: after the harvest" {
		t.Fatalf("%v: elsewhere is %+v", err, detail.Elsewhere)
	}
	want(t, 0, []string{"After going from example.org/jar", "undefined: jar.OpenElsewhere", "what is the way to do it now?"}, "ask", "--upgrade", fmt.Sprint(here), "C1")
	want(t, 0, []string{"| package | worked with | fails with |"}, "ask", "--upgrade", fmt.Sprint(here), "--upstream", "C1")
	ctx := browser(t)
	var other, question, added string
	do(t, ctx,
		chromedp.Navigate(page(here, "/causes/C1")),
		chromedp.Text(`[data-part="elsewhere"]`, &other, chromedp.ByQuery),
		chromedp.Click(`//summary[.="A question, ready to paste"]`),
		chromedp.Text(`[data-part="ask"] pre`, &question, chromedp.ByQuery),
		chromedp.Click(`//button[.="Add what came back"]`),
		chromedp.SendKeys(`[data-part="ask"] input[name=title]`, "`OpenElsewhere` is `Open` now", chromedp.ByQuery),
		chromedp.SendKeys(`[data-part="ask"] input[name=source]`, "https://example.org/comment/7", chromedp.ByQuery),
		chromedp.Click(`[data-part="ask"] form button[type=submit]`, chromedp.ByQuery),
		chromedp.Text(`[data-part="ask"] [role=status]`, &added, chromedp.ByQuery),
	)
	if !strings.Contains(other, "C1 of there") || !strings.Contains(question, "jar.OpenElsewhere") || !strings.Contains(added, "OpenElsewhere") {
		t.Errorf("elsewhere: %s\nquestion: %s\nadded: %s", other, question, added)
	}
}

// TestUndo holds that an act is undone where it was done, and that one that fails says so.
func TestUndo(t *testing.T) {
	c := here(t)
	upgrade := begin(t, c, "undone")
	sendRun(t, c, upgrade, "build", 0, "")
	if _, err := c.AcceptBaseline(t.Context(), upgrade); err != nil {
		t.Fatal(err)
	}
	sendRun(t, c, upgrade, "build", 1, "# example.org/pantry\n./shelf.go:3:9: undefined: jar.One\n./shelf.go:4:9: undefined: jar.Two\n./shelf.go:5:9: undefined: jar.Three\n")
	ctx := browser(t)
	var said string
	do(t, ctx,
		chromedp.Navigate(page(upgrade, "/causes")),
		chromedp.WaitVisible(`[data-list="causes"] [data-cause="C3"]`),
		chromedp.Click(`[data-choose="all"]`, chromedp.ByQuery),
		chromedp.Click(`[data-bulk="merge"]`, chromedp.ByQuery),
		chromedp.Text(`[data-part="undo"]`, &said, chromedp.ByQuery),
		chromedp.WaitNotPresent(`[data-list="causes"] [data-cause="C3"]`),
		chromedp.Click(`//div[@data-part="undo"]//button[.="Undo"]`),
		chromedp.WaitVisible(`[data-list="causes"] [data-cause="C3"]`),
	)
	if !strings.Contains(said, "C2, C3 merged into C1") {
		t.Errorf("it says %q", said)
	}
	// A decision that somebody else takes meanwhile is not overwritten.
	do(t, ctx,
		chromedp.WaitNotPresent(`[data-part="undo"]`),
		chromedp.Click(`input[aria-label="Choose C2"]`, chromedp.ByQuery),
		chromedp.Click(`[data-bulk="accept"]`, chromedp.ByQuery),
		chromedp.WaitVisible(`textarea[name="reason"]`),
		// Held still, the page does not take in what the other one decides.
		chromedp.Evaluate(`document.querySelector('[data-list="causes"]').closest("section").dispatchEvent(new PointerEvent("pointerover", {bubbles: true}))`, nil),
	)
	t.Setenv("UNICAUSA_SERVER", server)
	want(t, 0, nil, "decide", "--upgrade", fmt.Sprint(upgrade), "C2", "dismiss", "--reason", "none of ours")
	do(t, ctx,
		chromedp.SendKeys(`textarea[name="reason"]`, "it is fine", chromedp.ByQuery),
		chromedp.Click(`form button[type="submit"]`, chromedp.ByQuery),
		chromedp.WaitVisible(`[role="alert"]`, chromedp.ByQuery),
	)
	detail, err := c.Cause(t.Context(), upgrade, "C2")
	if err != nil || len(detail.Decisions) != 1 || detail.Decisions[0].Kind != "dismiss" {
		t.Errorf("%v: the decisions are %+v", err, detail.Decisions)
	}
}
