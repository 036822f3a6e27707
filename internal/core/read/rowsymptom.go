package read

import (
	"fmt"
	"strings"

	"unicausa/internal/core/symptom"
)

// symptom is the row as a symptom; the tool is not known.
func (r *row) symptom() symptom.Symptom {
	s := symptom.Symptom{Kind: r.label.kind, Level: r.label.level, Phase: symptom.PhaseCompile, Tool: "", Code: r.code, File: strings.TrimPrefix(r.file, "file://"), Line: r.line, Column: r.column, Message: r.message, Unit: r.unit}
	if s.File == "" {
		s.Phase = symptom.PhaseRun
	}
	if s.Kind == "" {
		s.Kind, s.Level = plainKind(r.code, r.message)
		if r.tail && strings.HasSuffix(r.form, " line") {
			s.Kind, s.Level = diedOrWarned(r.message)
		}
		if r.label.level != "" {
			s.Level = r.label.level
		}
		if r.mark && s.Level == "warning" {
			s.Kind = symptom.Warning
		}
	}
	if s.Level != "error" && deprecates(s.Message+" "+s.Code) {
		s.Kind = symptom.Deprecation
	}
	if name, rest, ok := unitVerdict(s.Message); ok {
		s.Kind, s.Level, s.Phase, s.Tool, s.Test, s.Message = symptom.TestFailure, "error", symptom.PhaseTest, "tests", name, rest
		if class, message, led := strings.Cut(rest, ": "); led && s.Code == "" && (isClass(class) || strings.Contains(class, "::")) {
			s.Code, s.Message = class, message
		}
	}
	if s.Code == "unittest" { // D's runtime, of an assertion in a unittest block
		s.Kind, s.Level, s.Phase, s.Tool, s.Code, s.Test = symptom.TestFailure, "error", symptom.PhaseTest, "d", "", fmt.Sprintf("%s:%d", s.File, s.Line)
	}
	if s.Kind == symptom.Deprecation {
		s.Refs = deprecatedName(s.Message)
	} else if s.Refs = runtimeRefs(s.Message); s.Refs == nil {
		s.Refs = quotedRefs(s.Message)
	}
	if values := expectation(s.Message); values != nil {
		s.Refs = append(s.Refs, values...)
	}
	if rule := ruleOf(r.rule); rule != "" {
		s.Refs = append(s.Refs, ref(symptom.Rule, rule))
	}
	return s
}

// workflowCommand reads the commands by which tools tell a build service of
// their findings: "::error file=path,line=3,col=7,title=rule::message",
// "##vso[task.logissue type=error;sourcepath=path;linenumber=3;]message".
func workflowCommand(text string) (r row, ok bool) {
	var head, word string
	if rest, is := strings.CutPrefix(text, "##vso[task.logissue "); is {
		head, r.message, ok = strings.Cut(rest, "]")
		head = strings.ReplaceAll(head, ";", ",")
	} else if rest, is := strings.CutPrefix(text, "::"); is {
		word, rest, _ = strings.Cut(rest, " ")
		head, r.message, ok = strings.Cut(rest, "::")
	}
	if !ok {
		return r, false
	}
	for field := range strings.SplitSeq(head, ",") {
		key, value, _ := strings.Cut(strings.TrimSpace(field), "=")
		number, _ := leadingNumber(value)
		switch key {
		case "type":
			word = value
		case "file", "sourcepath":
			r.file = value
		case "line", "linenumber":
			r.line = number
		case "col", "columnnumber":
			r.column = number
		case "title", "code":
			if i := strings.LastIndexAny(value, "( "); i >= 0 {
				value = strings.Trim(value[i:], "() ")
			}
			r.code = value
		}
	}
	sev, known := severityWords[word]
	if !known {
		return r, false
	}
	r.label, r.form, r.shape = severityLabel{severity: sev, word: word, strong: true}, "command", "command"
	r.message = strings.TrimSpace(before(strings.ReplaceAll(r.message, "%0A", "\n"), "\n"))
	if p, found := positionAt(r.message); found && p.length < len(r.message) && r.message[p.length] == ':' {
		r.message = strings.TrimSpace(r.message[p.length+1:])
	}
	if code, n := codeAt(r.message); n > 0 {
		r.code, r.message = code, r.message[n:]
	}
	return r, r.message != ""
}

// unitVerdict reads what unit test libraries of C print behind a place:
// "F:case:test:0: message", "test:FAIL: message", Boost's "in "test": message", and
// what a test of a shell ends with: "test() returned non-zero return code.".
func unitVerdict(message string) (name, rest string, ok bool) {
	parts := strings.SplitN(message, ":", 5)
	if len(parts) == 5 && (parts[0] == "F" || parts[0] == "E") && leadingDigits(parts[3]) {
		return parts[2], strings.TrimSpace(parts[4]), true
	}
	if len(parts) > 2 && parts[1] == "FAIL" && !strings.Contains(parts[0], " ") {
		return parts[0], strings.TrimSpace(strings.Join(parts[2:], ":")), true
	}
	if name, cut := strings.CutSuffix(message, "() returned non-zero return code."); cut && !strings.Contains(name, " ") {
		return name, strings.TrimPrefix(message, name+"() "), true
	}
	if inner, cut := strings.CutPrefix(message, `in "`); cut {
		if name, rest, ok = strings.Cut(inner, `": `); ok {
			return name, rest, true
		}
	}
	return "", "", false
}

// diedOrWarned is what a message of Perl is that ends with its place: its
// warnings are known by their words (perldiag), all else ends the program.
func diedOrWarned(message string) (symptom.Kind, string) {
	for _, words := range []string{"Use of uninitialized", "isn't numeric", "masks earlier", "redefined", "used only once", "Possible ", "Useless use", "Found = in conditional", "Odd number of", "Deep recursion", "Scalar value", "Subroutine ", "Unquoted string", "Wide character", "experimental", "Statement unlikely", "may clash", "Name \"", "Use of ", "Applying pattern", "Misplaced _", "Ambiguous "} {
		if strings.Contains(message, words) {
			return symptom.Warning, "warning"
		}
	}
	return symptom.Error, "error"
}

// plainKind is what a row without a severity is: what breaks is an error, all
// else the finding of a linter.
func plainKind(code, message string) (symptom.Kind, string) {
	if capitalCode(code) && strings.Contains(code, "_") { // MISSING_EXPORT
		return symptom.Error, "error"
	}
	lower := strings.ToLower(message)
	for _, words := range []string{"syntax error", "unbound identifier", "parse error"} {
		if strings.Contains(lower, words) {
			return symptom.Error, "error"
		}
	}
	if code == "" || strings.HasPrefix(code, "E9") {
		for _, words := range lintWords {
			if strings.Contains(lower, words) {
				return symptom.Lint, "warning"
			}
		}
		if code == "" && !strings.Contains(lower, "==>") {
			return symptom.Error, "error"
		}
	}
	return symptom.Lint, "warning"
}
