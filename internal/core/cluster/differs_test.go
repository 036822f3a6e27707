package cluster

import (
	"strings"
	"testing"

	"unicausa/internal/core/symptom"
)

// TestDiffers holds in what words of release notes two values differ, read
// from the messages of test frameworks.
func TestDiffers(t *testing.T) {
	for _, test := range []struct{ message, want string }{
		{"expected:<3[] m for 60> but was:<3[.0] m for 60>", "decimal"},
		{"org.opentest4j.AssertionFailedError: expected: <2.35> but was: <2.346>", "rounded"},
		{"expected: <2.35> but was: <7.113>", ""},
		{"org.junit.ComparisonFailure: expected:<<jar>[\n rye\n]</jar>> but was:<<jar>[rye]</jar>>\n\tat shelf.Test", "indent"},
		{"expected: <\u0007> but was: <&#x7;>", "escaped"},
		{"Expected: \"rye \\\\U0001F338\"\nReceived: \"rye 🌸\"", "encoded"},
		{"expected: <rows: '[rye]'> but was: <rows: [rye]>", "quotes"},
		{"expected: <!<!rye>> but was: <!rye>", "angle"},
		{"expected: <Rye> but was: <RYE>", "uppercase"},
		{"expected: <rye> but was: <barley>", ""},
		{"AssertionError: assert 'name,jars\\nrye,3' == 'name;jars\\nrye;3'", "semicolon"},
		{"assert 'rye, oat' == 'oat, rye'", "sorted"},
		{"assert 'rye' == 'rye\\n'", "newline"},
		{"Failed asserting that -3 matches expected 3.", "negative"},
		{"Failed asserting that null is identical to 'rye'.", "null"},
		{"left: \"at 7:05\"\n right: \"at 07:05\"", "zero"},
		{"left: 4\n right: 3", "inclusive"},
		{"left: 3000\n right: 3", "unit"},
		{"left: 72\n right: 3", "hours"},
		{"left: 180\n right: 3", "minutes"},
		{"left: 10800\n right: 3", "seconds"},
		{"left: 75\n right: 3", ""},
		{"left: 3072\n right: 3", "scale"},
		{"left: 30\n right: 3", "scale"},
		{"left: 0\n right: 30", ""},
		{"'1 kg' !== '1kg'", "space"},
		{"Expected: \"1\\u00a0kg\"\nReceived: \"1 kg\"", "space"},
		{"+ 'rye-bread'\n- 'rye_bread'", "underscore"},
		{"line 2: expected \"Anna 5.13\", got \"Anna 5.12\"", "rounding"},
		{"left: 253\n right: -3", "unsigned"},
		{"it broke", ""},
	} {
		s := symptom.Symptom{Message: strings.Split(test.message, "\n")[0], Detail: test.message + " \n"}
		got := Differs(Values(&s))
		if test.want == "" && len(got) > 0 || test.want != "" && !strings.Contains(" "+strings.Join(got, " ")+" ", " "+test.want+" ") {
			t.Errorf("%q differs in %q, want %q", test.message, got, test.want)
		}
	}
}
