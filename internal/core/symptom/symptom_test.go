package symptom

import (
	"math/rand"
	"reflect"
	"testing"
)

func TestSteady(t *testing.T) {
	for text, want := range map[string]string{
		"got 3 jars":                       "got ‹n› jars",
		"took 0.003s":                      "took ‹n›",
		"at 12:30:07.5":                    "at ‹n›",
		"address 0x7ffe12ab is gone":       "address ‹n› is gone",
		"version 4.1.0 of utf8 and TS2305": "version ‹n› of utf8 and TS2305",
		"1,000 lids":                       "‹n› lids",
		"no numbers":                       "no numbers",
		"":                                 "",
		"lid_3 is a name":                  "lid_3 is a name",
		"(12)":                             "(‹n›)",
		"build 3f2a91bc77 of deadbeef":     "build ‹n› of deadbeef",
		"id 0f8fad5b-d9cb-469f-a165-70867728950e": "id ‹n›",
		"cannot open /tmp/go-build12/x.o: no":     "cannot open ‹tmp›: no",
	} {
		if got := Normalize(text); got != want {
			t.Errorf("Normalize(%q) is %q, want %q", text, got, want)
		}
	}
}

func TestTemplate(t *testing.T) {
	for _, test := range []struct {
		message string
		refs    []Ref
		want    string
	}{
		{"undefined: jar.OpenLid", []Ref{{Missing, "jar.OpenLid"}, {Owner, "jar"}}, "undefined: ‹symbol›"},
		{`no lid "blue" on jar 3`, nil, `no lid "‹text›" on jar ‹n›`},
		{"use `open` instead", nil, "use `‹text›` instead"},
		{`an open " quote`, nil, `an open " quote`},
	} {
		if got := Template(test.message, test.refs); got != test.want {
			t.Errorf("Template(%q) is %q, want %q", test.message, got, test.want)
		}
	}
}

func TestPhasesAreOrdered(t *testing.T) {
	for i := 1; i < len(Phases); i++ {
		if Phases[i-1].Order() >= Phases[i].Order() {
			t.Errorf("%s does not come before %s", Phases[i-1], Phases[i])
		}
	}
	if Phase("").Order() != -1 || Phase("lunch").Order() != -1 {
		t.Error("what is no phase has an order")
	}
}

func at(input string, line int) []At { return []At{{Input: input, Line: line, End: line}} }

func compileError(file string, line int, message, input string, inputLine int) Symptom {
	return Symptom{Kind: Error, Phase: PhaseCompile, Tool: "go", File: file, Line: line, Message: message, At: at(input, inputLine)}
}

func TestMerge(t *testing.T) {
	list := []Symptom{
		compileError("./shelf.go", 3, "undefined: a", "build.log", 1),
		compileError("shelf.go", 3, "undefined: a", "test.log", 7),
		compileError("shelf.go", 9, "undefined: a", "build.log", 2),
		compileError("label.go", 1, "undefined: a", "build.log", 3),
		{Kind: TestFailure, Unit: "p", Test: "TestLid", Message: "got 3", Tool: "go test", At: at("a.json", 4)},
		{Kind: TestFailure, Unit: "p", Test: "TestLid", Message: "got 3", Tool: "go test", Detail: "more", At: at("test.log", 9)},
		{Kind: TestFailure, Unit: "q", Test: "TestLid", Message: "got 3", Tool: "go test", At: at("test.log", 12)},
	}
	merged := Merge(list)
	var got []string
	for _, s := range merged {
		got = append(got, s.File+s.Unit)
	}
	if want := []string{"p", "q", "label.go", "shelf.go", "shelf.go"}; !reflect.DeepEqual(got, want) {
		t.Fatalf("merged to %v, want %v", got, want)
	}
	if s := merged[3]; s.Count != 2 || s.At[0].Input != "build.log" || s.At[1].Input != "test.log" || s.Line != 3 {
		t.Errorf("two places of one problem became %+v", s)
	}
	a, b := Frame{File: "a.js", Line: 1, Own: true}, Frame{File: "node_modules/jar.js", Line: 2}
	s := Symptom{Frames: []Frame{b, a}}
	s.AddFrames([]Frame{a, {File: "node_modules/lid.js", Line: 1}, {File: "c.js", Line: 3, Own: true}})
	if len(s.Frames) != 3 || s.Frames[2].File != "c.js" {
		t.Errorf("the stacks of two sightings became %+v", s.Frames)
	}
	if s := merged[0]; s.Count != 2 || s.Detail != "more" {
		t.Errorf("two sightings of one test became %+v", s)
	}
	ids := map[string]bool{}
	for _, s := range merged {
		if len(s.ID) != 16 || ids[s.ID] {
			t.Errorf("the ID %q is no good", s.ID)
		}
		ids[s.ID] = true
	}
}

// TestMergeIgnoresOrder holds that the order of the inputs changes nothing.
func TestMergeIgnoresOrder(t *testing.T) {
	var list []Symptom
	for i := range 60 {
		list = append(list, compileError([]string{"a.go", "b.go"}[i%2], i/4, []string{"undefined: a", "undefined: b"}[i%3%2], "x.log", i+1))
	}
	want := Merge(list)
	for seed := range 5 {
		shuffled := append([]Symptom(nil), list...)
		rand.New(rand.NewSource(int64(seed))).Shuffle(len(shuffled), func(i, j int) { shuffled[i], shuffled[j] = shuffled[j], shuffled[i] })
		if got := Merge(shuffled); !reflect.DeepEqual(got, want) {
			t.Fatalf("seed %d merges otherwise", seed)
		}
	}
}

// TestIdentity holds what keeps a symptom's ID from run to run, and what does not.
func TestIdentity(t *testing.T) {
	id := func(s Symptom) string { return Merge([]Symptom{s})[0].ID }
	base := compileError("shelf.go", 3, "got 3 lids", "a.log", 1)
	for name, change := range map[string]func(*Symptom){
		"a moved line":     func(s *Symptom) { s.Line = 90 },
		"another number":   func(s *Symptom) { s.Message = "got 4 lids" },
		"another tool":     func(s *Symptom) { s.Tool = "go vet" },
		"another input":    func(s *Symptom) { s.At = at("b.log", 7) },
		"a spelt-out path": func(s *Symptom) { s.File = "./shelf.go" },
		"a Windows path":   func(s *Symptom) { s.File = `.\shelf.go` },
		"a longer detail":  func(s *Symptom) { s.Detail = "more" },
	} {
		s := base
		change(&s)
		if id(s) != id(base) {
			t.Errorf("%s changes the identity", name)
		}
	}
	for name, change := range map[string]func(*Symptom){
		"another file":    func(s *Symptom) { s.File = "label.go" },
		"another message": func(s *Symptom) { s.Message = "got 3 jars" },
		"another kind":    func(s *Symptom) { s.Kind = Warning },
		"another code":    func(s *Symptom) { s.Code = "L1" },
	} {
		s := base
		change(&s)
		if id(s) == id(base) {
			t.Errorf("%s does not change the identity", name)
		}
	}
}

// TestIdentityOfTests holds that a test which is red for another reason is
// another symptom, and that what it says of values makes none.
func TestIdentityOfTests(t *testing.T) {
	red := func(message, missing string) Symptom {
		s := Symptom{Kind: TestFailure, Unit: "p", Test: "TestLid", Message: message, At: at("a.log", 1)}
		if missing != "" {
			s.Refs = []Ref{{Missing, missing}}
		}
		return s
	}
	id := func(list ...Symptom) string { return Merge(list)[0].ID }
	gone := red("TypeError: jar.open is not a function", "jar.open")
	if id(gone) == id(red("TypeError: jar.shut is not a function", "jar.shut")) || id(gone) == id(red("RangeError: no lid", "")) || id(gone) == id(red("expected 3, got 4", "")) {
		t.Error("another reason is the same symptom")
	}
	if id(red("AssertionError: expected 3 to be 4", "")) != id(red("expected 5 to be 4", "")) {
		t.Error("another value is another symptom")
	}
	if merged := Merge([]Symptom{gone, red("not a function", "")}); len(merged) != 1 || merged[0].ID != id(gone) {
		t.Errorf("two forms of one failure are %d symptoms", len(merged))
	}
	java := func(name string) Symptom {
		return Symptom{Kind: Error, File: "A.java", Message: "cannot find symbol", Refs: []Ref{{Missing, name}}}
	}
	if id(java("open")) == id(java("shut")) {
		t.Error("what is missing stands in the detail, and is forgotten")
	}
}

func TestAbout(t *testing.T) {
	s := Symptom{Refs: []Ref{{Missing, "jar.OpenLid"}, {Owner, "jar"}, {Module, "example.org/jar"}, {Missing, "OpenLid"}}}
	if got := s.About(); !reflect.DeepEqual(got, []string{"OpenLid"}) {
		t.Errorf("it is about %v", got)
	}
}

func TestNamed(t *testing.T) {
	s := Symptom{Refs: []Ref{{Missing, "a"}, {Owner, "b"}, {Missing, "c"}, {Owner, "a"}, {Expected, ""}}}
	if s.Named(Missing) != "a" || s.Named(Owner) != "b" || s.Named(Module) != "" {
		t.Error("the wrong name is found")
	}
	if got := s.Symbols(); !reflect.DeepEqual(got, []string{"a", "b", "c"}) {
		t.Errorf("the symbols are %v", got)
	}
}
