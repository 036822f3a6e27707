package cluster

import (
	"strings"

	"unicausa/internal/core/source"
)

// unspecific tells names that say nothing of what a line is about.
func unspecific(name string) bool {
	lower := strings.ToLower(name)
	for _, word := range []string{"assert", "expect", "refute", "should"} {
		if strings.HasPrefix(lower, word) {
			return true
		}
	}
	return common[lower]
}

// Common tells words of code that say nothing of what it is about: those of
// languages, of their standard libraries and of test frameworks.
func Common(word string) bool { return unspecific(word) || helpers[strings.ToLower(word)] }

// helpers are what standard libraries and small variables are called.
var helpers = setOf(`err errs resp res req fmt args argv ctx msg idx len cap append println sprintf fprintf printf errorf fatalf getmessage hashcode tostring valueof second first
		strings strconv bytes math list map array string helper result results value values data tmp foo bar`)

// common are names that every program has, and those of test frameworks: they
// say nothing of what a line is about.
var common = setOf(`if else for foreach while switch case match when return new class def func function fn fun let const var val this self super
		import require require_relative include using exports default async await yield throw throws try catch except finally raise assert print println printf
		string int integer float double bool boolean void char byte long none null nil true false undefined
		test tests it describe expect should context setup teardown before after beforeeach aftereach tobe toequal tohavelength tostrictequal tobenull tobetruthy tothrow not
		assertequals assertsame asserttrue assertfalse assertcount assertnull assertnotnull assertthat assertequal assert_eq assert_ne assert_equal assert_in_delta assert_nil assert_match
		assert_operator assert_kind_of refute equal deepequal strictequal ok len size_t length tostring to_s format errorf fatalf error fatal log console info debug warn
		public private protected static final abstract override virtual readonly struct enum interface trait impl mut typeof instanceof sizeof and not with lambda pass
		float32 float64 int8 int16 int32 int64 uint uint8 uint16 uint32 uint64 uintptr rune complex64 complex128 usize isize u8 u16 u32 u64 u128 i8 i16 i32 i64 i128 f32 f64 str unsigned signed short auto register volatile extern wchar_t size_t
		testing main namespace end then unless elsif begin rescue ensure puts end_with start_with`)

// builtin tells the exceptions that a language itself has, by their name.
func builtin(name string) bool {
	return capital(name) && (strings.HasSuffix(name, "Error") || strings.HasSuffix(name, "Exception")) || languageTypes[name]
}

// languageTypes are those that languages and their standard libraries have.
var languageTypes = setOf(`Math Date JSON Number String Boolean Array Object Promise Map Set Symbol Intl Error RegExp Vec Option Some None Ok Err Result Box Arc Rc Self System Integer Long Double Float List Collections Arrays Objects Optional Stream Enum Kernel Regex Keyword Map Struct Hash Time Comparable Class Module`)

// plainWord reports whether a name is a word that any code may have: small
// letters and nothing else.
func plainWord(name string) bool {
	return strings.Trim(name, "abcdefghijklmnopqrstuvwxyz") == ""
}

// builtinTypes are what runtimes call the types of plain values: what such a value
// lacks is a matter of who returned it.
var builtinTypes = setOf(`dict list str tuple set int float bool bytes nonetype generator coroutine object array string number boolean hash nilclass integer symbol null undefined function`)

func isComment(text string) bool {
	text = strings.TrimSpace(text)
	return strings.HasPrefix(text, "//") || strings.HasPrefix(text, "/*") || strings.HasPrefix(text, "* ") || strings.HasPrefix(text, "# ")
}

func capital(name string) bool { return name != "" && name[0] >= 'A' && name[0] <= 'Z' }

// isMember reports whether the name at a column (1-based) is asked of what
// stands before it.
func isMember(text string, column int) bool {
	head := text[:min(column-1, len(text))]
	for _, mark := range []string{".", "->", "::", "?."} {
		if strings.HasSuffix(head, mark) && !strings.HasSuffix(head, "..") {
			return true
		}
	}
	return false
}

// nested reports whether a name stands among the arguments of a call that is not
// one of a test framework.
func nested(text string, n source.Name) bool {
	for _, outer := range source.Names(text) {
		if outer.Column >= n.Column {
			return false
		}
		if outer.Call && !unspecific(outer.Text) && source.Holds(text, outer.Column+len(outer.Text), n.Column) {
			return true
		}
	}
	return false
}

// continued reports whether a member is asked of a name, or of what it returns.
func continued(text string, n source.Name) bool {
	at := min(n.Column-1+len(n.Text), len(text))
	if strings.HasPrefix(text[at:], "(") {
		depth := 0
		for ; at < len(text); at++ {
			if text[at] == '(' {
				depth++
			} else if text[at] == ')' {
				if depth--; depth == 0 {
					at++
					break
				}
			}
		}
	}
	rest := text[at:]
	if capital(n.Text) { // (new Jar()).open()
		rest = strings.TrimLeft(rest, ")")
	}
	for _, mark := range []string{".", "->", "::", "?."} {
		if strings.HasPrefix(rest, mark) && len(rest) > len(mark) && wordByte(rest[len(mark)]) {
			return true
		}
	}
	return false
}

func wordByte(c byte) bool {
	return c == '_' || c == '$' || 'a' <= c && c <= 'z' || 'A' <= c && c <= 'Z' || '0' <= c && c <= '9' || c >= 0x80
}

func lastByte(s string) byte {
	if s == "" {
		return 0
	}
	return s[len(s)-1]
}

func setOf(words string) map[string]bool {
	set := map[string]bool{}
	for _, word := range strings.Fields(words) {
		set[word] = true
	}
	return set
}
