package read

import (
	"encoding/json"
	"strings"
)

// cargoJSON reads cargo --message-format=json and rustc --error-format=json,
// one object a line. Format: The rustc book, "JSON Output"; The Cargo Book,
// "External tools".
type cargoJSON struct{}

type rustMessage struct {
	Message string
	Level   string
	Code    *struct{ Code string }
	Spans   []struct {
		FileName    string `json:"file_name"`
		LineStart   int    `json:"line_start"`
		ColumnStart int    `json:"column_start"`
		IsPrimary   bool   `json:"is_primary"`
		Label       string
	}
	Children []struct{ Message string }
}

var cargoJSONReader = stream{name: "cargo json", marks: []string{`"reason":"`, `"$message_type":"`}, open: func() lineReader { return &cargoJSON{} }}

func (c *cargoJSON) line(l Line, out *sink) verdict {
	if !strings.HasPrefix(l.Text, "{") {
		return pass
	}
	var m rustMessage
	if strings.HasPrefix(l.Text, `{"reason":"`) {
		if !strings.HasPrefix(l.Text, `{"reason":"compiler-message"`) {
			return noise
		}
		var event struct{ Message *rustMessage }
		event.Message = &m
		if json.Unmarshal([]byte(l.Text), &event) != nil {
			return pass
		}
	} else if !strings.Contains(l.Text, `"$message_type":"diagnostic"`) || json.Unmarshal([]byte(l.Text), &m) != nil {
		return pass
	}
	out.result.Format = FormatJSON
	text := m.Level + ": " + m.Message
	if m.Code != nil {
		text = m.Level + "[" + m.Code.Code + "]: " + m.Message
	}
	s, ok := rustcHead(text)
	if !ok {
		return noise
	}
	d := &diagnostic{Symptom: s}
	for _, span := range m.Spans {
		if span.IsPrimary && d.File == "" {
			d.stage, d.File, d.Line, d.Column = rustPlaced, span.FileName, span.LineStart, span.ColumnStart
		}
		if span.Label != "" {
			d.add(span.Label)
		}
	}
	for _, child := range m.Children {
		d.add(child.Message)
	}
	if !rustcEnds(d, out) {
		return noise
	}
	out.add(d.Symptom, l.Number, l.Number)
	return took
}

func (c *cargoJSON) close(out *sink) {}
