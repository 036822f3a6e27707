package read

import (
	"strings"

	"unicausa/internal/core/symptom"
)

// javaScript reads uncaught exceptions and warnings of Node.js and its kin:
//
//	/p/shelf.js:12                        the place, its line and a caret, then
//	    jar.openLid();
//	        ^
//	                                      a blank line, then the exception
//	TypeError: jar.openLid is not a function
//	    at open (/p/shelf.js:12:9)
//	  code: 'ERR_X'                       properties, in braces
//	Node.js v20.20.2
//	(node:42) [DEP0005] DeprecationWarning: Buffer() is deprecated …
//	(Use `node --trace-deprecation ...` to show where the warning was created)
//	The lid takes no text any more        what a library warns of, and where it
//	Error                                 was called from: the stack of an error
//	    at open (/p/shelf.js:12:9)        without a message
//
// Format: lib/internal/process and src/node_errors.cc of Node.js.
type javaScript struct {
	open   *symptom.Symptom
	from   int
	end    int
	braces bool
}

var javaScriptReader = stream{name: "javascript", marks: []string{"^Error", "Error: ", "Error [", "Exception: ", "^(node:", "^Node.js v", "^(Use `node", "^Uncaught"}, open: func() lineReader { return &javaScript{} }}

func (j *javaScript) line(l Line, out *sink) verdict {
	if j.open != nil {
		if j.continues(l) {
			j.end = l.Number
			return more
		}
		j.close(out)
	}
	if strings.HasPrefix(l.Text, "Node.js v") || strings.HasPrefix(l.Text, "(Use `node --trace-") || strings.HasPrefix(l.Text, "(Use `node --") {
		return noise
	}
	if s, ok := nodeWarning(l.Text); ok {
		if !strings.HasPrefix(l.below(1), "    at ") {
			out.add(s, l.Number, l.Number)
			return took
		}
		j.open, j.from, j.end, j.braces = &s, l.Number, l.Number, false
		return more
	}
	if l.Text == "Error" && len(strings.Fields(l.above(1))) >= fewestWords && strings.HasPrefix(l.below(1), "    at ") {
		message := strings.TrimSpace(l.above(1))
		j.open = &symptom.Symptom{Kind: symptom.Warning, Level: "warning", Phase: symptom.PhaseRun, Tool: "javascript", Message: message}
		if deprecates(message) {
			j.open.Kind, j.open.Refs = symptom.Deprecation, deprecatedName(message)
		}
		j.from, j.end, j.braces = l.Number-1, l.Number, false
		return more
	}
	s, ok := jsException(l.Text)
	if !ok {
		return pass
	}
	if p := leadPlace(l); p.line > 0 {
		if own(p.file) {
			s.File, s.Line = p.file, p.line
		}
	} else if !stackAhead(l) {
		return pass
	}
	j.open, j.from, j.end, j.braces = &s, l.Number, l.Number, false
	return more
}

// fewestWords is from how many words on a line above a bare stack is its message.
const fewestWords = 4

// longestLead is how far above an exception its place, line and caret begin.
const longestLead = 6

// leadPlace is the place that stands above an exception, with its source line
// and a caret.
func leadPlace(l Line) place {
	pointed := false
	for n := 1; n <= longestLead; n++ {
		text := l.above(n)
		if caret(text) {
			pointed = true
		}
		if p, ok := placeColon(strings.TrimPrefix(text, "file://")); ok && pointed && p.rest == "" && p.column == 0 {
			return p
		}
	}
	return place{}
}

// stackAhead reports whether a stack, or what Node.js prints in its place, stands
// below an exception, behind a message of several lines at most.
func stackAhead(l Line) bool {
	for n := 1; n <= 30; n++ {
		text := l.below(n)
		switch {
		case strings.HasPrefix(text, "    at "), strings.HasPrefix(text, "Node.js v"), strings.HasPrefix(text, "Require stack:"), strings.HasPrefix(strings.TrimSpace(text), "at ") && n < 8:
			return true
		case n > 1 && troubled(text):
			return false
		}
	}
	return false
}

// jsException reads "TypeError: message", "Uncaught Error: …" and
// "AssertionError [ERR_ASSERTION]: …".
func jsException(text string) (symptom.Symptom, bool) {
	message := strings.TrimPrefix(strings.TrimPrefix(text, "Uncaught "), "(in promise) ")
	class, rest, ok := strings.Cut(message, ": ")
	if !ok {
		class, rest = strings.TrimSuffix(message, ":"), ""
	}
	bare := before(class, " [")
	if !dotted(bare) || !strings.HasSuffix(bare, "Error") && !strings.HasSuffix(bare, "Exception") || class != bare && !strings.HasSuffix(class, "]") {
		return symptom.Symptom{}, false
	}
	s := symptom.Symptom{Kind: symptom.Crash, Level: "error", Phase: symptom.PhaseRun, Tool: "javascript", Code: bare, Message: message, Refs: runtimeRefs(rest)}
	if class != bare { // [ERR_ASSERTION]
		s.Code = between(class, "[", "]")
	}
	if bare == "SyntaxError" {
		s.Kind, s.Phase = symptom.Error, symptom.PhaseParse
	}
	if ok || rest != "" {
		return s, true
	}
	return s, bare == message
}

func (j *javaScript) continues(l Line) bool {
	text := strings.TrimSpace(l.Text)
	switch {
	case strings.HasPrefix(l.Text, "    at ") || strings.HasPrefix(text, "at ") && len(j.open.Frames) > 0:
		f, ok := parseFrame(l.Text)
		if ok {
			j.open.Frames = append(j.open.Frames, f)
		}
		j.braces = strings.HasSuffix(text, " {")
		return true
	case j.braces:
		if code, ok := strings.CutPrefix(text, "code: '"); ok {
			j.open.Code = before(code, "'")
		}
		j.braces = text != "}"
		return true
	case len(j.open.Frames) > 0:
		return strings.HasPrefix(text, "... ") && strings.Contains(text, " lines matching cause")
	case strings.HasPrefix(text, "Node.js v"):
		return false
	case strings.HasPrefix(text, "Require stack:"), strings.HasPrefix(text, "- ") && strings.Contains(text, "/"):
		return true
	case l.Number-j.from > 30, text == "" && l.Number-j.end > 1:
		return false
	}
	if _, ok := placeColon(l.Text); ok {
		return false
	}
	// A message of several lines, as long as a stack still follows.
	addDetail(j.open, text)
	return l.Text == "" || !troubled(l.Text) && len(j.open.Detail) < 4<<10
}

// nodeWarning reads "(node:42) [DEP0005] DeprecationWarning: message".
func nodeWarning(text string) (symptom.Symptom, bool) {
	if !strings.HasPrefix(text, "(node:") {
		return symptom.Symptom{}, false
	}
	_, rest, _ := strings.Cut(text, ") ")
	code := ""
	if strings.HasPrefix(rest, "[") {
		code, rest, _ = strings.Cut(rest[1:], "] ")
	}
	class, message, ok := strings.Cut(rest, ": ")
	if !ok || !strings.HasSuffix(class, "Warning") {
		return symptom.Symptom{}, false
	}
	s := symptom.Symptom{Kind: symptom.Warning, Level: "warning", Phase: symptom.PhaseRun, Tool: "javascript", Code: code, Message: message}
	if class == "DeprecationWarning" || deprecates(message) {
		s.Kind, s.Refs = symptom.Deprecation, deprecatedName(message)
	}
	if class == "UnhandledPromiseRejectionWarning" {
		s.Kind, s.Level = symptom.Crash, "error"
	}
	return s, true
}

// close drops what only looked like an exception: a word with a colon.
func (j *javaScript) close(out *sink) {
	s := j.open
	j.open = nil
	if s == nil {
		return
	}
	if len(s.Frames) == 0 && s.File == "" {
		s.Kind, s.Detail, s.Basis, s.Tool = symptom.Error, "", symptom.ByGuess, ""
		if j.end > j.from {
			j.end = j.from
		}
	}
	s.Detail = strings.TrimSpace(s.Detail)
	for _, f := range s.Frames {
		if f.Own {
			s.File, s.Line, s.Column = f.File, f.Line, 0
			break
		}
	}
	out.add(*s, j.from, j.end)
}
