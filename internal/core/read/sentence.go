package read

import "strings"

// processEnded reports whether a shell says how a process ended: its number,
// and the signal's name.
func processEnded(words string) bool {
	_, n := leadingNumber(words)
	rest := strings.TrimLeft(words[n:], " ")
	return n > 0 && (strings.HasPrefix(rest, "Aborted") || strings.HasPrefix(rest, "Segmentation fault") || strings.HasPrefix(rest, "Killed") || strings.HasPrefix(rest, "Terminated") || strings.HasPrefix(rest, "Bus error") || strings.HasPrefix(rest, "Illegal instruction"))
}

// passing reports whether the words say that all is well.
func passing(words string) bool {
	first := strings.Trim(firstWord(words), ".:,!")
	if len(strings.Fields(words)) > 3 {
		first = ""
	}
	switch strings.ToLower(first) {
	case "ok", "pass", "passed", "passes", "success", "successful", "succeeded", "skipped", "ignored":
		return true
	}
	return strings.HasPrefix(words, "✓") || strings.HasPrefix(words, "✔") || strings.HasPrefix(words, "0 ")
}

// sentence reports whether text reads like a message: two words of letters at
// least.
func sentence(text string) bool {
	words := 0
	for field := range strings.FieldsSeq(text) {
		letters := 0
		for i := range len(field) {
			if isLetter(field[i]) || field[i] >= 0x80 {
				letters++
			}
		}
		if letters > 1 && 2*letters > len(field) || letters > 3 {
			if words++; words > 1 {
				return true
			}
		}
	}
	return false
}

// stackHead reports whether a line leads to the frames of a stack.
func stackHead(text string) bool {
	text = strings.TrimLeft(text, "#;/* ")
	if text == "" || strings.IndexByte("bsctBSCTeE", text[0]) < 0 {
		return false
	}
	lower := strings.ToLower(text[:min(len(text), 40)])
	for _, words := range []string{"backtrace", "stack trace", "stack backtrace", "stacktrace", "traceback", "stack traceback", "callstack", "call stack", "call trace", "error termination. backtrace"} {
		if strings.HasPrefix(lower, words) {
			return true
		}
	}
	return false
}

// stackLine reports whether a line is a frame by the words that begin it.
func stackLine(text string) bool {
	for _, words := range []string{"in function ", "in call from ", "called from ", "Called from ", "Raised at ", "Raised by ", "Re-raised at ", "called at ", "from ", "by ", "called as "} {
		if strings.HasPrefix(text, words) {
			return true
		}
	}
	rest := strings.TrimPrefix(text, "#")
	_, n := leadingNumber(rest)
	if n == 0 {
		return false
	}
	after := strings.TrimLeft(rest[n:], " ")
	return len(rest) < len(text) && strings.HasPrefix(after, "0x") || strings.HasPrefix(rest[n:], ": (") || strings.HasPrefix(rest[n:], ": 0x")
}
