package e2e

import (
	"strconv"
	"strings"
	"testing"
)

// TestALegKnowsWhatTheLastLeft holds that what was out of sight at the end of a leg is
// known where the next one shows it again, and nothing that its move brought.
func TestALegKnowsWhatTheLastLeft(t *testing.T) {
	c := here(t)
	upgrade := begin(t, c, "legs that know")
	t.Chdir(t.TempDir())
	for name, value := range map[string]string{"UNICAUSA_SERVER": server, "UNICAUSA_TOKEN": tokenOf(t, "Mirja"), "UNICAUSA_UPGRADE": strconv.FormatInt(upgrade, 10)} {
		t.Setenv(name, value)
	}
	record := func(exit, text string) {
		t.Helper()
		write(t, map[string]string{"test.log": text})
		unicausa(t, "record", "--check", "test", "--exit", exit, "--file", "test.log")
	}
	red := "--- FAIL: TestLid (0.00s)\n    lid_test.go:9: lid: got 1, want 2\nFAIL\nFAIL\texample.org/p\t0.01s\nFAIL\n"
	broken := "# example.org/p [example.org/p.test]\n./a.go:3:1: undefined: jar.OpenLid\nFAIL\texample.org/p [build failed]\nFAIL\n"
	record("0", "--- PASS: TestLid (0.00s)\nPASS\nok  \texample.org/p\t0.01s\n")
	want(t, 0, nil, "baseline")
	record("1", red)
	record("1", broken)
	want(t, 0, []string{"◌ C1", "out of sight"}, "causes")
	want(t, 0, []string{"leg 2"}, "route", "next", "--reason", "the rest is put off", "--move", "example.org/jar=5.0.0..6.0.0")
	record("1", red)
	rows, err := c.Causes(t.Context(), upgrade)
	if err != nil || len(rows) == 0 {
		t.Fatalf("the causes are %+v (%v)", rows, err)
	}
	for _, r := range rows {
		if strings.Contains(r.Title, "TestLid") && !r.Known || r.Status == "shown" && !r.Known {
			t.Errorf("%s, which the leg before left, is %s and known %v: %s", r.ID, r.Status, r.Known, r.Title)
		}
	}
}
