package casebook

import (
	"bytes"
	"encoding/json"
	"fmt"
	"strings"
	"testing"

	"unicausa/internal/core/notes"
	"unicausa/internal/core/rewrite"
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

// TestFile holds that a casebook is read as it was written, and that without
// private text nothing of people is in it.
func TestFile(t *testing.T) {
	template := Template{ChangeID: "5f0c", Change: "OpenLid takes the force first", Package: "example.org/jar", Shape: "OpenLid(‹1›, ‹2›) → OpenLid(‹2›, ‹1›)",
		Examples: []rewrite.Example{{From: "OpenLid(v1, v2)", To: "OpenLid(v2, v1)"}}}
	for _, one := range []Case{lid, lid.Public()} {
		text, err := json.Marshal(Book{Format: Format, Version: Version, Cases: []Case{one}, Templates: []Template{template}})
		if err != nil {
			t.Fatal(err)
		}
		private := one.Project != ""
		if bytes.Contains(text, []byte("pantry")) != private || bytes.Contains(text, []byte("as the notes say")) != private {
			t.Errorf("private %v gives\n%s", private, text)
		}
		got, err := Read(bytes.NewReader(text))
		if err != nil {
			t.Fatal(err)
		}
		if fmt.Sprint(got.Cases, got.Templates) != fmt.Sprint([]Case{one}, []Template{template}) {
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
		`{"format": "unicausa-casebook", "version": 1, "cases": [], "templates": [{"changeId": "5f0c"}]}`:         "template 1 has no change, or no examples",
	} {
		if _, err := Read(strings.NewReader(text)); err == nil || !strings.Contains(err.Error(), want) {
			t.Errorf("%q gives %v, want %q", text, err, want)
		}
	}
}
