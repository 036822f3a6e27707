package cluster

import (
	"regexp"
	"strings"

	"unicausa/internal/core/symptom"
)

// runtime joins failures at run time with what the compiler said about the
// same function: a test that dies in a function that did not compile, and a
// crash with the test that it ended.
func (g *grouping) runtime() {
	tests := map[string]int{}
	named := map[string][]int{}
	for i, e := range g.evidence {
		if e.Symptom.Kind == symptom.TestFailure && e.Symptom.Test != "" {
			tests[e.Symptom.Unit+"\x00"+e.Symptom.Test] = i
			named[e.Symptom.Test] = append(named[e.Symptom.Test], i)
		}
	}
	said := g.complaints()
	for i, e := range g.evidence {
		s := e.Symptom
		if s.Kind == symptom.Crash && s.Test == "" {
			if test, ok := ended(s, named); ok {
				g.join(test, i, Because{What: "crash of the test", Value: g.evidence[test].Symptom.Test, Weight: certain}, false)
			}
		}
		if s.Kind == symptom.Crash && s.Test != "" {
			if test, ok := tests[s.Unit+"\x00"+s.Test]; ok {
				g.join(test, i, Because{What: "crash of the test", Value: s.Test, Weight: certain}, false)
			}
		}
		if s.Kind != symptom.TestFailure && s.Kind != symptom.Crash || e.Fact(FactMissing) != nil {
			continue
		}
		if list, function := g.inFunction(i, said); g.one(list) {
			g.join(list[len(list)-1], i, Because{What: "fails in the function that does not compile", Value: function, Weight: good}, true)
		}
	}
}

// ended finds the failed test in one of whose functions a crash stands: the
// only one of that name.
func ended(s *symptom.Symptom, tests map[string][]int) (int, bool) {
	for _, f := range s.Frames {
		name := strings.TrimRight(before(f.Function, "("), ".")
		name = name[strings.LastIndexAny(name, ".:# ")+1:]
		if list := tests[name]; f.Own && name != "" && len(list) > 0 {
			return list[0], len(list) == 1
		}
	}
	return 0, false
}

// complaints are the symptoms that stand in files, without those of running
// programs, by file.
func (g *grouping) complaints() map[string][]int {
	byFile := map[string][]int{}
	for i, e := range g.evidence {
		if e.Symptom.File != "" && e.Symptom.Kind != symptom.TestFailure && e.Symptom.Kind != symptom.Crash {
			byFile[e.Symptom.File] = append(byFile[e.Symptom.File], i)
		}
	}
	return byFile
}

// inFunction lists the complaints inside the innermost own function of a
// failure's stack, which it names where the source has it.
func (g *grouping) inFunction(i int, said map[string][]int) (list []int, function string) {
	for _, f := range g.evidence[i].Symptom.Frames {
		if !f.Own {
			continue
		}
		from, end := g.evidence[i].tree.Function(f.File, f.Function)
		if from == 0 {
			return nil, ""
		}
		for _, j := range said[f.File] {
			if line := g.evidence[j].Symptom.Line; from <= line && line <= end && g.together(i, j) {
				list = append(list, j)
			}
		}
		return list, f.Function
	}
	return nil, ""
}

// one reports whether symptoms, at least one, are of one set.
func (g *grouping) one(list []int) bool {
	for _, j := range list {
		if g.find(j) != g.find(list[0]) {
			return false
		}
	}
	return len(list) > 0
}

// warned holds a failed comparison together with what was printed, with a stack,
// while its line of the test ran: that says more than what the test calls.
func (g *grouping) warned() {
	type at struct {
		file string
		line int
	}
	printed := map[at]int{}
	for i, e := range g.evidence {
		if e.Symptom.Kind != symptom.Warning && e.Symptom.Kind != symptom.Deprecation {
			continue
		}
		for _, f := range e.Symptom.Frames {
			if _, ok := printed[at{f.File, f.Line}]; !ok && f.Own {
				printed[at{f.File, f.Line}] = i
			}
		}
	}
	for i, e := range g.evidence {
		if e.Symptom.Kind != symptom.TestFailure || e.Fact(FactMissing) != nil || e.said != "" {
			continue
		}
		for _, f := range e.Symptom.Frames {
			if of, ok := printed[at{f.File, f.Line}]; ok && f.Own && g.together(i, of) {
				g.key[i], g.reason[i] = g.key[of], Because{What: "ran when this was printed", Value: g.evidence[of].Symptom.Message, Weight: strong}
				break
			}
		}
	}
}

// hubFiles is from how many files of the project a function is called that
// everything goes through.
const hubFiles = 2

// hubs sets apart what a function throws that everything goes through: it throws
// for many reasons, and what it says tells them apart.
func (g *grouping) hubs() {
	files := map[key]map[string]bool{}
	thrower := func(i int) bool {
		f := g.evidence[i].Fact(FactFrame)
		return f != nil && g.key[i] == about(f.Package, f.Name)
	}
	for i, e := range g.evidence {
		if thrower(i) {
			if files[g.key[i]] == nil {
				files[g.key[i]] = map[string]bool{}
			}
			files[g.key[i]][e.Symptom.File] = true
		}
	}
	for i, e := range g.evidence {
		if text := e.said; text != "" && thrower(i) && len(files[g.key[i]]) >= hubFiles {
			g.key[i].kind, g.key[i].how = keyThrows, wording(text)
			e.Fact(FactFrame).Weight = converted
		}
	}
}

// thrown sets apart what a call threw from what the compiler says of calls of
// the same name: a failure in a function that does not compile goes with that
// complaint alone, and one in a function that does is not about what changed
// in the signature.
func (g *grouping) thrown() {
	refused := map[key]bool{} // names whose calls the compiler refuses
	for i, e := range g.evidence {
		if e.Fact(FactCallee) != nil && e.Symptom.Kind == symptom.Error && e.Symptom.Phase == symptom.PhaseCompile {
			refused[g.key[i]] = true
		}
	}
	said := g.complaints()
	for i, e := range g.evidence {
		f := e.Fact(FactFrame)
		if f == nil || e.Symptom.Kind != symptom.TestFailure && e.Symptom.Kind != symptom.Crash || g.key[i] != about(f.Package, f.Name) {
			continue
		}
		list, function := g.inFunction(i, said)
		keys := map[key]bool{}
		for _, j := range list {
			keys[g.key[j]] = true
		}
		switch {
		case len(keys) == 1:
			g.key[i] = key{kind: keyPlace, scope: e.Symptom.ID}
		case function != "" && refused[g.key[i]] && !keys[g.key[i]]:
			g.key[i].kind = keyThrows
		}
	}
}

// tested joins tests that nothing else holds where they call one function of the
// project, and hardly a test of it passes: what it does is no longer the same.
// What most of the failed tests call is no such function, but a helper of theirs,
// and what is told in a text what to do fails for one cause where it fails alike.
func (g *grouping) tested() {
	failed, tests := map[string]int{}, 0
	for _, e := range g.evidence {
		if e.Symptom.Kind == symptom.TestFailure {
			tests++
			for function := range e.direct {
				failed[function]++
			}
		}
	}
	type failing struct{ function, way string }
	first := map[failing]int{} // of each function's tests, by the way in which they fail
	for i, e := range g.evidence {
		if g.key[i].kind != keyTest {
			continue
		}
		best := ""
		for function := range e.direct {
			f, p := float64(failed[function]), e.spared[function]
			if f < 2 || f < 2*p || 2*failed[function] > tests || best != "" && (failed[best] < failed[function] || failed[best] == failed[function] && best < function) {
				continue
			}
			best = function
		}
		ways := e.ways()
		for _, way := range ways(best) {
			if of, ok := first[failing{best, way}]; ok && !g.contradict(of, i) {
				g.join(of, i, Because{What: "tests of it fail", Value: ownName(best), Weight: fair}, false)
				break
			}
		}
		for function := range e.direct {
			for _, way := range ways(function) {
				if _, ok := first[failing{function, way}]; !ok {
					first[failing{function, way}] = i
				}
			}
		}
	}
}

// ways tells by what a test of a function of the project's can be held together
// with others: by how its values differ, and, where the test does not tell the
// function in a text what to do, by failing at all.
func (e *Evidence) ways() func(function string) []string {
	how := difference(e.Symptom)
	return func(function string) []string {
		var list []string
		if how != "" {
			list = append(list, how)
		}
		if function != "" && !e.instructs(ownName(function)) {
			list = append(list, "")
		}
		return list
	}
}

// Way is in what way a test fails: how its values differ, or else what it says.
func (e *Evidence) Way() string {
	if how := difference(e.Symptom); how != "" {
		return how
	}
	return symptom.Template(e.Symptom.Message, nil)
}

// ownName is the name of a function of the project's behind that of its file.
func ownName(function string) string { return function[strings.LastIndexByte(function, ':')+1:] }

// instructs reports whether a test calls a function of the project's with a text of
// several words: a query, a template, a pattern.
func (e *Evidence) instructs(function string) bool {
	for n := e.at.From; n <= e.at.End; n++ {
		line := e.tree.Line(e.at.File, n)
		for from := 0; ; {
			at := strings.Index(line[from:], function+"(")
			if at < 0 {
				break
			}
			if from += at + len(function) + 1; severalWords.MatchString(line[from:]) {
				return true
			}
		}
	}
	return false
}

// severalWords is a quoted text of more than one word, as a first argument.
var severalWords = regexp.MustCompile("^\\s*[\"'`]\\w+ +\\w")

// routed joins what fails in one handler of the project's: the tests that ask for
// it, and what was thrown in it.
func (g *grouping) routed() {
	type at struct {
		file string
		line int
	}
	first := map[at]int{}
	free := func(i int) bool {
		e := g.evidence[i]
		thrown := e.Symptom.Code != "" && e.Symptom.Named(symptom.Expected) == ""
		return !thrown && e.said == "" && e.Fact(FactMissing) == nil && e.Fact(FactModule) == nil && e.Fact(FactOption) == nil
	}
	crashed := map[string][]int{} // by the file of the innermost own frame
	for i, e := range g.evidence {
		if f := innermost(e.Symptom.Frames); f != nil && e.Symptom.Kind == symptom.Crash {
			crashed[f.File] = append(crashed[f.File], i)
		}
	}
	for i, e := range g.evidence {
		h := e.handler
		if h == nil || h.line == h.end || !free(i) {
			continue
		}
		route := strings.Join(h.pattern, "/")
		for _, j := range crashed[h.file] {
			if within(g.evidence[j].Symptom.Frames, h) && !g.contradict(i, j) {
				g.join(j, i, Because{What: "asks for what fails there", Value: route, Weight: good}, false)
				g.answered[i] = true
				break
			}
		}
		if refused.MatchString(e.Symptom.Message) { // nobody was there to be asked
			continue
		}
		key := at{h.file, h.line}
		if of, ok := first[key]; !ok {
			first[key] = i
		} else if !g.contradict(of, i) {
			g.join(of, i, Because{What: "asks for the same", Value: route, Weight: fair}, false)
		}
	}
}

// within reports whether the innermost own frame of a stack stands in a handler.
func within(frames []symptom.Frame, h *handler) bool {
	f := innermost(frames)
	return f != nil && f.File == h.file && h.line < f.Line && f.Line <= h.end
}

// innermost is the innermost own frame of a stack, or nil.
func innermost(frames []symptom.Frame) *symptom.Frame {
	for i := range frames {
		if frames[i].Own {
			return &frames[i]
		}
	}
	return nil
}
