package source

import (
	"fmt"
	"strings"
	"testing"
)

// TestTokens lexes a line: w word, n number, q string, m mark; a slash stands in front of
// one that begins a line, a tilde of one behind a comment.
func TestTokens(t *testing.T) {
	for _, test := range []struct{ file, text, want string }{
		{"a.go", "x := jar.Open(\"lid\", 5)\n", "/wx m:= wjar m. wOpen m( q\"lid\" m, n5 m)"},
		{"a.go", "a // b\nc /* d */ e", "/wa /~wc ~we"},
		{"a.ts", "a?.b ?? c !== d => `e${f}`", "/wa m?. wb m?? wc m!== wd m=> q`e${ wf q}`"},
		{"a.py", "x = 1.5 ** y # z", "/wx m= n1.5 m** wy"},
		{"a.py", "a[1:2]", "/wa m[ n1 m: n2 m]"},
		{"a.rs", "weigh!(a::b, 'c', 0..9)", "/wweigh m! m( wa m:: wb m, m' wc m' m, n0 m.. n9 m)"},
		{"a.php", "$a->b()", "/w$a m-> wb m( m)"},
		{"a.c", "a<<=b", "/wa m<<= wb"},
		{"a.unknown", "a(b)", "/wa m( wb m)"},
		{"a.go", "", ""},
	} {
		var got []string
		for _, token := range Tokens(test.file, test.text) {
			text := ""
			if token.NewLine {
				text += "/"
			}
			if token.Noted {
				text += "~"
			}
			got = append(got, fmt.Sprintf("%s%c%s", text, "wnqm"[token.Kind], token.Text))
			if test.text[token.Offset:token.End()] != token.Text {
				t.Errorf("%q: %q does not stand at %d", test.text, token.Text, token.Offset)
			}
		}
		if strings.Join(got, " ") != test.want {
			t.Errorf("%s %q:\ngot  %s\nwant %s", test.file, test.text, strings.Join(got, " "), test.want)
		}
	}
}

func TestTokenIs(t *testing.T) {
	if !(Token{Text: "(", Kind: Mark}).Is("[", "(") || (Token{Text: "a", Kind: Word}).Is("b") || (Token{Text: "(", Kind: Quoted}).Is("(") {
		t.Error("a token is not what it is")
	}
}

// FuzzTokens holds that tokens stand where they say, in order, and that nothing but
// space and comments lies between them.
func FuzzTokens(f *testing.F) {
	f.Add("a.go", "x := `a` // \"b\n/* c */ 5.")
	f.Add("a.ts", "`${`${a}`}`")
	f.Add("a.py", "f'{a!r:>{b}}'")
	f.Fuzz(func(t *testing.T, file, text string) {
		end := 0
		for _, token := range Tokens(file, text) {
			if token.Offset < end || token.Text == "" || text[token.Offset:token.End()] != token.Text {
				t.Fatalf("%q at %d of %q, behind %d", token.Text, token.Offset, text, end)
			}
			end = token.End()
		}
	})
}
