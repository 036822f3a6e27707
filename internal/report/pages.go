package report

import (
	"embed"
	"fmt"
	"html/template"
	"io"
	"strings"
	texttemplate "text/template"

	"unicausa/internal/core/symptom"
	"unicausa/internal/core/triage"
)

//go:embed triage.md.tmpl triage.html.tmpl story.html.tmpl palette.tmpl
var templates embed.FS

// document is a report as its pages show it.
type document struct {
	Summary triage.Summary
	Fresh   []entry // causes that are new, in the order to tackle them
	Known   []entry
	Silent  []*triage.Change
	Unread  []triage.Unread
	Failed  []triage.Input // inputs that could not be read to their end
}

// entry is one cause with what belongs to it. Roots are the symptoms that
// stand by themselves, Followers what only follows from them.
type entry struct {
	*triage.Cause
	Root             *triage.Symptom
	Roots, Followers []*triage.Symptom
	Links            []linked
}

// linked is a link with its change and its words as written.
type linked struct {
	triage.Link
	Change *triage.Change
	Words  []string
}

func newDocument(r *triage.Report, texts Texts) *document {
	p := &page{report: r, texts: texts, symptoms: map[string]*triage.Symptom{}, changes: map[string]*triage.Change{}}
	d := &document{Summary: r.Summary, Unread: r.Unread}
	for i := range r.Symptoms {
		p.symptoms[r.Symptoms[i].ID] = &r.Symptoms[i]
	}
	for i := range r.Changes {
		p.changes[r.Changes[i].ID] = &r.Changes[i]
		if r.Changes[i].Silent {
			d.Silent = append(d.Silent, &r.Changes[i])
		}
	}
	for _, in := range r.Inputs {
		if in.Problem != "" {
			d.Failed = append(d.Failed, in)
		}
	}
	for i := range r.Causes {
		e := p.entry(&r.Causes[i])
		if e.Cause.Known {
			d.Known = append(d.Known, e)
		} else {
			d.Fresh = append(d.Fresh, e)
		}
	}
	return d
}

func (p *page) entry(c *triage.Cause) entry {
	e := entry{Cause: c, Root: p.symptoms[c.Root]}
	follows := map[string]bool{}
	for _, id := range c.Followers {
		follows[id] = true
	}
	for _, id := range c.Symptoms {
		switch s := p.symptoms[id]; {
		case s == nil:
		case follows[id]:
			e.Followers = append(e.Followers, s)
		default:
			e.Roots = append(e.Roots, s)
		}
	}
	for _, l := range c.Links {
		if change := p.changes[l.Change]; change != nil {
			e.Links = append(e.Links, linked{Link: l, Change: change, Words: p.excerpt(change)})
		}
	}
	return e
}

// placeOf is where a symptom stands, in words.
func placeOf(s *triage.Symptom) string {
	place := s.File
	if s.File != "" && s.Line > 0 {
		place = fmt.Sprintf("%s:%d", s.File, s.Line)
	}
	if place = strings.TrimSpace(s.Test + " " + place); place == "" {
		return s.Unit
	}
	return place
}

// seenAt is the line of the input on which a symptom was seen last.
func seenAt(s *triage.Symptom) string {
	if len(s.At) == 0 {
		return ""
	}
	at := s.At[len(s.At)-1]
	return fmt.Sprintf("%s:%d", Portable(at.Input), at.Line)
}

var functions = map[string]any{
	"place": placeOf, "seen": seenAt, "certainty": func(l linked) string { return certainty(l.Standing, l.Score) }, "count": count,
	"percent":  func(w float64) string { return fmt.Sprintf("%+.2f", w) },
	"cell":     cell,
	"portable": Portable,
	"plain":    harmless,
	"code":     codeSpan,
	"head":     func(n int, list []*triage.Symptom) []*triage.Symptom { return list[:min(n, len(list))] },
	"more":     func(n int, list []*triage.Symptom) int { return max(0, len(list)-n) },
	"new":      func(s *triage.Symptom) bool { return s.State == symptom.New },
}

// codeSpan writes a text as code in Markdown, whatever backticks it has.
func codeSpan(text string) string {
	text = strings.Join(strings.Fields(text), " ")
	fence := "`"
	for strings.Contains(text, fence) {
		fence += "`"
	}
	if strings.HasPrefix(text, "`") || strings.HasSuffix(text, "`") {
		text = " " + text + " "
	}
	return fence + text + fence
}

// Markdown writes a report for an issue or a pull request.
func Markdown(w io.Writer, r *triage.Report, texts Texts) error {
	t, err := texttemplate.New("triage.md.tmpl").Funcs(functions).ParseFS(templates, "triage.md.tmpl")
	if err != nil {
		return err
	}
	return t.Execute(w, newDocument(r, texts))
}

// HTML writes a report as one page that needs nothing else and prints well.
func HTML(w io.Writer, r *triage.Report, texts Texts) error {
	t, err := template.New("triage.html.tmpl").Funcs(functions).ParseFS(templates, "triage.html.tmpl", "palette.tmpl")
	if err != nil {
		return err
	}
	return t.Execute(w, newDocument(r, texts))
}
