package review

import (
	"fmt"
	"regexp"
	"slices"
	"strings"

	"unicausa/internal/core/debt"
	"unicausa/internal/core/notes"
	"unicausa/internal/core/source"
)

// What a notice is of.
const (
	DeletedCode    = "deleted-code"
	Number         = "number"
	WeakerTest     = "weaker-test"
	SkippedTest    = "skipped-test"
	Suppression    = "suppression"
	SwallowedError = "swallowed-error"
)

var (
	// test is a path of tests, as runners and people name them.
	test = regexp.MustCompile(`(?i)(^|[/_.-])(tests?|specs?|__tests__|testing)([/_.-]|$)|[a-z](Test|Tests|Spec|IT)\.\w+$|^test_|/test_`)
	// assertion is a line that holds something to be so.
	assertion = regexp.MustCompile(`(?i)\b(assert\w*|expect\w*|should\w*|require\.\w+|refute\w*|must_\w+|verify\w*|check\.\w+|t\.(Error|Errorf|Fatal|Fatalf)|XCTAssert\w*|ASSERT_\w+|EXPECT_\w+)\b|\bassert\b`)
	// head is the head of a test.
	head = regexp.MustCompile("(?:\\bfunc Test\\w+|\\bdef test_?\\w*|#\\[test\\]|@Test\\b|\\bfunction test\\w+|(?:^|\\s)(?:it|test|specify|scenario)\\s*\\(?\\s*[\"'`]|\\[(?:Fact|Theory|Test)\\b|\\bTEST(?:_F|_P)?\\()")
	// swallowed is an error that is caught, or given, and looked at by nobody.
	swallowed = regexp.MustCompile(`catch\s*(?:\([^)]*\))?\s*\{\s*\}|except[^:]*:\s*pass\b|\brescue\s+nil\b|(?:^|\s)_\s*=\s*err\b|\.unwrap_or_default\(\)|\bon error resume next\b`)
	number    = regexp.MustCompile(`^-?\d`)
)

// notices are what a reader has to look at in a block, beside what asks for it.
func (a *asker) notices(b *block, e edit, asks []Ask) []Notice {
	list := []Notice{}
	add := func(what, format string, args ...any) {
		list = append(list, Notice{What: what, Text: fmt.Sprintf(format, args...)})
	}
	if from, to := numbers(e.out), numbers(e.in); len(from) > 0 && len(to) > 0 && !slices.Equal(from, to) && !a.tells(asks, to) {
		add(Number, "%s became %s", strings.Join(clip(from), ", "), strings.Join(clip(to), ", "))
	}
	old := map[string]bool{}
	for _, line := range b.removed {
		old[strings.TrimSpace(line)] = true
	}
	for _, line := range b.added {
		if old[strings.TrimSpace(line)] {
			continue
		}
		if kind, what, ok := debt.Marked(line); ok && kind != "shim" {
			add(kind, "%s", what)
		}
		if swallowed.MatchString(line) {
			add(SwallowedError, "an error is caught, and nobody looks at it")
		}
	}
	if test.MatchString(b.path()) {
		if was, is := matches(head, b.removed), matches(head, b.added); was > is {
			add(WeakerTest, "%s gone", tests(was-is))
		} else if was, is := matches(assertion, b.removed), matches(assertion, b.added); was > is {
			add(WeakerTest, "%d of what the test asserts is gone", was-is)
		} else if was > 0 && values(e.out) && values(e.in) && !slices.ContainsFunc(list, func(n Notice) bool { return n.What == Number }) && len(asks) == 0 {
			add(WeakerTest, "what the test expects is another value")
		}
	}
	if n := a.deleted(b, e, asks); n > 0 {
		add(DeletedCode, "%s of code deleted", lines(n))
	}
	return list
}

// deleted counts the lines of code that went and that neither came back in another
// form nor hold what a note takes away.
func (a *asker) deleted(b *block, e edit, asks []Ask) int {
	if !source.Program(b.path()) || len(e.in) > len(e.out)/3 {
		return 0
	}
	n := 0
	for _, line := range b.removed {
		words := source.Tokens(b.path(), line)
		if !slices.ContainsFunc(words, func(t source.Token) bool { return t.Kind != source.Mark }) {
			continue
		}
		asked := slices.ContainsFunc(asks, func(ask Ask) bool {
			i := slices.IndexFunc(a.Changes, func(c notes.Change) bool { return c.ID == ask.Change })
			return i >= 0 && slices.ContainsFunc(words, func(t source.Token) bool { return a.sides[i].old[t.Text] }) || ask.Cause != "" && len(b.removed) == 1
		})
		if !asked {
			n++
		}
	}
	if len(asks) > 0 && n < 2 { // a line goes with what is taken away
		return 0
	}
	return max(n-len(b.added), 0)
}

func numbers(tokens []string) []string {
	var list []string
	for _, t := range tokens {
		if number.MatchString(t) {
			list = append(list, t)
		}
	}
	return list
}

// values reports whether tokens have a text or a number.
func values(tokens []string) bool {
	return slices.ContainsFunc(tokens, func(t string) bool { return number.MatchString(t) || strings.ContainsAny(t[:1], "\"'`") })
}

// tells reports whether what asks for a block tells of its new numbers.
func (a *asker) tells(asks []Ask, numbers []string) bool {
	for _, ask := range asks {
		for i := range a.Changes {
			if a.Changes[i].ID == ask.Change && !slices.ContainsFunc(numbers, func(n string) bool { return !word(a.sides[i].after, n) }) {
				return true
			}
		}
	}
	return false
}

func matches(re *regexp.Regexp, lines []string) int {
	n := 0
	for _, line := range lines {
		if re.MatchString(line) {
			n++
		}
	}
	return n
}

func clip(list []string) []string {
	if len(list) > 4 {
		return append(slices.Clone(list[:4]), "…")
	}
	return list
}

func tests(n int) string {
	if n == 1 {
		return "a test is"
	}
	return fmt.Sprintf("%d tests are", n)
}

func lines(n int) string {
	if n == 1 {
		return "a line"
	}
	return fmt.Sprintf("%d lines", n)
}
