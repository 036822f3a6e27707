package read

import (
	"strings"

	"unicausa/internal/core/symptom"
)

// ruby reads what Ruby prints of exceptions, warnings and syntax errors:
//
//	shelf.rb:12:in `open': undefined method `open_lid' for #<Jar> (NoMethodError)
//		from shelf.rb:20:in `<main>'
//	shelf.rb:3: warning: shut is deprecated
//	shelf.rb:3: syntax error, unexpected end-of-input
//	DEPRECATION WARNING: shut is deprecated (called from open at /p/shelf.rb:12)
//
// Format: error.c and eval_error.c of CRuby.
var rubyReader = dialectReader("ruby", []string{".rb:", ".rake:", ".ru:", "^DEPRECATION WARNING", "^[DEPRECATION]", "^[DEPRECATED]", "^<internal:", "^(none):", ":in `", ":in '"}, dialect{head: rubyHead, tail: rubyTail, ends: rubyEnds})

func rubyHead(text string) (symptom.Symptom, bool) {
	for _, mark := range []string{"DEPRECATION WARNING: ", "[DEPRECATION] ", "[DEPRECATED] "} {
		if message, ok := strings.CutPrefix(text, mark); ok {
			s := symptom.Symptom{Kind: symptom.Deprecation, Level: "warning", Phase: symptom.PhaseRun, Tool: "ruby", Message: message, Refs: deprecatedName(message)}
			if i := strings.LastIndex(message, " (called from "); i >= 0 {
				if p, ok := placeColon(strings.TrimSuffix(message[strings.LastIndexByte(message, ' ')+1:], ")")); ok {
					s.Message, s.File, s.Line = message[:i], p.file, p.line
				}
			}
			return s, true
		}
	}
	p, ok := placeColon(text)
	for _, mark := range []string{"<internal:", "(none):", "-e:"} { // code without a file
		if i := strings.Index(text, ":in "); strings.HasPrefix(text, mark) && i > 0 {
			p, ok = place{file: text[:i], line: 1, rest: text[i:]}, true
		}
	}
	if !ok || strings.HasPrefix(text, " ") || strings.HasPrefix(text, "\t") {
		return symptom.Symptom{}, false
	}
	if message, ok := strings.CutPrefix(p.rest, ": warning: "); ok && p.column == 0 && !strings.HasPrefix(message, "previous definition of ") && extension(p.file, ".rb", ".rake", ".ru", ".erb") {
		s := symptom.Symptom{Kind: symptom.Warning, Level: "warning", Phase: symptom.PhaseRun, Tool: "ruby", File: p.file, Line: p.line, Message: message}
		if deprecates(message) {
			s.Kind, s.Refs = symptom.Deprecation, deprecatedName(message)
		}
		return s, true
	}
	if message, ok := strings.CutPrefix(p.rest, ": "); ok && (strings.HasPrefix(message, "syntax error") || strings.HasSuffix(message, "(SyntaxError)")) {
		return symptom.Symptom{Kind: symptom.Error, Level: "error", Phase: symptom.PhaseParse, Tool: "ruby", File: p.file, Line: p.line, Message: message}, true
	}
	if function, message, ok := strings.Cut(strings.TrimPrefix(p.rest, ":in "), ": "); ok && strings.HasPrefix(p.rest, ":in ") {
		s := symptom.Symptom{Kind: symptom.Crash, Level: "error", Phase: symptom.PhaseRun, Tool: "ruby", Message: message}
		s.Frames = []symptom.Frame{frame(p, strings.Trim(function, "`'"))}
		return s, true
	}
	return symptom.Symptom{}, false
}

func rubyTail(d *diagnostic, text string) bool {
	if d.Kind == symptom.Warning && strings.Contains(text, ": warning: previous definition of ") {
		return true
	}
	if d.Kind != symptom.Crash {
		return d.Phase == symptom.PhaseParse && (strings.HasPrefix(text, " ") || strings.HasPrefix(text, ">") || caret(text) || strings.HasPrefix(text, "...")) && d.lines < 20
	}
	trimmed := strings.TrimLeft(text, "\t ")
	if i := strings.Index(trimmed, "from "); i >= 0 && strings.Trim(trimmed[:i], " 0123456789:") == "" {
		if f, ok := parseFrame(trimmed[i+5:]); ok {
			d.Frames = append(d.Frames, f)
		}
		return true
	}
	if len(d.Frames) > 1 || d.lines > 20 {
		return false
	}
	d.add(text)
	return text == "" || strings.HasPrefix(text, " ") || strings.HasPrefix(text, "Did you mean?") || strings.HasSuffix(text, "Error)")
}

func rubyEnds(d *diagnostic, out *sink) bool {
	if d.Kind != symptom.Crash {
		return true
	}
	all := d.Message
	if !strings.HasSuffix(all, ")") {
		all = d.Message + " " + lastLine(d.Detail)
	}
	if i := strings.LastIndex(all, " ("); i > 0 && strings.HasSuffix(all, ")") {
		d.Code = strings.TrimSuffix(all[i+2:], ")")
	}
	if d.Code == "" && len(d.Frames) < 2 {
		d.Kind = symptom.Error
	}
	if strings.HasSuffix(d.Code, "SyntaxError") {
		d.Phase = symptom.PhaseParse
	}
	d.Refs = runtimeRefs(strings.TrimSuffix(d.Message, " ("+d.Code+")"))
	for _, f := range d.Frames {
		if f.Own {
			d.File, d.Line = f.File, f.Line
			break
		}
	}
	return true
}

func lastLine(s string) string { return s[strings.LastIndexByte(s, '\n')+1:] }
