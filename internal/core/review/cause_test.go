package review

import (
	"reflect"
	"testing"

	"unicausa/internal/core/source/sourcetest"
	"unicausa/internal/core/symptom"
)

// TestCause takes symptoms into a cause: where they stand in the tree, and what they
// complain of.
func TestCause(t *testing.T) {
	tree := sourcetest.Tree(t, map[string]string{"src/press.c": "a\n", "src/lid.c": "b\n"})
	var c Cause
	for _, s := range []symptom.Symptom{
		{File: "/checkout/src/press.c", Line: 4, Message: "x", Refs: []symptom.Ref{{Role: symptom.Missing, Name: "jar.OpenLid"}, {Role: symptom.Expected, Name: "int"}}},
		{File: "src/press.c", Line: 9, Message: "multiple definition of `alarm_level'"},
		{File: "elsewhere.c", Line: 3, Message: "no names"},
		{File: "src/lid.c", Message: "no line", Refs: []symptom.Ref{{Role: symptom.Option, Name: "--lid"}}},
	} {
		c.Add(tree, &s)
	}
	want := Cause{Names: []string{"OpenLid", "alarm_level", "--lid"}, Missing: []string{"OpenLid"}, Places: map[string][]int{"src/press.c": {4, 9}}}
	if !reflect.DeepEqual(c, want) {
		t.Errorf("the cause is %+v, want %+v", c, want)
	}
}

func TestCounted(t *testing.T) {
	hunks := []Hunk{{Standing: Asked}, {Standing: Unasked}, {Standing: Asked}, {Standing: Layout}}
	if got := Counted(hunks); got != "1 unasked for, 2 asked for, 1 of space and comments" {
		t.Errorf("counted are %q", got)
	}
	if got := Counted(nil); got != "" {
		t.Errorf("of none it says %q", got)
	}
}
