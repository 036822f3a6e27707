package report

import (
	"encoding/json"
	"io"

	"unicausa/internal/core/triage"
)

// Format is a form of a report: its media type, and what writes it.
type Format struct {
	Media string
	Write func(w io.Writer, r *triage.Report, texts Texts) error
}

// Formats are the forms of a triage report, by name.
var Formats = map[string]Format{
	"text":     {"text/plain; charset=utf-8", Text},
	"json":     {"application/json", writeJSON},
	"markdown": {"text/markdown; charset=utf-8", Markdown},
	"html":     {"text/html; charset=utf-8", HTML},
	"sarif":    {"application/sarif+json", SARIF},
}

func writeJSON(w io.Writer, r *triage.Report, _ Texts) error {
	enc := json.NewEncoder(w)
	enc.SetIndent("", "  ")
	enc.SetEscapeHTML(false)
	return enc.Encode(r)
}
