package main

import (
	"bytes"
	"fmt"
	"strings"
	"time"
)

// pipelineText is the pipeline as it is told.
const pipelineText = `grep -aE 'error\|warning\|fail' LOG \| sed -E 's/[0-9]+/N/g' \| sort \| uniq -c \| sort -rn`

// page is docs/performance.md while it is written. What is added to it is
// printed at once too.
type page struct{ b bytes.Buffer }

func newPage(machine string) *page {
	p := &page{}
	p.write("# Performance\n\n`make bench` wrote this page: every figure stands beside its yardstick, measured in the same run on the same machine (%s). Times are of the clock on the wall, taken once where nothing else is said; memory is the process's largest resident set.\n", machine)
	return p
}

func (p *page) write(format string, args ...any) {
	text := fmt.Sprintf(format, args...)
	p.b.WriteString(text)
	fmt.Print(text)
}

func (p *page) section(title, text string) {
	p.write("\n## %s\n\n%s\n\n", title, strings.ReplaceAll(text, `\|`, "|"))
}

func (p *page) table(columns ...string) {
	p.row(columns...)
	p.row(strings.Split(strings.Repeat("--- ", len(columns)-1)+"---", " ")...)
}

func (p *page) row(cells ...string) { p.write("| %s |\n", strings.Join(cells, " | ")) }

func (p *page) bytes() []byte { return p.b.Bytes() }

func seconds(d time.Duration) string { return fmt.Sprintf("%.2f s", d.Seconds()) }

func millis(d time.Duration) string { return fmt.Sprintf("%d ms", d.Milliseconds()) }

func mebibytes(n int64) string { return fmt.Sprintf("%d MiB", n>>20) }

func ratio(a, b time.Duration) string { return fmt.Sprintf("%.2f", float64(a)/float64(b)) }
