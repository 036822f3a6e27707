package read

import (
	"strings"

	"unicausa/internal/core/symptom"
)

// ocaml reads the OCaml compilers; the place stands above the message:
//
//	File "shelf.ml", line 12, characters 2-9:
//	12 |   openlid jar
//	       ^^^^^^^
//	Error: Unbound value openlid
//	Alert deprecated: Jar.shut
//	Warning 26 [unused-var]: …
//
// Format: Location in OCaml's parsing/location.ml.
var ocamlReader = dialectReader("ocaml", []string{`^File "`}, dialect{head: ocamlHead, tail: ocamlTail, ends: ocamlEnds})

func ocamlHead(text string) (symptom.Symptom, bool) {
	file, rest, ok := strings.Cut(strings.TrimPrefix(text, `File "`), `", line`)
	if !ok || !strings.HasPrefix(text, `File "`) || !strings.HasSuffix(rest, ":") {
		return symptom.Symptom{}, false
	}
	line, n := leadingNumber(strings.TrimLeft(rest, "s "))
	column, _ := leadingNumber(behind(rest, "characters "))
	s := compileSymptom("ocaml", place{file: file, line: line, column: column + 1}, "error", "")
	return s, n > 0
}

func ocamlTail(d *diagnostic, text string) bool {
	for _, word := range []string{"Error", "Warning", "Alert"} {
		if d.stage == 0 && strings.HasPrefix(text, word) {
			head, message, ok := strings.Cut(text, ": ")
			if !ok {
				return false
			}
			d.stage, d.at, d.Message = 1, d.number, message
			if word != "Error" {
				d.Kind, d.Level = symptom.Warning, "warning"
			}
			if _, code, ok := strings.Cut(head, "["); ok {
				d.Code = strings.TrimRight(code, "])")
			}
			if strings.Contains(head, "deprecated") || strings.HasPrefix(message, "deprecated:") {
				d.Kind = symptom.Deprecation
			}
			return true
		}
	}
	if d.stage == 1 {
		if !strings.HasPrefix(text, "  ") || d.Level == "error" && !strings.HasPrefix(text, "    ") {
			return false
		}
		d.Message += " " + strings.TrimSpace(text)
		return true
	}
	_, n := leadingNumber(text)
	return n > 0 || strings.HasPrefix(text, " ") || text == "..."
}

func ocamlEnds(d *diagnostic, out *sink) bool {
	m := d.Message
	switch {
	case m == "":
		return false
	case strings.HasPrefix(m, "Syntax error"):
		d.Phase = symptom.PhaseParse
	case strings.HasPrefix(m, "Unbound module "):
		d.Refs = refs{ref(symptom.Module, lastWord(m))}
	case strings.HasPrefix(m, "Unbound "):
		fields := strings.Fields(m)
		d.Refs = qualifiedRef(symptom.Missing, fields[min(2, len(fields)-1)])
	case d.Kind == symptom.Deprecation:
		d.Refs = qualifiedRef(symptom.Old, firstWord(strings.TrimPrefix(m, "deprecated: ")))
	}
	return true
}
