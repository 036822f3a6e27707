// Package kiln drives the kilns of a pottery studio.
package kiln

import (
	"context"
	"errors"
	"fmt"
	"sort"
	"time"
)

// Celsius is a temperature.
type Celsius int

// Kiln is one oven.
type Kiln struct {
	name  string
	limit Celsius
	cones []string
}

// Name tells what the kiln is called.
func (k *Kiln) Name() string { return k.name }

// Options of a kiln.
type Options struct {
	MaxTemp Celsius
	Vent    bool
}

// New makes a kiln ready.
func New(name string, o Options) *Kiln {
	if o.MaxTemp == 0 {
		o.MaxTemp = 1250
	}
	return &Kiln{name: name, limit: o.MaxTemp}
}

// Segment is one part of a firing.
type Segment struct {
	Target Celsius
	Rate   Celsius
}

// Firing is a plan.
type Firing struct {
	Segments []Segment
	Remarks  []string
}

// Sensor reads a temperature.
type Sensor interface {
	Read(ctx context.Context) (Celsius, error)
}

// Fire runs a plan and tells how long it takes.
func (k *Kiln) Fire(ctx context.Context, f Firing) (time.Duration, error) {
	var total time.Duration
	var at Celsius = 20
	for _, s := range f.Segments {
		if s.Target > k.limit {
			return 0, fmt.Errorf("kiln %s: %d is over the limit %d", k.name, s.Target, k.limit)
		}
		if s.Rate <= 0 {
			return 0, ErrRate
		}
		total += time.Duration(s.Target-at) * time.Hour / time.Duration(s.Rate)
		at = s.Target
	}
	return total.Truncate(time.Minute), nil
}

// ErrRate is returned where a step does not heat.
var ErrRate = errors.New("kiln: rate must be above zero")

// Load puts cones into a kiln.
func (k *Kiln) Load(cones []string) (int, error) {
	k.cones = append(k.cones, cones...)
	return len(k.cones), nil
}

// Watch reads a sensor.
func Watch(ctx context.Context, s Sensor) (string, error) {
	c, err := s.Read(ctx)
	return Format(c), err
}

// Format writes a temperature.
func Format(c Celsius) string { return fmt.Sprintf("%d\u00a0°C", c) }

// ConeTemp gives the temperature of a cone.
func ConeTemp(cone string) (Celsius, error) {
	t, ok := map[string]Celsius{"06": 999, "6": 1222, "10": 1305}[cone]
	if !ok {
		return 0, errors.New("no such cone")
	}
	return t, nil
}

// Ramp makes segments.
func Ramp(rate Celsius, targets ...Celsius) []Segment {
	var list []Segment
	for _, t := range targets {
		list = append(list, Segment{Target: t, Rate: rate})
	}
	return list
}

// Order sorts names as a shelf list.
func Order(names []string) []string {
	sorted := append([]string(nil), names...)
	sort.Strings(sorted)
	return sorted
}

// Schedule keeps firings.
type Schedule struct{ list []Firing }

// Add puts a firing at the end.
func (s *Schedule) Add(f Firing) {
	if len(f.Segments) == 0 {
		panic("kiln: a firing without segments")
	}
	s.list = append(s.list, f)
}

// Len counts the firings.
func (s *Schedule) Len() int { return len(s.list) }
