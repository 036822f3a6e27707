package read

import (
	"strings"

	"unicausa/internal/core/symptom"
)

// ghc reads the Glasgow Haskell Compiler; the message stands below its place:
//
//	src/Shelf.hs:12:9: error: [GHC-88464]
//	    Variable not in scope: openLid :: Jar -> IO ()
//	   |
//	12 |   openLid jar
//	   |   ^^^^^^^
//	src/Shelf.hs:3:1: warning: [-Wdeprecations]
//	    In the use of ‘shut’ (imported from Jar): Deprecated: "use close"
//
// Format: GHC.Types.Error (mkLocMessage).
var ghcReader = dialectReader("ghc", []string{".hs:", ".lhs:", ".hsc:"}, dialect{head: ghcHead, tail: ghcTail, ends: ghcEnds})

func ghcHead(text string) (symptom.Symptom, bool) {
	p, ok := placeColon(text)
	if !ok || !extension(p.file, ".hs", ".lhs", ".hsc") {
		return symptom.Symptom{}, false
	}
	if strings.HasPrefix(p.rest, "-") { // columns 9-15
		p.rest = strings.TrimLeft(p.rest[1:], "0123456789")
	}
	level, rest, ok := strings.Cut(strings.TrimPrefix(p.rest, ": "), ":")
	if !ok || level != "error" && level != "warning" {
		return symptom.Symptom{}, false
	}
	s := compileSymptom("ghc", p, level, "")
	rest = strings.TrimSpace(rest)
	for strings.HasPrefix(rest, "[") {
		var code string
		if code, rest, _ = strings.Cut(rest[1:], "]"); s.Code == "" || strings.HasPrefix(code, "-W") {
			s.Code = code
		}
		rest = strings.TrimSpace(rest)
	}
	s.Message = rest
	return s, true
}

const ghcExcerpt = 1 // the source line has begun

func ghcTail(d *diagnostic, text string) bool {
	if !strings.HasPrefix(text, " ") {
		_, n := leadingNumber(text)
		return n > 0 && strings.HasPrefix(strings.TrimLeft(text[n:], " "), "|")
	}
	said := strings.TrimSpace(text)
	if excerpt := strings.HasPrefix(said, "|"); excerpt || d.stage == ghcExcerpt {
		d.stage = ghcExcerpt
		return excerpt // nothing comes behind it
	}
	if said != "" {
		said = strings.TrimPrefix(said, "• ")
		if d.Message == "" {
			d.Message = said
		}
		d.add(said)
	}
	return true
}

func ghcEnds(d *diagnostic, out *sink) bool {
	m := plainer.Replace(d.Message)
	names := quotes(m)
	first := ""
	if len(names) > 0 {
		first = names[0]
	}
	switch {
	case strings.Contains(d.Code, "-Wdeprecations"), strings.Contains(d.Code, "-Wwarnings-deprecations"), strings.Contains(d.Detail, "Deprecated:"):
		d.Kind = symptom.Deprecation
		d.Refs = refs{ref(symptom.Old, first)}
	case strings.HasPrefix(m, "Could not find module"), strings.HasPrefix(m, "Could not load module"):
		d.Kind, d.Phase = symptom.Resolve, symptom.PhaseResolve
		d.Refs = refs{ref(symptom.Module, first)}
	case strings.Contains(m, "not in scope"):
		name := first
		if name == "" {
			name = firstWord(strings.TrimSpace(m[strings.LastIndex(m, "scope")+len("scope"):])[min(2, len(strings.TrimSpace(m[strings.LastIndex(m, "scope")+len("scope"):]))):])
		}
		d.Refs = qualifiedRef(symptom.Missing, name)
	case strings.HasPrefix(m, "Module ") && strings.Contains(m, "does not export"):
		if len(names) > 1 {
			d.Refs = refs{ref(symptom.Missing, before(names[1], "(")), ref(symptom.Owner, first)}
		}
	case strings.HasPrefix(m, "parse error"):
		d.Phase = symptom.PhaseParse
	case strings.HasPrefix(m, "Couldn't match"):
		if len(names) > 1 {
			d.Refs = refs{ref(symptom.Expected, names[0]), ref(symptom.Actual, names[1])}
		}
	}
	return true
}

// qualifiedRef splits a qualified name into the name and its owner.
func qualifiedRef(role symptom.Role, name string) refs {
	if i := strings.LastIndexByte(name, '.'); i > 0 && i+1 < len(name) {
		return refs{ref(role, name[i+1:]), ref(symptom.Owner, name[:i])}
	}
	return refs{ref(role, name)}
}
