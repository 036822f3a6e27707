package read

import "strings"

// ending takes the columns behind the message: rules, severities and places.
func (r *row) ending(shape *strings.Builder) {
	for range 6 {
		m := strings.TrimRight(r.message, " \t")
		switch n := len(m); {
		case n > 3 && (m[n-1] == ']' || m[n-1] == ')'):
			if !r.bracket(m, shape) {
				return
			}
		case r.line == 0 && r.numbers && !r.caret && r.tailPlace(m):
			shape.WriteString("P")
		case r.code == "" && (r.line > 0 || r.labelled()) && r.spaced(m):
			shape.WriteString("  C")
		default:
			return
		}
	}
}

// bracket takes what stands in the last pair of brackets off the message.
func (r *row) bracket(m string, shape *strings.Builder) bool {
	square := m[len(m)-1] == ']'
	open := strings.LastIndexByte(m, map[bool]byte{true: '[', false: '('}[square])
	if open < 1 || m[open-1] != ' ' && m[open-1] != '.' {
		return false
	}
	inner := m[open+1 : len(m)-1]
	rest := strings.TrimRight(m[:open], " ")
	wide := len(m[:open])-len(rest) > 1
	if l, ok := labelAt("["+inner+"] ", true); ok && r.label.word == "" {
		r.label = l
		if l.code != "" {
			r.code = l.code
		}
		r.message = rest
		shape.WriteString("[S]")
		return true
	}
	for _, lead := range []string{"check: ", "rule: "} {
		inner = strings.TrimPrefix(inner, lead)
	}
	if strings.HasPrefix(strings.ToLower(inner), "severity: ") {
		r.message = rest
		if r.label.word == "" {
			r.label = severityLabel{severity: severityWords["lint"], word: "lint", strong: true}
		}
		return true
	}
	if r.line == 0 {
		if p, ok := positionAt(inner); ok && p.length == len(inner) {
			r.position, r.tail, r.message = p, true, rest
			shape.WriteString("(P)")
			return true
		}
		if line, column, ok := pair(inner); ok && r.file != "" && column > 0 {
			r.line, r.column, r.message = line, column, rest
			shape.WriteString("(n)")
			return true
		}
	}
	if _, n := leadingNumber(inner); n == len(inner) && square { // how sure the tool is
		r.message = rest
		return true
	}
	ends := strings.HasSuffix(rest, ".") || strings.HasSuffix(rest, "'") || strings.HasSuffix(rest, "\"")
	if code, ok := ruleName(inner, square || wide || ends && isWord(inner) && inner != "null" && (r.labelled() || r.placed())); ok && (r.line > 0 || r.file != "" || r.caret || r.labelled() || r.mark) {
		if r.code == "" {
			r.code = code
		} else {
			r.rule = code
		}
		r.message = rest
		shape.WriteString("[C]")
		return true
	}
	return false
}

// spaced takes a rule's name off that stands in a column of its own.
func (r *row) spaced(m string) bool {
	i := strings.LastIndex(m, "  ")
	if i < 1 {
		return false
	}
	token := m[i+2:]
	if code, ok := ruleName(token, kebab(token) || strings.Contains(token, "/") || isWord(token)); ok && !strings.HasSuffix(token, ".") && !strings.HasSuffix(token, ":") {
		r.code, r.message = code, strings.TrimSpace(m[:i])
		return true
	}
	return false
}

func isWord(s string) bool {
	for i := range len(s) {
		if !isLetter(s[i]) {
			return false
		}
	}
	return len(s) > 2
}

// placeWords lead to a place behind a message.
var placeWords = []string{" at ", " in ", " on ", " from ", " near ", " @ "}

// tailPlace takes a place off that a message ends with: "at path line 12.",
// "in path on line 12", "in path:12", "at line 12, column 9".
func (r *row) tailPlace(m string) bool {
	for _, word := range placeWords {
		if !strings.Contains(m, word) { // much faster than the last index
			continue
		}
		for end := len(m); end > 0; {
			i := strings.LastIndex(m[:end], word)
			if i < 1 {
				break
			}
			end = i
			after := m[i+len(word):]
			p, ok := positionAt(after)
			if !ok && word != " in " && word != " from " && lineWord(after) > 0 {
				p, ok = bareAt(after)
			}
			if !ok || p.length < len(after) && strings.IndexByte(".,);", after[p.length]) < 0 {
				continue
			}
			if rest := after[p.length:]; len(rest) > 2 && rest[0] == '.' && !strings.HasPrefix(rest, ".  ") { // another sentence
				continue
			}
			if file := r.file; p.file == "" {
				p.file = file
			}
			r.position, r.tail = p, true
			r.message = m[:i]
			return true
		}
	}
	return false
}
