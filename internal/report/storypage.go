package report

import (
	"bytes"
	"fmt"
	"html/template"
	"io"
	"sort"
	"strings"

	"github.com/yuin/goldmark"
	"github.com/yuin/goldmark/extension"

	"unicausa/internal/api"
)

// StoryHTML writes a report for people as one page that needs nothing else,
// with its charts, and prints well.
func StoryHTML(w io.Writer, story Story, t *Told) error {
	var text bytes.Buffer
	if err := StoryMarkdown(&text, story, t); err != nil {
		return err
	}
	var body bytes.Buffer
	if err := goldmark.New(goldmark.WithExtensions(extension.Table)).Convert(text.Bytes(), &body); err != nil {
		return fmt.Errorf("writing the page: %w", err)
	}
	page, err := template.ParseFS(templates, "story.html.tmpl", "palette.tmpl")
	if err != nil {
		return err
	}
	title, rest, _ := strings.Cut(body.String(), "</h1>")
	return page.Execute(w, map[string]any{
		"Title": t.Overview.Upgrade.Name, "Made": now().UTC().Format("2006-01-02 15:04 UTC"), "Chart": burndown(t.Overview.History),
		"Head": template.HTML(title + "</h1>"), "Body": template.HTML(rest), // of goldmark, which lets no raw HTML through
	})
}

// tones is how many colours there are for causes, --tint-1 and so on.
const tones = 8

// bar is one run in the chart of causes over the runs: a part for each cause.
type bar struct {
	X, Width int
	Label    string
	Parts    []part
}

type part struct {
	Y, Height int
	Tone      int // 1 to 8, the same for a cause all along
	Cause     string
}

// chart is drawn in a field of Width by Height.
type chart struct {
	Width, Height, Most int
	Bars                []bar
}

// burndown stacks the symptoms of each cause that the runs left shown.
func burndown(history []api.HistoryPoint) *chart {
	const width, height = 720, 160
	most := 0
	var names []string
	seen := map[string]bool{}
	for _, p := range history {
		total := 0
		for name, n := range p.Causes {
			total += n
			if !seen[name] {
				seen[name] = true
				names = append(names, name)
			}
		}
		most = max(most, total)
	}
	if most == 0 {
		return nil
	}
	sort.Slice(names, func(i, j int) bool {
		return len(names[i]) < len(names[j]) || len(names[i]) == len(names[j]) && names[i] < names[j]
	})
	c := &chart{Width: width, Height: height, Most: most}
	step := max(2, width/len(history))
	for i, p := range history {
		b := bar{X: i * step, Width: max(1, step-2), Label: fmt.Sprintf("run %d of %s: %s", p.Run, p.Check, p.Subject)}
		y := height
		for tone, name := range names {
			if n := p.Causes[name]; n > 0 {
				h := max(1, n*height/most)
				y -= h
				b.Parts = append(b.Parts, part{Y: y, Height: h, Tone: tone%tones + 1, Cause: fmt.Sprintf("%s: %s", name, count(n, "symptom"))})
			}
		}
		c.Bars = append(c.Bars, b)
	}
	return c
}
