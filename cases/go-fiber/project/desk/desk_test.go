package desk

import "testing"

func TestNewBookIsEmpty(t *testing.T) {
	if n := len(NewBook().hours); n != 0 {
		t.Errorf("a new book has %d hours", n)
	}
}
