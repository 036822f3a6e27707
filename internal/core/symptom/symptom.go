// Package symptom holds what a symptom is: one diagnostic, whatever printed
// it, with its places, the symbols it names and its identity from run to run.
package symptom

// Kind says what sort of trouble a symptom is.
type Kind string

// The kinds of a symptom.
const (
	Error       Kind = "error"
	Warning     Kind = "warning"
	Deprecation Kind = "deprecation"
	TestFailure Kind = "test-failure"
	Crash       Kind = "crash"
	Resolve     Kind = "resolve"
	Lint        Kind = "lint"
	MissingTest Kind = "missing-test"
)

// Phase says how far a tool had got when it printed a diagnostic. Phases are
// ordered: a later one is only reached when the earlier ones let it pass.
type Phase string

// The phases, in the order in which they are reached.
const (
	PhaseResolve   Phase = "resolve"
	PhaseConfigure Phase = "configure"
	PhaseParse     Phase = "parse"
	PhaseCompile   Phase = "compile"
	PhaseLink      Phase = "link"
	PhaseStart     Phase = "start"
	PhaseRun       Phase = "run"
	PhaseTest      Phase = "test"
)

// Phases lists every phase, earliest first.
var Phases = []Phase{PhaseResolve, PhaseConfigure, PhaseParse, PhaseCompile, PhaseLink, PhaseStart, PhaseRun, PhaseTest}

// Order is the phase's place in Phases, or -1 for the empty phase.
func (p Phase) Order() int {
	for i, q := range Phases {
		if p == q {
			return i
		}
	}
	return -1
}

// State is a symptom's state against the baseline, in the words of
// SARIF 2.1.0, section 3.27.24 (baselineState).
type State string

// The states of a symptom.
const (
	New       State = "new"
	Unchanged State = "unchanged"
	Updated   State = "updated"
	Absent    State = "absent"
)

// Role says what part a name plays in a diagnostic.
type Role string

// The roles of the names a diagnostic mentions.
const (
	Missing   Role = "missing"   // a name that is not there (any more)
	Owner     Role = "owner"     // the type, object or module the name was looked for in
	Callee    Role = "callee"    // a function called with the wrong arguments
	Expected  Role = "expected"  // the type or value that was wanted
	Actual    Role = "actual"    // the type or value that was found
	Suggested Role = "suggested" // what the tool proposes instead
	Module    Role = "module"    // a package or module path
	Option    Role = "option"    // a flag, key or setting
	Rule      Role = "rule"      // the rule of a linter, or the flag of a warning
	Route     Role = "route"     // the URL or path that was asked for
	Old       Role = "deprecated"
)

// Ref is one name in a diagnostic with the part it plays.
type Ref struct {
	Role Role   `json:"role"`
	Name string `json:"name"`
}

// At is one place in the inputs where a symptom stands. Line and End are
// 1-based and inclusive; Line is that of the diagnostic's own message.
type At struct {
	Input string `json:"input"`
	Line  int    `json:"line"`
	End   int    `json:"end,omitempty"`
}

// Frame is one entry of a stack trace, innermost first.
type Frame struct {
	File     string `json:"file"`
	Line     int    `json:"line"`
	Function string `json:"function,omitempty"`
	Own      bool   `json:"own"`
}

// Symptom is one diagnostic. Line and Column are 1-based, 0 where the tool
// gave none.
type Symptom struct {
	ID       string  `json:"id"`
	Kind     Kind    `json:"kind"`
	Level    string  `json:"level"`
	Phase    Phase   `json:"phase"`
	Tool     string  `json:"tool"`
	Code     string  `json:"code"`
	Message  string  `json:"message"`
	Detail   string  `json:"detail,omitempty"`
	Template string  `json:"template"`
	Refs     []Ref   `json:"refs,omitempty"`
	Package  string  `json:"package"` // the package that is at fault, once known
	Unit     string  `json:"unit,omitempty"`
	File     string  `json:"file"`
	Line     int     `json:"line"`
	Column   int     `json:"column"`
	Test     string  `json:"test"`
	State    State   `json:"state"`
	Count    int     `json:"count"`
	At       []At    `json:"at"`
	Frames   []Frame `json:"frames,omitempty"`
	Flaky    bool    `json:"flaky,omitempty"` // a test that passed as well on the same source
	Order    int     `json:"-"`               // among what its input says, in the order of reading
	Basis    Basis   `json:"basis,omitempty"` // how it was known to be one

	reason string // Reason, of all sightings that were merged
}

// Basis is how a diagnostic was known to be one.
type Basis string

// The ways of knowing a diagnostic, from the surest to the least sure.
const (
	ByTool    Basis = "tool"    // a reader knows the tool's messages
	ByPattern Basis = "pattern" // a pattern of the project's own
	ByKeys    Basis = "keys"    // what the keys of a report mean
	ByPlace   Basis = "place"   // a place beside a severity or a rule
	ByTree    Basis = "tree"    // its path is a file of the project's tree
	ByRepeat  Basis = "repeat"  // another of the same shape
	ByVerdict Basis = "verdict" // a verdict beside a test's name
	ByStack   Basis = "stack"   // the frames of a stack, or words that only a crash has
	ByGuess   Basis = "guess"   // a word of severity, and nothing else
)

// Unsaid reports whether the symptom stands for a check that failed and of which
// nothing was read.
func (s *Symptom) Unsaid() bool { return s.Basis == ByVerdict && s.Test == "" }

// Named returns the first name with the role, or "".
func (s *Symptom) Named(role Role) string {
	for _, r := range s.Refs {
		if r.Role == role {
			return r.Name
		}
	}
	return ""
}

// Symbols lists the names in the symptom's message, each once, in order.
func (s *Symptom) Symbols() []string {
	seen := map[string]bool{}
	names := []string{}
	for _, r := range s.Refs {
		if r.Name != "" && !seen[r.Name] {
			seen[r.Name] = true
			names = append(names, r.Name)
		}
	}
	return names
}

// Outcome is how one test ended.
type Outcome string

// The outcomes of a test.
const (
	Passed  Outcome = "passed"
	Failed  Outcome = "failed"
	Skipped Outcome = "skipped"
	Gone    Outcome = "gone" // an earlier run had it, and the source has it no more
)

// Test is one test as one run saw it. Suite is the package, class or file it
// belongs to; Seconds is how long it took, 0 where unknown.
type Test struct {
	Suite   string
	Name    string
	Outcome Outcome
	Seconds float64
}

// Key names the test across runs.
func (t Test) Key() string { return t.Suite + "\x00" + t.Name }
