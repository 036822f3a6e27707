package read

import "strings"

// alarms are the words that make a line look like trouble.
var alarms = []string{"error", "fatal", "panic", "failed", "failure", "exception", "traceback", "warning", "deprecated", "undefined", "unresolved", "cannot"}

// troubled tells whether a line that nobody claimed looks like trouble: it
// starts with an alarming word, or has one as a label (before a colon, in
// brackets, in capitals). Words inside names, paths and addresses do not
// count, nor do counts of zero.
func troubled(text string) bool {
	if len(text) < 5 || !mayAlarm(text) {
		return false
	}
	lower := strings.ToLower(text)
	for _, word := range alarms {
		for from := 0; ; {
			i := strings.Index(lower[from:], word)
			if i < 0 {
				break
			}
			i += from
			end := i + len(word)
			if label(text, lower, i, end) {
				return true
			}
			from = end
		}
	}
	return false
}

// mayAlarm is a cheap test that most lines fail: every alarm holds an "e" or a
// "p"-word; a line of digits, dots or dashes holds neither.
func mayAlarm(text string) bool { return strings.ContainsAny(text, "eEaAuU") }

func label(text, lower string, i, end int) bool {
	for end < len(lower) && lower[end] == 's' {
		end++
	}
	if i > 0 && inWord(text[i-1]) && !camel(text, i) {
		return false
	}
	if end < len(text) && inWord(text[end]) {
		return false
	}
	if strings.HasSuffix(strings.TrimRight(lower[:i], " "), " 0") || strings.HasPrefix(lower, "0 ") || strings.HasSuffix(strings.TrimRight(lower[:i], " "), "no") {
		return false
	}
	before, after := strings.TrimSpace(text[:i]), text[end:]
	switch {
	case strings.HasPrefix(after, ": ") || after == ":":
		return true
	case before == "" && i == 0 && strings.HasPrefix(after, " ") && 'A' <= text[0] && text[0] <= 'Z':
		return true
	case strings.HasSuffix(before, "[") && strings.HasPrefix(after, "]"):
		return true
	}
	return text[i:end] == strings.ToUpper(text[i:end])
}

// camel tells whether the word at i is the last part of a class name, as in
// TypeError.
func camel(text string, i int) bool {
	return 'A' <= text[i] && text[i] <= 'Z' && 'a' <= text[i-1] && text[i-1] <= 'z'
}

func inWord(c byte) bool {
	return c == '_' || c == '-' || c == '/' || c == '.' || c == '@' || c == '#' || '0' <= c && c <= '9' || 'a' <= c && c <= 'z' || 'A' <= c && c <= 'Z'
}
