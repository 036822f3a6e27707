package e2e

import (
	"context"
	"encoding/json"
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/chromedp/cdproto/emulation"
	"github.com/chromedp/cdproto/runtime"
	"github.com/chromedp/chromedp"
)

// violation is a rule of axe-core that a page breaks, and where.
type violation struct {
	ID, Help string
	Nodes    []struct{ Target []any }
}

// TestAccessible has axe-core look at every page, light and dark, wide and narrow. It finds
// nothing.
func TestAccessible(t *testing.T) {
	t.Parallel()
	engine, err := os.ReadFile(filepath.Join("..", "console", "node_modules", "axe-core", "axe.min.js"))
	if err != nil {
		t.Fatal("axe-core is not installed: make test installs it with the console's packages")
	}
	done, half := upgradeOf(t, "steelyard 4 and binlabel 3"), upgradeOf(t, "millstone 8 and coldchain 3")
	fresh := upgradeOf(t, "steelyard 5")
	addresses := map[string]string{"start": server + "/", "casebook": server + "/casebook", "service": server + "/service", "missing": server + "/nowhere"}
	for name, rest := range map[string]string{
		"overview": "", "causes": "/causes", "cause": "/causes/C1", "runs": "/runs", "run": "/runs/9", "compare": "/compare/3/9", "tests": "/tests", "notes": "/notes",
		"versions": "/versions", "commits": "/commits", "review": "/review", "debts": "/debts", "report": "/report", "activity": "/activity",
	} {
		addresses[name] = page(done, rest)
		addresses[name+" in the middle"] = page(half, rest)
	}
	addresses["beginning"] = page(fresh, "")
	for _, width := range []int64{1280, 390} {
		for _, theme := range []string{"light", "dark"} {
			t.Run(fmt.Sprintf("%d px, %s", width, theme), func(t *testing.T) {
				t.Parallel()
				ctx := browser(t)
				do(t, ctx,
					emulation.SetDeviceMetricsOverride(width, 800, 1, false),
					chromedp.Evaluate(fmt.Sprintf(`localStorage.setItem("theme", %q)`, theme), nil))
				for name, address := range addresses {
					for _, v := range violations(t, ctx, string(engine), address) {
						t.Errorf("%s: %s (%s) at %s", name, v.Help, v.ID, strings.Join(v.places(), "; "))
					}
				}
			})
		}
	}
}

// violations has the engine look at the page at an address. Of a long document, and of a long list,
// the first lines stand for all: they are alike.
func violations(t *testing.T, ctx context.Context, engine, address string) []violation {
	t.Helper()
	ctx, cancel := context.WithTimeout(ctx, time.Minute)
	defer cancel()
	var text string
	err := chromedp.Run(ctx,
		chromedp.Navigate(address),
		chromedp.WaitVisible(`main :is(h1, h2, p)`, chromedp.ByQuery),
		chromedp.Poll(`!document.querySelector("[aria-busy=true]")`, nil, chromedp.WithPollingInterval(100*time.Millisecond)),
		chromedp.Evaluate(engine, nil),
		chromedp.Evaluate(`axe.run({exclude: [["[data-line]:nth-child(n+60)"], ["li:nth-child(n+60)"]]}, {resultTypes: ["violations"], iframes: false}).then((r) => JSON.stringify(r.violations))`, &text,
			func(p *runtime.EvaluateParams) *runtime.EvaluateParams { return p.WithAwaitPromise(true) }),
	)
	if err != nil {
		t.Fatalf("%s: %v", address, err)
	}
	var found []violation
	if err := json.Unmarshal([]byte(text), &found); err != nil {
		t.Fatal(err)
	}
	return found
}

// places are the first places of a violation.
func (v *violation) places() []string {
	const most = 3
	var at []string
	for _, n := range v.Nodes[:min(len(v.Nodes), most)] {
		at = append(at, fmt.Sprint(n.Target...))
	}
	if more := len(v.Nodes) - most; more > 0 {
		at = append(at, fmt.Sprintf("and %d more", more))
	}
	return at
}
