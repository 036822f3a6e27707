// Package unified writes unified diffs.
package unified

import (
	"fmt"
	"regexp"
	"strconv"
	"strings"

	"github.com/aymanbagabas/go-udiff"
)

// Diff is the unified diff of two texts, "" where they are the same.
func Diff(old, new, before, after string) string {
	return numbered(udiff.Unified(old, new, before, after))
}

// Edits is the unified diff that edits make of a text. It returns an error where
// the edits overlap or lie outside of it.
func Edits(old, new, text string, edits []udiff.Edit) (string, error) {
	diff, err := udiff.ToUnified(old, new, text, edits, udiff.DefaultContextLines)
	if err != nil {
		return "", fmt.Errorf("writing the diff of %s: %w", strings.TrimPrefix(old, "a/"), err)
	}
	return numbered(diff), nil
}

var header = regexp.MustCompile(`^@@ -(\d+)((?:,\d+)?) \+(\d+)((?:,\d+)?) @@`)

// numbered puts right where hunks begin behind the diff: go-udiff 0.4.1 does not count
// the unchanged lines between two edits of one hunk.
func numbered(diff string) string {
	lines := strings.SplitAfter(diff, "\n")
	shift := 0 // lines that the hunks so far have added
	for i, line := range lines {
		switch {
		case i < 2:
		case strings.HasPrefix(line, "+"):
			shift++
		case strings.HasPrefix(line, "-"):
			shift--
		default:
			if m := header.FindStringSubmatch(line); m != nil {
				from, _ := strconv.Atoi(m[1])
				to := from + shift
				if m[2] == ",0" { // stands in front of the next line
					to++
				}
				if m[4] == ",0" {
					to--
				}
				lines[i] = fmt.Sprintf("@@ -%s%s +%d%s @@%s", m[1], m[2], to, m[4], line[len(m[0]):])
			}
		}
	}
	return strings.Join(lines, "")
}
