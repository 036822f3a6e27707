package queue

import "testing"

func TestFirst(t *testing.T) {
	if got := New().Hand(); got != "No. 1" {
		t.Errorf("first ticket: got %s, want No. 1", got)
	}
}

func TestOneByOne(t *testing.T) {
	d := New()
	if a, b := d.Hand(), d.Hand(); a == b {
		t.Errorf("two growers have the ticket %s", a)
	}
}
