package read

import (
	"encoding/json"
	"strings"

	"unicausa/internal/core/symptom"
)

// logLine reads what a running program logs, at the level of a warning and
// above, with the stack behind it:
//
//	2026-11-25 07:53:36,123 ERROR [main] example.Shelf - the lid is stuck
//	example.JarException: the lid is stuck
//		at example.Shelf.open(Shelf.java:12)
//	time=2026-11-25T07:53:36Z level=WARN msg="the lid is stuck"
//	{"time":"…","level":"error","msg":"the lid is stuck"}
//	WARNING:shelf:the lid is stuck
//	E1125 07:53:36.123456   42 shelf.go:12] the lid is stuck
//
// Levels and keys are those of the usual loggers of each language.
type logLine struct {
	open *symptom.Symptom
	from int
	end  int
	deep bool
	py   bool // in a Python traceback
}

var logLineReader = stream{name: "log", marks: []string{"ERROR", "WARN", "FATAL", "CRIT", "SEVERE", "PANIC", "ALERT", "EMERG", `"level"`, `"severity"`, `"lvl"`, `"levelname"`, `"log.level"`, "^E0", "^E1", "^F0", "^F1", "^W0", "^W1"}, how: aWord, open: func() lineReader { return &logLine{} }}

// logLevels maps a logger's level to a symptom's; "" for those below a warning.
var logLevels = map[string]string{
	"warn": "warning", "warning": "warning", "error": "error", "err": "error", "fatal": "error", "critical": "error", "crit": "error",
	"severe": "error", "panic": "error", "alert": "error", "emerg": "error", "emergency": "error", "dpanic": "error",
}

var quietLevels = map[string]bool{"info": true, "debug": true, "trace": true, "notice": true, "fine": true, "finer": true, "finest": true, "verbose": true, "config": true}

func (g *logLine) line(l Line, out *sink) verdict {
	if g.open != nil {
		if g.continues(l.Text) {
			g.end = l.Number
			return more
		}
		g.close(out)
	}
	if strings.HasPrefix(l.Text, "{") && strings.Contains(l.Text, `"line":`) && !logged(l.Text) {
		return pass // a finding: roleLines reads it
	}
	level, logger, message, known := parseLog(l)
	if !known {
		return pass
	}
	if strings.HasPrefix(l.Text, "{") {
		out.result.Format = FormatJSON
	}
	if level == "" {
		return noise
	}
	if r, ok := parseRow(l.Text); ok && r.placed() && !r.tail && r.labelled() && (!l.Stamped || strings.HasPrefix(r.shape, "path")) {
		return pass // a tool's diagnostic behind a stamp
	}
	s := symptom.Symptom{Kind: symptom.Error, Level: level, Phase: symptom.PhaseRun, Tool: "log", Unit: logger, Message: message}
	if where, _, ok := strings.Cut(l.Text, "] "); ok && klogMark(l.Text) {
		if p, ok := placeColon(lastWord(where)); ok {
			s.File, s.Line = p.file, p.line
		}
	}
	if level == "warning" {
		s.Kind = symptom.Warning
	}
	if level == "warning" && deprecates(message) {
		s.Kind, s.Refs = symptom.Deprecation, deprecatedName(message)
	} else {
		s.Refs = runtimeRefs(message)
	}
	g.open, g.from, g.end, g.deep, g.py = &s, l.Number, l.Number, false, false
	return more
}

// parseLog takes a log line apart. Known reports whether it is one.
func parseLog(l Line) (level, logger, message string, known bool) {
	text := l.Text
	switch {
	case strings.HasPrefix(text, "{"):
		return jsonLog(text)
	case strings.Contains(text, "level=") && strings.Contains(text, "msg="):
		return logfmt(text)
	}
	if level, rest, ok := klog(text); ok {
		return level, "", rest, true
	}
	// LEVEL:logger:message, as Python's basicConfig prints it.
	if head, rest, ok := strings.Cut(text, ":"); ok && !l.Stamped && strings.ToUpper(head) == head && head != "" {
		if name, rest, ok := strings.Cut(rest, ":"); ok && nameLike(name) && !strings.HasPrefix(rest, "/") {
			if level, is := logLevels[strings.ToLower(head)]; is {
				return level, name, rest, true
			}
		}
	}
	if !l.Stamped && !bracketLevel(text) {
		return "", "", "", false
	}
	return stampedLog(text)
}

// stampedLog reads what stands behind a timestamp: a level among the first
// words, in any brackets, then thread and logger, then the message.
func stampedLog(text string) (level, logger, message string, known bool) {
	rest := strings.TrimLeft(text, " ")
	for range 6 {
		word, after := nextWord(rest)
		bare := strings.ToLower(strings.Trim(word, "[]():|<>*"))
		if l, ok := logLevels[bare]; ok && word != "" {
			logger, message = splitLogger(strings.TrimLeft(after, " "))
			return l, logger, message, message != ""
		}
		if quietLevels[bare] {
			return "", "", "", true
		}
		if after == "" || !strings.HasPrefix(word, "[") && !strings.ContainsAny(word, "-/.:|") && !dotted(strings.ReplaceAll(word, "-", "_")) {
			break
		}
		rest = strings.TrimLeft(after, " ")
	}
	return "", "", "", false
}

// nextWord takes the next word, or a whole bracket.
func nextWord(s string) (word, rest string) {
	if strings.HasPrefix(s, "[") {
		if i := strings.IndexByte(s, ']'); i > 0 {
			return s[:i+1], s[i+1:]
		}
	}
	word, rest, _ = strings.Cut(s, " ")
	return word, rest
}

// bracketLevel reports whether a line without a timestamp begins with a level in
// brackets and a logger.
func bracketLevel(text string) bool {
	if !strings.HasPrefix(text, "[") {
		return false
	}
	word, rest := nextWord(text)
	_, ok := logLevels[strings.ToLower(strings.Trim(word, "[]"))]
	return ok && strings.ToUpper(word) == word && strings.Contains(rest, " - ")
}

// splitLogger parts "[main] example.Shelf - message", "example.Shelf: message"
// and "--- [main] example.Shelf : message".
func splitLogger(s string) (logger, message string) {
	for range 4 {
		word, rest := nextWord(s)
		rest = strings.TrimLeft(rest, " ")
		switch {
		case rest == "":
			return "", s
		case word == "-" || word == ":" || word == "|" || word == "---" || word == "—":
			s = rest
			continue
		case strings.HasPrefix(word, "["):
			s = rest
			continue
		case leadingDigits(word): // a process
			s = rest
			continue
		case strings.HasPrefix(rest, "- ") || strings.HasPrefix(rest, ": "):
			return word, strings.TrimLeft(rest[2:], " ")
		case strings.HasSuffix(word, ":") && dotted(strings.TrimSuffix(word, ":")) && strings.Contains(word, "."):
			return strings.TrimSuffix(word, ":"), rest
		}
		return "", s
	}
	return "", s
}

func leadingDigits(s string) bool {
	_, n := leadingNumber(s)
	return n > 0 && n == len(s)
}

// klogMark reports whether a line begins as klog's do.
func klogMark(text string) bool {
	return len(text) > 21 && shape(text[1:], "dddd dd:dd:dd") > 0
}

// klog reads "E1125 07:53:36.123456   42 shelf.go:12] message".
func klog(text string) (level, message string, ok bool) {
	if len(text) < 22 || shape(text[1:], "dddd dd:dd:dd") == 0 {
		return "", "", false
	}
	_, message, ok = strings.Cut(text, "] ")
	switch text[0] {
	case 'E', 'F':
		return "error", message, ok
	case 'W':
		return "warning", message, ok
	case 'I':
		return "", message, ok
	}
	return "", "", false
}

// logfmt reads key=value pairs.
func logfmt(text string) (level, logger, message string, known bool) {
	value := func(key string) string {
		i := strings.Index(text, key+"=")
		if i < 0 || i > 0 && text[i-1] != ' ' {
			return ""
		}
		rest := text[i+len(key)+1:]
		if strings.HasPrefix(rest, `"`) {
			var s string
			end := 1
			for end < len(rest) && (rest[end] != '"' || rest[end-1] == '\\') {
				end++
			}
			if json.Unmarshal([]byte(rest[:min(end+1, len(rest))]), &s) == nil {
				return s
			}
			return strings.Trim(rest[:end], `"`)
		}
		return firstWord(rest)
	}
	name := strings.ToLower(value("level"))
	message = value("msg")
	if e := value("error"); e == "" {
		e = value("err")
		if e != "" {
			message += ": " + e
		}
	} else {
		message += ": " + e
	}
	level, loud := logLevels[name]
	return level, value("logger"), message, loud || quietLevels[name]
}

// quietJSON tells, without reading the object, that its level is below a warning.
func quietJSON(text string) bool {
	_, rest, ok := strings.Cut(text, `"level":`)
	rest = strings.TrimLeft(rest, " ")
	if !ok || len(rest) < 4 || !strings.HasSuffix(text, "}") {
		return false
	}
	if rest[0] == '"' {
		name, _, _ := strings.Cut(rest[1:], `"`)
		return quietLevels[name]
	}
	return (rest[0] == '1' || rest[0] == '2' || rest[0] == '3') && rest[1] == '0' && (rest[2] == ',' || rest[2] == '}')
}

// jsonLog reads one object of a structured log.
func jsonLog(text string) (level, logger, message string, known bool) {
	if quietJSON(text) {
		return "", "", "", true
	}
	var entry map[string]any
	if json.Unmarshal([]byte(text), &entry) != nil {
		return "", "", "", false
	}
	pick := func(keys ...string) string {
		for _, k := range keys {
			switch v := entry[k].(type) {
			case string:
				if v != "" {
					return v
				}
			case map[string]any:
				for _, inner := range []string{"message", "name"} {
					if s, ok := v[inner].(string); ok {
						return s
					}
				}
			}
		}
		return ""
	}
	name := strings.ToLower(pick("level", "severity", "lvl", "log.level", "@level", "levelname", "loglevel", "LogLevel", "Level"))
	if n, ok := entry["level"].(float64); ok { // pino and bunyan count in tens
		switch {
		case n >= 50:
			name = "error"
		case n >= 40:
			name = "warn"
		default:
			name = "info"
		}
	}
	message = pick("msg", "message", "@message", "event", "Message", "MessageTemplate", "@m", "textPayload")
	if message == "" {
		message = pick("err", "error", "exception")
	} else if e := pick("err", "error"); e != "" && !strings.Contains(message, e) {
		message += ": " + before(e, "\n")
	}
	level, loud := logLevels[name]
	return level, pick("logger", "name", "logger_name", "component", "SourceContext"), message, (loud || quietLevels[name]) && (message != "" || quietLevels[name])
}

// continues takes the stack behind a log line.
func (g *logLine) continues(text string) bool {
	trimmed := strings.TrimSpace(text)
	if strings.HasPrefix(trimmed, "Traceback (most recent call last)") {
		g.py = true
		return true
	}
	if g.py {
		if strings.HasPrefix(text, " ") || text == "" {
			if f, ok := parseFrame(text); ok && len(g.open.Frames) < 200 {
				g.open.Frames = append([]symptom.Frame{f}, g.open.Frames...)
			}
			return true
		}
		s, ok := pythonException(trimmed)
		if ok {
			g.open.Detail = strings.TrimPrefix(g.open.Detail+"\n"+s.Message, "\n")
			g.open.Refs = append(g.open.Refs, s.Refs...)
		}
		g.py = strings.HasPrefix(trimmed, "During handling") || strings.HasPrefix(trimmed, "The above exception")
		return ok || g.py
	}
	if jvmTrace(g.open, trimmed, &g.deep) {
		return true
	}
	if len(g.open.Frames) > 0 || text == "" {
		return false
	}
	if s, ok := jvmException(text); ok && g.end == g.from {
		g.open.Detail, g.open.Code = s.Message, s.Code
		g.open.Refs = append(g.open.Refs, s.Refs...)
		return true
	}
	if s, ok := jsException(text); ok && g.end == g.from && strings.HasSuffix(s.Code, "Error") {
		g.open.Detail = s.Message
		return true
	}
	return strings.HasPrefix(text, "\t") || strings.HasPrefix(text, "    ") || strings.HasPrefix(text, "goroutine ")
}

func (g *logLine) close(out *sink) {
	s := g.open
	g.open = nil
	if s == nil {
		return
	}
	for _, f := range s.Frames {
		if f.Own {
			s.File, s.Line = f.File, f.Line
			break
		}
	}
	out.add(*s, g.from, g.end)
}
