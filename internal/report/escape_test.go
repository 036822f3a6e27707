package report

import (
	"bytes"
	"regexp"
	"strings"
	"testing"

	"unicausa/internal/core/read"
	"unicausa/internal/core/triage"
)

func TestHarmless(t *testing.T) {
	for in, want := range map[string]string{
		"plain words, a_b and 3 > 2": "plain words, a_b and 3 > 2",
		"`List<Lid>` is gone":        "`List<Lid>` is gone",
		"``a`b<c>`` too":             "``a`b<c>`` too",
		"a ` alone <b>":              "a \\` alone &lt;b>",
		"![x](http://a/x.png)":       "!\\[x]\\(http://a/x.png)",
		"[go](javascript:alert(1))":  "[go]\\(javascript:alert(1))",
		"<img src=x> ```":            "&lt;img src=x> \\`\\`\\`",
		"list[0] and f[](a)":         "list[0] and f[]\\(a)",
	} {
		if got := harmless(in); got != want {
			t.Errorf("%s\ngot  %s\nwant %s", in, got, want)
		}
	}
}

var spans = regexp.MustCompile("`[^`\n]*`")

// TestNothingOfALogTakesEffect holds that pictures, markup, links and terminal codes of a log
// are words in every report of it.
func TestNothingOfALogTakesEffect(t *testing.T) {
	const log = "a.c:1:1: error: \x1b[31mred\x1b[0m ![x](http://evil.example/x.png) <img src=http://evil.example/y.png> <script>alert(1)</script> [go](javascript:alert(1))\n"
	r, err := read.All("a.log", strings.NewReader(log))
	if err != nil {
		t.Fatal(err)
	}
	report := triage.Run(t.Context(), triage.Case{After: []triage.Snapshot{{Results: []read.Result{r}}}})
	for name, write := range map[string]func(*bytes.Buffer) error{
		"text":     func(b *bytes.Buffer) error { return Text(b, &report, nil) },
		"Markdown": func(b *bytes.Buffer) error { return Markdown(b, &report, nil) },
		"HTML":     func(b *bytes.Buffer) error { return HTML(b, &report, nil) },
	} {
		var b bytes.Buffer
		if err := write(&b); err != nil {
			t.Fatal(err)
		}
		text := b.String()
		if name == "Markdown" {
			text = spans.ReplaceAllString(text, "")
		}
		for _, bad := range []string{"\x1b", "<img", "<script>alert", "![x](", "](javascript"} {
			words := name == "text" && bad != "\x1b" || name == "HTML" && strings.Contains(bad, "](") || name == "HTML" && strings.HasPrefix(bad, "![")
			if strings.Contains(text, bad) && !words {
				t.Errorf("%s has %q", name, bad)
			}
		}
	}
}
