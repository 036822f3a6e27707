package report

import (
	"fmt"
	"io"
	"sort"
	"strings"
	"time"

	"charm.land/lipgloss/v2"

	"unicausa/internal/api"
)

// Runs lists runs, a row each.
func Runs(w io.Writer, runs []api.Run) error {
	var b strings.Builder
	width := Width(w)
	for _, r := range runs {
		mark, style := "✓", good
		if r.Facts.Exit != 0 {
			mark, style = "✗", accent
		}
		what := fmt.Sprintf("%d symptoms", r.Symptoms)
		if d := r.Delta; d != nil {
			what = fmt.Sprintf("%d new, %d gone", d.New, d.Gone)
		}
		if r.Status != "processed" {
			what = string(r.Status)
		}
		tail := strings.TrimSpace(fmt.Sprintf("%s %s", short(r.Facts.Commit), r.Facts.Subject))
		if r.Facts.Dirty {
			tail += " (with changes)"
		}
		if r.Baseline {
			what += ", baseline"
		}
		fmt.Fprintf(&b, "%s %s %-10s %-9s %-26s %s\n", style.Render(mark), strong.Render(fmt.Sprintf("%4d", r.Number)), fit(r.Facts.Check, 10), r.Frontier, what, faint.Render(fit(tail, max(10, width-58))))
		for _, n := range r.Notices {
			fmt.Fprintf(&b, "       %s\n", accent.Render("! "+n))
		}
	}
	if len(runs) == 0 {
		b.WriteString("no run yet: record one with unicausa record --check build -- COMMAND\n")
	}
	_, err := lipgloss.Fprint(w, b.String())
	return err
}

func short(commit string) string { return commit[:min(len(commit), 7)] }

// Run shows one run: how it was made, what was read, and its symptoms.
func Run(w io.Writer, r api.Run, symptoms []api.RunSymptom) error {
	var b strings.Builder
	f := r.Facts
	fmt.Fprintf(&b, "%s  %s  status %d, reached %s\n", strong.Render(fmt.Sprintf("run %d of %s", r.Number, f.Check)), f.StartedAt.Format("2006-01-02 15:04:05"), f.Exit, r.Frontier)
	if f.Command != "" {
		fmt.Fprintf(&b, "  %s  %s\n", f.Command, faint.Render(time.Duration(f.Millis*int64(time.Millisecond)).String()))
	}
	if f.Commit != "" {
		fmt.Fprintf(&b, "  %s %s\n", short(f.Commit), f.Subject)
	}
	if len(f.Versions) > 0 {
		var list []string
		for name, version := range f.Versions {
			list = append(list, name+" "+version)
		}
		sort.Strings(list)
		fmt.Fprintf(&b, "  %s\n", faint.Render(fit(strings.Join(list, " · "), Width(w)-2)))
	}
	for _, n := range r.Notices {
		fmt.Fprintf(&b, "  %s\n", accent.Render("! "+n))
	}
	names := map[int64]string{}
	for _, in := range r.Inputs {
		names[in.ID] = in.Name
		fmt.Fprintf(&b, "\n%s  %s\n", strong.Render(in.Name), faint.Render(strings.Join(append([]string{in.Format, count(in.Lines, "line")}, in.Tools...), ", ")))
		if in.Problem != "" {
			fmt.Fprintf(&b, "  ! %s\n", in.Problem)
		}
		for _, s := range in.Stated {
			if s.Count != s.Read {
				fmt.Fprintf(&b, "  ! line %d states %d %s, %d were read\n", s.Line, s.Count, s.What, s.Read)
			}
		}
		for _, s := range symptoms {
			if s.InputID == in.ID {
				fmt.Fprintf(&b, "%6d %-12s %-4s %s\n", s.From, s.Kind, s.Cause, fit(placed(s.File, s.Line, s.Test)+s.Message, Width(w)-26))
			}
		}
		for i, u := range in.Unread {
			if i == 10 {
				fmt.Fprintf(&b, "       and %d more unread lines\n", len(in.Unread)-i)
				break
			}
			fmt.Fprintf(&b, "%6d %s %s\n", u.Line, accent.Render("? unread   "), fit(u.Text, Width(w)-22))
		}
	}
	_, err := lipgloss.Fprint(w, b.String())
	return err
}

// placed is where a symptom stands, as a lead to its message.
func placed(file string, line int, test string) string {
	switch {
	case test != "":
		return test + ": "
	case file != "" && line > 0:
		return fmt.Sprintf("%s:%d: ", file, line)
	case file != "":
		return file + ": "
	}
	return ""
}

// Comparison shows two runs against each other; worse reports whether anything
// is new or lost.
func Comparison(w io.Writer, c api.Comparison, all bool) (worse bool, err error) {
	var b strings.Builder
	fmt.Fprintf(&b, "%s of %s against %s of %s\n", strong.Render(fmt.Sprintf("run %d", c.Later.Number)), c.Later.Facts.Check, strong.Render(fmt.Sprintf("run %d", c.Earlier.Number)), c.Earlier.Facts.Check)
	for _, n := range c.Notices {
		fmt.Fprintf(&b, "  %s\n", accent.Render("! "+n))
	}
	count := map[api.ComparedState]int{}
	for _, s := range c.Symptoms {
		count[s.State]++
	}
	fmt.Fprintf(&b, "%d new, %d gone, %d the same\n", count["new"], count["absent"], count["unchanged"]+count["updated"])
	shapes := map[api.ComparedState]string{"new": "▲", "absent": "✓", "updated": "·", "unchanged": "·"}
	for _, s := range c.Symptoms {
		if !all && (s.State == "unchanged" || s.State == "updated") {
			continue
		}
		fmt.Fprintf(&b, "%s %-12s %s\n", accent.Render(shapes[s.State]), s.Kind, fit(placed(s.File, s.Line, s.Test)+s.Message, Width(w)-16))
	}
	for _, l := range c.Lost {
		fmt.Fprintf(&b, "%s %s\n", accent.Render("∅"), l)
	}
	_, err = lipgloss.Fprint(w, b.String())
	return count["new"]+len(c.Lost) > 0, err
}

// Tests shows the tests by run, the latest runs that fit, trouble first.
func Tests(w io.Writer, t api.TestTable, all bool) error {
	var b strings.Builder
	room := max(10, Width(w)/3)
	from := max(0, len(t.Runs)-room)
	if len(t.Runs) > 0 {
		b.WriteString(faint.Render("● passed  × failed  ○ skipped  - not there  ? unknown  · of another check") + "\n")
		var numbers []string
		for _, r := range t.Runs[from:] {
			numbers = append(numbers, fmt.Sprint(r.Number))
		}
		b.WriteString(faint.Render(fit("a column each for the runs "+strings.Join(numbers, ", "), Width(w))) + "\n")
	}
	shapes := map[byte]string{'p': "●", 'f': "×", 's': "○", '-': "-", '?': "?", '.': "·"}
	steady := t.Passed
	for _, row := range t.Tests {
		trouble := row.Lost || row.Flaky || strings.ContainsAny(row.Outcomes, "fs-")
		if !trouble && !all {
			steady++
			continue
		}
		var cells strings.Builder
		for i := from; i < len(row.Outcomes); i++ {
			cells.WriteString(shapes[row.Outcomes[i]])
		}
		word := ""
		switch {
		case row.Lost:
			word = "lost"
		case row.Flaky:
			word = "flaky"
		}
		fmt.Fprintf(&b, "%s  %-5s %s\n", cells.String(), accent.Render(fmt.Sprintf("%-5s", word)), fit(strings.TrimPrefix(row.Suite+" "+row.Name, " "), Width(w)-(len(row.Outcomes)-from)-10))
	}
	if steady > 0 {
		fmt.Fprintf(&b, "%s passed in every run\n", count(steady, "test"))
	}
	if len(t.Runs) == 0 {
		b.WriteString("no run has named a test yet: record one whose runner tells names (JUnit XML, go test -json, -v)\n")
	}
	_, err := lipgloss.Fprint(w, b.String())
	return err
}
