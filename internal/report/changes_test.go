package report

import (
	"bytes"
	"strings"
	"testing"
	"time"

	"unicausa/internal/api"
	"unicausa/internal/core/notes"
)

func changeRow(title string, edit func(*api.ChangeRow)) api.ChangeRow {
	r := api.ChangeRow{
		Change:    api.Change{ID: title, Notes: "jar.md", Line: 5, End: 5, Version: "5.0.0", Kind: "renamed", Impact: "unknown", Title: title, Renames: []api.Rename{}},
		Candidate: true, State: "exposed",
	}
	edit(&r)
	return r
}

// TestChangesText holds what the list of changes says, and what it leaves out.
func TestChangesText(t *testing.T) {
	rows := []api.ChangeRow{
		changeRow("OpenLid was renamed", func(r *api.ChangeRow) {
			r.State, r.Places, r.Files, r.Causes, r.Change.Impact = "failing", 8, 6, []string{"C1", "C2"}, "high"
		}),
		changeRow("Lids are round", func(r *api.ChangeRow) {
			r.Silent, r.Places, r.Files, r.Change.Kind, r.Change.Line = true, 1, 1, "behaviour", 7
		}),
		changeRow("Kilos is gone", func(r *api.ChangeRow) { r.State, r.Said, r.Places, r.Files = "handled", 1, 2, 1 }),
		changeRow("Requires Go", func(r *api.ChangeRow) {
			r.Requires = []api.Requirement{{Name: "Go", Least: "1.26"}, {Name: "Node", Above: "20"}}
			r.State, r.Reason, r.Added, r.Corrected = "later", "with the next release", true, true
		}),
		changeRow("Never heard of", func(r *api.ChangeRow) { r.State = "not-used" }),
		changeRow("Too old", func(r *api.ChangeRow) { r.Candidate, r.Change.Version = false, "3.0.0" }),
	}
	for _, test := range []struct {
		name string
		rows []api.ChangeRow
		all  bool
		want string
	}{
		{"what concerns the code", rows, false, `▲ failing      OpenLid was renamed
               jar.md:5 · renamed 5.0.0 · high impact · 8 places in 6 files · C1, C2
● silent risk  Lids are round
               jar.md:7 · behaviour 5.0.0 · 1 place in 1 file
✓ handled      Kilos is gone
               jar.md:5 · renamed 5.0.0 · left behind, perhaps: 2 places in 1 file · 1 in comments …
⧗ later        Requires Go
               jar.md:5 · renamed 5.0.0 · asks for Go 1.26 · asks for Node above 20 · added by hand…
1 not used here and 1 outside of what moves are not listed: --all shows them
`},
		{"all", rows[4:], true, `· not used     Never heard of
               jar.md:5 · renamed 5.0.0
  outside      Too old
               jar.md:5 · renamed 3.0.0
`},
		{"nothing", rows[4:5], false, "✓ no change of the notes concerns this code\n1 not used here and 0 outside of what moves are not listed: --all shows them\n"},
	} {
		var b bytes.Buffer
		if err := Changes(&b, test.rows, test.all); err != nil {
			t.Fatal(err)
		}
		if b.String() != test.want {
			t.Errorf("%s:\n%s\nwant\n%s", test.name, b.String(), test.want)
		}
	}
}

func TestChangeText(t *testing.T) {
	d := api.ChangeDetail{
		Row: changeRow("OpenLid was renamed", func(r *api.ChangeRow) {
			r.Places, r.Files, r.Said = 40, 3, 2
			r.Change.Renames = []api.Rename{{From: "OpenLid", To: "Open"}}
		}),
		Text: []string{"- `OpenLid` was renamed"}, Searched: []string{"OpenLid"},
		Words: []api.SaidOfChange{{State: "later", Kind: "signature", Renames: []api.Rename{{From: "a", To: "b"}}, Reason: "the note is wrong", Author: "Mirja", At: time.Date(2031, 5, 5, 8, 0, 0, 0, time.UTC)}},
	}
	for i := range 35 {
		d.At = append(d.At, api.ExposedPlace{File: "shelf.go", Line: i + 1, Name: "OpenLid", Zone: "code", Sure: []float64{1, 0.7, 0.5, 0.3}[i%4], Text: "\tjar.OpenLid()"})
	}
	var b bytes.Buffer
	if err := Change(&b, &d); err != nil {
		t.Fatal(err)
	}
	for _, part := range []string{"  │ - `OpenLid` was renamed\n", "  OpenLid → Open\n", "  shelf.go:1 certain, code\n  │ jar.OpenLid()\n", "shelf.go:2 likely", "shelf.go:3 perhaps", "shelf.go:4 said", "and 12 more", "2031-05-05 08:00 Mirja later signature a → b: the note is wrong"} {
		if !strings.Contains(b.String(), part) {
			t.Errorf("no %q in\n%s", part, b.String())
		}
	}
	b.Reset()
	if err := Change(&b, &api.ChangeDetail{Row: d.Row, Searched: []string{"a", "b"}}); err != nil || !strings.Contains(b.String(), "looked for a, b: they stand nowhere in the code") {
		t.Errorf("%v\n%s", err, b.String())
	}
	b.Reset()
	if err := Change(&b, &api.ChangeDetail{Row: d.Row, Waits: true}); err != nil || !strings.Contains(b.String(), "it has not been looked for in the code yet") {
		t.Errorf("%v\n%s", err, b.String())
	}
	b.Reset()
	if err := Change(&b, &api.ChangeDetail{Row: d.Row}); err != nil || !strings.Contains(b.String(), "its words name nothing that could be looked for") {
		t.Errorf("%v\n%s", err, b.String())
	}
}

func TestVersionsText(t *testing.T) {
	v := api.Versions{
		Warnings: []string{"nothing moved"}, Files: []string{"go.mod", "package.json"},
		Moves: []api.Moved{
			{Name: "jar", Ecosystem: "npm", From: "4.0.0", To: "5.0.0", Change: "moved", Intended: true},
			{Name: "@o/lid", Was: "lid", From: "1", To: "2", Change: "renamed", Direct: true},
			{Name: "rim", To: "2", Change: "added", Path: []string{"jar 5.0.0", "press 1.0.0"}},
			{Name: "old", From: "1", Change: "dropped"},
		},
		Held:  []api.HeldBack{{Name: "press", At: "1.0.0", To: "2.0.0", By: []api.Need{{Package: "rack 1.0.0", Name: "press", Range: "^1", Kind: "dependency", Have: "2.0.0"}}}},
		Unmet: []api.Need{{Package: "rack 1.0.0", Name: "jar", Range: "^4", Have: "5.0.0", Kind: "peer"}, {Package: "rack 1.0.0", Name: "foil", Range: "1", Kind: "peer"}},
	}
	want := `! nothing moved
intended
  moved      jar 4.0.0 → 5.0.0
named in a manifest
  renamed    @o/lid (was lid) 1 → 2
pulled in
  added      rim 2
             by jar 5.0.0 › press 1.0.0
  dropped    old 1
! press is held at 1.0.0, not 2.0.0
    rack 1.0.0 wants press ^1 (dependency)
unmet requirements
  rack 1.0.0 wants jar ^4, 5.0.0 is here (peer)
  rack 1.0.0 wants foil 1, none is here (peer)
read: go.mod, package.json
`
	var b bytes.Buffer
	if err := Versions(&b, &v); err != nil || b.String() != want {
		t.Errorf("%v\n%s\nwant\n%s", err, b.String(), want)
	}
}

func TestReadNotesText(t *testing.T) {
	changes := notes.Read("jar.md", "", []byte("## 5.0.0\n\nImpact: high\n\n- `OpenLid` was renamed to `Open`.\n- `Lid` and `Cap`\n- Requires Go 1.26\n\n## 3.0.0\n\n- `Old` is gone,\n  at last\n"))
	want := `renamed      5.0.0    OpenLid was renamed to Open
             jar.md:5 · high impact · OpenLid → Open
behaviour    5.0.0    Lid and Cap
             jar.md:6 · high impact · Lid, Cap
requirement  5.0.0    Requires Go 1.26
             jar.md:7 · high impact · asks for Go >=1.26
removed      3.0.0    Old is gone, at last
             jar.md:11-12 · Old
`
	var b bytes.Buffer
	within := func(version string) bool { return notes.Within(version, "4.0.0", "5.0.0") }
	if err := ReadNotes(&b, changes, within); err != nil || b.String() != want {
		t.Errorf("%v\n%s\nwant\n%s", err, b.String(), want)
	}
	b.Reset()
	if err := ReadNotes(&b, nil, within); err != nil || b.String() != "no entry was found\n" {
		t.Errorf("%v %q", err, b.String())
	}
}
