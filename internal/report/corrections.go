package report

import (
	"fmt"
	"io"
	"strings"

	"charm.land/lipgloss/v2"

	"unicausa/internal/api"
)

// Corrections lists what people said of where symptoms belong.
func Corrections(w io.Writer, list []api.Correction) error {
	var b strings.Builder
	for i := range list {
		c := &list[i]
		tail := strings.TrimSpace(c.Author + " " + c.At.Format("2006-01-02 15:04"))
		if c.Reason != "" {
			tail = c.Reason + "  " + tail
		}
		if c.Undone {
			tail = "taken back  " + tail
		}
		fmt.Fprintf(&b, "%s  %s  %s\n", accent.Render(fmt.Sprintf("%4d", c.ID)), corrected(c), faint.Render(tail))
	}
	if len(list) == 0 {
		fmt.Fprintln(&b, faint.Render("nobody has moved, split, merged or pinned anything"))
	}
	_, err := lipgloss.Fprint(w, b.String())
	return err
}

// corrected is a correction in words.
func corrected(c *api.Correction) string {
	n := count(len(c.Symptoms), "symptom")
	switch c.Kind {
	case "merge":
		return fmt.Sprintf("%s merged into %s", c.From, c.Cause)
	case "split":
		return fmt.Sprintf("%s split off %s as %s", n, c.From, c.Cause)
	case "pin":
		return fmt.Sprintf("%s pinned to %s", n, c.Cause)
	}
	return fmt.Sprintf("%s moved to %s", n, c.Cause)
}
