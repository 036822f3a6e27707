package report

import (
	"strings"
	"testing"

	"unicausa/internal/api"
)

// TestCommitMessage holds what is proposed: what is done and not what was broken, code as it
// is written, the entry without a path of this machine, and the trailer.
func TestCommitMessage(t *testing.T) {
	jar := func(kind string, symbols ...string) api.Change {
		return api.Change{Package: "example.org/jar/v5", Version: "5.0.0", Title: "the entry", Notes: "/home/ilse/jar/CHANGELOG.md", Line: 5, Kind: kind, Symbols: symbols}
	}
	renamed := jar("renamed", "OpenLid")
	renamed.Renames = []api.Rename{{From: "OpenLid", To: "Open"}}
	const entry = "example.org/jar/v5 5.0.0: the entry\n(jar/CHANGELOG.md:5)\n\n"
	for _, c := range []struct {
		title  string
		change api.Change
		want   string
	}{
		{"jar.OpenLid no longer exists", renamed, "Use Open in place of OpenLid"},
		{"pgtype.Text.Status no longer exists", jar("removed", "Text.Valid", "Text.Status"), "Replace Text.Status, which jar 5.0.0 removed"},
		{"jar.Lid is no longer in jar", jar("moved", "Lid"), "Follow Lid, which jar 5.0.0 moved"},
		{"calls of jar.Fill no longer fit", jar("signature", "Fill"), "Call Fill as jar 5.0.0 wants it"},
		{"fill is deprecated", jar("deprecated", "fill"), "Replace fill, which jar 5.0.0 deprecates"},
		{"TestFill: 3, want 5", jar("default", "Options.Samples"), "Set Options.Samples, whose default jar 5.0.0 changed"},
		{"a loader is refused", jar("requirement", "node"), "Meet what jar 5.0.0 requires of node"},
		{"TestRound: 3, want 4", jar("behaviour", "Round"), "Adapt to jar 5.0.0: the entry"},
		{"TestRound: 3, want 4", jar("removed"), "Adapt to jar 5.0.0: the entry"},
	} {
		d := api.CauseDetail{Cause: api.Cause{ID: "C3", Title: c.title}, Links: []api.Link{
			{State: "rejected", Score: 1, Standing: api.Possible, Change: api.Change{Title: "no"}}, {Score: 0.9, Standing: api.Likely, Change: c.change},
		}}
		if got, want := CommitMessage(&d), c.want+"\n\n"+entry+"Unicausa-Cause: C3\n"; got != want {
			t.Errorf("%s: %q, want %q", c.title, got, want)
		}
	}
	d := api.CauseDetail{Cause: api.Cause{ID: "C3", Title: "pgtype.Text.Status no longer exists"}}
	if got, want := CommitMessage(&d), "Fix \"pgtype.Text.Status no longer exists\"\n\nUnicausa-Cause: C3\n"; got != want {
		t.Errorf("without a link it is %q, want %q", got, want)
	}
	d.Cause.Title = strings.Repeat("long ", 30)
	if first, _, _ := strings.Cut(CommitMessage(&d), "\n"); len([]rune(first)) != longestSubject {
		t.Errorf("the subject %q is too long", first)
	}
}
