package casebook

import (
	"bytes"
	"fmt"
	"strings"
	"testing"

	"unicausa/internal/core/notes"
)

var lid = Case{Signature: "symbol|example.org/jar|OpenLid", Package: "example.org/jar", From: "4.0.0", To: "5.0.0", Title: "jar.OpenLid was renamed to Open",
	Kind: "renamed", Decision: "fix", Pairs: []notes.Rename{{From: "OpenLid", To: "Open"}}, Reason: "as the notes say", Project: "pantry", Upgrade: "jar 5"}

func TestGather(t *testing.T) {
	again, put := lid, lid
	again.Project, put.Decision = "cellar", "defer"
	alone := Case{Signature: "test||TestLid", Decision: "fix"}
	got := Gather([]Case{lid, alone, put, again})
	if len(got) != 2 || got[0].Decision != "fix" || got[0].Helped != 1 || got[0].Project != "cellar" || got[1].Helped != 0 {
		t.Errorf("gathered are %+v", got)
	}
	if n := len(Matching(got, "known|"+lid.Signature)); n != 2 {
		t.Errorf("%d match", n)
	}
	if n := len(Matching(got, "says||no")) + len(Matching(got, "symbol|example.org/jar|Lid")); n != 0 {
		t.Errorf("%d match what is something else", n)
	}
}

// TestFile holds that a casebook is read as it was written, without private
// text unless it is asked for.
func TestFile(t *testing.T) {
	for _, private := range []bool{false, true} {
		var out bytes.Buffer
		if err := Write(&out, []Case{lid}, private); err != nil {
			t.Fatal(err)
		}
		if strings.Contains(out.String(), "pantry") != private || strings.Contains(out.String(), "as the notes say") != private {
			t.Errorf("private %v gives\n%s", private, out.String())
		}
		got, err := Read(&out)
		if err != nil {
			t.Fatal(err)
		}
		want := lid
		if !private {
			want = lid.Public()
		}
		if len(got) != 1 || fmt.Sprint(got[0]) != fmt.Sprint(want) {
			t.Errorf("read is %+v", got)
		}
	}
}

func TestReadWrong(t *testing.T) {
	for text, want := range map[string]string{
		"":                              "no casebook",
		"[]":                            "no casebook",
		`{"format": "x", "version": 1}`: `its format is "x"`,
		`{"format": "unicausa-casebook", "version": 2, "cases": []}`:                                              "version 2",
		`{"format": "unicausa-casebook", "version": 1, "cases": [{"decision": "fix"}]}`:                           "case 1 has no signature",
		`{"format": "unicausa-casebook", "version": 1, "cases": [{"signature": "option|lid|", "decision": "x"}]}`: `the decision "x"`,
	} {
		if _, err := Read(strings.NewReader(text)); err == nil || !strings.Contains(err.Error(), want) {
			t.Errorf("%q gives %v, want %q", text, err, want)
		}
	}
}
