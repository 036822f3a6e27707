package read

import (
	"strings"

	"unicausa/internal/core/symptom"
)

// guess comes last: the common shapes of trouble that no reader knows the tool
// of, marked as a guess.
//
//	error: the lid is stuck           Error: …, fatal: …, ERROR …, FATAL …
//	shelf: error: the lid is stuck    a program's name before it
//	shelf.x:12: the lid is stuck …    a place and a word of trouble
//	warning: the lid is loose         DEPRECATED: …, Deprecation warning: …
type guess struct{}

func init() {
	registerStream(stream{order: 1000, name: "guess", marks: alarms, open: func() lineReader { return guess{} }})
}

// guessed are the words that begin a message, longest first.
var guessed = []struct {
	word  string
	kind  symptom.Kind
	level string
}{
	{"deprecation warning", symptom.Deprecation, "warning"}, {"deprecation notice", symptom.Deprecation, "warning"}, {"deprecationwarning", symptom.Deprecation, "warning"}, {"deprecation", symptom.Deprecation, "warning"}, {"deprecated", symptom.Deprecation, "warning"},
	{"fatal error", symptom.Error, "error"}, {"internal error", symptom.Error, "error"}, {"internal compiler error", symptom.Error, "error"}, {"configuration error", symptom.Error, "error"}, {"unhandled exception", symptom.Crash, "error"}, {"uncaught exception", symptom.Crash, "error"},
	{"error", symptom.Error, "error"}, {"fatal", symptom.Error, "error"}, {"failure", symptom.Error, "error"}, {"exception", symptom.Crash, "error"}, {"panic", symptom.Crash, "error"},
	{"warning", symptom.Warning, "warning"}, {"warn", symptom.Warning, "warning"},
}

func (guess) line(l Line, out *sink) verdict {
	s, ok := guessHead(l.Text)
	if !ok {
		return pass
	}
	if len(out.result.Symptoms) > 0 && verdictOver(s.Message) {
		return noise
	}
	s.Guess = true
	out.add(s, l.Number, l.Number)
	return took
}

func (guess) close(out *sink) {}

// verdictOver tells whether a message only says that something failed, which
// other diagnostics have told already.
func verdictOver(message string) bool {
	lower := strings.ToLower(message)
	for _, words := range []string{"exit code ", "exit status ", "exited with ", "non-zero exit", "command failed", "build failed", "compilation failed", "process completed with", "due to previous error", "recipe for target"} {
		if strings.Contains(lower, words) {
			return true
		}
	}
	return false
}

func guessHead(text string) (symptom.Symptom, bool) {
	trimmed := strings.TrimLeft(text, " \t*!✖✗×❌⚠>")
	trimmed = strings.TrimPrefix(trimmed, "\ufe0f ")
	s := symptom.Symptom{Phase: symptom.PhaseRun}
	p, placed := placeColon(trimmed)
	if placed && strings.HasPrefix(p.rest, ": ") {
		s.File, s.Line, s.Column, s.Phase = p.file, p.line, p.column, symptom.PhaseCompile
		trimmed = p.rest[2:]
	} else if program, rest, ok := strings.Cut(trimmed, ": "); ok && programName(program) && len(text)-len(trimmed) == 0 {
		if _, _, is := guessWord(rest); is {
			trimmed, s.Unit = rest, program
		}
	}
	n, message, ok := guessWord(trimmed)
	if !ok || len(text)-len(strings.TrimLeft(text, " \t")) > 4 {
		return s, false
	}
	s.Kind, s.Level, s.Message = guessed[n].kind, guessed[n].level, message
	if s.Level == "warning" && deprecates(message) {
		s.Kind = symptom.Deprecation
	}
	if s.Kind == symptom.Deprecation {
		s.Refs = deprecatedName(message)
	} else if s.Refs = runtimeRefs(message); s.Refs == nil {
		s.Refs = quotedRefs(message)
	}
	if values := expectation(message); values != nil {
		s.Refs = append(s.Refs, values...)
	}
	return s, true
}

// guessWord reads "error: message", "[error] message", "ERROR message" and
// "error[E1]: message".
func guessWord(text string) (n int, message string, ok bool) {
	bare := text
	bracket := strings.HasPrefix(text, "[")
	if bracket {
		bare = text[1:]
	}
	if bare == "" || strings.IndexByte("deficupw", lower(bare[0])) < 0 {
		return 0, "", false
	}
	lower := strings.ToLower(bare[:min(len(bare), 40)])
	for n, g := range guessed {
		if !strings.HasPrefix(lower, g.word) {
			continue
		}
		rest := bare[len(g.word):]
		if bracket {
			message, ok = strings.CutPrefix(rest, "]")
			message = strings.TrimLeft(message, ": ")
			return n, message, ok && message != ""
		}
		if strings.HasPrefix(rest, "[") || strings.HasPrefix(rest, " (") || strings.HasPrefix(rest, "(") {
			if i := strings.IndexAny(rest, "])"); i > 0 && i < 40 {
				rest = rest[i+1:]
			}
		}
		if message, ok = strings.CutPrefix(rest, ": "); ok {
			return n, strings.TrimSpace(message), strings.TrimSpace(message) != ""
		}
		if word := bare[:len(g.word)]; word == strings.ToUpper(word) && strings.HasPrefix(rest, " ") && len(strings.Fields(rest)) > 1 {
			return n, strings.TrimSpace(rest), true
		}
		return 0, "", false
	}
	return 0, "", false
}

// programName tells whether s could be the name of a program.
func programName(s string) bool {
	if s == "" || len(s) > 40 {
		return false
	}
	for i := range len(s) {
		if !inName(s[i]) && s[i] != '+' {
			return false
		}
	}
	return true
}
