package read

import (
	"strings"

	"unicausa/internal/core/symptom"
)

// failure takes what a failed test's own words tell: the frames of its stack,
// the place of the innermost one of the project, the values that differ, and
// the names that a runtime error is about.
func failure(s *symptom.Symptom, body string) {
	s.Frames = append(s.Frames, stack(body)...)
	family := packageFamily(s.Unit, 1)
	for i := range s.Frames {
		f := &s.Frames[i]
		if of := packageFamily(f.Function, 2); family != "" && of != "" {
			f.Own = of == family
		}
	}
	for _, f := range s.Frames {
		if f.Own && f.Line > 0 {
			s.File, s.Line = f.File, f.Line
			break
		}
	}
	if s.Line == 0 {
		placeIn(s, body)
	}
	if len(s.Refs) == 0 {
		s.Refs = runtimeRefs(s.Message)
	}
	if values := expectation(s.Message); values != nil {
		s.Refs = append(s.Refs, values...)
	} else {
		s.Refs = append(s.Refs, expectationIn(body)...)
	}
}

// placeIn takes the place of a failure out of a body without a frame of the
// project's own: a line that a place leads, or a frame of a less common form.
func placeIn(s *symptom.Symptom, body string) {
	lines := 0
	for line := range strings.SplitSeq(body, "\n") {
		if lines++; lines > 100 {
			return
		}
		text := strings.TrimLeft(line, " \t#>|*-")
		if f, ok := anyFrame(text); ok && f.Own && f.Line > 0 {
			s.File, s.Line = f.File, f.Line
			return
		}
		text = strings.TrimPrefix(strings.TrimPrefix(text, "[   LINE   ] --- "), "Location: ")
		if i := strings.Index(text, "file "); i >= 0 && i < 20 { // (in test file path, line 2)
			text = text[i:]
		}
		if p, ok := positionAt(text); ok && own(p.file) {
			s.File, s.Line, s.Column = strings.TrimPrefix(p.file, "file://"), p.line, p.column
			return
		}
		if i := strings.Index(text, ": "); i > 0 && i < 40 { // program: path:5: …
			if p, ok := positionAt(text[i+2:]); ok && own(p.file) && p.length < len(text)-i-2 {
				s.File, s.Line, s.Column = p.file, p.line, p.column
				return
			}
		}
	}
}

// stack takes the frames out of a text, innermost first.
func stack(text string) []symptom.Frame {
	var frames []symptom.Frame
	innermostLast := false
	for line := range strings.SplitSeq(text, "\n") {
		if strings.HasPrefix(strings.TrimSpace(line), "Traceback (most recent call last)") {
			innermostLast = true
		}
		if f, ok := anyFrame(line); ok && len(frames) < 200 {
			frames = append(frames, f)
		}
	}
	if innermostLast {
		for i, j := 0, len(frames)-1; i < j; i, j = i+1, j-1 {
			frames[i], frames[j] = frames[j], frames[i]
		}
	}
	return frames
}

// packageFamily is the first two parts of the package of a class (with own 1)
// or of a method (with own 2) of the JVM or .NET: it tells a project's own code
// from that of others. It is "" for names of other forms.
func packageFamily(name string, own int) string {
	name = before(before(name, "("), "$")
	parts := strings.Split(name[strings.LastIndexByte(name, '/')+1:], ".")
	if len(parts) <= own || strings.ContainsAny(name, " <\\:") {
		return ""
	}
	return strings.Join(parts[:min(2, len(parts)-own)], ".")
}

// expectationIn finds the two values in the lines of a failure: under labels,
// or as the two sides of a difference.
func expectationIn(body string) refs {
	expected, actual := strictly(body)
	for line := range strings.SplitSeq(body, "\n") {
		line = strings.TrimSpace(strings.TrimPrefix(line, "E "))
		lower := strings.ToLower(line)
		for _, label := range []string{"expected:", "expected :", "expected =", "want:", "wanted:", "right:"} {
			if expected == "" && strings.HasPrefix(lower, label) {
				expected = line[len(label):]
			}
		}
		for _, label := range []string{"actual:", "actual :", "received:", "got:", "but was:", "actual =", "found:", "result:", "left:"} {
			if actual == "" && strings.HasPrefix(lower, label) {
				actual = line[len(label):]
			}
		}
	}
	if strings.TrimSpace(expected) == "" || strings.TrimSpace(actual) == "" {
		expected, actual = sides(body)
	}
	if expected == "" && actual == "" {
		return nil
	}
	return refs{{Role: symptom.Expected, Name: clip(strings.TrimSpace(expected))}, {Role: symptom.Actual, Name: clip(strings.TrimSpace(actual))}}
}

// strictly are the values of "NaN !== 3", which sets what was got against what
// was expected.
//
// Format: AssertionError of the assert module of Node.js.
func strictly(body string) (expected, actual string) {
	for line := range strings.SplitSeq(body, "\n") {
		if got, wanted, ok := strings.Cut(line, " !== "); ok && !strings.HasPrefix(line, " ") {
			return wanted, got
		}
	}
	return "", ""
}

// sides are the first removed and the first added line of a difference.
func sides(body string) (minus, plus string) {
	for line := range strings.SplitSeq(body, "\n") {
		line = strings.TrimLeft(line, " ")
		switch {
		case strings.HasPrefix(line, "---"), strings.HasPrefix(line, "+++"), len(line) < 2, strings.HasPrefix(line, "- Expected"), strings.HasPrefix(line, "+ Received"), strings.HasPrefix(line, "+ expected - actual"), strings.HasPrefix(line, "+ actual - expected"):
		case minus == "" && line[0] == '-' && line[1] != '-':
			minus = line[1:]
		case plus == "" && line[0] == '+' && line[1] != '+':
			plus = line[1:]
		}
	}
	if minus == "" || plus == "" {
		return "", ""
	}
	return minus, plus
}
