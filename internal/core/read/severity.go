package read

import (
	"strings"

	"unicausa/internal/core/symptom"
)

// severity is a word that tells a message's weight, as a tool's label.
type severity struct {
	level string // error, warning, note, or "" for what is no trouble
	kind  symptom.Kind
}

// severityWords are the labels of compilers, linters, loggers and runners, in
// lower case.
var severityWords = map[string]severity{
	"error": {"error", symptom.Error}, "err": {"error", symptom.Error}, "fatal": {"error", symptom.Error}, "fatal error": {"error", symptom.Error}, "internal error": {"error", symptom.Error},
	"internal compiler error": {"error", symptom.Error}, "configuration error": {"error", symptom.Error}, "critical": {"error", symptom.Error}, "crit": {"error", symptom.Error}, "severe": {"error", symptom.Error},
	"alert": {"error", symptom.Error}, "emerg": {"error", symptom.Error}, "emergency": {"error", symptom.Error}, "blocker": {"error", symptom.Error}, "failure": {"error", symptom.Error}, "failed": {"error", symptom.TestFailure}, "problem": {"error", symptom.Error},
	"syntax error": {"error", symptom.Error}, "parse error": {"error", symptom.Error}, "parser error": {"error", symptom.Error}, "parsing error": {"error", symptom.Error}, "compile error": {"error", symptom.Error}, "validation error": {"error", symptom.Error}, "type error": {"error", symptom.Error},
	"validity error": {"error", symptom.Error}, "namespace error": {"error", symptom.Error}, "i/o error": {"error", symptom.Error}, "runtime error": {"error", symptom.Crash}, "build error": {"error", symptom.Error},
	"panic": {"error", symptom.Crash}, "exception": {"error", symptom.Crash}, "unhandled exception": {"error", symptom.Crash}, "uncaught exception": {"error", symptom.Crash}, "uncaught error": {"error", symptom.Crash}, "unhandled error": {"error", symptom.Crash},
	"warning": {"warning", symptom.Warning}, "warning message": {"warning", symptom.Warning}, "warning messages": {"warning", symptom.Warning}, "warn": {"warning", symptom.Warning}, "caution": {"warning", symptom.Warning}, "parser warning": {"warning", symptom.Warning}, "compile warning": {"warning", symptom.Warning}, "style-warning": {"warning", symptom.Warning}, "style warning": {"warning", symptom.Warning},
	"deprecated": {"warning", symptom.Deprecation}, "deprecation": {"warning", symptom.Deprecation}, "deprecation warning": {"warning", symptom.Deprecation}, "deprecation notice": {"warning", symptom.Deprecation},
	"style": {"note", symptom.Lint}, "convention": {"note", symptom.Lint}, "refactor": {"note", symptom.Lint}, "performance": {"note", symptom.Lint}, "portability": {"note", symptom.Lint}, "lint": {"warning", symptom.Lint},
	"suggestion": {"note", symptom.Lint}, "hint": {"note", symptom.Lint}, "information": {"note", symptom.Lint}, "info": {"note", symptom.Lint}, "notice": {"note", symptom.Lint}, "advice": {"note", symptom.Lint}, "recommendation": {"note", symptom.Lint},
	"minor": {"note", symptom.Lint}, "major": {"warning", symptom.Lint}, "typo": {"note", symptom.Lint}, "readability": {"note", symptom.Lint}, "design": {"note", symptom.Lint}, "security": {"warning", symptom.Lint}, "consistency": {"note", symptom.Lint},
	"note": {}, "remark": {}, "help": {}, "debug": {}, "trace": {}, "verbose": {},
}

// severityLetters are the abbreviations that stand behind a place.
var severityLetters = map[byte]severity{
	'E': {"error", symptom.Error}, 'F': {"error", symptom.Error}, 'W': {"warning", symptom.Warning}, 'C': {"note", symptom.Lint}, 'R': {"note", symptom.Lint}, 'I': {"note", symptom.Lint}, 'N': {"note", symptom.Lint},
}

// quiet labels are found without a place in any program's output, where they
// are no trouble.
var quietLabels = map[string]bool{"info": true, "information": true, "hint": true, "notice": true, "style": true, "performance": true, "security": true, "design": true, "readability": true, "minor": true, "major": true, "suggestion": true, "advice": true, "recommendation": true, "convention": true, "refactor": true, "portability": true, "typo": true, "lint": true, "problem": true, "consistency": true}

// severityLabel is a severity as it stands in a row.
type severityLabel struct {
	severity
	word   string // in lower case
	code   string // that stands with it: error[E1], error(rule), Warning-WIDTH, TypeError
	length int
	strong bool // it stands as a label and cannot be a word of a sentence
}

// longestSeverity is the number of words in the longest severity.
const longestSeverity = 3

// labelAt reads a severity at the start of s, with what encloses it and the
// colon, dash or bar behind it. Placed tells that a place stands before it.
func labelAt(s string, placed bool) (l severityLabel, ok bool) {
	at := 0
	closing := byte(0)
	for at < len(s) && (s[at] == '*' || s[at] == '%' || s[at] == '<') {
		at++
	}
	if at < len(s) && (s[at] == '[' || s[at] == '(') {
		closing = ']'
		if s[at] == '(' {
			closing = ')'
		}
		at++
	}
	from := at
	word, n := severityWord(s[at:])
	if n == 0 {
		return letterAt(s, placed)
	}
	l.word, l.severity = word, severityWords[word]
	upper := s[from:from+n] == strings.ToUpper(s[from:from+n])
	if l.kind == symptom.TestFailure && !(placed && upper && strings.HasPrefix(s[from+n:], ":")) {
		return l, false
	}
	at += n
	if closing != 0 {
		if at < len(s) && s[at] == '/' && !(quietLabels[l.word] && l.word != "info") { // [Warning/rule]
			end := strings.IndexByte(s[at:], closing)
			if end < 2 {
				return l, false
			}
			l.code, at = innerRule(s[at+1:at+end]), at+end
		}
		if at >= len(s) || s[at] != closing {
			return l, false
		}
		at++
		l.strong, l.length = true, at+separator(s[at:])
		return l, true
	}
	if at < len(s) && (s[at] == '[' || s[at] == '(') { // error[E1]: and error(rule):
		end := strings.IndexAny(s[at:], "])")
		if end > 1 && end < 60 && at+end+1 < len(s) && s[at+end+1] == ':' {
			l.code, at = s[at+1:at+end], at+end+1
		}
	} else if at < len(s) && s[at] == '-' && at+1 < len(s) && 'A' <= s[at+1] && s[at+1] <= 'Z' { // Warning-WIDTH:
		end := strings.IndexByte(s[at:], ':')
		if end > 1 && !strings.Contains(s[at:at+end], " ") {
			l.code, at = s[at+1:at+end], at+end
		}
	}
	for at < len(s) && (s[at] == '*' || s[at] == '>') {
		at++
	}
	if strings.HasPrefix(s[at:], " (") { // error (at <stdin>:1): …
		if end := strings.IndexByte(s[at:], ')'); end > 0 && end < 60 && strings.HasPrefix(s[at+end+1:], ": ") {
			at += end + 1
		}
	}
	rest := s[at:]
	if strings.HasPrefix(rest, " ") { // Warning 18 in path line 3: …
		if _, n := leadingNumber(rest[1:]); n > 0 && (strings.HasPrefix(rest[1+n:], " in ") || strings.HasPrefix(rest[1+n:], ": ") || strings.HasPrefix(rest[1+n:], " [")) {
			l.code, at = rest[1:1+n], at+1+n
			l.strong, l.length = true, at+separator(s[at:])
			return l, true
		}
	}
	switch {
	case rest == "":
		l.strong = placed
	case strings.HasPrefix(rest, ": "), strings.HasPrefix(rest, ":\t"), rest == ":", strings.HasPrefix(rest, " :"), strings.HasPrefix(rest, " - "), strings.HasPrefix(rest, " | "), strings.HasPrefix(rest, "\t"), strings.HasPrefix(rest, " -- "), strings.HasPrefix(rest, " • "), strings.HasPrefix(rest, ", "), strings.HasPrefix(rest, "  "):
		l.strong = true
	case strings.HasPrefix(rest, ":") && placed:
		l.strong = true
	case strings.HasPrefix(rest, " ") && placed && strings.Contains(word, " ") && !upper: // a sentence begins with it
		l.strong = true
		return l, true
	case strings.HasPrefix(rest, " ") && (upper || placed):
		l.strong = true
	case strings.HasPrefix(rest, " ") && numberedCode(rest[1:]) > 0, strings.HasPrefix(rest, " near line "), strings.HasPrefix(rest, " at line "), strings.HasPrefix(rest, " on line "), strings.HasPrefix(rest, " in line "):
		l.strong = true
	default:
		return l, false
	}
	l.length = at + separator(s[at:])
	return l, true
}

// innerRule is the rule in the name of a plug-in and a rule: plugin(rule).
func innerRule(s string) string {
	if open := strings.IndexByte(s, '('); open > 0 && s[len(s)-1] == ')' {
		return s[open+1 : len(s)-1]
	}
	return s
}

// severityWord finds the longest severity at the start of s.
func severityWord(s string) (word string, length int) {
	end, words := 0, 0
	for end < len(s) && words < longestSeverity {
		for end < len(s) && (isLetter(s[end]) || s[end] == '/' && end > 0 && end+1 < len(s) && isLetter(s[end+1]) && end < 2 || s[end] == '-' && end+1 < len(s) && isLetter(s[end+1]) && strings.EqualFold(s[:end], "style")) {
			end++
		}
		if end > 30 || end == 0 {
			break
		}
		if end == len(s) || !isDigit(s[end]) && s[end] != '_' {
			lowered := strings.ToLower(s[:end])
			if _, ok := severityWords[lowered]; ok {
				word, length = lowered, end
			}
		}
		words++
		if end >= len(s) || s[end] != ' ' {
			break
		}
		end++
	}
	return word, length
}

// letterAt reads an abbreviated severity, or a class that is one, behind a
// place: "C: ", "TypeError: ", "DeprecationWarning: ".
func letterAt(s string, placed bool) (l severityLabel, ok bool) {
	if len(s) > 2 && placed && s[1] == ':' && s[2] == ' ' {
		if sev, known := severityLetters[s[0]]; known {
			return severityLabel{severity: sev, word: s[:1], length: 3, strong: true}, true
		}
	}
	n := 0
	for n < len(s) && (isLetter(s[n]) || isDigit(s[n]) || strings.IndexByte("._\\-", s[n]) >= 0 || s[n] == ':' && n+2 < len(s) && s[n+1] == ':' && isLetter(s[n+2]) || s[n] == ':' && n > 0 && s[n-1] == ':') {
		n++
	}
	if n < 6 || !strings.HasPrefix(s[n:], ": ") && s[n:] != ":" {
		return l, false
	}
	class := s[:n]
	l = severityLabel{word: "class", code: class, length: n + separator(s[n:]), strong: placed || 'A' <= class[0] && class[0] <= 'Z'}
	switch tail := strings.ToLower(class); {
	case strings.HasSuffix(tail, "deprecationwarning"):
		l.severity = severity{"warning", symptom.Deprecation}
	case strings.HasSuffix(tail, "warning"):
		l.severity = severity{"warning", symptom.Warning}
	case strings.HasSuffix(class, "Error"), strings.HasSuffix(class, "Exception"), strings.HasSuffix(class, "-ERROR"), strings.HasSuffix(class, "_ERROR"):
		l.severity = severity{"error", symptom.Error}
	default:
		return l, false
	}
	return l, true
}

// separator is the length of what parts two columns of a row: blanks, and one
// colon, dash, bar or bullet among them.
func separator(s string) int {
	n, one := 0, false
	for n < len(s) {
		switch c := s[n]; {
		case c == ' ' || c == '\t':
			n++
			continue
		case !one && (c == ':' || c == '|' || c == ','):
			one = true
			n++
			continue
		case !one && c == '-' && n+1 < len(s) && (s[n+1] == ' ' || s[n+1] == '-') && n > 0 && s[n-1] == ' ':
			for n < len(s) && s[n] == '-' {
				n++
			}
			one = true
			continue
		}
		for _, bullet := range []string{"•", "—", "–", "→", "│", "·", "»"} {
			if !one && strings.HasPrefix(s[n:], bullet) {
				one = true
				n += len(bullet)
				bullet = ""
			}
			if bullet == "" {
				break
			}
		}
		if n < len(s) && (s[n] == ' ' || s[n] == '\t') {
			continue
		}
		return n
	}
	return n
}

// numberedCode is the length of a code of letters and a number at the start of
// s: E501, TS2345, C0114, LT01, MD013/line-length, S-100. It is 0 without one.
func numberedCode(s string) int {
	n := 0
	for n < len(s) && 'A' <= s[n] && s[n] <= 'Z' && n < 10 {
		n++
	}
	if n == 0 {
		return 0
	}
	if n < len(s) && (s[n] == '-' || s[n] == '_') {
		n++
	}
	digits := 0
	for n < len(s) && isDigit(s[n]) {
		n++
		digits++
	}
	if digits < 2 || digits > 6 {
		return 0
	}
	if n < len(s) && (s[n] == '/' || s[n] == '.') && n+1 < len(s) && isLetter(s[n+1]) {
		for n < len(s) && (isLetter(s[n]) || isDigit(s[n]) || s[n] == '-' || s[n] == '/' || s[n] == '_' || s[n] == '.' && n+1 < len(s) && isLetter(s[n+1])) {
			n++
		}
	}
	if n < len(s) && (isLetter(s[n]) || s[n] == '_') {
		return 0
	}
	return n
}

// codeAt reads a rule or code at the start of s, with the separator behind it.
func codeAt(s string) (code string, length int) {
	if n := numberedCode(s); n > 0 && (n == len(s) || strings.IndexByte(" :\t,|(", s[n]) >= 0) {
		return s[:n], n + separator(s[n:])
	}
	if word := before(s, " | "); len(word) > 1 && len(word) < 6 && len(word) < len(s) && isWord(word+"xx") && word == strings.ToUpper(word) { // a column of its own
		return word, len(word) + separator(s[len(word):])
	}
	if s != "" && (s[0] == '[' || s[0] == '(') {
		closing := map[byte]byte{'[': ']', '(': ')'}[s[0]]
		end := strings.IndexByte(s, closing)
		if end < 3 || end > 80 || end+1 >= len(s) || s[end+1] != ' ' && s[end+1] != ':' {
			return "", 0
		}
		if code, ok := ruleName(s[1:end], s[0] == '['); ok {
			return code, end + 1 + separator(s[end+1:])
		}
		return "", 0
	}
	n := 0
	for n < len(s) && ruleByte(s[n]) && (s[n] != ':' || n+1 < len(s) && isLetter(s[n+1])) {
		n++
	}
	token := s[:n]
	if n > 1 && n < len(s) && s[n] == '(' && !strings.Contains(token, ".") { // plugin(rule): message
		if end := strings.IndexByte(s[n:], ')'); end > 3 && strings.HasPrefix(s[n+end+1:], ": ") {
			if rule, ok := ruleName(s[n+1:n+end], false); ok {
				return rule, n + end + 1 + separator(s[n+end+1:])
			}
		}
	}
	if n > 1 && n < len(s) && s[n] == '[' && isWord(strings.ReplaceAll(token, "-", "")) { // rule[tag]: message
		if end := strings.IndexByte(s[n:], ']'); end > 1 && end < 40 && strings.HasPrefix(s[n+end+1:], ": ") && !strings.Contains(s[n:n+end], " ") {
			return s[:n+end+1], n + end + 1 + separator(s[n+end+1:])
		}
	}
	if n < 4 || n > 80 || strings.HasPrefix(token, "/") || strings.HasPrefix(token, ".") || pathLike(token) || n < len(s) && s[n] == '(' {
		return "", 0
	}
	labelled := strings.HasPrefix(s[n:], ": ") || strings.HasPrefix(s[n:], ":\t") || strings.HasPrefix(s[n:], "  ") || strings.HasPrefix(s[n:], "\t") || strings.HasPrefix(s[n:], " | ") || strings.HasPrefix(s[n:], " ━") || strings.HasPrefix(s[n:], " ─")
	if !labelled || !(strings.Count(token, "/") > 0 || kebab(token) || humps(token) > 1 || strings.Count(token, ".") > 1) {
		return "", 0
	}
	return token, n + separator(s[n:])
}

func ruleByte(c byte) bool {
	return isLetter(c) || isDigit(c) || strings.IndexByte("-_./@:+", c) >= 0
}

// ruleName reports whether what stands in brackets is the name of a rule; in
// square ones any name is. The words behind a code's colon are no part of it.
func ruleName(s string, square bool) (string, bool) {
	if len(s) < 2 || len(s) > 120 {
		return "", false
	}
	letters := 0
	for i := range len(s) {
		if !ruleByte(s[i]) && s[i] != '=' && s[i] != '#' {
			return "", false
		}
		if isLetter(s[i]) {
			letters++
		}
	}
	if letters == 0 || pathLike(s) && !kebab(s) && strings.Contains(s, "/") || isDigit(s[0]) {
		return "", false
	}
	if n := numberedCode(s); n > 0 {
		if n < len(s) && s[n] == ':' {
			return s[:n], true
		}
		return s, true
	}
	if s[0] == '-' || square {
		return s, len(s) > 2
	}
	return s, kebab(s) || strings.Contains(s, "/") || humps(s) > 1 || strings.Contains(s, "_") || strings.Count(s, ".") > 1 || strings.Contains(s, ":")
}

// kebab reports whether s is of small words joined by dashes or underscores.
func kebab(s string) bool {
	joins := 0
	for i := range len(s) {
		switch c := s[i]; {
		case c == '-' || c == '_':
			joins++
			if i == 0 || i == len(s)-1 {
				return false
			}
		case 'A' <= c && c <= 'Z':
			return false
		}
	}
	return joins > 0
}

// humps counts the parts of a name in camel case.
func humps(s string) int {
	n := 0
	for i := range len(s) {
		if 'A' <= s[i] && s[i] <= 'Z' && (i == 0 || 'a' <= s[i-1] && s[i-1] <= 'z' || isDigit(s[i-1])) || i == 0 && isLetter(s[0]) {
			n++
		}
		if !isLetter(s[i]) && !isDigit(s[i]) {
			return 0
		}
	}
	return n
}
