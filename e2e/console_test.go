package e2e

import (
	"context"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/chromedp/cdproto/emulation"
	"github.com/chromedp/cdproto/network"
	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"

	"unicausa/internal/api"
	"unicausa/internal/client"
)

// browser opens a page of Chromium, 1280 by 800.
func browser(t *testing.T) context.Context {
	t.Helper()
	program, err := exec.LookPath("chromium")
	if err != nil {
		t.Fatal("Chromium is not installed: make test installs it (scripts/setup chromium)")
	}
	options := append(chromedp.DefaultExecAllocatorOptions[:],
		chromedp.ExecPath(program), chromedp.NoSandbox, chromedp.DisableGPU, chromedp.WindowSize(1280, 800),
		chromedp.Flag("disable-background-networking", true), chromedp.Flag("disable-component-update", true),
		chromedp.Flag("disable-quic", true), chromedp.Flag("no-first-run", true))
	ctx, cancel := context.WithTimeout(t.Context(), 5*time.Minute)
	t.Cleanup(cancel)
	ctx, cancel = chromedp.NewExecAllocator(ctx, options...)
	t.Cleanup(cancel)
	ctx, cancel = chromedp.NewContext(ctx)
	t.Cleanup(cancel)
	if err := chromedp.Run(ctx); err != nil { // the browser lives as long as the context of its first run
		t.Fatal(err)
	}
	key, err := here(t).SignInKey(t.Context())
	if err != nil {
		t.Fatal(err)
	}
	do(t, ctx, chromedp.Navigate(server+"/sign-in?key="+key), chromedp.WaitVisible("h1", chromedp.ByQuery))
	return ctx
}

// do runs actions in the page; a failure says what the page shows.
func do(t *testing.T, ctx context.Context, actions ...chromedp.Action) {
	t.Helper()
	limited, cancel := context.WithTimeout(ctx, time.Minute)
	defer cancel()
	if err := chromedp.Run(limited, actions...); err != nil {
		var text, where string
		look, done := context.WithTimeout(ctx, 3*time.Second)
		defer done()
		chromedp.Run(look, chromedp.Location(&where), chromedp.Text("body", &text, chromedp.ByQuery))
		t.Fatalf("%v at %s, which shows:\n%s", err, where, text)
	}
}

// TestSignIn holds that a browser that nobody signed in sees how to, that a token lets it
// in as whoever it is of, that the keeper adds people on a page of its own, and that signing out
// ends it.
func TestSignIn(t *testing.T) {
	t.Parallel()
	ctx := browser(t)
	var secret, name string
	do(t, ctx,
		chromedp.Navigate(server+"/service"),
		chromedp.WaitVisible(`form[aria-label="Add a person"]`, chromedp.ByQuery),
		chromedp.SendKeys(`input[aria-label="Name"]`, "Ilse", chromedp.ByQuery),
		chromedp.Click(`form[aria-label="Add a person"] button[type=submit]`, chromedp.ByQuery),
		chromedp.Text(`[data-secret]`, &secret, chromedp.ByQuery),
		chromedp.WaitVisible(`//td[.="Ilse"]`),
	)
	do(t, ctx,
		chromedp.Click(`//button[.="Sign out"]`),
		chromedp.WaitVisible(`//code[.="unicausa sign-in"]`),
		chromedp.SendKeys("#token", "wrong", chromedp.ByQuery),
		chromedp.Click(`//button[.="Sign in"]`),
		chromedp.WaitVisible(`//p[contains(., "this token is not known here")]`),
		chromedp.Navigate(server),
		chromedp.WaitVisible("#token", chromedp.ByQuery),
		chromedp.SendKeys("#token", secret, chromedp.ByQuery),
		chromedp.Click(`//button[.="Sign in"]`),
		chromedp.WaitVisible(`//h2[.="Upgrades"]`),
		chromedp.Text(`//header//span[starts-with(., "as ")]`, &name),
	)
	if !strings.Contains(name, "Ilse") {
		t.Errorf("it is signed in %q", name)
	}
	var cookies []*network.Cookie
	do(t, ctx, chromedp.ActionFunc(func(ctx context.Context) (err error) {
		cookies, err = network.GetCookies().Do(ctx)
		return err
	}))
	if len(cookies) != 1 || !cookies[0].HTTPOnly || cookies[0].SameSite != network.CookieSameSiteStrict {
		t.Errorf("the cookies are %+v", cookies)
	}
	do(t, ctx, chromedp.Navigate(server+"/service"), chromedp.WaitVisible(`//p[contains(., "Ilse may not do this: it takes the role admin")]`))
}

// page is the address of a page of an upgrade.
func page(upgrade int64, rest string) string {
	return fmt.Sprintf("%s/upgrades/%d%s", server, upgrade, rest)
}

func TestConsoleFromOverviewToConfirmedLink(t *testing.T) {
	ctx := browser(t)
	upgrade := upgradeOf(t, "binlabel 4")
	var title, verdict string
	do(t, ctx,
		chromedp.Navigate(server),
		chromedp.WaitVisible(`//a[contains(., "binlabel 4")]`),
		chromedp.Click(`//a[contains(., "binlabel 4")]`),
		chromedp.WaitVisible(`[data-list="causes"] [data-cause]`),
		chromedp.Text("main", &verdict, chromedp.ByQuery),
		chromedp.Click(`[data-cause="C1"]`),
		chromedp.WaitVisible(`[data-say="confirm"]`),
		chromedp.Text(`[data-part="cause"] h2`, &title, chromedp.ByQuery),
		chromedp.Click(`[data-say="confirm"]`),
		chromedp.WaitVisible(`[data-state="confirmed"]`),
	)
	if !strings.Contains(verdict, "The gate is shut") {
		t.Errorf("the overview does not say that the gate is shut:\n%s", verdict)
	}
	if !strings.Contains(title, "render takes the template first") {
		t.Errorf("the cause's title is %q", title)
	}
	detail, err := here(t).Cause(t.Context(), upgrade, "C1")
	if err != nil {
		t.Fatal(err)
	}
	if state := detail.Links[0].State; state != api.LinkStateConfirmed {
		t.Errorf("the link is %s, want confirmed", state)
	}
	// Pressing it again takes the word back, and the browser's way back leads to the overview.
	// By key: what is read anew meanwhile may move the button from under the mouse.
	do(t, ctx,
		chromedp.WaitVisible(`[data-say="confirm"]:enabled`),
		chromedp.SendKeys(`[data-say="confirm"]`, kb.Enter),
		chromedp.WaitVisible(`[data-state="proposed"]`),
		chromedp.NavigateBack(),
		chromedp.WaitVisible(`[data-list="causes"]`),
	)
}

func TestConsoleByKeyboard(t *testing.T) {
	ctx := browser(t)
	upgrade := upgradeOf(t, "binlabel 4")
	var where string
	do(t, ctx,
		chromedp.Navigate(page(upgrade, "")),
		chromedp.WaitVisible(`[data-list="causes"] [data-cause]`),
		chromedp.KeyEvent("j"), chromedp.KeyEvent("o"),
		chromedp.WaitVisible(`[data-decide="defer"]`),
		chromedp.KeyEvent("d"),
		chromedp.WaitVisible(`textarea[name="reason"]`),
		chromedp.SendKeys(`textarea[name="reason"]`, "the front is rewritten anyway"),
		chromedp.SendKeys(`input[name="due"]`, "binlabel 5"),
		chromedp.Click(`button[type="submit"]`),
		chromedp.WaitVisible(`//li[contains(., "the front is rewritten anyway")]`),
		chromedp.Location(&where),
	)
	if !strings.HasSuffix(where, "/causes/C1") {
		t.Errorf("the keys led to %s", where)
	}
	// The decision stands where it has an address of its own.
	do(t, ctx, chromedp.Navigate(where), chromedp.WaitVisible(`//span[contains(., "deferred to binlabel 5")]`))
}

func TestConsoleShowsARunWithoutReload(t *testing.T) {
	c := here(t)
	upgrade := begin(t, c, "live")
	ctx := browser(t)
	do(t, ctx, chromedp.Navigate(page(upgrade, "")), chromedp.WaitVisible(`//code[contains(., "unicausa baseline")]`))
	sendRun(t, c, upgrade, "build", 0, "")
	do(t, ctx, chromedp.WaitVisible(`//td[contains(., "#1 baseline") or contains(., "#1")] | //tr[contains(., "build")]`))
	if _, err := c.AcceptBaseline(t.Context(), upgrade); err != nil {
		t.Fatal(err)
	}
	sendRun(t, c, upgrade, "build", 1, "# example.org/pantry\n./shelf.go:3:9: undefined: jar.OpenLid\n")
	var list string
	do(t, ctx, chromedp.WaitVisible(`[data-cause="C1"]`), chromedp.Text(`[data-cause="C1"]`, &list))
	if !strings.Contains(list, "jar.OpenLid no longer exists") {
		t.Errorf("the list shows %q", list)
	}
}

func TestConsoleSaysWhatIsMissing(t *testing.T) {
	t.Parallel()
	ctx := browser(t)
	for address, part := range map[string]string{
		server + "/upgrades/999999": "This is not here",
		server + "/nowhere":         "There is no such page",
		page(upgradeOf(t, "steelyard 4 and binlabel 3"), "/causes/C99"): "This is not here",
	} {
		do(t, ctx, chromedp.Navigate(address), chromedp.WaitVisible(`//*[contains(text(), "`+part+`")]`))
	}
}

// begin begins an upgrade of a made-up project.
func begin(t *testing.T, c *client.Client, name string) int64 {
	t.Helper()
	u, err := c.Begin(t.Context(), api.NewUpgrade{Project: "pantry", Name: name + " " + t.Name(), Moves: []api.Move{{Package: "example.org/jar", From: "4.2.0", To: "5.0.0"}}})
	if err != nil {
		t.Fatal(err)
	}
	return u.ID
}

// sendRun records a run of a check with one output and waits for it.
func sendRun(t *testing.T, c *client.Client, upgrade int64, check string, exit int, output string) api.Run {
	t.Helper()
	run, err := c.Record(t.Context(), upgrade, api.RunFacts{Check: check, Exit: exit, StartedAt: time.Now()},
		[]client.Input{{Name: check + ".log", Content: strings.NewReader(output)}}, nil, nil)
	if err == nil {
		run, err = c.Processed(t.Context(), upgrade, run.Number)
	}
	if err != nil {
		t.Fatal(err)
	}
	return run
}

// TestScreenshots takes the pictures of docs/screenshots; see docs/contributing.md.
func TestScreenshots(t *testing.T) {
	if *shots == "" {
		t.Skip("no folder: give -shots")
	}
	done, middle, begun, legs, long := upgradeOf(t, "steelyard 4 and binlabel 3"), upgradeOf(t, "binlabel 4"), upgradeOf(t, "steelyard 5"), upgradeOf(t, "ticket 2"), upgradeOf(t, "millstone 8 and coldchain 3")
	for _, shot := range []struct {
		name, address, theme string
		width                int64
	}{
		{"start", server + "/", "light", 1280},
		{"upgrade-middle", page(long, ""), "light", 1280},
		{"cause", page(long, "/causes/C2"), "light", 1280},
		{"causes", page(long, "/causes?show=all"), "light", 1280},
		{"casebook", server + "/casebook", "light", 1280},
		{"runs", page(done, "/runs"), "light", 1280},
		{"run-dark", page(done, "/runs/6?line=16"), "dark", 1280},
		{"compare", page(done, "/compare/5/13"), "light", 1280},
		{"commits", page(legs, "/commits"), "light", 1280},
		{"review", page(done, "/review"), "light", 1280},
		{"tests", page(legs, "/tests"), "light", 1280},
		{"notes", page(long, "/notes"), "light", 1280},
		{"versions", page(middle, "/versions"), "light", 1280},
		{"debts", page(begun, "/debts"), "light", 1280},
		{"report", page(legs, "/report?story=closing"), "light", 1280},
		{"activity", page(legs, "/activity"), "light", 1280},
	} {
		ctx := browser(t)
		var png []byte
		do(t, ctx,
			emulation.SetDeviceMetricsOverride(shot.width, 800, 1, false),
			chromedp.Navigate(server+"/healthz"),
			chromedp.Evaluate(`localStorage.setItem("theme", "`+shot.theme+`")`, nil),
			chromedp.Navigate(shot.address),
			chromedp.WaitVisible("h1, [role=alert]", chromedp.ByQuery),
			chromedp.ActionFunc(func(ctx context.Context) error {
				if shot.name != "start" {
					return nil
				}
				return chromedp.Run(ctx, dropDemo(t)...)
			}),
			chromedp.Sleep(time.Second),
			chromedp.CaptureScreenshot(&png),
		)
		if err := os.WriteFile(filepath.Join(*shots, shot.name+".png"), png, 0o644); err != nil {
			t.Fatal(err)
		}
	}
}

// dropDemo gives the first page some outputs, notes and the source of the demo, and has the
// causes shown.
func dropDemo(t *testing.T) []chromedp.Action {
	t.Helper()
	folder := t.TempDir()
	var files []string
	for name, from := range map[string]string{
		"before-test.log": "recordings/steelyard-4/00-baseline/test.log", "test.log": "recordings/steelyard-4/01-bump/test.log", "build.log": "recordings/steelyard-4/01-bump/build.log",
		"front.log": "recordings/steelyard-4/01-bump/front.log", "steelyard.md": "notes/steelyard.md", "binlabel-3.md": "notes/binlabel-3.md", "orchard-ledger.zip": "recordings/steelyard-4/01-bump/source.zip",
	} {
		data, err := os.ReadFile(filepath.Join("..", "internal", "demo", from))
		if err == nil {
			err = os.WriteFile(filepath.Join(folder, name), data, 0o644)
		}
		if err != nil {
			t.Fatal(err)
		}
		files = append(files, filepath.Join(folder, name))
	}
	return []chromedp.Action{
		chromedp.SetUploadFiles(`input[type=file]`, files, chromedp.ByQuery),
		chromedp.Click(`//button[.="Show the causes"]`),
		chromedp.WaitVisible(`[data-list="triage"] h3`, chromedp.ByQuery),
	}
}
