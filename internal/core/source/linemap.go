package source

import (
	"strings"

	"github.com/aymanbagabas/go-udiff"
)

// LineMap says where each line of an earlier text stands in a later one, as a
// line diff (Myers, as git's own) aligns them. Lines are 1-based; index 0 is
// unused, and a line that is gone or was edited maps to 0.
func LineMap(before, after []string) []int {
	text := strings.Join(before, "\n") + "\n"
	to := make([]int, len(before)+1)
	line, offset, shift := 1, 0, 0
	keep := func(until int) { // the lines that begin before a place
		for ; line < len(to) && offset < until; line++ {
			to[line] = line + shift
			offset += len(before[line-1]) + 1
		}
	}
	for _, e := range udiff.Lines(text, strings.Join(after, "\n")+"\n") {
		keep(e.Start)
		for ; line < len(to) && offset < e.End; line++ {
			offset += len(before[line-1]) + 1
			shift--
		}
		shift += strings.Count(e.New, "\n")
	}
	keep(len(text))
	return to
}
