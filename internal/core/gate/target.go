package gate

import "strconv"

// Target is what a reason points at: the runs, the tests or others of the upgrade, or one of
// them.
type Target struct {
	Kind  TargetKind
	ID    string // of one: a cause's name, a change's ID, a run's number; "" for all of the kind
	Other string // of two runs that are compared, the later one
}

// TargetKind is a kind of records.
type TargetKind string

// What reasons point at.
const (
	AtRuns        TargetKind = "runs"
	AtComparison  TargetKind = "comparison"
	AtTests       TargetKind = "tests"
	AtCauses      TargetKind = "causes"
	AtChanges     TargetKind = "changes"
	AtSilentRisks TargetKind = "silent-risks"
	AtDebts       TargetKind = "debts"
	AtVersions    TargetKind = "versions"
	AtRoute       TargetKind = "route"
)

// atRun is a target that is one run.
func atRun(number int) Target { return Target{Kind: AtRuns, ID: strconv.Itoa(number)} }
