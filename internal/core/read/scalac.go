package read

import (
	"strings"

	"unicausa/internal/core/symptom"
)

// scalac reads the Scala compilers, 2 and 3, by themselves and through sbt,
// which puts "[error] " before every line:
//
//	src/Shelf.scala:12: error: value openLid is not a member of jar.Jar
//	    jar.openLid()
//	        ^
//	[error] /p/src/Shelf.scala:12:9: value openLid is not a member of jar.Jar
//	-- [E008] Not Found Error: src/Shelf.scala:12:8 --------
//	12 |    jar.openLid()
//	   |    ^^^^^^^^^^^
//	   |    value openLid is not a member of jar.Jar
//
// Formats: scala.tools.nsc.reporters, dotty.tools.dotc.reporting.MessageRendering.
var scalacReader = dialectReader("scalac", []string{".scala:", ".sbt:", "^[error]", "^[warn]", "^-- ", "errors found", "error found", "warnings found", "warning found"}, dialect{head: scalacHead, tail: scalacTail, ends: scalacEnds, rest: scalacRest})

const scala3 = 1 // the message stands below the excerpt

func sbtMark(text string) (rest, level string) {
	if rest, ok := strings.CutPrefix(text, "[error] "); ok {
		return rest, "error"
	}
	if rest, ok := strings.CutPrefix(text, "[warn] "); ok {
		return rest, "warning"
	}
	return text, ""
}

func scalacHead(text string) (symptom.Symptom, bool) {
	text, level := sbtMark(text)
	if strings.HasPrefix(text, "-- ") {
		return scala3Head(strings.Trim(text, "- "))
	}
	p, ok := placeColon(text)
	if !ok || !extension(p.file, ".scala", ".sbt") || !strings.HasPrefix(p.rest, ": ") {
		return symptom.Symptom{}, false
	}
	message := p.rest[2:]
	for _, word := range []string{"error", "warning"} {
		if rest, ok := strings.CutPrefix(message, word+": "); ok {
			level, message = word, rest
		}
	}
	if level == "" {
		return symptom.Symptom{}, false
	}
	s := compileSymptom("scalac", p, level, message)
	asDeprecation(&s)
	s.Refs = scalaRefs(message)
	return s, true
}

// scala3Head reads "[E008] Not Found Error: src/Shelf.scala:12:8".
func scala3Head(text string) (symptom.Symptom, bool) {
	code := ""
	if strings.HasPrefix(text, "[") {
		code, text, _ = strings.Cut(text[1:], "] ")
	}
	what, where, ok := strings.Cut(text, ": ")
	p, at := placeColon(where)
	if !ok || !at || !extension(p.file, ".scala") {
		return symptom.Symptom{}, false
	}
	level := "error"
	if strings.Contains(what, "Warning") {
		level = "warning"
	}
	s := compileSymptom("scalac", p, level, what)
	s.Code = code
	if strings.Contains(what, "Deprecat") {
		s.Kind = symptom.Deprecation
	}
	return s, true
}

func scalacTail(d *diagnostic, text string) bool {
	text, _ = sbtMark(text)
	if bar := strings.TrimLeft(text, " 0123456789"); strings.HasPrefix(bar, "|") {
		said := strings.TrimSpace(bar[1:])
		if !strings.HasPrefix(strings.TrimLeft(text, " "), "|") || said == "" || strings.Trim(said, "^-") == "" {
			return true
		}
		if d.stage != scala3 {
			d.stage, d.Message = scala3, said
			d.Refs = scalaRefs(said)
		}
		d.add(said)
		return true
	}
	if strings.HasPrefix(text, "---") {
		return true
	}
	if strings.HasPrefix(text, " ") || caret(text) {
		d.add(text)
		return d.lines < 20
	}
	return false
}

func scalacEnds(d *diagnostic, out *sink) bool {
	asDeprecation(&d.Symptom)
	return true
}

func scalaRefs(m string) refs {
	switch {
	case strings.HasPrefix(m, "value ") && strings.Contains(m, " is not a member of "), strings.HasPrefix(m, "object ") && strings.Contains(m, " is not a member of "), strings.HasPrefix(m, "type ") && strings.Contains(m, " is not a member of "):
		return refs{ref(symptom.Missing, strings.Fields(m)[1]), ref(symptom.Owner, strings.TrimPrefix(before(behind(m, " is not a member of "), " - "), "package "))}
	case strings.HasPrefix(m, "not found: "), strings.HasPrefix(m, "Not found: "):
		return refs{ref(symptom.Missing, lastWord(m))}
	case strings.HasPrefix(m, "not enough arguments for "), strings.HasPrefix(m, "too many arguments "):
		return refs{ref(symptom.Callee, strings.TrimRight(firstWord(strings.TrimLeft(behind(m, "method "), " ")), ":"))}
	case strings.Contains(m, " in ") && strings.Contains(m, " is deprecated"):
		fields := strings.Fields(before(m, " is deprecated"))
		if len(fields) >= 4 {
			return refs{ref(symptom.Old, fields[1]), ref(symptom.Owner, fields[len(fields)-1])}
		}
	}
	return nil
}

// scalacTotal knows "three errors found".
func scalacTotal(text string) bool {
	head, ok := strings.CutSuffix(text, " found")
	_, what, _ := strings.Cut(head, " ")
	return ok && (what == "error" || what == "errors" || what == "warning" || what == "warnings")
}

func scalacRest(b *block, l Line, out *sink) verdict {
	text, level := sbtMark(l.Text)
	if scalacTotal(text) {
		return noise
	}
	if level != "" && (text == "" || strings.HasPrefix(text, "(") || strings.HasPrefix(text, "Total time")) {
		return noise
	}
	return pass
}
