package cluster

import (
	"context"
	"sort"
	"strings"

	"unicausa/internal/core/guard"
	"unicausa/internal/core/source"
	"unicausa/internal/core/symptom"
)

// Because is one reason in words and as data: what was seen, its value, and
// how much it weighs, 0 to 1.
type Because struct {
	What   string  `json:"what"`
	Value  string  `json:"value"`
	Weight float64 `json:"weight"`
}

// How sure a fact is, and how much a reason to belong to a cause weighs: the steps of one
// scale, set by hand. Of a fact it goes into the links' features, whose weights are fitted;
// of a reason it is shown, and decides nothing.
const (
	certain = 0.9
	strong  = 0.8
	good    = 0.7
	fair    = 0.6
	faint   = 0.5
)

// Member is a symptom of a cause. A follower is there only because something
// else in the cause is broken.
type Member struct {
	*Evidence
	Follower bool
	Because  Because
}

// Cause is a group of symptoms that one decision would settle.
type Cause struct {
	Signature string // what holds it together, the same from run to run
	Members   []Member
	Known     bool // its symptoms were there before the bump
}

// Group draws the causes of a list of symptoms. What was there before the bump
// and what is new are never mixed; absent symptoms are left out.
func Group(ctx context.Context, evidence []*Evidence, known *Context) []Cause {
	evidence = append([]*Evidence(nil), evidence...)
	sort.SliceStable(evidence, func(i, j int) bool { return inOrder(evidence[i].Symptom, evidence[j].Symptom) })
	var fresh, old []*Evidence
	for _, e := range evidence {
		switch e.Symptom.State {
		case symptom.Absent:
		case symptom.Unchanged, symptom.Updated:
			old = append(old, e)
		default:
			fresh = append(fresh, e)
		}
	}
	causes := newGrouping(ctx, fresh, known).causes()
	for _, c := range newGrouping(ctx, old, known).causes() {
		c.Known = true
		causes = append(causes, c)
	}
	return causes
}

// inOrder orders symptoms by their place, so that the order in which they come
// changes nothing.
func inOrder(a, b *symptom.Symptom) bool {
	switch {
	case a.File != b.File:
		return a.File < b.File
	case a.Line != b.Line:
		return a.Line < b.Line
	case a.Column != b.Column:
		return a.Column < b.Column
	}
	return a.ID < b.ID
}

// grouping is a union-find over the symptoms of one side.
type grouping struct {
	evidence []*Evidence
	parent   []int
	key      []key // each symptom's own strong fact
	reason   []Because
	follower []bool
	answered map[int]bool      // tests of a handler in which something was thrown
	missing  []map[string]bool // at a root: the missing names in its set
}

func newGrouping(ctx context.Context, evidence []*Evidence, known *Context) *grouping {
	suspects(evidence, known)
	for _, e := range evidence {
		e.finish()
	}
	g := &grouping{evidence: evidence, answered: map[int]bool{}}
	byKey := map[key]int{}
	for i, e := range evidence {
		key, reason := strongest(e)
		g.parent = append(g.parent, i)
		g.key = append(g.key, key)
		g.reason = append(g.reason, reason)
		g.follower = append(g.follower, false)
		names := map[string]bool{}
		if f := e.Fact(FactMissing); f != nil {
			names[f.Name] = true
		}
		g.missing = append(g.missing, names)
	}
	g.thrown()
	g.hubs()
	g.warned()
	g.uninferred()
	for i, key := range g.key {
		if first, ok := byKey[key]; !ok {
			byKey[key] = i
		} else if !g.weak(i) {
			g.union(first, i)
		}
	}
	for _, step := range []func(){
		g.sayings, g.unknownPackages, g.constructors, g.kin, g.suffixed, g.concerned, g.sameLine, g.runtime, g.routed, g.tested, g.followers,
		func() { g.unplaced(false) }, g.alike,
	} {
		guard.Check(ctx)
		step()
	}
	return g
}

// alike joins, last of all, what says the same and follows from nothing.
func (g *grouping) alike() {
	first := map[key]int{}
	for i, key := range g.key {
		if !g.weak(i) || g.follower[i] {
			continue
		}
		if of, ok := first[key]; ok {
			g.union(of, i)
		} else {
			first[key] = i
		}
	}
}

// strongest is the fact that decides where a symptom belongs, as a key that
// equal facts share, with its reason.
func strongest(e *Evidence) (key, Because) {
	s := e.Symptom
	because := func(f *Fact) Because {
		name := f.Name
		if f.Owner != "" && f.What == FactMissing {
			name = f.Owner + "." + f.Name
		}
		return Because{What: "same " + f.What, Value: name, Weight: f.Weight}
	}
	if s.Phase == symptom.PhaseParse && s.File != "" {
		return key{kind: keySpoiled, name: s.File}, Because{What: "file cannot be parsed", Value: s.File, Weight: certain}
	}
	if s.Kind == symptom.MissingTest { // what was not reached is one thing
		return key{kind: keyMissing, name: s.Unit}, Because{What: "not run with others of its suite", Value: s.Test, Weight: strong}
	}
	if s.Flaky {
		return key{kind: keyFlaky, scope: s.Unit, name: s.Test}, Because{What: "passes and fails on the same source", Value: s.Test, Weight: certain}
	}
	if e.ruled != "" {
		return key{kind: keyRule, name: e.ruled}, Because{What: "same " + FactRule, Value: e.ruled, Weight: strong}
	}
	if f := e.Fact(FactModule); f != nil {
		return key{kind: keyModule, name: source.Family(f.Name)}, because(f)
	}
	if e.asked.Name != "" {
		return about(e.asked.Package, e.asked.Name), Because{What: "asked of what it returns", Value: e.asked.Name, Weight: strong}
	}
	if f := e.Fact(FactMissing); f != nil {
		scope := source.Family(f.Package)
		if scope == "" {
			scope = f.Owner
		}
		return key{kind: keySymbol, scope: scope, name: f.Name}, because(f)
	}
	if f := e.Fact(FactOption); f != nil {
		return key{kind: keyOption, scope: f.Owner, name: f.Name}, because(f)
	}
	if f := e.Fact(FactInterface); f != nil {
		return key{kind: keyInterface, scope: f.Owner, name: f.Name}, Because{What: "same reason not to fit " + f.Name, Value: f.Owner, Weight: f.Weight}
	}
	if f := e.Fact(FactShape); f != nil {
		return key{kind: keyShape, name: f.Name}, because(f)
	}
	if f := e.Fact(FactCallee); f != nil {
		return about(f.Package, f.Name), because(f)
	}
	if f := e.Fact(FactFrame); f != nil {
		return about(f.Package, f.Name), because(f)
	}
	if t := e.about; t.Name != "" {
		reason := Because{What: "same " + FactAbout, Value: t.Name, Weight: fair}
		if text := e.said; text != "" {
			return key{kind: keySaid, name: text}, Because{What: "says the same", Value: s.Message, Weight: certain}
		}
		if e.place != nil && selfSaid(s.Message) {
			return key{kind: keySays, scope: s.Code, name: s.Message}, Because{What: "same message", Value: s.Message, Weight: good}
		}
		unheard := e.place == nil && t.Package == "" && plainWord(t.Name) // a word of the test's body
		if t.Known && !unheard && !e.unsure && t.Weight >= heardOf {
			return about(t.Package, t.Name), reason
		}
		if e.place != nil && !t.Known && t.Package == "" { // the line has nothing of what moved: the words are all there is
			return key{kind: keySays, scope: s.Code, name: symptom.Template(s.Message, nil)}, Because{What: "same message", Value: s.Message, Weight: fair}
		}
		if e.place != nil {
			return key{kind: keyPlace, scope: t.Name, name: symptom.Template(s.Message, nil)}, reason
		}
	}
	if s.Kind == symptom.TestFailure && strings.Contains(s.Test, "/") { // cases of one test that fail alike
		return key{kind: keyTest, scope: s.Unit, name: before(s.Test, "/"), how: symptom.Template(s.Message, nil)}, Because{What: "cases of one test fail alike", Value: before(s.Test, "/"), Weight: good}
	}
	if s.Kind == symptom.TestFailure {
		return key{kind: keyTest, scope: s.Unit, name: s.Test}, Because{What: "fails by itself", Value: s.Test, Weight: faint}
	}
	return key{kind: keySays, scope: s.Code, name: symptom.Normalize(s.Message)}, Because{What: "same message", Value: s.Message, Weight: fair}
}

func (g *grouping) find(i int) int {
	for g.parent[i] != i {
		g.parent[i] = g.parent[g.parent[i]]
		i = g.parent[i]
	}
	return i
}

// union joins two sets; the lower index stays the root, so the order of the
// steps does not show.
func (g *grouping) union(a, b int) {
	a, b = g.find(a), g.find(b)
	if a == b {
		return
	}
	if b < a {
		a, b = b, a
	}
	g.parent[b] = a
	for name := range g.missing[b] {
		g.missing[a][name] = true
	}
}

// contradict reports whether two sets miss different names: they are two causes
// however alike their words are.
func (g *grouping) contradict(a, b int) bool {
	x, y := g.missing[g.find(a)], g.missing[g.find(b)]
	if len(x) == 0 || len(y) == 0 {
		return false
	}
	for name := range x {
		if y[name] {
			return false
		}
	}
	return true
}

// apart reports whether two symptoms are about different names: they may share a
// line and a type all the same.
func (g *grouping) apart(a, b int) bool {
	x, y := g.evidence[a].concern(), g.evidence[b].concern()
	return x != "" && y != "" && x != y
}

// together reports whether two symptoms were seen on the same state of the
// source: only then do their lines mean the same.
func (g *grouping) together(a, b int) bool { return g.evidence[a].tree == g.evidence[b].tree }

func (g *grouping) join(to, from int, reason Because, follower bool) {
	g.union(to, from)
	g.reason[from] = reason
	g.follower[from] = follower
}

// causes hands out the sets, each with a root first, in the order of their
// first symptom.
func (g *grouping) causes() []Cause {
	sets := map[int]*Cause{}
	var order []int
	for i, e := range g.evidence {
		root := g.find(i)
		if sets[root] == nil {
			sets[root] = &Cause{}
			order = append(order, root)
		}
		sets[root].Members = append(sets[root].Members, Member{Evidence: e, Follower: g.follower[i], Because: g.reason[i]})
	}
	causes := make([]Cause, 0, len(order))
	for _, root := range order {
		c := sets[root]
		c.arrange()
		key, _ := strongest(c.Members[0].Evidence)
		c.Signature = key.String()
		causes = append(causes, *c)
	}
	return causes
}

// Root is the symptom that the others stand for or follow from.
func (c *Cause) Root() *symptom.Symptom { return c.Members[0].Symptom }

// Identity is what the cause is recognised by; known ones stay apart from new.
func (c *Cause) Identity() Identity {
	id := Identity{Signature: c.Signature}
	if c.Known {
		id.Signature = knownMark + c.Signature
	}
	for _, m := range c.Members {
		if !m.Follower {
			id.Add(m.Symptom)
		}
	}
	return id
}

// Join folds another cause into this one, for a reason that linking found.
// What only followed there does so here.
func (c *Cause) Join(other Cause, reason Because) {
	for _, m := range other.Members {
		if !m.Follower {
			m.Because = reason
		}
		c.Members = append(c.Members, m)
	}
	c.arrange()
}

// arrange puts what stands by itself before what follows, the earliest phase
// first, and of one phase errors before what only warns: the first member is the root.
func (c *Cause) arrange() {
	sort.SliceStable(c.Members, func(a, b int) bool {
		x, y := c.Members[a], c.Members[b]
		if x.Follower != y.Follower {
			return !x.Follower
		}
		if p, q := x.Symptom.Phase.Order(), y.Symptom.Phase.Order(); p != q {
			return p < q
		}
		warns := func(s *symptom.Symptom) bool { return s.Kind == symptom.Warning || s.Kind == symptom.Deprecation }
		return !warns(x.Symptom) && warns(y.Symptom)
	})
}

// Misses is the name whose absence holds the cause together, or "".
func (c *Cause) Misses() string {
	if c.Rule() != "" {
		return ""
	}
	for _, m := range c.Members {
		if f := m.Fact(FactMissing); f != nil && !m.Follower {
			return f.Name
		}
	}
	return ""
}

// Absent reports whether all that the cause says is that a file or a connection is
// not there.
func (c *Cause) Absent() bool {
	for _, m := range c.Members {
		if !m.Follower && !refused.MatchString(m.Symptom.Message) && !noFile.MatchString(m.Symptom.Message) {
			return false
		}
	}
	return true
}

// Rule is the rule that the cause breaks, where the notes name it, or "".
func (c *Cause) Rule() string { return c.Members[0].ruled }

// Shape is the module that the cause finds to be another than it was taken
// for, or "".
func (c *Cause) Shape() string {
	if f := c.Members[0].Fact(FactShape); f != nil {
		return f.Name
	}
	return ""
}

// Suspected reports whether nothing but a suspected name holds the cause together: it is of
// failed tests, of which none tells what is broken.
func (c *Cause) Suspected() bool {
	if key, _ := strongest(c.Members[0].Evidence); len(c.Members) < 2 || key.kind != keyAbout {
		return false
	}
	for _, m := range c.Members {
		if m.Follower || m.Symptom.Kind != symptom.TestFailure || m.Fact(FactMissing) != nil || m.Fact(FactModule) != nil || m.Fact(FactOption) != nil || m.Fact(FactCallee) != nil {
			return false
		}
	}
	return true
}

// Parted takes the cause apart by what explains each of its members.
func (c *Cause) Parted(by []string) []Cause {
	var list []Cause
	at := map[string]int{}
	for i, m := range c.Members {
		n, ok := at[by[i]]
		if !ok {
			n = len(list)
			at[by[i]] = n
			part := Cause{Signature: c.Signature}
			if by[i] != "" {
				part.Signature += "|" + by[i]
			}
			list = append(list, part)
		}
		list[n].Members = append(list[n].Members, m)
	}
	return list
}
