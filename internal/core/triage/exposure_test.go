package triage

import (
	"fmt"
	"strings"
	"testing"
	"testing/fstest"

	"unicausa/internal/core/exposure"
	"unicausa/internal/core/notes"
	"unicausa/internal/core/read"
	"unicausa/internal/core/source"
	"unicausa/internal/core/versions"
)

// TestChangeStates holds what each change of some notes is to a small project,
// with and without something that fails.
func TestChangeStates(t *testing.T) {
	tree, err := source.NewTree(fstest.MapFS{"a.go": {Data: []byte("package a\n\nimport \"example.org/jar\"\n\nvar x = jar.OpenLid(jar.Lid)\n// Cap\n")}})
	if err != nil {
		t.Fatal(err)
	}
	changes := notes.Read("jar.md", "example.org/jar", []byte(`## 5.0.0

- `+"`OpenLid` was renamed to `Open`."+`
- The default of `+"`Lid`"+` is now round.
- `+"`Cap`"+` is gone.
- Added `+"`Lid`"+`.
- Rounding is to even now.

## 4.0.0

- The default of `+"`Lid`"+` is now oval.
`))
	for _, test := range []struct {
		name, output, want string
	}{
		{"nothing printed", "", "3 exposed, 4 exposed silent, 5 not-used, 6 not-used, 7 not-used, 11 exposed outside"},
		{"a build that fails", "# a\n./a.go:5:13: undefined: jar.OpenLid\n", "3 failing, 4 exposed silent, 5 not-used, 6 not-used, 7 not-used, 11 exposed outside"},
	} {
		r, err := read.All("after.log", strings.NewReader(test.output))
		if err != nil {
			t.Fatal(err)
		}
		report := Run(t.Context(), Case{After: []Snapshot{{Results: []read.Result{r}, Tree: tree}}, Changes: changes, Moves: []versions.Move{{Package: "example.org/jar", From: "4.0.0", To: "5.0.0"}}})
		var got []string
		for _, c := range report.Changes {
			text := fmt.Sprintf("%d %s", c.Line, c.State)
			if c.Silent {
				text += " silent"
			}
			if !c.Candidate {
				text += " outside"
			}
			got = append(got, text)
		}
		if strings.Join(got, ", ") != test.want {
			t.Errorf("%s:\ngot  %s\nwant %s", test.name, strings.Join(got, ", "), test.want)
		}
	}
}

func TestStateOf(t *testing.T) {
	for _, test := range []struct {
		kind           notes.Kind
		places         int
		shown, cleared bool
		want           ChangeState
	}{
		{notes.Renamed, 3, true, false, Failing}, {notes.Renamed, 3, true, true, Failing}, {notes.Renamed, 0, false, true, Handled}, {notes.Renamed, 3, false, true, Handled},
		{notes.Renamed, 3, false, false, Exposed}, {notes.Renamed, 0, false, false, NotUsed}, {notes.Added, 3, false, false, NotUsed}, {notes.Added, 3, true, false, Failing},
	} {
		c := notes.Change{Kind: test.kind}
		if got := StateOf(&c, test.places, test.shown, test.cleared); got != test.want {
			t.Errorf("%+v is %s", test, got)
		}
	}
}

// TestSilent holds which changes are silent risks, and which may be one.
func TestSilent(t *testing.T) {
	tree, err := source.NewTree(fstest.MapFS{
		"main.py":      {Data: []byte("import jar\nfrom jar import Lid\n\njar.weigh(3)\nlid = Lid(colour=1)\nother.shake(4)\n")},
		"jar.toml":     {Data: []byte("lid_colour = 3\n")},
		"settings.yml": {Data: []byte("rim_colour: 3\n")},
	})
	if err != nil {
		t.Fatal(err)
	}
	for entry, want := range map[string]string{
		"`jar.weigh` no longer rounds":                          "risk",
		"`shake` rounds down now instead of up":                 "perhaps", // whose it is nothing says
		"The default of `lid_colour` is blue now":               "risk",
		"The default of `rim_colour` is blue now":               "perhaps", // it stands in the file of something else
		"`jar.weigh` may now take a list":                       "",
		"Allow `jar.weigh` to take a list":                      "perhaps",
		"`jar.shake` no longer rounds":                          "perhaps",
		"`jar.shake` no longer rounds what `jar.weigh` returns": "perhaps", // its own subject is not used
		"`jar.weigh` was removed":                               "",
		"Fix `jar.weigh`":                                       "",
	} {
		changes := notes.Read("x.md", "jar", []byte("## 5.0.0\n\n- "+entry+"\n"))
		found := exposure.Search(t.Context(), tree, changes[:1])
		got := ""
		switch {
		case Silent(&changes[0], &found[0]):
			got = "risk"
		case Perhaps(&changes[0], &found[0]):
			got = "perhaps"
		}
		if got != want {
			t.Errorf("%q is %q, want %q (%s, %+v)", entry, got, want, changes[0].Kind, found[0].Places)
		}
	}
}

func TestAsked(t *testing.T) {
	changes := notes.Read("jar.md", "jar", []byte("## 5.0.0\n\n- Requires Node 22\n- `@o/lid` was renamed to `@o/cap`\n- Dropped support for Go 1.24\n\n## 3.0.0\n\n- Requires Node 12\n"))
	renames, needs := Asked(changes, []versions.Move{{Package: "jar", From: "4.0.0", To: "5.0.0"}})
	if len(renames) != 1 || renames[0] != (versions.Pair{From: "@o/lid", To: "@o/cap"}) {
		t.Errorf("the renames are %+v", renames)
	}
	want := []versions.Need{{Package: "jar.md:3", Name: "Node", Range: ">=22"}, {Package: "jar.md:5", Name: "Go", Range: ">1.24"}}
	if fmt.Sprint(needs) != fmt.Sprint(want) {
		t.Errorf("asked for is %+v", needs)
	}
}
