package read

import (
	"strings"

	"unicausa/internal/core/symptom"
)

// native reads how programs without a runtime of their own end:
//
//	terminate called after throwing an instance of 'jar::error'
//	  what():  the lid is stuck
//	shelf: shelf.c:12: open: Assertion `lid != 0' failed.
//	Segmentation fault (core dumped)
//	==42==ERROR: AddressSanitizer: heap-use-after-free on address 0x602000000010 …
//	    #0 0x4c5f1b in open /p/shelf.c:12:9
//	shelf.c:12:9: runtime error: signed integer overflow
//	thread 'main' panicked at src/shelf.rs:12:9:
//	the lid is stuck
//
// Formats: libstdc++'s verbose terminate handler, glibc's assert, the
// sanitizers of LLVM, std::panicking.
var nativeReader = dialectReader("native", []string{"^terminate called", "^libc++abi", ": Assertion `", "^Segmentation fault", "^Aborted", "Sanitizer: ", ": runtime error: ", " panicked at "}, dialect{head: nativeHead, tail: nativeTail, ends: nativeEnds, rest: func(b *block, l Line, out *sink) verdict {
	if strings.HasPrefix(l.Text, "Aborted") && b.errors > 0 || strings.HasPrefix(l.Text, "SUMMARY: ") && strings.Contains(l.Text, "Sanitizer") {
		return noise
	}
	return pass
}})

const (
	nativePlain = iota
	rustPanic   // its message stands below
	rustSaid
)

func nativeHead(text string) (symptom.Symptom, bool) {
	s := symptom.Symptom{Kind: symptom.Crash, Level: "error", Phase: symptom.PhaseRun, Tool: "native", Message: text}
	switch {
	case strings.HasPrefix(text, "terminate called"), strings.HasPrefix(text, "libc++abi: terminating"):
		s.Code = between(text, "'", "'")
		return s, true
	case strings.Contains(text, ": Assertion `") && strings.HasSuffix(text, "' failed."):
		parts := strings.SplitN(text, ": ", 4)
		if p, ok := placeColon(strings.Join(parts[1:], ": ")); ok {
			s.File, s.Line = p.file, p.line
		}
		s.Message = "Assertion " + behind(text, ": Assertion ")
		return s, true
	case strings.HasPrefix(text, "Segmentation fault"):
		return s, true
	case strings.HasPrefix(text, "==") && strings.Contains(text, "Sanitizer: "), strings.HasPrefix(text, "WARNING: ThreadSanitizer"):
		s.Tool = "sanitizer"
		s.Message = before(text[strings.Index(text, "Sanitizer: ")+len("Sanitizer: "):], " on address ")
		s.Code = firstWord(s.Message)
		return s, true
	case strings.Contains(text, ": runtime error: "):
		if p, ok := placeColon(text); ok && strings.HasPrefix(p.rest, ": runtime error: ") {
			s.Tool, s.File, s.Line, s.Column, s.Message = "sanitizer", p.file, p.line, p.column, p.rest[len(": runtime error: "):]
			return s, true
		}
	case strings.HasPrefix(text, "thread '") && strings.Contains(text, " panicked at "):
		s.Tool = "rust"
		where := behind(text, " panicked at ")
		if strings.HasPrefix(where, "'") { // before Rust 1.73 the message stood here
			if i := strings.LastIndex(where, "', "); i > 0 {
				s.Message, where = where[1:i], where[i+3:]
			}
		}
		if p, ok := placeColon(where); ok {
			s.File, s.Line, s.Column = p.file, p.line, p.column
		}
		return s, true
	}
	return s, false
}

func nativeTail(d *diagnostic, text string) bool {
	trimmed := strings.TrimSpace(text)
	if d.Tool == "rust" {
		switch {
		case strings.HasPrefix(text, "note: run with `RUST_BACKTRACE"), strings.HasPrefix(text, "stack backtrace:"):
			d.stage = rustSaid
			return true
		case strings.HasPrefix(d.Message, "thread '"):
			d.Message = trimmed
			return text != ""
		case d.stage == rustSaid:
			return strings.HasPrefix(text, "  ")
		case strings.HasPrefix(text, " "):
			d.add(text)
			return true
		}
		return false
	}
	if _, next := nativeHead(text); next {
		return false
	}
	switch {
	case strings.HasPrefix(trimmed, "what():"):
		d.Message = d.Code + ": " + strings.TrimSpace(trimmed[len("what():"):])
		return true
	case strings.HasPrefix(trimmed, "#"):
		if f, ok := sanitizerFrame(trimmed); ok {
			d.Frames = append(d.Frames, f)
		}
		return true
	case d.Tool == "sanitizer" && d.Column == 0 && d.lines < 80:
		return text == "" && d.lines < 40 || strings.HasPrefix(text, " ") || strings.HasPrefix(text, "==") || strings.HasPrefix(text, "0x") || strings.HasPrefix(text, "READ of") || strings.HasPrefix(text, "WRITE of") || strings.HasPrefix(text, "freed by") || strings.HasPrefix(text, "previously allocated") || strings.HasPrefix(text, "SUMMARY: ") || strings.HasPrefix(text, "allocated by") || strings.HasPrefix(text, "Shadow ") || strings.HasPrefix(text, "=>")
	}
	return false
}

// sanitizerFrame reads "#0 0x4c5f1b in open /p/shelf.c:12:9".
func sanitizerFrame(text string) (symptom.Frame, bool) {
	_, rest, ok := strings.Cut(text, " in ")
	if !ok {
		return symptom.Frame{}, false
	}
	i := strings.LastIndexByte(rest, ' ')
	if i < 0 {
		return symptom.Frame{}, false
	}
	p, ok := placeColon(rest[i+1:])
	return frame(p, rest[:i]), ok
}

func nativeEnds(d *diagnostic, out *sink) bool {
	for _, f := range d.Frames {
		if f.Own {
			d.File, d.Line = f.File, f.Line
			break
		}
	}
	d.Refs = append(d.Refs, expectationIn(d.Detail)...)
	return true
}
