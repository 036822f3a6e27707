// Package station watches a scale that nobody attends.
package station

import (
	"time"

	"orchardworks.example/steelyard/v3"
)

// Samples is how many readings a watched scale averages.
func Samples(s *steelyard.Scale) int {
	r, err := s.Weigh(0)
	if err != nil {
		return 0
	}
	return r.Samples
}

// Wait is how long a watched scale needs for one crate.
func Wait(s *steelyard.Scale) time.Duration {
	return time.Duration(Samples(s)) * 200 * time.Millisecond
}
