package report

import (
	"fmt"
	"path"
	"regexp"
	"strings"

	"unicausa/internal/api"
)

// Question is a question about a cause, in Markdown, ready to be asked where others can
// answer it: what moved, the message, the smallest excerpt, what was tried. The project's own
// name, paths, packages and tests are left out.
func Question(d *api.CauseDetail, u *api.Upgrade) string {
	b := &strings.Builder{}
	p := privacy(d, u)
	fmt.Fprintf(b, "After going from %s:\n\n", movesText(u.Leg.Moves))
	b.WriteString(shownText(d, p))
	if tried := triedText(d, p); tried != "" {
		fmt.Fprintf(b, "\nTried so far:\n\n%s", tried)
	}
	if best := likely(d); best != nil {
		fmt.Fprintf(b, "\nThe notes say in %s: %s\nIs that what is behind it, and what is the way to do it now?\n", strings.TrimSpace(best.Change.Package+" "+best.Change.Version), best.Change.Title)
	} else {
		b.WriteString("\nThe notes do not mention it. What changed, and what is the way to do it now?\n")
	}
	return b.String()
}

// UpstreamReport is a report to those who make what moved, in Markdown: versions, what is
// seen and what was expected, and how to see it.
func UpstreamReport(d *api.CauseDetail, u *api.Upgrade) string {
	b := &strings.Builder{}
	p := privacy(d, u)
	fmt.Fprintf(b, "### %s\n\n", p.Replace(d.Cause.Title))
	b.WriteString("| package | worked with | fails with |\n| --- | --- | --- |\n")
	for _, m := range u.Leg.Moves {
		fmt.Fprintf(b, "| %s | %s | %s |\n", cell(m.Package), cell(m.From), cell(m.To))
	}
	fmt.Fprintf(b, "\n**What is seen**, in the %s phase:\n\n%s", d.Cause.Phase, shownText(d, p))
	b.WriteString("\n**What was expected**: what passed with the version before passes, or the notes say what to do.\n")
	if best := likely(d); best != nil {
		fmt.Fprintf(b, "The entry that comes nearest: %s\n", best.Change.Title)
	} else {
		b.WriteString("No entry of the release notes mentions it.\n")
	}
	b.WriteString("\n**How to see it**: the excerpt above, built and run with the version that fails.\n")
	if tried := triedText(d, p); tried != "" {
		fmt.Fprintf(b, "\n**What was tried**\n\n%s", tried)
	}
	return b.String()
}

func movesText(moves []api.Move) string {
	var parts []string
	for _, m := range moves {
		parts = append(parts, fmt.Sprintf("%s %s to %s", m.Package, m.From, m.To))
	}
	return strings.Join(parts, " and from ")
}

func likely(d *api.CauseDetail) *api.Link {
	for i := range d.Links {
		if d.Links[i].Standing == api.Likely {
			return &d.Links[i]
		}
	}
	return nil
}

// mostTried bounds what is told of attempts.
const mostTried = 5

// shownText is the message with its source line, as one block.
func shownText(d *api.CauseDetail, p *strings.Replacer) string {
	if len(d.Symptoms) == 0 {
		return ""
	}
	s := &d.Symptoms[0]
	lines := []string{p.Replace(s.Message)}
	for _, l := range s.Source {
		if l.Line == s.Line {
			lines = append(lines, "", p.Replace(literals.ReplaceAllString(strings.TrimSpace(l.Text), "$1…$1")))
		}
	}
	text := strings.Join(lines, "\n")
	fence := "```"
	for strings.Contains(text, fence) {
		fence += "`"
	}
	return fence + "\n" + text + "\n" + fence + "\n"
}

// literals are texts in code, whose content is the project's own.
var literals = regexp.MustCompile("(['\"`])[^'\"`\n]*['\"`]")

func triedText(d *api.CauseDetail, p *strings.Replacer) string {
	b := &strings.Builder{}
	for i, x := range d.Decisions {
		if i == mostTried {
			break
		}
		if x.Kind == "fix" && !x.Undone {
			fmt.Fprintf(b, "- %s%s\n", p.Replace(x.Reason), map[api.DecisionOutcome]string{"disproved": " (it is still there)"}[x.Outcome])
		}
	}
	return b.String()
}

// privacy takes the project's own name, paths, packages and tests out of a text.
func privacy(d *api.CauseDetail, u *api.Upgrade) *strings.Replacer {
	var pairs []string
	seen := map[string]bool{}
	hide := func(own, as string) {
		if len(own) > 2 && !seen[own] {
			seen[own] = true
			pairs = append(pairs, own, as)
		}
	}
	for i := range d.Symptoms { // the longest of what belongs together first
		s := &d.Symptoms[i]
		hide(s.File, "file"+path.Ext(s.File))
		if dir := path.Dir(s.File); dir != "." {
			hide(dir+"/", "")
		}
		hide(s.Test, "the test")
		hide(s.Unit, "the package")
	}
	hide(u.Project, "the project")
	return strings.NewReplacer(pairs...)
}
