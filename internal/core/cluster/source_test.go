package cluster

import (
	"fmt"
	"path"
	"regexp"
	"sort"
	"strings"
	"testing"
	"testing/fstest"

	"unicausa/internal/core/symptom"
)

var heading = regexp.MustCompile(`(?m)^-- (\S+) --\n`)

// files reads a tree written as "-- name --" before the text of each file.
func files(text string) fstest.MapFS {
	tree := fstest.MapFS{}
	at := heading.FindAllStringSubmatchIndex(text, -1)
	for i, m := range at {
		end := len(text)
		if i+1 < len(at) {
			end = at[i+1][0]
		}
		tree[text[m[2]:m[3]]] = &fstest.MapFile{Data: []byte(text[m[1]:end])}
	}
	return tree
}

// drawn writes causes as "name: place place └place", where a place is a test
// or a file and its line, and name what the cause is about.
func drawn(causes []Cause) string {
	var lines []string
	for _, c := range causes {
		var members []string
		for _, m := range c.Members {
			place := m.Symptom.Test
			if place == "" {
				place = fmt.Sprintf("%s:%d", path.Base(m.Symptom.File), m.Symptom.Line)
			}
			if m.Follower {
				place = "└" + place
			}
			members = append(members, place)
		}
		sort.Strings(members)
		lines = append(lines, c.About()+": "+strings.Join(members, " "))
	}
	sort.Strings(lines)
	return strings.Join(lines, "\n")
}

// TestGroupOnSource holds what is read in the source where a message leaves
// out what it is about: under the caret, behind a variable, through the
// project's own functions.
func TestGroupOnSource(t *testing.T) {
	for _, test := range []struct {
		name, source, log string
		names             []string // that the notes mention
		passed            []string
		want              string
	}{
		{
			"the call under the caret, not what it is given", `
-- a.ts --
import { open, lid } from "jar";
export const x = open(lid("x"), 3);
export const y = open(lid("y"), 3);
`, `a.ts(2,33): error TS2345: Argument of type 'number' is not assignable to parameter of type 'string'.
a.ts(3,27): error TS2345: Argument of type 'string' is not assignable to parameter of type 'Size'.
`, nil, nil, `
lid: a.ts:3
open: a.ts:2
`,
		},
		{
			"a variable, followed to what made it", `
-- shelf/a.go --
package shelf

import "jar"

func a() int {
	lid := jar.Open("x")
	return lid
}

func b() (int, string) {
	size, word := jar.Measure("x"), "x"
	return word, size
}
`, `# shelf
shelf/a.go:7:9: cannot use lid (variable of type string) as int value in return statement
shelf/a.go:12:15: cannot use size (variable of type int) as string value in return statement
`, nil, nil, `
Measure: a.go:12
Open: a.go:7
`,
		},
		{
			"a name that what a call returned does not have", `
-- src/a.rs --
use jar::Shelf;

fn count(shelf: &Shelf) -> usize {
    shelf.lids().len()
}

fn names(shelf: &Shelf) -> usize {
    shelf.names(1).len()
}
`, "error[E0599]: no method named `len` found for opaque type `impl Iterator` in the current scope\n --> src/a.rs:4:18\n  |\n\n" +
				"error[E0599]: no method named `len` found for opaque type `impl Iterator` in the current scope\n --> src/a.rs:8:20\n  |\n\n", []string{"lids", "names"}, nil, `
len: a.rs:4
len: a.rs:8
`,
		},
		{
			"tests that fail reach it, those that pass do not", `
-- shelf.go --
package shelf

import "jar"

func weigh(n int) int {
	box := jar.Make(n)
	return jar.Round(n)
}

func shut(n int) int {
	box := jar.Make(n)
	return jar.Close(n)
}
-- shelf_test.go --
package shelf

import "testing"

func TestWeigh(t *testing.T) {
	if got := weigh(3); got != 4 {
		t.Errorf("got %d, want 4", got)
	}
}

func TestShut(t *testing.T) {
	if got := shut(3); got != 3 {
		t.Errorf("got %d, want 3", got)
	}
}
`, "--- FAIL: TestWeigh (0.00s)\n    shelf_test.go:7: got 3, want 4\nFAIL\nFAIL\tshelf\t0.1s\n", nil, []string{"TestShut"}, `
Round: TestWeigh
`,
		},
		{
			"tests that fail on one line of a helper", `
-- test/help.js --
const jar = require("jar");
exports.setUp = function () {
  return boil();
};
-- test/a.test.js --
const { setUp } = require("./help");
it("boils", () => {
  setUp();
});
it("cools", () => {
  setUp();
});
`, `<testsuite name="s" failures="2"><testcase name="boils"><failure message="no lid">Error: no lid
    at setUp (test/help.js:3:10)
    at Context.&lt;anonymous&gt; (test/a.test.js:3:3)</failure></testcase><testcase name="cools"><failure message="no lid">Error: no lid
    at setUp (test/help.js:3:10)
    at Context.&lt;anonymous&gt; (test/a.test.js:6:3)</failure></testcase></testsuite>`, nil, nil, `
: boils cools
`,
		},
		{
			"the function of a package that threw", `
-- a.py --
import jar


def fill():
    return jar.open(3)
`, `=================================== FAILURES ===================================
__________________________________ test_fill ___________________________________

    def test_fill():
>       fill()

test_a.py:5:
_ _ _ _ _ _ _ _ _ _ _ _ _ _ _ _ _ _ _ _ _ _ _ _ _ _ _ _ _ _ _ _ _ _ _ _ _ _ _ _
a.py:5: in fill
    return jar.open(3)
/usr/lib/python3/site-packages/jar/lid.py:9: in open
    raise ValueError("lids are words now")
E   ValueError: lids are words now
=========================== short test summary info ============================
FAILED test_a.py::test_fill - ValueError: lids are words now
============================== 1 failed in 0.01s ===============================
`, nil, nil, `
open: test_fill
`,
		},
		{
			"what misses what a lost import would have brought", `
-- a.py --
from jar import Lid

lid: Lid = Lid()
lid.shut()
`, `a.py:1: error: Module "jar" has no attribute "Lid"  [attr-defined]
a.py:3: error: Name "Lid" is not defined  [name-defined]
`, nil, nil, `
Lid: a.py:1 a.py:3
`,
		},
		{
			"complaints about an own type whose heading is broken", `
-- Lid.java --
import jar.Cap;

class Lid extends Cap {
    @Override
    public void shut() { }
}
`, `Lid.java:3: error: cannot inherit from final Cap
class Lid extends Cap {
                  ^
Lid.java:4: error: method does not override or implement a method from a supertype
    @Override
    ^
2 errors
`, nil, nil, `
Cap: Lid.java:3 └Lid.java:4
`,
		},
		{
			"names that are proposed under one new owner", `
-- a.cpp --
#include <jar/jar.h>
jar::Lid lid;
jar::Cap cap;
jar::Rim rim;
`, `a.cpp:2:6: error: 'Lid' is not a member of 'jar'; did you mean 'jar::top::Lid'?
a.cpp:3:6: error: 'Cap' is not a member of 'jar'; did you mean 'jar::top::Cap'?
a.cpp:4:6: error: 'Rim' is not a member of 'jar'; did you mean 'jar::side::Rim'?
`, nil, nil, `
Lid: a.cpp:2 a.cpp:3
Rim: a.cpp:4
`,
		},
		{
			"tests that could not reach what did not start", `
-- server.js --
const jar = require("jar");
jar.serve(3000);
`, `/app/server.js:2
jar.serve(3000);
    ^

TypeError: jar.serve is not a function
    at Object.<anonymous> (/app/server.js:2:5)
    at Module._compile (node:internal/modules/cjs/loader:1554:14)

Node.js v22.14.0
<testsuite name="s" failures="2"><testcase name="answers"><failure>Error: connect ECONNREFUSED 127.0.0.1:3000</failure></testcase><testcase name="counts"><failure>TypeError: fetch failed</failure></testcase></testsuite>`, nil, nil, `
serve: server.js:2 └answers └counts
`,
		},
		{
			"a failure in a function that does not compile", `
-- a.ts --
import { open } from "jar";
export function fill() {
  return open(1, 2).trim();
}
-- b.ts --
import { fill } from "./a";
it("fills", () => {
  fill();
});
`, `a.ts(3,18): error TS2554: Expected 1 arguments, but got 2.
<testsuite name="s" failures="1"><testcase name="fills"><failure message="no lid">Error: no lid
    at fill (a.ts:3:10)
    at Context.&lt;anonymous&gt; (b.ts:3:3)</failure></testcase></testsuite>`, nil, nil, `
open: a.ts:3 └fills
`,
		},
		{
			"an option that two calls refuse", `
-- a.py --
import jar

jar.open(lid=1)
-- b.py --
import jar

jar.open(lid=2)
`, `Traceback (most recent call last):
  File "a.py", line 3, in <module>
    jar.open(lid=1)
TypeError: open() got an unexpected keyword argument 'lid'
Traceback (most recent call last):
  File "b.py", line 3, in <module>
    jar.open(lid=2)
TypeError: open() got an unexpected keyword argument 'lid'
`, nil, nil, `
lid: a.py:3 b.py:3
`,
		},
		{
			"what a parameter's type tells of a method", `
-- Shelf.java --
import jar.Jar;

class Shelf {
    int weigh(Jar jar, Scale scale) {
        return scale.round(jar.weight());
    }
}
-- ShelfTest.java --
class ShelfTest {
    @Test
    void weighs() {
        assertEquals(3, new Shelf().weigh(make(), new Scale()));
    }
}
`, `<testsuite name="ShelfTest" failures="1"><testcase classname="ShelfTest" name="weighs"><failure message="expected: &lt;3&gt; but was: &lt;4&gt;">org.opentest4j.AssertionFailedError: expected: &lt;3&gt; but was: &lt;4&gt;
	at ShelfTest.weighs(ShelfTest.java:4)</failure></testcase></testsuite>`, []string{"weight"}, nil, `
weight: weighs
`,
		},
		{
			"what a call throws where the compiler takes it", `
-- src/a.ts --
import { open } from "jar";
export function refused() {
  return open();
}
export function taken() {
  return open("x");
}
`, `src/a.ts(3,10): error TS2554: Expected 1 arguments, but got 0.
TAP version 14
1..2
not ok 1 - opens nothing
  ---
  message: 'no lid'
  stack: |
    Error: no lid
        at open (node_modules/jar/index.js:3:9)
        at refused (src/a.ts:3:10)
  ...
not ok 2 - opens x
  ---
  message: 'x has no lid'
  stack: |
    Error: x has no lid
        at open (node_modules/jar/index.js:5:9)
        at taken (src/a.ts:6:10)
  ...
`, nil, nil, `
open: a.ts:3 └opens nothing
open: opens x
`,
		},
		{
			"a module that is another than it was, and a call of a name in it", `
-- src/a.ts --
import { open } from "jar";
import lids = require("jar/lids");
export const a = open("x", { lids });
export const b = open("x", 3);
`, `src/a.ts(3,30): error TS2322: Type 'typeof import("node_modules/jar/lids")' is not assignable to type 'Lids'.
src/a.ts(4,28): error TS2345: Argument of type 'number' is not assignable to parameter of type 'Settings'.
`, nil, nil, `
lids: a.ts:3
open: a.ts:4
`,
		},
		{
			"functions of one name that take other numbers of arguments", `
-- lib/a.ex --
defmodule A do
  def a(x), do: Jar.open(x, 1, 2)
end
`, `     warning: Jar.open/3 is undefined or private
     │
   2 │   def a(x), do: Jar.open(x, 1, 2)
     │                     ~
     │
     └─ lib/a.ex:2:21: A.a/1

  1) test opens (ATest)
     test/a_test.exs:4
     ** (FunctionClauseError) no function clause matching in Jar.open/2
     code: Jar.open(x, 1)
     stacktrace:
       (jar 2.0.0) lib/jar.ex:3: Jar.open/2
       test/a_test.exs:5: (test)

Finished in 0.1 seconds
1 test, 1 failure
`, nil, nil, `
open: a.ex:2
open: test opens
`,
		},
	} {
		t.Run(test.name, func(t *testing.T) {
			ctx := &Context{Subjects: []string{"jar"}, Names: setOf(strings.Join(test.names, " "))}
			var tests []symptom.Test
			for _, name := range test.passed {
				tests = append(tests, symptom.Test{Name: name, Outcome: symptom.Passed})
			}
			ctx.Passed = PassedTests(tests)
			if got := drawn(Group(t.Context(), gather(t, test.log, files(test.source), ctx), ctx)); got != strings.TrimSpace(test.want) {
				t.Errorf("got\n%s\nwant\n%s", got, test.want)
			}
		})
	}
}
