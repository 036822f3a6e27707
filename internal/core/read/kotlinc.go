package read

import (
	"strings"

	"unicausa/internal/core/symptom"
)

// kotlinc reads the Kotlin compiler, by itself and as Gradle and Maven print it:
//
//	src/Shelf.kt:12:9: error: unresolved reference: openLid
//	    jar.openLid()
//	        ^
//	e: file:///p/src/Shelf.kt:12:9 Unresolved reference 'openLid'.
//	e: /p/src/Shelf.kt: (12, 9): Unresolved reference: openLid
//	w: file:///p/src/Shelf.kt:3:5 'open(): Unit' is deprecated. Use shut
//
// Format: org.jetbrains.kotlin.cli.common.messages (PlainTextMessageRenderer,
// GradleStyleMessageRenderer).
var kotlincReader = dialectReader("kotlinc", []string{".kt:", ".kts:", "^e: ", "^w: "}, dialect{head: kotlincHead, tail: excerptTail})

// excerptTail takes indented lines of source and carets behind a headline.
func excerptTail(d *diagnostic, text string) bool {
	return text != "" && (text[0] == ' ' || text[0] == '\t') && d.lines < 12 || caret(text) || d.stage == 0 && d.lines == 0 && text != "" && d.Column > 0 && codeLike(text)
}

// codeLike reports whether a line without indentation may be an excerpt.
func codeLike(text string) bool {
	if _, ok := placeColon(text); ok {
		return false
	}
	return strings.ContainsAny(text, "(){};=") && !strings.Contains(text, ": error") && !strings.Contains(text, ": warning")
}

func kotlincHead(text string) (symptom.Symptom, bool) {
	level := ""
	if rest, ok := strings.CutPrefix(text, "e: "); ok {
		level, text = "error", rest
	} else if rest, ok := strings.CutPrefix(text, "w: "); ok {
		level, text = "warning", rest
	}
	text = strings.TrimPrefix(text, "file://")
	if level != "" {
		if file, rest, ok := strings.Cut(text, ": ("); ok && extension(file, ".kt", ".kts") {
			where, message, _ := strings.Cut(rest, "): ")
			line, n := leadingNumber(where)
			column, _ := leadingNumber(strings.TrimLeft(where[n:], ", "))
			return kotlinSymptom(place{file: file, line: line, column: column}, level, message), n > 0
		}
	}
	p, ok := placeColon(text)
	if !ok || !extension(p.file, ".kt", ".kts") {
		return symptom.Symptom{}, false
	}
	message := strings.TrimPrefix(p.rest, ":")
	if level == "" {
		var found bool
		if level, message, found = strings.Cut(strings.TrimSpace(message), ": "); !found || level != "error" && level != "warning" {
			return symptom.Symptom{}, false
		}
	}
	return kotlinSymptom(p, level, strings.TrimSpace(message)), true
}

func kotlinSymptom(p place, level, message string) symptom.Symptom {
	s := compileSymptom("kotlinc", p, level, message)
	asDeprecation(&s)
	lower := strings.ToLower(message)
	name := func(mark string) string {
		return strings.Trim(firstWord(message[strings.Index(lower, mark)+len(mark):]), "'.:,\"")
	}
	quoted := strings.Trim(between(message, "'", "'"), " ")
	switch {
	case strings.HasPrefix(lower, "unresolved reference"):
		n := name("unresolved reference")
		if n == "" {
			n = strings.Trim(lastWord(strings.TrimRight(message, ".")), "'.:")
		}
		s.Refs = refs{ref(symptom.Missing, n)}
	case s.Kind == symptom.Deprecation && quoted != "":
		s.Refs = refs{ref(symptom.Old, lastSegment(strings.TrimPrefix(strings.TrimPrefix(before(before(quoted, "("), ":"), "fun "), "val ")))}
	case strings.HasPrefix(lower, "no value passed for parameter"), strings.HasPrefix(lower, "too many arguments for"), strings.HasPrefix(lower, "none of the following"):
		if i := strings.Index(message, "fun "); i >= 0 {
			s.Refs = refs{ref(symptom.Callee, before(message[i+4:], "("))}
		}
	case strings.Contains(lower, "type mismatch"):
		s.Refs = refs{ref(symptom.Actual, strings.Trim(between(lower, "inferred type is ", " but"), "'")), ref(symptom.Expected, strings.Trim(before(behind(message, " but "), " was expected"), "'"))}
	case strings.Contains(lower, "overrides nothing"):
		s.Refs = refs{ref(symptom.Missing, quoted)}
	}
	return s
}
