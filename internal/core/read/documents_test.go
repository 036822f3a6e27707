package read

import (
	"fmt"
	"strings"
	"testing"
)

// TestDocumentsAcrossChunks holds that where a document happens to be cut while
// it is read changes nothing: every byte of a case is tried as the place.
func TestDocumentsAcrossChunks(t *testing.T) {
	const failed = "<testcase classname=\"pantry.Shelf\" name=\"opens &amp; shuts\" time='1'>\n<failure message=\"a &lt; b > c\" type='E'><![CDATA[E: no <lid>\n\tat pantry.Shelf.opens(Shelf.java:9)\n]]></failure>\n<!-- > --><system-out>ok</system-out></testcase>\n"
	passed := strings.Repeat("<testcase classname=\"pantry.Shelf\" name=\"holds\"/>\n", (firstChunk-500)/50)
	want := ""
	for pad := range len(failed) + 40 {
		text := "<testsuite name=\"s\" note=\"" + strings.Repeat("x", pad) + "\">\n" + passed + failed + "</testsuite>\na.c:1:1: error: no lid\n"
		r := all(t, "x", strings.NewReader(text))
		var said []string
		for _, s := range r.Symptoms {
			said = append(said, fmt.Sprint(line(s), s.At, s.Detail))
		}
		got := fmt.Sprint(len(r.Tests), r.Lines, strings.Join(said, "\n"))
		if want == "" {
			want = got
			if len(r.Symptoms) != 2 || len(r.Tests) != 2 || !strings.Contains(want, "a < b > c") || !strings.Contains(want, "E: no <lid>") {
				t.Fatalf("without a cut:\n%s", show(r))
			}
		}
		if got != want {
			t.Fatalf("cut %d further:\n%s\nwant\n%s", pad, got, want)
		}
	}
}

// TestLargeDocuments reads documents of many chunks, each in a stream of lines,
// and holds their count of findings and where the last stands.
func TestLargeDocuments(t *testing.T) {
	const n = 30_000
	repeat := func(form string) string {
		var b strings.Builder
		for i := range n {
			fmt.Fprintf(&b, form, i)
		}
		return b.String()
	}
	for _, test := range []struct {
		name, text string
		symptoms   int
		last       string
	}{
		{
			"JUnit", "<testsuites><testsuite name=\"s\">\n" + repeat("<testcase name=\"t%d\"><failure message=\"no\"/></testcase>\n") + "</testsuite></testsuites>\n",
			n, fmt.Sprintf("%d test-failure test :0:0 no", n+2),
		},
		{
			"checkstyle", "<checkstyle version=\"8\"><file name=\"a.js\">\n" + repeat("<error line=\"%d\" column=\"1\" severity=\"error\" message=\"no lid\" source=\"r\"/>\n") + "</file></checkstyle>\n",
			n, fmt.Sprintf("%d lint compile a.js:%d:1 no lid", n+2, n-1),
		},
		{
			"SARIF", "{\"version\":\"2.1.0\",\"runs\":[{\"tool\":{\"driver\":{\"name\":\"x\"}},\"results\":[\n" +
				strings.TrimSuffix(repeat("{\"message\":{\"text\":\"no lid\"},\"level\":\"error\",\"locations\":[{\"physicalLocation\":{\"artifactLocation\":{\"uri\":\"a.c\"},\"region\":{\"startLine\":%d}}}]},\n"), ",\n") + "\n]}]}\n",
			n, fmt.Sprintf("%d lint compile a.c:%d:0 no lid", n+2, n-1),
		},
		{
			"one failure with a great deal to say", "<testsuite name=\"s\">\n<testcase name=\"a\"><failure message=\"no\"><![CDATA[" + repeat("line %d of many\n") + "]]></failure></testcase>\n</testsuite>\n",
			1, "3 test-failure test :0:0 no",
		},
	} {
		t.Run(test.name, func(t *testing.T) {
			text := "starting\n" + test.text + "done\nb.c:7:1: error: behind it\n"
			r := all(t, "x", strings.NewReader(text))
			if len(r.Symptoms) != test.symptoms+1 {
				t.Fatalf("%d symptoms, want %d", len(r.Symptoms), test.symptoms+1)
			}
			if got := line(r.Symptoms[test.symptoms-1]); got != test.last {
				t.Errorf("the last is %s, want %s", got, test.last)
			}
			lines := strings.Count(text, "\n")
			if behind := r.Symptoms[test.symptoms]; behind.File != "b.c" || behind.At[0].Line != lines {
				t.Errorf("behind it stands %s, want line %d", line(behind), lines)
			}
			if sum := r.Account.Symptom + r.Account.Noise + r.Account.Plain + r.Account.Unread; sum != lines || r.Lines != lines {
				t.Errorf("%d lines are accounted for, %d read, of %d", sum, r.Lines, lines)
			}
		})
	}
}

// TestBoundsOfWhatIsKept holds that what repeats without end is counted, and
// kept up to a bound.
func TestBoundsOfWhatIsKept(t *testing.T) {
	const times = 20_000
	r := all(t, "x", strings.NewReader(strings.Repeat("a.c:1:1: error: no lid\n1 error generated.\n", times)))
	if len(r.Symptoms) != 1 || r.Symptoms[0].Count != times || len(r.Symptoms[0].At) != mostPlaces {
		t.Errorf("%d symptoms, the first counted %d times with %d places", len(r.Symptoms), r.Symptoms[0].Count, len(r.Symptoms[0].At))
	}
	if len(r.Stated) != mostStated {
		t.Errorf("%d totals are kept", len(r.Stated))
	}
	r = all(t, "x", strings.NewReader(strings.Repeat("a.c:1:1: error: no lid\n2 errors generated.\n", times)))
	if len(r.Stated) != 10*mostStated {
		t.Errorf("%d totals that do not agree are kept", len(r.Stated))
	}
}
