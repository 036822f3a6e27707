package read

import (
	"strings"

	"unicausa/internal/core/symptom"
)

// dart reads the Dart analyzer and compiler:
//
//	  error • Undefined name 'openLid' • lib/shelf.dart:12:9 • undefined_identifier
//	  error - lib/shelf.dart:12:9 - Undefined name 'openLid'. - undefined_identifier
//	lib/shelf.dart:12:9: Error: Method not found: 'openLid'.
//	3 issues found.
//
// Format: dartdev's analyze command; the front end's terminal messages.
var dartReader = dialectReader("dart", []string{"^error • ", "^warning • ", "^info • ", "^hint • ", "^error - ", "^warning - ", "^info - ", "^hint - ", ".dart:", "issues found", "issue found"}, dialect{head: dartHead, tail: excerptTail, rest: func(b *block, l Line, out *sink) verdict {
	if n, ok := counted(l.Text, "issue"); ok && strings.HasSuffix(strings.TrimRight(l.Text, "."), " found") || ok && strings.Contains(l.Text, " found. ") {
		out.state(l.Number, "issues", n, b.all)
		b.all = 0
		return noise
	}
	return pass
}})

func dartHead(text string) (symptom.Symptom, bool) {
	if p, ok := placeColon(text); ok && extension(p.file, ".dart") {
		for _, word := range []string{"Error", "Warning"} {
			if message, ok := strings.CutPrefix(p.rest, ": "+word+": "); ok {
				s := compileSymptom("dart", p, strings.ToLower(word), message)
				dartKind(&s)
				return s, true
			}
		}
		return symptom.Symptom{}, false
	}
	for _, separator := range []string{" • ", " - "} {
		parts := strings.Split(text, separator)
		level := strings.TrimSpace(parts[0])
		if len(parts) < 4 || level != "error" && level != "warning" && level != "info" && level != "hint" {
			continue
		}
		code := strings.TrimSpace(parts[len(parts)-1])
		if p, ok := placeColon(parts[1]); ok {
			return dartSymptom(p, level, code, strings.Join(parts[2:len(parts)-1], separator)), true
		}
		if p, ok := placeColon(parts[len(parts)-2]); ok {
			return dartSymptom(p, level, code, strings.Join(parts[1:len(parts)-2], separator)), true
		}
	}
	return symptom.Symptom{}, false
}

func dartSymptom(p place, level, code, message string) symptom.Symptom {
	kind := symptom.Lint
	if level == "info" || level == "hint" {
		level = "note"
	}
	s := compileSymptom("dart", p, level, message)
	s.Code = code
	switch {
	case level == "note":
		s.Kind = kind
	case level == "warning":
		s.Kind = symptom.Warning
	}
	dartKind(&s)
	return s
}

func dartKind(s *symptom.Symptom) {
	names := quotes(s.Message)
	if strings.HasPrefix(s.Code, "deprecated_member") || s.Level != "error" && deprecates(s.Message) {
		s.Kind = symptom.Deprecation
		if len(names) > 0 {
			s.Refs = refs{ref(symptom.Old, lastSegment(names[0]))}
		}
		return
	}
	if len(names) == 0 {
		return
	}
	owner := func() {
		if len(names) > 1 {
			s.Refs = append(s.Refs, ref(symptom.Owner, names[1]))
		}
	}
	switch {
	case strings.HasPrefix(s.Code, "uri_does_not_exist"), strings.HasPrefix(s.Message, "Target of URI doesn't exist"):
		s.Kind, s.Phase = symptom.Resolve, symptom.PhaseResolve
		s.Refs = refs{ref(symptom.Module, names[0])}
	case strings.HasPrefix(s.Code, "undefined_"), strings.Contains(s.Message, "isn't defined"), strings.Contains(s.Message, "not found"):
		s.Refs = refs{ref(symptom.Missing, names[0])}
		owner()
	case strings.Contains(s.Code, "argument_type"):
		s.Refs = refs{ref(symptom.Actual, names[0])}
		if len(names) > 1 {
			s.Refs = append(s.Refs, ref(symptom.Expected, names[1]))
		}
	case strings.Contains(s.Code, "missing_required_argument"):
		s.Refs = refs{ref(symptom.Option, names[0])}
	}
}
