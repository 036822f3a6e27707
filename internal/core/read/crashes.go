package read

import (
	"strings"

	"unicausa/internal/core/symptom"
)

// crashes reads by shape how a program of any runtime ends: a headline beside
// the frames of a stack, whichever stands first, or words that only a crash has.
//
//	Unhandled JAR-ERROR in thread main:             words of a crash
//	raised LID_ERROR : shelf.adb:12 stuck
//	shelf: the lid is stuck                         a line, and a stack below it
//	CallStack (from HasCallStack):
//	  error, called at src/Shelf.hs:6:12
//	Traceback (most recent call last)               a stack, and a line below it
//	shelf.x(12) open
//	Error: unhandled exception: stuck [LidError]
type crashes struct {
	open   *symptom.Symptom
	from   int
	end    int
	lines  int
	want   bool // the message stands below
	before []symptom.Frame
	above  int  // lines of a stack that stands before its message
	blank  bool // the line before was
	last   bool // the innermost frame is the last
}

var crashMarks = append([]string{
	"unhandled", "uncaught", "^raised ", "backtrace", "stack trace", "stacktrace", "callstack", "call stack", "runtime error", "terminating", "aborted", "segmentation", "core dumped", "^killed", "bus error", "illegal instruction", "sigsegv", "sigabrt", "execution halted", "error in ", "while executing", "context...", "called at ", "called from ", "^at 0x", ") : ", "^error", "[0x", "@",
}, alarms...)

var crashesReader = stream{shape: true, name: "crashes", basis: symptom.ByStack, marks: crashMarks, how: aWord, open: func() lineReader { return &crashes{} }}

func (c *crashes) line(l Line, out *sink) verdict {
	text := strings.TrimSpace(l.Text)
	if c.open != nil {
		if v := c.detail(l, text, out); v != pass {
			return v
		}
		c.finish(out)
	}
	if c.above > 0 {
		if v := c.leadingStack(l, text); v != pass {
			return v
		}
	}
	if text == "" || len(text) > 2000 {
		return pass
	}
	if stackHead(text) {
		return c.head(l, out)
	}
	if text == "context...:" { // Racket's, behind the fields of the exception
		return c.aboveFields(l, out)
	}
	if strings.HasPrefix(text, "at 0x") && out.claimed < l.Number-1 && sentence(l.above(1)) { // Valgrind's
		if f, ok := anyFrame(text); ok || strings.HasSuffix(text, ")") {
			c.begin(crashOf(strings.TrimSpace(l.above(1))), l.Number-1, false)
			if ok {
				c.open.Frames = append(c.open.Frames, f)
			}
			c.open.Kind = symptom.Error
			c.end = l.Number
			return more
		}
	}
	if s, want, ok := crashHead(text); ok {
		for n := 1; n <= 50 && len(c.before) < 50; n++ { // the stack may stand above, without a head
			f, is := anyFrame(l.above(n))
			if !is {
				break
			}
			c.before = append(c.before, f)
		}
		c.begin(s, l.Number, want)
		return more
	}
	if len(l.Text) == len(strings.TrimLeft(l.Text, " \t")) && stackBelow(l) && headlineLike(text) {
		c.begin(crashOf(text), l.Number, false)
		return more
	}
	return pass
}

func (c *crashes) begin(s symptom.Symptom, line int, want bool) {
	s.Kind, s.Level, s.Phase, s.Tool = symptom.Crash, "error", symptom.PhaseRun, "runtime"
	s.Frames = append(s.Frames, c.before...)
	c.open, c.from, c.end, c.lines, c.want, c.blank = &s, line, line, 0, want, false
	c.before, c.above = nil, 0
}

// head takes the line that leads to a stack: what stands right above it is the
// message, where nobody has claimed that line, or else what stands below.
func (c *crashes) head(l Line, out *sink) verdict {
	above := strings.TrimSpace(l.above(1))
	if above != "" && out.claimed < l.Number-1 && headlineLike(above) && strings.IndexByte(" \t;#", l.above(1)[0]) < 0 && (strings.Contains(above, ": ") || isClass(firstWord(above))) && !strings.Contains(strings.ToLower(l.Text), "most recent call last") {
		c.begin(crashOf(above), l.Number-1, false)
		return more
	}
	for n := 2; n <= 40 && strings.HasPrefix(l.Text, "stack traceback"); n++ { // Lua's message may go on in lines of its own
		text := l.above(n)
		if text == "" || out.claimed >= l.Number-n {
			break
		}
		if text[0] != ' ' && text[0] != '\t' {
			if headlineLike(text) {
				c.begin(crashOf(text), l.Number-n, false)
				return more
			}
			break
		}
	}
	c.above, c.before, c.last = 1, nil, strings.Contains(l.Text, "most recent call last")
	return more
}

// aboveFields takes the first line of the block that a stack ends: the last one
// above that is not indented, where nobody has claimed it.
func (c *crashes) aboveFields(l Line, out *sink) verdict {
	for n := 1; n <= 20; n++ {
		text := l.above(n)
		if text == "" || out.claimed >= l.Number-n {
			break
		}
		if text[0] != ' ' && text[0] != '\t' {
			c.begin(crashOf(text), l.Number-n, false)
			return more
		}
	}
	return pass
}

// leadingStack takes the frames that stand before their message, and the message.
func (c *crashes) leadingStack(l Line, text string) verdict {
	f, ok := anyFrame(text)
	switch {
	case c.above > 300:
	case ok:
		c.above++
		if len(c.before) < 100 {
			c.before = append(c.before, f)
		}
		return more
	case text == "", l.Text[0] == ' ', l.Text[0] == '\t', stackLine(text), strings.HasPrefix(text, "In ") && strings.HasSuffix(text, ":"):
		c.above++
		return more
	case headlineLike(text):
		s := crashOf(text)
		if c.last {
			for i, j := 0, len(c.before)-1; i < j; i, j = i+1, j-1 {
				c.before[i], c.before[j] = c.before[j], c.before[i]
			}
		}
		c.begin(s, l.Number, strings.HasSuffix(text, ":"))
		return more
	}
	c.above, c.before = 0, nil
	return pass
}

// detail takes what belongs to the open crash.
func (c *crashes) detail(l Line, text string, out *sink) verdict {
	c.lines++
	f, ok := anyFrame(text)
	switch {
	case c.lines > 300:
		return pass
	case text == "":
		if c.blank || !c.want && !stackHead(strings.TrimSpace(l.below(1))) && !frameLike(l.below(1)) {
			return pass
		}
		c.blank = true
		return more
	case c.want && !ok && !stackHead(text):
		c.want = strings.HasSuffix(text, ":") && c.lines < 3
		said := crashOf(text)
		if c.open.Code == "" {
			c.open.Code = said.Code
		}
		if c.open.File == "" {
			c.open.File, c.open.Line = said.File, said.Line
		}
		c.open.Message = strings.TrimSpace(c.open.Message + " " + text)
		c.from, c.end = l.Number, l.Number
		return more
	case ok:
		if len(c.open.Frames) < 100 {
			c.open.Frames = append(c.open.Frames, f)
		}
	case stackHead(text), stackLine(text), strings.HasPrefix(text, "Caused by: "), strings.HasPrefix(text, "... "), strings.Trim(text, "-=") == "", strings.HasPrefix(text, "Calls: "), strings.HasPrefix(text, "Execution halted"), strings.HasPrefix(text, "??"), strings.HasPrefix(text, "Backtrace"), strings.HasPrefix(text, "in expression starting"), text[0] == '"' && text[len(text)-1] == '"' && c.lines < 60: // Tcl's commands
	case l.Text[0] == ' ' || l.Text[0] == '\t':
		if !c.blank || c.lines < 4 {
			addDetail(c.open, text)
		}
	case strings.HasPrefix(text, c.open.Code) && c.open.Code != "" && strings.Contains(text, c.open.Message) && c.lines == 1: // told again
	case strings.HasPrefix(text, "init terminating"), strings.HasPrefix(text, "Crash dump is being written"):
	default:
		return pass
	}
	c.blank = false
	c.end = l.Number
	return more
}

func (c *crashes) finish(out *sink) {
	s := c.open
	c.open = nil
	if s == nil {
		return
	}
	if s.File == "" || !own(s.File) {
		for _, f := range s.Frames {
			if f.Own && f.Line > 0 && f.File != "" {
				s.File, s.Line = f.File, f.Line
				break
			}
		}
	}
	s.Refs = runtimeRefs(s.Message)
	out.add(*s, c.from, max(c.end, c.from))
}

func (c *crashes) wants() bool { return c.open != nil && c.want }

func (c *crashes) interrupt(out *sink) { c.close(out) }

func (c *crashes) close(out *sink) {
	c.finish(out)
	c.above, c.before = 0, nil
}

// crashHeads begin what a runtime says of what nobody caught, deaths what a
// shell says of a process that died, in lower case; crashStart tells of a byte
// whether one begins with it.
var (
	crashHeads = []string{"unhandled ", "uncaught ", "error: unhandled exception", "fatal error: exception ", "an unhandled exception occurred", "fatal error: uncaught", "fortran runtime error: ", "terminating with uncaught", "error in process <", `{"init terminating`, "sigsegv:", "sigabrt:", "raised ", "error in "}
	deaths     = []string{"segmentation fault", "aborted (core", "bus error", "illegal instruction", "floating point exception (core", "killed by signal", "terminated by signal"}
	crashStart = func() (starts [256]bool) {
		for _, words := range append(crashHeads, deaths...) {
			starts[words[0]], starts[words[0]&^0x20] = true, true
		}
		return starts
	}()
)

// crashHead reads a line whose words only a crash has. Want tells that the
// message stands below.
func crashHead(text string) (s symptom.Symptom, want, ok bool) {
	if !crashStart[text[0]] {
		return s, false, false
	}
	lower := strings.ToLower(text[:min(len(text), 80)])
	for _, words := range crashHeads {
		if !strings.HasPrefix(lower, words) {
			continue
		}
		switch words {
		case "raised ":
			if _, _, cut := strings.Cut(text, " : "); !cut {
				return s, false, false
			}
		case "error in ":
			if !strings.Contains(text, " : ") && !strings.HasSuffix(text, " :") { // R's
				return s, false, false
			}
			s = crashOf(text)
			_, s.Message, _ = strings.Cut(text, " : ")
			s.Code = ""
			return s, s.Message == "", true
		}
		return crashOf(text), strings.HasSuffix(text, ":") || strings.HasSuffix(text, " :"), true
	}
	for _, words := range deaths {
		if strings.HasPrefix(lower, words) {
			return symptom.Symptom{Message: text}, false, true
		}
	}
	return s, false, false
}

// crashOf makes a symptom of a crash's headline: its class, its place and its
// message.
func crashOf(text string) symptom.Symptom {
	s := symptom.Symptom{Message: text}
	rest := text
	if at := strings.Index(rest, "@"); at > 0 && isClass(rest[:at]) { // D: class@path(line): message
		s.Code, rest = rest[:at], rest[at+1:]
	}
	for {
		lower := strings.ToLower(rest)
		cut := false
		for _, words := range []string{"unhandled exception: ", "unhandled exception at ", "uncaught exception: ", "unhandled ", "uncaught ", "exception: ", "exception ", "fatal error: ", "fortran runtime error: ", "error: ", "raised ", "caught: ", "loaderror: "} {
			if strings.HasPrefix(lower, words) && len(rest) > len(words) {
				rest, cut = rest[len(words):], true
				break
			}
		}
		if !cut {
			break
		}
	}
	if p, ok := positionAt(rest); ok && p.length < len(rest) && rest[p.length] == ':' {
		s.File, s.Line, s.Column = p.file, p.line, p.column
		rest = strings.TrimSpace(rest[p.length+1:])
		s.Message = rest
	} else if program, after, cut := strings.Cut(rest, ": "); cut && !strings.Contains(program, " ") {
		if p, ok := positionAt(after); ok && p.length < len(after) && after[p.length] == ':' {
			s.File, s.Line, s.Column = p.file, p.line, p.column
			rest = strings.TrimSpace(after[p.length+1:])
			s.Message = rest
		}
	}
	if s.Code == "" {
		class := rest
		if i := strings.IndexAny(class, " ("); i > 0 {
			class = class[:i]
		}
		class = strings.TrimSuffix(class, ":")
		if isClass(class) {
			s.Code = class
			if _, message, ok := strings.Cut(rest, ": "); ok {
				s.Message = message
			} else if _, message, ok := strings.Cut(rest, " : "); ok {
				s.Message = message
			}
		}
	}
	if n := len(rest); s.Code == "" && n > 3 && (rest[n-1] == ']' || rest[n-1] == ')') {
		if i := strings.LastIndexAny(rest, "[("); i > 0 && isClass(rest[i+1:n-1]) {
			s.Code, s.Message = rest[i+1:n-1], strings.TrimSpace(rest[:i])
		}
	}
	return s
}

// isClass reports whether s is the name of an exception: in camel case, in
// capitals, qualified, or ending in Error or Exception.
func isClass(s string) bool {
	if len(s) < 4 || len(s) > 120 || s == "Error" || s == "Exception" || !isLetter(s[0]) && s[0] != '*' {
		return false
	}
	capitals := 0
	for i := range len(s) {
		c := s[i]
		if !isLetter(c) && !isDigit(c) && strings.IndexByte("_.:\\-$*&", c) < 0 {
			return false
		}
		if 'A' <= c && c <= 'Z' {
			capitals++
		}
	}
	if strings.HasSuffix(s, "Error") || strings.HasSuffix(s, "Exception") || strings.HasSuffix(s, "-ERROR") || strings.HasSuffix(s, "_ERROR") || strings.HasSuffix(s, "Failure") {
		return true
	}
	return capitals > 1 && humps(lastSegment(s)) > 1 || capitals > 3 && strings.ContainsAny(s, "_-:") && strings.ToUpper(s) == s
}

// headlineLike reports whether a line beside a stack is what it is about.
func headlineLike(text string) bool {
	if text == "" || len(text) > 600 || !sentence(text) && !isClass(strings.TrimSuffix(firstWord(text), ":")) {
		return false
	}
	if _, frame := anyFrame(text); frame || stackLine(text) || strings.HasSuffix(text, ",") {
		return false
	}
	l, labelled := labelAt(text, false)
	return !labelled || l.level != "warning" && l.level != "note" && l.level != ""
}

// stackBelow reports whether the lines below lead to a stack or are one.
func stackBelow(l Line) bool {
	for n := 1; n <= 3; n++ {
		text := l.below(n)
		trimmed := strings.TrimSpace(text)
		switch {
		case trimmed == "" || strings.Trim(trimmed, "-=") == "":
			continue
		case strings.Contains(trimmed, "most recent call last"): // the message stands behind it
			return false
		case stackHead(trimmed), strings.HasPrefix(trimmed, "while executing"), strings.HasPrefix(trimmed, "context...:"):
			return true
		case n == 2 && strings.Contains(trimmed, " [0x"):
			return true
		case n == 1 && frameLike(text):
			head := strings.TrimSpace(l.Text)
			return strings.Contains(trimmed, " 0x") || strings.Contains(head, ": ") || isClass(strings.TrimSuffix(firstWord(head), ":"))
		case text[0] != ' ' && text[0] != '\t':
			return false
		}
	}
	return false
}

// frameLike reports whether a line is a frame that cannot be anything else.
func frameLike(line string) bool {
	t := strings.TrimSpace(line)
	if strings.HasPrefix(t, "at ") || strings.HasPrefix(t, "from ") || strings.HasPrefix(t, "#0") || strings.HasPrefix(t, "Raised at ") || strings.HasPrefix(t, "called from ") || strings.HasPrefix(t, "Called from ") || strings.HasPrefix(t, "in function ") {
		f, ok := anyFrame(t)
		return ok && f.Line > 0 || strings.HasPrefix(t, "#0")
	}
	return false
}

// anyFrame reads a frame in the forms of parseFrame and in those of less common
// runtimes: "error, called at path:6:12", "Raised at f in file "path", line 5",
// "in function m:f/0 (path, line 4)", "path(10) f", "path:6 [0x55]",
// "$0040 line 7 of path", "@ path:3", "path:3: in f".
func anyFrame(text string) (symptom.Frame, bool) {
	t := strings.TrimSpace(text)
	if f, ok := parseFrame(t); ok {
		return f, true
	}
	if strings.HasSuffix(t, ")") && !strings.Contains(t, " ") && strings.Count(before(t, "("), ".") > 1 { // the JVM's, without its word
		if f, ok := frameAt(t); ok {
			return f, true
		}
	}
	if i := strings.Index(t, "called at "); i >= 0 {
		return frameOf(t[i+len("called at "):], before(t, ","))
	}
	if i := strings.Index(t, " line "); i >= 0 && strings.HasPrefix(t, "$") {
		n, m := leadingNumber(t[i+6:])
		if rest, ok := strings.CutPrefix(t[i+6+m:], " of "); ok && m > 0 {
			return frame(place{file: strings.TrimSpace(rest), line: n}, ""), true
		}
	}
	for _, words := range []string{"in function ", "in call from ", "Raised at ", "Re-raised at ", "Called from ", "called from ", "Raised by primitive operation at ", "from ", "by ", "@ ", "at "} {
		rest, ok := strings.CutPrefix(t, words)
		if !ok {
			continue
		}
		if f, ok := frameOf(rest, ""); ok {
			return f, true
		}
		for _, lead := range []string{" in file ", " in ", " ("} {
			if i := strings.LastIndex(rest, lead); i >= 0 {
				if f, ok := frameOf(rest[i+len(lead):], rest[:i]); ok {
					return f, true
				}
			}
		}
		return symptom.Frame{}, false
	}
	if strings.HasPrefix(t, "(file ") { // Tcl's
		return frameOf(t[1:], "")
	}
	p, ok := positionAt(t)
	if !ok || strings.HasPrefix(t, "In ") {
		return symptom.Frame{}, false
	}
	rest := t[p.length:]
	if strings.HasPrefix(rest, " [0x") || strings.HasPrefix(rest, ": in ") || strings.HasPrefix(rest, " in ") || strings.HasPrefix(rest, ": 0x") || strings.HasPrefix(p.form, "path(") && strings.HasPrefix(rest, " ") && !strings.Contains(strings.TrimSpace(rest), " ") {
		return frame(place{file: p.file, line: p.line}, strings.TrimLeft(rest, ": ")), true
	}
	return symptom.Frame{}, false
}

func frameOf(where, function string) (symptom.Frame, bool) {
	p, ok := positionAt(where)
	if !ok {
		return symptom.Frame{}, false
	}
	return frame(place{file: p.file, line: p.line}, strings.TrimSpace(function)), true
}
