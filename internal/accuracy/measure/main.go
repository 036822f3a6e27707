// Command measure scores triage on the labelled cases, and reading on tools
// that no reader was written for, and writes what it found to docs/accuracy.md. With -fit it prints the weights that fit all of them.
package main

import (
	"bytes"
	"context"
	_ "embed"
	"encoding/json"
	"errors"
	"flag"
	"fmt"
	"io/fs"
	"math"
	"os"
	"path/filepath"
	"text/template"

	"unicausa/internal/accuracy"
	"unicausa/internal/core/link"
	"unicausa/internal/core/triage"
)

func main() {
	user, _ := os.UserCacheDir()
	cache := flag.String("cache", filepath.Join(user, "unicausa", "cases"), "`folder` in which the outputs of field cases are kept")
	out := flag.String("out", "docs/accuracy.md", "`file` to write")
	fit := flag.Bool("fit", false, "print the weights that fit all cases")
	flag.Usage = func() {
		fmt.Fprintln(os.Stderr, "usage: measure [flags] [FOLDER]...\n\nFOLDER holds more field cases, each with a make.sh that records its outputs.")
		flag.PrintDefaults()
	}
	flag.Parse()
	if err := run(*cache, *out, *fit, flag.Args()); err != nil {
		fmt.Fprintln(os.Stderr, "measure:", err)
		os.Exit(1)
	}
}

// set is a table of cases.
type set struct {
	Title, About string
	Rows         []row
	Mean         accuracy.Score
}

type row struct {
	accuracy.Score
	FirstSight *firstSight
}

// firstSight is a case's score before anything was mended for it.
type firstSight struct {
	BCubed float64 `json:"b3"`
	Rand   float64 `json:"ari"`
	First  float64 `json:"first"`
	Three  float64 `json:"three"`
}

// fitted are the scores by weights that were fitted without the group.
type fitted struct {
	Without string
	Scores  []accuracy.Score
	Mean    accuracy.Score
}

//go:embed accuracy.md.tmpl
var page string

func run(cache, out string, fit bool, more []string) error {
	field, err := accuracy.Record("cases", cache)
	if err != nil {
		return err
	}
	made, err := accuracy.LoadAll("internal/accuracy/testdata")
	if err != nil {
		return err
	}
	lists := [][]*accuracy.Case{field, made}
	sets := []set{
		{Title: "Field cases", About: "Real libraries under small programs of our own (`cases/`, whose README has what is to be known of them), recorded with the real tools."},
		{Title: "Made-up cases", About: "Programs and libraries of made-up scenarios (`internal/accuracy/testdata`), recorded with the real tools."},
	}
	for _, folder := range more {
		cases, err := accuracy.Record(folder, cache)
		if err != nil {
			return err
		}
		lists = append(lists, cases)
		sets = append(sets, set{Title: "Cases kept elsewhere", About: "Real libraries under small programs, made like the field cases and not part of this repository. What they taught was mended."})
	}

	byCase, byEcosystem := map[string][]accuracy.Choice{}, map[string][]accuracy.Choice{}
	var choices []accuracy.Choice
	for n := range sets {
		for _, c := range lists[n] {
			r, err := scored(c)
			if err != nil {
				return err
			}
			sets[n].Rows = append(sets[n].Rows, r)
			list, err := accuracy.Choices(c)
			if err != nil {
				return err
			}
			choices = append(choices, list...)
			byCase[c.Name] = list
			byEcosystem[c.Ecosystem] = append(byEcosystem[c.Ecosystem], list...)
		}
		sets[n].Mean = mean(sets[n].Rows)
	}
	if fit {
		w, b := accuracy.Fit(choices)
		fmt.Printf("bias %.2f\n", b)
		for n, name := range link.Features() {
			fmt.Printf("\t%s: %.2f,\n", name, w[n])
		}
	}
	left := []fitted{{Without: "case", Scores: accuracy.LeaveOut(byCase)}, {Without: "ecosystem", Scores: accuracy.LeaveOut(byEcosystem)}}
	for i := range left {
		left[i].Mean = accuracy.Mean(left[i].Scores)
	}

	met, err := accuracy.Met("internal/core/read/testdata/met")
	if err != nil {
		return err
	}
	t, err := template.New("").Funcs(template.FuncMap{"share": share}).Parse(page)
	if err != nil {
		return err
	}
	var b bytes.Buffer
	if err := t.Execute(&b, map[string]any{"Sets": sets, "Left": left, "Met": met}); err != nil {
		return err
	}
	return os.WriteFile(out, b.Bytes(), 0o644)
}

func scored(c *accuracy.Case) (row, error) {
	in, err := c.Triage()
	if err != nil {
		return row{}, fmt.Errorf("%s: %w", c.Name, err)
	}
	report := triage.Run(context.Background(), in)
	r := row{Score: accuracy.Measure(c, &report)}
	data, err := os.ReadFile(filepath.Join("cases", c.Name, "first-sight.json"))
	if errors.Is(err, fs.ErrNotExist) {
		return r, nil
	}
	if err == nil {
		r.FirstSight = &firstSight{}
		err = json.Unmarshal(data, r.FirstSight)
	}
	return r, err
}

func mean(rows []row) accuracy.Score {
	scores := make([]accuracy.Score, len(rows))
	for i := range rows {
		scores[i] = rows[i].Score
	}
	return accuracy.Mean(scores)
}

func share(v float64) string {
	if math.IsNaN(v) {
		return "–"
	}
	return fmt.Sprintf("%.3f", v)
}
