package read

import (
	"encoding/csv"
	"strings"

	"unicausa/internal/core/symptom"
)

// columns reads reports in comma-separated values (RFC 4180) whose first line
// names the columns: among them a file, a line and a message.
type columns struct {
	names []string // plain keys, of the header
	next  int      // the line that the next row stands on
}

var columnsReader = stream{name: "columns", basis: symptom.ByKeys, marks: []string{",line", "line,", ",message", "message,"}, open: func() lineReader { return &columns{} }}

func (c *columns) listening() bool { return c.names != nil }

func (c *columns) line(l Line, out *sink) verdict {
	if c.names != nil && l.Number == c.next && strings.Contains(l.Text, ",") {
		c.next++
		if v := c.row(l); v != nil {
			r := &roles{out: out}
			if r.walk(v, under{}); r.findings > 0 {
				return took
			}
		}
		return noise
	}
	c.names = nil
	if len(l.Text) > 400 || strings.ContainsAny(l.Text, ":;(") {
		return pass
	}
	file, line, message := false, false, false
	var names []string
	for field := range strings.SplitSeq(l.Text, ",") {
		key := plainKey(strings.Trim(field, "\"' "))
		names = append(names, key)
		file, line, message = file || fileKeys[key] > 0, line || lineKeys[key] > 0, message || messageKeys[key] > 0
	}
	if !file || !line || !message || len(names) < 3 {
		return pass
	}
	c.names, c.next = names, l.Number+1
	return noise
}

// row is a line's fields by the names of their columns; nil where it is no row.
func (c *columns) row(l Line) *jsonValue {
	reader := csv.NewReader(strings.NewReader(strings.ReplaceAll(l.Text, `\"`, `""`)))
	reader.LazyQuotes = true
	fields, err := reader.Read()
	if err != nil || len(fields) < len(c.names)-1 {
		return nil
	}
	v := &jsonValue{Line: l.Number, Fields: map[string]*jsonValue{}}
	for i, text := range fields[:min(len(fields), len(c.names))] {
		f := &jsonValue{Line: l.Number, Text: text, order: i}
		if n, m := leadingNumber(text); m == len(text) && m > 0 {
			f.Number = float64(n)
		}
		v.Fields[c.names[i]] = f
	}
	return v
}

func (c *columns) close(*sink) {}
