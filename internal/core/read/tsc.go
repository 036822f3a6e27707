package read

import (
	"strconv"
	"strings"

	"unicausa/internal/core/symptom"
)

// tsc reads the TypeScript compiler, plain and --pretty:
//
//	src/a.ts(12,5): error TS2305: Module '"jar"' has no exported member 'openLid'.
//	  Type 'A' is not assignable …       continuation, indented by two a level
//	src/a.ts:12:5 - error TS2305: …      pretty; then a blank line and the frame:
//	12 import { openLid } from "jar"
//	            ~~~~~~~
//	  node_modules/jar/index.d.ts:3:1    related places, indented, with frames
//	Found 3 errors in 2 files.           and a table of files
//	error TS5023: Unknown compiler option 'x'.
//
// Format: formatDiagnostic and formatDiagnosticsWithColorAndContext in
// TypeScript's src/compiler/program.ts.
type tsc struct {
	open   *symptom.Symptom
	from   int
	end    int
	pretty bool
	frame  bool // the open diagnostic's code frame has begun
	table  bool // in the table behind "Found …"
	errors int  // read so far
}

var tscReader = stream{name: "tsc", marks: []string{"error TS", "warning TS", "message TS", "^Found "}, open: func() lineReader { return &tsc{} }}

func (t *tsc) listening() bool { return t.table }

func (t *tsc) line(l Line, out *sink) verdict {
	if s, pretty, ok := tscHeadline(l.Text); ok {
		t.close(out)
		t.open, t.from, t.end, t.pretty, t.frame, t.table = &s, l.Number, l.Number, pretty, false, false
		if s.Kind == symptom.Error {
			t.errors++
		}
		return more
	}
	if t.open != nil {
		if t.continues(l) {
			t.end = l.Number
			return more
		}
		t.close(out)
	}
	return t.summary(l, out)
}

// continues takes a line that belongs to the open diagnostic.
func (t *tsc) continues(l Line) bool {
	text := l.Text
	indented := strings.HasPrefix(text, "  ")
	switch {
	case text == "":
		return t.pretty
	case !t.pretty:
		if indented {
			addDetail(t.open, strings.TrimSpace(text))
		}
		return indented
	case codeFrame(text):
		t.frame = true
		return true
	case indented:
		if !t.frame {
			addDetail(t.open, strings.TrimSpace(text))
		}
		return true
	}
	return false
}

// codeFrame reports whether a line is "12 code", with the number at the start or
// indented, or the line of tildes under it.
func codeFrame(text string) bool {
	trimmed := strings.TrimLeft(text, " ")
	_, n := leadingNumber(trimmed)
	if n > 0 && (n == len(trimmed) || trimmed[n] == ' ') {
		return true
	}
	return strings.Trim(trimmed, "~ ") == "" && strings.Contains(trimmed, "~") || strings.HasPrefix(trimmed, "...")
}

// summary takes "Found 3 errors in 2 files." and the table behind it.
func (t *tsc) summary(l Line, out *sink) verdict {
	fields := strings.Fields(l.Text)
	if len(fields) >= 3 && fields[0] == "Found" && strings.HasPrefix(fields[2], "error") {
		n, err := strconv.Atoi(fields[1])
		if err != nil {
			return pass
		}
		out.state(l.Number, "errors", n, t.errors)
		t.errors, t.table = 0, true
		return noise
	}
	if !t.table {
		return pass
	}
	if l.Text == "" || strings.HasPrefix(l.Text, "Errors  Files") {
		return noise
	}
	if len(fields) == 2 && strings.HasPrefix(l.Text, "  ") {
		if _, err := strconv.Atoi(fields[0]); err == nil {
			return noise
		}
	}
	t.table = false
	return pass
}

func (t *tsc) close(out *sink) {
	if t.open != nil {
		out.add(*t.open, t.from, t.end)
		t.open = nil
	}
}

// tscHeadline reads the first line of a diagnostic.
func tscHeadline(text string) (s symptom.Symptom, pretty, ok bool) {
	i := strings.Index(text, " TS")
	if i < 0 || strings.HasPrefix(text, " ") {
		return s, false, false
	}
	code, n := leadingNumber(text[i+3:])
	rest, colon := strings.CutPrefix(text[i+3+n:], ": ")
	if n == 0 || !colon {
		return s, false, false
	}
	head := text[:i]
	j := strings.LastIndexByte(head, ' ')
	level := head[j+1:]
	if level != "error" && level != "warning" && level != "message" {
		return s, false, false
	}
	s = symptom.Symptom{
		Kind: symptom.Error, Level: level, Phase: symptom.PhaseCompile, Tool: "tsc",
		Code: "TS" + strconv.Itoa(code), Message: rest,
	}
	if level != "error" {
		s.Kind, s.Level = symptom.Warning, "warning"
	}
	s.Refs = tscRefs(code, rest)
	switch {
	case code == 2307 || code == 7016 || code == 2792:
		s.Kind, s.Phase = symptom.Resolve, symptom.PhaseResolve
	case code >= 5000 && code < 7000 || code == 18003:
		s.Phase = symptom.PhaseConfigure
	case code >= 1000 && code < 1300:
		s.Phase = symptom.PhaseParse
	case code == 6385 || code == 6387:
		s.Kind = symptom.Deprecation
	}
	where := strings.TrimRight(head[:max(j, 0)], " ")
	switch {
	case where == "":
		return s, false, true
	case strings.HasSuffix(where, " -"):
		p, found := placeColon(strings.TrimSuffix(where, " -"))
		s.File, s.Line, s.Column = p.file, p.line, p.column
		return s, true, found
	case strings.HasSuffix(where, "):"):
		open := strings.LastIndexByte(where, '(')
		if open < 0 {
			return s, false, false
		}
		line, m := leadingNumber(where[open+1:])
		s.File, s.Line = where[:open], line
		s.Column, _ = leadingNumber(strings.TrimPrefix(where[open+1+m:], ","))
		return s, false, m > 0
	}
	return s, false, false
}
