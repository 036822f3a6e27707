package read

import (
	"strings"

	"unicausa/internal/core/symptom"
)

// cmake reads CMake's messages; their text is indented below the headline:
//
//	CMake Error at CMakeLists.txt:12 (find_package):
//	  Could not find a package configuration file provided by "Jar" …
//
//	Call Stack (most recent call first):
//	  lib/CMakeLists.txt:3 (include)
//	CMake Deprecation Warning at CMakeLists.txt:1 (cmake_minimum_required):
//	CMake Error: The source directory … does not exist.
//	-- Configuring incomplete, errors occurred!
//
// Format: cmMessenger.cxx.
var cmakeReader = dialectReader("cmake", []string{"^CMake ", "^-- Configuring incomplete"}, dialect{head: cmakeHead, tail: cmakeTail, ends: cmakeEnds, rest: func(b *block, l Line, out *sink) verdict {
	if strings.HasPrefix(l.Text, "-- Configuring incomplete") || strings.HasPrefix(l.Text, "CMake Generate step failed") {
		return noise
	}
	return pass
}})

func cmakeHead(text string) (symptom.Symptom, bool) {
	rest, ok := strings.CutPrefix(text, "CMake ")
	if !ok {
		return symptom.Symptom{}, false
	}
	s := symptom.Symptom{Kind: symptom.Error, Level: "error", Phase: symptom.PhaseConfigure, Tool: "cmake"}
	for _, form := range []struct {
		mark  string
		kind  symptom.Kind
		level string
	}{
		{"Error (dev)", symptom.Error, "error"}, {"Error", symptom.Error, "error"}, {"Deprecation Warning", symptom.Deprecation, "warning"},
		{"Deprecation Error", symptom.Error, "error"}, {"Warning (dev)", symptom.Warning, "warning"}, {"Warning", symptom.Warning, "warning"},
	} {
		after, ok := strings.CutPrefix(rest, form.mark)
		if !ok {
			continue
		}
		s.Kind, s.Level = form.kind, form.level
		if where, ok := strings.CutPrefix(after, " at "); ok {
			if p, ok := placeColon(where); ok {
				s.File, s.Line = p.file, p.line
				s.Code = strings.Trim(before(behind(p.rest, "("), ")"), " ")
			} else {
				s.File = before(where, ":")
			}
			return s, true
		}
		if message, ok := strings.CutPrefix(after, ": "); ok {
			s.Message = message
			return s, true
		}
		if after == ":" || strings.HasPrefix(after, " in ") {
			return s, true
		}
	}
	return s, false
}

func cmakeTail(d *diagnostic, text string) bool {
	switch {
	case strings.HasPrefix(text, "  "):
		if d.stage == 0 {
			if d.Message == "" {
				d.Message = strings.TrimSpace(text)
			} else if !strings.HasSuffix(d.Message, ".") && !strings.HasSuffix(d.Message, ":") && d.lines < 4 && d.Detail != "" && !strings.Contains(d.Detail, "\n\n") {
				d.Message += " " + strings.TrimSpace(text)
			}
		}
		d.add(text)
		return true
	case strings.HasPrefix(text, "Call Stack"):
		d.stage = 1
		return true
	case text == "":
		return d.lines < 60
	case strings.HasPrefix(text, "This warning is for project developers"), strings.HasPrefix(text, "This error is for project developers"):
		return true
	}
	return false
}

func cmakeEnds(d *diagnostic, out *sink) bool {
	quoted := between(d.Message, `"`, `"`)
	switch {
	case strings.HasPrefix(d.Message, "Could not find a package configuration file"), strings.HasPrefix(d.Message, "By not providing \"Find"), strings.HasPrefix(d.Message, "Could NOT find "), strings.HasPrefix(d.Message, "Could not find a configuration file for package"):
		d.Kind, d.Phase = symptom.Resolve, symptom.PhaseResolve
		name := strings.TrimSuffix(strings.TrimPrefix(quoted, "Find"), ".cmake")
		if rest, ok := strings.CutPrefix(d.Message, "Could NOT find "); ok {
			name = firstWord(rest)
		}
		d.Refs = refs{ref(symptom.Module, name)}
	case strings.HasPrefix(d.Message, "Unknown CMake command "):
		d.Refs = refs{ref(symptom.Missing, quoted)}
	case strings.Contains(d.Message, "was not found") && strings.Contains(d.Detail, "::"):
		for word := range strings.FieldsSeq(d.Detail) {
			if strings.Contains(word, "::") {
				d.Refs = refs{ref(symptom.Missing, strings.Trim(word, `".,`))}
				break
			}
		}
	}
	return d.Message != ""
}
