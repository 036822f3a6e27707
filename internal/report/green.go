package report

import (
	"fmt"
	"io"
	"strings"

	"charm.land/lipgloss/v2"

	"unicausa/internal/api"
)

// Gate says the verdict with every reason against, numbered where a person may
// vouch for it, and where each is shown.
func Gate(w io.Writer, g api.Gate, base string) error {
	b := &strings.Builder{}
	if g.Open {
		fmt.Fprintf(b, "%s\n", good.Bold(true).Render("✓ the gate is open: everything that passed in the baseline passes again"))
	} else {
		fmt.Fprintf(b, "%s\n", strong.Render(fmt.Sprintf("▲ the gate is shut: %s", count(len(g.Reasons), "reason"))))
	}
	width := Width(w)
	vouchable := false
	for i, r := range g.Reasons {
		mark := "   "
		if r.Key != "" {
			mark, vouchable = fmt.Sprintf("%2d ", i+1), true
		}
		fmt.Fprintf(b, "%s%s\n", faint.Render(mark), fit(r.Text, width-3))
		if base != "" && r.Path != "" {
			fmt.Fprintf(b, "   %s\n", faint.Render(base+r.Path))
		}
	}
	for _, v := range g.Vouched {
		fmt.Fprintf(b, "%s\n", faint.Render(clip(fmt.Sprintf(" = %s, vouched for by %s: %s", v.Word, someone(v.Author), v.Reason.Text), width)))
	}
	if vouchable {
		fmt.Fprintf(b, "%s\n", faint.Render("a numbered reason takes a person's word: unicausa vouch NUMBER --reason WHAT-YOU-LOOKED-AT"))
	}
	_, err := lipgloss.Fprint(w, b.String())
	return err
}

// Route lists the legs of an upgrade.
func Route(w io.Writer, legs []api.LegRow, proposed []api.ProposedLeg) error {
	b := &strings.Builder{}
	width := Width(w)
	for _, l := range legs {
		mark := map[api.LegRowStatus]string{"planned": "·", "current": "▷", "done": good.Render("✓"), "abandoned": "–"}[l.Status]
		tail := fmt.Sprintf("%s · %s, %d left · %s", l.Status, count(l.Causes, "cause"), l.Left, count(l.Runs, "run"))
		if l.Status == "planned" {
			tail = string(l.Status)
		}
		fmt.Fprintf(b, "%s %s  %s\n   %s\n", mark, strong.Render(fmt.Sprintf("leg %d", l.Number)), fit(moves(l.Moves), width-9), faint.Render(tail))
		if l.Reason != "" {
			fmt.Fprintf(b, "   %s\n", faint.Render(clip(l.Reason, width-3)))
		}
	}
	if len(proposed) > 1 {
		fmt.Fprintf(b, "\nthe notes suggest to go in %d legs:\n", len(proposed))
		for i, l := range proposed {
			fmt.Fprintf(b, "%3d  %s\n     %s\n", i+1, fit(moves(l.Moves), width-5), faint.Render(fit(l.Why, width-5)))
		}
		first := proposed[0].Moves[0]
		fmt.Fprintf(b, "%s\n", faint.Render(fmt.Sprintf("to go so: unicausa route restart --move %s=%s..%s --reason \"step by step\", then plan the others", first.Package, first.From, first.To)))
	}
	_, err := lipgloss.Fprint(w, b.String())
	return err
}

// Prepared lists what has to be done before the bump.
func Prepared(w io.Writer, list []api.Preparation) error {
	b := &strings.Builder{}
	for _, p := range list {
		mark := good.Render("✓")
		if !p.Done {
			mark = accent.Render("▲")
		}
		fmt.Fprintf(b, "%s %s\n", mark, p.Text)
		if p.Hint != "" {
			fmt.Fprintf(b, "  %s\n", faint.Render(p.Hint))
		}
	}
	_, err := lipgloss.Fprint(w, b.String())
	return err
}

// Words lists what people vouch for.
func Words(w io.Writer, list []api.Word) error {
	b := &strings.Builder{}
	for _, word := range list {
		tail := someone(word.Author) + " " + word.At.Format("2006-01-02 15:04")
		if word.Undone {
			tail = "taken back  " + tail
		}
		fmt.Fprintf(b, "%s  %s: %s  %s\n", accent.Render(fmt.Sprintf("%4d", word.ID)), word.About, word.Reason, faint.Render(tail))
	}
	if len(list) == 0 {
		fmt.Fprintln(b, faint.Render("nobody vouches for anything"))
	}
	_, err := lipgloss.Fprint(w, b.String())
	return err
}

// Commits lists commits with what each brought.
func Commits(w io.Writer, list []api.Commit) error {
	b := &strings.Builder{}
	width := Width(w)
	for _, c := range list {
		fmt.Fprintf(b, "%s  %s  %s\n", accent.Render(fmt.Sprintf("%.10s", c.ID)), fit(c.Subject, width-30), faint.Render(c.Author+" "+c.At.Format("2006-01-02")))
		var parts []string
		for _, p := range []struct {
			what string
			list []string
		}{{"names", c.Named}, {"cleared", c.Cleared}, {"brought", c.Opened}} {
			if len(p.list) > 0 {
				parts = append(parts, p.what+" "+strings.Join(p.list, " "))
			}
		}
		if c.Uncovered > 0 {
			parts = append(parts, fmt.Sprintf("%d uncovered", c.Uncovered))
		}
		if c.Introduced > 0 {
			parts = append(parts, fmt.Sprintf("%d introduced", c.Introduced))
		}
		if c.Shared > 1 && len(parts) > 0 {
			parts = append(parts, fmt.Sprintf("recorded with %d commits at once", c.Shared))
		}
		if len(parts) > 0 {
			fmt.Fprintf(b, "            %s\n", faint.Render(clip(strings.Join(parts, " · "), width-12)))
		}
	}
	if len(list) == 0 {
		fmt.Fprintln(b, faint.Render("no commits yet: runs that are recorded in a git working copy bring theirs"))
	}
	_, err := lipgloss.Fprint(w, b.String())
	return err
}

// Debts lists debts, and code that puts something off and stands in none.
func Debts(w io.Writer, list []api.Debt, found []api.FoundDebt) error {
	b := &strings.Builder{}
	width := Width(w)
	settled := 0
	for i := range list {
		d := &list[i]
		if d.Settled {
			settled++
			continue
		}
		mark, tail := "⧗", "until "+d.Due
		if d.IsDue {
			mark, tail = accent.Render("▲"), "due: "+d.Why
		}
		fmt.Fprintf(b, "%s %s %s\n", mark, strong.Render(fmt.Sprintf("%3d", d.ID)), fit(d.Text, width-6))
		place := ""
		if d.File != "" {
			place = " · " + d.File
		}
		fmt.Fprintf(b, "      %s\n", faint.Render(clip(fmt.Sprintf("%s · %s · %s%s", tail, d.Kind, d.UpgradeName, place), width-6)))
	}
	if len(list) == settled {
		fmt.Fprintln(b, good.Render("✓ no debt is open"))
	}
	if settled > 0 {
		fmt.Fprintf(b, "%s\n", faint.Render(fmt.Sprintf("%s paid", count(settled, "debt"))))
	}
	if len(found) > 0 {
		fmt.Fprintf(b, "\n%s in the code since the baseline, in no debt:\n", count(len(found), "place"))
		for i, f := range found {
			fmt.Fprintf(b, "%3d  %s:%d  %s\n     %s\n", i+1, f.File, f.Line, f.What, faint.Render(clip(f.Code, width-5)))
		}
		fmt.Fprintf(b, "%s\n", faint.Render("to write one down: unicausa debts add --found NUMBER --due \"jar 6.0.0\" --reason WHY"))
	}
	_, err := lipgloss.Fprint(w, b.String())
	return err
}

// Cases lists the settled causes of the casebook.
func Cases(w io.Writer, list []api.SettledCase, templates []api.KeptTemplate) error {
	b := &strings.Builder{}
	width := Width(w)
	for _, c := range list {
		fmt.Fprintf(b, "%s  %s\n", strong.Render(fmt.Sprintf("%-7s", c.Decision)), fit(c.Title, width-9))
		var tail []string
		if of := strings.TrimSpace(c.Package + " " + span(&c)); of != "" {
			tail = append(tail, of)
		}
		if c.Helped > 0 {
			tail = append(tail, fmt.Sprintf("helped %d times since", c.Helped))
		}
		if c.Reason != "" {
			tail = append(tail, c.Reason)
		}
		fmt.Fprintf(b, "         %s\n", faint.Render(clip(strings.Join(tail, " · "), width-9)))
	}
	for _, t := range templates {
		fmt.Fprintf(b, "%s  %s\n", strong.Render("edit   "), fit(t.Shape, width-9))
		fmt.Fprintf(b, "         %s\n", faint.Render(clip(strings.TrimSpace(t.Package+" · "+t.Change), width-9)))
	}
	if len(list)+len(templates) == 0 {
		fmt.Fprintln(b, faint.Render("the casebook is empty: it grows with every cause that is settled"))
	}
	_, err := lipgloss.Fprint(w, b.String())
	return err
}

// Activity lists what happened, the latest first.
func Activity(w io.Writer, list []api.Event) error {
	b := &strings.Builder{}
	width := Width(w)
	for _, e := range list {
		fmt.Fprintf(b, "%s  %-8s %s\n", faint.Render(e.At.Format("2006-01-02 15:04")), clip(e.Author, 8), fit(e.Text, width-27))
	}
	if len(list) == 0 {
		fmt.Fprintln(b, faint.Render("nothing has happened yet"))
	}
	_, err := lipgloss.Fprint(w, b.String())
	return err
}

// span is the versions between which a case was met, where they are known.
func span(c *api.SettledCase) string {
	if c.From == "" && c.To == "" {
		return ""
	}
	return c.From + " to " + c.To
}
