package read

import (
	"strings"

	"unicausa/internal/core/symptom"
)

// makeShell reads make, ninja and the shells:
//
//	make: *** No rule to make target 'jar.h', needed by 'shelf.o'.  Stop.
//	Makefile:3: *** missing separator.  Stop.
//	make: *** [Makefile:3: all] Error 2     a verdict: only where nothing else told
//	ninja: error: 'jar.h', needed by 'shelf.o', missing and no known rule to make it
//	FAILED: shelf.o                         a verdict, too
//	sh: 1: jar: not found
//	build.sh: line 3: jar: command not found
//
// Formats: GNU make's NLS catalogue, dash and bash error messages.
type makeShell struct {
	told    int
	folders []string // that make has entered: files below are relative to the last
}

var makeShellReader = stream{name: "make", marks: []string{"*** ", ": Entering directory ", ": Leaving directory ", "^ninja: ", "^FAILED: ", ": not found", ": command not found"}, open: func() lineReader { return &makeShell{} }}

func (m *makeShell) line(l Line, out *sink) verdict {
	text := l.Text
	if make, folder, ok := strings.Cut(text, ": Entering directory "); ok && strings.Contains(make, "make") {
		m.folders = append(m.folders, strings.Trim(folder, "'`"))
		out.folder = m.folders[len(m.folders)-1]
		return noise
	}
	if strings.Contains(text, ": Leaving directory ") && strings.Contains(text, "make") && len(m.folders) > 0 {
		m.folders = m.folders[:len(m.folders)-1]
		out.folder = ""
		if len(m.folders) > 0 {
			out.folder = m.folders[len(m.folders)-1]
		}
		return noise
	}
	s := symptom.Symptom{Kind: symptom.Error, Level: "error", Phase: symptom.PhaseConfigure, Tool: "make"}
	_, stop, ok := strings.Cut(text, "*** ")
	switch {
	case ok && (strings.HasPrefix(text, "make") || strings.HasPrefix(text, "gmake") || strings.Contains(before(text, "***"), "akefile") || strings.HasSuffix(text, "Stop.")):
		if strings.HasPrefix(stop, "[") || strings.HasPrefix(stop, "Waiting for ") || strings.HasPrefix(stop, "Deleting ") {
			if strings.HasPrefix(stop, "[") && out.added == m.told {
				s.Message, s.Phase = stop, symptom.PhaseRun
				if p, ok := positionAt(stop[1:]); ok {
					s.File, s.Line = p.file, p.line
				}
				m.told = out.added + 1
				out.add(s, l.Number, l.Number)
				return took
			}
			return noise
		}
		s.Message = strings.TrimSpace(strings.TrimSuffix(stop, "Stop."))
		if p, ok := placeColon(text); ok {
			s.File, s.Line = p.file, p.line
		}
		if strings.HasPrefix(s.Message, "No rule to make target") {
			s.Refs = refs{ref(symptom.Missing, between(strings.ReplaceAll(s.Message, "`", "'"), "'", "'"))}
		}
	case strings.HasPrefix(text, "ninja: error: "), strings.HasPrefix(text, "ninja: fatal: "):
		s.Tool, s.Message = "ninja", text[len("ninja: error: "):]
	case strings.HasPrefix(text, "ninja: build stopped"), strings.HasPrefix(text, "FAILED: ") && !strings.Contains(text, " - "):
		return noise
	case shellMissing(text) != "":
		s.Tool, s.Phase = "sh", symptom.PhaseConfigure // nothing of it has run
		s.Message = strings.TrimSpace(text)
		s.Refs = refs{ref(symptom.Missing, shellMissing(text))}
	default:
		return pass
	}
	out.add(s, l.Number, l.Number)
	m.told = out.added
	return took
}

func (m *makeShell) close(out *sink) {}

// shellMissing is the command that a shell says it does not find, or "".
func shellMissing(text string) string {
	for _, form := range []string{": command not found", ": not found"} {
		head, ok := strings.CutSuffix(text, form)
		if !ok {
			continue
		}
		parts := strings.Split(head, ": ")
		if len(parts) < 2 || strings.Contains(parts[len(parts)-1], " ") {
			return ""
		}
		_, n := leadingNumber(strings.TrimPrefix(parts[len(parts)-2], "line "))
		if n > 0 || form == ": command not found" {
			return parts[len(parts)-1]
		}
	}
	return ""
}
