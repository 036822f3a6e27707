package track

import (
	"path"
	"slices"
	"strings"

	"unicausa/internal/core/source"
	"unicausa/internal/core/symptom"
	"unicausa/internal/core/triage"
)

// touched reports whether an edit since the bump made the line that a symptom
// stands on: the baseline's source, or where that is not known the one of the
// run before, has no such line in the file. An error that ended a test stands
// on the line that raised it. The line of an assertion says nothing, for a rename
// makes it anew too; a test that the baseline has not was made by an edit.
func (step *Step) touched(r *triage.Symptom) bool {
	old := step.Original
	if old == nil {
		old = step.Source
	}
	if old == nil {
		return false
	}
	file, text := r.File, r.Source
	f := raised(r)
	if f != nil && step.Tree != nil && (r.Test != "" || r.Kind == symptom.Crash) {
		file = f.File
		text = strings.TrimSpace(step.Tree.Line(file, f.Line))
	}
	if r.Kind == symptom.TestFailure && r.Test != "" && (f == nil || ofTests(file)) {
		return step.fresh(old, r)
	}
	return text != "" && !step.holds(old, file, text)
}

// ofTests reports whether a file holds tests, by its path.
func ofTests(file string) bool {
	lower := strings.ToLower(file)
	return strings.Contains(lower, "test") || strings.Contains(lower, "spec")
}

// fresh reports whether a test stands in this run's source and not in an old one.
func (step *Step) fresh(old *source.Tree, r *triage.Symptom) bool {
	if step.Tree == nil {
		return false
	}
	if step.sites == nil {
		step.sites = map[*source.Tree]*source.TestSites{old: old.TestSites(), step.Tree: step.Tree.TestSites()}
	}
	_, was := step.sites[old].Find(r.Unit, r.Test)
	_, is := step.sites[step.Tree].Find(r.Unit, r.Test)
	return is && !was
}

// near reports whether a line of a symptom's stack was made by an edit.
func (step *Step) near(r *triage.Symptom) bool {
	if step.Original == nil || step.Tree == nil {
		return false
	}
	for _, f := range r.Frames {
		if text := strings.TrimSpace(step.Tree.Line(f.File, f.Line)); f.Own && text != "" && !step.holds(step.Original, f.File, text) {
			return true
		}
	}
	return false
}

// red reports whether the test of a symptom is red for another reason now, and
// the line that this one came from still stands: it may be behind the other.
func (step *Step) red(t *Symptom) bool {
	if t.Test == "" || t.Kind != symptom.TestFailure {
		return false
	}
	key := symptom.Test{Suite: t.Unit, Name: t.Test}.Key()
	failed := false
	for _, check := range t.Checks {
		failed = failed || step.Reach[check].Tests[key] == symptom.Failed
	}
	if !failed || step.passed(t) {
		return false
	}
	file, line := t.File, t.Line
	for _, f := range t.Frames {
		if f.Own {
			file, line = f.File, f.Line
			break
		}
	}
	text := strings.TrimSpace(step.Source.Line(file, line))
	return text == "" || step.holds(step.Tree, file, text)
}

// passed reports whether the test of a symptom went on beyond the place of it this time:
// what it is red for now stands on a later line of the test, or on the same one where
// the call that had failed has returned.
func (step *Step) passed(t *Symptom) bool {
	from, line, depth := outermost(&t.Symptom)
	if line = step.now(from, line); line == 0 {
		return false
	}
	for i := range step.Report.Symptoms {
		r := &step.Report.Symptoms[i].Symptom
		if r.ID == t.ID || r.Test != t.Test || r.Unit != t.Unit || r.Kind != symptom.TestFailure || r.State == symptom.Absent {
			continue
		}
		if file, at, inner := outermost(r); file == from && (at > line || at == line && inner == 0 && depth > 0) {
			return true
		}
	}
	return false
}

// outermost is the place in the project from which a failed test got to where it failed,
// and how many of the project's own calls lie between.
func outermost(s *symptom.Symptom) (file string, line, depth int) {
	file, line = s.File, s.Line
	depth = -1
	for _, f := range s.Frames {
		if f.Own {
			file, line = f.File, f.Line
			depth++
		}
	}
	return file, line, max(depth, 0)
}

// now is the line at which one of the run before stands in this run's tree, 0 where it
// does not, or more than once.
func (step *Step) now(file string, line int) int {
	text := strings.TrimSpace(step.Source.Line(file, line))
	switch {
	case text == "":
		return 0
	case strings.TrimSpace(step.Tree.Line(file, line)) == text:
		return line
	}
	at := 0
	for i, l := range step.Tree.Lines(file) {
		if strings.TrimSpace(l) == text {
			if at > 0 {
				return 0
			}
			at = i + 1
		}
	}
	return at
}

// behind reports whether a symptom that a failing run does not show may only be
// out of its sight: a warning whose line still stands, of a compiler that found
// errors; or one of a module of which the run says nothing and in which nothing
// was edited, while another does not build.
func (step *Step) behind(t *Symptom) bool {
	if step.Source == nil || step.Tree == nil || t.File == "" {
		return false
	}
	for _, check := range t.Checks {
		reach, ok := step.Reach[check]
		switch {
		case !ok || len(reach.Broken) == 0:
		case t.Kind == symptom.Warning || t.Kind == symptom.Deprecation || t.Kind == symptom.Lint:
			text := strings.TrimSpace(step.Source.Line(t.File, t.Line))
			if slices.Contains(reach.Broken, t.Tool) && text != "" && step.holds(step.Tree, t.File, text) {
				return true
			}
		default:
			module := step.module(t.File)
			if module != "" && !slices.ContainsFunc(reach.Folders, func(f string) bool { return within(f, module) }) && !step.edited(module) {
				return true
			}
		}
	}
	return false
}

// manifests make a folder a module of its own.
var manifests = []string{"pom.xml", "build.gradle", "build.gradle.kts", "Cargo.toml", "package.json", "go.mod", "mix.exs", "pyproject.toml", "setup.py", "build.sbt", "Package.swift", "pubspec.yaml", "composer.json"}

// module is the innermost folder above a file that has a manifest, "" for the
// tree's own and where there is none.
func (step *Step) module(file string) string {
	if step.homes == nil {
		step.homes = map[string]bool{}
		for _, name := range step.Tree.Files() {
			if base := path.Base(name); slices.Contains(manifests, base) || strings.HasSuffix(path.Ext(base), "proj") { // .csproj and its kin
				step.homes[path.Dir(name)] = true
			}
		}
	}
	for dir := path.Dir(file); dir != "." && dir != "/"; dir = path.Dir(dir) {
		if step.homes[dir] {
			return dir
		}
	}
	return ""
}

// edited reports whether a file of a module is another one than at the run before.
func (step *Step) edited(module string) bool {
	if was, ok := step.modules[module]; ok {
		return was
	}
	edited := false
	for _, tree := range []*source.Tree{step.Source, step.Tree} {
		for _, name := range tree.Files() {
			if within(name, module) && !slices.Equal(step.Source.Lines(name), step.Tree.Lines(name)) {
				edited = true
			}
		}
	}
	if step.modules == nil {
		step.modules = map[string]bool{}
	}
	step.modules[module] = edited
	return edited
}

func within(name, folder string) bool { return name == folder || strings.HasPrefix(name, folder+"/") }

// raised is the innermost frame in the project's own code.
func raised(r *triage.Symptom) *symptom.Frame {
	for i := range r.Frames {
		if r.Frames[i].Own {
			return &r.Frames[i]
		}
	}
	return nil
}

// lineSet is a file of a tree.
type lineSet struct {
	tree *source.Tree
	file string
}

// holds reports whether a file of a tree has a line, but for its indent.
func (step *Step) holds(tree *source.Tree, file, text string) bool {
	key := lineSet{tree, file}
	set, ok := step.lines[key]
	if !ok {
		set = map[string]bool{}
		for _, line := range tree.Lines(file) {
			set[strings.TrimSpace(line)] = true
		}
		if step.lines == nil {
			step.lines = map[lineSet]map[string]bool{}
		}
		step.lines[key] = set
	}
	return set[text]
}

// reached reports whether a symptom is about a name that the project itself
// declared at the run before, and that is not declared there in the same way
// any more.
func (step *Step) reached(r *triage.Symptom) bool {
	if step.Source == nil || step.Tree == nil {
		return false
	}
	if len(step.Source.Lines(r.File)) > 0 && len(step.Tree.Lines(r.File)) == 0 {
		return true // its file was taken away
	}
	for _, name := range r.About() {
		was := step.Source.Declared(name)
		if len(was) == 0 || len(was) > mostDeclared {
			continue
		}
		kept := false
		for _, d := range was {
			kept = kept || step.holds(step.Tree, d.File, strings.TrimSpace(step.Source.Line(d.File, d.From)))
		}
		if !kept {
			return true
		}
	}
	return false
}

// mostDeclared bounds the places that may be meant by one name.
const mostDeclared = 5
