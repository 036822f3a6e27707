package report

import (
	"fmt"
	"io"
	"strings"

	"charm.land/lipgloss/v2"

	"unicausa/internal/api"
)

// Why says what holds each symptom in a cause, and what speaks for and against
// each entry of the notes that may explain it, in log odds.
func Why(w io.Writer, d *api.CauseDetail) error {
	var b strings.Builder
	width := Width(w)
	fmt.Fprintf(&b, "%s  %s\n\n", accent.Bold(true).Render(d.Cause.ID), strong.Render(fit(d.Cause.Title, width-6)))
	order, members := reasons(d.Symptoms)
	for _, reason := range order {
		list := members[reason]
		fmt.Fprintf(&b, "%s %s\n", strong.Render(count(len(list), "symptom")), fit(reason, width-14))
		for i, s := range list {
			if i == mostReasons {
				fmt.Fprintf(&b, "  %s\n", faint.Render(fmt.Sprintf("and %d more", len(list)-i)))
				break
			}
			fmt.Fprintf(&b, "  %s\n", faint.Render(fit(placed(s.File, s.Line, s.Test)+s.Message, width-4)))
		}
	}
	if len(d.Links) == 0 {
		fmt.Fprintf(&b, "\n%s\n", "No entry of the notes shares a name or enough words with this.")
	}
	for _, l := range d.Links {
		said := certainty(l.Standing, l.Score)
		if l.State != api.LinkStateProposed {
			said = string(l.State) + ", " + said
		}
		fmt.Fprintf(&b, "\n%s %s  %s\n", accent.Render(fmt.Sprintf("%s:%d", l.Change.Notes, l.Change.Line)), strong.Render(said), fit(l.Change.Title, width-50))
		for _, r := range l.Because {
			line := fmt.Sprintf("  %+6.2f  %s", r.Weight, r.What)
			if r.Value != "" {
				line += " " + accent.Render(fit(r.Value, width-2-lipgloss.Width(line)))
			}
			fmt.Fprintln(&b, line)
		}
	}
	_, err := lipgloss.Fprint(w, b.String())
	return err
}

// mostReasons is how many symptoms are listed under what holds them.
const mostReasons = 4

// reasons sorts symptoms by what holds them in their cause, in the order in
// which the reasons come up.
func reasons(list []api.Symptom) (order []string, members map[string][]*api.Symptom) {
	members = map[string][]*api.Symptom{}
	for i := range list {
		s := &list[i]
		reason := "put here without a reason of its own"
		if s.Because != nil {
			reason = strings.TrimSpace(s.Because.What + " " + s.Because.Value)
		}
		if s.Follower {
			reason += ", so it follows"
		}
		if members[reason] == nil {
			order = append(order, reason)
		}
		members[reason] = append(members[reason], s)
	}
	return order, members
}
