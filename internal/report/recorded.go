package report

import (
	"fmt"
	"io"
	"strings"

	"charm.land/lipgloss/v2"

	"unicausa/internal/api"
)

// Recorded says what a run that was just recorded changed.
func Recorded(w io.Writer, run api.Run) error {
	b := &strings.Builder{}
	reached := "passes"
	if run.Facts.Exit != 0 {
		reached = fmt.Sprintf("status %d, got as far as %s", run.Facts.Exit, orNothing(run.Frontier))
	}
	fmt.Fprintf(b, "\nrun %d of %s: %s\n", run.Number, run.Facts.Check, reached)
	for _, in := range run.Inputs {
		if in.Problem != "" {
			fmt.Fprintf(b, "! %s: %s\n", in.Name, in.Problem)
		}
		if len(in.Unread) > 0 {
			fmt.Fprintf(b, "? %s: %s like errors and could not be read, the first at line %d: %s\n", in.Name, looks(len(in.Unread)), in.Unread[0].Line, in.Unread[0].Text)
		}
	}
	for _, notice := range run.Notices {
		fmt.Fprintf(b, "! %s\n", notice)
	}
	if run.Facts.Dirty {
		fmt.Fprintf(b, "! recorded with uncommitted changes%s\n", digest(run.Facts.Diff))
	}
	d := run.Delta
	if d == nil {
		fmt.Fprintf(b, "%s read; when every check is recorded on the old version, accept them: unicausa baseline\n", count(run.Symptoms, "symptom"))
	} else {
		delta(b, d)
	}
	_, err := lipgloss.Fprint(w, b.String())
	return err
}

// delta is what a run changed, in a few lines.
func delta(b *strings.Builder, d *api.Delta) {
	fmt.Fprintf(b, "%d new, %d gone, %s left\n", d.New, d.Gone, count(d.CausesLeft, "cause"))
	for _, part := range []struct {
		text string
		n    int
	}{{"uncovered: hidden until now, not the last edit's doing", d.Uncovered}, {"introduced since the run before", d.Introduced}, {"returned", d.Returned}} {
		if part.n > 0 {
			fmt.Fprintf(b, "  %d %s\n", part.n, part.text)
		}
	}
	for _, part := range []struct {
		text string
		list []string
	}{{"fix proved", d.Proved}, {"fix disproved", d.Disproved}, {"cleared", d.Cleared}, {"opened", d.Opened}} {
		if n := len(part.list); n > atOnce {
			fmt.Fprintf(b, "  %s: %s and %d more\n", part.text, strings.Join(part.list[:atOnce], " "), n-atOnce)
		} else if n > 0 {
			fmt.Fprintf(b, "  %s: %s\n", part.text, strings.Join(part.list, " "))
		}
	}
	for _, r := range d.Redrawn {
		fmt.Fprintf(b, "  %s\n", r.Text)
	}
}

// atOnce is how many causes a line names.
const atOnce = 15

func digest(diff string) string {
	if diff == "" {
		return ""
	}
	return fmt.Sprintf(" (diff %.12s)", diff)
}

func looks(n int) string {
	if n == 1 {
		return "1 line looks"
	}
	return fmt.Sprintf("%d lines look", n)
}

func orNothing(phase string) string {
	if phase == "" {
		return "nothing that could be read"
	}
	return phase
}

// Summary sets the runs of several checks below each other, a line each.
func Summary(w io.Writer, runs []api.Run) error {
	b := &strings.Builder{}
	wide := 5
	for _, r := range runs {
		wide = max(wide, lipgloss.Width(r.Facts.Check))
	}
	fmt.Fprintf(b, "\n%s\n", faint.Render(fmt.Sprintf("%-*s  run  result", wide, "check")))
	for _, r := range runs {
		mark, result := good.Render("✓"), "passes"
		if r.Facts.Exit != 0 {
			mark, result = accent.Render("▲"), fmt.Sprintf("status %d at %s", r.Facts.Exit, orNothing(r.Frontier))
		}
		if r.Facts.Informative {
			result += ", informs"
		}
		if d := r.Delta; d != nil {
			result += fmt.Sprintf(" · %d new, %d gone", d.New, d.Gone)
			for _, part := range []struct {
				n    int
				text string
			}{{d.Uncovered, "uncovered"}, {d.Introduced, "introduced"}, {d.Returned, "returned"}} {
				if part.n > 0 {
					result += fmt.Sprintf(", %d %s", part.n, part.text)
				}
			}
		} else {
			result += " · " + count(r.Symptoms, "symptom")
		}
		fmt.Fprintf(b, "%-*s %s %3d  %s\n", wide, r.Facts.Check, mark, r.Number, result)
	}
	if n := len(runs); n > 0 && runs[n-1].Delta != nil {
		fmt.Fprintf(b, "%s left\n", count(runs[n-1].Delta.CausesLeft, "cause"))
	}
	_, err := lipgloss.Fprint(w, b.String())
	return err
}
