// Package tidewheel reckons tides and the time between them.
package tidewheel

import (
	"errors"
	"fmt"
	"math"
	"os"
	"strconv"
	"strings"
)

// ErrHour is what Heights returns for an hour that no day has.
var ErrHour = errors.New("tidewheel: no hour of the day")

// Window is a time between two minutes of a day.
type Window struct{ From, To int }

// NewWindow is the window from one minute to another.
func NewWindow(from, to int) Window { return Window{from, to} }

// Minutes is how long a window lasts.
func (w Window) Minutes() int { return w.To - w.From }

// Heights are the heights of the tide in metres at the given hours, or ErrHour.
func Heights(port string, hours ...int) ([]float64, error) {
	heights := make([]float64, 0, len(hours))
	for _, h := range hours {
		if h < 0 || h > 23 {
			return nil, ErrHour
		}
		heights = append(heights, math.Round((2+2*math.Cos(float64(h+len(port))*math.Pi/6))*10)/10)
	}
	return heights, nil
}

// Parse reads a time of day, "06:40", as minutes.
func Parse(text string) (int, error) {
	if len(text) != len("06:40") || text[2] != ':' {
		return 0, fmt.Errorf("tidewheel: time of day %q is not of the form hh:mm", text)
	}
	h, err := strconv.Atoi(text[:2])
	if err != nil {
		return 0, err
	}
	m, err := strconv.Atoi(text[3:])
	return 60*h + m, err
}

// Clock writes minutes as a time of day.
func Clock(minutes int) string { return fmt.Sprintf("%02d:%02d", minutes/60, minutes%60) }

// Round is the last full five minutes.
func Round(minutes int) int { return minutes / 5 * 5 }

// Knots turns metres per second into knots.
//
// Deprecated: use Speed.
func Knots(speed float64) float64 {
	fmt.Fprintln(os.Stderr, "tidewheel: warning: Knots is deprecated and goes in 1.0, use Speed")
	return Speed(speed)
}

// Speed turns metres per second into knots.
func Speed(speed float64) float64 { return math.Round(speed*19.438) / 10 }

// Ports are the names that stand in a list of calls, each once, in no order.
func Ports(calls []string) []string {
	seen := map[string]bool{}
	for _, c := range calls {
		seen[strings.TrimSpace(c)] = true
	}
	ports := []string{}
	for c := range seen {
		ports = append(ports, c)
	}
	return ports
}
