// Package tidewheel reckons tides and the time between them.
package tidewheel

import (
	"fmt"
	"math"
	"sort"
	"strconv"
	"strings"
)

// Unknown is the height of a tide that nobody measured.
const Unknown = -1.0

// Span is a time between two minutes of a day.
type Span struct{ From, To int }

// NewSpan is the span from one minute to another.
func NewSpan(from, to int) Span { return Span{from, to} }

// Minutes is how long a span lasts.
func (s Span) Minutes() int { return s.To - s.From }

// Heights are the heights of the tide in metres at the given hours.
func Heights(port string, hours []int) []float64 {
	heights := make([]float64, 0, len(hours))
	for _, h := range hours {
		if h < 0 || h > 23 {
			heights = append(heights, Unknown)
			continue
		}
		heights = append(heights, math.Round((2+2*math.Cos(float64(h+len(port))*math.Pi/6))*10)/10)
	}
	return heights
}

// Parse reads a time of day, "6:40", as minutes.
func Parse(text string) (int, error) {
	hour, minute, _ := strings.Cut(text, ":")
	h, err := strconv.Atoi(hour)
	if err != nil {
		return 0, fmt.Errorf("tidewheel: no time of day: %q", text)
	}
	m, err := strconv.Atoi(minute)
	if err != nil {
		return 0, fmt.Errorf("tidewheel: no time of day: %q", text)
	}
	return 60*h + m, nil
}

// Clock writes minutes as a time of day.
func Clock(minutes int) string { return fmt.Sprintf("%d:%02d", minutes/60, minutes%60) }

// Round is the nearest full five minutes.
func Round(minutes int) int { return (minutes + 2) / 5 * 5 }

// Knots turns metres per second into knots.
func Knots(speed float64) float64 { return math.Round(speed*19.438) / 10 }

// Ports are the names that stand in a list of calls, each once.
func Ports(calls []string) []string {
	seen := map[string]bool{}
	ports := []string{}
	for _, c := range calls {
		if !seen[c] {
			seen[c] = true
			ports = append(ports, c)
		}
	}
	sort.Strings(ports)
	return ports
}
