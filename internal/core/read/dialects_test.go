package read

import (
	"strings"
	"testing"
)

// TestDialects reads the rarer forms in which tools say what the samples show,
// as TestForms does; roles are told where a message names something.
func TestDialects(t *testing.T) {
	for _, test := range []struct {
		name, text string
		want       []string
	}{
		// Scala
		{
			"scala 3, with its message below the excerpt",
			"-- [E008] Not Found Error: src/Shelf.scala:12:8 ----------------\n12 |    jar.openLid()\n   |    ^^^^^^^^^^^\n   |    value openLid is not a member of pantry.Jar\n1 error found\n",
			[]string{"1 error compile src/Shelf.scala:12:8 value openLid is not a member of pantry.Jar missing=openLid owner=pantry.Jar"},
		},
		{
			"scala 3, a deprecation",
			"-- Deprecation Warning: src/Shelf.scala:3:6 ----------\n3 |  jar.shut()\n  |  ^^^^^^^^\n  |  method shut in class Jar is deprecated since 2.0: use close\n",
			[]string{"1 deprecation compile src/Shelf.scala:3:6 method shut in class Jar is deprecated since 2.0: use close deprecated=shut owner=Jar"},
		},
		{
			"scala through sbt",
			"[info] compiling 2 Scala sources\n[error] /p/src/Shelf.scala:12:9: value openLid is not a member of pantry.Jar\n[error]     jar.openLid()\n[error]         ^\n[warn] /p/src/Shelf.scala:20:5: method shut in class Jar is deprecated\n[error] one error found\n[error] (Compile / compileIncremental) Compilation failed\n[error] Total time: 2 s\n",
			[]string{"2 error compile /p/src/Shelf.scala:12:9 value openLid is not a member of pantry.Jar missing=openLid owner=pantry.Jar", "5 deprecation compile /p/src/Shelf.scala:20:5 method shut in class Jar is deprecated deprecated=shut owner=Jar"},
		},
		{
			"scala, a call with too few arguments",
			"Shelf.scala:5: error: not enough arguments for method fill: (jars: Int, lids: Int)\n    fill(3)\n        ^\n",
			[]string{"1 error compile Shelf.scala:5:0 not enough arguments for method fill: (jars: Int, lids: Int) callee=fill"},
		},
		// .NET at run time
		{
			".NET, an exception with its cause",
			"Unhandled exception. System.TypeInitializationException: The type initializer for 'Shelf' threw an exception.\n ---> System.IO.FileNotFoundException: Could not load file or assembly 'Jars, Version=5.0.0.0, Culture=neutral'. The system cannot find the file specified.\n   at Shelf.Open() in /pantry/Shelf.cs:line 8\n   --- End of inner exception stack trace ---\n   at Program.Main() in /pantry/Program.cs:line 3\n",
			[]string{"1 crash run /pantry/Shelf.cs:8:0 System.TypeInitializationException: The type initializer for 'Shelf' threw an exception. module=Jars"},
		},
		{
			".NET, a type that went away",
			"Unhandled exception. System.TypeLoadException: Could not load type 'Jars.Lid' from assembly 'Jars'.\n   at Program.Main() in /pantry/Program.cs:line 3\n",
			[]string{"1 crash run /pantry/Program.cs:3:0 System.TypeLoadException: Could not load type 'Jars.Lid' from assembly 'Jars'. missing=Jars.Lid"},
		},
		// CMake
		{
			"CMake, a warning for developers in a function, with its stack",
			"CMake Warning (dev) at cmake/Jars.cmake:4 (find_package):\n  Policy CMP0167 is not set: The FindJars module is removed.\n\nCall Stack (most recent call first):\n  CMakeLists.txt:9 (include)\nThis warning is for project developers.  Use -Wno-dev to suppress it.\n\n",
			[]string{"1 warning configure cmake/Jars.cmake:4:0 Policy CMP0167 is not set: The FindJars module is removed."},
		},
		{
			"CMake, a command that is gone",
			"CMake Error at CMakeLists.txt:12 (jar_add_lid):\n  Unknown CMake command \"jar_add_lid\".\n\n\n",
			[]string{"1 error configure CMakeLists.txt:12:0 Unknown CMake command \"jar_add_lid\". missing=jar_add_lid"},
		},
		{
			"CMake, a deprecation",
			"CMake Deprecation Warning at CMakeLists.txt:1 (cmake_minimum_required):\n  Compatibility with CMake < 3.10 will be removed from a future version of\n  CMake.\n\n",
			[]string{"1 deprecation configure CMakeLists.txt:1:0 Compatibility with CMake < 3.10 will be removed from a future version of CMake."},
		},
		// Python tests
		{
			"pytest -q, killed by another tool's error behind its totals",
			"=================================== FAILURES ===================================\n__________________________________ test_opens __________________________________\n\n    def test_opens():\n>       assert jar() == 1\nE       assert 2 == 1\n\ntest_shelf.py:3: AssertionError\n=========================== short test summary info ============================\nFAILED test_shelf.py::test_opens - assert 2 == 1\n1 failed, 2 passed in 0.05s\nshelf.c:1:1: error: no lid\n",
			[]string{"2 test-failure test test_shelf.py:3:0 assert 2 == 1", "12 error compile shelf.c:1:1 no lid"},
		},
		{
			"pytest without tracebacks",
			"=========================== short test summary info ============================\nFAILED test_shelf.py::test_opens - RuntimeError: no jar\nERROR test_label.py\nSKIPPED [1] test_shelf.py:9: later\n1 failed, 1 skipped, 1 error in 0.05s\n",
			[]string{"2 test-failure test test_shelf.py:0:0 RuntimeError: no jar", "3 test-failure test test_label.py:0:0 test_label.py failed"},
		},
		{
			"pytest, warnings that end with the pointer to the manual",
			"=============================== warnings summary ===============================\ntest_shelf.py::test_opens\n  /pantry/shelf.py:9: DeprecationWarning: shut() is deprecated, use close()\n    jar.shut()\n\n-- Docs: https://docs.pytest.org/en/stable/how-to/capture-warnings.html\nshelf.c:1:1: error: no lid\n",
			[]string{"3 deprecation run /pantry/shelf.py:9:0 shut() is deprecated, use close() deprecated=shut", "7 error compile shelf.c:1:1 no lid"},
		},
		// Kotlin
		{
			"kotlinc, as build tools wrote it before 2.0",
			"e: /p/src/Shelf.kt: (12, 9): Unresolved reference: openLid\nw: /p/src/Shelf.kt: (14, 5): 'shut(): Unit' is deprecated. Use close()\n",
			[]string{"1 error compile /p/src/Shelf.kt:12:9 Unresolved reference: openLid missing=openLid", "2 deprecation compile /p/src/Shelf.kt:14:5 'shut(): Unit' is deprecated. Use close() deprecated=shut"},
		},
		{
			"kotlinc, as build tools write it",
			"e: file:///p/src/Shelf.kt:12:9 Unresolved reference 'openLid'.\ne: file:///p/src/Shelf.kt:3:1 'opens' overrides nothing.\n",
			[]string{"1 error compile /p/src/Shelf.kt:12:9 Unresolved reference 'openLid'. missing=openLid", "2 error compile /p/src/Shelf.kt:3:1 'opens' overrides nothing. missing=opens"},
		},
		// Maven
		{
			"Maven, an artifact that is not there",
			"[ERROR] Failed to execute goal on project shelf: Could not resolve dependencies for project pantry:shelf:jar:1.0: Could not find artifact org.example:jars:jar:5.0 in central (https://repo.example.org) -> [Help 1]\n[ERROR] \n[ERROR] Re-run Maven using the -X switch to enable full debug logging.\n",
			[]string{"1 resolve resolve :0:0 Could not resolve dependencies for project pantry:shelf:jar:1.0: Could not find artifact org.example:jars:jar:5.0 in central (https://repo.example.org) module=org.example:jars"},
		},
		// TAP
		{
			"TAP that bails out",
			"TAP version 13\n1..3\nok 1 - opens\nBail out! no shelf\n",
			[]string{"4 test-failure test :0:0 Bail out! no shelf"},
		},
		{
			"TAP with found and wanted",
			"1..1\nnot ok 1 - holds\n  ---\n  message: \"jars differ\"\n  at: \"test/shelf.js:9:3\"\n  found: 2\n  wanted: 3\n  ...\n",
			[]string{"2 test-failure test test/shelf.js:9:3 jars differ expected=3 actual=2"},
		},
		{
			"prove, a script that died",
			"t/shelf.t .. \nno lid at t/shelf.t line 3.\nDubious, test returned 2 (wstat 512, 0x200)\nNo subtests run\nResult: FAIL\n",
			[]string{"3 test-failure test :0:0 t/shelf.t: Dubious, test returned 2 (wstat 512, 0x200)", "2 error compile t/shelf.t:3:0 no lid"},
		},
		// npm and its kin
		{
			"pnpm",
			" ERR_PNPM_NO_MATCHING_VERSION  No matching version found for jar@5.0.0\n\nThis error happened while installing a direct dependency\n ELIFECYCLE  Command failed with exit code 1.\n",
			[]string{"1 resolve resolve :0:0 No matching version found for jar@5.0.0"},
		},
		{
			"npm, a version that does not exist",
			"npm error code ETARGET\nnpm error notarget No matching version found for jar@^9.0.0.\nnpm error A complete log of this run can be found in: /root/x.log\n",
			[]string{"2 resolve resolve :0:0 notarget No matching version found for jar@^9.0.0. module=jar"},
		},
		{
			"npm, a peer that is missing, as older versions say it",
			"npm WARN lid@2.1.0 requires a peer of jar@^4.0.0 but none is installed. You must install peer dependencies yourself.\n",
			[]string{"1 resolve resolve :0:0 lid@2.1.0 requires a peer of jar@^4.0.0 but none is installed. You must install peer dependencies yourself. module=jar owner=lid"},
		},
		// Native code
		{
			"a panic of Rust before 1.73",
			"thread 'main' panicked at 'the lid is stuck', src/main.rs:3:5\nnote: run with `RUST_BACKTRACE=1` environment variable to display a backtrace\n",
			[]string{"1 crash run src/main.rs:3:5 the lid is stuck"},
		},
		{
			"a program that was killed",
			"Segmentation fault (core dumped)\n",
			[]string{"1 crash run :0:0 Segmentation fault (core dumped)"},
		},
		// Swift's testing library
		{
			"swift-testing",
			"◇ Test opens() started.\n✘ Test opens() recorded an issue at ShelfTests.swift:9:5: Expectation failed: (jars → 2) == 3\n✘ Test opens() failed after 0.001 seconds with 1 issue.\n✔ Test holds() passed after 0.001 seconds.\n",
			[]string{"2 test-failure test ShelfTests.swift:9:5 Expectation failed: (jars → 2) == 3"},
		},
		// Ruby
		{
			"ruby, a deprecation and a syntax error",
			"shelf.rb:3: warning: Jar#shut is deprecated; use Jar#close\nshelf.rb:9: syntax error, unexpected end-of-input\n",
			[]string{"1 deprecation run shelf.rb:3:0 Jar#shut is deprecated; use Jar#close deprecated=Jar#shut", "2 error parse shelf.rb:9:0 syntax error, unexpected end-of-input"},
		},
	} {
		t.Run(test.name, func(t *testing.T) {
			var got []string
			for _, s := range all(t, "x", strings.NewReader(test.text)).Symptoms {
				said := line(s)
				for _, r := range s.Refs {
					said += " " + string(r.Role) + "=" + r.Name
				}
				got = append(got, said)
			}
			if strings.Join(got, "\n") != strings.Join(test.want, "\n") {
				t.Errorf("got\n%s\nwant\n%s", strings.Join(got, "\n"), strings.Join(test.want, "\n"))
			}
		})
	}
}
