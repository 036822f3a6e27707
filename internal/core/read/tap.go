package read

import (
	"strings"

	"unicausa/internal/core/symptom"
)

// tap reads the Test Anything Protocol, versions 13 and 14:
//
//	TAP version 14
//	1..3
//	ok 1 - shuts
//	not ok 2 - opens the lid
//	  ---
//	  message: 'expected 2, got 1'
//	  at: { file: test/shelf.js, line: 12 }
//	  ...
//	#   Failed test 'opens the lid'         Perl's comment below
//	#   at t/shelf.t line 12.
//	not ok 3 - hinges # TODO not yet
//	# Subtest: lids
//	    ok 1 - is there                     a subtest, indented by four
//	Bail out! No jar.
//
// Format: testanything.org, TAP 14 specification. A parent that failed only
// because its subtest did is no failure of its own.
type tap struct {
	suites []tapSuite
	open   *symptom.Symptom
	depth  int
	from   int
	end    int
	yaml   bool
	body   []string
	told   bool     // its YAML block has ended
	inner  bool     // its subtest failed
	aside  []string // comments that stand by themselves
	asides int      // the line of the first
	failed []int    // failed subtests by depth
	script string
	any    bool
}

type tapSuite struct {
	depth int
	name  string
}

var tapReader = stream{name: "tap", marks: []string{"^ok 1", "^ok 2", "^ok 3", "^ok 4", "^ok 5", "^ok 6", "^ok 7", "^ok 8", "^ok 9", "^ok - ", "^not ok", "^TAP version", "^# ", "^Bail out!", "^1..", "^#   Failed", "^#   at ", "^# Looks like", ".t ..", "^Dubious, test", "^Parse errors: ", " subtests", "(Wstat: ", "^Result: ", "^Failed test"}, open: func() lineReader { return &tap{} }}

func (t *tap) listening() bool { return t.open != nil }

func (t *tap) line(l Line, out *sink) verdict {
	text := l.Text
	trimmed := strings.TrimLeft(text, " ")
	depth := (len(text) - len(trimmed)) / 4
	if t.open != nil && t.inside(l, trimmed, depth) {
		return more
	}
	if t.any && t.comment(l, trimmed) {
		return noise
	}
	switch {
	case strings.HasPrefix(trimmed, "# Subtest: "):
		t.finish(out)
		t.enter(depth, strings.TrimPrefix(trimmed, "# Subtest: "))
		return noise
	case strings.HasPrefix(trimmed, "not ok"), strings.HasPrefix(trimmed, "ok "):
		return t.point(l, trimmed, depth, out)
	case strings.HasPrefix(trimmed, "Bail out!"):
		t.finish(out)
		out.add(symptom.Symptom{Kind: symptom.TestFailure, Phase: symptom.PhaseTest, Tool: "tap", Unit: t.script, Message: trimmed}, l.Number, l.Number)
		return took
	case strings.HasPrefix(trimmed, "TAP version "), planLine(trimmed):
		t.any = true
		return noise
	case strings.HasPrefix(trimmed, "# Looks like you "), strings.HasPrefix(trimmed, "#   Failed "), strings.HasPrefix(trimmed, "#   at "):
		return noise
	case strings.HasPrefix(text, "Dubious, test returned"), strings.HasPrefix(text, "Parse errors: "):
		t.finish(out)
		if t.script != "" && len(t.failed) == 0 { // the script died by itself
			out.add(symptom.Symptom{Kind: symptom.TestFailure, Phase: symptom.PhaseTest, Tool: "tap", Unit: t.script, Message: t.script + ": " + text}, l.Number, l.Number)
			return took
		}
		return noise
	case strings.HasPrefix(text, "Failed ") && strings.Contains(text, " subtests"), strings.Contains(text, " (Wstat: "), strings.HasPrefix(text, "Result: "), strings.HasPrefix(text, "  Failed test"):
		return noise
	case proveLine(text) != "":
		t.finish(out)
		t.script, t.failed = proveLine(text), nil
		return noise
	}
	t.finish(out)
	return pass
}

// comment takes a comment that belongs to no test point: a producer passes on
// what a program printed as comments.
func (t *tap) comment(l Line, trimmed string) bool {
	text, ok := strings.CutPrefix(trimmed, "# ")
	if indent := len(l.Text) - len(trimmed); indent%4 != 0 || indent/4 > len(t.suites) {
		return false
	}
	if strings.HasPrefix(text, "./") && strings.Contains(text, ":in ") { // a frame as RSpec prints it, behind a report in TAP
		return false
	}
	if !ok && trimmed != "#" || ownComment(trimmed) || t.open != nil && t.open.Kind != "" && !t.told || len(t.aside) >= 2000 {
		return false
	}
	if len(t.aside) == 0 {
		t.asides = l.Number
	} else if l.Number != t.asides+len(t.aside) {
		return false
	}
	t.aside = append(t.aside, text)
	return true
}

// ownComment reports whether a comment is of TAP's producer.
func ownComment(text string) bool {
	for _, start := range []string{"# Subtest", "# Looks like", "#   Failed ", "#   at ", "# tests ", "# suites ", "# pass ", "# fail ", "# cancelled ", "# skipped ", "# todo ", "# duration_ms "} {
		if strings.HasPrefix(text, start) {
			return true
		}
	}
	return strings.HasPrefix(text, "# ") && strings.Contains(text, "/") && !strings.Contains(text[2:], " ") // a Go package
}

func planLine(text string) bool {
	rest, ok := strings.CutPrefix(text, "1..")
	_, n := leadingNumber(rest)
	return ok && n > 0
}

// proveLine is the script that prove announces: "t/shelf.t .. ".
func proveLine(text string) string {
	name, rest, ok := strings.Cut(text, " ..")
	if ok && strings.HasSuffix(name, ".t") && strings.Trim(rest, ". ") == "" {
		return name
	}
	return ""
}

func (t *tap) enter(depth int, name string) {
	for len(t.suites) > 0 && t.suites[len(t.suites)-1].depth >= depth {
		t.suites = t.suites[:len(t.suites)-1]
	}
	t.suites = append(t.suites, tapSuite{depth, name})
}

// point takes a test point.
func (t *tap) point(l Line, text string, depth int, out *sink) verdict {
	rest, bad := strings.CutPrefix(text, "not ok")
	if !bad {
		rest = strings.TrimPrefix(text, "ok")
	}
	if rest != "" && rest[0] != ' ' {
		return pass
	}
	rest = strings.TrimSpace(rest)
	_, n := leadingNumber(rest)
	if n == 0 && !t.any && !bad {
		return pass
	}
	t.finish(out)
	t.any = true
	name, directive, _ := strings.Cut(rest[n:], " # ")
	name = strings.TrimSpace(strings.TrimPrefix(strings.TrimSpace(name), "- "))
	name = strings.TrimSpace(strings.TrimSuffix(name, "{"))
	if name == "" {
		name = "test " + rest[:n]
	}
	path := []string{}
	for _, s := range t.suites {
		if s.depth < depth || s.depth == depth && s.name != name {
			path = append(path, s.name)
		}
	}
	if d := depth; len(t.suites) > 0 && t.suites[len(t.suites)-1].depth == d && t.suites[len(t.suites)-1].name == name {
		t.suites = t.suites[:len(t.suites)-1]
	} else if len(path) > 0 && t.suites[len(t.suites)-1].depth == depth {
		path = path[:len(path)-1]
		t.suites = t.suites[:len(t.suites)-1]
	}
	full := strings.Join(append(path, name), " > ")
	outcome := symptom.Passed
	word := strings.ToUpper(directive)
	switch {
	case strings.HasPrefix(word, "TODO"), strings.HasPrefix(word, "SKIP"):
		outcome = symptom.Skipped
	case bad:
		outcome = symptom.Failed
	}
	inner := len(t.failed) > depth+1 && t.failed[depth+1] > 0
	if len(t.failed) > depth+1 {
		t.failed = t.failed[:depth+1]
	}
	out.tool("tap")
	out.testOutcome(symptom.Test{Suite: t.script, Name: full, Outcome: outcome})
	t.depth, t.from, t.end, t.yaml, t.told, t.inner, t.body = depth, l.Number, l.Number, false, false, inner, nil
	if outcome != symptom.Failed { // what stands below it is of no interest
		t.open = &symptom.Symptom{}
		return noise
	}
	for len(t.failed) <= depth {
		t.failed = append(t.failed, 0)
	}
	t.failed[depth]++
	t.open = &symptom.Symptom{Kind: symptom.TestFailure, Phase: symptom.PhaseTest, Tool: "tap", Unit: t.script, Test: full}
	return took
}

// inside takes what belongs to a failed test point: a YAML block (TAP 14,
// "YAML Diagnostics"), or the comments that Perl prints below it.
func (t *tap) inside(l Line, trimmed string, depth int) bool {
	switch {
	case t.yaml:
		if trimmed == "..." {
			t.yaml, t.told = false, true
		} else if len(t.body) < 2000 {
			t.body = append(t.body, l.Text)
		}
	case trimmed == "---" && len(t.body) == 0:
		t.yaml = true
	case (t.open.Kind == "" || t.told) && strings.HasPrefix(trimmed, "#"):
		return false
	case strings.HasPrefix(trimmed, "#   ") || strings.HasPrefix(trimmed, "#") && !ownComment(trimmed):
		t.body = append(t.body, strings.TrimPrefix(trimmed, "#"))
	case l.Text == "" && len(t.body) == 0:
	default:
		return false
	}
	t.end = l.Number
	return true
}

func (t *tap) finish(out *sink) {
	if len(t.aside) > 0 {
		text, from := strings.Join(t.aside, "\n")+"\n", t.asides
		out.result.Account.Noise -= len(t.aside) // they were counted as they came
		t.aside = nil
		passedOn(text, from, out)
	}
	s := t.open
	t.open = nil
	if s == nil || s.Kind == "" {
		return
	}
	if pathLike(s.Test) && t.findings(s, out) {
		return
	}
	fields := yamlFields(t.body)
	if t.inner && fields["failureType"] != "hookFailed" { // it failed because its subtest did
		return
	}
	body := strings.Join(t.body, "\n")
	s.Detail = body
	for _, key := range []string{"error", "message", "name"} {
		if v := fields[key]; v != "" && s.Message == "" {
			s.Message = before(v, "\n")
		}
	}
	if s.Message == "" {
		s.Message = headline("", body, "", "")
	}
	if s.Message == "failed" || strings.HasPrefix(s.Message, "Failed test") {
		s.Message = perlMessage(t.body, s.Test)
	}
	s.Code = fields["code"]
	if r, ok := parseRow(s.Test); ok && r.placed() && !r.tail && r.message != "" { // a linter's row in the place of a name
		found := r.symptom()
		found.Tool = "lint"
		out.add(found, t.from, t.end)
		return
	}
	if stackText := fields["stack"]; stackText != "" {
		failure(s, stackLines(stackText))
	} else {
		failure(s, body)
	}
	for _, key := range []string{"location", "file", "at"} {
		if s.File != "" {
			break
		}
		if p, ok := placeColon(strings.Trim(fields[key], "'\"")); ok {
			s.File, s.Line, s.Column = p.file, p.line, p.column
		} else if key == "file" && fields["file"] != "" {
			s.File = fields["file"]
			s.Line, _ = leadingNumber(fields["line"])
		}
	}
	if e, a := fields["expected"], fields["actual"]; e != "" && a != "" && s.Named(symptom.Expected) == "" {
		s.Refs = append(s.Refs, ref(symptom.Expected, clip(e)), ref(symptom.Actual, clip(a)))
	}
	if e, a := fields["wanted"], fields["found"]; e != "" && a != "" && s.Named(symptom.Expected) == "" {
		s.Refs = append(s.Refs, ref(symptom.Expected, clip(e)), ref(symptom.Actual, clip(a)))
	}
	if s.File == "" {
		if i := strings.Index(body, " at "); i >= 0 { // at t/shelf.t line 12.
			where := before(body[i+4:], "\n")
			if file, line, ok := strings.Cut(where, " line "); ok && fileLike(file) {
				s.File = file
				s.Line, _ = leadingNumber(line)
			}
		}
	}
	out.add(*s, t.from, t.end)
}

// findings takes the findings of a linter, which gives a file as the test and
// what it found as YAML: a message, and beside it severity, line, column, rule.
func (t *tap) findings(s *symptom.Symptom, out *sink) bool {
	type entry struct {
		fields map[string]string
		line   int
	}
	var list []entry
	for i, text := range t.body {
		key, value, ok := strings.Cut(strings.TrimLeft(strings.TrimLeft(text, " "), "- "), ":")
		if !ok || strings.Contains(key, " ") {
			continue
		}
		value = strings.TrimSpace(value)
		if len(value) > 1 && (value[0] == '\'' || value[0] == '"') && value[len(value)-1] == value[0] {
			value = strings.ReplaceAll(value[1:len(value)-1], "''", "'")
		}
		if key == "message" {
			list = append(list, entry{map[string]string{}, t.from + 2 + i})
		}
		if len(list) > 0 && value != "" && list[len(list)-1].fields[key] == "" {
			list[len(list)-1].fields[key] = value
		}
	}
	for _, e := range list {
		sev, known := severityWords[e.fields["severity"]]
		if !known || e.fields["line"] == "" {
			return false
		}
		f := symptom.Symptom{Kind: sev.kind, Level: sev.level, Phase: symptom.PhaseCompile, Tool: "lint", File: s.Test, Message: e.fields["message"], Code: e.fields["ruleId"]}
		f.Line, _ = leadingNumber(e.fields["line"])
		f.Column, _ = leadingNumber(e.fields["column"])
		if i := strings.LastIndex(f.Message, " ("); f.Code == "" && i > 0 && strings.HasSuffix(f.Message, ")") {
			if code, ok := ruleName(f.Message[i+2:len(f.Message)-1], true); ok {
				f.Message, f.Code = f.Message[:i], code
			}
		}
		out.add(f, e.line, e.line)
	}
	return len(list) > 0
}

// stackLines gives the lines of a stack the "at" that some producers leave out.
func stackLines(text string) string {
	lines := strings.Split(text, "\n")
	for i, line := range lines {
		if line = strings.TrimSpace(line); !strings.HasPrefix(line, "at ") {
			lines[i] = "at " + line
		}
	}
	return strings.Join(lines, "\n")
}

// perlMessage is what Test::More says below "Failed test": got and expected.
func perlMessage(body []string, name string) string {
	got, expected := "", ""
	for _, line := range body {
		t := strings.TrimSpace(line)
		if v, ok := strings.CutPrefix(t, "got: "); ok {
			got = v
		}
		if v, ok := strings.CutPrefix(t, "expected: "); ok {
			expected = v
		}
	}
	if got != "" || expected != "" {
		return "got " + got + ", expected " + expected
	}
	return name + " failed"
}

// yamlFields reads the flat keys of a YAML block, with block scalars; keys of
// inner maps count too, the first of a name holds.
func yamlFields(lines []string) map[string]string {
	fields := map[string]string{}
	scalar, indent := "", 0
	for _, line := range lines {
		trimmed := strings.TrimLeft(line, " ")
		if scalar != "" {
			if len(line)-len(trimmed) > indent || trimmed == "" {
				fields[scalar] = strings.TrimPrefix(fields[scalar]+"\n"+trimmed, "\n")
				continue
			}
			scalar = ""
		}
		key, value, ok := strings.Cut(trimmed, ":")
		if !ok || strings.ContainsAny(key, " '\"{") {
			continue
		}
		value = strings.TrimSpace(value)
		if _, seen := fields[key]; seen {
			continue
		}
		if strings.HasPrefix(value, "|") || strings.HasPrefix(value, ">") {
			scalar, indent = key, len(line)-len(trimmed)
			fields[key] = ""
			continue
		}
		if len(value) > 1 && (value[0] == '\'' || value[0] == '"') {
			value = strings.ReplaceAll(strings.Trim(value, value[:1]), "''", "'")
		}
		fields[key] = value
	}
	return fields
}

func (t *tap) close(out *sink) { t.finish(out) }
