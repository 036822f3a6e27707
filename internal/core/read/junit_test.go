package read

import (
	"fmt"
	"strings"
	"testing"
)

// TestJUnitDialects reads the forms in which runners write JUnit XML. Want is
// "line suite/name outcome message" for each test, the message of failed ones.
func TestJUnitDialects(t *testing.T) {
	for _, test := range []struct{ name, text, want, stated string }{
		{
			"a single suite without a declaration",
			"<testsuite name=\"s\">\n<testcase name=\"a\"/>\n<testcase name=\"b\"><failure message=\"no\"/></testcase>\n</testsuite>",
			"s/a passed; 3 s/b failed no", "",
		},
		{
			"counts that are wrong",
			"<testsuite name=\"s\" tests=\"1\" failures=\"7\" errors=\"1\">\n<testcase name=\"b\"><failure message=\"no\"/></testcase>\n</testsuite>",
			"2 s/b failed no", "1: 8 stated, 1 read",
		},
		{
			"counts that are negative or no numbers",
			"<testsuite name=\"s\" failures=\"-1\" errors=\"none\">\n<testcase name=\"a\"/>\n</testsuite>",
			"s/a passed", "",
		},
		{
			"a failure counted as an error, with its words in the text",
			"<testsuite name=\"s\" errors=\"1\">\n<testcase name=\"b\" classname=\"c.D\"><error type=\"E\">E: no lid\n\tat c.D.b(D.java:9)</error></testcase>\n</testsuite>",
			"2 c.D/b failed E: no lid", "1: 1 stated, 1 read",
		},
		{
			"several cases on one line",
			"<testsuite name=\"s\"><testcase name=\"a\"/><testcase name=\"b\"><failure message=\"no\"/></testcase><testcase name=\"c\"><failure message=\"neither\"/></testcase></testsuite>",
			"s/a passed; 1 s/b failed no; 1 s/c failed neither", "",
		},
		{
			"skipped, with and without a reason",
			"<testsuite name=\"s\"><testcase name=\"a\"><skipped/></testcase><testcase name=\"b\"><skipped message=\"later\">because</skipped></testcase></testsuite>",
			"s/a skipped; s/b skipped", "",
		},
		{
			"a failure after a skip is a failure",
			"<testsuite name=\"s\"><testcase name=\"a\"><skipped/><failure message=\"no\"/></testcase></testsuite>",
			"1 s/a failed no", "",
		},
		{
			"two failures in one case keep the first one's words",
			"<testsuite name=\"s\"><testcase name=\"a\"><failure message=\"first\"/><failure message=\"second\"/></testcase></testsuite>",
			"1 s/a failed first", "",
		},
		{
			"an empty failure",
			"<testsuite name=\"s\"><testcase name=\"a\"><failure/></testcase></testsuite>",
			"1 s/a failed failed", "",
		},
		{
			"a failure with a type alone",
			"<testsuite name=\"s\"><testcase name=\"a\"><failure type=\"AssertionError\"></failure></testcase></testsuite>",
			"1 s/a failed AssertionError", "",
		},
		{
			"output of a passing test is no failure",
			"<testsuite name=\"s\"><testcase name=\"a\"><system-out>error: only printed</system-out><system-err>FATAL</system-err></testcase></testsuite>",
			"s/a passed", "",
		},
		{
			"suites in suites",
			"<testsuites><testsuite name=\"outer\" failures=\"1\">\n<testsuite name=\"inner\">\n<testcase name=\"a\"><failure message=\"no\"/></testcase></testsuite></testsuite></testsuites>",
			"3 inner/a failed no", "1: 1 stated, 1 read",
		},
		{
			"a suite that could not be set up",
			"<testsuite name=\"s\">\n<error message=\"no database\">at a.b(c.js:1:2)</error></testsuite>",
			"2 s/ failed no database", "",
		},
		{
			"properties and attachments are passed over",
			"<testsuite name=\"s\"><properties><property name=\"failure\" value=\"no\"/></properties><testcase name=\"a\"><properties><property name=\"x\" value=\"y\"/></properties></testcase></testsuite>",
			"s/a passed", "",
		},
		{
			"names with entities and blanks",
			"<testsuite name=\"s\"><testcase name=\"opens &lt;lid&gt; &amp; shuts\"><failure message=\"line one&#10;line two\"/></testcase></testsuite>",
			"1 s/opens <lid> & shuts failed line one", "",
		},
		{
			"colours in the text",
			"<testsuite name=\"s\"><testcase name=\"a\"><failure>&#x1B;[31mno lid&#x1B;[0m</failure></testcase></testsuite>",
			"1 s/a failed no lid", "",
		},
		{
			"lines that the runner printed above its report",
			"> test\nsome words\n<?xml version=\"1.0\"?>\n<testsuite name=\"s\">\n<testcase name=\"a\"><failure message=\"no\"/></testcase></testsuite>",
			"5 s/a failed no", "",
		},
		{
			"a declaration of another encoding",
			"<?xml version=\"1.0\" encoding=\"ISO-8859-1\"?>\n<testsuite name=\"s\"><testcase name=\"a\"/></testsuite>",
			"s/a passed", "",
		},
	} {
		t.Run(test.name, func(t *testing.T) {
			r := all(t, "x.xml", strings.NewReader(test.text))
			var got []string
			failed := map[string]string{}
			for _, s := range r.Symptoms {
				failed[s.Test] = fmt.Sprintf("%d %s/%s failed %s", s.At[0].Line, s.Unit, s.Test, s.Message)
				if s.Test == "" {
					got = append(got, fmt.Sprintf("%d %s/%s failed %s", s.At[0].Line, s.Unit, s.Test, s.Message))
				}
			}
			for _, tt := range r.Tests {
				if text, ok := failed[tt.Name]; ok {
					got = append(got, text)
				} else {
					got = append(got, fmt.Sprintf("%s/%s %s", tt.Suite, tt.Name, tt.Outcome))
				}
			}
			var stated []string
			for _, s := range r.Stated {
				stated = append(stated, fmt.Sprintf("%d: %d stated, %d read", s.Line, s.Count, s.Read))
			}
			if strings.Join(got, "; ") != test.want || strings.Join(stated, "; ") != test.stated {
				t.Errorf("got  %s (%s)\nwant %s (%s)", strings.Join(got, "; "), strings.Join(stated, "; "), test.want, test.stated)
			}
			if r.Problem != "" {
				t.Errorf("the problem is %q", r.Problem)
			}
		})
	}
}

// TestMalformedXML holds that what stands before a break is read, that the
// result says where the break is, and that nothing else is lost.
func TestMalformedXML(t *testing.T) {
	const good = "<testsuite name=\"s\">\n<testcase name=\"a\"><failure message=\"no\"/></testcase>\n"
	for name, rest := range map[string]string{
		"cut off in a tag": "<testcase name=\"b", "cut off between tags": "", "a tag that does not close": "<testcase name=\"b\">\n</testsuite>",
		"an attribute without a value": "<testcase name/></testsuite>", "no element": "<<</testsuite>",
	} {
		t.Run(name, func(t *testing.T) {
			r := all(t, "x.xml", strings.NewReader(good+rest))
			if len(r.Symptoms) != 1 || r.Symptoms[0].Test != "a" || len(r.Tests) != 1 {
				t.Errorf("read are %d symptoms and %d tests", len(r.Symptoms), len(r.Tests))
			}
			if !strings.Contains(r.Problem, "this XML breaks off at line") || !strings.Contains(r.Problem, "record the file again") || len(r.Unread) != 1 {
				t.Errorf("the problem is %q, unread %v", r.Problem, r.Unread)
			}
		})
	}
}
