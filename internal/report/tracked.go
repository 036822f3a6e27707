package report

import (
	"fmt"
	"io"
	"slices"
	"strings"

	"charm.land/lipgloss/v2"

	"unicausa/internal/api"
)

// shape is the mark of a cause's standing: a shape and a word beside colour.
func shape(c *api.Cause) (mark, word string) {
	switch {
	case c.Into != "":
		return "=", "one with " + c.Into
	case c.Status == "cleared":
		return "✓", "cleared"
	case c.Decision != nil && (c.Decision.Kind == "defer" || c.Decision.Kind == "wait"):
		return "⧗", decided(c.Decision)
	case c.Decision != nil && c.Decision.Kind == "accept":
		return "=", "accepted"
	case c.Decision != nil && c.Decision.Kind == "dismiss":
		return "–", "dismissed"
	case c.Known:
		return "·", "known"
	case c.Status == "hidden":
		return "◌", "out of sight"
	case c.Decision != nil:
		return "▷", "fix " + string(c.Decision.Outcome)
	case c.Returned:
		return "↻", "returned"
	case c.Uncovered:
		return "◇", "uncovered"
	}
	return "▲", "new"
}

func decided(d *api.Decision) string {
	word := map[api.DecisionKind]string{"defer": "deferred", "wait": "waiting"}[d.Kind]
	if d.Due != "" {
		word += " until " + d.Due
	}
	return word
}

// Causes lists causes in their order; all adds the cleared and the known ones.
func Causes(w io.Writer, causes []api.Cause, all bool) error {
	var b strings.Builder
	width := Width(w)
	shown, cleared, known := 0, 0, 0
	for i := range causes {
		c := &causes[i]
		switch {
		case c.Known:
			known++
		case c.Status == "cleared":
			cleared++
		}
		if (c.Known || c.Status == "cleared") && !all {
			continue
		}
		shown++
		mark, word := shape(c)
		size := fmt.Sprintf("%3d", c.Shown+c.Hidden)
		if c.Status == "cleared" {
			size = "  ·"
		}
		tail := word
		room := width - 14 - lipgloss.Width(tail)
		title := fit(c.Title, room)
		fmt.Fprintf(&b, "%s %s %s  %s%s%s\n", accent.Render(mark), strong.Render(fmt.Sprintf("%-4s", c.ID)), size, title,
			strings.Repeat(" ", max(2, room-lipgloss.Width(title)+2)), faint.Render(tail))
		detail := c.Reason
		if c.Status != "shown" {
			detail = ""
		}
		if c.Link != nil {
			detail = strings.TrimPrefix(detail+" · "+fmt.Sprintf("%s:%d %s", c.Link.Change.Notes, c.Link.Change.Line, certainty(c.Link.Standing, c.Link.Score)), " · ")
		}
		if detail != "" {
			fmt.Fprintf(&b, "           %s\n", faint.Render(clip(detail, width-11)))
		}
	}
	if shown == 0 {
		fmt.Fprintln(&b, good.Render("✓ no cause is left"))
	}
	if !all && cleared+known > 0 {
		fmt.Fprintf(&b, "%s\n", faint.Render(fmt.Sprintf("%d cleared and %d there before are not listed: --all shows them", cleared, known)))
	}
	_, err := lipgloss.Fprint(w, b.String())
	return err
}

// mostSymptoms is how many symptoms of a cause are shown in full.
const mostSymptoms = 12

// Cause shows one cause; texts are the notes of its links as written, by change.
func Cause(w io.Writer, d *api.CauseDetail, texts map[string][]string) error {
	var b strings.Builder
	c := &d.Cause
	width := Width(w)
	mark, word := shape(c)
	fmt.Fprintf(&b, "%s  %s\n", accent.Bold(true).Render(c.ID), strong.Render(fit(c.Title, width-6)))
	fmt.Fprintf(&b, "%s %s · %s shown, %d out of sight, since run %d · %s · %s\n", accent.Render(mark), word, count(c.Shown, "symptom"), c.Hidden, c.First, c.Phase, strings.Join(c.Checks, ", "))
	if c.From != "" {
		fmt.Fprintf(&b, "%s\n", faint.Render(fmt.Sprintf("  a part of %s until run %d", c.From, c.First)))
	}
	for _, r := range d.Because {
		fmt.Fprintf(&b, "%s\n", faint.Render(clip(fmt.Sprintf("  %s %s (%.2f)", r.What, r.Value, r.Weight), width)))
	}
	if text := Lived(d.Life); text != "" {
		fmt.Fprintf(&b, "%s\n", faint.Render(clip("  "+text, width)))
	}
	for _, step := range d.Steps {
		fmt.Fprintf(&b, "%s %s\n", accent.Render("→"), fit(step.Text, width-2))
	}
	fmt.Fprintln(&b)
	for i := range d.Symptoms {
		if i == mostSymptoms {
			fmt.Fprintf(&b, "  %s\n", faint.Render(fmt.Sprintf("and %d more", len(d.Symptoms)-i)))
			break
		}
		symptomLines(&b, i+1, &d.Symptoms[i], width)
	}
	for i, l := range d.Links {
		fmt.Fprintf(&b, "\n%s %s %s\n", accent.Render(fmt.Sprintf("%d %s:%d", i+1, l.Change.Notes, l.Change.Line)), string(l.State),
			faint.Render(strings.TrimSpace(fmt.Sprintf("%s %s, %s", l.Change.Kind, l.Change.Version, certainty(l.Standing, l.Score)))))
		for n, line := range texts[l.Change.ID] {
			if n == 8 {
				fmt.Fprintln(&b, "  │ …")
				break
			}
			fmt.Fprintf(&b, "  │ %s\n", fit(line, width-6))
		}
		for _, r := range l.Because {
			fmt.Fprintf(&b, "%s\n", faint.Render(clip(fmt.Sprintf("    %+.2f %s %s", r.Weight, r.What, r.Value), width)))
		}
	}
	if len(d.Links) == 0 {
		fmt.Fprintf(&b, "\n%s\n", faint.Render("no entry of the notes explains this"))
	}
	for _, x := range d.Decisions {
		tail := fmt.Sprintf("%s, after run %d", someone(x.Author), x.AfterRun)
		if x.Undone {
			tail += ", taken back"
		}
		fmt.Fprintf(&b, "\n%s %s: %s %s\n", strong.Render(string(x.Kind)), string(x.Outcome), x.Reason, faint.Render(tail))
	}
	for _, x := range d.Cases {
		fmt.Fprintf(&b, "\n%s\n", fit(before(&x), width))
	}
	for _, x := range d.Commits {
		fmt.Fprintf(&b, "%s %s %s\n", accent.Render(fmt.Sprintf("%.10s", x.ID)), fit(x.Subject, width-40), faint.Render(strings.TrimSpace(did(&x, c.ID))))
	}
	_, err := lipgloss.Fprint(w, b.String())
	return err
}

// Lived tells a cause's life over the runs in a sentence: which run brought it,
// shrank it, cleared it, brought it back.
func Lived(life []api.LifePoint) string {
	var parts []string
	size := 0
	for i, p := range life {
		now := p.Shown + p.Hidden
		switch {
		case i == 0 && now > 0:
			parts = append(parts, fmt.Sprintf("run %d brought %s", p.Run, count(now, "symptom")))
		case size == 0 && now > 0:
			parts = append(parts, fmt.Sprintf("run %d brought it back with %d", p.Run, now))
		case size > 0 && now == 0:
			parts = append(parts, fmt.Sprintf("run %d cleared it", p.Run))
		case now < size:
			parts = append(parts, fmt.Sprintf("run %d shrank it to %d", p.Run, now))
		case now > size:
			parts = append(parts, fmt.Sprintf("run %d grew it to %d", p.Run, now))
		}
		size = now
	}
	return strings.Join(parts, ", ")
}

func symptomLines(b *strings.Builder, number int, s *api.Symptom, width int) {
	place := s.File
	if s.Line > 0 {
		place = fmt.Sprintf("%s:%d", s.File, s.Line)
	}
	if s.Test != "" {
		place = strings.TrimSpace(s.Test + "  " + place)
	}
	log := ""
	if len(s.Places) > 0 {
		p := s.Places[0]
		log = fmt.Sprintf("run %d, %s:%d", p.Run, p.Input, p.Line)
	}
	mark := "▲"
	switch {
	case s.Status == "cleared":
		mark = "✓"
	case s.Status == "hidden":
		mark = "◌"
	case s.Follower:
		mark = "└"
	case s.State != "new":
		mark = "·"
	}
	fmt.Fprintf(b, "%s %s %s  %s\n", accent.Render(mark), strong.Render(fmt.Sprint(number)), place, faint.Render(log))
	fmt.Fprintf(b, "  │ %s\n", fit(s.Message, width-6))
	if s.Still != "" {
		fmt.Fprintf(b, "  %s\n", fit(s.Still, width-4))
	}
	for _, l := range s.Source {
		if l.Line == s.Line {
			fmt.Fprintf(b, "  │ %s\n", faint.Render(fit(strings.TrimSpace(l.Text), width-6)))
		}
	}
}

// before tells how a cause was settled in another upgrade.
func before(c *api.SettledCase) string {
	text := fmt.Sprintf("seen before, in %s: %s", strings.TrimSpace(c.Package+" "+span(c)), c.Decision)
	if c.Reason != "" {
		text += ", " + c.Reason
	}
	if c.Helped > 0 {
		text += fmt.Sprintf(" (helped %d times since)", c.Helped)
	}
	return text
}

// did is what a commit is to a cause.
func did(c *api.Commit, cause string) string {
	var parts []string
	for _, p := range []struct {
		what string
		list []string
	}{{"names it", c.Named}, {"cleared it", c.Cleared}, {"brought it", c.Opened}} {
		if slices.Contains(p.list, cause) {
			parts = append(parts, p.what)
		}
	}
	return strings.Join(parts, ", ")
}
