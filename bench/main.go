// Command bench measures Unicausa beside its yardsticks, in one run on one
// machine, and writes what it found to docs/performance.md.
package main

import (
	"context"
	"flag"
	"fmt"
	"os"
	"path/filepath"
	"runtime"
	"runtime/debug"
)

func main() {
	size := flag.Int("size", 1024, "size of the mixed log, in `MiB`")
	cases := flag.Int("cases", 200_000, "test cases in the JUnit XML")
	out := flag.String("out", "docs/performance.md", "`file` to write")
	flag.Parse()
	debug.SetGCPercent(400) // as the command has it
	if err := run(context.Background(), *size<<20, *cases, *out); err != nil {
		fmt.Fprintln(os.Stderr, "bench:", err)
		os.Exit(1)
	}
}

func run(ctx context.Context, size, cases int, out string) error {
	folder, err := os.MkdirTemp("", "unicausa-bench")
	if err == nil {
		err = os.Chmod(folder, 0o755) // the database's user goes through it
	}
	if err != nil {
		return err
	}
	defer os.RemoveAll(folder)
	page := newPage(fmt.Sprintf("%d cores, %s/%s, %s", runtime.NumCPU(), runtime.GOOS, runtime.GOARCH, runtime.Version()))

	mixed, xml := filepath.Join(folder, "mixed.log"), filepath.Join(folder, "junit.xml")
	if err := measureLogs(ctx, page, mixed, size); err != nil {
		return err
	}
	if err := writeJUnit(xml, cases); err != nil {
		return err
	}
	if err := measureJUnit(ctx, page, xml, cases); err != nil {
		return err
	}
	if err := measureChanges(ctx, page, folder, size); err != nil {
		return err
	}
	if err := measureService(ctx, page, folder, xml, mixed); err != nil {
		return err
	}
	if err := measureTrouble(ctx, page, folder, size); err != nil {
		return err
	}
	if err := measureLoad(ctx, page, folder); err != nil {
		return err
	}
	measureSlopes(page)
	if err := measureCauses(page); err != nil { // last: a child's peak is never below that of this process
		return err
	}
	if err := showStories(page, "cases"); err != nil {
		return err
	}
	return os.WriteFile(out, page.bytes(), 0o644)
}
