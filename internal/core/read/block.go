package read

import (
	"strconv"
	"strings"

	"unicausa/internal/core/symptom"
)

// dialect says how one tool's diagnostics look, where each has a headline and
// the lines behind it that belong to it.
type dialect struct {
	head func(text string) (symptom.Symptom, bool)
	near func(s *symptom.Symptom, l Line) bool     // whether the lines around bear the headline out
	tail func(d *diagnostic, text string) bool     // whether the line belongs to the diagnostic
	ends func(d *diagnostic, out *sink) bool       // completes it; false drops it
	rest func(b *block, l Line, out *sink) verdict // totals, and what is known to be of no interest
}

// diagnostic is one that is being read.
type diagnostic struct {
	symptom.Symptom
	from, end int
	lines     int    // behind the headline
	stage     int    // for the dialect's use
	at        int    // the line of the message, where that is not the headline; 0 for the headline
	number    int    // of the line at hand
	stamped   bool   // the headline stood behind a timestamp
	excerpt   string // the line of source that was shown last, for the use of the dialect
}

// add appends a line to the diagnostic's detail.
func (d *diagnostic) add(text string) { addDetail(&d.Symptom, strings.TrimSpace(text)) }

// addDetail appends a line to a symptom's detail, as long as that is short.
func addDetail(s *symptom.Symptom, text string) {
	switch {
	case len(s.Detail) > 8<<10:
	case s.Detail == "":
		s.Detail = text
	default:
		s.Detail += "\n" + text
	}
}

// block reads a dialect.
type block struct {
	dialect
	d                *diagnostic
	errors, warnings int // read since the last total
	all              int
	inside           int // for the dialect's use: the state between diagnostics
}

func (b *block) line(l Line, out *sink) verdict {
	s, ok := b.head(l.Text)
	if ok && b.near != nil {
		found := s
		ok = b.near(&found, l)
	}
	if b.d != nil && b.tail != nil && !ok {
		b.d.number = l.Number
		if b.tail(b.d, l.Text) {
			b.d.lines++
			b.d.end = l.Number
			return more
		}
	}
	if ok {
		b.close(out)
		b.d = &diagnostic{Symptom: s, from: l.Number, end: l.Number, number: l.Number, stamped: l.Stamped}
		b.all++
		if s.Level == "error" {
			b.errors++
		} else if s.Level == "warning" {
			b.warnings++
		}
		return more
	}
	b.close(out)
	if b.rest != nil {
		return b.rest(b, l, out)
	}
	return pass
}

func (b *block) close(out *sink) {
	d := b.d
	b.d = nil
	if d == nil || b.ends != nil && !b.ends(d, out) {
		return
	}
	from := d.from
	if d.at > 0 {
		from = d.at
	}
	out.add(d.Symptom, from, max(d.end, from))
}

// total takes a total that the tool printed, and begins to count anew.
func (b *block) total(out *sink, line int, what string, count int) verdict {
	switch what {
	case "errors":
		out.state(line, what, count, b.errors)
		b.errors = 0
	case "warnings":
		out.state(line, what, count, b.warnings)
		b.warnings = 0
	}
	return noise
}

// dialectReader is the reader of a dialect.
func dialectReader(name string, marks []string, d dialect) stream {
	return stream{name: name, marks: marks, open: func() lineReader { return &block{dialect: d} }}
}

// counted reads "3 errors" and "1 warning" anywhere in a text.
func counted(text, word string) (int, bool) {
	last := ""
	for field := range strings.FieldsSeq(text) {
		if last != "" && len(field) >= len(word) && strings.EqualFold(field[:len(word)], word) {
			n, err := strconv.Atoi(strings.Trim(last, "(,"))
			return n, err == nil
		}
		last = field
	}
	return 0, false
}

// caret reports whether a line only points at the line above: "    ^~~".
func caret(text string) bool {
	t := strings.TrimSpace(text)
	return t != "" && strings.Trim(t, "^~-— ") == "" && strings.ContainsAny(t, "^~")
}

// extension reports whether a file has one of the extensions.
func extension(file string, exts ...string) bool {
	for _, e := range exts {
		if strings.HasSuffix(file, e) {
			return true
		}
	}
	return false
}

// compileSymptom is a diagnostic of a compiler at a place.
func compileSymptom(tool string, p place, level, message string) symptom.Symptom {
	s := symptom.Symptom{Kind: symptom.Error, Level: level, Phase: symptom.PhaseCompile, Tool: tool, File: p.file, Line: p.line, Column: p.column, Message: message}
	if level != "error" {
		s.Kind = symptom.Warning
	}
	return s
}

// deprecates reports whether a message is about something that is deprecated.
func deprecates(message string) bool {
	lower := strings.ToLower(message)
	return strings.Contains(lower, "deprecat") || strings.Contains(lower, "is obsolete") || strings.Contains(lower, "will be removed in")
}

// asDeprecation makes a warning about something deprecated one.
func asDeprecation(s *symptom.Symptom) {
	if s.Level != "error" && deprecates(s.Message) {
		s.Kind = symptom.Deprecation
	}
}

// ref is one name with its part.
func ref(role symptom.Role, name string) symptom.Ref { return symptom.Ref{Role: role, Name: name} }

// lastSegment is the part of a name behind its last separator.
func lastSegment(name string) string { return name[strings.LastIndexAny(name, ".:#/\\")+1:] }
