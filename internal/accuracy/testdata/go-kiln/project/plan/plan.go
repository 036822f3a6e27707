// Package plan draws up firings.
package plan

import (
	"time"

	"claywork.example/kiln"
)

// Bisque is the first firing.
func Bisque() kiln.Firing {
	return kiln.Firing{Steps: []kiln.Step{{Target: 600, Rate: 100}, {Target: 999, Rate: 150}}, Notes: "slow at first"}
}

// Glaze is the second firing.
func Glaze(cone string) kiln.Firing {
	top, ok := kiln.ConeTemp(cone)
	if !ok {
		top = 1222
	}
	steps := []kiln.Step{{Target: 200, Rate: 60}}
	steps = append(steps, kiln.Ramp(180, 800, top)...)
	return kiln.Firing{Steps: steps, Notes: "cone " + cone}
}

// Hours tells how long a firing takes.
func Hours(k *kiln.Kiln, f kiln.Firing) (time.Duration, error) {
	return k.Fire(f)
}

// Last is the hottest step.
func Last(f kiln.Firing) kiln.Step { return f.Steps[len(f.Steps)-1] }
