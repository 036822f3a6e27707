package read

import (
	"strings"

	"unicausa/internal/core/symptom"
)

// browserLog reads the console of a browser as drivers capture it:
//
//	[1125/075336.123:ERROR:CONSOLE(12)] "Uncaught TypeError: …", source: http://127.0.0.1/shelf.js (12)
//	http://127.0.0.1/shelf.js 12:9 "Uncaught TypeError: …"
//	SEVERE http://127.0.0.1/shelf.js 12:9 Uncaught TypeError: …
//	[console.error] the lid is stuck        console.warn, console.error, console warning:
//
// Formats: Chromium's logging.cc; the log entries of WebDriver.
type browserLog struct{}

var browserLogReader = stream{name: "browser console", marks: []string{":CONSOLE(", "^console.", "^[console.", "^(console.", "^SEVERE http", "^WARNING http"}, open: func() lineReader { return browserLog{} }}

func (browserLog) line(l Line, out *sink) verdict {
	s, ok := browserMessage(l.Text)
	switch {
	case !ok:
		return pass
	case s.Level == "":
		return noise
	}
	s.Tool, s.Phase = "browser", symptom.PhaseRun
	s.Refs = runtimeRefs(strings.TrimPrefix(s.Message, "Uncaught "))
	if s.Level == "warning" && deprecates(s.Message) || strings.HasPrefix(s.Message, "[Deprecation]") {
		s.Kind, s.Refs = symptom.Deprecation, deprecatedName(s.Message)
	}
	if strings.HasPrefix(s.Message, "Uncaught ") {
		s.Kind = symptom.Crash
	}
	out.add(s, l.Number, l.Number)
	return took
}

func (browserLog) close(out *sink) {}

func browserMessage(text string) (symptom.Symptom, bool) {
	if i := strings.Index(text, ":CONSOLE("); i > 0 && text[0] == '[' {
		head := text[:i]
		_, rest, _ := strings.Cut(text[i:], "] ")
		message, source, _ := strings.Cut(rest, `", source: `)
		s := symptom.Symptom{Message: strings.Trim(message, `"`)}
		s.File = before(source, " (")
		s.Line, _ = leadingNumber(behind(source, " ("))
		setLevel(&s, head[strings.LastIndexByte(head, ':')+1:])
		if s.Level == "" && strings.HasPrefix(s.Message, "Uncaught ") {
			setLevel(&s, "ERROR")
		}
		return s, true
	}
	for mark, level := range map[string]string{"SEVERE http": "ERROR", "WARNING http": "WARNING"} {
		if strings.HasPrefix(text, mark) {
			parts := strings.SplitN(text, " ", 4)
			if len(parts) == 4 {
				s := symptom.Symptom{File: parts[1], Message: parts[3]}
				s.Line, _ = leadingNumber(parts[2])
				setLevel(&s, level)
				return s, true
			}
		}
	}
	trimmed := strings.TrimLeft(strings.TrimLeft(text, " "), "[(")
	for word, level := range map[string]string{"console.error": "ERROR", "console.warn": "WARNING", "console.warning": "WARNING", "console.log": "INFO", "console.info": "INFO", "console.debug": "INFO"} {
		if rest, ok := strings.CutPrefix(trimmed, word); ok && rest != "" && strings.IndexByte("]): ", rest[0]) >= 0 && rest[0] != '(' {
			s := symptom.Symptom{Message: strings.TrimLeft(rest, "]): ")}
			setLevel(&s, level)
			return s, s.Message != ""
		}
	}
	return symptom.Symptom{}, false
}

func setLevel(s *symptom.Symptom, word string) {
	s.Level = logLevels[strings.ToLower(word)]
	if s.Kind = symptom.Error; s.Level == "warning" {
		s.Kind = symptom.Warning
	}
}
