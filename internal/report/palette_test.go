package report

import (
	"bytes"
	"fmt"
	"image/color"
	"math"
	"os"
	"path/filepath"
	"regexp"
	"strings"
	"testing"
	"unicausa/internal/api"

	"charm.land/lipgloss/v2"
)

// TestPalette holds that the pages have the colours of the console.
func TestPalette(t *testing.T) {
	css, err := os.ReadFile(filepath.Join("..", "..", "console", "src", "style.css"))
	if err != nil {
		t.Fatal(err)
	}
	own, err := templates.ReadFile("palette.tmpl")
	if err != nil {
		t.Fatal(err)
	}
	pairs := regexp.MustCompile(`--([\w-]+): light-dark\((#\w+), (#\w+)\)`).FindAllSubmatch(own, -1)
	if len(pairs) < 10 {
		t.Fatalf("only %d colours are in the palette", len(pairs))
	}
	for _, m := range pairs {
		values := regexp.MustCompile(`--`+string(m[1])+`: (#\w+);`).FindAllSubmatch(css, -1)
		if len(values) != 2 || string(values[0][1]) != string(m[2]) || string(values[1][1]) != string(m[3]) {
			t.Errorf("%s is %s and %s, in the console %s", m[1], m[2], m[3], values)
		}
	}
}

// TestTerminalColours holds that the terminal's colours can be read on black
// and on white: contrast as WCAG 2.2 counts it.
func TestTerminalColours(t *testing.T) {
	luminance := func(c color.Color) float64 {
		linear := func(v uint32) float64 {
			s := float64(v) / 0xffff
			if s <= 0.04045 {
				return s / 12.92
			}
			return math.Pow((s+0.055)/1.055, 2.4)
		}
		r, g, b, _ := c.RGBA()
		return 0.2126*linear(r) + 0.7152*linear(g) + 0.0722*linear(b)
	}
	for name, style := range map[string]lipgloss.Style{"accent": accent, "good": good} {
		l := luminance(style.GetForeground())
		if white, black := 1.05/(l+0.05), (l+0.05)/0.05; white < 4.4 || black < 4.4 {
			t.Errorf("%s has a contrast of %.2f on white and %.2f on black", name, white, black)
		}
	}
}

// TestColoursAreThere holds that every colour that a page asks for is one of the palette.
func TestColoursAreThere(t *testing.T) {
	day := func(run int, causes map[string]int) api.HistoryPoint {
		return api.HistoryPoint{Run: run, Check: "build", Causes: causes}
	}
	many := map[string]int{}
	for i := range 2 * tones {
		many[fmt.Sprintf("C%d", i+1)] = 1
	}
	var page bytes.Buffer
	told := Told{Overview: api.Overview{History: []api.HistoryPoint{day(1, many), day(2, map[string]int{"C1": 1})}}}
	if err := StoryHTML(&page, Closing, &told); err != nil {
		t.Fatal(err)
	}
	asked := regexp.MustCompile(`var\((--[a-z0-9-]+)\)`).FindAllStringSubmatch(page.String(), -1)
	tints := map[string]bool{}
	for _, m := range asked {
		if !strings.Contains(page.String(), m[1]+": ") {
			t.Errorf("the page asks for %s, which it does not have", m[1])
		}
		if strings.HasPrefix(m[1], "--tint-") {
			tints[m[1]] = true
		}
	}
	if len(tints) != tones {
		t.Errorf("%d causes have %d colours of %d", len(many), len(tints), tones)
	}
}
