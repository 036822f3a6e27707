package view

import (
	"encoding/json"
	"regexp"
	"testing"

	"unicausa/internal/access"
	"unicausa/internal/api"
	"unicausa/internal/core/casebook"
	"unicausa/internal/core/gate"
	"unicausa/internal/core/notes"
	"unicausa/internal/core/review"
	"unicausa/internal/core/rewrite"
	"unicausa/internal/core/route"
	"unicausa/internal/core/track"
	"unicausa/internal/core/versions"
	"unicausa/internal/store"
)

// TestListsAreThere holds that a list without anything in it is an empty one, for a caller
// goes through it without asking: of everything that can be viewed, with nothing filled in.
func TestListsAreThere(t *testing.T) {
	null := regexp.MustCompile(`"(\w+)":null`)
	for name, v := range map[string]any{
		"an upgrade": Upgrade(store.Upgrade{}), "a row of one": UpgradeRow(store.Upgrade{}, Gate(gate.Verdict{}), nil, nil, nil), "legs": Legs([]store.Leg{{}}),
		"a proposed route": ProposedLegs([]route.Leg{{}}), "events": Events(nil), "findings": Found(nil), "debts": Debts(nil), "due debts": DueDebts(nil), "debts in code": FoundDebts(nil),
		"a run": Run(store.Run{Inputs: []store.Input{{}}, Delta: &track.Delta{}}), "runs": Runs(nil), "checks": Checks([]store.Check{{Baseline: &store.Run{}}}), "commits": Commits([]store.Commit{{}}),
		"tests": Tests(store.TestTable{}), "symptoms of a run": RunSymptoms(nil), "a comparison": Comparison(store.Run{}, store.Run{}, nil, nil, nil), "lines": Lines(store.Lines{}), "hits": Hits(store.Hits{}),
		"causes": Causes([]store.Cause{{Link: &store.Link{}, Decision: &store.Decision{}}}), "a cause": CauseDetail(store.CauseDetail{Symptoms: []store.Symptom{{}}, Links: []store.Link{{}}}),
		"corrections": Corrections([]store.Correction{{}}), "elsewhere": Elsewhere(nil), "cases": Cases([]casebook.Case{{}}), "a casebook": Casebook(nil, []casebook.Template{{}}),
		"changes": Changes([]store.Change{{}}), "a change": ChangeDetail(store.ChangeDetail{Words: []store.ChangeWord{{}}}), "notes": Notes(nil), "versions": Versions(versions.Comparison{Moves: []versions.Difference{{}}, Held: []versions.Held{{}}}),
		"dependencies": Dependencies([]versions.Dependency{{}}), "a patch": Patch(rewrite.Patch{Edits: []rewrite.Edit{{}}}, ""),
		"a review": Review(review.Review{Hunks: []review.Hunk{{}}, Edits: []review.Edit{{}}}, "", review.Case{}), "a verdict": Gate(gate.Verdict{}), "words": Words(nil),
		"people": People([]store.Person{{}}), "who asks": Me(&access.Person{}), "deeds": Deeds(nil), "history": History([]store.HistoryPoint{{Causes: map[string]int{}}}),
	} {
		text, err := json.Marshal(v)
		if err != nil {
			t.Fatal(err)
		}
		if string(text) == "null" {
			t.Errorf("%s: no list", name)
		}
		for _, m := range null.FindAllStringSubmatch(string(text), -1) {
			t.Errorf("%s: %s is no list", name, m[1])
		}
	}
}

// TestGiven holds that what a caller leaves out is told from what is empty.
func TestGiven(t *testing.T) {
	none := given(t, `{"reason": "x"}`)
	if none.Kind != nil || none.State != nil || none.Renames != nil {
		t.Errorf("nothing was said: %+v", none)
	}
	empty := given(t, `{"reason": "x", "kind": "", "state": "", "renames": []}`)
	if empty.Kind == nil || *empty.Kind != "" || empty.State == nil || empty.Renames == nil {
		t.Errorf("it was taken back: %+v", empty)
	}
	some := given(t, `{"reason": "x", "renames": [{"from": "a", "to": "b"}]}`)
	if len(some.Renames) != 1 || some.Renames[0] != (notes.Rename{From: "a", To: "b"}) {
		t.Errorf("%+v", some)
	}
}

// given is what a caller says of a change, as JSON.
func given(t *testing.T, text string) store.ChangeWord {
	t.Helper()
	var w api.ChangeWord
	if err := json.Unmarshal([]byte(text), &w); err != nil {
		t.Fatal(err)
	}
	return ChangeWord(w)
}
