package report

import (
	"flag"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"unicausa/internal/api"
)

var update = flag.Bool("update", false, "write the golden files")

// reviewed is a review with a hunk of every standing.
var reviewed = api.Review{
	Of: "main..HEAD", Summary: "1 unasked for, 1 beyond what is asked, 1 half done, 2 asked for, 1 following from the move",
	Hunks: []api.ReviewHunk{
		{File: "press.go", OldLine: 7, Line: 7, Removed: []string{"\tlimit := 12"}, Added: []string{"\tlimit := 21"}, Standing: api.Unasked, Why: "neither a change of the notes nor a cause asks for it", Notices: []api.ReviewNotice{{What: "number", Text: "12 became 21"}}},
		{File: "gone.go", OldLine: 1, Line: 0, Removed: strings.Split("a b c d e f g h", " "), Standing: api.Unasked, Why: "neither a change of the notes nor a cause asks for it"},
		{File: "press_test.go", OldLine: 15, Line: 16, Removed: []string{"fill(5)", "check(5)"}, Added: []string{"fill(jar, 5)"}, Standing: api.More, Why: "what stands around fill changes: it behaves otherwise, the note says",
			Asks: []api.ReviewAsk{{Change: "1", At: "jar.md:4", Title: "fill takes the jar | first", Why: "w"}}, Notices: []api.ReviewNotice{{What: "weaker-test", Text: "1 of what the test asserts is gone"}}},
		{File: "lid.go", OldLine: 3, Line: 3, Removed: []string{"OpenLid()"}, Added: []string{"Lift()"}, Standing: api.Half, Why: "OpenLid is gone, and Open is not there"},
		{File: "a.go", OldLine: 1, Line: 1, Removed: []string{"x"}, Added: []string{"y"}, Standing: api.Asked, Asks: []api.ReviewAsk{{Cause: "C3", Title: "jar.OpenLid was renamed to Open", Why: "w"}}},
		{File: "b.go", OldLine: 1, Line: 1, Removed: []string{"x"}, Added: []string{"y"}, Standing: api.Asked, Asks: []api.ReviewAsk{{Cause: "C3", Title: "jar.OpenLid was renamed to Open", Why: "w"}}},
		{File: "go.mod", OldLine: 3, Line: 3, Removed: []string{"4"}, Added: []string{"5"}, Standing: api.Follows, Why: "the move of jar itself"},
	},
	Edits: []api.ReviewEdit{
		{Change: "2", At: "jar.md:3", Title: "OpenLid was renamed to Open", Done: 2, Places: 7, Said: 1, Left: []api.ExposedPlace{
			{File: "c.go", Line: 1, Text: "  OpenLid(1)"}, {File: "c.go", Line: 2}, {File: "c.go", Line: 3}, {File: "c.go", Line: 4}, {File: "c.go", Line: 5}, {File: "c.go", Line: 6}, {File: "c.go", Line: 7},
		}},
		{Change: "1", At: "jar.md:4", Title: "fill takes the jar | first", Done: 1},
	},
	Note: "the diff fits neither side",
}

// TestReview holds both forms of a review against what was read and found right;
// -update writes them anew.
func TestReview(t *testing.T) {
	for name, write := range map[string]func(*strings.Builder) error{
		"review.txt": func(b *strings.Builder) error { return Review(b, &reviewed) },
		"review.md":  func(b *strings.Builder) error { return ReviewMarkdown(b, &reviewed) },
		"review-none.txt": func(b *strings.Builder) error {
			return Review(b, &api.Review{Of: "What is not committed", Clean: true})
		},
	} {
		var b strings.Builder
		if err := write(&b); err != nil {
			t.Fatal(err)
		}
		golden(t, filepath.Join("testdata", name), b.String())
	}
}

func golden(t *testing.T, file, got string) {
	t.Helper()
	if *update {
		if err := os.WriteFile(file, []byte(got), 0o644); err != nil {
			t.Fatal(err)
		}
	}
	want, err := os.ReadFile(file)
	if err != nil {
		t.Fatal(err)
	}
	if got != string(want) {
		t.Errorf("%s is\n%s\nwant\n%s", file, got, want)
	}
}
