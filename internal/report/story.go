package report

import (
	"fmt"
	"io"
	"slices"
	"sort"
	"strings"
	"time"

	"unicausa/internal/api"
)

// Told is what a report for people rests on.
type Told struct {
	Overview api.Overview
	Causes   []api.Cause // of every leg, in the order of their numbers
	Commits  []api.Commit
	Debts    []api.Debt
	Changes  []api.ChangeRow
	Runs     []api.Run // the latest first
	Words    []api.Word
	Review   *api.Review // of what changed since the baseline; for a pull request
	URL      string      // of the upgrade in the console, "" for none
}

// Story names the reports for people.
type Story string

// The reports.
const (
	Today       Story = "today"        // where it stands: what a team lead asks
	PullRequest Story = "pull-request" // what changed and why: what a reviewer asks
	Closing     Story = "closing"      // the whole upgrade: what a future self asks
)

// StoryMarkdown writes a report for people.
func StoryMarkdown(w io.Writer, story Story, t *Told) error {
	b := &strings.Builder{}
	switch story {
	case Today:
		t.today(b)
	case PullRequest:
		t.pullRequest(b)
	case Closing:
		t.closing(b)
	default:
		return fmt.Errorf("there is no report %q: give today, pull-request or closing", story)
	}
	_, err := io.WriteString(w, strings.TrimRight(b.String(), "\n")+"\n")
	return err
}

func (t *Told) title(b *strings.Builder, what string) {
	u := t.Overview.Upgrade
	fmt.Fprintf(b, "# %s: %s of %s\n\n", what, u.Name, u.Project)
}

func (t *Told) verdict(b *strings.Builder) {
	g := t.Overview.Gate
	if g.Open {
		fmt.Fprintf(b, "**The gate is open**: everything that passed in the baseline passes again, and nothing new is undecided.\n\n")
	} else {
		fmt.Fprintf(b, "**The gate is shut** for %s.\n\n", count(len(g.Reasons), "reason"))
		for i, r := range g.Reasons {
			if i == 15 {
				fmt.Fprintf(b, "- and %d more\n", len(g.Reasons)-i)
				break
			}
			fmt.Fprintf(b, "- %s\n", t.linked(r.Text, r.Path))
		}
		fmt.Fprintln(b)
	}
	for _, v := range g.Vouched {
		fmt.Fprintf(b, "- vouched for by %s: %s (%s)\n", someone(v.Author), harmless(v.Reason.Text), harmless(v.Word))
	}
	if len(g.Vouched) > 0 {
		fmt.Fprintln(b)
	}
}

func (t *Told) linked(text, path string) string {
	text = harmless(text)
	if t.URL == "" || path == "" {
		return text
	}
	return fmt.Sprintf("[%s](%s%s)", strings.NewReplacer("[", "(", "]", ")").Replace(text), t.URL, path)
}

func someone(author string) string {
	if author == "" {
		return "somebody"
	}
	return author
}

// left are the causes that are neither known nor cleared.
func (t *Told) left() []api.Cause {
	var list []api.Cause
	for _, c := range t.Overview.Causes {
		if !c.Known && c.Status != "cleared" {
			list = append(list, c)
		}
	}
	return list
}

func (t *Told) today(b *strings.Builder) {
	t.title(b, "Where it stands")
	t.verdict(b)
	left := t.left()
	fmt.Fprintf(b, "## Causes left: %d\n\n", len(left))
	if len(left) > 0 {
		fmt.Fprintf(b, "| | cause | symptoms | decision | explained by |\n| --- | --- | ---: | --- | --- |\n")
		for i := range left {
			c := &left[i]
			fmt.Fprintf(b, "| %s | %s | %d | %s | %s |\n", c.ID, t.linked(strings.ReplaceAll(c.Title, "|", `\|`), "/causes/"+c.ID), c.Shown+c.Hidden, cell(decision(c.Decision)), cell(explained(c.Link)))
		}
		fmt.Fprintln(b)
	}
	if points := t.Overview.History; len(points) > 0 {
		fmt.Fprintf(b, "## Causes over the runs\n\n")
		var parts []string
		for _, p := range points {
			parts = append(parts, fmt.Sprint(len(p.Causes)))
		}
		fmt.Fprintf(b, "%s\n\n", strings.Join(parts, " → "))
	}
	fmt.Fprintf(b, "## Checks\n\n| check | baseline | latest | tests lost |\n| --- | --- | --- | ---: |\n")
	for _, k := range t.Overview.Checks {
		name := k.Name
		if !k.Required {
			name += " (informs)"
		}
		fmt.Fprintf(b, "| %s | %s | %s | %d |\n", cell(name), ended(k.Baseline), ended(k.Latest), k.Lost)
	}
	fmt.Fprintln(b)
	t.debts(b, "Due", func(d *api.Debt) bool { return d.IsDue })
}

func ended(r *api.Run) string {
	switch {
	case r == nil:
		return "not run"
	case r.Facts.Exit == 0:
		return fmt.Sprintf("passes (run %d)", r.Number)
	}
	return fmt.Sprintf("fails, got as far as %s (run %d)", r.Frontier, r.Number)
}

func decision(d *api.Decision) string {
	if d == nil {
		return "none"
	}
	text := string(d.Kind)
	if d.Outcome != "" {
		text += ", " + string(d.Outcome)
	}
	if d.Due != "" {
		text += " until " + d.Due
	}
	return text + ": " + d.Reason
}

func explained(l *api.Link) string {
	if l == nil || l.Standing != api.Likely {
		return "cannot tell"
	}
	return fmt.Sprintf("%s:%d %s", Portable(l.Change.Notes), l.Change.Line, l.Change.Title)
}

func cell(s string) string {
	return strings.ReplaceAll(harmless(strings.Join(strings.Fields(s), " ")), "|", `\|`)
}

func (t *Told) debts(b *strings.Builder, title string, is func(*api.Debt) bool) {
	first := true
	for i := range t.Debts {
		d := &t.Debts[i]
		if !is(d) {
			continue
		}
		if first {
			fmt.Fprintf(b, "## %s\n\n", title)
			first = false
		}
		fmt.Fprintf(b, "- until %s: %s", d.Due, harmless(d.Text))
		if d.File != "" {
			fmt.Fprintf(b, " (`%s`)", d.File)
		}
		if d.Why != "" {
			fmt.Fprintf(b, ", %s", d.Why)
		}
		fmt.Fprintln(b)
	}
	if !first {
		fmt.Fprintln(b)
	}
}

func moves(list []api.Move) string {
	var parts []string
	for _, m := range list {
		parts = append(parts, fmt.Sprintf("%s %s to %s", m.Package, m.From, m.To))
	}
	return strings.Join(parts, ", ")
}

// pullRequest tells by cause what was changed and why.
func (t *Told) pullRequest(b *strings.Builder) {
	u := t.Overview.Upgrade
	fmt.Fprintf(b, "# %s\n\nMoves %s.\n\n", u.Name, moves(u.Leg.Moves))
	t.verdict(b)
	var fixed, accepted, off []api.Cause
	for _, c := range t.Causes {
		switch {
		case c.Known || c.Leg != u.Leg.Number:
		case c.Decision != nil && c.Decision.Kind == "accept":
			accepted = append(accepted, c)
		case c.Decision != nil && (c.Decision.Kind == "defer" || c.Decision.Kind == "wait"):
			off = append(off, c)
		case c.Status == "cleared":
			fixed = append(fixed, c)
		}
	}
	t.section(b, "What was changed, by cause", fixed, func(c *api.Cause) {
		if c.Decision != nil && c.Decision.Kind == "fix" {
			fmt.Fprintf(b, "  %s\n", harmless(c.Decision.Reason))
		}
		if commits := t.of(c.ID); len(commits) > 0 {
			fmt.Fprintf(b, "  in %s\n", strings.Join(commits, ", "))
		}
	})
	t.section(b, "Behaviour that is other now, and accepted", accepted, func(c *api.Cause) {
		fmt.Fprintf(b, "  %s (%s)\n", harmless(c.Decision.Reason), someone(c.Decision.Author))
	})
	t.section(b, "Put off", off, func(c *api.Cause) { fmt.Fprintf(b, "  %s\n", decision(c.Decision)) })
	t.debts(b, "Debts that this leaves", func(d *api.Debt) bool { return !d.Settled && d.Upgrade == u.ID })
	if t.Review != nil && len(t.Review.Hunks) > 0 {
		fmt.Fprintf(b, "## Review: %s\n\n", t.linked("every hunk with what asks for it", "/review"))
		reviewParts(b, t.Review, 3, false)
	}
}

func (t *Told) section(b *strings.Builder, title string, causes []api.Cause, more func(*api.Cause)) {
	if len(causes) == 0 {
		return
	}
	fmt.Fprintf(b, "## %s\n\n", title)
	for i := range causes {
		c := &causes[i]
		fmt.Fprintf(b, "- **%s** %s\n", c.ID, t.linked(c.Title, "/causes/"+c.ID))
		if c.Link != nil && c.Link.Standing == api.Likely {
			fmt.Fprintf(b, "  explained by %s:%d\n", Portable(c.Link.Change.Notes), c.Link.Change.Line)
		}
		more(c)
	}
	fmt.Fprintln(b)
}

// of lists the commits that name a cause, or cleared it.
func (t *Told) of(cause string) []string {
	var list []string
	for _, c := range t.Commits {
		if slices.Contains(c.Named, cause) || len(c.Named) == 0 && slices.Contains(c.Cleared, cause) {
			list = append(list, fmt.Sprintf("`%.10s` %s", c.ID, c.Subject))
		}
	}
	return list
}

// closing tells the whole upgrade: its time line, the effort for each cause,
// and what there is to learn.
func (t *Told) closing(b *strings.Builder) {
	t.title(b, "What it took")
	t.verdict(b)
	fmt.Fprintf(b, "## The route\n\n")
	for _, l := range t.Overview.Legs {
		fmt.Fprintf(b, "%d. %s: %s, %s, %s", l.Number, moves(l.Moves), l.Status, count(l.Causes, "cause"), count(l.Runs, "run"))
		if l.Reason != "" {
			fmt.Fprintf(b, " (%s)", harmless(l.Reason))
		}
		fmt.Fprintln(b)
	}
	t.timeLine(b)
	t.effort(b)
	t.lessons(b)
	t.debts(b, "Debts that are left", func(d *api.Debt) bool { return !d.Settled })
}

func (t *Told) timeLine(b *strings.Builder) {
	fmt.Fprintf(b, "\n## Time line\n\n| when | what | causes left |\n| --- | --- | ---: |\n")
	last := ""
	baseline := false
	for i := len(t.Runs) - 1; i >= 0; i-- {
		r := &t.Runs[i]
		baseline = baseline || r.Baseline
		if i > 0 && r.Facts.Commit != "" && t.Runs[i-1].Facts.Commit == r.Facts.Commit {
			continue // of the runs on one commit the last says where it stood
		}
		left, what := "", r.Facts.Subject
		if r.Delta != nil {
			left = fmt.Sprint(r.Delta.CausesLeft)
		}
		if what == "" {
			what = "run of " + r.Facts.Check
		}
		if baseline {
			what += " (baseline)"
		}
		baseline = false
		when := r.Facts.StartedAt.UTC().Format("2006-01-02 15:04")
		if when[:10] == last {
			when = when[11:]
		} else {
			last = when[:10]
		}
		fmt.Fprintf(b, "| %s | %s | %s |\n", when, cell(what), left)
	}
	fmt.Fprintln(b)
}

// effort tells of each cause over how many runs it lived and what settled it.
func (t *Told) effort(b *strings.Builder) {
	fmt.Fprintf(b, "## Effort, by cause\n\n| cause | symptoms | runs | commits | settled by |\n| --- | ---: | ---: | ---: | --- |\n")
	for i := range t.Causes {
		c := &t.Causes[i]
		if c.Known {
			continue
		}
		until, end := c.Since, "open"
		if c.Decision != nil {
			end = decision(c.Decision)
		} else if c.Status == "cleared" {
			end = "cleared"
		}
		if c.Status != "cleared" && len(t.Runs) > 0 {
			until = t.Runs[0].Number
		}
		fmt.Fprintf(b, "| %s %s | %d | %d | %d | %s |\n", c.ID, cell(c.Title), c.Symptoms, max(0, until-c.First), len(t.of(c.ID)), cell(end))
	}
	fmt.Fprintln(b)
}

// lessons are what the records themselves tell.
func (t *Told) lessons(b *strings.Builder) {
	var list []string
	silent, told, refuted, returned, uncovered := 0, 0, 0, 0, 0
	for i := range t.Causes {
		c := &t.Causes[i]
		if c.Known {
			continue
		}
		if c.Link != nil && c.Link.Standing == api.Likely {
			told++
		} else {
			silent++
		}
		if c.Uncovered {
			uncovered++
		}
	}
	opened := map[string]int{}
	for i := range t.Runs {
		if d := t.Runs[i].Delta; d != nil {
			refuted += len(d.Disproved)
			for _, id := range d.Opened {
				if opened[id]++; opened[id] == 2 {
					returned++
				}
			}
		}
	}
	if told+silent > 0 {
		list = append(list, fmt.Sprintf("The notes explained %d of %s.", told, count(told+silent, "cause")))
	}
	if uncovered > 0 {
		list = append(list, fmt.Sprintf("%s hidden behind others, and seen once those were fixed.", were(uncovered, "cause")))
	}
	if refuted > 0 {
		list = append(list, fmt.Sprintf("%s claimed too early: a later run still showed the cause.", were(refuted, "fix")))
	}
	if returned > 0 {
		list = append(list, fmt.Sprintf("%s back after being cleared.", came(returned)))
	}
	if at := t.slowest(); at != nil {
		list = append(list, fmt.Sprintf("%s lived longest: %s.", at.ID, at.Title))
	}
	if len(list) > 0 {
		fmt.Fprintf(b, "## Lessons\n\n- %s\n\n", strings.Join(list, "\n- "))
	}
}

func (t *Told) slowest() *api.Cause {
	var list []*api.Cause
	for i := range t.Causes {
		if c := &t.Causes[i]; !c.Known && c.Status == "cleared" {
			list = append(list, c)
		}
	}
	sort.SliceStable(list, func(i, j int) bool { return list[i].Since-list[i].First > list[j].Since-list[j].First })
	if len(list) < 3 {
		return nil
	}
	return list[0]
}

func were(n int, what string) string {
	if n == 1 {
		return "1 " + what + " was"
	}
	if what == "fix" {
		what += "e"
	}
	return fmt.Sprintf("%d %ss were", n, what)
}

func came(n int) string {
	if n == 1 {
		return "1 cause came"
	}
	return fmt.Sprintf("%d causes came", n)
}

// now is when a page was made; a test sets it.
var now = time.Now
