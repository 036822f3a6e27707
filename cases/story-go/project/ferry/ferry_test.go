package main

import (
	"testing"

	"example.org/tidewheel"
)

func crossing(t *testing.T, from, to string) Crossing {
	t.Helper()
	c, err := Read("Reed", from, to)
	if err != nil {
		t.Fatal(err)
	}
	return c
}

func TestFree(t *testing.T) {
	if got := Doubled([]Crossing{crossing(t, "10:00", "10:30"), crossing(t, "10:40", "11:00")}); got != 0 {
		t.Errorf("Doubled = %d, want none", got)
	}
}

func TestDoubled(t *testing.T) {
	if got := Doubled([]Crossing{crossing(t, "9:00", "9:30"), crossing(t, "9:10", "9:50")}); got != 1 {
		t.Errorf("Doubled = %d, want 1", got)
	}
}

func TestEarly(t *testing.T) {
	if got, want := crossing(t, "6:05", "6:35").Time.Minutes(), 30; got != want {
		t.Errorf("Minutes = %d, want %d", got, want)
	}
}

func TestFare(t *testing.T) {
	if got, want := Fare(crossing(t, "06:40", "07:13")), 350; got != want {
		t.Errorf("Fare = %d, want %d", got, want)
	}
}

func TestDay(t *testing.T) {
	day := []Crossing{crossing(t, "10:00", "10:33"), crossing(t, "12:00", "12:34")}
	if got, want := Day(day), 700; got != want {
		t.Errorf("Day = %d, want %d", got, want)
	}
}

func TestWater(t *testing.T) {
	if got, want := Water(Crossing{"Reed", tidewheel.NewSpan(480, 500)}), 4.0; got != want {
		t.Errorf("Water = %v, want %v", got, want)
	}
}

func TestPace(t *testing.T) {
	if got, want := Pace(crossing(t, "10:00", "10:30"), 14000), 15.1; got != want {
		t.Errorf("Pace = %v, want %v", got, want)
	}
}
