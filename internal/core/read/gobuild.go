package read

import (
	"path"
	"strings"

	"unicausa/internal/core/symptom"
)

// goBuild reads what go build, go vet and the building half of go test print:
//
//	# example.org/jar/shelf              a package's header
//	# [example.org/jar/shelf]            the same, before findings of vet
//	shelf/shelf.go:12:9: undefined: jar.OpenLid
//		have (string)                    continuation, indented by a tab
//	shelf/shelf.go:30:2: too many errors
//	vet: shelf/shelf.go:12:9: …          a type error that stopped vet
//	go: example.org/jar@v5.0.0: …        the module resolver
//
// Formats: cmd/go/internal/work (showOutput), cmd/vet, go/types.
type goBuild struct {
	unit    string // the package of the last header
	vetting bool   // the header announced findings of vet
	dir     string // directory of the first file under the header
	open    *symptom.Symptom
	from    int
	end     int
}

var goBuildReader = stream{name: "go build", marks: []string{".go:", "^# ", "^go: ", "^vet: "}, open: func() lineReader { return &goBuild{} }}

func (g *goBuild) line(l Line, out *sink) verdict {
	if g.open != nil {
		if strings.HasPrefix(l.Text, "\t") {
			addDetail(g.open, strings.TrimSpace(l.Text))
			g.end = l.Number
			return more
		}
		g.close(out)
	}
	switch {
	case strings.HasPrefix(l.Text, "# "):
		return g.header(l.Text[2:])
	case strings.HasPrefix(l.Text, "go: "):
		return g.resolver(l, out)
	}
	text, stopped := strings.CutPrefix(l.Text, "vet: ")
	p, ok := goPlace(text)
	if !ok {
		return pass
	}
	message := strings.TrimPrefix(p.rest, ": ")
	if message == "too many errors" {
		out.cutOff(g.unit)
		return noise
	}
	s := goDiagnostic(p, message)
	s.Unit = g.unitOf(p.file)
	if s.Phase == symptom.PhaseCompile && !stopped && (g.vetting || s.Unit == "") && s.Kind == symptom.Error {
		s.Kind, s.Level, s.Tool = symptom.Warning, "warning", "go vet"
	}
	if s.Kind != symptom.Warning {
		out.block(s.Unit)
	}
	g.open, g.from, g.end = &s, l.Number, l.Number
	return more
}

// header takes a "# " line: "pkg", "pkg [pkg.test]" or "[pkg]".
func (g *goBuild) header(text string) verdict {
	if strings.HasPrefix(text, "[") {
		if strings.Trim(text, "[]") == g.unit {
			g.vetting = true
			return noise
		}
		return pass
	}
	unit, _, _ := strings.Cut(text, " [")
	if strings.ContainsAny(unit, " \t") || unit == "" {
		return pass
	}
	g.unit, g.vetting, g.dir = unit, false, ""
	return noise
}

// unitOf is the package of the header where the file can belong to it: vet
// lists findings without a header behind those with one.
func (g *goBuild) unitOf(file string) string {
	dir := path.Dir(strings.TrimPrefix(file, "./"))
	switch {
	case g.unit == "":
		return ""
	case g.dir == "":
		if dir != "." && !path.IsAbs(dir) && !strings.HasPrefix(dir, "..") && g.unit != dir && !strings.HasSuffix(g.unit, "/"+path.Base(dir)) {
			return ""
		}
		g.dir = dir
	case g.dir != dir:
		return ""
	}
	return g.unit
}

// resolver reads a line of the go command itself.
func (g *goBuild) resolver(l Line, out *sink) verdict {
	message := strings.TrimPrefix(l.Text, "go: ")
	for _, quiet := range []string{"downloading ", "finding ", "added ", "upgraded ", "downgraded ", "removed ", "found ", "creating ", "copying ", "to add ", "extracting ", "warning: ignoring "} {
		if strings.HasPrefix(message, quiet) {
			return noise
		}
	}
	s := symptom.Symptom{Kind: symptom.Resolve, Level: "error", Phase: symptom.PhaseResolve, Tool: "go", Message: message}
	if word := strings.TrimRight(firstWord(message), ":"); strings.Contains(word, "@") {
		s.Refs = append(s.Refs, symptom.Ref{Role: symptom.Module, Name: word[:strings.IndexByte(word, '@')]})
	}
	g.open, g.from, g.end = &s, l.Number, l.Number
	return more
}

func (g *goBuild) close(out *sink) {
	if g.open != nil {
		out.add(*g.open, g.from, g.end)
		g.open = nil
	}
}

// goPlace reads "file.go:line[:column]: " at the start of a line.
func goPlace(text string) (place, bool) {
	if !strings.Contains(text, ".go:") || strings.HasPrefix(text, " ") || strings.HasPrefix(text, "\t") {
		return place{}, false
	}
	p, ok := placeColon(text)
	return p, ok && strings.HasSuffix(p.file, ".go") && strings.HasPrefix(p.rest, ": ")
}

func goDiagnostic(p place, message string) symptom.Symptom {
	code := ""
	if open := strings.LastIndex(message, " ("); open > 0 && strings.HasSuffix(message, ")") { // a linter's rule
		if inner := message[open+2 : len(message)-1]; inner != "" && numberedCode(inner) == len(inner) || kebab(inner) {
			message, code = message[:open], inner
		}
	}
	s := symptom.Symptom{
		Kind: symptom.Error, Level: "error", Phase: symptom.PhaseCompile, Tool: "go",
		Code: code, Message: message, File: p.file, Line: p.line, Column: p.column,
	}
	switch {
	case strings.HasPrefix(message, "syntax error: "), strings.HasPrefix(message, "expected "), strings.HasSuffix(message, " literal not terminated"):
		s.Phase = symptom.PhaseParse
	case goUnresolved(message) != "":
		s.Kind, s.Phase = symptom.Resolve, symptom.PhaseResolve
		s.Refs = []symptom.Ref{{Role: symptom.Module, Name: goUnresolved(message)}}
		return s
	}
	s.Refs = goRefs(message)
	return s
}

// goUnresolved is the package that an import error names, or "".
func goUnresolved(message string) string {
	for _, form := range []struct{ before, after string }{
		{"no required module provides package ", ";"},
		{"cannot find package \"", "\""},
		{"cannot find module providing package ", ":"},
		{"could not import ", " ("},
		{"package ", " is not in std"},
		{"missing go.sum entry for module providing package ", " "},
		{"use of internal package ", " not allowed"},
	} {
		if rest, ok := strings.CutPrefix(message, form.before); ok {
			name, _, found := strings.Cut(rest, form.after)
			if found || form.after == ":" || form.after == " " {
				return strings.TrimSpace(name)
			}
		}
	}
	if i := strings.Index(message, ", but does not contain package "); i >= 0 {
		return message[i+len(", but does not contain package "):]
	}
	return ""
}

func firstWord(s string) string {
	word, _, _ := strings.Cut(s, " ")
	return word
}
