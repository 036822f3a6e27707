package read

import (
	"regexp"
	"strings"

	"unicausa/internal/core/symptom"
)

// gnu reads the form of the GNU Coding Standards ("Formatting Error Messages")
// that gcc, clang and many others use:
//
//	In file included from jar.h:3,        leads to the diagnostic below
//	                 from shelf.c:1:
//	shelf.c: In function 'open':
//	shelf.c:12:9: error: 'lid' undeclared [-Werror=…]
//	   12 |   lid = 3;                     excerpt
//	      |   ^~~
//	shelf.c:12:9: note: …                folded into its diagnostic
//	gcc: error: unrecognized command-line option '-flid'     of the driver itself
type gnu struct {
	open *symptom.Symptom
	file string // of the last diagnostic
	from int
	end  int
	read map[string]int // errors and warnings since the last total
	lead bool           // an "In file included from" stands above
}

var gnuMarks = []string{": error: ", ": warning: ", ": fatal error: ", ": note: ", ": remark: ", ": info: ", "^In file included from ", ": In ", ": At ", " generated.", "too many errors emitted"}

var gnuReader = stream{name: "gnu", marks: gnuMarks, open: func() lineReader { return &gnu{} }}

// severities map the word before the message to kind and level.
var severities = []struct {
	word  string
	kind  symptom.Kind
	level string
}{
	{"fatal error: ", symptom.Error, "error"},
	{"error: ", symptom.Error, "error"},
	{"warning: ", symptom.Warning, "warning"},
	{"Error: ", symptom.Error, "error"},
	{"Warning: ", symptom.Warning, "warning"},
	{"note: ", "", "note"},
	{"remark: ", "", "note"},
	{"info: ", "", "note"},
}

func (g *gnu) line(l Line, out *sink) verdict {
	if strings.HasPrefix(l.Text, "In file included from ") || g.lead && strings.HasPrefix(strings.TrimLeft(l.Text, " "), "from ") {
		g.close(out)
		g.lead = true
		return more
	}
	if strings.Contains(l.Text, "too many errors emitted, stopping now") {
		g.close(out)
		out.cutOff(g.file)
		return noise
	}
	if s, ok := gnuHeadline(l.Text); ok {
		g.file = s.File
		g.lead = false
		if s.Kind == "" {
			if numberedCode(s.Code) > 0 { // a linter's finding
				s.Kind = symptom.Lint
				g.close(out)
				g.open, g.from, g.end = &s, l.Number, l.Number
				return more
			}
			if s.Code != "" && (g.open == nil || g.open.File != s.File || g.open.Line != s.Line) { // a hint that stands by itself
				s.Kind, s.Level = symptom.Warning, "warning"
				g.close(out)
				g.open, g.from, g.end = &s, l.Number, l.Number
				return more
			}
			if g.open == nil {
				return noise
			}
			addDetail(g.open, s.Message)
			g.end = l.Number
			return more
		}
		g.close(out)
		g.open, g.from, g.end = &s, l.Number, l.Number
		if g.read == nil {
			g.read = map[string]int{}
		}
		g.read[s.Level]++
		return more
	}
	if context(l.Text) {
		if g.open != nil {
			g.close(out)
		}
		return more
	}
	if g.open != nil {
		if g.open.Code == "" && g.end == g.from && g.wrapped(l.Text) {
			g.end = l.Number
			return more
		}
		if summary, ok := strings.CutSuffix(l.Text, " generated."); ok { // clang's totals
			g.close(out)
			for _, word := range []string{"error", "warning"} {
				if n, ok := counted(summary, word); ok {
					out.state(l.Number, word+"s", n, g.read[word])
				}
			}
			g.read = nil
			return noise
		}
		if excerpt(l.Text) || caret(l.Text) || g.end+1 == l.Number && g.open.Column > 0 && caret(l.below(1)) || strings.HasPrefix(l.Text, " ") && caret(l.above(1)) || strings.Contains(l.Text, ":   required from ") || strings.Contains(l.Text, ":   recursively required ") {
			g.end = l.Number
			return more
		}
		g.close(out)
	}
	g.lead = false
	return pass
}

// wrapped takes the rest of a message that was broken before its flag or rule.
func (g *gnu) wrapped(text string) bool {
	i := strings.LastIndexByte(text, '[')
	if i < 0 || text[0] == ' ' || !strings.HasSuffix(text, "]") || i > 0 && text[i-1] != ' ' {
		return false
	}
	code, ok := ruleName(text[i+1:len(text)-1], true)
	if ok {
		g.open.Code, g.open.Message = code, strings.TrimSpace(strings.TrimSpace(g.open.Message)+" "+strings.TrimSpace(text[:i]))
	}
	return ok
}

func (g *gnu) close(out *sink) {
	if g.open != nil {
		out.add(*g.open, g.from, g.end)
		g.open = nil
	}
}

func gnuHeadline(text string) (symptom.Symptom, bool) {
	if text == "" || text[0] == ' ' || text[0] == '\t' {
		return symptom.Symptom{}, false
	}
	p, ok := placeColon(text)
	if !ok {
		return driverLine(text)
	}
	if !strings.HasPrefix(p.rest, ": ") || extension(p.file, ".java", ".scala", ".kt", ".rb") { // these have readers of their own
		return symptom.Symptom{}, false
	}
	rest := p.rest[2:]
	for _, severity := range severities {
		if message, found := strings.CutPrefix(rest, severity.word); found {
			s := symptom.Symptom{
				Kind: severity.kind, Level: severity.level, Phase: symptom.PhaseCompile, Tool: toolOf(p.file),
				File: p.file, Line: p.line, Column: p.column, Message: message,
			}
			s.Message, s.Code = splitFlag(message)
			s.Message = strings.TrimRight(s.Message, " ")
			if end := strings.IndexByte(message, ']'); s.Code == "" && end > 2 && message[0] == '[' && strings.HasPrefix(message[end:], "] ") {
				s.Code, s.Message = message[1:end], message[end+2:]
			}
			if strings.Contains(s.Code, "deprecated") || strings.Contains(s.Message, " is deprecated") {
				s.Kind = symptom.Deprecation
			}
			s.Refs = quotedRefs(s.Message)
			return s, true
		}
	}
	return symptom.Symptom{}, false
}

// driver is the form of what drivers say, and refusedOption an option that one does
// not know.
var (
	driver        = regexp.MustCompile(`^(?:[\w.+/-]*[/-])?(?:gcc|g\+\+|clang|clang\+\+|cc|c\+\+|cc1|cc1plus|gfortran)(?:-[\d.]+)?: (error|fatal error|warning): (.+)$`)
	refusedOption = regexp.MustCompile("(?:unrecognized (?:command[- ]line )?option|unknown argument:|unsupported option|unknown warning option) [‘'`\"](-[^’'`\"]+)[’'`\"]")
)

// driverLine reads what a compiler's driver says of itself.
func driverLine(text string) (symptom.Symptom, bool) {
	m := driver.FindStringSubmatch(text)
	if m == nil {
		return symptom.Symptom{}, false
	}
	s := symptom.Symptom{Kind: symptom.Error, Level: "error", Phase: symptom.PhaseConfigure, Tool: "cc"}
	if m[1] == "warning" {
		s.Kind, s.Level = symptom.Warning, "warning"
	}
	s.Message, s.Code = splitFlag(m[2])
	if option := refusedOption.FindStringSubmatch(s.Message); option != nil {
		s.Refs = refs{ref(symptom.Option, option[1])}
	}
	return s, true
}

// toolOf names the compiler of a source file by its extension.
func toolOf(file string) string {
	for _, lang := range []struct{ tool, exts string }{{"swiftc", ".swift"}, {"nim", ".nim"}, {"valac", ".vala"}, {"zig", ".zig"}, {"v", ".v"}, {"protoc", ".proto"}} {
		if strings.HasSuffix(file, lang.exts) {
			return lang.tool
		}
	}
	if extension(file, ".c", ".h", ".cc", ".hh", ".cpp", ".hpp", ".cxx", ".hxx", ".c++", ".m", ".mm", ".s", ".S", ".i", ".ii", ".ipp", ".tcc", ".inl", ".cu", ".adb", ".ads", ".d", ".def", ".ld") || !strings.Contains(file[strings.LastIndexByte(file, '/')+1:], ".") {
		return "cc"
	}
	return ""
}

// splitFlag parts "message [-Wflag]" and "message (lid-rule)" into message and
// flag or rule.
func splitFlag(message string) (text, flag string) {
	if i := strings.LastIndex(message, " ("); i > 0 && message[len(message)-1] == ')' {
		if rule, ok := ruleName(message[i+2:len(message)-1], false); ok {
			return message[:i], rule
		}
		return message, ""
	}
	i := strings.LastIndex(message, " [")
	if i < 0 || !strings.HasSuffix(message, "]") || strings.Contains(message[i+2:], " ") {
		return message, ""
	}
	return message[:i], message[i+2 : len(message)-1]
}

// context reports whether a line names the function that the next diagnostics
// stand in: "shelf.c: In function 'open':".
func context(text string) bool {
	if !strings.HasSuffix(text, ":") || strings.HasPrefix(text, " ") {
		return false
	}
	file, _, in := strings.Cut(text, ": In ")
	if !in {
		file, _, in = strings.Cut(text, ": At ")
	}
	return in && !strings.Contains(file, ":")
}

// excerpt reports whether a line is "   12 | code" or "      |   ^~~".
func excerpt(text string) bool {
	trimmed := strings.TrimLeft(text, " ")
	_, n := leadingNumber(trimmed)
	if n > 0 && (strings.HasPrefix(trimmed[n:], " │") || strings.HasPrefix(trimmed[n:], " | ")) {
		return true
	}
	bar := strings.TrimLeft(trimmed[n:], " ")
	return len(trimmed) < len(text) && (strings.HasPrefix(bar, "|") || strings.HasPrefix(bar, "│") || strings.Trim(bar, "^~ ") == "" && bar != "")
}

// plainer makes the quotes of all locales plain ones.
var plainer = strings.NewReplacer("‘", "'", "’", "'", "`", "'")

// quotedRefs finds quoted names and, by the words around them, their part.
func quotedRefs(message string) refs {
	plainQuotes := message
	if strings.ContainsAny(message, "‘’`") {
		plainQuotes = plainer.Replace(message)
	}
	var found refs
	for _, name := range quotes(plainQuotes) {
		role := symptom.Owner
		around := behind(plainQuotes, "'"+name+"'")
		ahead := before(plainQuotes, "'"+name+"'")
		switch {
		case strings.HasSuffix(ahead, "did you mean "):
			role = symptom.Suggested
		case strings.Contains(ahead, "deprecated") || strings.HasPrefix(around, " is deprecated"):
			role = symptom.Old
		case strings.HasSuffix(ahead, "has no member "), strings.HasSuffix(ahead, "cannot find ") && strings.HasPrefix(around, " in scope"), strings.HasSuffix(ahead, "cannot find type "), strings.HasSuffix(ahead, "o such module "),
			strings.HasSuffix(ahead, "o member named "), strings.HasPrefix(around, " undeclared"), strings.HasPrefix(around, " was not declared"),
			strings.HasSuffix(ahead, "unknown type name "), strings.HasPrefix(around, " has not been declared"), strings.HasPrefix(around, " is not a member"),
			strings.HasPrefix(around, " does not name a type"), strings.HasSuffix(ahead, "implicit declaration of function "), strings.HasSuffix(ahead, "undeclared identifier "),
			strings.HasSuffix(ahead, "undefined reference to "):
			role = symptom.Missing
		case strings.Contains(ahead, "arguments to function ") || strings.Contains(ahead, "call to "):
			role = symptom.Callee
		}
		found = append(found, symptom.Ref{Role: role, Name: name})
	}
	return found
}
