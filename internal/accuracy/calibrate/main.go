// Command calibrate fits the weights by which links are scored to the labelled
// cases and prints how well they do on cases that they were not fitted to,
// each left out in turn.
package main

import (
	"flag"
	"fmt"
	"os"
	"strings"

	"unicausa/internal/accuracy"
	"unicausa/internal/core/link"
)

func main() {
	folder := flag.String("cases", "internal/accuracy/testdata", "`folder` of the labelled cases")
	flag.Usage = func() {
		fmt.Fprintln(os.Stderr, "usage: calibrate [-cases FOLDER] [CASE:OUTPUTS]...\n\nCASE is the folder of one more labelled case, OUTPUTS the one of its tools' output.")
		flag.PrintDefaults()
	}
	flag.Parse()
	if err := run(*folder, flag.Args()); err != nil {
		fmt.Fprintln(os.Stderr, "calibrate:", err)
		os.Exit(1)
	}
}

func run(folder string, more []string) error {
	cases, err := accuracy.LoadAll(folder)
	if err != nil {
		return err
	}
	for _, value := range more {
		truth, outputs, _ := strings.Cut(value, ":")
		c, err := accuracy.Load(truth, outputs)
		if err != nil {
			return err
		}
		cases = append(cases, c)
	}
	scores, w, b, err := accuracy.LeaveOneOut(cases)
	if err != nil {
		return err
	}
	fmt.Println("left out             first  three  silence  calibration")
	for _, s := range append(scores, accuracy.Mean(scores)) {
		fmt.Printf("%-20s %.3f  %.3f  %.3f    %.3f\n", s.Case, s.First, s.FirstThree, s.Silence, s.Calibration)
	}
	fmt.Printf("\nbias %.2f\n", b)
	for n, name := range link.Features() {
		fmt.Printf("\t%s: %.2f,\n", name, w[n])
	}
	return nil
}
