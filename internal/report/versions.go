package report

import (
	"fmt"
	"io"
	"strings"

	"charm.land/lipgloss/v2"

	"unicausa/internal/api"
)

// Versions tells what moved: intended first, then direct, then the rest.
func Versions(w io.Writer, v *api.Versions) error {
	var b strings.Builder
	width := Width(w)
	for _, warning := range v.Warnings {
		fmt.Fprintf(&b, "%s\n", strong.Render(fit("! "+warning, width)))
	}
	title := ""
	for i := range v.Moves {
		m := &v.Moves[i]
		part := "pulled in"
		switch {
		case m.Intended:
			part = "intended"
		case m.Direct:
			part = "named in a manifest"
		}
		if part != title {
			fmt.Fprintf(&b, "%s\n", strong.Render(part))
			title = part
		}
		name := m.Name
		if m.Was != "" {
			name += " (was " + m.Was + ")"
		}
		fmt.Fprintf(&b, "  %-10s %s %s\n", m.Change, fit(name, max(20, width-44)), accent.Render(strings.Trim(m.From+" → "+m.To, " →")))
		if len(m.Path) > 0 {
			fmt.Fprintf(&b, "             %s\n", faint.Render(clip("by "+strings.Join(m.Path, " › "), width-13)))
		}
	}
	for _, h := range v.Held {
		fmt.Fprintf(&b, "%s\n", strong.Render(fmt.Sprintf("! %s is held at %s, not %s", h.Name, h.At, h.To)))
		for _, n := range h.By {
			fmt.Fprintf(&b, "    %s\n", needText(&n))
		}
	}
	if len(v.Unmet) > 0 {
		fmt.Fprintf(&b, "%s\n", strong.Render("unmet requirements"))
		for i := range v.Unmet {
			fmt.Fprintf(&b, "  %s\n", needText(&v.Unmet[i]))
		}
	}
	if len(v.Files) > 0 {
		fmt.Fprintf(&b, "%s\n", faint.Render(clip("read: "+strings.Join(v.Files, ", "), width)))
	}
	_, err := lipgloss.Fprint(w, b.String())
	return err
}

func needText(n *api.Need) string {
	text := fmt.Sprintf("%s wants %s %s", n.Package, n.Name, n.Range)
	switch {
	case n.Have != "" && n.Kind != "dependency" && n.Kind != "manifest":
		text += ", " + n.Have + " is here"
	case n.Have == "" && n.Kind == "peer":
		text += ", none is here"
	}
	return text + faint.Render(" ("+string(n.Kind)+")")
}
