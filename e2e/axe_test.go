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
			ctx := browser(t)
			do(t, ctx,
				emulation.SetDeviceMetricsOverride(width, 800, 1, false),
				chromedp.Evaluate(fmt.Sprintf(`localStorage.setItem("theme", %q)`, theme), nil))
			for name, address := range addresses {
				var found []violation
				var text string
				slow, cancel := context.WithTimeout(ctx, time.Minute)
				err := chromedp.Run(slow,
					chromedp.Navigate(address),
					chromedp.WaitVisible(`main :is(h1, h2, p)`, chromedp.ByQuery),
					chromedp.Poll(`!document.querySelector("[aria-busy=true]")`, nil, chromedp.WithPollingInterval(100*time.Millisecond)),
					chromedp.Evaluate(string(engine), nil),
					// Of a long document, and of a long list, the first lines stand for all: they are alike.
					chromedp.Evaluate(`axe.run({exclude: [["[data-line]:nth-child(n+60)"], ["li:nth-child(n+60)"]]}, {resultTypes: ["violations"], iframes: false}).then((r) => JSON.stringify(r.violations))`, &text,
						func(p *runtime.EvaluateParams) *runtime.EvaluateParams { return p.WithAwaitPromise(true) }),
				)
				cancel()
				if err != nil {
					t.Fatalf("%s, %d px, %s: %v", name, width, theme, err)
				}
				if err := json.Unmarshal([]byte(text), &found); err != nil {
					t.Fatal(err)
				}
				for _, v := range found {
					var at []string
					for i, n := range v.Nodes {
						if i == 3 {
							at = append(at, fmt.Sprintf("and %d more", len(v.Nodes)-i))
							break
						}
						at = append(at, fmt.Sprint(n.Target...))
					}
					t.Errorf("%s, %d px, %s: %s (%s) at %s", name, width, theme, v.Help, v.ID, strings.Join(at, "; "))
				}
			}
		}
	}
}
