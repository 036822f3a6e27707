package read

import (
	"strings"

	"unicausa/internal/core/symptom"
)

// javac reads the Java compiler, by itself and as Maven prints it:
//
//	src/Shelf.java:12: error: cannot find symbol
//	    jar.openLid();
//	       ^
//	  symbol:   method openLid()
//	  location: variable jar of type Jar
//	src/Shelf.java:3: warning: [deprecation] open() in Jar has been deprecated
//	error: invalid source release: 99
//	2 errors
//	[ERROR] /p/src/Shelf.java:[12,8] cannot find symbol     by Maven; its lines
//	[ERROR]   symbol:   method openLid()                    may have the mark again
//
// Maven lists the errors once more behind "Failed to execute goal": see maven.
// Format: com.sun.tools.javac.util.BasicDiagnosticFormatter.
var javacReader = dialectReader("javac", []string{".java:", ".kt:[", ".groovy:[", ".scala:[", "^error: ", "^warning: ", "^Note: ", "a deprecated API", "or unsafe operations", " errors", "1 error", " warnings", "1 warning"}, dialect{
	head: javacHead, tail: javacTail, ends: javacEnds, rest: javacRest,
})

func javacHead(text string) (symptom.Symptom, bool) {
	if s, ok := mavenJavac(text); ok {
		return s, true
	}
	p, ok := placeColon(text)
	if ok && extension(p.file, ".java") && strings.HasPrefix(p.rest, ": ") && p.column == 0 {
		level, message, found := strings.Cut(p.rest[2:], ": ")
		if found && (level == "error" || level == "warning") {
			return javacSymptom(p, level, message), true
		}
	}
	if s, ok := javacNote(text); ok {
		return s, true
	}
	for _, level := range []string{"error", "warning"} {
		message, found := strings.CutPrefix(text, level+": ")
		if found && (strings.HasPrefix(message, "[") || strings.HasPrefix(message, "invalid source release") || strings.HasPrefix(message, "invalid target release") || strings.HasPrefix(message, "release version ") || strings.HasPrefix(message, "invalid flag") || strings.HasPrefix(message, "module not found")) {
			s := javacSymptom(place{}, level, message)
			s.Phase = symptom.PhaseConfigure
			return s, true
		}
	}
	return symptom.Symptom{}, false
}

// javacNote reads the notes that stand for diagnostics which were not asked for:
// "Note: Shelf.java uses or overrides a deprecated API.", also as Maven prints it.
func javacNote(text string) (symptom.Symptom, bool) {
	rest, ok := strings.CutPrefix(text, "Note: ")
	if !ok {
		if rest, ok = strings.CutPrefix(text, "[INFO] "); !ok {
			return symptom.Symptom{}, false
		}
		if rest, ok = strings.CutPrefix(rest, before(rest, ": ")+": "); !ok {
			return symptom.Symptom{}, false
		}
	}
	file, said, ok := strings.Cut(rest, " ")
	if !ok || !extension(file, ".java") {
		return symptom.Symptom{}, false
	}
	s := compileSymptom("javac", place{file: file}, "warning", said)
	switch {
	case strings.HasPrefix(said, "uses or overrides a deprecated API"):
		s.Kind = symptom.Deprecation
	case !strings.HasPrefix(said, "uses unchecked or unsafe operations"):
		return s, false
	}
	return s, true
}

// mavenJavac reads "[ERROR] /p/Shelf.java:[12,8] message".
func mavenJavac(text string) (symptom.Symptom, bool) {
	level := ""
	if !strings.HasPrefix(text, "[") {
		return symptom.Symptom{}, false
	}
	for _, m := range mavenMarks {
		if rest, ok := strings.CutPrefix(text, m.mark+" "); ok && m.level != "info" {
			level, text = m.level, rest
			break
		}
	}
	file, rest, ok := strings.Cut(text, ":[")
	if level == "" || !ok || !extension(file, ".java", ".kt", ".groovy", ".scala") {
		return symptom.Symptom{}, false
	}
	where, message, ok := strings.Cut(rest, "] ")
	line, n := leadingNumber(where)
	if !ok || n == 0 {
		return symptom.Symptom{}, false
	}
	column, _ := leadingNumber(strings.TrimPrefix(where[n:], ","))
	return javacSymptom(place{file: file, line: line, column: column}, level, strings.TrimPrefix(message, "error: ")), true
}

func javacSymptom(p place, level, message string) symptom.Symptom {
	s := compileSymptom("javac", p, level, message)
	if strings.HasPrefix(message, "[") {
		s.Code, s.Message, _ = strings.Cut(message[1:], "] ")
	}
	if s.Code == "deprecation" || s.Code == "removal" || level == "warning" && strings.Contains(message, "has been deprecated") {
		s.Kind = symptom.Deprecation
		if name, owner, ok := strings.Cut(before(s.Message, " has been deprecated"), " in "); ok {
			s.Refs = append(s.Refs, ref(symptom.Old, before(name, "(")), ref(symptom.Owner, before(owner, "<")))
		}
		return s
	}
	switch m := s.Message; {
	case strings.HasPrefix(m, "package ") && strings.HasSuffix(m, " does not exist"):
		s.Kind, s.Phase = symptom.Resolve, symptom.PhaseResolve
		s.Refs = refs{ref(symptom.Module, between(m, "package ", " does not exist"))}
	case strings.HasSuffix(m, " expected"), strings.HasPrefix(m, "illegal start of"), strings.HasPrefix(m, "reached end of file"), strings.HasPrefix(m, "unclosed "), m == "not a statement":
		s.Phase = symptom.PhaseParse
	case strings.HasPrefix(m, "module not found: "):
		s.Kind, s.Phase = symptom.Resolve, symptom.PhaseResolve
		s.Refs = refs{ref(symptom.Module, behind(m, "module not found: "))}
	default:
		s.Refs = javacRefs(m)
	}
	return s
}

// javacTail takes the excerpt, the caret and the indented details.
func javacTail(d *diagnostic, text string) bool {
	plain := text
	for _, mark := range []string{"[ERROR] ", "[WARNING] ", "[WARN] "} {
		plain = strings.TrimPrefix(plain, mark)
	}
	if caret(plain) && d.Column == 0 { // its column is all that tells two errors of one line apart
		d.Column = strings.IndexByte(plain, '^') + 1
		return true
	}
	if plain == "" || !strings.HasPrefix(plain, " ") && !strings.HasPrefix(plain, "\t") {
		return d.lines == 0 && d.File != "" && plain != "" && !strings.Contains(plain, ".java:") && !strings.HasPrefix(text, "[") && d.Column == 0
	}
	for _, label := range []string{"symbol:", "location:", "required:", "found:", "reason:", "where ", "overridden", "(", "method ", "constructor "} {
		if strings.HasPrefix(strings.TrimSpace(plain), label) {
			d.add(plain)
		}
	}
	return d.lines < 60
}

// javacEnds takes the names out of the details.
func javacEnds(d *diagnostic, out *sink) bool {
	for line := range strings.SplitSeq(d.Detail, "\n") {
		label, rest, _ := strings.Cut(line, ":")
		rest = strings.TrimSpace(rest)
		switch label {
		case "symbol":
			_, name, _ := strings.Cut(rest, " ")
			d.Refs = append(d.Refs, ref(symptom.Missing, before(strings.TrimSpace(name), "(")))
		case "location":
			owner := rest[strings.LastIndexByte(rest, ' ')+1:]
			d.Refs = append(d.Refs, ref(symptom.Owner, before(owner, "<")))
		}
	}
	return true
}

// javacRefs reads the names out of a message of one line.
func javacRefs(m string) refs {
	switch {
	case strings.Contains(m, " cannot be applied to given types"):
		head := before(m, " cannot be applied")
		fields := strings.Fields(head)
		if len(fields) >= 5 { // method open in class Jar
			return refs{ref(symptom.Callee, before(fields[1], "(")), ref(symptom.Owner, before(fields[len(fields)-1], "<"))}
		}
	case strings.HasPrefix(m, "no suitable method found for "), strings.HasPrefix(m, "no suitable constructor found for "):
		return refs{ref(symptom.Callee, before(behind(m, "found for "), "("))}
	case strings.HasPrefix(m, "incompatible types: "):
		if from, to, ok := strings.Cut(m[len("incompatible types: "):], " cannot be converted to "); ok {
			return refs{ref(symptom.Actual, from), ref(symptom.Expected, to)}
		}
	case strings.Contains(m, " is not abstract and does not override abstract method "):
		name := before(behind(m, "abstract method "), "(")
		return refs{ref(symptom.Missing, name), ref(symptom.Owner, lastWord(m))}
	case strings.Contains(m, " has private access in "):
		name, role := before(before(m, " has private access"), "("), symptom.Missing
		if name == lastWord(m) { // the constructor
			role = symptom.Callee
		}
		return refs{ref(role, name), ref(symptom.Owner, lastWord(m))}
	case strings.HasPrefix(m, "unreported exception "):
		return refs{ref(symptom.Owner, before(behind(m, "exception "), ";"))}
	}
	return nil
}

func javacRest(b *block, l Line, out *sink) verdict {
	text := strings.TrimPrefix(strings.TrimPrefix(l.Text, "[INFO] "), "[ERROR] ")
	if strings.HasPrefix(text, "only showing the first ") {
		return noise
	}
	if strings.HasPrefix(text, "Note: ") && (strings.Contains(text, "Recompile with") || strings.Contains(text, " uses ") || strings.Contains(text, " use ")) {
		return noise
	}
	if text == "" || !isDigit(text[0]) {
		return pass
	}
	for _, word := range []string{"error", "warning"} {
		if n, ok := counted(text, word); ok && len(strings.Fields(text)) == 2 {
			if b.errors+b.warnings > 0 {
				return b.total(out, l.Number, word+"s", n)
			}
		}
	}
	return pass
}
