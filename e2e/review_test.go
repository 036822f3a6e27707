package e2e

import (
	"os"
	"os/exec"
	"strconv"
	"strings"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"

	"unicausa/internal/api"
)

// cannery begins an upgrade of a small project with its baseline, and works there.
func cannery(t *testing.T) (upgrade int64) {
	t.Helper()
	c := here(t)
	upgrade = begin(t, c, "review")
	if _, err := c.AddNotes(t.Context(), upgrade, api.NewNotes{Name: "jar.md", Package: "example.org/jar", Text: "## 5.0.0\n\n- `OpenLid` was renamed to `Open`.\n"}); err != nil {
		t.Fatal(err)
	}
	t.Chdir(t.TempDir())
	for name, value := range map[string]string{"UNICAUSA_SERVER": server, "UNICAUSA_TOKEN": tokenOf(t, "Mirja"), "UNICAUSA_UPGRADE": strconv.FormatInt(upgrade, 10)} {
		t.Setenv(name, value)
	}
	write(t, map[string]string{
		"go.mod": "module cannery\n\nrequire example.org/jar v4.2.0\n",
		"a.go":   "package a\n\nimport \"example.org/jar\"\n\nvar x = jar.OpenLid(nil)\n\nvar limit = 12\n",
		"b.go":   "package a\n\nimport \"example.org/jar\"\n\nvar y = jar.OpenLid(nil)\n",
	})
	run(t, "git", "init", "-q", "-b", "main")
	commit(t, "Jars and lids")
	unicausa(t, "record", "--check", "build", "--", "true")
	want(t, 0, nil, "baseline")
	return upgrade
}

// TestReview reviews what is not committed, a range, a diff, a commit and the whole.
func TestReview(t *testing.T) {
	c := here(t)
	upgrade := cannery(t)
	want(t, 0, []string{"nothing changed"}, "review")

	everywhere(t, "a.go", "jar.OpenLid", "jar.Open")
	everywhere(t, "a.go", "12", "21")
	everywhere(t, "go.mod", "v4.2.0", "v5.0.0")
	printed := want(t, 1, []string{
		"What is not committed", "1 unasked for, 1 asked for, 1 following from the move", "Nothing asks for\n● a.go:7  12 became 21", "- var limit = 12", "+ var limit = 21",
		"✓ OpenLid was renamed to Open", "Left behind\n○ OpenLid was renamed to Open", "1 of 2 places", "b.go:5 var y = jar.OpenLid(nil)",
	}, "review")
	if strings.Index(printed, "Nothing asks for") > strings.Index(printed, "Left behind") {
		t.Errorf("what was left behind stands first:\n%s", printed)
	}
	commit(t, "Follow jar 5")
	unicausa(t, "record", "--check", "build", "--", "true")
	want(t, 1, []string{"What changed since the baseline", "12 became 21"}, "review")
	want(t, 1, []string{"HEAD^..HEAD", "12 became 21"}, "review", "HEAD^..HEAD")

	head, err := exec.Command("git", "rev-parse", "HEAD").Output()
	if err != nil {
		t.Fatal(err)
	}
	r, err := c.Review(t.Context(), upgrade, string(head[:12]))
	if err != nil || r.Clean || !strings.HasSuffix(r.Of, "Follow jar 5") || r.Hunks[0].Standing != api.Unasked || len(r.Edits) != 1 || r.Edits[0].Places != 1 || r.Edits[0].At != "jar.md:3" {
		t.Errorf("of the commit comes %+v (%v)", r, err)
	}
	markdown := want(t, 1, []string{"# Review: What changed since the baseline", "- `a.go:7` 12 became 21", "| OpenLid was renamed to Open | jar.md:3 | 1 hunk |", "  - `b.go:5`"}, "review", "--format", "markdown")
	if story, err := c.Story(t.Context(), upgrade, "pull-request", "markdown"); err != nil || !strings.Contains(string(story), "## Review: [every hunk with what asks for it]") || !strings.Contains(string(story), "12 became 21") {
		t.Errorf("the text of the pull request is\n%s (%v)\nthe review\n%s", story, err, markdown)
	}

	diff, err := exec.Command("git", "diff", "HEAD^", "--", "a.go").Output()
	if err != nil {
		t.Fatal(err)
	}
	if err := os.WriteFile("own.diff", diff, 0o644); err != nil {
		t.Fatal(err)
	}
	want(t, 1, []string{"own.diff", "1 unasked for, 1 asked for\n"}, "review", "own.diff")
	everywhere(t, "b.go", "jar.OpenLid", "jar.Open")
	want(t, 0, []string{"What is not committed", "1 asked for"}, "review") // nothing left
	write(t, map[string]string{"no.diff": "12 becomes 21\n", "other.diff": "--- a/c.go\n+++ b/c.go\n@@ -1 +1 @@\n-var z = jar.OpenLid(nil)\n+var z = jar.Open(nil)\n"})
	want(t, 0, []string{"1 asked for", "the diff fits neither side of the latest run's source tree"}, "review", "other.diff")
	for _, wrong := range []struct {
		says string
		args []string
	}{
		{"this is no unified diff", []string{"review", "no.diff"}},
		{"nothing.diff is neither a file nor a range", []string{"review", "nothing.diff"}},
		{"give text, markdown or json", []string{"review", "--format", "html"}},
		{"one range or one diff", []string{"review", "HEAD", "HEAD"}},
	} {
		want(t, 2, []string{wrong.says}, wrong.args...)
	}
	if _, err := c.Review(t.Context(), upgrade, "0000"); err == nil || !strings.Contains(err.Error(), "commit 0000: not found") {
		t.Errorf("of no commit comes %v", err)
	}
}

// TestConsoleReview opens the review of a commit, and of a diff that is pasted.
func TestConsoleReview(t *testing.T) {
	ctx := browser(t)
	upgrade := cannery(t)
	everywhere(t, "a.go", "jar.OpenLid", "jar.Open")
	everywhere(t, "a.go", "12", "21")
	commit(t, "Follow jar 5")
	unicausa(t, "record", "--check", "build", "--", "true")
	var first, left, pasted, problem string
	do(t, ctx,
		chromedp.Navigate(page(upgrade, "/commits")),
		chromedp.WaitVisible(`//a[text()="review"]`),
		chromedp.Click(`//tr[contains(., "Follow jar 5")]//a[text()="review"]`),
		chromedp.WaitVisible(`[data-hunk="unasked"]`),
		chromedp.Text(`[data-hunk="unasked"]`, &first),
		chromedp.Text(`[data-left]`, &left),
		chromedp.Click(`//button[text()="A diff of your own"]`),
		chromedp.SendKeys(`textarea[name="diff"]`, "no diff"),
		chromedp.Click(`[data-given] button`),
		chromedp.WaitVisible(`[data-given] [role="alert"]`),
		chromedp.Text(`[data-given] [role="alert"]`, &problem),
		chromedp.SendKeys(`textarea[name="diff"]`, strings.Repeat(kb.Backspace, len("no diff"))+"--- a/b.go\n+++ b/b.go\n@@ -5 +5 @@\n-var y = jar.OpenLid(nil)\n+var y = jar.Open(nil)\n"),
		chromedp.Click(`[data-given] button`),
		chromedp.WaitVisible(`//*[@data-review]//b[text()="The diff that was given"]`),
		chromedp.Text(`[data-review]`, &pasted),
	)
	if !strings.Contains(first, "a.go:7") || !strings.Contains(first, "12 became 21") || !strings.Contains(left, "b.go:5") || !strings.Contains(left, "1 of 2 places") {
		t.Errorf("it shows %q, and left behind %q", first, left)
	}
	if !strings.Contains(problem, "no unified diff") || !strings.Contains(pasted, "Everything is asked for") {
		t.Errorf("it says %q, and of the diff\n%s", problem, pasted)
	}
}

// TestReviewOfTheDemo reviews every upgrade of the demo: what is asked for, and the one
// expectation that moved on the way, on top.
func TestReviewOfTheDemo(t *testing.T) {
	c := here(t)
	for name, want := range map[string]string{
		"steelyard 4 and binlabel 3":  "more payout/payout_test.go: 35, 175 became 0, 140",
		"binlabel 4":                  "asked",
		"millstone 8 and coldchain 3": "unasked src/",
		"ticket 2":                    "unasked evening/evening.go",
		"steelyard 5":                 "",
	} {
		r, err := c.Review(t.Context(), upgradeOf(t, name), "")
		if err != nil {
			t.Errorf("%s: %v", name, err)
			continue
		}
		first := ""
		if len(r.Hunks) > 0 {
			h := r.Hunks[0]
			first = string(h.Standing) + " " + h.File
			for _, n := range h.Notices {
				first += ": " + n.Text
			}
		}
		if !strings.HasPrefix(first, want) || (first == "") != (want == "") {
			t.Errorf("of %s the first hunk is %q, want %q; in all %s", name, first, want, r.Summary)
		}
	}
}
