package read

import (
	"fmt"
	"strings"
	"testing"
)

// TestTallied holds that the closing summaries of many runners are counted,
// and that prose is not.
func TestTallied(t *testing.T) {
	for name, test := range map[string]struct{ log, want string }{
		"pytest":              {"== 14 failed, 1 passed, 1 skipped, 1 warning in 0.10s ==", "16: 1 passed, 14 failed, 1 skipped"},
		"pytest -q":           {"15 passed, 1 skipped in 0.10s", "16: 15 passed, 0 failed, 1 skipped"},
		"pytest for minutes":  {"== 2 failed, 100 passed in 61.50s (0:01:01) ==", "102: 100 passed, 2 failed, 0 skipped"},
		"unittest":            {"Ran 5 tests in 0.101s\n\nFAILED (failures=1, errors=3)", "5: 1 passed, 4 failed, 0 skipped"},
		"unittest, green":     {"Ran 5 tests in 0.101s\n\nOK (skipped=2)", "5: 3 passed, 0 failed, 2 skipped"},
		"minitest":            {"31 runs, 60 assertions, 1 failures, 2 errors, 3 skips", "31: 25 passed, 3 failed, 3 skipped"},
		"RSpec":               {"Finished in 0.02 seconds (files took 0.1 seconds to load)\n12 examples, 1 failure, 2 pending", "12: 9 passed, 1 failed, 2 skipped"},
		"ExUnit":              {"Finished in 0.05 seconds (0.00s async, 0.05s sync)\n2 doctests, 31 tests, 1 failure, 1 skipped", "33: 31 passed, 1 failed, 1 skipped"},
		"PHPUnit, green":      {"OK (3 tests, 5 assertions)", "3: 3 passed, 0 failed, 0 skipped"},
		"PHPUnit, red":        {"FAILURES!\nTests: 30, Assertions: 52, Errors: 2, Failures: 1, Skipped: 2.", "30: 25 passed, 3 failed, 2 skipped"},
		"mocha":               {"  12 passing (5ms)\n  1 pending\n  2 failing", "15: 12 passed, 2 failed, 1 skipped"},
		"jest":                {"Test Suites: 1 failed, 3 passed, 4 total\nTests:       1 failed, 2 skipped, 14 passed, 17 total\nSnapshots:   0 total", "17: 14 passed, 1 failed, 2 skipped"},
		"vitest":              {" Test Files  1 failed | 2 passed (3)\n      Tests  1 failed | 13 passed | 1 skipped (15)\n   Duration  5ms", "15: 13 passed, 1 failed, 1 skipped"},
		"node":                {"# tests 9\n# suites 2\n# pass 7\n# fail 1\n# cancelled 0\n# skipped 1\n# todo 0\n# duration_ms 12.3", "9: 7 passed, 1 failed, 1 skipped"},
		"node, on a terminal": {"ℹ tests 5\nℹ suites 0\nℹ pass 4\nℹ fail 1", "5: 4 passed, 1 failed, 0 skipped"},
		"cargo":               {"test result: FAILED. 4 passed; 2 failed; 1 ignored; 0 measured; 0 filtered out; finished in 0.01s", "7: 4 passed, 2 failed, 1 skipped"},
		"cargo, two targets":  {"test result: ok. 4 passed; 0 failed; 0 ignored; 0 measured; 0 filtered out\n\n\n\n\n\ntest result: ok. 3 passed; 0 failed; 0 ignored; 0 measured; 0 filtered out", "7: 7 passed, 0 failed, 0 skipped"},
		"CTest":               {"92% tests passed, 1 tests failed out of 12", "12: 11 passed, 1 failed, 0 skipped"},
		"GoogleTest":          {"[==========] 12 tests from 3 test suites ran. (5 ms total)", "12: 12 passed, 0 failed, 0 skipped"},
		"dotnet":              {"Passed!  - Failed:     0, Passed:    31, Skipped:     1, Total:    32, Duration: 20 ms - Press.Tests.dll (net8.0)", "32: 31 passed, 0 failed, 1 skipped"},
		"dotnet, in lines":    {"Total tests: 31\n     Passed: 30\n     Failed: 1\n Total time: 1.2 Seconds", "31: 30 passed, 1 failed, 0 skipped"},
		"Surefire": {"[INFO] Tests run: 3, Failures: 0, Errors: 0, Skipped: 0, Time elapsed: 0.05 s -- in org.example.JarTest\n[ERROR] Tests run: 4, Failures: 1, Errors: 1, Skipped: 0, Time elapsed: 0.05 s <<< FAILURE! -- in org.example.LidTest\n" +
			"[INFO]\n[INFO] Results:\n[INFO]\n[INFO]\n[INFO]\n[ERROR] Tests run: 7, Failures: 1, Errors: 1, Skipped: 0", "7: 5 passed, 2 failed, 0 skipped"},
		"Surefire, two modules": {"[INFO] Tests run: 5, Failures: 0, Errors: 0, Skipped: 0, Time elapsed: 0.05 s -- in org.example.JarTest\n[INFO]\n[INFO] Results:\n[INFO]\n[INFO] Tests run: 5, Failures: 0, Errors: 0, Skipped: 0\n\n\n\n\n" +
			"[INFO] Tests run: 5, Failures: 0, Errors: 0, Skipped: 1, Time elapsed: 0.05 s - in org.example.LidTest\n[INFO]\n[INFO] Results:\n[INFO]\n[WARNING] Tests run: 5, Failures: 0, Errors: 0, Skipped: 1", "10: 9 passed, 0 failed, 1 skipped"},
		"two targets alike": {"test result: ok. 3 passed; 0 failed; 0 ignored; 0 measured\n\n\n\n\n\ntest result: ok. 3 passed; 0 failed; 0 ignored; 0 measured", "6: 6 passed, 0 failed, 0 skipped"},
		"XCTest":            {"Executed 31 tests, with 2 failures (0 unexpected) in 0.123 (0.130) seconds", "31: 29 passed, 2 failed, 0 skipped"},
		"Jasmine":           {"12 specs, 1 failure, 2 pending specs", "12: 9 passed, 1 failed, 2 skipped"},
		"Pest":              {"  Tests:    1 failed, 12 passed (30 assertions)\n  Duration: 0.05s", "13: 12 passed, 1 failed, 0 skipped"},
		"Deno":              {"ok | 12 passed | 0 failed (5ms)", "12: 12 passed, 0 failed, 0 skipped"},
		"NUnit":             {"Test Count: 31, Passed: 28, Failed: 2, Warnings: 0, Inconclusive: 0, Skipped: 1", "31: 28 passed, 2 failed, 1 skipped"},
		"xUnit":             {"=== TEST EXECUTION SUMMARY ===\n   Press.Tests  Total: 31, Errors: 0, Failed: 2, Skipped: 1, Time: 0.245s", "31: 28 passed, 2 failed, 1 skipped"},
		"JUnit 5": {"[         2 containers found      ]\n[         0 containers failed     ]\n[        31 tests found           ]\n[         1 tests skipped         ]\n[        30 tests started         ]\n" +
			"[         0 tests aborted         ]\n[        28 tests successful      ]\n[         2 tests failed          ]", "31: 28 passed, 2 failed, 1 skipped"},
		"ScalaTest":  {"Tests: succeeded 12, failed 1, canceled 0, ignored 2, pending 0", "15: 12 passed, 1 failed, 2 skipped"},
		"sbt":        {"[error] Failed: Total 13, Failed 1, Errors 0, Passed 12", "13: 12 passed, 1 failed, 0 skipped"},
		"Gradle":     {"31 tests completed, 2 failed, 1 skipped", "31: 28 passed, 2 failed, 1 skipped"},
		"Catch2":     {"test cases: 3 | 2 passed | 1 failed\nassertions: 12 | 11 passed | 1 failed", "3: 2 passed, 1 failed, 0 skipped"},
		"tasty":      {"1 out of 12 tests failed (0.01s)", "12: 11 passed, 1 failed, 0 skipped"},
		"test-unit":  {"31 tests, 60 assertions, 1 failures, 1 errors, 2 pendings, 0 omissions, 0 notifications", "31: 27 passed, 2 failed, 2 skipped"},
		"testthat":   {"[ FAIL 1 | WARN 0 | SKIP 2 | PASS 12 ]", "15: 12 passed, 1 failed, 2 skipped"},
		"Criterion":  {"[====] Synthesis: Tested: 12 | Passing: 11 | Failing: 1 | Crashing: 0", "12: 11 passed, 1 failed, 0 skipped"},
		"a file":     {" ❯ unit/jar.test.ts (7 tests | 1 failed | 1 skipped)", ""},
		"prose":      {"2 lids failed to open because 3 jars were full", ""},
		"a build":    {"Build FAILED.\n    3 Warning(s)\n    2 Error(s)", ""},
		"a linter":   {"Found 3 errors in 2 files (checked 12 source files)", ""},
		"a progress": {"[12/40] compiling tests", ""},
		"files only": {"Test Files  2 passed (2)", ""},
	} {
		result, err := All("x", strings.NewReader(test.log+"\n"))
		if err != nil {
			t.Fatal(err)
		}
		got := ""
		if sum, ok := Tallied(result.Tallies); ok {
			got = fmt.Sprintf("%d: %d passed, %d failed, %d skipped", sum.Total, sum.Passed, sum.Failed, sum.Skipped)
		}
		if got != test.want {
			t.Errorf("%s: got %q, want %q (%+v)", name, got, test.want, result.Tallies)
		}
	}
}
