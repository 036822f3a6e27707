package read

import "strings"

// row is a line that may tell of trouble, parted into its columns.
type row struct {
	position               // file "" for a place below a heading, line 0 for none
	indent   int           // of the text
	label    severityLabel // level "" without one
	code     string
	rule     string // behind the message, where a code stands before it
	message  string
	shape    string // the columns in their order, with what parts them
	tail     bool   // the place stands behind the message
	mark     bool   // a symbol of trouble leads the row
	bang     bool   // the symbol is of letters, which nothing else uses: (!), [!]
	stack    bool   // it is a frame of a stack
	caret    bool   // it points at the line above
	comment  bool   // it stands behind a comment's mark
	numbers  bool   // there is a digit in it, without which there is no place
	unit     string // the program that speaks
}

func (r *row) placed() bool   { return r.line > 0 && r.file != "" }
func (r *row) bare() bool     { return r.line > 0 && r.file == "" }
func (r *row) labelled() bool { return r.label.strong && r.label.level != "" }

// troubleMarks are the symbols that lead a row of trouble, with their weight.
var troubleMarks = []struct{ mark, level string }{
	{"✖", "error"}, {"✗", "error"}, {"✘", "error"}, {"×", "error"}, {"❌", "error"}, {"⨯", "error"}, {"🚨", "error"}, {"⚠️", "warning"}, {"⚠", "warning"}, {"▲", "warning"}, {"(!)", "warning"}, {"[!]", "error"}, {"‼", "error"}, {"!!", "error"}, {"✕", "error"}, {"ⓘ", "note"}, {"ℹ", "note"},
}

// leads are what stands before a row for the eye alone.
var leads = []string{"│", "├─", "└─", "├", "└", "╷", "╵", ",-", "╭─", "╰─", "┌─", "▶", "➜", "•", "●", "·", "→", "»", "❯", "-->", "==>", ">>", "=>", "->", "* ", "- ", "> ", "In addition: ", ";;; ", ";; ", "; ", "# ", "// ", "| "}

// leadStart tells of a byte whether a lead or a mark of trouble begins with it.
var leadStart = func() (starts [256]bool) {
	starts['^'] = true
	for _, l := range leads {
		starts[l[0]] = true
	}
	for _, m := range troubleMarks {
		starts[m.mark[0]] = true
	}
	return starts
}()

// parseRow parts a line into columns. It is ok where the line has a place, a
// severity or a mark of trouble beside a message; the message may stand in the
// line below.
func parseRow(text string) (r row, ok bool) {
	if strings.HasPrefix(text, "::") || strings.HasPrefix(text, "##vso[") {
		return workflowCommand(text)
	}
	s := strings.TrimLeft(text, " \t")
	r.indent = len(text) - len(s)
	s = r.lead(s)
	if s == "" || len(s) > 4000 {
		return r, false
	}
	r.numbers = strings.ContainsAny(s, "0123456789")
	var shape strings.Builder
	start := s
	for len(s) > 0 {
		n, column := r.take(s, s == start)
		if n == 0 {
			break
		}
		shape.WriteString(column)
		s = s[n:]
		sep := separator(s)
		if r.fileOnly(column) && sep == 0 {
			break
		}
		shape.WriteString(strings.Join(strings.Fields(s[:sep]), ""))
		s = s[sep:]
	}
	r.message = strings.TrimSpace(strings.TrimRight(s, "─━═ "))
	if len(r.message)+12 < len(s) && isWord(r.message) && r.code == "" && r.line > 0 { // a rule's name, and a rule across the page
		r.code, r.message = r.message, ""
	}
	if len(s) > len(r.message)+8 && len(r.message) > 2 && isWord(r.message) && r.message == strings.ToUpper(r.message) { // a flag before a rule across the page
		r.message = ""
	}
	r.inner()
	shape.WriteByte('M')
	r.ending(&shape)
	r.shape = shape.String()
	return r, r.line > 0 || (r.file != "" || r.code != "") && r.message != "" || r.labelled() || r.mark && r.message != ""
}

func (r *row) fileOnly(column string) bool { return column == "F" }

// inner takes a severity out of the message that stands behind what the tool
// speaks of: "element c: validity error : …", "cmd. line:1: warning: …".
func (r *row) inner() {
	if r.label.word != "" {
		return
	}
	for at, n := 0, 0; n < 3; n++ {
		i := strings.Index(r.message[at:], ": ")
		if i < 0 || at+i > 60 {
			return
		}
		at += i + 2
		l, ok := labelAt(r.message[at:], true)
		if !ok || !l.strong || l.word == "class" || len(l.word) < 4 || l.level == "" {
			continue
		}
		head := strings.TrimSuffix(r.message[:at], ": ")
		if r.line == 0 && strings.Contains(head, ". ") && !strings.Contains(head, ":") || len(strings.Fields(head)) > 5 {
			return
		}
		if r.line == 0 && r.file == "" {
			last := head[strings.LastIndexByte(head, ' ')+1:]
			if p, ok := manualPlace(last); ok {
				r.position = p
			}
		}
		r.label, r.unit = l, head
		if l.code != "" {
			r.code = l.code
		}
		r.message = strings.TrimSpace(r.message[at+l.length:])
		return
	}
}

// manualPlace reads a path whose extension is a number, as of a manual page: it
// takes a column to tell it from other things.
func manualPlace(s string) (p position, ok bool) {
	i := strings.IndexByte(s, ':')
	if i < 3 || !strings.Contains(s[:i], ".") {
		return p, false
	}
	line, n := leadingNumber(s[i+1:])
	if n == 0 {
		return p, false
	}
	p = position{file: s[:i], line: line, length: len(s), form: "path:n"}
	if rest := s[i+1+n:]; strings.HasPrefix(rest, ":") {
		p.column, _ = leadingNumber(rest[1:])
	}
	return p, true
}

// lead takes off what leads a row for the eye, and the marks of trouble.
func (r *row) lead(s string) string {
	for range 6 {
		before := s
		if s == "" || !leadStart[s[0]] {
			break
		}
		for _, l := range leads {
			if rest, ok := strings.CutPrefix(s, l); ok {
				rest = strings.TrimLeft(rest, " \t─")
				if strings.IndexByte(";#/|", l[0]) >= 0 { // a comment's mark is no indentation
					r.indent += len(s) - len(rest)
					r.comment = r.comment || l[0] == '#' || l[0] == '/'
				}
				s = rest
				break
			}
		}
		for _, m := range troubleMarks {
			rest, ok := strings.CutPrefix(s, m.mark)
			if ok && (rest == "" || rest[0] == ' ' || rest[0] == '\t' || m.mark[0] >= 0x80) {
				s = strings.TrimLeft(strings.TrimPrefix(rest, "\ufe0f"), " \t")
				r.mark, r.bang = true, m.mark[0] < 0x80
				if r.label.level == "" {
					r.label.level = m.level
				}
				break
			}
		}
		if n := caretLead(s); n > 0 {
			s, r.caret = s[n:], true
		}
		if s == before {
			break
		}
	}
	return s
}

// caretLead is the length of what points at the line above before a message:
// "^---^ ", "^-- ".
func caretLead(s string) int {
	if s == "" || s[0] != '^' {
		return 0
	}
	n := 0
	for n < len(s) && (s[n] == '^' || s[n] == '-' || s[n] == '~') {
		n++
	}
	if n < len(s) && s[n] == ' ' {
		return n + 1
	}
	return 0
}

// take takes one column at the start of s; 0 where the message begins.
func (r *row) take(s string, first bool) (length int, name string) {
	if r.line == 0 && r.numbers {
		if p, ok := positionAt(s); ok && (p.length == len(s) || strings.IndexByte(":,;) |\t-.", s[p.length]) >= 0) {
			if r.stack = strings.HasPrefix(s, "In ") || strings.HasPrefix(s, "at ") || strings.HasPrefix(s, "in ") || strings.HasPrefix(s, "from "); r.stack && r.label.level != "" {
				r.stack = false
			}
			r.position = p
			return p.length, p.form
		}
	}
	if n := r.speaker(s); n > 0 {
		return n, ""
	}
	if r.numbers && first {
		if n := r.letterAndPlace(s); n > 0 {
			return n, "SB"
		}
	}
	if r.label.word != "" && (r.line == 0 || r.form == "Bn" || r.form == "n") {
		for _, lead := range []string{"near ", "at ", "on ", "in "} {
			rest, ok := strings.CutPrefix(s, lead)
			if !ok || lineWord(rest) == 0 {
				continue
			}
			if p, ok := bareAt(rest); ok {
				file := r.file
				if r.position = p; p.file == "" {
					r.file = file
				}
				return len(lead) + p.length, "B" + p.form
			}
		}
	}
	if r.label.word != "" && r.line == 0 && r.file == "" { // ERROR: path message, [warn] path
		if n := pathEnd(s); n > 0 && (n == len(s) || s[n] == ' ' && strings.Contains(s[:n], "/")) && !strings.HasPrefix(s, "http") {
			r.file = s[:n]
			if n == len(s) {
				return 0, ""
			}
			return n, "F"
		}
	}
	if r.line == 0 && r.file == "" {
		if n := pathEnd(s); n > 0 && n+1 < len(s) && s[n] == ':' && s[n+1] == ' ' && pathLike(s[:n]) {
			r.file = s[:n]
			return n + 1, "F"
		}
	}
	if r.numbers && r.line == 0 && (first || r.label.word != "" || r.file != "" || r.code != "") {
		if p, ok := bareAt(s); ok && p.length < len(s) && strings.IndexByte(": \t,|", s[p.length]) >= 0 && (r.label.word == "" || p.column > 0 && p.form != "line") {
			file := r.file
			r.position = p
			r.file = file
			return p.length, "B" + p.form
		}
	}
	if r.label.word == "" {
		if l, ok := labelAt(s, r.line > 0 || r.file != ""); ok && (l.strong || r.line > 0) {
			mark := r.label.level
			r.label = l
			if l.level == "" && mark != "" && l.word == "" {
				r.label.level = mark
			}
			if l.code != "" {
				r.code = l.code
			}
			return l.length, "S"
		}
	}
	if r.code == "" && (r.line > 0 || r.label.word != "" || r.file != "") || r.code == "" && (first || r.unit != "") && (numberedCode(strings.TrimLeft(s, "[(")) > 0 || ruleLead(s)) || isWord(r.code) {
		if code, n := codeAt(s); n > 0 {
			r.code = code
			return n, "C"
		}
	}
	if (r.code != "" || r.label.word != "") && len(s) > 4 && s[0] == '[' && s[2] == ']' && s[3] == ' ' { // whether it can be fixed
		return 4, ""
	}
	return 0, ""
}

// letterAndPlace is the length of an abbreviated severity and a place in columns
// of their own: "C:  3:  7: ", "W: 12, 0: ".
func (r *row) letterAndPlace(s string) int {
	if len(s) < 6 || s[1] != ':' || s[2] != ' ' {
		return 0
	}
	sev, known := severityLetters[s[0]]
	rest := strings.TrimLeft(s[2:], " ")
	line, n := leadingNumber(rest)
	if !known || n == 0 || n == len(rest) || rest[n] != ':' && rest[n] != ',' {
		return 0
	}
	after := strings.TrimLeft(rest[n+1:], " ")
	column, m := leadingNumber(after)
	if m == 0 || m == len(after) || after[m] != ':' {
		return 0
	}
	r.label = severityLabel{severity: sev, word: s[:1], strong: true}
	r.position = position{line: line, column: column, form: "n:n"}
	return len(s) - len(after) + m
}

// ruleLead reports whether a line begins with the name of a rule that nothing
// else is written as: "no-free-form: …", "name[casing]: …".
func ruleLead(s string) bool {
	if colon := strings.Index(s[:min(len(s), 100)], ": "); colon < 3 || s[0] == '@' || s[colon-1] != ']' && !strings.ContainsAny(s[:colon], "-_") {
		return false
	}
	code, n := codeAt(s)
	return n > 0 && (kebab(code) || strings.HasSuffix(code, "]")) && strings.HasPrefix(s, code+": ")
}

// speaker is the length of the name of a program, or of what it speaks of,
// before a severity: "gcc: error: ", "<unknown>: warning: ", "caught WARNING: ".
func (r *row) speaker(s string) int {
	if r.line > 0 || r.label.word != "" {
		return 0
	}
	n := 0
	for n < len(s) && n < 60 && (inName(s[n]) || s[n] == '+' || s[n] == '<' || s[n] == '>') {
		n++
	}
	rest := ""
	switch {
	case n == 0:
		return 0
	case strings.HasPrefix(s[n:], ": "):
		rest = s[n+2:]
	case strings.HasPrefix(s[n:], ":") && upperSeverity(s[n+1:]): // name:ERROR message
		rest = s[n+1:]
	case strings.EqualFold(s[:n], "caught") && strings.HasPrefix(s[n:], " "):
		rest = s[n+1:]
	default:
		return 0
	}
	if _, is := severityWord(s); is > 0 && is == n {
		return 0
	}
	if p, ok := positionAt(rest); ok && p.line > 0 && p.length < len(rest) && rest[p.length] == ':' && !pathLike(s[:n]) { // lua: path:3: …
		r.unit = s[:n]
		return len(s) - len(rest)
	}
	if end := pathEnd(rest); end > 0 && strings.HasPrefix(rest[end:], ": ") && !pathLike(s[:n]) {
		if l, ok := labelAt(rest[end+2:], true); ok && l.strong {
			r.unit = s[:n]
			return len(s) - len(rest)
		}
	}
	if l, ok := labelAt(rest, false); ok && l.strong && l.word != "class" || strings.HasPrefix(rest, "[") && numberedCode(rest[1:]) > 0 || r.speaker(rest) > 0 && !pathLike(s[:n]) {
		if !pathLike(s[:n]) {
			r.unit = s[:n]
			return len(s) - len(rest)
		}
	}
	return 0
}

// upperSeverity reports whether s begins with a severity in capitals.
func upperSeverity(s string) bool {
	_, n := severityWord(s)
	return n > 3 && s[:n] == strings.ToUpper(s[:n]) && n < len(s) && (s[n] == ' ' || s[n] == ':')
}

// lintWords are what a message without a severity or a rule says that is about
// style, not about what breaks.
var lintWords = []string{"unused", "never used", "not used", "never read", "imported but", "should ", "prefer", "avoid", "docstring", "trailing", "whitespace", "too long", "too many", "too complex", "too few", "line length", "consider", "convention", "naming", "indent", "spacing", "space ", "spaces ", "blank line", "redundant", "unreachable", "shadow", "possibl", "might ", "may ", "can be ", "could be ", "instead of", "empty", "semicolon", "quotes", "duplicate", "magic", "redefin", "was previously defined", "non-standard", "undefined variable", "==>", "reassign", "style", "harmful", "simplif", "nothing but", "weasel", "cliché", "substitute"}
