package link

import (
	"regexp"
	"strconv"
	"strings"
)

// units are what a number of code may be in words of notes: 2097152 is 2 MB, 30000 30 s.
var units = []struct {
	factor int64
	in     *regexp.Regexp // what stands behind the number
}{
	{1 << 30, regexp.MustCompile(`(?i)^ ?(?:GB|GiB|gigabytes?)\b`)},
	{1 << 20, regexp.MustCompile(`(?i)^ ?(?:MB|MiB|megabytes?)\b`)},
	{1 << 10, regexp.MustCompile(`(?i)^ ?(?:KB|KiB|kilobytes?)\b`)},
	{1e9, regexp.MustCompile(`(?i)^ ?(?:s|secs?|seconds?)\b`)},
	{1e6, regexp.MustCompile(`(?i)^ ?(?:ms|milliseconds?)\b`)},
	{3600, regexp.MustCompile(`(?i)^ ?(?:h|hours?)\b`)},
	{1000, regexp.MustCompile(`(?i)^ ?(?:s|secs?|seconds?)\b`)},
	{60, regexp.MustCompile(`(?i)^ ?(?:min|mins|minutes?)\b`)},
}

// holdsBoth reports whether two whole numbers stand in a text in one unit, which one of them
// may leave out.
func holdsBoth(text string, pair [2]string) bool {
	a, errA := strconv.ParseInt(strings.TrimSpace(pair[0]), 10, 64)
	b, errB := strconv.ParseInt(strings.TrimSpace(pair[1]), 10, 64)
	if errA != nil || errB != nil || a == 0 || b == 0 {
		return false
	}
	for _, u := range units {
		if a%u.factor != 0 || b%u.factor != 0 {
			continue
		}
		x, y := a/u.factor, b/u.factor
		if holdsIn(text, x, u.in) && holds(text, strconv.FormatInt(y, 10)) || holdsIn(text, y, u.in) && holds(text, strconv.FormatInt(x, 10)) {
			return true
		}
	}
	return false
}

// holdsIn reports whether a number with a unit behind it stands in a text.
func holdsIn(text string, n int64, unit *regexp.Regexp) bool {
	number := strconv.FormatInt(n, 10)
	for from := 0; ; {
		i := strings.Index(text[from:], number)
		if i < 0 {
			return false
		}
		at := from + i
		from = at + len(number)
		if (at == 0 || text[at-1] < '0' || text[at-1] > '9') && unit.MatchString(text[from:]) {
			return true
		}
	}
}
