package cli

import (
	"bytes"
	"context"
	"io"
	"os/exec"
	"regexp"
	"strings"
	"testing"

	"github.com/urfave/cli/v3"
)

// each calls f for every command with its full name.
func each(cmd *cli.Command, prefix string, f func(name string, c *cli.Command)) {
	for _, c := range cmd.Commands {
		name := strings.TrimSpace(prefix + " " + c.Name)
		f(name, c)
		each(c, name, f)
	}
}

// TestExamples holds that every command has an example under its --help, that an example
// uses flags that there are, and that there is none of a command that is gone.
func TestExamples(t *testing.T) {
	flag := regexp.MustCompile(`(?:^| )--([a-z][a-z-]*)`)
	left := map[string]bool{}
	for name := range examples {
		left[name] = true
	}
	std := streams{in: strings.NewReader(""), out: io.Discard, err: io.Discard}
	each(app(std), "", func(name string, c *cli.Command) {
		delete(left, name)
		if len(examples[name]) == 0 {
			t.Errorf("%s has no example", name)
		}
		known := map[string]bool{}
		for _, f := range c.Flags {
			for _, n := range f.Names() {
				known[n] = true
			}
		}
		for _, e := range examples[name] {
			call, _, _ := strings.Cut(strings.TrimPrefix(e[strings.LastIndex(e, "unicausa ")+1:], "nicausa "), " | ")
			call, _, _ = strings.Cut(call, " -- ")
			if !strings.HasPrefix(call, name) {
				t.Errorf("an example of %s is of another command: %s", name, e)
			}
			for _, m := range flag.FindAllStringSubmatch(call, -1) {
				if !known[m[1]] {
					t.Errorf("an example of %s has --%s, which it does not know: %s", name, m[1], e)
				}
			}
			if !strings.Contains(c.Description, e) {
				t.Errorf("the help of %s does not show %s", name, e)
			}
		}
	})
	for name := range left {
		t.Errorf("there are examples of %s, which is no command", name)
	}
}

// TestManualPage holds that the manual page is one that man can format, with every command.
func TestManualPage(t *testing.T) {
	var out bytes.Buffer
	if status := Main(t.Context(), []string{"unicausa", "man"}, strings.NewReader(""), &out, &out); status != 0 {
		t.Fatalf("status %d: %s", status, out.String())
	}
	if !strings.HasPrefix(out.String(), ".nh\n.TH unicausa 1") {
		t.Errorf("it begins with %.60q", out.String())
	}
	for _, part := range []string{".SH COMMANDS", "record", "lsp", `npm outdated \-\-json`} {
		if !strings.Contains(out.String(), part) && !strings.Contains(out.String(), strings.ReplaceAll(part, `\-`, "-")) {
			t.Errorf("there is no %q in it", part)
		}
	}
	if _, err := exec.LookPath("man"); err == nil {
		cmd := exec.Command("man", "--warnings", "-l", "-")
		cmd.Stdin = bytes.NewReader(out.Bytes())
		if text, err := cmd.CombinedOutput(); err != nil {
			t.Errorf("man: %v\n%s", err, text)
		}
	}
}

func TestVersionAndQuiet(t *testing.T) {
	for _, c := range []struct {
		args []string
		want string
	}{
		{[]string{"--version"}, "unicausa version "},
		{[]string{"-q", "find", "--help"}, "find causes"},
		{[]string{"completion", "bash"}, "complete"},
		{[]string{"completion", "zsh"}, "#compdef"},
		{[]string{"completion", "fish"}, "complete -c"},
	} {
		var out bytes.Buffer
		if status := Main(context.Background(), append([]string{"unicausa"}, c.args...), strings.NewReader(""), &out, &out); status != 0 || !strings.Contains(out.String(), c.want) {
			t.Errorf("%v: status %d, no %q in\n%.300s", c.args, status, c.want, out.String())
		}
	}
	for _, c := range []struct {
		args string
		want bool
	}{
		{"unicausa -q record --all", true}, {"unicausa record --all --quiet", true}, {"unicausa record --check a -- grep -q x", false},
		{"unicausa -q causes", false}, {"unicausa causes --quiet", false}, {"unicausa record --all", false}, {"unicausa -q", false},
	} {
		if got := quietly(strings.Fields(c.args)); got != c.want {
			t.Errorf("%s: %v", c.args, got)
		}
	}
}

func TestPager(t *testing.T) {
	for value, want := range map[string]string{"less -S": "less -S", "cat": "", "": ""} {
		if got := strings.Join(pagerOf(value, true), " "); got != want {
			t.Errorf("%q: %q, want %q", value, got, want)
		}
	}
}
