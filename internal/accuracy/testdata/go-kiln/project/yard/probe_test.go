package yard

import "testing"

func TestBoard(t *testing.T) {
	if got := Board(); len(got) != 2 {
		t.Fatalf("%d lines", len(got))
	}
}
