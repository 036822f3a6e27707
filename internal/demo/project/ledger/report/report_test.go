package report

import (
	"strings"
	"testing"
	"time"

	"orchardworks.example/steelyard/v3"
)

func TestText(t *testing.T) {
	s := steelyard.OpenScale(steelyard.Options{})
	s.Load(10*steelyard.Kilogram, 20*steelyard.Kilogram)
	var list []steelyard.Reading
	for range 2 {
		r, err := s.Weigh(time.Second)
		if err != nil {
			t.Fatal(err)
		}
		list = append(list, r)
	}
	text := Statement{"Lind", list}.Text()
	for _, want := range []string{"Lind", "10.00 kg", "2 crates, 30.00 kg, 21.00"} {
		if !strings.Contains(text, want) {
			t.Errorf("no %q in %q", want, text)
		}
	}
}
