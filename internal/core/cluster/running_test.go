package cluster

import (
	"fmt"
	"strings"
	"testing"

	"unicausa/internal/core/symptom"
)

// mocha writes failures as mocha lists them: "title | message | frames", a frame
// being "function file:line" and the lines of a message parted by slashes.
func mocha(failures ...string) string {
	var b strings.Builder
	for i, f := range failures {
		parts := strings.Split(f, " | ")
		fmt.Fprintf(&b, "  %d) Shelf\n       %s:\n     %s\n", i+1, parts[0], strings.ReplaceAll(parts[1], "//", "\n"))
		for _, frame := range parts[2:] {
			function, place, _ := strings.Cut(frame, " ")
			fmt.Fprintf(&b, "      at %s (%s:1)\n", function, place)
		}
		b.WriteString("\n")
	}
	return b.String()
}

// unequal is the message of a comparison that failed.
func unequal(actual, expected string) string {
	return "AssertionError [ERR_ASSERTION]: Expected values to be strictly equal:////" + actual + " !== " + expected + "////      + expected - actual////      -" + actual + "//      +" + expected + "//"
}

// TestGroupOfRunning holds what joins failures of programs that run, and what keeps
// them apart.
func TestGroupOfRunning(t *testing.T) {
	const shelf = `
-- src/shelf.js --
const { jars } = require('./store');
function width(n) {
  return jars().measure(n);
}
function ask(words) {
  return jars().find(words);
}
module.exports = { width, ask };
-- src/store.js --
const jar = require('jar');
function jars() {
  return jar.open('cellar');
}
module.exports = { jars };
-- test/shelf.test.js --
const { width, ask } = require('../src/shelf');
it('is wide', () => {
  equal(width(4), 3);
});
it('is wider', () => {
  equal(width(8), 5);
});
it('finds lids', () => {
  equal(ask('lids of rye'), 3);
});
it('finds labels', () => {
  equal(ask('labels of rye'), 'blue');
});
it('finds twine', () => {
  equal(ask('twine of rye'), 2);
});
`
	for _, test := range []struct{ name, source, log, want string }{
		{
			"tests of one function", shelf,
			mocha("is wide | "+unequal("4", "3")+" | Context.<anonymous> test/shelf.test.js:3", "is wider | "+unequal("8", "5")+" | Context.<anonymous> test/shelf.test.js:6"),
			"measure: is wide is wider",
		},
		{
			"what is missing in what a factory of the project's returns", `
-- src/shelf.js --
const { jars } = require('./store');
const a = () => jars().lids().map(close);
const b = () => jars().lids().reduce(count);
-- src/store.js --
const jar = require('jar');
function jars() {
  return jar.open('cellar');
}
module.exports = { jars };
`,
			mocha("closes | TypeError: jars(...).lids(...).map is not a function | a src/shelf.js:2", "counts | TypeError: jars(...).lids(...).reduce is not a function | b src/shelf.js:3"),
			"map: closes counts",
		},
		{
			"one exception, its class on a line of its own", "",
			"[ERROR] pantry.ShelfTest.opens -- Time elapsed: 0.01 s <<< ERROR!\njar.JarSyntaxException: \nSyntax error in \"LID [*]user\"; expected \"name\"\n\tat pantry.ShelfTest.opens(ShelfTest.java:9)\n\n" +
				"[ERROR] pantry.ShelfTest.shuts -- Time elapsed: 0.01 s <<< ERROR!\njar.JarSyntaxException: \nSyntax error in \"LID [*]user\"; expected \"name\"\n\tat pantry.ShelfTest.shuts(ShelfTest.java:19)\n\n",
			": opens shuts",
		},
		{
			"tests that were called off with their suite", "",
			"TAP version 13\n# Subtest: shelf\n    # Subtest: opens\n    not ok 1 - opens\n      ---\n      failureType: 'cancelledByParent'\n      error: 'test did not finish before its parent and was cancelled'\n      code: 'ERR_TEST_FAILURE'\n      ...\n    1..1\nnot ok 1 - shelf\n  ---\n  failureType: 'hookFailed'\n  error: 'the lid of jar 12 is stuck'\n  code: 'ERR_TEST_FAILURE'\n  ...\n1..1\n",
			": shelf └shelf > opens",
		},
		{
			"a file that could not be run, below the crash that it printed", "",
			"TAP version 13\n# /pantry/node_modules/jar/index.js:30\n#     throw new Error('the lid is stuck');\n#     ^\n# Error: the lid is stuck\n#     at open (/pantry/node_modules/jar/index.js:30:9)\n#     at shelf (/pantry/src/shelf.js:8:10)\n# Node.js v20.20.2\n" +
				"# Subtest: test/shelf.test.js\nnot ok 1 - test/shelf.test.js\n  ---\n  location: 'test/shelf.test.js:1:1'\n  failureType: 'testCodeFailure'\n  error: 'test failed'\n  code: 'ERR_TEST_FAILURE'\n  ...\n1..1\n",
			": shelf.js:8 └test/shelf.test.js",
		},
	} {
		t.Run(test.name, func(t *testing.T) {
			ctx := &Context{Subjects: []string{"jar"}, Names: setOf("")}
			if got := drawn(Group(t.Context(), gather(t, test.log, files(test.source), ctx), ctx)); got != test.want {
				t.Errorf("got\n%s\nwant\n%s", got, test.want)
			}
		})
	}
}

// TestDifference holds which differences two tests can share.
func TestDifference(t *testing.T) {
	for _, pair := range []struct {
		a, b  string
		alike bool
	}{
		{"expected: <3> but was: <2>", "expected: <30> but was: <24>", false},
		{"expected: <11> but was: <4>", "expected: <30> but was: <24>", true},
		{"expected: <24> but was: <30>", "expected: <30> but was: <24>", false},
		{"expected: <2.35> but was: <2>", "expected: <6.20> but was: <6>", true},
		{"expected: <0.5> but was: <0.500>", "expected: <6.20> but was: <6>", false},
		{"expected: <rye> but was: <24>", "expected: <30> but was: <24>", false},
		{"expected: <rye> but was: <24>", "expected: <oat> but was: <30>", true},
		{"expected: <[PRICE]> but was: <[]>", "expected: <1> but was: <1.5>", false},
	} {
		one, other := difference(failed(pair.a)), difference(failed(pair.b))
		if one == "" || other == "" || (one == other) != pair.alike {
			t.Errorf("%s is %q, %s is %q", pair.a, one, pair.b, other)
		}
	}
}

func failed(message string) *symptom.Symptom {
	return &symptom.Symptom{Kind: symptom.TestFailure, Message: message}
}
