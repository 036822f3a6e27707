package read

import (
	"strings"
	"testing"

	"unicausa/internal/core/symptom"
)

// TestForms reads single diagnostics in each tool's forms. Want is
// "line kind phase file:line:column message", one for each symptom.
func TestForms(t *testing.T) {
	for _, test := range []struct {
		name, text string
		want       []string
	}{
		{
			"go build with a header",
			"# example.org/pantry\n./shelf.go:3:9: undefined: jar.OpenLid\n",
			[]string{"2 error compile ./shelf.go:3:9 undefined: jar.OpenLid"},
		},
		{
			"go build with have and want",
			"# example.org/pantry\n./shelf.go:3:9: not enough arguments in call to jar.Open\n\thave (string)\n\twant (context.Context, string)\n",
			[]string{"2 error compile ./shelf.go:3:9 not enough arguments in call to jar.Open"},
		},
		{
			"go build stops listing",
			"# example.org/pantry\n./shelf.go:3:9: undefined: a\n./shelf.go:9:9: too many errors\n",
			[]string{"2 error compile ./shelf.go:3:9 undefined: a"},
		},
		{
			"go build of a file that cannot be parsed",
			"# example.org/pantry\n./shelf.go:3:9: syntax error: unexpected name lid\n",
			[]string{"2 error parse ./shelf.go:3:9 syntax error: unexpected name lid"},
		},
		{
			"go vet stopped by a type error",
			"# example.org/pantry\n# [example.org/pantry]\nvet: ./shelf.go:3:9: undefined: a\n",
			[]string{"3 error compile ./shelf.go:3:9 undefined: a"},
		},
		{
			"go vet finds something",
			"# example.org/pantry/shelf\n# [example.org/pantry/shelf]\nshelf/shelf.go:3:9: unreachable code\n",
			[]string{"3 warning compile shelf/shelf.go:3:9 unreachable code"},
		},
		{
			"go vet finds something in a package without a header",
			"# example.org/pantry/shelf\nshelf/a.go:1:1: undefined: a\nlabel/b.go:3:9: unreachable code\n",
			[]string{"2 error compile shelf/a.go:1:1 undefined: a", "3 warning compile label/b.go:3:9 unreachable code"},
		},
		{
			"pytest's short frames, one of them in code without a file",
			"=================================== FAILURES ===================================\n_________________________________ test_opens __________________________________\ntest_jar.py:8: in test_opens\n    jar.open()\nlib.py:9: in call\n    return f()\n<class 'lib.argmap'> compilation 13:5: in argmap_open_9\n    ???\nlib.py:2: in result\n    fail()\nE   ValueError: no lid\n_________________________________ test_shuts __________________________________\ntest_jar.py:12: in test_shuts\n    jar.shut()\nE   ValueError: no jar\n=========================== short test summary info ============================\nFAILED test_jar.py::test_opens - ValueError: no lid\n",
			[]string{"2 test-failure test lib.py:2:0 ValueError: no lid", "12 test-failure test test_jar.py:12:0 ValueError: no jar"},
		},
		{
			"warnings of Python that begin on a line of their own",
			"lids.py:7: DeprecationWarning: \n\nshut is deprecated and will be\nremoved. Use close.\n  jar.shut()\n=============================== warnings summary ===============================\ntest_jar.py::test_opens\n  lids.py:9: FutureWarning: \n  open will return a list.\n  \n    jar.open()\n\n-- Docs: https://docs.example.org\n",
			[]string{"1 deprecation run lids.py:7:0 shut is deprecated and will be removed. Use close.", "8 deprecation run lids.py:9:0 open will return a list."},
		},
		{
			"what a program printed, as comments of TAP",
			"TAP version 13\n# (node:4) [DEP0005] DeprecationWarning: Buffer() is deprecated\n# Subtest: shelf\nok 1 - shelf\n# /p/shelf.js:3\n# \tthrow new Error('no lid')\n# \t^\n# Error: no lid\n#     at open (/p/shelf.js:3:9)\n# Node.js v24.1.0\n1..1\n# tests 1\n",
			[]string{"2 deprecation run :0:0 Buffer() is deprecated", "8 crash run /p/shelf.js:3:0 Error: no lid"},
		},
		{
			"a suite in TAP whose hook failed, with its tests",
			"TAP version 13\n# Subtest: lids\n    # Subtest: opens\n    not ok 1 - opens\n      ---\n      failureType: 'cancelledByParent'\n      error: 'cancelled'\n      ...\n    1..1\nnot ok 1 - lids\n  ---\n  failureType: 'hookFailed'\n  error: 'no jar'\n  ...\n1..1\n",
			[]string{"4 test-failure test :0:0 cancelled", "10 test-failure test :0:0 no jar"},
		},
		{
			"a library that says that a call is deprecated",
			"Sun, 02 Jan 2033 04:31:48 GMT pantry deprecated open(lid), use lift() at lib/shelf.js:7:13\npantry deprecated shut(lid) at lib/shelf.js:9:1\n",
			[]string{"1 deprecation run lib/shelf.js:7:13 pantry deprecated open(lid), use lift()", "2 deprecation run lib/shelf.js:9:1 pantry deprecated shut(lid)"},
		},
		{
			"a sentence that says so",
			"The \"openLid\" function used by shelf is deprecated. Use \"lift\" instead.\nNothing here is deprecated\n  'a' is deprecated in a sentence that goes on\n",
			[]string{"1 deprecation run :0:0 The \"openLid\" function used by shelf is deprecated. Use \"lift\" instead."},
		},
		{
			"peers of npm, one behind another",
			"npm warn ERESOLVE overriding peer dependency\nnpm warn Could not resolve dependency:\nnpm warn peer jar@\"^4\" from lid@2.1.0\nnpm warn ERESOLVE overriding peer dependency\nnpm warn Could not resolve dependency:\nnpm warn peer jar@\"^3\" from cork@1.0.0\n",
			[]string{`1 resolve resolve :0:0 overriding peer dependency: lid@2.1.0 wants peer jar@"^4"`, `4 resolve resolve :0:0 overriding peer dependency: cork@1.0.0 wants peer jar@"^3"`},
		},
		{
			"a comment in JUnit XML",
			"<testsuite name=\"s\">\n<testcase name=\"a\"/>\n<!-- (node:4) DeprecationWarning: lid() is deprecated -->\n</testsuite>",
			[]string{"3 deprecation run :0:0 lid() is deprecated"},
		},
		{
			"the module resolver",
			"go: downloading example.org/jar v5.0.0\ngo: example.org/jar@v5.0.0: reading example.org/jar/go.mod at revision v5.0.0: unknown revision\n",
			[]string{"2 resolve resolve :0:0 example.org/jar@v5.0.0: reading example.org/jar/go.mod at revision v5.0.0: unknown revision"},
		},
		{
			"a package that is not in the standard library",
			"shelf.go:3:8: package jar/lids is not in std (/usr/local/go/src/jar/lids)\n",
			[]string{"1 resolve resolve shelf.go:3:8 package jar/lids is not in std (/usr/local/go/src/jar/lids)"},
		},
		{
			"a failed test with its log",
			"--- FAIL: TestLid (0.00s)\n    lid_test.go:9: got 3, want 4\nFAIL\nFAIL\texample.org/pantry\t0.1s\n",
			[]string{"1 test-failure test lid_test.go:9:0 got 3, want 4"},
		},
		{
			"a log line before the verdict, with -v",
			"=== RUN   TestLid\n    lid_test.go:9: got 3, want 4\n--- FAIL: TestLid (0.00s)\nFAIL\nFAIL\texample.org/pantry\t0.1s\n",
			[]string{"3 test-failure test lid_test.go:9:0 got 3, want 4"},
		},
		{
			"a parent that failed only because its case did",
			"--- FAIL: TestLid (0.00s)\n    --- FAIL: TestLid/blue (0.00s)\n        lid_test.go:9: no\nFAIL\nFAIL\texample.org/pantry\t0.1s\n",
			[]string{"2 test-failure test lid_test.go:9:0 no"},
		},
		{
			"a package that ends without a failing test",
			"FAIL\texample.org/pantry\t0.1s\n",
			[]string{"1 test-failure test :0:0 example.org/pantry failed without a failing test"},
		},
		{
			"a package that could not be built",
			"FAIL\texample.org/pantry [build failed]\nFAIL\n",
			[]string{"1 test-failure test :0:0 example.org/pantry [build failed]"},
		},
		{
			"passing and skipped tests",
			"=== RUN   TestError\n    e_test.go:3: error: only a log\n--- PASS: TestError (0.00s)\n=== RUN   TestLater\n    e_test.go:9: later\n--- SKIP: TestLater (0.00s)\nPASS\nok  \texample.org/pantry\t0.1s\n",
			nil,
		},
		{
			"go test -json, with a line in two pieces",
			`{"Action":"start","Package":"p"}
{"Action":"output","Package":"p","Test":"TestLid","Output":"    lid_test.go:9: got 3, "}
{"Action":"output","Package":"p","Test":"TestLid","Output":"want 4\n"}
{"Action":"output","Package":"p","Test":"TestLid","Output":"--- FAIL: TestLid (0.00s)\n"}
{"Action":"fail","Package":"p","Test":"TestLid","Elapsed":0}
{"Action":"output","Package":"p","Output":"FAIL\tp\t0.1s\n"}
{"Action":"fail","Package":"p","Elapsed":0.1}
`,
			[]string{"4 test-failure test lid_test.go:9:0 got 3, want 4"},
		},
		{
			"go test -json of two packages at once",
			`{"Action":"output","Package":"a","Test":"TestA","Output":"--- FAIL: TestA (0.00s)\n"}
{"Action":"output","Package":"b","Test":"TestB","Output":"--- FAIL: TestB (0.00s)\n"}
{"Action":"output","Package":"a","Test":"TestA","Output":"    a_test.go:1: from a\n"}
{"Action":"output","Package":"b","Test":"TestB","Output":"    b_test.go:2: from b\n"}
{"Action":"output","Package":"b","Output":"FAIL\tb\t0.1s\n"}
{"Action":"output","Package":"a","Output":"FAIL\ta\t0.1s\n"}
`,
			[]string{"2 test-failure test b_test.go:2:0 from b", "1 test-failure test a_test.go:1:0 from a"},
		},
		{
			"tsc, plain, with a chain",
			"src/a.ts(3,9): error TS2322: Type 'A' is not assignable to type 'B'.\n  Property 'lid' is missing in type 'A'.\nsrc/b.ts(1,1): error TS2304: Cannot find name 'c'.\n",
			[]string{"1 error compile src/a.ts:3:9 Type 'A' is not assignable to type 'B'.", "3 error compile src/b.ts:1:1 Cannot find name 'c'."},
		},
		{
			"tsc, pretty, with a frame and a related place",
			"src/a.ts:3:9 - error TS2551: Property 'lids' does not exist on type 'Jar'. Did you mean 'lid'?\n\n3 jar.lids\n      ~~~~\n\n  src/jar.ts:1:23\n    1 export type Jar = { lid: boolean };\n                          ~~~\n    'lid' is declared here.\n\n\nFound 1 error in src/a.ts:3\n\n",
			[]string{"1 error compile src/a.ts:3:9 Property 'lids' does not exist on type 'Jar'. Did you mean 'lid'?"},
		},
		{
			"tsc cannot find a module",
			"src/a.ts(1,20): error TS2307: Cannot find module 'jar/lids' or its corresponding type declarations.\n",
			[]string{"1 resolve resolve src/a.ts:1:20 Cannot find module 'jar/lids' or its corresponding type declarations."},
		},
		{
			"tsc refuses an option and a file",
			"error TS5023: Unknown compiler option 'lid'.\nsrc/a.ts(1,1): error TS1005: ';' expected.\n",
			[]string{"1 error configure :0:0 Unknown compiler option 'lid'.", "2 error parse src/a.ts:1:1 ';' expected."},
		},
		{
			"the GNU form with excerpt and note",
			"In file included from shelf.c:1:\njar.h:9:3: warning: 'open_lid' is deprecated [-Wdeprecated-declarations]\n    9 |   open_lid();\n      |   ^~~~~~~~\njar.h:2:6: note: declared here\n",
			[]string{"2 deprecation compile jar.h:9:3 'open_lid' is deprecated"},
		},
		{
			"the GNU form without a column, on Windows",
			"C:\\pantry\\shelf.c:9: fatal error: jar.h: No such file or directory\n",
			[]string{"1 error compile C:\\pantry\\shelf.c:9:0 jar.h: No such file or directory"},
		},
		{
			"two tools in one stream",
			"src/a.ts(3,9): error TS2304: Cannot find name 'a'.\nshelf.c:1:1: error: no\n# example.org/pantry\n./b.go:1:1: undefined: b\n",
			[]string{"1 error compile src/a.ts:3:9 Cannot find name 'a'.", "2 error compile shelf.c:1:1 no", "4 error compile ./b.go:1:1 undefined: b"},
		},
	} {
		t.Run(test.name, func(t *testing.T) {
			var got []string
			for _, s := range all(t, "x", strings.NewReader(test.text)).Symptoms {
				got = append(got, line(s))
			}
			if strings.Join(got, "\n") != strings.Join(test.want, "\n") {
				t.Errorf("got\n%s\nwant\n%s", strings.Join(got, "\n"), strings.Join(test.want, "\n"))
			}
		})
	}
}

func line(s symptom.Symptom) string {
	return strings.Join([]string{itoa(s.At[0].Line), string(s.Kind), string(s.Phase), s.File + ":" + itoa(s.Line) + ":" + itoa(s.Column), s.Message}, " ")
}

func itoa(n int) string {
	digits := ""
	for ; n > 9; n /= 10 {
		digits = string(rune('0'+n%10)) + digits
	}
	return string(rune('0'+n)) + digits
}

// TestRefs holds which names the messages tell, and the part each plays.
func TestRefs(t *testing.T) {
	const goFile, ts, gnu = "# p\n./a.go:1:1: ", "a.ts(1,1): error ", "a.c:1:1: error: "
	for _, test := range []struct{ text, want string }{
		{goFile + "undefined: jar.OpenLid", "missing=jar.OpenLid owner=jar"},
		{goFile + "undefined: openLid", "missing=openLid"},
		{goFile + "j.Lid undefined (type *jar.Jar has no field or method Lid)", "missing=Lid owner=jar.Jar"},
		{goFile + "j.Lid undefined (type jar.Jar has no field or method Lid, but does have method Open)", "missing=Lid owner=jar.Jar suggested=Open"},
		{goFile + "unknown field Lid in struct literal of type jar.Jar", "missing=Lid owner=jar.Jar"},
		{goFile + "unknown field Lid in struct literal of type jar.Jar, but does have Lids", "missing=Lid owner=jar.Jar suggested=Lids"},
		{goFile + "not enough arguments in call to jar.Open", "callee=jar.Open owner=jar"},
		{goFile + "too many arguments in call to j.Open", "callee=j.Open owner=j"},
		{goFile + "assignment mismatch: 1 variable but jar.Open returns 2 values", "callee=jar.Open owner=jar"},
		{goFile + "cannot call pointer method Shut on jar.Jar", "callee=Shut owner=jar.Jar"},
		{goFile + "cannot use x (variable of type int) as jar.Size value in argument to jar.Fill", "expected=jar.Size actual=int callee=jar.Fill"},
		{goFile + "cannot use jar.Cap{…} (value of struct type jar.Cap[int]) as jar.Lid value in struct literal: jar.Cap[int] does not implement jar.Lid (missing method Shut)", "expected=jar.Lid actual=jar.Cap owner=jar.Lid missing=Shut"},
		{goFile + "cannot use x (variable of type int) as []string value in struct literal", "expected=[]string actual=int"},
		{goFile + "no required module provides package example.org/jar; to add it:", "module=example.org/jar"},
		{goFile + "could not import example.org/jar (open : no such file or directory)", "module=example.org/jar"},
		{ts + "TS2305: Module '\"jar\"' has no exported member 'openLid'.", "owner=jar missing=openLid"},
		{ts + "TS2724: '\"jar\"' has no exported member named 'openLid'. Did you mean 'open'?", "owner=jar missing=openLid suggested=open"},
		{ts + "TS2339: Property 'lid' does not exist on type 'Jar'.", "missing=lid owner=Jar"},
		{ts + "TS2353: Object literal may only specify known properties, and 'lid' does not exist in type 'Options'.", "missing=lid owner=Options"},
		{ts + "TS2345: Argument of type 'number' is not assignable to parameter of type 'Job'.", "actual=number expected=Job"},
		{ts + "TS2741: Property 'lid' is missing in type 'A' but required in type 'B'.", "option=lid actual=A expected=B"},
		{ts + "TS2307: Cannot find module 'jar' or its corresponding type declarations.", "module=jar"},
		{ts + "TS2554: Expected 1 arguments, but got 2.", ""},
		{ts + "TS6385: 'openLid' is deprecated.", "deprecated=openLid"},
		{gnu + "'lid' undeclared (first use in this function)", "missing=lid"},
		{gnu + "‘struct jar’ has no member named ‘lid’; did you mean ‘lids’?", "owner=struct jar missing=lid suggested=lids"},
		{gnu + "too few arguments to function 'open_jar'", "callee=open_jar"},
		{gnu + "unknown type name 'lid_t'", "missing=lid_t"},
		{gnu + "call to undeclared function 'lid' with type 'char *(const char *)'", "callee=lid"},
		{goFile + "cannot use nil as jar.Lid value in return statement", "expected=jar.Lid"},
		{goFile + "j.Lid undefined (type *jar.Lid is pointer to interface, not interface)", "owner=jar.Lid"},
		{ts + "TS2345: Argument of type '{ lid: number; }' is not assignable to parameter of type 'Options'.\n  Type 'A' is not assignable to type 'B'.\n    Property 'lid' does not exist on type 'Jar'.", "actual={ lid: number; } expected=Options missing=lid owner=Jar"},
		{ts + "TS2345: Argument of type 'A' is not assignable to parameter of type 'B'.\n  Object literal may only specify known properties, but 'lids' does not exist in type 'B'. Did you mean to write 'lid'?", "actual=A expected=B suggested=lid missing=lids owner=B"},
		{"not ok 1 - opens\n  ---\n  error: '`jar.Lid` was removed in the 2.0 release. Use `jar.lid` instead.'\n  ...", "missing=Lid owner=jar suggested=jar.lid"},
		{"not ok 1 - opens\n  ---\n  error: '`open_lid` was removed from the Jar class in Jars 2.0.'\n  ...", "missing=open_lid owner=Jar"},
		{"error[E0433]: failed to resolve: could not find `lids` in `jar`\n --> src/a.rs:1:10", "module=lids"},
		{"error[E0603]: struct `Lid` is private\n --> src/a.rs:1:10", "missing=Lid"},
		{"a.py:3: DeprecationWarning: [jar]: open_lid is deprecated", "deprecated=open_lid"},
		{"error: cannot read crates\n  ENOENT: no such file or directory, open 'crates.json'", "missing=crates.json"},
		{"src/jar.x:3:1: error: unknown lid; maybe you meant `lift`", "suggested=lift"},
		{gnu + "too few arguments to function 'open_jar' [-Werror=lid-open]", "callee=open_jar rule=-Wlid-open"},
		{"src/jar.x:3:1: warning: the lid is loose (jars/lid-open)", "rule=jars/lid-open"},
		{"src/jar.x:3:1: E12 the lid is loose", ""},
		{"error: cannot read jars.json\n  unknown option 'lidType'", "option=lidType"},
		{"jars: error: unrecognized option --lid", "option=--lid"},
		{"not ok 1 - opens\n  ---\n  error: 'GET http://127.0.0.1:80/jars/12 failed: status 404'\n  ...", "route=/jars/12 actual=404"},
	} {
		symptoms := all(t, "x", strings.NewReader(test.text+"\n")).Symptoms
		if len(symptoms) != 1 {
			t.Errorf("%q: %d symptoms", test.text, len(symptoms))
			continue
		}
		var got []string
		for _, r := range symptoms[0].Refs {
			got = append(got, string(r.Role)+"="+r.Name)
		}
		if strings.Join(got, " ") != test.want {
			t.Errorf("%q:\ngot  %s\nwant %s", test.text, strings.Join(got, " "), test.want)
		}
	}
}

func TestParseFrame(t *testing.T) {
	for _, test := range []struct {
		text string
		want symptom.Frame
		ok   bool
	}{
		{"    at print (front/labels.js:3:9)", symptom.Frame{File: "front/labels.js", Line: 3, Function: "print", Own: true}, true},
		{"    at async open (file:///srv/jar.mjs:12:1)", symptom.Frame{File: "/srv/jar.mjs", Line: 12, Function: "open", Own: true}, true},
		{"    at node_modules/jar/index.js:7:3", symptom.Frame{File: "node_modules/jar/index.js", Line: 7}, true},
		{"\tat pantry.Shelf.open(Shelf.java:12)", symptom.Frame{File: "pantry/Shelf.java", Line: 12, Function: "pantry.Shelf.open", Own: true}, true},
		{"   at Pantry.Shelf.Open() in C:\\src\\Shelf.cs:line 12", symptom.Frame{File: "C:\\src\\Shelf.cs", Line: 12, Function: "Pantry.Shelf.Open()", Own: true}, true},
		{`  File "pantry/shelf.py", line 12, in open`, symptom.Frame{File: "pantry/shelf.py", Line: 12, Function: "open", Own: true}, true},
		{`  File "/usr/lib/python3/site-packages/jar.py", line 3, in lid`, symptom.Frame{File: "/usr/lib/python3/site-packages/jar.py", Line: 3, Function: "lid"}, true},
		{"#0 src/Shelf.php(12): Jar->open()", symptom.Frame{File: "src/Shelf.php", Line: 12, Function: "Jar->open()", Own: true}, true},
		{"lib/shelf.rb:12:in `open'", symptom.Frame{File: "lib/shelf.rb", Line: 12, Function: "open", Own: true}, true},
		{"\tpantry/shelf.go:12 +0x1d", symptom.Frame{File: "pantry/shelf.go", Line: 12, Own: true}, true},
		{"    at java.base/java.lang.reflect.Method.invoke(Native Method)", symptom.Frame{}, false},
		{"at three o'clock", symptom.Frame{}, false},
		{"#7 is open", symptom.Frame{}, false},
		{"http://example.org:80", symptom.Frame{}, false},
		{"", symptom.Frame{}, false},
	} {
		got, ok := parseFrame(test.text)
		if ok != test.ok || ok && got != test.want {
			t.Errorf("%q: got %+v %v, want %+v %v", test.text, got, ok, test.want, test.ok)
		}
	}
}

// TestTroubled holds which lines are shown when nothing understood them.
func TestTroubled(t *testing.T) {
	for text, want := range map[string]bool{
		"ERROR the label printer is on fire":        true,
		"error: no lid":                             true,
		"Fatal: no lid":                             true,
		"TypeError: lid is not a function":          true,
		"[error] no lid":                            true,
		"3 errors: see above":                       true,
		"something failed: no lid":                  true,
		"panic: no lid":                             true,
		"0 errors":                                  false,
		"no errors found":                           false,
		"0 failures, 0 warnings":                    false,
		"error_handling.go compiled":                false,
		"src/error/fatal.go":                        false,
		"see https://example.org/error/deprecated":  false,
		"the error rate went down":                  false,
		"ok  \texample.org/pantry/failure\t0.004s":  false,
		"Building panic_room.o":                     false,
		"npm install error-stack@1.0.0":             false,
		"------------------------------":            false,
		"":                                          false,
		"failed=0 panic=0":                          false,
		"jar.isDeprecated is called":                false,
		"warnings-as-errors is off":                 false,
		"The quick brown fox cannot open the jar":   false,
		"WARNING: the lid is loose":                 true,
		"unresolved: jar/lid":                       true,
		"Exception in thread \"main\" no lid":       true,
		"Traceback (most recent call last):":        true,
		"deprecated: use open":                      true,
		"exception.handlers.default = shelf":        false,
		"cannot: it is not a verb with a colon, ok": true,
	} {
		if got := troubled(text); got != want {
			t.Errorf("troubled(%q) is %v", text, got)
		}
	}
}

func TestExpectation(t *testing.T) {
	for text, want := range map[string]string{
		"got 3, want 4":                                    "4 3",
		"net: got 19.5, want 20":                           "20 19.5",
		"expected: <4> but was: <3>":                       "",
		"Expected 4 but got 3":                             "",
		"expected 4 but got 3":                             "4 3",
		"expected 4, got 3":                                "4 3",
		"expected 3 to equal 4":                            "4 3",
		"Weight(4) = 1200, want 1000":                      "1000 1200",
		"want 4, got 3":                                    "4 3",
		"no values at all":                                 "",
		"expected: 4\nactual: 3":                           "4 3",
		"expected " + strings.Repeat("x", 300) + ", got 3": strings.Repeat("x", 240) + " 3",
	} {
		var got []string
		for _, r := range expectation(text) {
			got = append(got, r.Name)
		}
		if strings.Join(got, " ") != want {
			t.Errorf("%q: got %q, want %q", text, strings.Join(got, " "), want)
		}
	}
}

// TestReach holds what a reading says of units that could not be shown.
func TestReach(t *testing.T) {
	for _, test := range []struct{ text, blocked, cut, done string }{
		{"# example.org/a\na.go:1:1: undefined: b\n", "example.org/a", "", ""},
		{"# example.org/a\na.go:1:1: undefined: b\na.go:9:1: too many errors\n", "example.org/a", "example.org/a", ""},
		{"ok  \texample.org/a\t0.1s\nFAIL\texample.org/b [build failed]\n", "example.org/b", "", "example.org/a"},
		{"?   \texample.org/a\t[no test files]\n", "", "", "example.org/a"},
		{"# example.org/a\n# [example.org/a]\na.go:1:1: unreachable code\n", "", "", ""},
		{`<testsuite name="s"><error message="set-up failed"/></testsuite>`, "s", "", "s"},
	} {
		r := all(t, "x", strings.NewReader(test.text)).Reach
		if got := [3]string{strings.Join(r.Blocked, " "), strings.Join(r.Cut, " "), strings.Join(r.Done, " ")}; got != [3]string{test.blocked, test.cut, test.done} {
			t.Errorf("%q: got %q", test.text, got)
		}
	}
}
