package read

import (
	"strings"

	"unicausa/internal/core/symptom"
)

// msbuild reads the canonical form of MSBuild, the C# compiler and NuGet:
//
//	Shelf.cs(12,9): error CS1061: 'Jar' does not contain a definition for 'OpenLid' … [/p/Shelf.csproj]
//	/p/Shelf.csproj : error NU1605: Detected package downgrade: …
//	CSC : warning CS2002: …
//	Build FAILED.              the list is repeated behind it
//	    2 Error(s)
//
// Format: "MSBuild and Visual Studio format for diagnostic messages", Microsoft Learn.
type msbuild struct {
	closing          bool // behind "Build FAILED." everything was said before
	errors, warnings int
}

var msbuildReader = stream{name: "msbuild", marks: []string{": error ", ": warning ", "^Build FAILED", "^Build succeeded", " Error(s)", " Warning(s)", "^Build started"}, open: func() lineReader { return &msbuild{} }}

func (m *msbuild) line(l Line, out *sink) verdict {
	text := strings.TrimSpace(l.Text)
	switch {
	case strings.HasPrefix(text, "Build FAILED"), strings.HasPrefix(text, "Build succeeded"):
		m.closing = true
		return noise
	case strings.HasPrefix(text, "Build started"):
		m.closing = false
		return pass
	}
	for word, n := range map[string]*int{"Error(s)": &m.errors, "Warning(s)": &m.warnings} {
		if count, ok := counted(text, strings.ToLower(word)); ok && strings.HasSuffix(text, word) {
			out.state(l.Number, strings.ToLower(strings.TrimSuffix(word, "(s)"))+"s", count, *n)
			if *n = 0; word == "Error(s)" {
				m.closing = false
			}
			return noise
		}
	}
	s, ok := msbuildHead(text)
	if !ok {
		return pass
	}
	if m.closing {
		return noise
	}
	if s.Level == "error" {
		m.errors++
	} else {
		m.warnings++
	}
	if s.Phase == symptom.PhaseResolve {
		out.block(s.Unit)
	}
	out.add(s, l.Number, l.Number)
	return took
}

func (m *msbuild) close(out *sink) {}

func msbuildHead(text string) (symptom.Symptom, bool) {
	for _, level := range []string{"error", "warning"} {
		head, rest, ok := strings.Cut(text, ": "+level+" ")
		if !ok {
			continue
		}
		code, message, ok := strings.Cut(rest, ": ")
		if !ok || !codeWord(code) {
			return symptom.Symptom{}, false
		}
		s := symptom.Symptom{Kind: symptom.Error, Level: level, Phase: symptom.PhaseCompile, Tool: "msbuild", Code: code}
		if level == "warning" {
			s.Kind = symptom.Warning
		}
		origin := strings.TrimSpace(head)
		if i := strings.IndexByte(origin, '>'); i > 0 { // the node of a parallel build
			if _, n := leadingNumber(origin); n == i {
				origin = origin[i+1:]
			}
		}
		if open := strings.LastIndexByte(origin, '('); open > 0 && strings.HasSuffix(origin, ")") {
			line, n := leadingNumber(origin[open+1:])
			s.File, s.Line = origin[:open], line
			s.Column, _ = leadingNumber(strings.TrimPrefix(origin[open+1+n:], ","))
		} else if fileLike(origin) {
			s.File = origin
		}
		if i := strings.LastIndex(message, " ["); i > 0 && strings.HasSuffix(message, "]") {
			s.Unit = lastSegment(strings.ReplaceAll(before(message[i+2:len(message)-1], "::"), `\`, "/"))
			if j := strings.LastIndexAny(message[i+2:len(message)-1], `/\`); j >= 0 {
				s.Unit = before(message[i+2+j+1:len(message)-1], "::")
			}
			message = message[:i]
		}
		s.Message = message
		msbuildKind(&s)
		return s, true
	}
	return symptom.Symptom{}, false
}

// codeWord reports whether s is a code such as CS1061 or NETSDK1045.
func codeWord(s string) bool {
	letters := 0
	for letters < len(s) && isLetter(s[letters]) {
		letters++
	}
	if letters < 2 || letters == len(s) {
		return false
	}
	for _, c := range []byte(s[letters:]) {
		if !isDigit(c) {
			return false
		}
	}
	return true
}

func msbuildKind(s *symptom.Symptom) {
	m := s.Message
	names := quotes(m)
	name := func(n int) string {
		if n < len(names) {
			return names[n]
		}
		return ""
	}
	switch s.Code {
	case "CS0618", "CS0612", "CS0672", "CS0619", "SYSLIB0011":
		if s.Kind = symptom.Deprecation; s.Code == "CS0619" {
			s.Kind = symptom.Error
		}
		full := before(name(0), "(")
		s.Refs = refs{ref(symptom.Old, lastSegment(full))}
		if i := strings.LastIndexByte(full, '.'); i > 0 {
			s.Refs = append(s.Refs, ref(symptom.Owner, full[:i]))
		}
	case "CS1061", "CS0117":
		s.Refs = refs{ref(symptom.Missing, name(1)), ref(symptom.Owner, name(0))}
	case "CS0103", "CS0246":
		s.Refs = refs{ref(symptom.Missing, name(0))}
	case "CS0234":
		s.Refs = refs{ref(symptom.Missing, name(0)), ref(symptom.Owner, name(1))}
	case "CS1501", "CS7036", "CS1503", "CS1729":
		for _, n := range names {
			if strings.Contains(n, "(") {
				s.Refs = append(s.Refs, ref(symptom.Callee, lastSegment(before(n, "("))))
			}
		}
		if len(s.Refs) == 0 && s.Code != "CS1503" {
			s.Refs = refs{ref(symptom.Callee, name(0))}
		}
		if s.Code == "CS1503" {
			s.Refs = append(s.Refs, ref(symptom.Actual, name(0)), ref(symptom.Expected, name(1)))
		}
	case "CS0029", "CS0266":
		s.Refs = refs{ref(symptom.Actual, name(0)), ref(symptom.Expected, name(1))}
	case "CS0535", "CS0534":
		s.Refs = refs{ref(symptom.Owner, name(0)), ref(symptom.Missing, lastSegment(before(name(1), "(")))}
	case "CS1002", "CS1513", "CS1003", "CS1519", "CS1525", "CS1022":
		s.Phase = symptom.PhaseParse
	}
	switch {
	case strings.HasPrefix(s.Code, "NU"):
		s.Kind, s.Phase, s.Tool = symptom.Resolve, symptom.PhaseResolve, "nuget"
		if s.Level == "warning" {
			s.Kind = symptom.Warning
		}
		for _, word := range strings.FieldsFunc(m, func(r rune) bool { return r == ' ' || r == '\'' || r == ',' }) {
			if strings.Count(word, ".") > 0 && isLetter(word[0]) && nameLike(strings.TrimRight(word, ".:")) {
				s.Refs = append(s.Refs, ref(symptom.Module, strings.TrimRight(word, ".:")))
				break
			}
		}
	case strings.HasPrefix(s.Code, "MSB"), strings.HasPrefix(s.Code, "NETSDK"):
		s.Phase = symptom.PhaseConfigure
	case s.Level == "warning" && deprecates(m):
		s.Kind = symptom.Deprecation
	}
}
