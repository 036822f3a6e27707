package report

import (
	"fmt"
	"io"
	"strings"

	"charm.land/lipgloss/v2"

	"unicausa/internal/api"
	"unicausa/internal/core/notes"
)

// changeShapes are the marks of a change's state, and its words.
var changeShapes = map[api.ChangeRowState][2]string{
	"failing": {"▲", "failing"}, "exposed": {"○", "exposed"}, "handled": {"✓", "handled"}, "later": {"⧗", "later"}, "not-used": {"·", "not used"},
}

// changeShape is the mark of a change and what it is in words.
func changeShape(r *api.ChangeRow) (mark, word string) {
	shape := changeShapes[r.State]
	if r.Silent {
		return "●", "silent risk"
	}
	if r.Perhaps {
		return "◌", "perhaps a risk"
	}
	return shape[0], shape[1]
}

// Changes lists changes: those that concern the code, or all.
func Changes(w io.Writer, rows []api.ChangeRow, all bool) error {
	var b strings.Builder
	width := Width(w)
	outside, unused := 0, 0
	for i := range rows {
		r := &rows[i]
		switch {
		case !r.Candidate:
			outside++
		case r.State == "not-used":
			unused++
		}
		if !all && (!r.Candidate || r.State == "not-used") {
			continue
		}
		mark, word := changeShape(r)
		title := strong.Render(fit(r.Change.Title, width-26))
		if !r.Candidate {
			mark, word, title = " ", "outside", faint.Render(fit(r.Change.Title, width-26))
		}
		fmt.Fprintf(&b, "%s %-11s  %s\n", accent.Render(mark), word, title)
		fmt.Fprintf(&b, "               %s\n", faint.Render(clip(strings.Join(changeFacts(r), " · "), width-15)))
	}
	if b.Len() == 0 {
		fmt.Fprintln(&b, good.Render("✓ no change of the notes concerns this code"))
	}
	if !all && outside+unused > 0 {
		fmt.Fprintf(&b, "%s\n", faint.Render(fmt.Sprintf("%d not used here and %d outside of what moves are not listed: --all shows them", unused, outside)))
	}
	_, err := lipgloss.Fprint(w, b.String())
	return err
}

// changeFacts are what is told of a change in one line.
func changeFacts(r *api.ChangeRow) []string {
	c := &r.Change
	list := []string{fmt.Sprintf("%s:%d", c.Notes, c.Line), strings.TrimSpace(c.Kind + " " + c.Version)}
	if c.Impact != "unknown" {
		list = append(list, c.Impact+" impact")
	}
	left := ""
	if r.State == "handled" && leaves(c.Kind) {
		left = "left behind, perhaps: "
	}
	if r.Places > 0 {
		list = append(list, fmt.Sprintf("%s%s in %s", left, count(r.Places, "place"), count(r.Files, "file")))
	}
	if r.Said > 0 {
		list = append(list, fmt.Sprintf("%d in comments or documents", r.Said))
	}
	if len(r.Causes) > 0 {
		list = append(list, strings.Join(r.Causes, ", "))
	}
	for _, m := range r.Requires {
		list = append(list, "asks for "+strings.TrimSpace(m.Name+" "+m.Least+strings.TrimSuffix("above "+m.Above, "above ")))
	}
	if r.Added {
		list = append(list, "added by hand")
	}
	if r.Corrected {
		list = append(list, "corrected")
	}
	if r.Reason != "" {
		list = append(list, r.Reason)
	}
	return list
}

// leaves reports whether a change of a kind leaves an old name behind.
func leaves(kind string) bool {
	return kind == "removed" || kind == "renamed" || kind == "moved" || kind == "deprecated"
}

// Change shows one change: the note as written, the places it touches, what was
// said of it.
func Change(w io.Writer, d *api.ChangeDetail) error {
	var b strings.Builder
	width := Width(w)
	mark, word := changeShape(&d.Row)
	fmt.Fprintf(&b, "%s\n%s %s · %s\n\n", strong.Render(fit(d.Row.Change.Title, width)), accent.Render(mark), word, strings.Join(changeFacts(&d.Row), " · "))
	for _, line := range d.Text {
		fmt.Fprintf(&b, "  │ %s\n", clip(line, width-4))
	}
	for _, r := range d.Row.Change.Renames {
		fmt.Fprintf(&b, "  %s %s %s\n", r.From, accent.Render("→"), r.To)
	}
	fmt.Fprintln(&b)
	if len(d.At) == 0 {
		looked := "its words name nothing that could be looked for"
		switch {
		case d.Waits:
			looked = "it has not been looked for in the code yet: the next run with its source does"
		case len(d.Searched) > 0:
			looked = "looked for " + strings.Join(d.Searched, ", ") + ": they stand nowhere in the code"
		}
		fmt.Fprintf(&b, "  %s\n", faint.Render(clip(looked, width-2)))
	}
	for i, p := range d.At {
		if i == mostPlaces {
			fmt.Fprintf(&b, "  %s\n", faint.Render(fmt.Sprintf("and %d more", d.Row.Places+d.Row.Said-i)))
			break
		}
		fmt.Fprintf(&b, "  %s %s\n", accent.Render(fmt.Sprintf("%s:%d", p.File, p.Line)), faint.Render(sureness(p.Sure)+", "+string(p.Zone)))
		fmt.Fprintf(&b, "  │ %s\n", clip(strings.TrimSpace(p.Text), width-4))
	}
	for _, said := range d.Words {
		words := strings.TrimSpace(said.State + " " + said.Kind)
		for _, r := range said.Renames {
			words += " " + r.From + " → " + r.To
		}
		fmt.Fprintf(&b, "  %s %s %s\n", said.At.Format("2006-01-02 15:04"), said.Author, strings.TrimSpace(words+": "+said.Reason))
	}
	_, err := lipgloss.Fprint(w, b.String())
	return err
}

const mostPlaces = 30

// sureness says how certain a place is, in words.
func sureness(sure float64) string {
	switch {
	case sure >= 1:
		return "certain"
	case sure >= 0.7:
		return "likely"
	case sure >= 0.5:
		return "perhaps"
	}
	return "said"
}

// ReadNotes lists what was read of notes; what lies outside of the versions is
// faint.
func ReadNotes(w io.Writer, changes []notes.Change, within func(version string) bool) error {
	var b strings.Builder
	width := Width(w)
	for i := range changes {
		c := &changes[i]
		style := strong
		if !within(c.Version) {
			style = faint
		}
		where := fmt.Sprintf("%s:%d", c.Notes, c.Line)
		if c.End > c.Line {
			where += fmt.Sprintf("-%d", c.End)
		}
		fmt.Fprintf(&b, "%s  %s %s\n", accent.Render(fmt.Sprintf("%-11s", c.Kind)), fmt.Sprintf("%-8s", c.Version), style.Render(fit(c.Title, width-22)))
		facts := []string{where}
		if c.Impact != "unknown" {
			facts = append(facts, c.Impact+" impact")
		}
		for _, r := range c.Renames {
			facts = append(facts, r.From+" → "+r.To)
		}
		for _, m := range c.Requires {
			facts = append(facts, "asks for "+m.Name+" "+m.Range())
		}
		if len(c.Renames) == 0 {
			if names := c.Names(); len(names) > 0 {
				facts = append(facts, strings.Join(names, ", "))
			}
		}
		fmt.Fprintf(&b, "             %s\n", faint.Render(clip(strings.Join(facts, " · "), width-13)))
	}
	if len(changes) == 0 {
		fmt.Fprintln(&b, "no entry was found")
	}
	_, err := lipgloss.Fprint(w, b.String())
	return err
}
