package link

import (
	"context"
	"strings"
	"testing"

	"unicausa/internal/core/cluster"
	"unicausa/internal/core/notes"
	"unicausa/internal/core/symptom"
)

// caused is the cause of one new symptom.
func caused(s symptom.Symptom) *cluster.Cause {
	s.State = symptom.New
	return &cluster.Group(context.Background(), []*cluster.Evidence{cluster.Gather(&s, nil, &cluster.Context{})}, &cluster.Context{})[0]
}

// thrown is a test that an error ended.
func thrown(test, message string) symptom.Symptom {
	return symptom.Symptom{Kind: symptom.TestFailure, Phase: symptom.PhaseTest, Test: test, Message: message}
}

// refused is what a compiler says of a name.
func refused(message string, refs ...symptom.Ref) symptom.Symptom {
	return symptom.Symptom{Kind: symptom.Error, Phase: symptom.PhaseCompile, Message: message, Refs: refs}
}

// TestEvidence holds, one piece of evidence at a time, which of two entries of the
// same words comes first for its sake.
func TestEvidence(t *testing.T) {
	lost := refused("undefined: OpenLid", symptom.Ref{Role: symptom.Missing, Name: "OpenLid"})
	for _, test := range []struct {
		name, notes string
		symptom     symptom.Symptom
		first       string // the beginning of the first entry's title
	}{
		{"a major version breaks, a patch repairs", "## 4.3.2\n\n- `OpenLid` was removed from jars.\n\n## 4.0.0\n\n- `OpenLid` was removed from lids.\n", lost, "OpenLid was removed from lids"},
		{"a mark says that it breaks", "## 4.3.0\n\n- `OpenLid` was removed from jars.\n- **Breaking:** `OpenLid` was removed from lids.\n", lost, "OpenLid was removed from lids"},
		{"its heading says so", "## 4.3.0\n\n### Changed\n\n- `OpenLid` was removed from jars.\n\n### Breaking changes\n\n- `OpenLid` was removed from lids.\n", lost, "OpenLid was removed from lids"},
		{"words that follow one another", "## 4.3.0\n\n- Glue of the paper: white labels are told to the shelf.\n- The shelf of labels: white glue is told to the paper.\n", thrown("prints", "Error: white glue is on the shelf"), "The shelf of labels"},
		{"the class of an error says little", "## 4.3.0\n\n- A LidError is told to whom it concerns.\n- The glue is warmed before it is stirred.\n", thrown("cooks", "LidError: the glue was not warmed, it cannot be stirred"), "The glue is warmed"},
		{"a sign goes by its name", "## 4.3.0\n\n- An asterisk is no name of a jar.\n- A semicolon is no name of a jar.\n", refused("as of now, ';' is no name of a jar"), "A semicolon"},
		{"a short form is its word", "## 4.3.0\n\n- Jars are told by their config, in full.\n- Jars are told by their directory, in full.\n", thrown("opens", "Error: the dir is not told in full"), "Jars are told by their directory"},
		{"what is told in two words", "## 4.3.0\n\n- Lids given as plain texts are refused.\n- Lids given as regular expressions are refused.\n", thrown("opens", "Error: lids given as regexp are refused"), "Lids given as regular"},
		{"a member of the scope in small letters", "# Log\n\n## 2.0.0 (2031-02-03)\n\n### Features\n\n* **paper:** ip now returns both sides ([1a2b3c4](https://example.org/c/1a2b3c4))\n* **glue:** ip now returns both sides ([1a2b3c5](https://example.org/c/1a2b3c5))\n",
			refused("Expected 0 arguments, but got 1.", symptom.Ref{Role: symptom.Callee, Name: "ip"}, symptom.Ref{Role: symptom.Owner, Name: "Glue"}), "ip now returns"},
		{"arguments of other types are another function", "## 4.3.0\n\n- `Lid(Text)` is deprecated.\n- `Lid(int)` is deprecated.\n", symptom.Symptom{Kind: symptom.Deprecation, Phase: symptom.PhaseCompile, Message: "Lid(int) in Lid has been deprecated",
			Refs: []symptom.Ref{{Role: symptom.Old, Name: "Lid"}, {Role: symptom.Owner, Name: "Lid"}}}, "Lid(int)"},
		{"what it says to use is not what is missing", "## 4.3.0\n\n- The selector was removed, use `OpenLid` instead.\n- `OpenLid` is gone for good.\n", lost, "OpenLid is gone"},
		{"a value that is written like code", "## 4.3.0\n\n- Weights of crates are shown as `np.whole(3)`.\n- Weights of crates are shown with `jar.kilo(2)`.\n", thrown("shows", "expected: <3> but was: <jar.kilo(3)>"), "Weights of crates are shown with"},
	} {
		t.Run(test.name, func(t *testing.T) {
			found := NewIndex(notes.Read("CHANGELOG.md", "jar", []byte(test.notes))).Links(caused(test.symptom))
			if len(found) == 0 || !strings.HasPrefix(found[0].Change.Title, test.first) {
				t.Errorf("the links are %+v, want %q first", found, test.first)
			}
			if strings.Contains(test.name, "scope") && len(found) > 0 && found[0].Change.Scope != "glue" {
				t.Errorf("the first is of %q", found[0].Change.Scope)
			}
		})
	}
}

// TestReleases holds what versions may do: each beside those of its package.
func TestReleases(t *testing.T) {
	for list, want := range map[string]string{
		"4.0.0 4.0 0.26.0 4.0.0-beta.2 v2.0.0": "major major major major major",
		"4.1.0 4.1 4.1.3 0.26.1":               "minor minor patch patch",
		"2031 next":                            " ",
		"1.4.1 1.4.2 1.5.1 1.5.2":              "patch patch minor patch", // whether there was a 1.4.0 before is not known
		"0.4.1 0.5.2":                          "patch major",
	} {
		var changes []*notes.Change
		for _, v := range strings.Fields(list) {
			changes = append(changes, &notes.Change{Package: "jar", Version: v})
		}
		if got := strings.Join(releases(changes), " "); got != want {
			t.Errorf("%s are %q, want %q", list, got, want)
		}
	}
}

// TestAlike holds which first sentences tell of one thing.
func TestAlike(t *testing.T) {
	for _, test := range []struct {
		a, b string
		want bool
	}{
		{"Passing unsaved jars to a shelf's filters is deprecated", "Passing unsaved jars to a shelf's filters is refused", true},
		{"Passing unsaved jars to a shelf's filters is deprecated", "Passing unsaved lids to a press is refused", false},
		{"Jars are round", "Jars are round", false}, // too little to tell
	} {
		x := NewIndex(notes.Read("CHANGELOG.md", "jar", []byte("## 4.0.0\n\n- "+test.a+".\n\n## 5.0.0\n\n- "+test.b+".\n")))
		if got := alike(x.titles[0], x.titles[1]); got != test.want {
			t.Errorf("%q and %q: %v", test.a, test.b, got)
		}
	}
}

// TestEachWord holds what a word is, and where it stands.
func TestEachWord(t *testing.T) {
	const text = "Open2 lid_x a 3rd, naïve\tB2"
	var got []string
	for from, end := range eachWord(text) {
		got = append(got, text[from:end])
	}
	if want := "Open2 lid rd na ve B2"; strings.Join(got, " ") != want {
		t.Errorf("the words are %q, want %q", got, want)
	}
	for range eachWord(text) {
		break // the rest is not asked for
	}
}
