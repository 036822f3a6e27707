package read

import (
	"strings"

	"unicausa/internal/core/symptom"
)

// python reads what CPython prints of exceptions and warnings:
//
//	Traceback (most recent call last):
//	  File "/p/shelf.py", line 12, in open
//	    jar.open_lid()
//	    ^^^^^^^^^^^^
//	AttributeError: 'Jar' object has no attribute 'open_lid'
//	During handling of the above exception, another exception occurred:
//	  File "/p/shelf.py", line 3              a syntax error, without the first line
//	    def open(
//	            ^
//	SyntaxError: '(' was never closed
//	/p/shelf.py:3: DeprecationWarning: shut() is deprecated, use close()
//	  jar.shut()
//
// Formats: traceback and warnings in the standard library.
type python struct {
	frames []symptom.Frame
	from   int
	open   *symptom.Symptom // an exception whose message may go on, or a warning
	at     int
	end    int
	chain  bool // "During handling …" was read: another exception follows
	below  int  // lines of a warning's message that are still to come
}

var pythonReader = stream{name: "python", marks: []string{"^Traceback (most recent", `^File "`, "Warning: ", "^During handling of the above", "^The above exception was the direct"}, open: func() lineReader { return &python{} }}

func (p *python) listening() bool { return p.chain }

func (p *python) line(l Line, out *sink) verdict {
	text := strings.TrimLeft(l.Text, "|+ ")
	switch {
	case strings.HasPrefix(text, "Traceback (most recent call last)"):
		if !p.chain {
			p.close(out)
		}
		p.frames, p.from, p.chain = nil, l.Number, false
		return more
	case p.from > 0:
		return p.inside(l, out)
	case p.open != nil && strings.HasPrefix(l.Text, "During handling of the above exception"), p.open != nil && strings.HasPrefix(l.Text, "The above exception was the direct cause"):
		p.chain = true
		return more
	case p.chain && l.Text == "":
		return more
	case p.open != nil && l.Text == "" && p.open.Kind == symptom.Crash: // a chained exception may follow
		return more
	case p.below > 0:
		p.below--
		p.end = l.Number
		return more
	case p.open != nil && p.open.Kind != symptom.Crash && strings.HasPrefix(l.Text, "  "): // the warning's source line
		p.end = l.Number
		p.close(out)
		return took
	}
	if p.chain = false; strings.HasPrefix(l.Text, `  File "`) {
		if f, ok := parseFrame(l.Text); ok && f.Function == "" {
			p.close(out)
			p.frames, p.from = []symptom.Frame{f}, l.Number
			return more
		}
	}
	p.close(out)
	if s, ok := pythonWarning(l.Text); ok {
		p.below = warningBelow(&s, l, "")
		p.open, p.at, p.end = &s, l.Number, l.Number
		return more
	}
	return pass
}

// inside takes the lines of a traceback down to the exception.
func (p *python) inside(l Line, out *sink) verdict {
	if strings.HasPrefix(l.Text, " ") || l.Text == "" {
		if f, ok := parseFrame(l.Text); ok && len(p.frames) < 2000 {
			p.frames = append(p.frames, f)
		}
		return more
	}
	s, ok := pythonException(strings.TrimLeft(l.Text, "|+ "))
	if !ok {
		p.from, p.frames = 0, nil
		return pass
	}
	for i := len(p.frames) - 1; i >= 0; i-- {
		s.Frames = append(s.Frames, p.frames[i])
	}
	if p.open != nil { // the exception it was raised over
		s.Detail = p.open.Message
	}
	for _, f := range s.Frames {
		if f.Own {
			s.File, s.Line = f.File, f.Line
			break
		}
	}
	p.open, p.at, p.end, p.from, p.frames = &s, l.Number, l.Number, 0, nil
	return more
}

// pythonException reads "jar.JarError: the lid is stuck".
func pythonException(text string) (symptom.Symptom, bool) {
	text = strings.TrimPrefix(text, "Failure: ") // Twisted's
	class, _, _ := strings.Cut(text, ": ")
	class = strings.TrimSuffix(class, ":")
	if !dotted(class) {
		return symptom.Symptom{}, false
	}
	s := symptom.Symptom{Kind: symptom.Crash, Level: "error", Phase: symptom.PhaseRun, Tool: "python", Code: class, Message: text, Refs: runtimeRefs(text)}
	switch class {
	case "SyntaxError", "IndentationError", "TabError":
		s.Kind, s.Phase = symptom.Error, symptom.PhaseParse
	}
	return s, true
}

// dotted reports whether s is a name of letters, digits, "_" and dots.
func dotted(s string) bool {
	for i := range len(s) {
		if !isLetter(s[i]) && !isDigit(s[i]) && s[i] != '_' && s[i] != '.' {
			return false
		}
	}
	return s != "" && (isLetter(s[0]) || s[0] == '_')
}

func pythonWarning(text string) (symptom.Symptom, bool) {
	p, ok := placeColon(text)
	if !ok {
		p, ok = unplaced(text)
	}
	if !ok || !strings.HasPrefix(p.rest, ": ") || p.column > 0 {
		return symptom.Symptom{}, false
	}
	class, message, ok := strings.Cut(p.rest[2:], ":")
	if message = strings.TrimSpace(message); !ok || !dotted(class) || !strings.HasSuffix(class, "Warning") {
		return symptom.Symptom{}, false
	}
	s := symptom.Symptom{Kind: symptom.Warning, Level: "warning", Phase: symptom.PhaseRun, Tool: "python", Code: class, File: p.file, Line: p.line}
	if class == "SyntaxWarning" {
		s.Phase = symptom.PhaseParse
	}
	warns(&s, message)
	return s, true
}

// warns gives a warning its message.
func warns(s *symptom.Symptom, message string) {
	s.Message = message
	if class := s.Code; strings.Contains(class, "Deprecat") || strings.HasPrefix(class, "Removed") || class == "FutureWarning" || deprecates(message) {
		s.Kind = symptom.Deprecation
		s.Refs = deprecatedName(message)
	}
}

// warningBelow takes the message of a warning that begins on a line below its own, down to
// an empty line or the source, which is indented. It returns how many lines that takes.
func warningBelow(s *symptom.Symptom, l Line, indent string) (lines int) {
	if s.Message != "" {
		return 0
	}
	var said []string
	for n := 1; n < mostWarned; n++ {
		text, ok := strings.CutPrefix(l.below(n), indent)
		blank := strings.TrimSpace(text) == ""
		if !ok && !blank || strings.HasPrefix(text, "  ") || blank && len(said) > 0 {
			break
		}
		if lines = n; !blank {
			said = append(said, strings.TrimSpace(text))
		}
	}
	if len(said) == 0 {
		return 0
	}
	warns(s, strings.Join(said, " "))
	return lines
}

// mostWarned bounds the lines of a warning's message.
const mostWarned = 8

// unplaced reads the place of a warning that is told of no file: "settings of the
// shelf:1: UserWarning: …".
func unplaced(text string) (place, bool) {
	head, rest, ok := strings.Cut(text, "Warning: ")
	i := strings.LastIndex(head, ": ")
	if !ok || i < 0 || rest == "" {
		return place{}, false
	}
	j := strings.LastIndexByte(head[:i], ':')
	if _, n := leadingNumber(head[j+1 : i]); j < 1 || n == 0 || n != i-j-1 {
		return place{}, false
	}
	return place{rest: text[i:]}, true
}

// withDots turns what other languages put between owner and member into dots.
var withDots = strings.NewReplacer("#", ".", "::", ".")

// deprecatedName finds what a sentence calls deprecated: the quoted or
// code-like name before the word.
func deprecatedName(message string) refs {
	head := message
	for _, word := range []string{" is deprecated", " are deprecated", " was deprecated", " has been deprecated", " have been deprecated", " is obsolete", " will be removed", ", deprecated", " deprecated"} {
		if i := strings.Index(message, word); i > 0 {
			head = message[:i]
			break
		}
	}
	if names := append(backticks(head), quotes(head)...); len(names) > 0 {
		return owned(symptom.Old, strings.TrimSuffix(names[len(names)-1], "()"))
	}
	for _, word := range strings.Fields(head) {
		word = strings.Trim(word, ".,:;\"")
		plain := withDots.Replace(word)
		if bare := strings.TrimSuffix(word, "()"); strings.ContainsAny(plain, "._") && dotted(strings.TrimSuffix(plain, "()")) || bare != word {
			return owned(symptom.Old, before(bare, "("))
		}
	}
	return nil
}

func (p *python) close(out *sink) {
	if p.open != nil {
		out.add(*p.open, p.at, p.end)
	}
	p.open, p.chain = nil, false
}
