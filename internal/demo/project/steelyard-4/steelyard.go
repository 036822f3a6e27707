// Package steelyard reads platform scales.
package steelyard

import (
	"context"
	"errors"
	"math"
	"strings"
	"time"

	"orchardworks.example/steelyard/v4/mass"
)

// Options say how a scale is used.
type Options struct {
	TareMass mass.Mass
	Samples  int // readings that are averaged, 5 when 0
	Port     string
}

// Scale is a platform scale.
type Scale struct {
	options Options
	queue   []mass.Mass
}

// Reading is one result of a scale.
type Reading struct {
	gross, tare mass.Mass
	Samples     int
	At          time.Time
}

// ErrEmpty says that nothing stands on the scale.
var ErrEmpty = errors.New("steelyard: empty")

// Connect opens a scale.
func Connect(o Options) *Scale {
	if o.Samples == 0 {
		o.Samples = 5
	}
	return &Scale{options: o}
}

// Load puts a mass on a simulated scale.
func (s *Scale) Load(m ...mass.Mass) { s.queue = append(s.queue, m...) }

// Weigh takes one reading.
func (s *Scale) Weigh(ctx context.Context, timeout time.Duration) (Reading, error) {
	if err := ctx.Err(); err != nil {
		return Reading{}, err
	}
	if len(s.queue) == 0 {
		return Reading{}, ErrEmpty
	}
	m := s.queue[0]
	s.queue = s.queue[1:]
	return Reading{gross: m, tare: s.options.TareMass, Samples: s.options.Samples}, nil
}

// Net is the mass without the tare.
func (r Reading) Net() mass.Mass { return r.gross - r.tare }

// Settled reports whether the reading has settled.
func (r Reading) Settled() bool { return r.Samples >= 3 }

// Round rounds a mass to whole steps, halves to even.
func Round(m, step mass.Mass) mass.Mass {
	return mass.Mass(math.RoundToEven(float64(m)/float64(step))) * step
}

// Sum adds readings.
func Sum(readings ...Reading) mass.Mass {
	var total mass.Mass
	for _, r := range readings {
		total += r.Net()
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
	if i := strings.Index(line, "{kg}"); i >= 0 {
		list = append(list, Advice{i + 1, "warning", "field '{kg}' is deprecated: use '{net}'"})
	}
	return list
}
