// Package kiln drives the kilns of a pottery studio.
package kiln

import (
	"errors"
	"fmt"
	"time"
)

// Celsius is a temperature.
type Celsius int

// Kiln is one oven.
type Kiln struct {
	Name  string
	Limit Celsius
	cones []string
}

// Options of a kiln.
type Options struct {
	Limit     Celsius
	Vent      bool
	SoakHours int
}

// Open makes a kiln ready.
//
// Deprecated: use New.
func Open(name string, o Options) *Kiln { return &Kiln{Name: name, Limit: o.Limit} }

// New makes a kiln ready.
func New(name string, o Options) *Kiln { return Open(name, o) }

// Step is one part of a firing.
type Step struct {
	Target Celsius
	Rate   Celsius
}

// Firing is a plan.
type Firing struct {
	Steps []Step
	Notes string
}

// Sensor reads a temperature.
type Sensor interface{ Read() Celsius }

// Fire runs a plan and tells how long it takes.
func (k *Kiln) Fire(f Firing) (time.Duration, error) {
	var total time.Duration
	var at Celsius = 20
	for _, s := range f.Steps {
		if k.Limit > 0 && s.Target > k.Limit {
			return 0, fmt.Errorf("kiln %s: %d is over the limit %d", k.Name, s.Target, k.Limit)
		}
		if s.Rate <= 0 {
			return 0, ErrRate
		}
		total += time.Duration(s.Target-at) * time.Hour / time.Duration(s.Rate)
		at = s.Target
	}
	return total.Round(time.Minute), nil
}

// ErrRate is returned where a step does not heat.
var ErrRate = errors.New("kiln: rate must be positive")

// Load puts cones into a kiln.
func (k *Kiln) Load(cones ...string) int { k.cones = append(k.cones, cones...); return len(k.cones) }

// Watch reads a sensor.
func Watch(s Sensor) string { return Format(s.Read()) }

// Format writes a temperature.
func Format(c Celsius) string { return fmt.Sprintf("%d °C", c) }

// ConeTemp gives the temperature of a cone.
func ConeTemp(cone string) (Celsius, bool) {
	t, ok := map[string]Celsius{"06": 999, "6": 1222, "10": 1305}[cone]
	return t, ok
}

// Ramp makes steps.
func Ramp(rate Celsius, targets ...Celsius) []Step {
	var list []Step
	for _, t := range targets {
		list = append(list, Step{Target: t, Rate: rate})
	}
	return list
}

// Cost is what a firing costs in cents.
func Cost(d time.Duration, perHour int) int { return int(d.Hours() * float64(perHour)) }

// Order sorts names as a shelf list.
func Order(names []string) []string { return names }

// Schedule keeps firings.
type Schedule struct{ list []Firing }

// Add puts a firing at the end.
func (s *Schedule) Add(f Firing) { s.list = append(s.list, f) }

// Len counts the firings.
func (s *Schedule) Len() int { return len(s.list) }
