package read

import (
	"strings"

	"unicausa/internal/core/symptom"
)

// linker reads ld, lld and the linkers of other systems:
//
//	/usr/bin/ld: shelf.o: in function `main':
//	shelf.c:(.text+0x9): undefined reference to `open_lid'
//	/usr/bin/ld: cannot find -ljar: No such file or directory
//	ld.lld: error: undefined symbol: open_lid
//	>>> referenced by shelf.c
//	collect2: error: ld returned 1 exit status        a verdict over these
//
// Formats: bfd's ld (ldmisc.c), lld/ELF.
var linkerReader = dialectReader("ld", []string{"undefined reference to", "multiple definition of", "ld: ", "lld: ", "lld-link: ", "^collect2: ", "linker command failed"}, dialect{
	head: linkerHead, tail: func(d *diagnostic, text string) bool { return strings.HasPrefix(text, ">>> ") }, rest: linkerRest,
})

func linkerHead(text string) (symptom.Symptom, bool) {
	s := symptom.Symptom{Kind: symptom.Error, Level: "error", Phase: symptom.PhaseLink, Tool: "ld"}
	rest := text
	if i := strings.Index(text, "ld: "); i >= 0 && !strings.Contains(text[:i], " ") {
		rest = text[i+4:]
	}
	for _, form := range []string{"undefined reference to ", "multiple definition of "} {
		if i := strings.Index(rest, form); i >= 0 {
			s.Message = rest[i:]
			name := strings.Trim(firstWord(strings.ReplaceAll(rest[i+len(form):], "operator ", "operator")), "`';")
			if j := strings.IndexByte(rest[i+len(form):], '`'); j == 0 {
				name = before(rest[i+len(form)+1:], "'")
			}
			if strings.HasPrefix(form, "multiple") { // it is there, and more than once
				s.Message, s.Detail = before(s.Message, ";"), strings.TrimSpace(behind(s.Message, ";"))
			} else {
				s.Refs = refs{ref(symptom.Missing, before(name, "("))}
			}
			if p, ok := placeColon(rest); ok {
				s.File, s.Line = p.file, p.line
			} else if file, _, ok := strings.Cut(rest, ":("); ok && fileLike(file) {
				s.File = file
			}
			return s, true
		}
	}
	if message, ok := strings.CutPrefix(rest, "cannot find "); ok && rest != text {
		s.Message = "cannot find " + message
		s.Refs = refs{ref(symptom.Module, strings.TrimPrefix(strings.Trim(firstWord(message), ":"), "-l"))}
		return s, true
	}
	for _, form := range []string{"lld: error: ", "ld: error: ", "lld-link: error: "} {
		if i := strings.Index(text, form); i >= 0 {
			s.Message = text[i+len(form):]
			if name, ok := strings.CutPrefix(s.Message, "undefined symbol: "); ok {
				s.Refs = refs{ref(symptom.Missing, before(name, "("))}
			}
			return s, true
		}
	}
	return s, false
}

func linkerRest(b *block, l Line, out *sink) verdict {
	switch {
	case strings.HasPrefix(l.Text, "collect2: error: ld returned "), strings.Contains(l.Text, "linker command failed with exit code"):
		if b.errors > 0 {
			return noise
		}
	case strings.Contains(l.Text, "ld: ") && (strings.Contains(l.Text, ": in function ") || strings.Contains(l.Text, "more undefined references")):
		return noise
	}
	return pass
}
