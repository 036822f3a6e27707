package read

import (
	"bytes"
	"sort"
	"strings"

	"unicausa/internal/core/symptom"
)

// roles reads reports that no reader knows, in JSON or XML, by what their keys
// mean: an object that holds a message beside a place, a rule or a severity is
// a finding; one with a name and an outcome is a test. Keys are compared
// without case, dashes and underscores.
type roles struct {
	out      *sink
	findings int
	failed   map[string]bool // tests that were told
}

// under is what the objects around one say.
type under struct {
	file, code, suite string
	list              string // of the key that a list stands under: failures, passes
	depth             int
}

var (
	fileKeys     = keysOf("file filename filepath path uri source sourcefile sourcepath relativepath resource document absolutepath srcfile inputfile target")
	lineKeys     = keysOf("line linenumber lineno lnum row startline beginline linestart startlinenumber beginlinenumber firstline")
	columnKeys   = keysOf("column columnnumber col colno startcolumn begincolumn columnstart char character colnumber firstcolumn")
	placeKeys    = keysOf("location loc position pos posn start begin range region span place from physicallocation artifactlocation locations lines positions sourceline primarylocation where frame labels spans")
	messageKeys  = keysOf("message msg messagetext text description desc issuetext detail details longmessage reason summary title what shortmessage error info note evidence original")
	ruleKeys     = keysOf("ruleid rule code check checkid checkname copname cop linter fromlinter testid messageid symbol smelltype identifier errorcode rulename violation warningcode bugtype id kindcode lintid type source key policy plugincode inspection category name")
	severityKeys = keysOf("severity level loglevel priority type category impact errortype severitylevel kind issueseverity rank seriousness")
	statusKeys   = keysOf("status result outcome state success passed ok pass overallresult")
	testKeys     = keysOf("fullname fulltitle fulldescription nodeid testname testcase title name description test id methodname")
	failureKeys  = keysOf("failure failures error errors err exception exceptions failuremessages failuremessage failureexception message messages longrepr crash call setup teardown trace stack stacktrace assertions failedexpectations details diag output reason failmessage")
)

// maxDepth bounds how deep a report is followed.
const maxDepth = 60

// walk reads a value and what stands in it.
func (r *roles) walk(v *jsonValue, u under) {
	if v == nil || u.depth > maxDepth {
		return
	}
	u.depth++
	for _, inner := range v.List {
		r.walk(inner, u)
	}
	if v.Fields == nil {
		return
	}
	if file, _ := v.text(fileKeys, anyPath); file != "" {
		u.file = file
	}
	if r.test(v, &u) || r.finding(v, &u) {
		return
	}
	if name, _ := v.text(keysOf("name classname suite title"), nil); name != "" {
		if anyPath(name) && u.file == "" || pathLike(name) {
			u.file = name
		} else if len(name) < 200 {
			u.suite = name
		}
	}
	names := make([]string, 0, len(v.Fields))
	for name := range v.Fields {
		names = append(names, name)
	}
	sort.Slice(names, func(i, j int) bool { return v.Fields[names[i]].order < v.Fields[names[j]].order })
	for _, name := range names {
		f, inner := v.Fields[name], u
		switch key := plainKey(name); {
		case anyPath(name):
			inner.file = name
		case failureKeys[key] > 0 || severityWords[strings.TrimSuffix(key, "s")].level != "":
			inner.list = key
		case key == "passes" || key == "passed" || key == "pending" || key == "skipped" || key == "passing":
			inner.list = key
		case len(f.List) > 0 && ruleKeyLike(name):
			inner.code = name
		}
		r.walk(f, inner)
	}
}

// ruleKeyLike reports whether a key over a list of findings may be a rule.
func ruleKeyLike(name string) bool {
	key := plainKey(name)
	return !strings.ContainsAny(name, " ") && messageKeys[key]+placeKeys[key]+fileKeys[key] == 0 && key != "messages" && key != "results" && key != "files" && key != "issues" && key != "violations" && key != "offenses" && key != "diagnostics" && key != "warnings" && key != "testresults" && key != "problems" && key != "tests" && key != "issue" && key != "error" && key != "violation" && key != "warning" && key != "problem" && key != "finding" && key != "result" && key != "diagnostic" && key != "suites" && key != "testsuites"
}

func anyPath(s string) bool {
	s = strings.TrimPrefix(s, "file://")
	return len(s) < 400 && (pathLike(s) || strings.HasPrefix(s, "/") && strings.Count(s, "/") > 1 && !strings.Contains(s, " "))
}

// finding makes a symptom of an object with a message beside a place, a rule or
// a severity.
func (r *roles) finding(v *jsonValue, u *under) bool {
	message, at := v.text(messageKeys, func(s string) bool {
		return sentence(s) || len(s) > 12 && !pathLike(s) && !strings.HasPrefix(s, "http")
	})
	if message == "" {
		v.each(messageKeys, func(_ string, f *jsonValue) bool { // SARIF's and others' {"text": …}
			message, at = f.text(messageKeys, sentence)
			return message != ""
		})
	}
	if message == "" {
		return false
	}
	if row, ok := parseRow(before(message, "\n")); ok && row.placed() && strings.HasPrefix(row.shape, "path") { // a line that a tool printed
		u.file = row.file
	}
	line, column, file := placeOf(v, 0)
	if file == "" {
		file = u.file
	}
	code := u.code
	v.each(ruleKeys, func(key string, f *jsonValue) bool {
		text := f.Text
		if f.Fields != nil {
			text, _ = f.text(keysOf("id name code value"), nil)
		}
		k := plainKey(key)
		_, known := severityWords[strings.ToLower(text)]
		if text == "" || text == message || known || strings.Contains(text, " ") || len(text) > 120 || anyPath(text) {
			return false
		}
		if _, n := leadingNumber(text); n == len(text) && (k != "code" && k != "errorcode" && k != "ruleid") {
			return false
		}
		if k == "name" && !(kebab(text) || humps(text) > 1 || strings.Contains(text, "/") || numberedCode(text) > 0) {
			return false
		}
		if k == "symbol" && !kebab(text) {
			return false
		}
		if (k == "type" || k == "id" || k == "category" || k == "source" || k == "key") && code != "" {
			return false
		}
		code = innerRule(text)
		return true
	})
	sev, named := r.severity(v)
	if !named {
		if l := severityWords[strings.TrimSuffix(u.list, "s")]; l.level != "" {
			sev, named = l, true
		}
	}
	if class, said, led := strings.Cut(message, ": "); led && sev.kind == symptom.Crash && (isClass(class) || strings.Contains(class, "::") && !strings.Contains(class, " ")) {
		code, message = class, said
	}
	status, ended := outcomeOf(v)
	assertion := ended && status == symptom.Failed && !named && u.suite != ""
	switch {
	case line == 0 && file == "" && (code == "" || !named || sev.level == "note"):
		return false
	case line == 0 && code == "" && !named:
		return false
	case named && sev.level == "":
		return true // told to be none
	}
	if ended && status != symptom.Failed {
		return true
	}
	s := symptom.Symptom{Kind: sev.kind, Level: sev.level, Phase: symptom.PhaseCompile, Tool: "report", Code: code, File: fileURI(file), Line: line, Column: column, Message: strings.TrimSpace(before(strings.TrimSpace(message), "\n"))}
	if !named {
		s.Kind, s.Level = plainKind(code, message)
	}
	if assertion { // of the test around it
		s.Kind, s.Level, s.Phase, s.Test, s.Code = symptom.TestFailure, "error", symptom.PhaseTest, u.suite, ""
	}
	if s.Level != "error" && deprecates(message+" "+code) {
		s.Kind, s.Refs = symptom.Deprecation, deprecatedName(message)
	}
	if s.Refs == nil {
		s.Refs = quotedRefs(s.Message)
	}
	shellCode(&s, v)
	r.findings++
	r.out.claim(at.Line, at.Line)
	r.out.add(s, at.Line, at.Line)
	return true
}

// severity is what an object says of its weight.
func (r *roles) severity(v *jsonValue) (sev severity, named bool) {
	_, eslint := v.Fields["ruleId"]
	v.each(severityKeys, func(key string, f *jsonValue) bool {
		if l, ok := severityWords[strings.ToLower(f.Text)]; ok {
			sev, named = l, true
			return true
		}
		if l, ok := severityLetters[(f.Text + " ")[0]]; ok && len(f.Text) == 1 {
			sev, named = l, true
			return true
		}
		switch k := plainKey(key); {
		case k == "severity" && f.Number > 0 && eslint: // 1 warning, 2 error
			sev, named = severityWords[map[bool]string{true: "error", false: "warning"}[f.Number > 1]], true
		case k == "severity" && f.Number > 0 && f.Number < 5 && v.Fields["range"] != nil: // LSP, section DiagnosticSeverity
			sev, named = severityWords[[]string{"error", "warning", "info", "hint"}[int(f.Number)-1]], true
		case k == "severity" || k == "priority" || k == "impact" || k == "issueseverity":
			switch strings.ToLower(f.Text) {
			case "high", "blocker", "serious":
				sev, named = severity{"error", symptom.Error}, true
			case "medium", "moderate", "normal":
				sev, named = severity{"warning", symptom.Warning}, true
			case "low", "undefined":
				sev, named = severity{"note", symptom.Lint}, true
			}
		}
		return named
	})
	if !named {
		if f := v.Fields["fatal"]; f != nil && f.Bool {
			return severityWords["error"], true
		}
	}
	return sev, named
}

// placeOf is the place that an object gives, in its own fields or in those of a
// place in it.
func placeOf(v *jsonValue, depth int) (line, column int, file string) {
	if depth > 4 || v == nil {
		return 0, 0, ""
	}
	if v.Fields == nil && v.Text != "" && v.Number == 0 {
		if p, ok := positionAt(v.Text); ok && p.length == len(v.Text) {
			return p.line, p.column, p.file
		}
		if l, c, ok := pair(v.Text); ok {
			return l, c, ""
		}
		return 0, 0, ""
	}
	for _, inner := range v.List {
		if line, column, file = placeOf(inner, depth+1); line > 0 {
			return line, column, file
		}
		if inner.Number > 0 { // [12, 9]
			return int(inner.Number), 0, ""
		}
	}
	if v.Fields == nil {
		return 0, 0, ""
	}
	number := func(keys keyOrder) (n int) {
		v.each(keys, func(_ string, f *jsonValue) bool {
			if n = int(f.Number); n == 0 && f.Fields == nil {
				n, _ = leadingNumber(f.Text)
			}
			return n > 0
		})
		return n
	}
	file, _ = v.text(fileKeys, anyPath)
	if line = number(lineKeys); line > 0 {
		if column = number(columnKeys); file == "" {
			v.each(placeKeys, func(_ string, f *jsonValue) bool {
				_, _, file = placeOf(f, depth+1)
				return file != ""
			})
		}
		return line, column, file
	}
	zero := lineFromZero(v)
	v.each(placeKeys, func(_ string, f *jsonValue) bool {
		l, c, in := placeOf(f, depth+1)
		if zero && (l > 0 || f.Fields != nil) { // LSP counts from 0
			l, c = l+1, c+1
		}
		if l > 0 {
			line, column = l, c
		}
		if in != "" && file == "" {
			file = in
		}
		return line > 0 && file != ""
	})
	if line == 0 {
		v.each(fileKeys, func(_ string, f *jsonValue) bool {
			l, c, in := placeOf(f, depth+1)
			if l > 0 || in != "" {
				line, column, file = l, c, in
			}
			return line > 0
		})
	}
	return line, column, file
}

// lineFromZero reports whether an object counts lines from zero, as LSP does.
func lineFromZero(v *jsonValue) bool { return v.at("range", "start").Fields["character"] != nil }

// shellCode gives shellcheck's numbers the letters that it prints elsewhere.
func shellCode(s *symptom.Symptom, v *jsonValue) {
	if _, fix := v.Fields["fix"]; !fix || len(s.Code) != 4 {
		return
	}
	if _, n := leadingNumber(s.Code); n == 4 && s.Code < "4000" {
		s.Code, s.Tool = "SC"+s.Code, "shellcheck"
	}
}

var roleHints = [][]byte{[]byte("message"), []byte("msg"), []byte("text"), []byte("description"), []byte("desc"), []byte("title"), []byte("reason"), []byte("fullName"), []byte("status"), []byte("result"), []byte("outcome"), []byte("failure"), []byte("tests"), []byte("errors")}

// rolesHead reports whether a JSON value may be a report: not a line of a log.
func rolesHead(line, ahead []byte) bool {
	if !opens(line, '{', ahead) && !opens(line, '[', ahead) {
		return false
	}
	closed := false
	if end := bytes.TrimRight(line, " \t\r"); len(end) > 1 && end[len(end)-1] == line[0]+2 {
		ahead, closed = line, true
	}
	if closed && line[0] == '{' && len(line) < maxLine { // one of a stream of objects: roleLines reads it
		return false
	}
	lowered := bytes.ToLower(ahead)
	for _, hint := range roleHints {
		if bytes.Contains(lowered, append([]byte{'"'}, bytes.ToLower(hint)...)) || bytes.Contains(lowered, append(bytes.ToLower(hint), '"')) {
			return true
		}
	}
	return false
}

// roleLines reads objects on lines of their own, behind all who know them.
type roleLines struct{}

func (roleLines) line(l Line, out *sink) verdict {
	text := strings.TrimSpace(l.Text)
	if !strings.HasPrefix(text, "{") || !strings.HasSuffix(text, "}") || logged(text) {
		return pass
	}
	v, err := parseJSON([]byte(text), l.Number)
	if err != nil {
		return pass
	}
	r := &roles{out: out}
	if r.walk(v, under{}); r.findings == 0 {
		return pass
	}
	out.result.Format = FormatJSON
	return took
}

func (roleLines) close(*sink) {}

// logged reports whether an object is a line of a structured log: it has a time
// and a level. Streams of events that have readers of their own are none of ours
// either.
func logged(text string) bool {
	if strings.Contains(text, `"Action":"`) || strings.Contains(text, `"reason":"`) {
		return true
	}
	for _, key := range []string{`"time":`, `"timestamp":`, `"ts":`, `"@timestamp":`} {
		if strings.Contains(text, key) && strings.Contains(text, `"level"`) {
			return true
		}
	}
	return false
}

var rolesReader = stream{name: "objects by role", basis: symptom.ByKeys, marks: []string{"^{"}, open: func() lineReader { return roleLines{} }}

var rolesJSON = jsonDocument(rolesHead, func(v *jsonValue, out *sink) { (&roles{out: out}).walk(v, under{}) })

// maxElements bounds the elements of a document that are kept.
const maxElements = 1_000_000
