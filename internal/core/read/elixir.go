package read

import (
	"strings"

	"unicausa/internal/core/symptom"
)

// elixir reads the Elixir and Erlang compilers, and exceptions of Elixir:
//
//	    error: undefined function open_lid/1 (expected Shelf to define such a function …)
//	    │
//	 12 │     open_lid(jar)
//	    │     ^^^^^^^^
//	    │
//	    └─ lib/shelf.ex:12:5: Shelf.open/1
//	warning: Jar.shut/1 is deprecated. Use close/1
//	  lib/shelf.ex:12: Shelf.open/1
//	** (UndefinedFunctionError) function Jar.open_lid/1 is undefined or private
//	    (shelf 0.1.0) lib/shelf.ex:12: Shelf.open/1
//	== Compilation error in file lib/shelf.ex ==     a verdict
//	src/shelf.erl:12:5: function open_lid/1 undefined
//	src/shelf.erl:3:1: Warning: shut/1 is deprecated
//
// Formats: Module.ParallelChecker, Kernel.ParallelCompiler, Exception; compile(3erl).
var elixirReader = dialectReader("elixir", []string{"^error: ", "^warning: ", "^** (", "^== Compilation error", ".erl:", ".hrl:"}, dialect{head: elixirHead, near: elixirNear, tail: elixirTail, ends: elixirEnds, rest: func(b *block, l Line, out *sink) verdict {
	if strings.HasPrefix(l.Text, "== Compilation error in file ") {
		b.inside = len(out.result.Symptoms)
		return noise
	}
	return pass
}})

// Stages of an elixir diagnostic.
const (
	elixirHeadline = iota
	elixirPlaced
	elixirTrace
)

func elixirHead(text string) (symptom.Symptom, bool) {
	if rest, ok := strings.CutPrefix(text, "** ("); ok {
		class, message, ok := strings.Cut(rest, ") ")
		if !ok || strings.Contains(class, " ") {
			return symptom.Symptom{}, false
		}
		s := symptom.Symptom{Kind: symptom.Crash, Level: "error", Phase: symptom.PhaseRun, Tool: "elixir", Code: class, Message: message}
		if p, ok := placeColon(message); ok && strings.HasPrefix(p.rest, ": ") {
			s.File, s.Line, s.Column, s.Message = p.file, p.line, p.column, p.rest[2:]
		}
		switch class {
		case "CompileError":
			s.Kind, s.Phase = symptom.Error, symptom.PhaseCompile
		case "SyntaxError", "TokenMissingError", "MismatchedDelimiterError":
			s.Kind, s.Phase = symptom.Error, symptom.PhaseParse
		case "Mix", "Mix.Error":
			s.Kind, s.Phase = symptom.Error, symptom.PhaseConfigure
		}
		s.Refs = elixirRefs(s.Message)
		return s, true
	}
	if p, ok := placeColon(text); ok && extension(p.file, ".erl", ".hrl") && strings.HasPrefix(p.rest, ": ") {
		level, message := "error", p.rest[2:]
		if rest, ok := strings.CutPrefix(message, "Warning: "); ok {
			level, message = "warning", rest
		}
		s := compileSymptom("erlc", p, level, message)
		asDeprecation(&s)
		if strings.HasPrefix(message, "syntax error") {
			s.Phase = symptom.PhaseParse
		}
		s.Refs = elixirRefs(message)
		return s, true
	}
	trimmed := strings.TrimLeft(text, " ")
	for _, level := range []string{"error", "warning"} {
		message, ok := strings.CutPrefix(trimmed, level+": ")
		if !ok || len(text) > len(trimmed) && len(text)-len(trimmed) < 4 {
			continue
		}
		s := compileSymptom("elixir", place{}, level, message)
		asDeprecation(&s)
		s.Refs = elixirRefs(message)
		return s, true
	}
	return symptom.Symptom{}, false
}

// elixirNear tells a warning of the compiler's from those of others by the
// excerpt or the place below.
func elixirNear(s *symptom.Symptom, l Line) bool {
	return s.Tool != "elixir" || s.Code != "" || strings.Contains(l.below(1), ".ex") || strings.Contains(l.below(1), "│") || strings.HasPrefix(l.below(1), "  ") || strings.HasPrefix(l.below(1), elixirPlaces) || strings.HasSuffix(s.Message, "Did you mean:")
}

// elixirPlaces heads the list of places where one warning was found.
const elixirPlaces = "Invalid call found at "

func elixirTail(d *diagnostic, text string) bool {
	trimmed := strings.TrimLeft(text, " ")
	if d.Tool == "erlc" {
		return strings.HasPrefix(trimmed, "%")
	}
	_, n := leadingNumber(trimmed)
	switch {
	case d.Kind == symptom.Crash || d.stage == elixirTrace:
		if f, ok := elixirFrame(trimmed); ok && strings.HasPrefix(text, "    ") {
			d.Frames, d.stage = append(d.Frames, f), elixirTrace
			return true
		}
		if d.stage == elixirTrace {
			return strings.HasPrefix(text, "    (")
		}
		d.add(text)
		return strings.HasPrefix(text, " ") && d.lines < 20 || text == "" && d.lines < 3
	case strings.HasPrefix(trimmed, "└─ "):
		p, ok := placeColon(trimmed[len("└─ "):])
		if ok && d.stage == elixirHeadline {
			d.stage, d.File, d.Line, d.Column = elixirPlaced, p.file, p.line, p.column
		}
		return ok
	case strings.HasPrefix(trimmed[n:], " │"), strings.HasPrefix(trimmed, "│"):
		return true
	case d.stage == elixirHeadline && (strings.HasPrefix(text, elixirPlaces) || text == "" && strings.HasSuffix(d.Message, "Did you mean:")):
		return true
	case d.stage == elixirHeadline && strings.HasPrefix(text, "  "):
		if p, ok := placeColon(trimmed); ok && (strings.HasPrefix(p.rest, ": ") || p.rest == "") {
			d.stage, d.File, d.Line, d.Column = elixirPlaced, p.file, p.line, p.column
			return true
		}
		d.add(text)
		return d.lines < 15
	case d.stage == elixirPlaced && strings.HasPrefix(text, "  "):
		_, ok := placeColon(trimmed)
		return ok
	}
	return false
}

// elixirFrame reads "(shelf 0.1.0) lib/shelf.ex:12: Shelf.open/1".
func elixirFrame(text string) (symptom.Frame, bool) {
	app := ""
	if strings.HasPrefix(text, "(") {
		app, text, _ = strings.Cut(text[1:], ") ")
	}
	p, ok := placeColon(text)
	if !ok || !strings.HasPrefix(p.rest, ": ") || !extension(p.file, ".ex", ".exs", ".erl", ".eex", ".heex") {
		return symptom.Frame{}, false
	}
	f := frame(p, p.rest[2:])
	name, _, _ := strings.Cut(app, " ")
	switch name {
	case "elixir", "stdlib", "kernel", "ex_unit", "mix", "iex", "logger":
		f.Own = false
	}
	if strings.HasPrefix(p.file, "deps/") {
		f.Own = false
	}
	return f, true
}

// elixirEnds drops a verdict over what was told, and what no place followed:
// then another tool's line was taken for one of this.
func elixirEnds(d *diagnostic, out *sink) bool {
	if d.Code == "CompileError" && strings.Contains(d.Message, "cannot compile") || strings.HasPrefix(d.Message, "cannot compile module ") {
		return false
	}
	for _, f := range d.Frames {
		if f.Own && d.File == "" {
			d.File, d.Line = f.File, f.Line
		}
	}
	if d.Tool == "elixir" && d.Kind != symptom.Crash && d.File == "" && d.Code == "" {
		d.Basis, d.Tool = symptom.ByGuess, ""
		d.end = d.from
	}
	return true
}

func elixirRefs(m string) refs {
	function := func(name string) refs {
		name = before(name, "/")
		if i := strings.LastIndexByte(name, '.'); i > 0 {
			return refs{ref(symptom.Missing, name[i+1:]), ref(symptom.Owner, name[:i])}
		}
		return refs{ref(symptom.Missing, name)}
	}
	if rest := behind(m, "(module "); strings.Contains(rest, " is not available") { // it is the module that is gone
		return function(firstWord(rest))
	}
	switch {
	case strings.HasPrefix(m, "undefined function "):
		return function(firstWord(m[len("undefined function "):]))
	case strings.HasPrefix(m, "function ") && strings.Contains(m, " is undefined"), strings.HasPrefix(m, "function ") && strings.HasSuffix(m, " undefined"):
		return function(strings.Fields(m)[1])
	case strings.Contains(m, " is undefined") && strings.Contains(firstWord(m), "/"):
		return function(firstWord(m))
	case strings.HasPrefix(m, "undefined variable"):
		return refs{ref(symptom.Missing, strings.Trim(lastWord(m), `"`))}
	case strings.HasPrefix(m, "module ") && (strings.Contains(m, " is not loaded") || strings.Contains(m, "could not be found")):
		return refs{ref(symptom.Module, strings.Fields(m)[1])}
	case strings.Contains(m, "__struct__/"):
		return refs{ref(symptom.Missing, strings.TrimSuffix(strings.Fields(m)[0], ".__struct__/1"))}
	case strings.Contains(m, " is deprecated"):
		list := function(firstWord(strings.TrimPrefix(strings.TrimPrefix(m, "function "), "module ")))
		list[0].Role = symptom.Old
		return list
	case strings.HasPrefix(m, "unknown key "):
		return refs{ref(symptom.Option, strings.Trim(firstWord(m[len("unknown key "):]), ":"))}
	}
	return runtimeRefs(m)
}
