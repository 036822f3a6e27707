package symptom

import "testing"

func TestPictured(t *testing.T) {
	for _, c := range []struct {
		file string
		s    Symptom
		want bool
	}{
		{"results/shelf-opens-a-lid-chromium/failed-1.png", Symptom{Test: "shelf › opens a lid"}, true},
		{"shots/TestOpensLid.png", Symptom{Test: "TestOpensLid"}, true},
		{"shots/0007.png", Symptom{Test: "TestOpensLid", Detail: "see [[ATTACHMENT|shots/0007.png]]"}, true},
		{"shots/TestCloses.png", Symptom{Test: "TestOpensLid"}, false},
		{"a.png", Symptom{Test: "a"}, false},
		{"a.png", Symptom{}, false},
	} {
		if got := Pictured(c.file, &c.s); got != c.want {
			t.Errorf("%s of %q: %v", c.file, c.s.Test, got)
		}
	}
}
