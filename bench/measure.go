package main

import (
	"context"
	"fmt"
	"os"
	"os/exec"
	"syscall"
	"time"

	"unicausa/internal/core/read"
)

// program is the command as make build leaves it.
const program = "bin/unicausa"

// usage is what a process took.
type usage struct {
	took time.Duration
	peak int64 // resident, in bytes
}

// process runs a program without its output. Triage ends with 1 where there is
// something new, which is no error here.
func process(ctx context.Context, name string, args ...string) (usage, error) {
	cmd := exec.CommandContext(ctx, name, args...)
	start := time.Now()
	err := cmd.Run()
	u := usage{took: time.Since(start)}
	if cmd.ProcessState == nil || cmd.ProcessState.ExitCode() > 1 {
		return u, fmt.Errorf("%s: %w", cmd, err)
	}
	if r, ok := cmd.ProcessState.SysUsage().(*syscall.Rusage); ok {
		u.peak = r.Maxrss << 10
	}
	return u, nil
}

// runTriage reads a file with the command line.
func runTriage(ctx context.Context, file string) (usage, error) {
	return process(ctx, program, "triage", "--format", "json", file)
}

// pipeline is what one would do by hand.
const pipeline = `grep -aE 'error|warning|fail' "$0" | sed -E 's/[0-9]+/N/g' | sort | uniq -c | sort -rn`

// measureLogs reads mixed logs beside the pipeline, then shorter ones. Mixed is
// the file of the first.
func measureLogs(ctx context.Context, p *page, mixed string, size int) error {
	p.section("Mixed logs",
		"Made from the samples in `"+testdata+"`, all tools and forms in one file. In the first, nineteen of twenty bytes are of runs in which nothing is wrong, as in the log of a build: this is the log that triage is meant to read faster than the yardstick. "+
			"The second is the worst case, a file of nothing but trouble, in which triage is slower: it reads each diagnostic, where the yardstick only counts words. The yardstick is `"+pipelineText+"` on the same file, in the locale "+locale()+".")
	p.table("log", "size", "yardstick", "triage", "ratio", "peak memory")
	for _, mix := range []struct {
		title, file string
		quiet       int
	}{{"one part in twenty is trouble", mixed, 19}, {"all of it is trouble", mixed + ".trouble", 0}} {
		if err := writeMix(mix.file, size, mix.quiet); err != nil {
			return err
		}
		yardstick, err := process(ctx, "sh", "-c", pipeline, mix.file)
		if err != nil {
			return err
		}
		ours, err := runTriage(ctx, mix.file)
		if err != nil {
			return err
		}
		p.row(mix.title, mebibytes(fileSize(mix.file)), seconds(yardstick.took), seconds(ours.took), ratio(ours.took, yardstick.took), mebibytes(ours.peak))
	}
	p.section("Growth", "The same mixed log, one part in twenty trouble, at sizes that double: the time for a MiB stays what it is, and so does the memory.")
	p.table("size", "triage", "for a MiB", "peak memory")
	for n := size / 8; n <= size; n *= 2 {
		part := mixed + ".part"
		if err := writeMix(part, n, 19); err != nil {
			return err
		}
		u, err := runTriage(ctx, part)
		if err != nil {
			return err
		}
		bytes := fileSize(part)
		p.row(mebibytes(bytes), seconds(u.took), fmt.Sprintf("%.1f ms", float64(u.took.Microseconds())/1000/(float64(bytes)/(1<<20))), mebibytes(u.peak))
	}
	return nil
}

// measureJUnit reads a report of many cases beside xmllint, five times in turn:
// each takes but a moment, and the machine's mood shows.
func measureJUnit(ctx context.Context, p *page, xml string, cases int) error {
	var lint, ours usage
	var reading time.Duration
	for turn := range 5 {
		l, err := process(ctx, "xmllint", "--noout", "--stream", xml)
		if err != nil {
			return fmt.Errorf("%w (xmllint comes with Debian's libxml2-utils)", err)
		}
		o, err := runTriage(ctx, xml)
		if err != nil {
			return err
		}
		r, err := readTime(xml)
		if err != nil {
			return err
		}
		if turn == 0 { // later, the child's peak is that of this process before it
			lint, reading, ours = l, r, o
		}
		lint.took, reading, ours.took = min(lint.took, l.took), min(reading, r), min(ours.took, o.took)
	}
	p.section("JUnit XML", "One report, one case in a hundred failed with a stack trace. The yardstick is `xmllint --noout --stream`, which only checks that the document is well-formed. Reading is what the core does with the same file, triage the whole command: it clusters the failures too and writes its report. Each is the best of five, taken in turn.")
	p.table("cases", "size", "yardstick", "reading", "ratio", "triage", "ratio", "peak memory")
	p.row(fmt.Sprint(cases), mebibytes(fileSize(xml)), seconds(lint.took), seconds(reading), ratio(reading, lint.took), seconds(ours.took), ratio(ours.took, lint.took), mebibytes(ours.peak))
	return nil
}

// readTime is how long the core takes to read a file.
func readTime(name string) (time.Duration, error) {
	f, err := os.Open(name)
	if err != nil {
		return 0, err
	}
	defer f.Close()
	start := time.Now()
	_, err = read.All(name, f)
	return time.Since(start), err
}

func fileSize(name string) int64 {
	info, err := os.Stat(name)
	if err != nil {
		return 0
	}
	return info.Size()
}

func locale() string {
	for _, name := range []string{"LC_ALL", "LC_CTYPE", "LANG"} {
		if v := os.Getenv(name); v != "" {
			return v
		}
	}
	return "C"
}
