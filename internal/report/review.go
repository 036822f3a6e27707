package report

import (
	"fmt"
	"io"
	"strings"

	"charm.land/lipgloss/v2"

	"unicausa/internal/api"
)

// standings are the parts of a review that show each hunk, in their order, and what
// stands above them.
var standings = []struct {
	standing api.ReviewHunkStanding
	mark     string
	title    string
}{
	{api.Unasked, "●", "Nothing asks for"},
	{api.More, "◐", "Asked for, and more than that"},
	{api.Half, "◌", "Half done"},
}

// mostHunkLines bounds what is shown of each side of a hunk.
const mostHunkLines = 6

// Review shows a review on a terminal: the hunks to look at whole, the rest by what
// asks for them.
func Review(w io.Writer, r *api.Review) error {
	var b strings.Builder
	width := Width(w)
	fmt.Fprintf(&b, "%s\n%s\n", strong.Render(fit(r.Of, width)), faint.Render(fit(summaryOf(r), width)))
	for _, s := range standings {
		first := true
		for i := range r.Hunks {
			h := &r.Hunks[i]
			if h.Standing != s.standing {
				continue
			}
			if first {
				fmt.Fprintf(&b, "\n%s\n", strong.Render(s.title))
				first = false
			}
			fmt.Fprintf(&b, "%s %s  %s\n", accent.Render(s.mark), accent.Render(hunkPlace(h)), clip(noticed(h), width-len(hunkPlace(h))-4))
			if h.Standing != api.Unasked && len(h.Notices) > 0 {
				fmt.Fprintf(&b, "  %s\n", faint.Render(clip(h.Why+asker(h), width-2)))
			}
			for _, side := range []struct {
				sign  string
				lines []string
				style lipgloss.Style
			}{{"-", h.Removed, accent}, {"+", h.Added, good}} {
				for n, line := range side.lines {
					if n == mostHunkLines {
						fmt.Fprintf(&b, "  %s\n", faint.Render(fmt.Sprintf("%s and %d more", side.sign, len(side.lines)-n)))
						break
					}
					fmt.Fprintf(&b, "  %s\n", side.style.Render(clip(side.sign+" "+strings.ReplaceAll(line, "\t", "    "), width-2)))
				}
			}
		}
	}
	if done := doneFor(r); len(done) > 0 {
		fmt.Fprintf(&b, "\n%s\n", strong.Render("Asked for"))
		for _, d := range done {
			fmt.Fprintf(&b, "%s %s  %s\n", good.Render("✓"), fit(d.title, width-30), faint.Render(d.tail))
		}
	}
	if left := leftOf(r); len(left) > 0 {
		fmt.Fprintf(&b, "\n%s\n", strong.Render("Left behind"))
		for _, e := range left {
			fmt.Fprintf(&b, "%s %s  %s\n", accent.Render("○"), fit(e.Title, width-34), faint.Render(partly(&e)))
			for i, p := range e.Left {
				if i == 5 {
					fmt.Fprintf(&b, "  %s\n", faint.Render(fmt.Sprintf("and %d more", e.Places-i)))
					break
				}
				fmt.Fprintf(&b, "  %s %s\n", accent.Render(fmt.Sprintf("%s:%d", p.File, p.Line)), faint.Render(clip(strings.TrimSpace(p.Text), width-30)))
			}
		}
	}
	if r.Note != "" {
		fmt.Fprintf(&b, "\n%s\n", faint.Render(fit(r.Note, width)))
	}
	_, err := lipgloss.Fprint(w, b.String())
	return err
}

func summaryOf(r *api.Review) string {
	if r.Summary == "" {
		return "nothing changed"
	}
	return r.Summary
}

func hunkPlace(h *api.ReviewHunk) string {
	if h.Line == 0 || len(h.Added) == 0 && len(h.Removed) > 0 {
		return fmt.Sprintf("%s:%d", h.File, h.OldLine)
	}
	return fmt.Sprintf("%s:%d", h.File, h.Line)
}

// noticed is what a reader has to look at in a hunk, or why it stands where it does.
func noticed(h *api.ReviewHunk) string {
	var list []string
	for _, n := range h.Notices {
		list = append(list, n.Text)
	}
	if len(list) == 0 {
		return h.Why
	}
	return strings.Join(list, "; ")
}

// asker is what asks for a hunk, behind a reason.
func asker(h *api.ReviewHunk) string {
	for _, a := range h.Asks {
		return " (" + strings.TrimSpace(a.Cause+" "+a.At) + ")"
	}
	return ""
}

// asked is one change or cause with the hunks that it alone asks for.
type asked struct{ title, at, tail string }

// doneFor lists what asks for hunks, in the order in which it comes up.
func doneFor(r *api.Review) []asked {
	var list []asked
	at, hunks := map[string]int{}, map[string]int{}
	for i := range r.Hunks {
		h := &r.Hunks[i]
		if h.Standing != api.Asked && h.Standing != api.More || len(h.Asks) == 0 {
			continue
		}
		a := h.Asks[0]
		key := a.Change + a.Cause
		if _, ok := at[key]; !ok {
			at[key] = len(list)
			list = append(list, asked{title: a.Title, at: strings.TrimSpace(a.Cause + " " + a.At)})
		}
		hunks[key]++
		list[at[key]].tail = fmt.Sprintf("%s · %s", list[at[key]].at, count(hunks[key], "hunk"))
	}
	return list
}

// leftOf are the changes that the diff leaves places of behind.
func leftOf(r *api.Review) []api.ReviewEdit {
	var list []api.ReviewEdit
	for _, e := range r.Edits {
		if e.Places+e.Said > 0 {
			list = append(list, e)
		}
	}
	return list
}

// partly says how much of a change is done.
func partly(e *api.ReviewEdit) string {
	parts := []string{e.At}
	if e.Places > 0 {
		parts = append(parts, fmt.Sprintf("%d of %s", e.Done, count(e.Done+e.Places, "place")))
	}
	if e.Said > 0 {
		parts = append(parts, fmt.Sprintf("%d in comments or documents", e.Said))
	}
	return strings.Join(parts, " · ")
}

// ReviewMarkdown writes a review for a pull request.
func ReviewMarkdown(w io.Writer, r *api.Review) error {
	var b strings.Builder
	fmt.Fprintf(&b, "# Review: %s\n\n", r.Of)
	reviewParts(&b, r, 2, true)
	_, err := io.WriteString(w, b.String())
	return err
}

// reviewParts writes the parts of a review below a heading of the level before; whole
// shows the hunks to look at line by line.
func reviewParts(b *strings.Builder, r *api.Review, level int, whole bool) {
	heading := strings.Repeat("#", level)
	summary := summaryOf(r)
	fmt.Fprintf(b, "%s.\n\n", strings.ToUpper(summary[:1])+summary[1:])
	for _, s := range standings {
		first := true
		for i := range r.Hunks {
			h := &r.Hunks[i]
			if h.Standing != s.standing {
				continue
			}
			if first {
				fmt.Fprintf(b, "%s %s\n\n", heading, harmless(s.title))
				first = false
			}
			fmt.Fprintf(b, "- `%s` %s%s\n", hunkPlace(h), noticed(h), asker(h))
			if whole {
				hunkMarkdown(b, h)
			}
		}
		if !first && !whole {
			fmt.Fprintln(b)
		}
	}
	if done := doneFor(r); len(done) > 0 {
		fmt.Fprintf(b, "%s Asked for\n\n| by | | hunks |\n| --- | --- | --- |\n", heading)
		for _, d := range done {
			fmt.Fprintf(b, "| %s | %s | %s |\n", cell(d.title), cell(d.at), strings.TrimPrefix(d.tail, d.at+" · "))
		}
		fmt.Fprintln(b)
	}
	if left := leftOf(r); len(left) > 0 {
		fmt.Fprintf(b, "%s Left behind\n\n", heading)
		for _, e := range left {
			fmt.Fprintf(b, "- %s (%s)\n", harmless(e.Title), partly(&e))
			for i, p := range e.Left {
				if i == 5 {
					fmt.Fprintf(b, "  - and %d more\n", e.Places-i)
					break
				}
				fmt.Fprintf(b, "  - `%s:%d`\n", p.File, p.Line)
			}
		}
		fmt.Fprintln(b)
	}
	if r.Note != "" {
		fmt.Fprintf(b, "%s\n", r.Note)
	}
}

func hunkMarkdown(b *strings.Builder, h *api.ReviewHunk) {
	if len(h.Removed)+len(h.Added) == 0 {
		return
	}
	fmt.Fprint(b, "\n  ```diff\n")
	for _, side := range []struct {
		sign  string
		lines []string
	}{{"-", h.Removed}, {"+", h.Added}} {
		for _, line := range side.lines {
			fmt.Fprintf(b, "  %s%s\n", side.sign, line)
		}
	}
	fmt.Fprint(b, "  ```\n\n")
}
