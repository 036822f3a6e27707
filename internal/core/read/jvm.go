package read

import (
	"strings"

	"unicausa/internal/core/symptom"
)

// jvm reads stack traces of the Java virtual machine:
//
//	Exception in thread "main" java.lang.IllegalStateException: the lid is stuck
//		at example.Shelf.open(Shelf.java:12)
//		Suppressed: …
//		... 12 more
//	Caused by: java.lang.NoSuchMethodError: 'void example.Jar.openLid()'
//
// The last cause says most. Format: Throwable.printStackTrace.
type jvm struct {
	open *symptom.Symptom
	from int
	end  int
	deep bool // in a cause: its frames come first
}

var jvmReader = stream{name: "jvm", marks: []string{" VM warning: ", "Exception", "Error: ", "Error\n", "Throwable", "Failure: "}, open: func() lineReader { return &jvm{} }}

func (j *jvm) line(l Line, out *sink) verdict {
	text := strings.TrimSpace(l.Text)
	if j.open != nil {
		if jvmTrace(j.open, text, &j.deep) {
			j.end = l.Number
			return more
		}
		j.close(out)
	}
	if _, message, ok := strings.Cut(l.Text, " VM warning: "); ok && !strings.HasPrefix(l.Text, " ") {
		s := symptom.Symptom{Kind: symptom.Warning, Level: "warning", Phase: symptom.PhaseStart, Tool: "jvm", Message: message}
		asDeprecation(&s)
		out.add(s, l.Number, l.Number)
		return took
	}
	rest, thread := strings.CutPrefix(l.Text, "Exception in thread ")
	if thread {
		_, rest, _ = strings.Cut(strings.TrimPrefix(rest, `"`), `" `)
	} else if strings.HasPrefix(l.Text, " ") || strings.HasPrefix(l.Text, "\t") {
		return pass
	}
	s, ok := jvmException(rest)
	if !ok {
		return pass
	}
	j.open, j.from, j.end, j.deep = &s, l.Number, l.Number, false
	return more
}

// jvmException reads "example.JarException: the lid is stuck": a class in a
// package, whose name says that it is an exception.
func jvmException(text string) (symptom.Symptom, bool) {
	class, message, ok := strings.Cut(text, ": ")
	if !dotted(strings.ReplaceAll(class, "$", "_")) || !strings.Contains(class, ".") || strings.Contains(class, "..") {
		return symptom.Symptom{}, false
	}
	name := lastSegment(class)
	if !strings.HasSuffix(name, "Exception") && !strings.HasSuffix(name, "Error") && !strings.HasSuffix(name, "Failure") && !strings.HasSuffix(name, "Throwable") {
		return symptom.Symptom{}, false
	}
	if !ok {
		message = ""
	}
	return symptom.Symptom{Kind: symptom.Crash, Level: "error", Phase: symptom.PhaseRun, Tool: "jvm", Code: class, Message: text, Refs: jvmRefs(class, message)}, true
}

// jvmTrace takes a line of a stack trace into a symptom.
func jvmTrace(s *symptom.Symptom, text string, deep *bool) bool {
	switch {
	case strings.HasPrefix(text, "at "):
		f, ok := parseFrame(text)
		if ok && len(s.Frames) < 200 {
			s.Frames = append(s.Frames, f)
		}
		return ok || strings.Contains(text, "(Native Method)") || strings.Contains(text, "(Unknown Source)") || strings.HasSuffix(text, ")")
	case strings.HasPrefix(text, "Caused by: "):
		s.Detail = strings.TrimPrefix(s.Detail+"\n"+text, "\n")
		if inner, ok := jvmException(text[len("Caused by: "):]); ok && len(inner.Refs) > 0 {
			s.Refs = inner.Refs
		}
		s.Frames = nil // the frames of the last cause are the innermost
		*deep = true
		return true
	case strings.HasPrefix(text, "... ") && (strings.HasSuffix(text, " more") || strings.Contains(text, "common frames omitted")), strings.HasPrefix(text, "Suppressed: "):
		return true
	}
	return false
}

// jvmRefs are the names in what an exception of the JVM says.
func jvmRefs(class, message string) refs {
	if list := jvmLinkage(lastSegment(class), message); list != nil {
		return list
	}
	return runtimeRefs(message)
}

// jvmLinkage are the names in the linkage errors of the virtual machine.
func jvmLinkage(class, message string) refs {
	switch class {
	case "NoSuchMethodError", "NoSuchFieldError", "AbstractMethodError":
		name := strings.Trim(message, "'")
		name = before(name, "(")
		name = name[strings.LastIndexByte(name, ' ')+1:]
		if i := strings.LastIndexByte(name, '.'); i > 0 {
			return refs{ref(symptom.Missing, name[i+1:]), ref(symptom.Owner, name[:i])}
		}
		return refs{ref(symptom.Missing, name)}
	case "NoClassDefFoundError", "ClassNotFoundException":
		return refs{ref(symptom.Missing, strings.ReplaceAll(firstWord(message), "/", "."))}
	}
	return nil
}

func (j *jvm) close(out *sink) {
	s := j.open
	j.open = nil
	if s == nil {
		return
	}
	if len(s.Frames) == 0 && j.end == j.from && !strings.HasPrefix(s.Message, "java.") {
		s.Kind = symptom.Error
	}
	for _, f := range s.Frames {
		if f.Own {
			s.File, s.Line = f.File, f.Line
			break
		}
	}
	out.add(*s, j.from, j.end)
}
