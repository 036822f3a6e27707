package compare

import (
	"fmt"
	"sort"
	"strings"

	"unicausa/internal/core/symptom"
	"unicausa/internal/core/versions"
)

// Made says how a run was made: what a comparison has to be told of beside
// what the run says.
type Made struct {
	Name     string // what sentences call it; "the baseline" where empty
	Command  string
	Versions map[string]string // tools and packages to the versions seen
	Tests    []symptom.Test
	Count    TestCount // of the tests that it ran
}

// Notices tells how a run was made otherwise than its baseline, a sentence
// each: another command, other versions of what was not meant to move, another
// set of tests; and where a run after the bump still reports the old version.
func Notices(baseline, run Made, moves []versions.Move) []string {
	var list []string
	than := baseline.Name
	if than == "" {
		than = "the baseline"
	}
	if baseline.Command != "" && run.Command != "" && baseline.Command != run.Command {
		list = append(list, fmt.Sprintf("made with another command than %s: %q, not %q", than, run.Command, baseline.Command))
	}
	moved := map[string]versions.Move{} // by the whole name and by its last part
	for _, m := range moves {
		moved[m.Package], moved[m.Package[strings.LastIndexByte(m.Package, '/')+1:]] = m, m
	}
	names := make([]string, 0, len(run.Versions))
	for name := range run.Versions {
		names = append(names, name)
	}
	sort.Strings(names)
	for _, name := range names {
		was, is := baseline.Versions[name], run.Versions[name]
		m, meant := moved[name]
		switch {
		case meant && m.To != "" && sameVersion(is, m.From) && !sameVersion(is, m.To):
			list = append(list, fmt.Sprintf("%s is still at %s here: the bump to %s has not reached this run", name, is, m.To))
		case !meant && was != "" && was != is:
			list = append(list, fmt.Sprintf("%s moved from %s to %s beside the bump", name, was, is))
		}
	}
	return append(list, ofTests(baseline, run, than)...)
}

// ofTests tells of another number of tests, of others, or of a printer that
// says less of them than the baseline's.
func ofTests(baseline, run Made, than string) []string {
	was, is := baseline.Count, run.Count
	switch {
	case was.Total == 0 || was.Telling == "" || is.Telling == "":
		return nil
	case is.Telling == Silent && is.Total == 0:
		return nil // it is told by the check that it does not say
	case rank(is.Telling) < rank(was.Telling):
		return []string{fmt.Sprintf("does not name the tests that pass, as %s does: which of them are missing cannot be told, only how many", than)}
	case was.Total != is.Total:
		return []string{fmt.Sprintf("%d %s ran where %s has %d", is.Total, plural(is.Total, "test"), than, was.Total)}
	case is.Telling == Named && was.Telling == Named && !SameTests(baseline.Tests, run.Tests):
		return []string{fmt.Sprintf("as many tests ran as in %s, %d, but others", than, was.Total)}
	}
	return nil
}

func plural(n int, noun string) string {
	if n == 1 {
		return noun
	}
	return noun + "s"
}

// sameVersion compares versions as written, but for a leading v.
func sameVersion(a, b string) bool {
	return b != "" && strings.TrimPrefix(a, "v") == strings.TrimPrefix(b, "v")
}
