package source

import "testing"

// TestZones marks each byte of a text: c code, k comment, s string, t text.
func TestZones(t *testing.T) {
	letters := map[Zone]byte{Code: 'c', Comment: 'k', Literal: 's', Text: 't'}
	for _, test := range []struct{ file, text, want string }{
		{"a.go", "x := \"a\" // b\ny", "cccccssscckkkkccc"[:5] + "ssscckkkk"[:4] + "kkkkcc"},
		{"a.go", "`a\nb` c", "sssss" + "cc"},
		{"a.c", "a /* b\n*/ c", "cckkkkkkkcc"},
		{"a.c", "'\\'' x", "sssscc"},
		{"a.rs", "fn a<'a>()", "cccccccccc"},
		{"a.py", "# a\n'''b\n''' c", "kkkcssss" + "ssss" + "cc"},
		{"a.py", "it = \"don't\"", "ccccc" + "sssssss"},
		{"a.rb", "a # b", "cckkk"},
		{"a.sql", "a -- b", "cckkkk"},
		{"a.ml", "(* a *) b", "kkkkkkkcc"},
		{"a.erl", "a % b", "cckkk"},
		{"a.php", "a // b\n# c\nd", "cckkkkckkkcc"},
		{"a.md", "a // b", "tttttt"},
		{"a.ts", "a = `${b}`", "ccccssscss"},
		{"a.ts", "`a${ {b: 1} }c${d}`", "ssss" + "cccccccc" + "ssss" + "c" + "ss"},
		{"a.go", "`${b}`", "ssssss"},
		{"a.rb", "\"#{b} {c}\" '#{d}'", "sss" + "c" + "ssssss" + "c" + "ssssss"},
		{"a.py", "f'{a} {{b}}' '{c}'", "c" + "ss" + "c" + "sssssss" + "s" + "c" + "sssss"},
		{"a.kt", "\"$a ${b.c} \\${d}\"", "sssss" + "sccc" + "ssssss" + "ss"[:1] + "s"},
		{"a.cs", "$\"{a}\" \"{b}\"", "c" + "ss" + "c" + "ss" + "c" + "sssss"},
		{"a.ts", "`${open`", "ssssssss"},
		{"a.c", "\"open\n", "cccccc"},
		{"a.c", "/* open", "kkkkkkk"},
		{"a.c", "", ""},
	} {
		z := ZonesOf(test.file, test.text)
		got := make([]byte, len(test.text))
		for i := range got {
			got[i] = letters[z.At(i)]
		}
		if string(got) != test.want {
			t.Errorf("%s %q:\ngot  %s\nwant %s", test.file, test.text, got, test.want)
		}
	}
}

func FuzzZones(f *testing.F) {
	f.Add("a.go", "x := `a` // \"b\n/* c */")
	f.Fuzz(func(t *testing.T, file, text string) {
		z := ZonesOf(file, text)
		last := 0
		for _, end := range z.ends {
			if end <= last && len(text) > 0 {
				t.Errorf("a stretch ends at %d behind %d", end, last)
			}
			last = end
		}
		if last != len(text) {
			t.Errorf("the zones end at %d of %d", last, len(text))
		}
	})
}
