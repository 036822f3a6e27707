package report

import (
	"cmp"
	"encoding/json"
	"encoding/xml"
	"fmt"
	"io"
	"slices"
	"strings"

	"unicausa/internal/api"
)

// GateAs writes a verdict in a form: text, json, junit, sarif or markdown. Base
// is the upgrade's address in the console, to which the reasons' links are
// joined. An unknown form gives an error that lists them.
func GateAs(w io.Writer, form string, g api.Gate, base string) error {
	switch form {
	case "text":
		return Gate(w, g, base)
	case "json":
		return indented(w, g)
	case "junit":
		return gateJUnit(w, g, base)
	case "sarif":
		return gateSARIF(w, g, base)
	case "markdown":
		return gateMarkdown(w, g, base)
	}
	return fmt.Errorf("there is no form %q: give text, json, junit, sarif or markdown", form)
}

func indented(w io.Writer, v any) error {
	out := json.NewEncoder(w)
	out.SetIndent("", "  ")
	out.SetEscapeHTML(false)
	return out.Encode(v)
}

// The parts of JUnit XML, as commonly emitted, that a verdict fills in: a test
// case for each reason, and one that passes for an open gate.
type junitSuite struct {
	XMLName  xml.Name    `xml:"testsuite"`
	Name     string      `xml:"name,attr"`
	Tests    int         `xml:"tests,attr"`
	Failures int         `xml:"failures,attr"`
	Skipped  int         `xml:"skipped,attr"`
	Cases    []junitCase `xml:"testcase"`
}

type junitCase struct {
	Class   string        `xml:"classname,attr"`
	Name    string        `xml:"name,attr"`
	Failure *junitMessage `xml:"failure,omitempty"`
	Skipped *junitMessage `xml:"skipped,omitempty"`
}

type junitMessage struct {
	Type    string `xml:"type,attr,omitempty"`
	Message string `xml:"message,attr"`
	Text    string `xml:",chardata"`
}

func gateJUnit(w io.Writer, g api.Gate, base string) error {
	s := junitSuite{Name: "unicausa gate"}
	for _, r := range g.Reasons {
		s.Cases = append(s.Cases, junitCase{Class: "gate." + r.Code, Name: r.Text, Failure: &junitMessage{Type: r.Code, Message: r.Text, Text: link(base, r.Path)}})
	}
	for _, v := range g.Vouched {
		s.Cases = append(s.Cases, junitCase{Class: "gate." + v.Reason.Code, Name: v.Reason.Text, Skipped: &junitMessage{Message: v.Word + " (" + someone(v.Author) + ")"}})
	}
	if g.Open {
		s.Cases = append(s.Cases, junitCase{Class: "gate", Name: "everything that passed in the baseline passes again"})
	}
	s.Tests, s.Failures, s.Skipped = len(s.Cases), len(g.Reasons), len(g.Vouched)
	if _, err := io.WriteString(w, xml.Header); err != nil {
		return err
	}
	out := xml.NewEncoder(w)
	out.Indent("", "  ")
	if err := out.Encode(s); err != nil {
		return err
	}
	_, err := io.WriteString(w, "\n")
	return err
}

func link(base, path string) string {
	if path == "" {
		return base
	}
	return base + path
}

// gateSARIF writes a SARIF 2.1.0 log with a result for each reason. A reason
// stands nowhere in the source: its check or its cause is the logical location.
func gateSARIF(w io.Writer, g api.Gate, base string) error {
	type result struct {
		RuleID     string          `json:"ruleId"`
		Level      string          `json:"level"`
		Message    sarifText       `json:"message"`
		Locations  []sarifLocation `json:"locations,omitempty"`
		HostedURI  string          `json:"hostedViewerUri,omitempty"`
		Suppressed []any           `json:"suppressions,omitempty"`
	}
	results := []result{}
	rules, seen := []sarifRule{}, map[string]bool{}
	add := func(r api.GateReason, word []any) {
		if !seen[r.Code] {
			seen[r.Code] = true
			rules = append(rules, sarifRule{ID: r.Code, Name: r.Code, ShortDescription: sarifText{"the gate: " + strings.ReplaceAll(r.Code, "-", " ")}})
		}
		one := result{RuleID: r.Code, Level: "error", Message: sarifText{r.Text}, HostedURI: link(base, r.Path), Suppressed: word}
		for _, name := range []string{r.Check, r.Cause} {
			if name != "" {
				one.Locations = append(one.Locations, sarifLocation{Logical: []sarifLogical{{FullyQualifiedName: name, Kind: "resource"}}})
			}
		}
		results = append(results, one)
	}
	for _, r := range g.Reasons {
		add(r, nil)
	}
	for _, v := range g.Vouched {
		add(v.Reason, []any{map[string]string{"kind": "external", "status": "accepted", "justification": v.Word + " (" + someone(v.Author) + ")"}})
	}
	return indented(w, map[string]any{
		"$schema": "https://json.schemastore.org/sarif-2.1.0.json", "version": "2.1.0",
		"runs": []any{map[string]any{"tool": sarifTool{sarifDriver{Name: "Unicausa", Rules: rules}}, "results": results}},
	})
}

// later puts what a branch brought before what was there.
func later(r api.GateReason) int {
	if r.Code == "brought" {
		return 0
	}
	return 1
}

// gateMarkdown writes the verdict for a comment on a pull request, what it brought first.
func gateMarkdown(w io.Writer, g api.Gate, base string) error {
	b := &strings.Builder{}
	g.Reasons = slices.Clone(g.Reasons)
	slices.SortStableFunc(g.Reasons, func(x, y api.GateReason) int { return cmp.Compare(later(x), later(y)) })
	t := Told{Overview: api.Overview{Gate: g}, URL: base}
	t.verdict(b)
	_, err := io.WriteString(w, strings.TrimRight(b.String(), "\n")+"\n")
	return err
}
