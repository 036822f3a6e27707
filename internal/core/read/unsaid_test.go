package read

import (
	"strings"
	"testing"
)

// TestUnsaid holds that a failing check of which nothing was read is a symptom
// of its own, and that nothing else is.
func TestUnsaid(t *testing.T) {
	for _, test := range []struct {
		name    string
		outputs []string
		exit    int
		want    string // input:line message / detail
	}{
		{"nothing understood", []string{"lids checked\n\nlid 7 gave way\n\n"}, 3, "a:3 lids fails, and nothing in its output says why / lids checked|lid 7 gave way"},
		{"the first output with a line", []string{"", "lid 7\n", "lid 8\n"}, 1, "b:1 lids fails, and nothing in its output says why / lid 7"},
		{"no output at all", []string{""}, 1, "a:1 lids fails, and nothing in its output says why / "},
		{"it passed", []string{"lid 7 gave way\n"}, 0, ""},
		{"something was read", []string{"x\n", "a.c:1:2: error: no lid\n"}, 1, ""},
	} {
		t.Run(test.name, func(t *testing.T) {
			var results []Result
			before := 0
			for i, text := range test.outputs {
				r, err := All(string(rune('a'+i)), strings.NewReader(text))
				if err != nil {
					t.Fatal(err)
				}
				before += len(r.Symptoms)
				results = append(results, r)
			}
			Unsaid(results, "lids", test.exit)
			got, after := "", 0
			for _, r := range results {
				after += len(r.Symptoms)
				for _, s := range r.Symptoms {
					if before == 0 {
						got = r.Name + ":" + string(rune('0'+s.At[0].Line)) + " " + s.Message + " / " + strings.ReplaceAll(s.Detail, "\n", "|")
					}
				}
			}
			if got != test.want || test.want == "" && after != before {
				t.Errorf("got  %s\nwant %s", got, test.want)
			}
		})
	}
}

// TestUnreadAsAWhole holds that an output of a failing check of which nothing
// was made is said to be unread.
func TestUnreadAsAWhole(t *testing.T) {
	one, _ := All("a.log", strings.NewReader("lid 7 gave way\n"))
	other, _ := All("b.log", strings.NewReader("a.c:1:2: error: no lid\n"))
	results := []Result{one, other}
	Unsaid(results, "lids", 1)
	if !strings.Contains(results[0].Problem, "unread as a whole") || results[1].Problem != "" {
		t.Errorf("the problems are %q and %q", results[0].Problem, results[1].Problem)
	}
}
