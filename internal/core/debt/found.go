// Package debt finds what was put off: marks in the code by which a warning, an
// error or a test was silenced, shims, and the workarounds that people noted;
// and tells when one of them comes due.
package debt

import (
	"path"
	"regexp"
	"strings"

	"unicausa/internal/core/source"
)

// Found is a line, new since the baseline, by which something was silenced or
// worked around.
type Found struct {
	File string `json:"file"`
	Line int    `json:"line"` // 1-based
	Code string `json:"code"` // the line, without the space around it
	Kind string `json:"kind"` // "suppression", "skipped-test" or "shim"
	What string `json:"what"` // in words
}

// mark is a form in which compilers, linters and test runners are told to look
// away. Each stands in the tool's own documentation.
type mark struct {
	kind, what string
	form       *regexp.Regexp
}

var marks = []mark{
	{"suppression", "the Go linters look away", regexp.MustCompile(`//\s*(nolint|lint:ignore)\b`)},
	{"suppression", "the TypeScript compiler looks away", regexp.MustCompile(`@ts-(ignore|expect-error|nocheck)\b`)},
	{"suppression", "the linter looks away", regexp.MustCompile(`\b(eslint-disable|biome-ignore|tslint:disable|stylelint-disable|oxlint-disable)`)},
	{"suppression", "the type checker looks away", regexp.MustCompile(`#\s*(type:\s*ignore|pyright:\s*ignore|mypy:\s*ignore)`)},
	{"suppression", "the linter looks away", regexp.MustCompile(`#\s*(noqa\b|pylint:\s*disable|ruff:\s*noqa|rubocop:disable|standard:disable|credo:disable)`)},
	{"suppression", "warnings are filtered", regexp.MustCompile(`\b(filterwarnings|simplefilter)\s*\(\s*["']ignore|^\s*["']?ignore::?[A-Z]?\w*Warning`)},
	{"suppression", "the compiler looks away", regexp.MustCompile(`@(SuppressWarnings|Suppress|SuppressLint|nowarn)\b`)},
	{"suppression", "the compiler looks away", regexp.MustCompile(`#!?\[allow\(|#\[expect\(`)},
	{"suppression", "the compiler looks away", regexp.MustCompile(`#pragma\s+(warning\s+disable|GCC diagnostic ignored|clang diagnostic ignored|warning\s*\(\s*disable)`)},
	{"suppression", "the analyser looks away", regexp.MustCompile(`@(phpstan-ignore|psalm-suppress)|\bphpcs:(ignore|disable)`)},
	{"suppression", "deprecations are silenced", regexp.MustCompile(`error_reporting\s*\(.*~\s*E_(USER_)?DEPRECATED|\bsilence_deprecation|-W(no-|ignore)deprecat|-Wno-\w+|NODE_NO_WARNINGS|--no-deprecation`)},
	{"skipped-test", "a test is skipped", regexp.MustCompile(`\bt\.Skip(f|Now)?\(|@pytest\.mark\.(skip|skipif|xfail)\b|@unittest\.(skip|expectedFailure)|\b(it|test|describe)\.(skip|todo|failing|fixme)\(|\bx(it|test|describe)\(`)},
	{"skipped-test", "a test is skipped", regexp.MustCompile(`@(Disabled|Ignore)\b|#\[ignore|\bmarkTest(Skipped|Incomplete)\(|@tag\s+:skip|\[(Fact|Theory|Test)\s*\(.*Skip\s*=|\bGTEST_SKIP\(|\bDISABLED_\w+`)},
	{"shim", "a stand-in or a shim", regexp.MustCompile(`(?i)\b(compat(ibility)?[ _-]?(shim|layer|mode)|shim|polyfill|stand-in|monkey[ _-]?patch(es|ed)?|workaround|work[ -]around)\b`)},
}

// mostFound bounds the list.
const mostFound = 500

// Added finds the marks that the lines of a tree have and those of the
// baseline's tree do not, in the order of the files. A line that only moved is
// not new. Without a baseline's tree nothing can be told.
func Added(before, after *source.Tree) []Found {
	list := []Found{}
	if before == nil || after == nil {
		return list
	}
	for _, file := range after.Files() {
		if prose[strings.ToLower(path.Ext(file))] {
			continue
		}
		var old map[string]int // lines of the baseline's file
		for n, line := range after.Lines(file) {
			if len(line) > 1000 {
				continue
			}
			m := marked(line)
			if m == nil {
				continue
			}
			if old == nil {
				old = map[string]int{}
				for _, l := range before.Lines(file) {
					old[strings.TrimSpace(l)]++
				}
			}
			code := strings.TrimSpace(line)
			if old[code] > 0 {
				old[code]--
				continue
			}
			if list = append(list, Found{File: file, Line: n + 1, Code: code, Kind: m.kind, What: m.what}); len(list) == mostFound {
				return list
			}
		}
	}
	return list
}

// prose are the files that tell of shims without being any.
var prose = map[string]bool{".md": true, ".rst": true, ".txt": true, ".adoc": true, ".html": true, ".lock": true}

// Marked tells of a line by which something is silenced or worked around, which kind
// that is and what it says in words.
func Marked(line string) (kind, what string, ok bool) {
	if m := marked(line); m != nil {
		return m.kind, m.what, true
	}
	return "", "", false
}

func marked(line string) *mark {
	for i := range marks {
		if marks[i].form.MatchString(line) {
			return &marks[i]
		}
	}
	return nil
}
