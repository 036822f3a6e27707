package gate

import (
	"slices"
	"testing"

	"unicausa/internal/core/symptom"
)

func TestPairs(t *testing.T) {
	runs := []BranchRun{ // the latest first
		{Number: 9, Check: "build", Branch: "bump"},
		{Number: 8, Check: "build", Branch: "bump"},
		{Number: 7, Check: "test", Branch: "main"},
		{Number: 6, Check: "test", Branch: "bump"}, // merged since
		{Number: 5, Check: "lint", Branch: "bump", Informative: true},
		{Number: 4, Check: "build", Branch: "main"},
		{Number: 3, Check: "build", Branch: "main"},
	}
	want := []Pair{{Check: "build", Target: 4, Later: 9}, {Check: "lint", Informative: true, Later: 5}}
	if got := Pairs(runs, "main"); !slices.Equal(got, want) {
		t.Errorf("%+v", got)
	}
}

func TestJudgeBranch(t *testing.T) {
	build := Pair{Check: "build", Target: 4, Later: 9}
	broken := symptom.Symptom{File: "a.go", Line: 3, Message: "undefined: jar.Lid\nin shop"}
	tests := []struct {
		name  string
		pairs []Compared
		want  []Reason
	}{
		{"nothing was run", nil, []Reason{{Code: NotRun, At: Target{Kind: AtRuns}, Text: "no check was run on another branch than main since"}}},
		{"it brings nothing", []Compared{{Pair: build}}, nil},
		{"nothing to compare with", []Compared{{Pair: Pair{Check: "build", Later: 9}}}, []Reason{{Code: NoTarget, Check: "build", At: Target{Kind: AtRuns}, Text: "build has no run on main to compare with: record it there first"}}},
		{"it brings an error and loses a test", []Compared{{Pair: build, New: []symptom.Symptom{broken}, Lost: []string{"TestLid is missing"}}}, []Reason{
			{Code: Brought, Check: "build", At: Target{Kind: AtComparison, ID: "4", Other: "9"}, Text: "build: a.go:3: undefined: jar.Lid"},
			{Code: LostTest, Check: "build", At: Target{Kind: AtComparison, ID: "4", Other: "9"}, Text: "build: TestLid is missing"},
		}},
		{"an informative check holds nothing", []Compared{{Pair: Pair{Check: "lint", Informative: true, Target: 4, Later: 9}, New: []symptom.Symptom{broken}}}, nil},
		{"a failing test, an error of a file and one of nothing", []Compared{{Pair: build, New: []symptom.Symptom{{Test: "TestLid", File: "a_test.go", Line: 9, Message: "no"}, {File: "go.mod", Message: "no"}, {Message: "no"}}}}, []Reason{
			{Code: Brought, Check: "build", At: Target{Kind: AtComparison, ID: "4", Other: "9"}, Text: "build: TestLid: no"},
			{Code: Brought, Check: "build", At: Target{Kind: AtComparison, ID: "4", Other: "9"}, Text: "build: go.mod: no"},
			{Code: Brought, Check: "build", At: Target{Kind: AtComparison, ID: "4", Other: "9"}, Text: "build: no"},
		}},
	}
	same := func(a, b Reason) bool {
		return a.Code == b.Code && a.Check == b.Check && a.At == b.At && a.Text == b.Text
	}
	for _, test := range tests {
		t.Run(test.name, func(t *testing.T) {
			v := JudgeBranch("main", test.pairs)
			if !slices.EqualFunc(v.Reasons, test.want, same) || v.Open != (len(test.want) == 0) {
				t.Errorf("open %v: %+v", v.Open, v.Reasons)
			}
		})
	}
}

func TestHold(t *testing.T) {
	v := Verdict{Open: true}
	if v.Hold(0, nil); !v.Open {
		t.Error("nothing holds it")
	}
	v.Reasons = []Reason{{Code: Undecided}}
	v.Hold(2, map[int]string{7: "build: it took too long", 0: "no memory"})
	var codes, texts []string
	for _, r := range v.Reasons {
		codes, texts = append(codes, r.Code), append(texts, r.Text)
	}
	if v.Open || !slices.Equal(codes, []string{Pending, Undecided, Aside, Aside}) {
		t.Errorf("open %v: %q", v.Open, codes)
	}
	if texts[0] != "2 recorded runs wait to be processed" || texts[2] != "the causes could not be drawn: no memory" || texts[3] != "run 7 could not be processed, build: it took too long" {
		t.Errorf("%q", texts)
	}
}
