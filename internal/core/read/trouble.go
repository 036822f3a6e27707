package read

import "strings"

// alarms are the words that make a line look like trouble.
var alarms = []string{"error", "fatal", "panic", "failed", "failure", "exception", "traceback", "warning", "deprecated", "undefined", "unresolved", "cannot"}

// alarmed finds the alarms; each is a list of its own.
var alarmed = func() *marks {
	lists := make([]markList, len(alarms))
	for i, word := range alarms {
		lists[i] = markList{texts: []string{word}, how: anyhow}
	}
	return newMarks(lists)
}()

// troubled reports whether a line that nobody claimed looks like trouble: it
// starts with an alarming word, or has one as a label (before a colon, in
// brackets, in capitals). Words inside names, paths and addresses do not
// count, nor do counts of zero.
func troubled(text string) bool {
	m := alarmed
	state := uint16(0)
	for i := range len(text) {
		if state = m.next[int(state)*rowLength+int(m.class[text[i]])]; state < m.hits {
			continue
		}
		for _, e := range m.found[state-m.hits] {
			if label(text, i+1-len(e.text), i+1) {
				return true
			}
		}
	}
	return false
}

// label reports whether the word from i to end stands as a label.
func label(text string, i, end int) bool {
	for end < len(text) && lower(text[end]) == 's' {
		end++
	}
	if i > 0 && inWord(text[i-1]) && !camel(text, i) {
		return false
	}
	if end < len(text) && inWord(text[end]) {
		return false
	}
	before, after := strings.TrimRight(text[:i], " "), text[end:]
	if strings.HasSuffix(before, " 0") || strings.HasPrefix(text, "0 ") || strings.HasSuffix(before, "no") || strings.HasSuffix(before, "No") {
		return false
	}
	before = strings.TrimLeft(before, " ")
	switch {
	case strings.HasPrefix(after, ": ") || after == ":":
		return true
	case i == 0 && strings.HasPrefix(after, " ") && 'A' <= text[0] && text[0] <= 'Z':
		return true
	case strings.HasSuffix(before, "[") && strings.HasPrefix(after, "]"):
		return true
	}
	for _, c := range []byte(text[i:end]) {
		if 'a' <= c && c <= 'z' {
			return false
		}
	}
	return true
}

// camel reports whether the word at i is the last part of a class name, as in
// TypeError.
func camel(text string, i int) bool {
	return 'A' <= text[i] && text[i] <= 'Z' && 'a' <= text[i-1] && text[i-1] <= 'z'
}

func inWord(c byte) bool {
	return c == '_' || c == '-' || c == '/' || c == '.' || c == '@' || c == '#' || '0' <= c && c <= '9' || 'a' <= c && c <= 'z' || 'A' <= c && c <= 'Z'
}
