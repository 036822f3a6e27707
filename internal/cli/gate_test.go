package cli

import (
	"strings"
	"testing"

	"unicausa/internal/api"
)

// TestVouched holds which reasons numbers, keys, patterns and kinds name.
func TestVouched(t *testing.T) {
	reasons := []api.GateReason{
		{Code: "undecided", Text: "C1 is undecided"},
		{Code: "lost-test", Text: "a/b is missing", Key: "test:unit:a/b"},
		{Code: "silent-risk", Text: "4 risks", Key: "risks", Members: []string{"change:1", "change:2"}},
		{Code: "silent-risk", Text: "a risk", Key: "change:9"},
	}
	for _, test := range []struct {
		args, kinds, want, problem string
	}{
		{args: "2 4", want: "test:unit:a/b change:9"},
		{args: "2 2 test:unit:a/b", want: "test:unit:a/b"},
		{args: "test:*", want: "test:unit:a/b"},
		{args: "change:*", want: "change:1 change:2 change:9"},
		{args: "change:2", want: "change:2"},
		{args: "risks backup", want: "risks backup"},
		{kinds: "silent-risk", want: "risks change:9"},
		{args: "1", problem: "no word is enough here: C1 is undecided"},
		{args: "7", problem: "the gate has 4 reasons, none with the number 7"},
		{args: "2 change:77", problem: "the gate has no reason change:77"},
		{args: "version:*", problem: "the gate has no reason version:*"},
		{kinds: "undecided", problem: "no reason of the kind undecided that a word would settle"},
	} {
		keys, err := vouched(strings.Fields(test.args), strings.Fields(test.kinds), reasons)
		if test.problem != "" {
			if err == nil || !strings.Contains(err.Error(), test.problem) {
				t.Errorf("%s%s: %v, want %q", test.args, test.kinds, err, test.problem)
			}
			continue
		}
		if got := strings.Join(keys, " "); err != nil || got != test.want {
			t.Errorf("%s%s: %s (%v), want %s", test.args, test.kinds, got, err, test.want)
		}
	}
}
