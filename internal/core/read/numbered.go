package read

import (
	"regexp"
	"slices"
	"strings"

	"unicausa/internal/core/symptom"
)

// numbered reads the printers that list failures with numbers at their end:
//
//  1. Shelf opens the lid                           RSpec
//     Failure/Error: expect(jar.lids).to eq(2)
//     # ./spec/shelf_spec.rb:12:in `block …'
//  1. Shelf                                         mocha
//     opens the lid:
//     AssertionError: …
//  1. Failure:                                      minitest
//     ShelfTest#test_opens [test/shelf_test.rb:12]:
//  1. Shelves\ShelfTest::testOpens                    PHPUnit
//     Failed asserting that 1 matches expected 2.
//     /p/tests/ShelfTest.php:12
//  1. test opens the lid (ShelfTest)                ExUnit
//     test/shelf_test.exs:12
//
// Formats: the documentation formatters of these tools. Where mocha's tree has
// the number only, the list at its end is the fuller one.
type numbered struct {
	open   *symptom.Symptom
	indent int
	from   int
	end    int
	lines  []string
	title  string
	what   string // of PHPUnit's list: errors, failures, deprecations …
	failed int
}

var numberedReader = stream{name: "numbered failures", marks: []string{"0) ", "1) ", "2) ", "3) ", "4) ", "5) ", "6) ", "7) ", "8) ", "9) ", "^There was 1 ", "^There were ", " failures", " failure, ", "^rspec ./", "^Failures:", "^Pending: (", "^Failed examples", "^Tests: ", "^An error occurred while loading", "^FAILURES!", "^ERRORS!"}, open: func() lineReader { return &numbered{} }}

func (n *numbered) listening() bool { return n.open != nil }

// numberHead reads "  12) title".
func numberHead(text string) (indent int, title string, ok bool) {
	trimmed := strings.TrimLeft(text, " ")
	_, length := leadingNumber(trimmed)
	title, ok = strings.CutPrefix(trimmed[length:], ") ")
	return len(text) - len(trimmed), title, ok && length > 0 && length < 6 && title != ""
}

func (n *numbered) line(l Line, out *sink) verdict {
	if indent, title, ok := numberHead(l.Text); ok && (n.open == nil || indent <= n.indent || indent <= 4) && (indent <= 2 || indent%2 == 0) {
		n.finish(out)
		n.open = &symptom.Symptom{Kind: symptom.TestFailure, Phase: symptom.PhaseTest}
		n.title, n.indent, n.from, n.end, n.lines = title, indent, l.Number, l.Number, nil
		return took
	}
	if n.open != nil {
		if !n.ended(l.Text) || n.compares(l) {
			if len(n.lines) < 2000 {
				n.lines = append(n.lines, l.Text)
			}
			if l.Text != "" {
				n.end = l.Number
			}
			return took
		}
		n.finish(out)
	}
	return n.between(l, out)
}

// ended reports whether a line stands behind the open failure.
func (n *numbered) ended(text string) bool {
	for _, mark := range []string{"Finished in ", "FAILURES!", "ERRORS!", "WARNINGS!", "OK, but", "Tests: ", "There was ", "There were ", "--", "Failed examples:", "Deprecation Warnings:", "Top ", "An error occurred while loading "} {
		if strings.HasPrefix(text, mark) && (mark != "--" || text == "--") {
			return true
		}
	}
	if _, ok := counted(text, "run"); ok && strings.Contains(text, " assertions, ") {
		return true
	}
	if n.indent > 0 && text != "" && text[0] != ' ' && n.title != "Failure:" && n.title != "Error:" {
		return true
	}
	if n.indent >= 2 && n.blank() && text != "" { // mocha's tree: nothing belongs to the number
		return len(text)-len(strings.TrimLeft(text, " ")) <= n.indent && n.title != "Failure:" && n.title != "Error:"
	}
	return false
}

// compares reports whether a line at the left edge is of a message that the runtime
// wrote out: mocha's own comparison or the stack, in its indentation, is still to come.
func (n *numbered) compares(l Line) bool {
	if n.blank() || l.Text == "" || strings.HasPrefix(l.Text, " ") {
		return false
	}
	written := l.Text == sidesOfNode || strings.IndexByte("+-", l.Text[0]) >= 0 && slices.Contains(n.lines, sidesOfNode) && !strings.HasPrefix(strings.TrimSpace(n.lines[len(n.lines)-1]), "at ")
	for k := 1; k <= longestComparison; k++ {
		text := l.below(k)
		trimmed := strings.TrimLeft(text, " ")
		if trimmed == "+ expected - actual" || written && strings.HasPrefix(trimmed, "at ") {
			return len(text)-len(trimmed) > n.indent
		}
		if _, _, ok := numberHead(text); ok {
			return false
		}
	}
	return false
}

// sidesOfNode is the line above a comparison of Node's assert module.
const sidesOfNode = "+ actual - expected"

// longestComparison is how many lines of a comparison may stand at the left
// edge before mocha's.
const longestComparison = 60

// blank reports whether nothing stands below the number so far.
func (n *numbered) blank() bool {
	for _, line := range n.lines {
		if line != "" {
			return false
		}
	}
	return true
}

// between takes what stands around the failures.
func (n *numbered) between(l Line, out *sink) verdict {
	text := strings.TrimSpace(l.Text)
	switch {
	case strings.HasPrefix(text, "There was 1 "), strings.HasPrefix(text, "There were "):
		fields := strings.Fields(strings.TrimSuffix(text, ":"))
		n.what = strings.Join(fields[min(3, len(fields)):], " ")
		return noise
	case strings.HasPrefix(text, "Tests: ") && strings.Contains(text, "Assertions: "):
		total := 0
		for _, part := range strings.Split(strings.TrimSuffix(text, "."), ", ") {
			name, value, _ := strings.Cut(part, ": ")
			if c, m := leadingNumber(value); m > 0 && (name == "Failures" || name == "Errors") {
				total += c
			}
		}
		out.state(l.Number, "failures", total, n.failed)
		n.failed, n.what = 0, ""
		out.finished("phpunit")
		return noise
	case strings.HasPrefix(text, "FAILURES!"), strings.HasPrefix(text, "ERRORS!"), strings.HasPrefix(text, "rspec ./"), strings.HasPrefix(text, "Failed examples:"):
		return noise
	case strings.HasPrefix(text, "Pending: ("), strings.HasPrefix(text, "Failures:"):
		n.what = strings.ToLower(before(text, ":"))
		return noise
	case strings.HasPrefix(text, "An error occurred while loading "):
		n.open = &symptom.Symptom{Kind: symptom.TestFailure, Phase: symptom.PhaseTest, Tool: "rspec", Unit: strings.TrimSuffix(before(strings.TrimPrefix(text, "An error occurred while loading "), " - "), ".")}
		n.title, n.indent, n.from, n.end, n.lines = "", 0, l.Number, l.Number, nil
		return took
	}
	if !strings.Contains(text, " failure") {
		return pass
	}
	if c, ok := counted(text, "failure"); ok && !strings.HasPrefix(text, "Executed ") && (strings.Contains(text, " examples, ") || strings.Contains(text, " example, ") || strings.Contains(text, " assertions, ") || strings.Contains(text, " tests, ")) {
		if e, ok := counted(text, "error"); ok && !strings.Contains(text, "error occurred outside") && !strings.Contains(text, "errors occurred outside") {
			c += e
		}
		out.state(l.Number, "failures", c, n.failed)
		n.failed = 0
		return noise
	}
	return pass
}

func (n *numbered) finish(out *sink) {
	s := n.open
	n.open = nil
	if s == nil {
		return
	}
	for len(n.lines) > 0 && strings.TrimSpace(n.lines[len(n.lines)-1]) == "" {
		n.lines = n.lines[:len(n.lines)-1]
	}
	at := n.from
	body := n.lines
	switch {
	case n.title == "" && s.Tool == "rspec":
		for len(body) > 1 && !strings.Contains(body[0], "Failure/Error:") {
			body = body[1:]
		}
		s.Message = numberedMessage(s.Tool, body)
		for i, line := range n.lines { // its own message stands below the code
			if said := strings.TrimSpace(line); len(said) > 3 && strings.HasSuffix(s.Message, said) {
				at = n.from + 1 + i
				break
			}
		}
		n.failed--
		out.block(s.Unit)
	case len(body) == 0:
		return // mocha's tree
	case n.what == "pending":
		out.testOutcome(symptom.Test{Name: n.title, Outcome: symptom.Skipped})
		return
	case n.title == "Failure:" || n.title == "Error:":
		s.Tool = "minitest"
		head := strings.TrimSuffix(strings.TrimSpace(body[0]), ":")
		name, where, _ := strings.Cut(head, " [")
		s.Unit, s.Test, _ = strings.Cut(name, "#")
		if p, ok := placeColon(strings.TrimSuffix(where, "]")); ok {
			s.File, s.Line = p.file, p.line
		}
		at, body = at+1, body[1:]
	case strings.HasSuffix(n.title, ")") && strings.Contains(n.title, " (") && exunitPlace(body[0]):
		s.Tool = "exunit"
		i := strings.LastIndex(n.title, " (")
		s.Test, s.Unit = n.title[:i], strings.TrimSuffix(n.title[i+2:], ")")
		if p, ok := placeColon(strings.TrimSpace(body[0])); ok {
			s.File, s.Line = p.file, p.line
		}
		body = body[1:]
	case n.indent == 0 && strings.Contains(n.title, "::"):
		s.Tool = "phpunit"
		s.Unit, s.Test, _ = strings.Cut(n.title, "::")
	case n.indent == 0 && junitTitle.MatchString(n.title):
		s.Tool = "junit"
		s.Test, s.Unit, _ = strings.Cut(strings.TrimSuffix(n.title, ")"), "(")
	case n.indent == 0 && !told(body):
		n.listed(s, body, out)
		return
	case n.indent == 0:
		s.Tool, s.Test = "tests", n.title
		body = unlabelled(body)
	case mochaTitle(body) > 0:
		s.Tool = "mocha"
		k := mochaTitle(body)
		parts := []string{n.title}
		for _, line := range body[:k] {
			parts = append(parts, strings.TrimSpace(line))
		}
		at += k
		s.Test = strings.TrimSuffix(parts[len(parts)-1], ":")
		s.Unit = strings.Join(parts[:len(parts)-1], " ")
		body = body[k:]
	case strings.HasSuffix(n.title, ":"):
		s.Tool, s.Test = "mocha", strings.TrimSuffix(n.title, ":")
	default:
		s.Tool, s.Test = "rspec", n.title
	}
	n.tell(s, body, at, out)
}

// told reports whether an entry's body gives a message and a stack, as those of
// failed tests do: under labels, or with frames.
func told(body []string) bool {
	for _, line := range body {
		t := strings.TrimSpace(line)
		if t == "Message:" || t == "Stack:" {
			return true
		}
		if f, ok := anyFrame(t); ok && f.Own && line != t {
			return true
		}
	}
	return false
}

// unlabelled is a body without the labels above its message and its stack.
func unlabelled(body []string) []string {
	var lines []string
	for _, line := range body {
		if t := strings.TrimSpace(line); t != "Message:" && t != "Stack:" {
			lines = append(lines, line)
		}
	}
	return lines
}

// junitTitle is a failed test as JUnit 4's text runner lists it: shuts(org.example.JarTest).
var junitTitle = regexp.MustCompile(`^[\w$]+(\[[^\]]*\])?\([\w$.]+\)$`)

func exunitPlace(line string) bool {
	p, ok := placeColon(strings.TrimSpace(line))
	return ok && p.rest == "" && extension(p.file, ".exs")
}

// mochaTitle counts the lines below the number that go on with the title: the
// last of them ends with a colon.
func mochaTitle(body []string) int {
	for k, line := range body {
		if strings.TrimSpace(line) == "" || k > 6 {
			return 0
		}
		if strings.HasSuffix(line, ":") && !strings.Contains(line, "Failure/Error") {
			return k + 1
		}
	}
	return 0
}

// tell completes a failure by its body.
func (n *numbered) tell(s *symptom.Symptom, body []string, at int, out *sink) {
	text := strings.Join(body, "\n")
	s.Detail = text
	if s.Message == "" {
		s.Message = numberedMessage(s.Tool, body)
	}
	file, line := s.File, s.Line
	failure(s, strings.ReplaceAll(text, "     # ", ""))
	if s.Tool == "exunit" {
		for i := len(body) - 1; i >= 0; i-- {
			f, ok := elixirFrame(strings.TrimSpace(body[i]))
			if !ok {
				break
			}
			s.Frames = append([]symptom.Frame{f}, s.Frames...)
		}
		for _, f := range s.Frames {
			if f.Own && f.Line > 0 {
				s.File, s.Line = f.File, f.Line
				break
			}
		}
	}
	if s.File == "" {
		s.File, s.Line = file, line
	}
	if n.what == "" || strings.HasPrefix(n.what, "failure") || strings.HasPrefix(n.what, "error") {
		n.failed++
	}
	if s.Test != "" {
		out.testOutcome(symptom.Test{Suite: s.Unit, Name: s.Test, Outcome: symptom.Failed})
	}
	out.add(*s, at, max(at, n.end))
}

// numberedMessage is the line that says what went wrong.
func numberedMessage(tool string, body []string) string {
	for i, line := range body {
		t := strings.TrimSpace(line)
		if t == "" {
			continue
		}
		if rest, ok := strings.CutPrefix(t, "Failure/Error:"); ok { // the code; what it came to stands below
			var said []string
			code := i + 1
			for rest == "" && code < len(body) && strings.TrimSpace(body[code]) != "" { // of several lines
				code++
			}
			for _, more := range body[min(code, len(body)):] {
				m := strings.TrimSpace(more)
				if strings.HasPrefix(m, "# ") || m == "" && len(said) > 0 {
					break
				}
				if m != "" {
					said = append(said, m)
				}
			}
			if len(said) == 0 {
				return strings.TrimSpace(rest)
			}
			if len(said) > 1 && strings.HasSuffix(said[0], ":") && !strings.HasPrefix(said[0], "expected") {
				return said[0] + " " + said[1]
			}
			if len(said) > 1 && strings.HasPrefix(said[0], "expected:") {
				return said[0] + ", " + said[1]
			}
			return said[0]
		}
		if tool == "minitest" && strings.HasPrefix(t, "Expected: ") && i+1 < len(body) {
			return t + ", " + strings.TrimSpace(body[i+1])
		}
		return t
	}
	return "failed"
}

// listed takes an entry that is no test: PHPUnit's lists of deprecations and
// warnings name a place or a test first.
func (n *numbered) listed(s *symptom.Symptom, body []string, out *sink) {
	p, ok := placeColon(n.title)
	if !ok {
		return
	}
	s.Kind, s.Level, s.Phase, s.Tool = symptom.Warning, "warning", symptom.PhaseRun, "phpunit"
	if strings.Contains(n.what, "deprecation") {
		s.Kind = symptom.Deprecation
	}
	s.File, s.Line = p.file, p.line
	s.Message = strings.TrimSpace(body[0])
	out.add(*s, n.from, n.end)
}

func (n *numbered) close(out *sink) { n.finish(out) }
