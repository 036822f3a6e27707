package till

import (
	"errors"
	"reflect"
	"strings"
	"testing"
	"time"

	"claywork.example/kiln"
)

func TestSlip(t *testing.T) {
	for _, test := range []struct {
		name  string
		c     kiln.Celsius
		cents int
		want  string
	}{
		{"bisque", 999, 850, "999 °C: 8.50"},
		{"glaze", 1222, 1205, "1222 °C: 12.05"},
		{"lustre", 720, 90, "720 °C: 0.90"},
	} {
		t.Run(test.name, func(t *testing.T) {
			if got := Slip(test.c, test.cents); got != test.want {
				t.Errorf("Slip(%d, %d) = %q, want %q", test.c, test.cents, got, test.want)
			}
		})
	}
}

func TestDoor(t *testing.T) {
	if got := Door(60); got != "keep shut above 60 °C" {
		t.Errorf("the sign says %q", got)
	}
}

func TestDoorIsShort(t *testing.T) {
	if got := strings.Fields(Door(60)); len(got) != 5 {
		t.Errorf("%d words, want 5", len(got))
	}
}

func TestShelfKeepsTheOrder(t *testing.T) {
	if got := Shelf([]string{"vase", "bowl", "jug"}); !reflect.DeepEqual(got, []string{"vase", "bowl", "jug"}) {
		t.Errorf("got %v, want [vase bowl jug]", got)
	}
}

func TestShelfOfTwo(t *testing.T) {
	got := Shelf([]string{"plate", "cup"})
	if got[0] != "plate" {
		t.Errorf("got %s first, want plate", got[0])
	}
}

func TestFree(t *testing.T) {
	if Free() == nil {
		t.Fatal("no kiln")
	}
}

func TestBook(t *testing.T) {
	if got := Book(3); got != 3 {
		t.Errorf("%d slots", got)
	}
}

func TestRateMessage(t *testing.T) {
	if kiln.ErrRate.Error() != "kiln: rate must be positive" {
		t.Errorf("the log's filter looks for %q", kiln.ErrRate)
	}
}

func TestLate(t *testing.T) {
	if !Late(time.Now()) {
		t.Error("today is not late")
	}
}

func TestErrors(t *testing.T) {
	if errors.Is(kiln.ErrRate, errors.ErrUnsupported) {
		t.Error("no")
	}
}
