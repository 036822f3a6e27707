package plan

import "testing"

func TestBisque(t *testing.T) {
	if got := Last(Bisque()).Target; got != 999 {
		t.Errorf("bisque ends at %d", got)
	}
}
