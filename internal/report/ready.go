package report

import (
	"fmt"
	"io"
	"strings"

	"charm.land/lipgloss/v2"

	"unicausa/internal/api"
)

// Ready tells who accepts what moves, those that do not first. What has no word on it is
// counted, and listed where all is asked for.
func Ready(w io.Writer, r *api.Ready, all bool) error {
	var b strings.Builder
	width, silent, shown := Width(w), 0, 0
	for i := range r.Dependencies {
		d := &r.Dependencies[i]
		if d.Of == "" && !all {
			silent++
			continue
		}
		shown++
		style := faint
		switch d.State {
		case api.DependencyStateNotReady:
			style = strong
		case api.DependencyStateReady:
			style = good
		}
		says := "states no range for what moves"
		if d.Of != "" {
			says = fmt.Sprintf("wants %s %s", d.Of, d.Wants)
		}
		if d.Newest != "" && d.Newest != d.Has {
			says += ", newest is " + d.Newest
		}
		fmt.Fprintf(&b, "%s %s %s\n", style.Render(fmt.Sprintf("%-9s", strings.ReplaceAll(string(d.State), "-", " "))), fit(strings.TrimSpace(d.Name+" "+d.Has), 40), faint.Render(clip(says, max(20, width-52))))
		for n := range d.By {
			fmt.Fprintf(&b, "          %s\n", faint.Render(clip("held back: "+needText(&d.By[n]), width-10)))
		}
	}
	if shown == 0 {
		fmt.Fprintln(&b, "No dependency states a range for what moves.")
	}
	if silent > 0 {
		fmt.Fprintf(&b, "%s\n", faint.Render(count(silent, "dependency states", "dependencies state")+" no range for what moves (--all)"))
	}
	if r.Asked == 0 {
		fmt.Fprintf(&b, "%s\n", faint.Render("newest versions are not known yet: unicausa ready --ask"))
	}
	_, err := lipgloss.Fprint(w, b.String())
	return err
}

// Found lists what was found, by kind.
func Found(w io.Writer, found []api.Found) error {
	var b strings.Builder
	width := Width(w)
	for i := range found {
		f := &found[i]
		fmt.Fprintf(&b, "%s %s %s\n", faint.Render(fmt.Sprintf("%-6s", f.Kind)), fit(f.Name, max(20, width-46)), faint.Render(clip(f.About, 36)))
	}
	if len(found) == 0 {
		fmt.Fprintln(&b, "Nothing here has that name or number.")
	}
	_, err := lipgloss.Fprint(w, b.String())
	return err
}
