package read

import (
	"bytes"
	"io"
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
	placeKeys    = keysOf("location loc position pos posn start begin range region span place from physicallocation artifactlocation locations lines positions sourceline primarylocation where frame")
	messageKeys  = keysOf("message msg messagetext text description desc issuetext detail details longmessage reason summary title what shortmessage error info note evidence")
	ruleKeys     = keysOf("ruleid rule code check checkid checkname copname cop linter fromlinter testid messageid symbol smelltype identifier errorcode rulename violation warningcode bugtype id kindcode lintid type source key policy plugincode inspection category name")
	severityKeys = keysOf("severity level loglevel priority type category impact errortype severitylevel kind issueseverity rank seriousness")
	statusKeys   = keysOf("status result outcome state success passed ok pass")
	testKeys     = keysOf("fullname fulltitle fulldescription nodeid testname testcase title name description test id methodname")
	failureKeys  = keysOf("failure failures error errors err exception exceptions failuremessages failuremessage failureexception message messages longrepr crash call setup teardown trace stack stacktrace assertions failedexpectations details diag output reason failmessage")
)

// order is a list of keys, the most telling first.
type keyOrder map[string]int

func keysOf(words string) keyOrder {
	m := keyOrder{}
	for i, w := range strings.Fields(words) {
		m[w] = i + 1
	}
	return m
}

// plainKey is a key without case, dashes, underscores and prefix.
func plainKey(key string) string {
	key = key[strings.LastIndexAny(key, ":.@#")+1:]
	b := make([]byte, 0, len(key))
	for i := range len(key) {
		if c := lower(key[i]); c != '-' && c != '_' && c != ' ' {
			b = append(b, c)
		}
	}
	return string(b)
}

// each calls take with the fields that have a role, the most telling first; it
// ends where take returns true.
func (v *jsonValue) each(keys keyOrder, take func(key string, f *jsonValue) bool) {
	type field struct {
		rank int
		name string
	}
	var found []field
	for name := range v.Fields {
		if rank := keys[plainKey(name)]; rank > 0 {
			found = append(found, field{rank, name})
		}
	}
	sort.Slice(found, func(i, j int) bool {
		return found[i].rank < found[j].rank || found[i].rank == found[j].rank && found[i].name < found[j].name
	})
	for _, f := range found {
		if take(f.name, v.Fields[f.name]) {
			return
		}
	}
}

// text is the most telling text under keys, with its value.
func (v *jsonValue) text(keys keyOrder, fits func(string) bool) (string, *jsonValue) {
	var s string
	var at *jsonValue
	v.each(keys, func(_ string, f *jsonValue) bool {
		if f.Text != "" && f.Fields == nil && (fits == nil || fits(f.Text)) {
			s, at = f.Text, f
			return true
		}
		return false
	})
	return s, at
}

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
		code = text
		return true
	})
	sev, named := r.severity(v)
	if !named {
		if l := severityWords[strings.TrimSuffix(u.list, "s")]; l.level != "" {
			sev, named = l, true
		}
	}
	switch {
	case line == 0 && file == "" && (code == "" || !named || sev.level == "note"):
		return false
	case line == 0 && code == "" && !named:
		return false
	case named && sev.level == "":
		return true // told to be none
	}
	if status, ok := outcomeOf(v); ok && status != symptom.Failed {
		return true
	}
	s := symptom.Symptom{Kind: sev.kind, Level: sev.level, Phase: symptom.PhaseCompile, Tool: "report", Code: code, File: fileURI(file), Line: line, Column: column, Message: strings.TrimSpace(before(strings.TrimSpace(message), "\n"))}
	if !named {
		s.Kind, s.Level = plainKind(code, message)
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

// outcomeOf is how an object says that it ended.
func outcomeOf(v *jsonValue) (outcome symptom.Outcome, ok bool) {
	v.each(statusKeys, func(key string, f *jsonValue) bool {
		word := strings.ToLower(f.Text)
		switch k := plainKey(key); {
		case word == "" && f.Fields == nil && f.isBool && (k == "success" || k == "passed" || k == "ok" || k == "pass"):
			outcome, ok = symptom.Failed, true
			if f.Bool {
				outcome = symptom.Passed
			}
		case word == "true" && (k == "success" || k == "passed" || k == "ok"):
			outcome, ok = symptom.Passed, true
		case word == "false" && (k == "success" || k == "passed" || k == "ok"):
			outcome, ok = symptom.Failed, true
		default:
			outcome, ok = outcomeWord(word)
		}
		return ok
	})
	return outcome, ok
}

func outcomeWord(word string) (symptom.Outcome, bool) {
	switch word {
	case "failed", "fail", "failure", "error", "errored", "broken", "timeout", "timedout", "crash", "crashed", "xpassed", "unexpected":
		return symptom.Failed, true
	case "passed", "pass", "ok", "success", "successful", "succeeded", "completed":
		return symptom.Passed, true
	case "skipped", "skip", "pending", "ignored", "disabled", "todo", "xfailed", "notrun", "inconclusive":
		return symptom.Skipped, true
	}
	return "", false
}

// test makes an outcome, and a symptom where it failed, of an object with a name
// and a status.
func (r *roles) test(v *jsonValue, u *under) bool {
	outcome, ok := outcomeOf(v)
	name, at := v.text(testKeys, func(s string) bool { return len(s) < 500 && !strings.Contains(s, "\n") })
	if name == "" {
		return false
	}
	message := failureOf(v, 0)
	if fails := v.field("failures"); fails != nil && len(fails.List) > 0 && (!ok || outcome == symptom.Passed) && suiteOf(v) == nil {
		outcome, ok = symptom.Failed, true
	}
	if !ok {
		switch {
		case (u.list == "failures" || u.list == "failed" || u.list == "failedtests") && message != "" && v.field("line") == nil:
			outcome = symptom.Failed
		case u.list == "passes" || u.list == "passed" || u.list == "passing":
			outcome = symptom.Passed
		case u.list == "pending" || u.list == "skipped":
			outcome = symptom.Skipped
		case v.field("err") != nil && v.field("title") != nil: // mocha
			if outcome = symptom.Passed; message != "" {
				outcome = symptom.Failed
			}
		default:
			return false
		}
	}
	if suiteOf(v) != nil || !testLike(v, u) { // a suite, a check of something else
		return false
	}
	key := u.suite + "\x00" + name
	if r.failed[key] {
		return true
	}
	suite := u.suite
	if class, _ := v.text(keysOf("classname class suite"), nil); class != "" {
		suite = class
	}
	r.out.testOutcome(symptom.Test{Suite: suite, Name: name, Outcome: outcome})
	r.findings++
	if outcome != symptom.Failed {
		return true
	}
	if r.failed == nil {
		r.failed = map[string]bool{}
	}
	r.failed[key] = true
	s := symptom.Symptom{Kind: symptom.TestFailure, Level: "error", Phase: symptom.PhaseTest, Tool: "report", Unit: suite, Test: name}
	s.Detail = plainText(message)
	s.Message = headline("", s.Detail, "", name)
	failure(&s, s.Detail)
	if s.File == "" {
		s.Line, s.Column, s.File = placeOf(v, 0)
		if s.File == "" {
			s.File = u.file
		}
	}
	r.out.claim(at.Line, at.Line)
	r.out.add(s, at.Line, at.Line)
	return true
}

// testLike reports whether an object with a status is a test and no finding.
func testLike(v *jsonValue, u *under) bool {
	_, rule := v.Fields["ruleId"]
	return !rule && v.field("severity") == nil
}

// field is the field of a plain key, or nil.
func (v *jsonValue) field(key string) *jsonValue {
	for name, f := range v.Fields {
		if plainKey(name) == key {
			return f
		}
	}
	return nil
}

// suiteOf is the list of tests that an object holds, or nil.
func suiteOf(v *jsonValue) *jsonValue {
	for _, key := range []string{"tests", "testsuite", "testsuites", "suites", "specs", "examples", "assertionresults", "elements", "steps", "testcases", "results", "children", "testresults"} {
		if f := v.field(key); f != nil && len(f.List) > 0 && f.List[0].Fields != nil {
			return f
		}
	}
	return nil
}

// failureOf gathers what a test's object says of its failure.
func failureOf(v *jsonValue, depth int) string {
	if depth > 4 {
		return ""
	}
	var parts []string
	add := func(s string) {
		if s = strings.TrimSpace(s); s != "" && !strings.Contains(strings.Join(parts, "\n"), s) {
			parts = append(parts, s)
		}
	}
	for _, f := range v.List {
		if f.Fields == nil {
			add(f.Text)
		} else {
			add(failureOf(f, depth+1))
		}
	}
	v.each(failureKeys, func(key string, f *jsonValue) bool {
		switch {
		case f.Fields != nil || f.List != nil:
			if class, _ := f.text(keysOf("class type exceptiontype name"), func(s string) bool { return !strings.Contains(s, " ") }); class != "" && depth < 2 && f.Fields != nil {
				if message, _ := f.text(messageKeys, nil); message != "" && !strings.Contains(message, class) {
					add(class + ": " + strings.TrimSpace(message))
				}
			}
			add(failureOf(f, depth+1))
		case f.Text != "" && f.Number == 0 && len(f.Text) < 100_000:
			if _, word := outcomeWord(strings.ToLower(f.Text)); !word {
				add(f.Text)
			}
		}
		return false
	})
	if b := v.field("backtrace"); b != nil {
		for _, f := range b.List {
			add(f.Text)
		}
	}
	return strings.Join(parts, "\n")
}

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

func init() {
	registerStream(stream{order: 8, name: "objects by role", marks: []string{"^{"}, open: func() lineReader { return roleLines{} }})
	d := jsonDocument(rolesHead, func(v *jsonValue, out *sink) { (&roles{out: out}).walk(v, under{}) })
	lastDocuments = append(lastDocuments, d, rolesXML())
}

// rolesXML reads XML in the same way: attributes and the texts of small
// elements are the fields of an object.
func rolesXML() document {
	d := xmlDocument(func(x *xmlScanner, out *sink) error {
		v, err := xmlValue(x)
		if v != nil {
			(&roles{out: out}).walk(v, under{})
		}
		if err == io.EOF {
			err = nil
		}
		return err
	})
	d.head = func(line, ahead []byte) bool {
		if line[0] != '<' || len(line) > 1 && line[1] != '?' && line[1] != '!' && !isLetter(line[1]) {
			return false
		}
		root := strings.ToLower(xmlRoot(line, ahead))
		if root == "" || root == "html" || root == "svg" || root == "project" || !bytes.HasPrefix(line, []byte("<?xml")) && bytes.IndexByte(line, '>') < 0 {
			return false
		}
		lowered := bytes.ToLower(ahead)
		hits := 0
		for _, hint := range []string{"message", "line=", "<line", "severity", "priority", "result", "fail", "error", "violation", "status", "rule", "issue"} {
			if bytes.Contains(lowered, []byte(hint)) {
				hits++
			}
		}
		return hits > 1
	}
	return d
}

// maxElements bounds the elements of a document that are kept.
const maxElements = 1_000_000

// xmlValue reads a document as a value.
func xmlValue(x *xmlScanner) (*jsonValue, error) {
	var stack []*jsonValue
	var names []string
	var root *jsonValue
	texts := []*strings.Builder{}
	count := 0
	for {
		t, err := x.next()
		if err != nil {
			return root, err
		}
		switch {
		case t.End:
			n := len(stack) - 1
			if n < 0 {
				continue
			}
			v, name := stack[n], names[n]
			if text := strings.TrimSpace(texts[n].String()); text != "" {
				if len(v.Fields) == 0 && len(v.List) == 0 {
					v.Text, v.Fields = text, nil
					if number, m := leadingNumber(text); m == len(text) {
						v.Number = float64(number)
					}
				} else if v.Fields["text"] == nil {
					v.Fields["text"] = &jsonValue{Line: v.Line, Text: text}
				}
			}
			stack, names, texts = stack[:n], names[:n], texts[:n]
			if n > 0 {
				parent := stack[n-1]
				if old := parent.Fields[name]; old == nil {
					v.order = len(parent.Fields)
					parent.Fields[name] = v
				} else {
					if old.List == nil || old.Fields != nil || old.Text != "" {
						old = &jsonValue{Line: old.Line, List: []*jsonValue{old}, order: old.order}
						parent.Fields[name] = old
					}
					old.List = append(old.List, v)
				}
			}
		case t.Name != "":
			if count++; count > maxElements {
				return root, nil
			}
			v := &jsonValue{Line: t.Line, Fields: map[string]*jsonValue{}}
			for i, a := range t.Attrs {
				f := &jsonValue{Line: t.Line, Text: a.Value, order: i}
				if number, m := leadingNumber(a.Value); m == len(a.Value) && m > 0 {
					f.Number = float64(number)
				}
				v.Fields[a.Name] = f
			}
			if root == nil {
				root = v
			}
			stack, names, texts = append(stack, v), append(names, t.Name), append(texts, &strings.Builder{})
		case len(stack) > 0:
			texts[len(texts)-1].WriteString(t.Text)
		}
	}
}
