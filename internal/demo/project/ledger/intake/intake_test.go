package intake

import (
	"testing"

	"orchardworks.example/steelyard/v3"
)

func TestReceive(t *testing.T) {
	g := Open(20 * steelyard.Kilogram)
	g.Front.Load(520 * steelyard.Kilogram)
	g.Rear.Load(720 * steelyard.Kilogram)
	d, err := g.Receive()
	if err != nil {
		t.Fatal(err)
	}
	if d.Kilos() != 1200 {
		t.Errorf("net: got %v, want 1200", d.Kilos())
	}
	if d.Heaviest() != 700 {
		t.Errorf("heaviest: got %v, want 700", d.Heaviest())
	}
	if !d.Steady() {
		t.Error("not steady")
	}
}

func TestReceiveNothing(t *testing.T) {
	if _, err := Open(0).Receive(); err == nil {
		t.Error("no error for an empty gate")
	}
}
