package report

import (
	"strings"
	"testing"

	"unicausa/internal/api"
)

// TestQuestion holds that what is asked of others says what moved, what is seen and what was
// tried, and nothing of the project's own.
func TestQuestion(t *testing.T) {
	u := api.Upgrade{Project: "orchard-ledger", Leg: api.Leg{Moves: []api.Move{{Package: "example.org/jar", From: "4.2.0", To: "5.0.0"}}}}
	d := api.CauseDetail{
		Cause: api.Cause{Title: "jar.OpenLid no longer exists", Phase: "compile"},
		Symptoms: []api.Symptom{{
			File: "pantry/secret/shelf.go", Line: 4, Test: "TestShelfOfIlse", Message: "pantry/secret/shelf.go: undefined: jar.OpenLid in TestShelfOfIlse of orchard-ledger",
			Source: []api.SourceLine{{Line: 3, Text: "before"}, {Line: 4, Text: "\tjar.OpenLid(\"plums for Ilse\")"}},
		}},
		Decisions: []api.Decision{{Kind: "fix", Reason: "called Open in pantry/secret/shelf.go", Outcome: "disproved"}, {Kind: "fix", Reason: "never mind", Undone: true}, {Kind: "defer", Reason: "later"}},
	}
	for _, c := range []struct {
		name, text string
		parts      []string
	}{
		{"question", Question(&d, &u), []string{"example.org/jar 4.2.0 to 5.0.0", "undefined: jar.OpenLid in the test of the project", "jar.OpenLid(\"…\")", "- called Open in file.go (it is still there)", "The notes do not mention it"}},
		{"upstream", UpstreamReport(&d, &u), []string{"### jar.OpenLid no longer exists", "| example.org/jar | 4.2.0 | 5.0.0 |", "in the compile phase", "file.go: undefined: jar.OpenLid", "No entry of the release notes"}},
	} {
		for _, part := range c.parts {
			if !strings.Contains(c.text, part) {
				t.Errorf("the %s has no %q:\n%s", c.name, part, c.text)
			}
		}
		for _, own := range []string{"orchard-ledger", "pantry", "secret", "TestShelf", "plums", "never mind", "later"} {
			if strings.Contains(c.text, own) {
				t.Errorf("the %s tells of %s:\n%s", c.name, own, c.text)
			}
		}
	}
	d.Links = []api.Link{{Standing: api.Likely, Change: api.Change{Package: "example.org/jar", Version: "5.0.0", Title: "`OpenLid` was renamed"}}}
	if text := Question(&d, &u); !strings.Contains(text, "The notes say in example.org/jar 5.0.0: `OpenLid` was renamed") {
		t.Errorf("with an entry it is\n%s", text)
	}
}
