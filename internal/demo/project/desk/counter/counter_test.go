package counter

import (
	"strconv"
	"testing"
)

func TestCall(t *testing.T) {
	w := New()
	before, err := strconv.Atoi(w.Call())
	if err != nil {
		t.Fatal(err)
	}
	if got := w.Call(); got != strconv.Itoa(before+1) {
		t.Errorf("the wall shows %s after %d", got, before)
	}
}
