package main

import (
	"bytes"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"unicausa/internal/core/read"
)

// atTop works at the top of the repository, as make bench does.
func atTop(t *testing.T) {
	t.Helper()
	t.Chdir("..")
}

func TestMixIsTheSameAgain(t *testing.T) {
	atTop(t)
	folder := t.TempDir()
	var logs [][]byte
	for _, name := range []string{"a.log", "b.log"} {
		name = filepath.Join(folder, name)
		if err := writeMix(name, 2<<20, 19); err != nil {
			t.Fatal(err)
		}
		data, err := os.ReadFile(name)
		if err != nil {
			t.Fatal(err)
		}
		logs = append(logs, data)
	}
	if len(logs[0]) < 2<<20 || !bytes.Equal(logs[0], logs[1]) {
		t.Errorf("the logs have %d and %d bytes and differ", len(logs[0]), len(logs[1]))
	}
}

// TestMixHasItsTrouble holds that the quiet log has trouble in it, and the
// other far more.
func TestMixHasItsTrouble(t *testing.T) {
	atTop(t)
	counts := map[int]int{}
	for _, quiet := range []int{0, 19} {
		name := filepath.Join(t.TempDir(), "mixed.log")
		if err := writeMix(name, 4<<20, quiet); err != nil {
			t.Fatal(err)
		}
		f, err := os.Open(name)
		if err != nil {
			t.Fatal(err)
		}
		defer f.Close()
		r, err := read.All(name, f)
		if err != nil {
			t.Fatal(err)
		}
		for _, s := range r.Symptoms {
			counts[quiet] += s.Count
		}
		if a := r.Account; a.Symptom+a.Noise+a.Plain+a.Unread != r.Lines {
			t.Errorf("the account of %d lines is %+v", r.Lines, a)
		}
	}
	if counts[19] == 0 || counts[0] < 10*counts[19] {
		t.Errorf("the quiet log has %d places of symptoms, the other %d", counts[19], counts[0])
	}
}

func TestNoSamples(t *testing.T) {
	t.Chdir(t.TempDir())
	if err := writeMix("mixed.log", 1, 1); err == nil || !strings.Contains(err.Error(), "at the top of the repository") {
		t.Errorf("without samples it says %v", err)
	}
}

func TestReportCountsItsCases(t *testing.T) {
	name := filepath.Join(t.TempDir(), "junit.xml")
	for _, cases := range []int{1, 99, 100, 250} {
		if err := writeJUnit(name, cases); err != nil {
			t.Fatal(err)
		}
		data, err := os.ReadFile(name)
		if err != nil {
			t.Fatal(err)
		}
		r, err := read.All(name, bytes.NewReader(data))
		if err != nil || len(r.Tests) != cases || len(r.Symptoms) != (cases+49)/100 || r.Problem != "" {
			t.Errorf("of %d cases %d were read with %d failures: %s (%v)", cases, len(r.Tests), len(r.Symptoms), r.Problem, err)
		}
		for _, s := range r.Stated {
			if s.Count != s.Read && s.What != "failures" { // the last suite may end before its failure
				t.Errorf("of %d cases: it says %d %s, %d were read", cases, s.Count, s.What, s.Read)
			}
		}
	}
}

func TestPage(t *testing.T) {
	p := newPage("a made-up machine")
	p.section("Jars", `a \| b`)
	p.table("size", "time")
	p.row(mebibytes(3<<20), seconds(1500*time.Millisecond))
	p.row(ratio(time.Second, 4*time.Second), "x")
	text := string(p.bytes())
	for _, part := range []string{"(a made-up machine)", "\n## Jars\n\na | b\n\n", "| size | time |\n| --- | --- |\n| 3 MiB | 1.50 s |\n| 0.25 | x |\n"} {
		if !strings.Contains(text, part) {
			t.Errorf("no %q in\n%s", part, text)
		}
	}
}

// TestStories holds that every story has both of its scores.
func TestStories(t *testing.T) {
	atTop(t)
	p := newPage("")
	if err := showStories(p, "cases"); err != nil {
		t.Fatal(err)
	}
	text := string(p.bytes())
	for _, row := range []string{"| story-go | first | .90 | .62 | .80 | .00 | .00 | 1.00 |", "| story-rust | first |", "| story-rust | last |"} {
		if !strings.Contains(text, row) {
			t.Errorf("no %q in\n%s", row, text)
		}
	}
}
