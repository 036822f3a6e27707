package read

import (
	"strings"

	"unicausa/internal/core/symptom"
)

// php reads what PHP itself prints, to the output and to the log:
//
//	PHP Deprecated:  Function shut() is deprecated in /p/src/shelf.php on line 12
//	Deprecated: Function shut() is deprecated in /p/src/shelf.php on line 12     the same, said twice
//	Fatal error: Uncaught Error: Call to undefined method Jar::openLid() in src/shelf.php:12
//	Stack trace:
//	#0 bin/start(6): Shelf->open()
//	#1 {main}
//	  thrown in src/shelf.php on line 12
//	Parse error: syntax error, unexpected token "}" in src/shelf.php on line 12
//
// A test printer's progress may stand before it on the line.
// Format: php_error_cb in main/main.c; zend_exceptions.c.
type php struct {
	open *symptom.Symptom
	from int
	end  int
	last string // the message and place before this one, with its mark
	loud bool   // it had the mark of the log
}

var phpLevels = []struct {
	word  string
	kind  symptom.Kind
	level string
}{
	{"Recoverable fatal error: ", symptom.Crash, "error"}, {"Catchable fatal error: ", symptom.Crash, "error"}, {"Fatal error: ", symptom.Crash, "error"},
	{"Parse error: ", symptom.Error, "error"}, {"Core error: ", symptom.Error, "error"}, {"Startup error: ", symptom.Error, "error"},
	{"User Deprecated: ", symptom.Deprecation, "warning"}, {"Deprecated: ", symptom.Deprecation, "warning"},
	{"Warning: ", symptom.Warning, "warning"}, {"Notice: ", symptom.Warning, "note"}, {"Strict Standards: ", symptom.Deprecation, "warning"},
}

var phpReader = stream{name: "php", marks: []string{" on line ", "Uncaught ", "^Error in bootstrap script", "^Errors parsing "}, open: func() lineReader { return &php{} }}

func (p *php) line(l Line, out *sink) verdict {
	if p.open != nil {
		if p.trace(l) {
			p.end = l.Number
			return more
		}
		p.close(out)
	}
	if strings.HasPrefix(l.Text, "Errors parsing ") {
		return noise
	}
	if strings.HasPrefix(l.Text, "Error in bootstrap script: ") {
		p.open = &symptom.Symptom{Kind: symptom.Crash, Level: "error", Phase: symptom.PhaseStart, Tool: "php", Code: strings.TrimSuffix(l.Text[len("Error in bootstrap script: "):], ":")}
		p.from, p.end = 0, l.Number
		return more
	}
	s, logged, ok := phpHead(l.Text)
	if !ok {
		return pass
	}
	key := s.Message + "\x00" + s.File
	if key == p.last && logged != p.loud { // printed and logged
		p.last = ""
		if strings.HasPrefix(s.Message, "Uncaught ") {
			p.open, p.from, p.end = &symptom.Symptom{Kind: ""}, l.Number, l.Number
			return more
		}
		return took
	}
	p.last, p.loud = key, logged
	p.open, p.from, p.end = &s, l.Number, l.Number
	return more
}

func phpHead(text string) (s symptom.Symptom, logged, ok bool) {
	at := -1
	for _, level := range phpLevels {
		if i := strings.Index(text, level.word); i >= 0 && (at < 0 || i < at) && glued(text[:i]) {
			at = i
			s = symptom.Symptom{Kind: level.kind, Level: level.level, Phase: symptom.PhaseRun, Tool: "php", Message: strings.TrimSpace(text[i+len(level.word):])}
			if level.word == "Parse error: " {
				s.Phase = symptom.PhaseParse
			}
		}
	}
	if at < 0 {
		return s, false, false
	}
	logged = strings.HasSuffix(strings.TrimRight(text[:at], " "), "PHP")
	if i := strings.LastIndex(s.Message, " on line "); i >= 0 {
		j := strings.LastIndex(s.Message[:i], " in ")
		if j < 0 {
			return s, false, false
		}
		s.File = s.Message[j+4 : i]
		s.Line, _ = leadingNumber(s.Message[i+len(" on line "):])
		s.Message = s.Message[:j]
	} else if strings.HasPrefix(s.Message, "Uncaught ") {
		if j := strings.LastIndex(s.Message, " in "); j >= 0 {
			if p, ok := placeColon(s.Message[j+4:]); ok {
				s.File, s.Line, s.Message = p.file, p.line, s.Message[:j]
			}
		}
	} else {
		return s, false, false
	}
	phpNames(&s)
	return s, logged, true
}

// glued reports whether only a mark or a printer's progress stands before a message.
func glued(head string) bool {
	head = strings.TrimSuffix(strings.TrimRight(head, " "), "PHP")
	return strings.Trim(head, ".FESIRWDN ") == ""
}

func phpNames(s *symptom.Symptom) {
	m, uncaught := strings.CutPrefix(s.Message, "Uncaught ")
	if class, _, ok := strings.Cut(m, ": "); ok && uncaught && s.Code == "" && !strings.Contains(class, " ") {
		s.Code = class
	}
	s.Refs = runtimeRefs(m)
	if s.Kind != symptom.Deprecation || len(s.Refs) > 0 {
		return
	}
	switch {
	case strings.HasPrefix(m, "Creation of dynamic property "):
		s.Refs = phpMember(symptom.Old, firstWord(m[len("Creation of dynamic property "):]))
	case strings.HasPrefix(m, "Function "), strings.HasPrefix(m, "Method "), strings.HasPrefix(m, "Constant "):
		s.Refs = phpMember(symptom.Old, strings.Fields(m)[1])
	}
}

// phpMember splits "Jar::openLid()" into the member and its class.
func phpMember(role symptom.Role, name string) refs {
	name = strings.TrimSuffix(name, "()")
	if owner, member, ok := strings.Cut(name, "::"); ok {
		return refs{ref(role, strings.TrimPrefix(member, "$")), ref(symptom.Owner, owner)}
	}
	return refs{ref(role, strings.TrimPrefix(name, "$"))}
}

// trace takes the lines of a stack trace behind an uncaught exception.
func (p *php) trace(l Line) bool {
	text := strings.TrimSpace(l.Text)
	switch {
	case p.from == 0: // the message stands below its headline
		p.from, p.open.Message = l.Number, text
		phpNames(p.open)
		return text != ""
	case strings.HasPrefix(text, "#"):
		if f, ok := parseFrame(text); ok {
			p.open.Frames = append(p.open.Frames, f)
			if p.open.File == "" && f.Own {
				p.open.File, p.open.Line = f.File, f.Line
			}
			return true
		}
		return strings.HasSuffix(text, "{main}")
	case text == "Stack trace:" || strings.HasPrefix(text, "PHP Stack trace:"):
		return true
	case strings.HasPrefix(text, "thrown in "), strings.HasPrefix(text, "Next ") && len(p.open.Frames) > 0:
		return true
	}
	return false
}

func (p *php) close(out *sink) {
	s := p.open
	p.open = nil
	if s == nil || s.Kind == "" || p.from == 0 {
		return
	}
	if s.File != "" && !own(s.File) { // its place is the innermost frame of the project's own code
		s.Frames = append([]symptom.Frame{{File: s.File, Line: s.Line}}, s.Frames...)
		for _, f := range s.Frames {
			if f.Own && s.Kind == symptom.Crash {
				s.File, s.Line = f.File, f.Line
				break
			}
		}
	}
	out.add(*s, p.from, p.end)
}
