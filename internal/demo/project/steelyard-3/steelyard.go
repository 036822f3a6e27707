// Package steelyard reads platform scales.
package steelyard

import (
	"errors"
	"math"
	"strings"
	"time"
)

// Gram is the unit of a Mass.
const Gram Mass = 1

// Kilogram is a thousand grams.
const Kilogram = 1000 * Gram

// Mass is a mass in grams.
type Mass float64

// Options say how a scale is used.
type Options struct {
	Tare    Mass
	Samples int // readings that are averaged, 3 when 0
	Port    string
}

// Scale is a platform scale.
type Scale struct {
	options Options
	queue   []Mass
}

// Reading is one result of a scale.
type Reading struct {
	gross, tare Mass
	Samples     int
	At          time.Time
}

// ErrEmpty says that nothing stands on the scale.
var ErrEmpty = errors.New("steelyard: empty")

// OpenScale opens a scale.
func OpenScale(o Options) *Scale {
	if o.Samples == 0 {
		o.Samples = 3
	}
	return &Scale{options: o}
}

// Load puts a mass on a simulated scale.
func (s *Scale) Load(m ...Mass) { s.queue = append(s.queue, m...) }

// Weigh takes one reading.
func (s *Scale) Weigh(timeout time.Duration) (Reading, error) {
	if len(s.queue) == 0 {
		return Reading{}, ErrEmpty
	}
	m := s.queue[0]
	s.queue = s.queue[1:]
	return Reading{gross: m, tare: s.options.Tare, Samples: s.options.Samples}, nil
}

// Kilos is the net mass in kilograms.
func (r Reading) Kilos() float64 { return float64(r.gross-r.tare) / 1000 }

// IsStable reports whether the reading has settled.
func (r Reading) IsStable() bool { return r.Samples >= 3 }

// Round rounds a mass to whole steps, halves up.
func Round(m, step Mass) Mass { return Mass(math.Floor(float64(m)/float64(step)+0.5)) * step }

// Sum adds readings.
func Sum(readings []Reading) float64 {
	total := 0.0
	for _, r := range readings {
		total += r.Kilos()
	}
	return total
}

// Advice is what Inspect has to say of a template.
type Advice struct {
	Column int
	Level  string
	Text   string
}

// Inspect checks one line of a label's template.
func Inspect(line string) []Advice {
	var list []Advice
	if i := strings.Index(line, "{lb}"); i >= 0 {
		list = append(list, Advice{i + 1, "warning", "field {lb} has no unit of its own on the label"})
	}
	return list
}
