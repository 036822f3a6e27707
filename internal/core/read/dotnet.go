package read

import (
	"strings"

	"unicausa/internal/core/symptom"
)

// dotnet reads unhandled exceptions of .NET, and the tests that dotnet test
// prints as failed:
//
//	Unhandled exception. System.InvalidOperationException: the lid is stuck
//	 ---> System.MissingMethodException: Method not found: 'Void Jar.OpenLid()'.
//	   --- End of inner exception stack trace ---
//	   at Shelf.Open() in /p/Shelf.cs:line 12
//	  Failed Shelves.ShelfTests.Opens [5 ms]
//	  Error Message:
//	   Assert.Equal() Failure
//	  Stack Trace:
//	     at Shelves.ShelfTests.Opens() in /p/ShelfTests.cs:line 9
//	Failed!  - Failed:     1, Passed:     3, Skipped:     0, Total:     4
//
// Formats: System.Exception.ToString; the console logger of VSTest.
type dotnet struct {
	open *symptom.Symptom
	test *symptom.Symptom
	body []string
	from int
	end  int
}

var dotnetReader = stream{name: "dotnet", marks: []string{"^Unhandled exception", "^Failed ", "^Passed ", "^Skipped ", "^Failed!", "^Passed!", "^[xUnit.net"}, open: func() lineReader { return &dotnet{} }}

func (d *dotnet) line(l Line, out *sink) verdict {
	text := strings.TrimSpace(l.Text)
	switch {
	case d.open != nil:
		if strings.HasPrefix(text, "at ") || strings.HasPrefix(text, "---") {
			if f, ok := parseFrame(l.Text); ok {
				d.open.Frames = append(d.open.Frames, f)
			}
			if inner, ok := strings.CutPrefix(text, "---> "); ok {
				d.open.Detail, d.open.Refs = inner, dotnetRefs(inner)
			}
			d.end = l.Number
			return more
		}
		d.close(out)
	case d.test != nil:
		if !dotnetNext(l.Text) && l.Number-d.end < 40 {
			if text != "" {
				d.body, d.end = append(d.body, l.Text), l.Number
			}
			return more
		}
		d.close(out)
	}
	if message, ok := strings.CutPrefix(l.Text, "Unhandled exception. "); ok {
		class, _, _ := strings.Cut(message, ":")
		d.open = &symptom.Symptom{Kind: symptom.Crash, Level: "error", Phase: symptom.PhaseRun, Tool: "dotnet", Code: class, Message: message, Refs: dotnetRefs(message)}
		d.from, d.end = l.Number, l.Number
		return more
	}
	for word, outcome := range map[string]symptom.Outcome{"  Failed ": symptom.Failed, "  Passed ": symptom.Passed, "  Skipped ": symptom.Skipped} {
		name, ok := strings.CutPrefix(l.Text, word)
		open := strings.LastIndex(name, " [")
		if !ok || strings.HasPrefix(name, " ") || outcome != symptom.Skipped && (open < 0 || !strings.HasSuffix(name, "]")) {
			continue
		}
		if open > 0 {
			name = name[:open]
		}
		suite, test := splitClass(name)
		out.testOutcome(symptom.Test{Suite: suite, Name: test, Outcome: outcome})
		if outcome != symptom.Failed {
			return noise
		}
		d.test = &symptom.Symptom{Kind: symptom.TestFailure, Phase: symptom.PhaseTest, Tool: "dotnet test", Unit: suite, Test: test}
		d.from, d.end, d.body = l.Number, l.Number, nil
		return more
	}
	if strings.HasPrefix(text, "Failed!  - ") || strings.HasPrefix(text, "Passed!  - ") || strings.HasPrefix(text, "[xUnit.net") {
		return noise
	}
	return pass
}

// dotnetNext reports whether a line stands behind a failed test.
func dotnetNext(text string) bool {
	for _, mark := range []string{"  Failed ", "  Passed ", "  Skipped ", "Failed!", "Passed!", "Results File:", "Total tests:", "Test Run ", "[xUnit.net", "Unhandled exception", "Standard Output Messages"} {
		if strings.HasPrefix(text, mark) {
			return true
		}
	}
	return false
}

// splitClass parts "Shelves.ShelfTests.Opens(lid: 1)" into class and method.
func splitClass(name string) (class, method string) {
	head := before(name, "(")
	if i := strings.LastIndexByte(head, '.'); i > 0 {
		return name[:i], name[i+1:]
	}
	return "", name
}

func dotnetRefs(message string) refs {
	if strings.Contains(message, "Method not found: '") || strings.Contains(message, "Field not found: '") {
		name := before(between(message, "'", "'"), "(")
		name = name[strings.LastIndexByte(name, ' ')+1:]
		if i := strings.LastIndexByte(name, '.'); i > 0 {
			return refs{ref(symptom.Missing, name[i+1:]), ref(symptom.Owner, name[:i])}
		}
	}
	if strings.Contains(message, "Could not load file or assembly '") {
		return refs{ref(symptom.Module, before(between(message, "'", "'"), ","))}
	}
	if strings.Contains(message, "Could not load type '") {
		return refs{ref(symptom.Missing, between(message, "'", "'"))}
	}
	return nil
}

func (d *dotnet) close(out *sink) {
	if s := d.test; s != nil {
		body := strings.Join(d.body, "\n")
		s.Detail = body
		for _, line := range d.body {
			if t := strings.TrimSpace(line); t != "Error Message:" && t != "" {
				s.Message = t
				break
			}
		}
		failure(s, body)
		out.add(*s, d.from, d.end)
		d.test = nil
	}
	if s := d.open; s != nil {
		for _, f := range s.Frames {
			if f.Own {
				s.File, s.Line = f.File, f.Line
				break
			}
		}
		out.add(*s, d.from, d.end)
		d.open = nil
	}
}
