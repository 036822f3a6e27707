package read

import "testing"

func TestMarks(t *testing.T) {
	lists := []markList{
		{texts: []string{"^FAIL: ", "ERROR", "she", "hers"}},
		{texts: []string{"^failed", "warn"}, how: anyhow},
		{texts: []string{"error", ": error", ":1", "(1", "^1", "^L1"}, how: aWord},
	}
	for _, c := range []struct {
		line string
		want uint64
	}{
		{"", 0},
		{"FAIL: opens", 1},
		{"  \tFAIL: opens", 1},
		{"a FAIL: opens", 0},
		{"fail: opens", 0},
		{"HAVE_ERROR", 5},
		{"ushers", 1},
		{"Failed", 2},
		{"it failed", 0},
		{"WARNING", 2},
		{"an error", 4},
		{"TypeError: stuck", 4},
		{"errors found", 4},
		{"LID_ERROR", 5},
		{"src/error.c", 0},
		{"a lid_error is", 0},
		{"error_path", 0},
		{"GET /error 200", 0},
		{"error-prone", 0},
		{"the error.", 4},
		{"lid: error_path", 0},
		{"jar.x:12:9", 4},
		{"jar.x:12: stuck", 4},
		{"plugin:1.2.3", 0},
		{"jar.x(12,9)", 4},
		{"(12 lids)", 0},
		{"(100%)", 0},
		{"  12:9  stuck", 4},
		{"12 lids", 0},
		{"1/2 lids", 0},
		{"127.0.0.1 - -", 0},
		{"L12 stuck", 4},
	} {
		if got := newMarks(lists).in([]byte(c.line)); got != c.want {
			t.Errorf("%q has marks of %b, want %b", c.line, got, c.want)
		}
	}
}
