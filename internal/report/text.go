// Package report shows a triage report: as text for a terminal or a pipe.
package report

import (
	"fmt"
	"io"
	"strings"

	"charm.land/lipgloss/v2"
	"github.com/charmbracelet/x/term"

	"unicausa/internal/core/symptom"
	"unicausa/internal/core/triage"
)

// Texts holds documents by name, as lines, so that a note can be shown as written.
type Texts map[string][]string

// Styles of the terminal: weight and one accent do the work, so the text reads
// the same without colour. A terminal does not say whether it is dark or light:
// the two colours are told from black and from white alike, at 4.4 to 1 or more.
var (
	strong = lipgloss.NewStyle().Bold(true)
	faint  = lipgloss.NewStyle().Faint(true)
	accent = lipgloss.NewStyle().Foreground(lipgloss.Color("130"))
	good   = lipgloss.NewStyle().Foreground(lipgloss.Color("29"))
)

// marks are the shapes of the states; plain letters where a pipe or an old
// terminal takes the output.
var marks = map[symptom.State]string{symptom.New: "▲", symptom.Unchanged: "·", symptom.Updated: "·", symptom.Absent: "✓"}

// Text writes the report for people: causes in the order to tackle them.
func Text(w io.Writer, r *triage.Report, texts Texts) error {
	p := &page{report: r, texts: texts, width: Width(w), symptoms: map[string]*triage.Symptom{}, changes: map[string]*triage.Change{}}
	for i := range r.Symptoms {
		p.symptoms[r.Symptoms[i].ID] = &r.Symptoms[i]
	}
	for i := range r.Changes {
		p.changes[r.Changes[i].ID] = &r.Changes[i]
	}
	p.summary()
	known := 0
	for i := range r.Causes {
		if r.Causes[i].Known {
			known++
			continue
		}
		p.cause(&r.Causes[i])
	}
	p.rest(known)
	_, err := lipgloss.Fprint(w, p.text.String())
	return err
}

// Width is the width of the terminal behind w, at most 120 columns, and 100
// where there is none.
func Width(w io.Writer) int {
	if f, ok := w.(interface{ Fd() uintptr }); ok {
		if width, _, err := term.GetSize(f.Fd()); err == nil && width > 20 {
			return min(width, 120)
		}
	}
	return 100
}

type page struct {
	report   *triage.Report
	texts    Texts
	width    int
	symptoms map[string]*triage.Symptom
	changes  map[string]*triage.Change
	text     strings.Builder
}

func (p *page) line(parts ...string) { p.text.WriteString(strings.Join(parts, "") + "\n") }

func (p *page) summary() {
	s := p.report.Summary
	fresh, linked := 0, 0
	for _, c := range p.report.Causes {
		if !c.Known {
			fresh++
			if len(c.Links) > 0 {
				linked++
			}
		}
	}
	if s.New == 0 {
		p.line(good.Render("✓ nothing new"), faint.Render(fmt.Sprintf("  %d unchanged, %d absent", s.Unchanged+s.Updated, s.Absent)))
		return
	}
	p.line(strong.Render(fmt.Sprintf("%s %s from %s", marks[symptom.New], count(s.New, "new symptom"), count(fresh, "cause"))),
		faint.Render(fmt.Sprintf("  %d explained by the notes · %d unchanged · %d absent", linked, s.Unchanged+s.Updated, s.Absent)))
}

// cause writes one cause: what it is and why now, one symptom with its source
// line, and the change that explains it as the notes have it.
func (p *page) cause(c *triage.Cause) {
	const indent = "    "
	size := count(len(c.Symptoms), "symptom")
	head := fmt.Sprintf("%-4s", c.ID)
	room := p.width - len(head) - len(size) - len(c.Phase) - 5
	title := fit(c.Title, room)
	p.line()
	p.line(accent.Bold(true).Render(head), strong.Render(title), strings.Repeat(" ", max(1, room-lipgloss.Width(title)+1)), faint.Render(fmt.Sprintf("%s · %s", size, c.Phase)))
	p.line(indent, faint.Render(c.Reason))
	if s := p.symptoms[c.Root]; s != nil {
		p.symptom(indent, s)
	}
	p.where(indent, c)
	for _, step := range c.Steps {
		if step.Kind != triage.StepPlaces {
			p.line(indent, accent.Render("→ "), fit(step.Text, p.width-6))
			break
		}
	}
	if len(c.Links) == 0 {
		p.line(indent, faint.Render("no entry of the notes explains this"))
		return
	}
	p.link(indent, &c.Links[0], p.symptoms[c.Root])
}

func (p *page) symptom(indent string, s *triage.Symptom) {
	place := s.Test
	if s.File != "" {
		place = s.File
		if s.Line > 0 {
			place = fmt.Sprintf("%s:%d", s.File, s.Line)
		}
		if s.Test != "" {
			place = s.Test + "  " + place
		}
	}
	log := ""
	for _, at := range s.At {
		log = fmt.Sprintf("%s:%d", at.Input, at.Line)
	}
	p.line(indent, place, faint.Render("  "+log))
	p.line(indent, "│ ", fit(s.Message, p.width-8))
	if s.Source != "" {
		p.line(indent, "│ ", faint.Render(fit(s.Source, p.width-8)))
	}
}

// where says in which files the cause stands.
func (p *page) where(indent string, c *triage.Cause) {
	var order []string
	n := map[string]int{}
	for _, id := range c.Symptoms {
		s := p.symptoms[id]
		if s == nil {
			continue
		}
		file := s.File
		if file == "" {
			file = s.Unit
		}
		if n[file] == 0 {
			order = append(order, file)
		}
		n[file]++
	}
	if len(c.Symptoms) < 2 {
		return
	}
	var parts []string
	for i, file := range order {
		if i == 4 {
			parts = append(parts, fmt.Sprintf("%d more", len(order)-i))
			break
		}
		parts = append(parts, fmt.Sprintf("%s %d", file, n[file]))
	}
	p.line(indent, faint.Render(fit("in "+strings.Join(parts, ", "), p.width-4)))
}

func (p *page) link(indent string, l *triage.Link, root *triage.Symptom) {
	c := p.changes[l.Change]
	if c == nil {
		return
	}
	version := c.Version
	if version != "" {
		version = " in " + version
	}
	p.line(indent, accent.Render(fmt.Sprintf("%s:%d", c.Notes, c.Line)), faint.Render(fmt.Sprintf("  %s%s, %s", c.Kind, version, certainty(l.Standing, l.Score))))
	for _, text := range telling(p.excerpt(c), root, 3) {
		p.line(indent, "│ ", fit(text, p.width-8))
	}
	var reasons []string
	for _, b := range l.Because {
		if b.Weight > 0 && len(reasons) < 3 {
			reasons = append(reasons, strings.TrimSpace(b.What+" "+b.Value))
		}
	}
	p.line(indent, faint.Render(clip("because it "+strings.Join(reasons, "; "), p.width-4)))
}

// excerpt is the note as written, or its title where the document is not at hand.
func (p *page) excerpt(c *triage.Change) []string {
	var lines []string
	if text := p.texts[c.Notes]; c.End <= len(text) && c.Line > 0 {
		for _, line := range text[c.Line-1 : c.End] {
			if strings.TrimSpace(line) != "" {
				lines = append(lines, strings.TrimRight(line, "\r "))
			}
		}
	}
	if len(lines) == 0 {
		lines = []string{c.Title}
	}
	return lines
}

// telling picks the lines of a note that say most: its first, those that name
// what is broken, then the rest, in their order.
func telling(lines []string, root *triage.Symptom, most int) []string {
	if len(lines) <= most {
		return lines
	}
	picked := map[int]bool{0: true}
	for n, line := range lines {
		if root != nil && len(picked) < most && names(line, root.Symbols) {
			picked[n] = true
		}
	}
	var list []string
	for n, line := range lines {
		if picked[n] || n < most && len(picked)+n < most {
			list = append(list, line)
		}
	}
	return list
}

func names(line string, symbols []string) bool {
	for _, s := range symbols {
		if name := s[strings.LastIndexAny(s, ".:#")+1:]; name != "" && strings.Contains(line, name) {
			return true
		}
	}
	return false
}

// certainty says a link's standing and score in words.
func certainty[S ~string](standing S, score float64) string {
	if string(standing) == "likely" {
		return fmt.Sprintf("likely, %.0f %%", 100*score)
	}
	return fmt.Sprintf("perhaps, %.0f %%", 100*score)
}

// silent lists the changes that touch the code and that nothing printed shows.
func (p *page) silent() {
	var list []*triage.Change
	for i := range p.report.Changes {
		if p.report.Changes[i].Silent {
			list = append(list, &p.report.Changes[i])
		}
	}
	if len(list) == 0 {
		return
	}
	p.line()
	p.line(strong.Render("● "+count(len(list), "silent risk")), ": in the code, and nothing that was printed shows it")
	for i, c := range list {
		if i == 10 {
			p.line("  ", faint.Render(fmt.Sprintf("and %d more", len(list)-i)))
			return
		}
		where := fmt.Sprintf("%s:%d", c.Notes, c.Line)
		first := ""
		if len(c.Exposure.Places) > 0 {
			first = fmt.Sprintf("%s:%d", c.Exposure.Places[0].File, c.Exposure.Places[0].Line)
		}
		p.line("  ", accent.Render(where), " ", fit(c.Title, p.width-len(where)-5))
		p.line("    ", faint.Render(clip(fmt.Sprintf("%s in %s, as in %s", count(c.Exposure.Count, "place"), count(c.Exposure.Files, "file"), first), p.width-4)))
	}
}

func (p *page) rest(known int) {
	p.silent()
	if known > 0 {
		p.line()
		p.line(faint.Render(fmt.Sprintf("%s there before the bump: %s", count(known, "cause"), p.knownTitles())))
	}
	for _, in := range p.report.Inputs {
		if in.Problem != "" {
			p.line()
			p.line(strong.Render("! "+in.Name), " ", in.Problem)
		}
		for _, s := range in.Stated {
			if s.Count != s.Read {
				p.line(faint.Render(fmt.Sprintf("! %s:%d says %d %s, %d were read", in.Name, s.Line, s.Count, s.What, s.Read)))
			}
		}
	}
	if n := len(p.report.Unread); n > 0 {
		p.line()
		p.line(strong.Render(fmt.Sprintf("? %s like errors and could not be read:", count(n, "line that looks", "lines that look"))))
		for i, u := range p.report.Unread {
			if i == 5 {
				p.line("  ", faint.Render(fmt.Sprintf("and %d more", n-i)))
				break
			}
			p.line("  ", faint.Render(fmt.Sprintf("%s:%d ", u.Input, u.Line)), fit(u.Text, p.width-len(u.Input)-10))
		}
	}
}

func (p *page) knownTitles() string {
	var titles []string
	for _, c := range p.report.Causes {
		if c.Known {
			titles = append(titles, c.ID+" "+fit(c.Title, 40))
		}
	}
	return fit(strings.Join(titles, "; "), p.width-30)
}

// count says a number with its noun.
func count(n int, forms ...string) string {
	if n == 1 {
		return "1 " + forms[0]
	}
	if len(forms) > 1 {
		return fmt.Sprintf("%d %s", n, forms[1])
	}
	return fmt.Sprintf("%d %ss", n, forms[0])
}

// clip cuts a text at its end to a width.
func clip(s string, width int) string {
	r := []rune(s)
	if len(r) <= width || width < 8 {
		return s
	}
	return string(r[:width-1]) + "…"
}

// fit cuts a text in the middle to a width; its head and its end say most.
func fit(s string, width int) string {
	s = strings.ReplaceAll(s, "\t", "  ")
	r := []rune(s)
	if len(r) <= width || width < 8 {
		return s
	}
	head := width * 2 / 3
	return string(r[:head]) + "…" + string(r[len(r)-(width-head-1):])
}
