package read

import (
	"regexp"
	"strings"

	"unicausa/internal/core/symptom"
)

// rustc reads the Rust compiler and cargo:
//
//	error[E0599]: no method named `open_lid` found for struct `Jar` in the current scope
//	  --> src/shelf.rs:12:9
//	   |
//	12 |     jar.open_lid();
//	   |         ^^^^^^^^ method not found in `Jar`
//	   |
//	   = note: …
//	help: there is a method `open` with a similar name
//	warning: use of deprecated method `Jar::shut`: use `close`
//	error: aborting due to 2 previous errors
//	error: could not compile `shelf` (bin "shelf") due to 2 previous errors
//	error: failed to select a version for `jar`.        the resolver; its lines
//	    ... required by package `shelf v0.1.0 (/p)`     are indented or blank
//
// Format: rustc_errors' HumanEmitter; cargo's resolver errors.
var rustcReader = dialectReader("rustc", []string{"^error: ", "^error[", "^warning: ", "^warning[", "^For more information about", "^Some errors have"}, dialect{
	head: rustcHead, near: rustcNear, tail: rustcTail, ends: rustcEnds, rest: rustcRest,
})

// Stages of a rustc diagnostic.
const (
	rustHeadline  = iota
	rustPlaced    // its arrow was seen
	rustResolving // the lines of a resolver's error
	rustResolved  // its last line was seen
)

var cargoResolves = []string{"failed to select a version", "no matching package", "failed to get `", "failed to load source", "the lock file", "failed to parse manifest", "package `", "failed to parse lock", "cannot find package", "no matching versions", "rustc ", "failed to resolve"}

func rustcHead(text string) (symptom.Symptom, bool) {
	level, code := "", ""
	for _, word := range []string{"error", "warning"} {
		if rest, ok := strings.CutPrefix(text, word); ok {
			level, text = word, rest
			break
		}
	}
	if level == "" {
		return symptom.Symptom{}, false
	}
	if strings.HasPrefix(text, "[") {
		code, text, _ = strings.Cut(text[1:], "]")
	}
	message, ok := strings.CutPrefix(text, ": ")
	if !ok || code != "" && !nameLike(strings.ReplaceAll(code, ":", "")) {
		return symptom.Symptom{}, false
	}
	s := symptom.Symptom{Kind: symptom.Error, Level: level, Phase: symptom.PhaseCompile, Tool: "rustc", Code: code, Message: message}
	if level == "warning" {
		s.Kind = symptom.Warning
	}
	s.Refs = rustcRefs(message)
	if strings.HasPrefix(message, "use of deprecated ") {
		s.Kind = symptom.Deprecation
	}
	return s, true
}

// rustcNear tells a headline of rustc's from those of others: it has a code,
// or its place stands below, or cargo says such things.
func rustcNear(s *symptom.Symptom, l Line) bool {
	return s.Code != "" || strings.HasPrefix(strings.TrimLeft(l.below(1), " "), "--> ") || cargoResolving(s.Message) || cargoVerdict(s.Message)
}

// cargoVerdict tells what only sums up.
func cargoVerdict(m string) bool {
	for _, head := range []string{"could not compile ", "aborting due to ", "build failed", "test failed, to rerun", "doctest failed"} {
		if strings.HasPrefix(m, head) {
			return true
		}
	}
	if _, n := leadingNumber(m); n > 0 && (strings.HasSuffix(m, " target failed:") || strings.HasSuffix(m, " targets failed:")) {
		return true
	}
	return strings.Contains(m, " generated ") && strings.Contains(m, "warning") || strings.HasSuffix(m, "warnings emitted") || strings.HasSuffix(m, "warning emitted")
}

func rustcTail(d *diagnostic, text string) bool {
	trimmed := strings.TrimLeft(text, " ")
	switch {
	case d.stage == rustHeadline && strings.HasPrefix(trimmed, "--> "):
		p, ok := placeColon(trimmed[4:])
		if ok {
			d.stage, d.File, d.Line, d.Column = rustPlaced, p.file, p.line, p.column
		}
		return ok
	case d.stage == rustHeadline && d.lines == 0 && cargoResolving(d.Message):
		d.stage = rustResolving
		d.add(text)
		return text == "" || text[0] == ' ' || isLetter(text[0])
	case d.stage == rustResolving:
		if d.lines > 40 || !cargoProse(text) {
			return false
		}
		d.add(text)
		if strings.HasPrefix(text, "As a reminder") { // the last of it
			d.stage = rustResolved
		}
		return true
	case d.stage == rustResolved:
		return false
	case d.stage == rustHeadline:
		return d.lines == 0 && strings.HasPrefix(text, "  ") && trimmed != ""
	}
	_, n := leadingNumber(trimmed)
	switch bar := strings.TrimLeft(trimmed[n:], " "); {
	case strings.HasPrefix(bar, "|"):
		marks := text[strings.IndexByte(text, '|')+1:]
		if n > 0 {
			d.excerpt = marks
		} else if callee := rustcCallee(d, marks); callee != "" {
			d.Refs = append(d.Refs, rustcPath(symptom.Callee, callee)...)
		}
		if label := strings.TrimLeft(marks, " ^-_|"); n == 0 && strings.ContainsAny(marks, "^") && label != "" {
			d.add(label)
		}
		return true
	case strings.HasPrefix(trimmed, "= "), strings.HasPrefix(text, "help: "), strings.HasPrefix(text, "note: "):
		d.add(text)
		return true
	case strings.HasPrefix(trimmed, "--> "), strings.HasPrefix(trimmed, "::: "), text == "...", strings.HasPrefix(trimmed, "... "):
		return true
	case n > 0 && n < len(trimmed) && strings.HasPrefix(trimmed[n:], " "): // an excerpt without bar: "12 ~ code", "12 + code"
		return strings.ContainsAny(trimmed[n:min(len(trimmed), n+3)], "~+-")
	case text == "":
		return false
	}
	return strings.HasPrefix(text, "          ") // a note that goes on
}

// rustcCallee is the call that the marks below an excerpt say is at fault: the one
// with too few or too many arguments, or the method that took a value away.
func rustcCallee(d *diagnostic, marks string) string {
	if d.Named(symptom.Callee) != "" {
		return ""
	}
	at := -1
	switch {
	case d.Code == "E0061" && strings.Contains(marks, "^"):
		at = strings.IndexByte(marks, '^')
	case d.Code == "E0382" && strings.Contains(marks, "moved due to this method call"):
		at = strings.IndexByte(marks, '-')
	case d.Code == "E0382" && strings.Contains(marks, "value moved here"):
		at = strings.IndexByte(marks, '-')
		if end := at + strings.Count(before(marks[max(at, 0):], " "), "-"); at >= 0 && end < len(d.excerpt) && d.excerpt[end] == '.' {
			at = end + 1
		}
	}
	if at < 0 || at >= len(d.excerpt) {
		return ""
	}
	name := d.excerpt[at:]
	return strings.TrimRight(name[:len(name)-len(strings.TrimLeft(name, "abcdefghijklmnopqrstuvwxyzABCDEFGHIJKLMNOPQRSTUVWXYZ0123456789_:"))], ":")
}

// cargoProse reports whether a line goes on with what the resolver says.
func cargoProse(text string) bool {
	switch {
	case text == "", text[0] == ' ':
		return true
	case strings.HasPrefix(text, "As a reminder"), strings.HasPrefix(text, "Caused by:"), strings.HasPrefix(text, "Perhaps "), strings.HasPrefix(text, "If you "), strings.HasPrefix(text, "Consider "), strings.HasPrefix(text, "Try "):
		return true
	}
	_, placed := placeColon(text)
	return 'a' <= text[0] && text[0] <= 'z' && !placed && !strings.HasPrefix(text, "error") && !strings.HasPrefix(text, "warning")
}

func cargoResolving(message string) bool {
	for _, m := range cargoResolves {
		if strings.HasPrefix(message, m) {
			return true
		}
	}
	return false
}

// rustcEnds drops what only sums up, and tells what a headline alone was.
func rustcEnds(d *diagnostic, out *sink) bool {
	m := d.Message
	switch {
	case d.stage >= rustResolving:
		d.Kind, d.Phase, d.Tool = symptom.Resolve, symptom.PhaseResolve, "cargo"
		if names := backticks(m); len(names) > 0 {
			d.Refs = refs{ref(symptom.Module, firstWord(names[0]))}
		}
	case cargoVerdict(m):
		if names := backticks(m); len(names) > 0 && strings.HasPrefix(m, "could not compile ") {
			out.block(names[0])
		}
		return false
	case d.stage == rustHeadline && strings.HasPrefix(m, "expected ") || strings.Contains(m, "unclosed delimiter") || strings.Contains(m, "this file contains an un-closed"):
		d.Phase = symptom.PhaseParse
	case d.Code == "E0432" || d.Code == "E0433" && len(d.Refs) > 0 || d.Code == "E0463":
		d.Kind, d.Phase = symptom.Resolve, symptom.PhaseResolve
		if d.Code == "E0432" && strings.Contains(d.Detail, "no `") { // the module is there, the name is not
			d.Kind, d.Phase = symptom.Error, symptom.PhaseCompile
		} else if strings.HasPrefix(m, "cannot find type ") {
			d.Kind, d.Phase = symptom.Error, symptom.PhaseCompile
		} else if len(d.Refs) == 1 && d.Refs[0].Role == symptom.Missing {
			d.Refs[0].Role = symptom.Module
		}
	case d.Code == "E0308":
		d.Refs = append(d.Refs, rustTypes(d.Detail)...)
	}
	return true
}

// rustcRefs tells the names in a message by its wording.
func rustcRefs(m string) refs {
	names := backticks(m)
	if len(names) == 0 {
		return nil
	}
	owner := func(list refs) refs {
		if len(names) > 1 {
			list = append(list, ref(symptom.Owner, names[1]))
		}
		return list
	}
	switch {
	case strings.HasPrefix(m, "use of deprecated "):
		return rustcPath(symptom.Old, names[0])
	case strings.HasPrefix(m, "unresolved import"):
		return rustcPath(symptom.Missing, names[0])
	case strings.HasPrefix(m, "failed to resolve"), strings.HasPrefix(m, "can't find crate"), strings.HasPrefix(m, "use of undeclared crate"), strings.HasPrefix(m, "cannot find module or crate"), strings.HasPrefix(m, "use of unresolved module"):
		return refs{ref(symptom.Module, names[0])}
	case strings.HasPrefix(m, "cannot find "), strings.HasPrefix(m, "no method named"), strings.HasPrefix(m, "no function or associated item named"), strings.HasPrefix(m, "no field "), strings.HasPrefix(m, "no variant"), strings.HasPrefix(m, "no associated item"):
		return owner(refs{ref(symptom.Missing, names[0])})
	case strings.Contains(m, "has no field named"):
		return refs{ref(symptom.Missing, names[len(names)-1]), ref(symptom.Owner, names[0])}
	case strings.HasPrefix(m, "missing field"), strings.HasPrefix(m, "missing fields"):
		return refs{ref(symptom.Option, names[0]), ref(symptom.Expected, names[len(names)-1])}
	case strings.HasSuffix(m, " is private"):
		return owner(refs{ref(symptom.Missing, names[0])})
	case strings.HasPrefix(m, "this function takes"), strings.HasPrefix(m, "this method takes"):
		return nil
	case strings.HasPrefix(m, "not all trait items implemented"):
		return refs{ref(symptom.Expected, names[len(names)-1])}
	case strings.HasPrefix(m, "method `") && strings.Contains(m, " but the declaration in trait "), strings.HasPrefix(m, "method `") && strings.Contains(m, "incompatible type for trait"):
		return refs{ref(symptom.Callee, names[0])}
	case strings.Contains(m, "is not a member of trait"), strings.HasPrefix(m, "method `"):
		return owner(refs{ref(symptom.Missing, names[0])})
	case strings.HasPrefix(m, "the trait bound"):
		return refs{ref(symptom.Owner, names[0])}
	}
	return nil
}

// rustcPath splits a path: Shelf::<'_>::open is open, owned by Shelf.
func rustcPath(role symptom.Role, name string) refs {
	name = generics.ReplaceAllString(name, "")
	if i := strings.LastIndex(name, "::"); i > 0 {
		return refs{ref(role, name[i+2:]), ref(symptom.Owner, name[:i])}
	}
	return refs{ref(role, name)}
}

// generics are the type arguments inside of a path.
var generics = regexp.MustCompile(`::<[^>]*>`)

// rustTypes are the types of "expected `String`, found `u32`".
func rustTypes(detail string) refs {
	if names := backticks(behind(detail, "expected ")); len(names) > 1 {
		return refs{ref(symptom.Expected, names[0]), ref(symptom.Actual, names[1])}
	}
	return nil
}

// backticks lists what stands between backticks.
func backticks(m string) []string {
	var list []string
	for {
		_, rest, ok := strings.Cut(m, "`")
		name, after, closed := strings.Cut(rest, "`")
		if !ok || !closed {
			return list
		}
		list, m = append(list, name), after
	}
}

func rustcRest(b *block, l Line, out *sink) verdict {
	text := strings.TrimSpace(l.Text)
	if strings.HasPrefix(text, "For more information about ") || strings.HasPrefix(text, "Some errors have detailed explanations") || strings.HasPrefix(text, "Compiling ") {
		return noise
	}
	return pass
}
