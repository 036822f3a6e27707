package e2e

import (
	"bytes"
	"image"
	"image/png"
	"os"
	"testing"

	"github.com/chromedp/chromedp"
)

// TestPictures holds that what a failing test leaves to be seen belongs to its symptom,
// beside what it left in the baseline, whether its output names it or a pattern finds it.
func TestPictures(t *testing.T) {
	t.Setenv("UNICAUSA_SERVER", server)
	t.Chdir(t.TempDir())
	var shot bytes.Buffer
	if err := png.Encode(&shot, image.NewRGBA(image.Rect(0, 0, 8, 8))); err != nil {
		t.Fatal(err)
	}
	suite := func(failing string) string {
		return `<testsuite name="shelf"><testcase classname="shelf" name="opens a lid">` + failing + `</testcase><testcase classname="shelf" name="closes"/></testsuite>`
	}
	write(t, map[string]string{
		"picture.png": shot.String(), "good.xml": suite(""),
		"bad.xml": suite(`<failure message="the lid is not drawn">no lid</failure><system-out>[[ATTACHMENT|shots/shelf-opens-a-lid.png]]</system-out>`),
		"unicausa.yaml": "checks:\n  - name: browser\n    run: |\n      mkdir -p shots; cp picture.png shots/shelf-opens-a-lid.png; cp picture.png shots/other.png; cat report.xml; ! grep -q failure report.xml\n" +
			"    pictures: [shots/shelf-*.png]\n",
		"report.xml": suite(""),
	})
	want(t, 0, nil, "begin", "--project", "pictured", "--name", t.Name(), "--move", "jar=1..2")
	want(t, 0, nil, "record", "--all")
	want(t, 0, nil, "baseline")
	bad, err := os.ReadFile("bad.xml")
	if err != nil {
		t.Fatal(err)
	}
	write(t, map[string]string{"report.xml": string(bad)})
	want(t, 1, nil, "record", "--all")
	upgrade := noted(t)
	detail, err := here(t).Cause(t.Context(), upgrade, "C1")
	if err != nil {
		t.Fatal(err)
	}
	shots := detail.Symptoms[0].Pictures
	if len(shots) != 1 || shots[0].Name != "shots/shelf-opens-a-lid.png" || shots[0].Run != 2 || shots[0].Before == nil || shots[0].Before.Run != 1 {
		t.Fatalf("the pictures are %+v", shots)
	}
	// Of files that are there already the pictures are, too.
	want(t, 1, nil, "record", "--check", "browser", "--exit", "1", "--file", "bad.xml")
	runs, err := here(t).Runs(t.Context(), upgrade)
	if err != nil || len(runs[0].Pictures) != 1 {
		t.Errorf("%v: the last run has %+v", err, runs[0].Pictures)
	}
	want(t, 2, []string{"pattern of pictures"}, "record", "--check", "browser", "--file", "bad.xml", "--picture", "[")
	ctx := browser(t)
	var drawn bool
	do(t, ctx,
		chromedp.Navigate(page(upgrade, "/causes/C1")),
		chromedp.WaitVisible(`[data-list="pictures"] img`, chromedp.ByQuery),
		chromedp.Poll(`[...document.querySelectorAll('[data-list="pictures"] img')].filter((i) => i.naturalWidth === 8).length === 2`, &drawn),
	)
	if !drawn {
		t.Error("the pictures are not drawn")
	}
}
