package season

import (
	"testing"
	"time"

	"orchardworks.example/steelyard/v3"
)

func readings(t *testing.T, loads ...steelyard.Mass) []steelyard.Reading {
	t.Helper()
	s := steelyard.OpenScale(steelyard.Options{Tare: steelyard.Kilogram})
	s.Load(loads...)
	var list []steelyard.Reading
	for range loads {
		r, err := s.Weigh(time.Second)
		if err != nil {
			t.Fatal(err)
		}
		list = append(list, r)
	}
	return list
}

func TestDay(t *testing.T) {
	d := Day{Orchard: "Old Hill", Readings: readings(t, 21*steelyard.Kilogram, 31*steelyard.Kilogram)}
	if d.Total() != 50 {
		t.Errorf("total: got %v, want 50", d.Total())
	}
	if d.Best().Kilos() != 30 {
		t.Errorf("best: got %v, want 30", d.Best().Kilos())
	}
}

func TestTonnes(t *testing.T) {
	days := []Day{{Readings: readings(t, 501*steelyard.Kilogram)}, {Readings: readings(t, 501*steelyard.Kilogram)}}
	if got := Tonnes(days); got != 1 {
		t.Errorf("tonnes: got %v, want 1", got)
	}
}
