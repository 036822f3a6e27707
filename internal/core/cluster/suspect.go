package cluster

// Numbers of the suspicion, set by hand.
const (
	leastShare = 0.1 // added to the squared share of failing tests among those that reach a name
	ofOneTest  = 0.8 // what no other test that fails reaches explains less
	heardOf    = 0.3 // from this weight on, a name that failing tests alone reach is one to know
)

// suspects picks of each failed test's topics the one that its failure is
// most likely about: near the failure, and reached by tests that fail rather
// than by tests that pass (spectrum-based fault localisation after Abreu et
// al., "On the accuracy of spectrum-based fault localization", 2007).
func suspects(evidence []*Evidence, ctx *Context) {
	passed, direct := passing(evidence, ctx)
	failed := map[string]float64{}
	for _, e := range evidence {
		for name := range e.reach {
			failed[name]++
		}
	}
	for _, e := range evidence {
		best := 0.0
		for name, t := range e.reach {
			share := failed[name] / (failed[name] + passed[name])
			score := t.Weight * (leastShare + share*share)
			if failed[name] == 1 && len(ctx.Passed) > 0 { // what no other test that fails reaches explains less
				score *= ofOneTest
			}
			if !t.Known && t.Package == "" && t.Weight > heardOf && failed[name] > 1 && passed[name] == 0 && len(ctx.Passed) > 0 {
				t.Known = true // no test that passes reaches it
			}
			if score > best || score == best && (t.Known && !e.about.Known || t.Known == e.about.Known && name < e.about.Name) {
				best, e.about = score, t
			}
		}
		e.suspicion, e.spared = passed, direct
		if e.about.Name != "" && e.Fact(FactMissing) == nil && e.Fact(FactOption) == nil {
			e.add(Fact{What: FactAbout, Name: e.about.Name, Package: e.about.Package, Weight: fair})
		}
	}
}

// passing counts in how many tests that passed each topic is reached, and each
// function of the project is called, in the files that hold failed ones.
func passing(evidence []*Evidence, ctx *Context) (counts, direct map[string]float64) {
	counts, direct = map[string]float64{}, map[string]float64{}
	if len(ctx.Passed) == 0 {
		return counts, direct
	}
	seen := map[string]bool{}
	total := 0
	for _, e := range evidence {
		file := e.Symptom.File
		if e.at.File != "" {
			file = e.at.File
		}
		if e.reach == nil || seen[file] || file == "" {
			continue
		}
		seen[file] = true
		for _, d := range e.tree.Declarations(file) {
			if !ctx.Passed[testName(d.Name)] || total > 2000 {
				continue
			}
			total++
			w := newWalk(e.tree, ctx)
			w.body(d, 1, depth)
			for name := range w.found {
				counts[name]++
			}
			for function := range w.direct {
				direct[function]++
			}
		}
	}
	return counts, direct
}
