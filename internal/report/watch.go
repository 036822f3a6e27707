package report

import (
	"fmt"
	"io"
	"slices"
	"strings"
	"time"

	"charm.land/lipgloss/v2"

	"unicausa/internal/api"
)

// WatchLine is one check on the screen of a watch.
type WatchLine struct {
	Name    string
	Running bool
	Run     *api.Run // its latest, nil before the first
}

// Watching is the screen of a watch: the checks with how far each gets, the causes that are
// left, and what the last change cleared or brought. In a terminal it is drawn over itself;
// elsewhere each line is printed once.
type Watching struct {
	Live    bool
	Width   int
	Changed []string    // the files that set the last pass off
	Left    []api.Cause // what is not cleared

	said             string
	cleared, brought []string
	printed          map[int]bool // runs, where it is not drawn over
}

// mostCauses is how many causes the screen names.
const mostLeft = 8

// Begin begins a pass: what it clears and brings is told anew.
func (s *Watching) Begin() { s.cleared, s.brought = nil, nil }

// Say sets the last line.
func (s *Watching) Say(text string) { s.said = text }

// Took takes in what a run changed.
func (s *Watching) Took(d *api.Delta) {
	s.cleared, s.brought = append(s.cleared, d.Cleared...), append(s.brought, d.Opened...)
}

// Draw draws the screen.
func (s *Watching) Draw(w io.Writer, checks []WatchLine) error {
	if !s.Live {
		return s.print(w, checks)
	}
	var b strings.Builder
	b.WriteString("\x1b[H\x1b[2J") // home, and erase the screen (ECMA-48, CUP and ED)
	wide := 5
	for _, c := range checks {
		wide = max(wide, lipgloss.Width(c.Name))
	}
	fmt.Fprintf(&b, "%s\n\n", faint.Render(fmt.Sprintf("%-*s    frontier    symptoms  took", wide, "check")))
	for _, c := range checks {
		fmt.Fprintln(&b, s.check(c, wide))
	}
	fmt.Fprintf(&b, "\n%s\n", strong.Render(count(len(s.Left), "cause")+" left"))
	for i, c := range s.Left {
		if i == mostLeft {
			fmt.Fprintf(&b, "%s\n", faint.Render(fmt.Sprintf("  and %d more", len(s.Left)-i)))
			break
		}
		fmt.Fprintf(&b, "  %s %s %s\n", accent.Render(fmt.Sprintf("%-4s", c.ID)), fit(c.Title, s.Width-20), faint.Render(count(c.Shown+c.Hidden, "symptom")))
	}
	fmt.Fprintf(&b, "\n%s\n%s\n", s.change(), faint.Render(s.said))
	_, err := lipgloss.Fprint(w, b.String())
	return err
}

// check is the line of one check.
func (s *Watching) check(c WatchLine, wide int) string {
	mark, reached, symptoms, took := faint.Render("·"), "not run yet", "", ""
	if c.Run != nil {
		reached, symptoms, took = orNothing(c.Run.Frontier), fmt.Sprint(c.Run.Symptoms), (time.Duration(c.Run.Facts.Millis) * time.Millisecond).Round(100*time.Millisecond).String()
		if mark = accent.Render("▲"); c.Run.Facts.Exit == 0 {
			mark, reached = good.Render("✓"), "passes"
		}
	}
	if c.Running {
		mark = accent.Render("…")
	}
	return fmt.Sprintf("%-*s  %s %-12s %8s  %s", wide, c.Name, mark, fit(reached, 12), symptoms, faint.Render(took))
}

// change says what the last change did.
func (s *Watching) change() string {
	if len(s.Changed) == 0 {
		return faint.Render("no change yet")
	}
	text := s.Changed[0]
	if n := len(s.Changed) - 1; n > 0 {
		text += fmt.Sprintf(" and %s", count(n, "more file"))
	}
	var did []string
	if len(s.cleared) > 0 {
		did = append(did, good.Render("cleared "+strings.Join(sortedNames(s.cleared), " ")))
	}
	if len(s.brought) > 0 {
		did = append(did, accent.Render("brought "+strings.Join(sortedNames(s.brought), " ")))
	}
	if len(did) == 0 {
		did = []string{faint.Render("no cause cleared, none brought")}
	}
	return "after " + fit(text, s.Width-40) + ": " + strings.Join(did, ", ")
}

func sortedNames(names []string) []string {
	list := slices.Clone(names)
	slices.SortFunc(list, func(a, b string) int {
		if len(a) != len(b) {
			return len(a) - len(b)
		}
		return strings.Compare(a, b)
	})
	return slices.Compact(list)
}

// print tells of each run once, and of what a change did once its pass is over.
func (s *Watching) print(w io.Writer, checks []WatchLine) error {
	if s.printed == nil {
		s.printed = map[int]bool{}
	}
	var b strings.Builder
	for _, c := range checks {
		if c.Run != nil && !c.Running && !s.printed[c.Run.Number] {
			s.printed[c.Run.Number] = true
			fmt.Fprintln(&b, s.check(c, lipgloss.Width(c.Name)))
		}
	}
	if strings.HasPrefix(s.said, "waiting") {
		fmt.Fprintf(&b, "%s left, %s\n", count(len(s.Left), "cause"), s.change())
	}
	if !strings.HasPrefix(s.said, "running") {
		fmt.Fprintln(&b, s.said)
	}
	_, err := lipgloss.Fprint(w, b.String())
	return err
}
