package report

import (
	"encoding/json"
	"io"
	"strings"

	"unicausa/internal/core/symptom"
	"unicausa/internal/core/triage"
)

// The parts of SARIF 2.1.0 (OASIS Standard) that a report fills in. A cause is
// a rule, a symptom a result of it.
type sarifLog struct {
	Schema  string     `json:"$schema"`
	Version string     `json:"version"`
	Runs    []sarifRun `json:"runs"`
}

type sarifRun struct {
	Tool    sarifTool     `json:"tool"`
	Results []sarifResult `json:"results"`
}

type sarifTool struct {
	Driver sarifDriver `json:"driver"`
}

type sarifDriver struct {
	Name  string      `json:"name"`
	Rules []sarifRule `json:"rules"`
}

type sarifRule struct {
	ID               string         `json:"id"`
	Name             string         `json:"name"`
	ShortDescription sarifText      `json:"shortDescription"`
	Help             *sarifText     `json:"help,omitempty"`
	Properties       map[string]any `json:"properties,omitempty"`
}

type sarifText struct {
	Text string `json:"text"`
}

type sarifResult struct {
	RuleID              string            `json:"ruleId"`
	RuleIndex           int               `json:"ruleIndex"`
	Level               string            `json:"level"`
	Message             sarifText         `json:"message"`
	Locations           []sarifLocation   `json:"locations,omitempty"`
	BaselineState       string            `json:"baselineState"`
	PartialFingerprints map[string]string `json:"partialFingerprints"`
	OccurrenceCount     int               `json:"occurrenceCount,omitempty"`
	Rank                float64           `json:"rank"` // 0 to 100, what to do first highest
}

type sarifLocation struct {
	Physical *sarifPhysical `json:"physicalLocation,omitempty"`
	Logical  []sarifLogical `json:"logicalLocations,omitempty"`
}

type sarifPhysical struct {
	Artifact sarifArtifact `json:"artifactLocation"`
	Region   *sarifRegion  `json:"region,omitempty"`
}

type sarifArtifact struct {
	URI string `json:"uri"`
}

type sarifRegion struct {
	StartLine   int        `json:"startLine"`
	StartColumn int        `json:"startColumn,omitempty"`
	Snippet     *sarifText `json:"snippet,omitempty"`
}

type sarifLogical struct {
	FullyQualifiedName string `json:"fullyQualifiedName"`
	Kind               string `json:"kind"`
}

// SARIF writes a report as a SARIF 2.1.0 log with one run.
func SARIF(w io.Writer, r *triage.Report, texts Texts) error {
	d := newDocument(r, texts)
	run := sarifRun{Tool: sarifTool{Driver: sarifDriver{Name: "Unicausa", Rules: []sarifRule{}}}, Results: []sarifResult{}}
	index := map[string]int{}
	rank := map[string]float64{}
	for i, e := range append(append([]entry{}, d.Fresh...), d.Known...) {
		index[e.ID] = i
		rank[e.ID] = 100 * (1 - float64(i)/float64(len(r.Causes)))
		rule := sarifRule{ID: e.ID, Name: e.Kind, ShortDescription: sarifText{e.Title}, Properties: map[string]any{"phase": e.Phase, "package": e.Package, "reason": e.Reason}}
		var help []string
		for _, s := range e.Steps {
			help = append(help, s.Text)
		}
		if len(e.Links) > 0 {
			help = append(help, e.Links[0].Change.Notes+": "+strings.Join(e.Links[0].Words, "\n"))
			rule.Properties["notes"], rule.Properties["notesLine"], rule.Properties["score"] = e.Links[0].Change.Notes, e.Links[0].Change.Line, e.Links[0].Score
		}
		if len(help) > 0 {
			rule.Help = &sarifText{strings.Join(help, "\n")}
		}
		run.Tool.Driver.Rules = append(run.Tool.Driver.Rules, rule)
	}
	for i := range r.Symptoms {
		s := &r.Symptoms[i]
		result := sarifResult{RuleID: s.Cause, RuleIndex: -1, Level: s.Level, Message: sarifText{s.Message}, BaselineState: string(s.State), PartialFingerprints: map[string]string{"identity/v1": s.ID}, OccurrenceCount: s.Count, Rank: -1}
		if at, ok := index[s.Cause]; ok {
			result.RuleIndex, result.Rank = at, rank[s.Cause]
		} else {
			result.RuleID = string(s.Kind)
		}
		if s.State == symptom.Absent {
			result.Level = "none"
		}
		result.Locations = locationsOf(s)
		run.Results = append(run.Results, result)
	}
	encoder := json.NewEncoder(w)
	encoder.SetIndent("", "  ")
	encoder.SetEscapeHTML(false)
	return encoder.Encode(sarifLog{Schema: "https://docs.oasis-open.org/sarif/sarif/v2.1.0/errata01/os/schemas/sarif-schema-2.1.0.json", Version: "2.1.0", Runs: []sarifRun{run}})
}

func locationsOf(s *triage.Symptom) []sarifLocation {
	location := sarifLocation{}
	if s.File != "" {
		location.Physical = &sarifPhysical{Artifact: sarifArtifact{strings.ReplaceAll(s.File, " ", "%20")}}
		if s.Line > 0 {
			location.Physical.Region = &sarifRegion{StartLine: s.Line, StartColumn: s.Column}
			if s.Source != "" {
				location.Physical.Region.Snippet = &sarifText{s.Source}
			}
		}
	}
	if s.Test != "" {
		location.Logical = []sarifLogical{{FullyQualifiedName: strings.TrimPrefix(s.Unit+"/"+s.Test, "/"), Kind: "function"}}
	}
	if location.Physical == nil && location.Logical == nil {
		return nil
	}
	return []sarifLocation{location}
}
