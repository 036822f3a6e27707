package weighin

import (
	"testing"

	"orchardworks.example/steelyard/v3"
)

func desk(t *testing.T) *Desk {
	t.Helper()
	d := New(2 * steelyard.Kilogram)
	d.Scale.Load(22*steelyard.Kilogram, 18500*steelyard.Gram)
	return d
}

func TestTake(t *testing.T) {
	e, err := desk(t).Take("Hagen")
	if err != nil {
		t.Fatal(err)
	}
	if e.Kilos != 20 {
		t.Errorf("net: got %v, want 20", e.Kilos)
	}
}

func TestTakeTwo(t *testing.T) {
	d := desk(t)
	for _, grower := range []string{"Hagen", "Lind"} {
		if _, err := d.Take(grower); err != nil {
			t.Fatal(err)
		}
	}
	if n := len(d.Entries()); n != 2 {
		t.Errorf("entries: got %d, want 2", n)
	}
}

func TestEmptyScale(t *testing.T) {
	if _, err := New(0).Take("Hagen"); err == nil {
		t.Error("no error for an empty scale")
	}
}
