package station

import (
	"testing"
	"time"

	"orchardworks.example/steelyard/v3"
)

func TestWait(t *testing.T) {
	s := steelyard.OpenScale(steelyard.Options{})
	s.Load(10 * steelyard.Kilogram)
	if got := Wait(s); got != 600*time.Millisecond {
		t.Errorf("wait for three samples: got %v, want 600ms", got)
	}
}

func TestSamplesOfEmptyScale(t *testing.T) {
	if got := Samples(steelyard.OpenScale(steelyard.Options{})); got != 0 {
		t.Errorf("samples: got %d, want 0", got)
	}
}
