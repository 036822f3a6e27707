package e2e

import (
	"strconv"
	"strings"
	"testing"

	"github.com/chromedp/chromedp"

	"unicausa/internal/api"
)

// TestPatchByExample learns an edit that is no rename, keeps it, offers it in another
// upgrade that has the same entry, and hands it on in the casebook.
func TestPatchByExample(t *testing.T) {
	c := here(t)
	notes := api.NewNotes{Name: "jar.md", Package: "example.org/jar", Text: "## 5.0.0\n\n- `Fill` takes the litres first.\n"}
	code := map[string]string{"a.go": "package a\n\nimport \"example.org/jar\"\n\nvar x = jar.Fill(apple, 5)\nvar y = jar.Fill(Fill(1), 2)\nvar z = jar.Fill(pear)\n"}
	upgrade := begin(t, c, "by example")
	if _, err := c.AddNotes(t.Context(), upgrade, notes); err != nil {
		t.Fatal(err)
	}
	withTree(t, c, upgrade, code, "")
	number := strconv.FormatInt(upgrade, 10)
	t.Setenv("UNICAUSA_SERVER", server)
	t.Setenv("UNICAUSA_UPGRADE", number)

	fill := []string{"patch", "jar.md:3", "--from", "jar.Fill(a, n)", "--to", "jar.Fill(n, a)"}
	want(t, 1, []string{"there is no patch: the note gives no pair"}, "patch", "jar.md:3")
	want(t, 0, []string{
		"+var x = jar.Fill(5, apple)", "+var y = jar.Fill(2, Fill(1))", "edit: jar.Fill(‹1›, ‹2›) → jar.Fill(‹2›, ‹1›)",
		"taken: a.go:5 an import says that it is the package's, and it has the shape of the example · ‹1› is apple · ‹2› is 5",
		"left alone: a.go:7 Fill: it does not have the shape of the example",
	}, fill...)
	if printed := want(t, 0, []string{"+var x"}, append(fill, "--only", "a.go:5")...); strings.Contains(printed, "+var y") {
		t.Errorf("of one place the patch is\n%s", printed)
	}
	want(t, 0, []string{"jar.Fill(‹1›, 5) → jar.Fill(5, ‹1›)", "left alone: a.go:6"}, append(fill[:2:2], "--from", "jar.Fill(a, 5)", "--to", "jar.Fill(5, a)", "--from", "jar.Fill(b, 5)", "--to", "jar.Fill(5, b)")...)
	for _, wrong := range []struct {
		says string
		args []string
	}{
		{"1 times --from and 0 times --to", []string{"patch", "jar.md:3", "--from", "a"}},
		{"name it, as in CHANGELOG.md:12", []string{"patch", "--keep", "--from", "f(a)", "--to", "g(a)"}},
		{"--keep remembers an example", []string{"patch", "jar.md:3", "--keep"}},
		{"--forget takes no example", []string{"patch", "jar.md:3", "--forget", "--from", "f(a)", "--to", "g(a)"}},
		{"the brackets of the code before do not close", []string{"patch", "--from", "f(a", "--to", "g(a)"}},
		{"is the same", []string{"patch", "--from", "f(a)", "--to", "f( a )"}},
	} {
		want(t, 2, []string{wrong.says}, wrong.args...)
	}

	want(t, 0, []string{"kept in the casebook"}, append(fill, "--keep")...)
	want(t, 0, []string{"+var x = jar.Fill(5, apple)", "kept in the casebook"}, "patch", "jar.md:3")
	want(t, 0, []string{"edit     jar.Fill(‹1›, ‹2›) → jar.Fill(‹2›, ‹1›)"}, "casebook")
	book, err := c.Casebook(t.Context(), false)
	if err != nil || len(book.Templates) == 0 || strings.Contains(book.Templates[0].Examples[0].From, "(a, n)") {
		t.Errorf("the casebook has %+v (%v)", book.Templates, err)
	}

	other := begin(t, c, "by example, elsewhere")
	if _, err := c.AddNotes(t.Context(), other, notes); err != nil {
		t.Fatal(err)
	}
	withTree(t, c, other, code, "")
	t.Setenv("UNICAUSA_UPGRADE", strconv.FormatInt(other, 10))
	want(t, 0, []string{"+var x = jar.Fill(5, apple)", "kept in the casebook"}, "patch", "jar.md:3")
	want(t, 1, []string{"there is no patch"}, "patch", "jar.md:3", "--forget") // here, not there
	want(t, 1, []string{"there is no patch"}, "patch", "jar.md:3")
	want(t, 0, []string{"+var x"}, "patch", "jar.md:3", "--upgrade", number)
}

// TestConsoleLearnsAnEdit shows the console an edit and keeps it.
func TestConsoleLearnsAnEdit(t *testing.T) {
	t.Parallel()
	ctx := browser(t)
	c := here(t)
	upgrade := begin(t, c, "learns")
	if _, err := c.AddNotes(t.Context(), upgrade, api.NewNotes{Name: "jar.md", Package: "example.org/jar", Text: "## 5.0.0\n\n- `Shut` takes the force first.\n"}); err != nil {
		t.Fatal(err)
	}
	withTree(t, c, upgrade, map[string]string{"a.go": "package a\n\nimport \"example.org/jar\"\n\nvar x = jar.Shut(lid, 5)\n"}, "")
	var learnt, kept, problem string
	do(t, ctx,
		chromedp.Navigate(page(upgrade, "/notes")),
		chromedp.WaitVisible(`[data-list="changes"] [aria-current="true"]`),
		chromedp.KeyEvent("p"),
		chromedp.WaitVisible(`[data-example]`),
		chromedp.Click(`[data-example]`),
		chromedp.SendKeys(`textarea[name="from0"]`, "jar.Shut(a, n"),
		chromedp.SendKeys(`textarea[name="to0"]`, "jar.Shut(n, a)"),
		chromedp.Click(`[data-examples] button[type="submit"]`),
		chromedp.WaitVisible(`[data-examples] [role="alert"]`),
		chromedp.Text(`[data-examples] [role="alert"]`, &problem),
		chromedp.SendKeys(`textarea[name="from0"]`, ")"),
		chromedp.Click(`[data-examples] button[type="submit"]`),
		chromedp.WaitVisible(`[data-learnt] pre`),
		chromedp.Text(`[data-learnt]`, &learnt),
		chromedp.Click(`[data-keep]`),
		chromedp.WaitNotPresent(`[data-examples]`),
		chromedp.WaitVisible(`//*[@data-patch]//button[text()="Go by the notes again"]`),
		chromedp.Text(`[data-patch]`, &kept),
	)
	if !strings.Contains(problem, "do not close") || !strings.Contains(learnt, "jar.Shut(‹1›, ‹2›) → jar.Shut(‹2›, ‹1›)") || !strings.Contains(learnt, "‹2› is 5") {
		t.Errorf("it says %q, and learnt is\n%s", problem, learnt)
	}
	if !strings.Contains(kept, "+var x = jar.Shut(5, lid)") {
		t.Errorf("kept is\n%s", kept)
	}
}

// TestPatchReadsWhatIsInstalled holds a patch against the package in node_modules: what
// it does not declare, or declares with other arguments, is left alone.
func TestPatchReadsWhatIsInstalled(t *testing.T) {
	c := here(t)
	upgrade := begin(t, c, "installed")
	if _, err := c.AddNotes(t.Context(), upgrade, api.NewNotes{Name: "label.md", Package: "@orchard/label", Text: "## 5.0.0\n\n- `printLabel` is called `print`.\n- `renderLabel` is called `render`.\n- `cutLabel` is called `cut`.\n"}); err != nil {
		t.Fatal(err)
	}
	code := map[string]string{"a.ts": "import { printLabel, renderLabel, cutLabel } from \"@orchard/label\";\nprintLabel(1);\nrenderLabel(1, 2);\nrenderLabel(3);\ncutLabel(4);\n"}
	withTree(t, c, upgrade, code, "")
	t.Chdir(t.TempDir())
	t.Setenv("UNICAUSA_SERVER", server)
	t.Setenv("UNICAUSA_UPGRADE", strconv.FormatInt(upgrade, 10))
	write(t, code)
	want(t, 0, []string{"+print(1);"}, "patch", "label.md:3") // nothing is installed
	write(t, map[string]string{"node_modules/@orchard/label/index.d.ts": "export declare function print(n: number): void;\nexport declare function render(n: number): void;\n"})
	want(t, 0, []string{"+print(1);", "read: print is declared in @orchard/label at index.d.ts:1"}, "patch", "label.md:3")
	printed := want(t, 0, []string{"+render(3);", "left alone: a.ts:3 renderLabel: render takes 1 arguments (index.d.ts:2), and 2 stand here"}, "patch", "label.md:4")
	if strings.Contains(printed, "+render(1, 2)") {
		t.Errorf("the patch has what does not fit:\n%s", printed)
	}
	want(t, 1, []string{"left alone: a.ts:5 cutLabel: cut is not in @orchard/label as it is installed", "none of the places fits what the new version declares"}, "patch", "label.md:5")
	write(t, map[string]string{"node_modules/@orchard/label/index.d.ts": "export declare function cutLabel(n: number): void;\n"})
	want(t, 0, []string{"+cut(4);", "read: cut is not in node_modules/@orchard/label: that is another version"}, "patch", "label.md:5")
}
