package plan

import "claywork.example/kiln"

// Week is what is fired in a week.
type Week struct {
	kiln.Schedule
	Kiln *kiln.Kiln
}

// NewWeek starts a week on one kiln.
func NewWeek(name string) *Week {
	return &Week{Kiln: kiln.Open(name, kiln.Options{Limit: 1300, SoakHours: 2})}
}

// Price is what the electricity of a firing costs.
func (w *Week) Price(f kiln.Firing) int {
	d, err := w.Kiln.Fire(f)
	if err != nil {
		return 0
	}
	return kiln.Cost(d, 85)
}

// Known tells whether a cone is one of ours.
func Known(cone string) bool {
	_, ok := kiln.ConeTemp(cone)
	return ok
}
