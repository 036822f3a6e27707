package front

import (
	"io"
	"net/http"
	"net/http/httptest"
	"strings"
	"testing"

	"github.com/gofiber/fiber/v2"
)

// ask sends a request and returns the answer and its body.
func ask(t *testing.T, app *fiber.App, method, target string, header ...string) (*http.Response, string) {
	t.Helper()
	req := httptest.NewRequest(method, target, nil)
	for i := 0; i+1 < len(header); i += 2 {
		req.Header.Set(header[i], header[i+1])
	}
	resp, err := app.Test(req)
	if err != nil {
		t.Fatalf("%s %s: %v", method, target, err)
	}
	body, err := io.ReadAll(resp.Body)
	if err != nil {
		t.Fatal(err)
	}
	return resp, string(body)
}

func TestPricesAreListed(t *testing.T) {
	resp, body := ask(t, Prices(), "GET", "/prices")
	if resp.StatusCode != 200 || !strings.Contains(body, "pear 14") {
		t.Errorf("got %d %q", resp.StatusCode, body)
	}
}

func TestPricesLeaveCachingToTheReader(t *testing.T) {
	app := Prices()
	ask(t, app, "GET", "/prices")
	resp, _ := ask(t, app, "GET", "/prices")
	if got := resp.Header.Get("Cache-Control"); got != "" {
		t.Errorf("Cache-Control = %q, want none", got)
	}
}

func TestTroubleIsKeptToo(t *testing.T) {
	app := Prices()
	_, first := ask(t, app, "GET", "/broken")
	_, second := ask(t, app, "GET", "/broken")
	if first != second {
		t.Errorf("second answer = %q, want that of before, %q", second, first)
	}
}

func TestHeadOfPrices(t *testing.T) {
	resp, body := ask(t, Prices(), "HEAD", "/prices")
	if resp.StatusCode != 200 || body != "" {
		t.Errorf("got %d %q", resp.StatusCode, body)
	}
}

func TestHoursAreNumberedLikeTheHour(t *testing.T) {
	resp, _ := ask(t, Limited(), "GET", "/hours")
	if resp.Header.Get("X-Request-ID") == "" {
		t.Error("the hours have no number")
	}
}

func TestNumberIsAUUID(t *testing.T) {
	resp, _ := ask(t, Traced(), "GET", "/hours")
	if got := resp.Header.Get("X-Request-ID"); len(got) != 36 || strings.Count(got, "-") != 4 {
		t.Errorf("X-Request-ID = %q, want a UUID", got)
	}
}

func TestGivenNumberIsKept(t *testing.T) {
	resp, _ := ask(t, Traced(), "GET", "/hours", "X-Request-ID", "crate 12")
	if got := resp.Header.Get("X-Request-ID"); got != "crate 12" {
		t.Errorf("X-Request-ID = %q, want %q", got, "crate 12")
	}
}

func TestAlive(t *testing.T) {
	for _, path := range []string{"/livez", "/readyz"} {
		t.Run(path[1:], func(t *testing.T) {
			resp, body := ask(t, Alive(), "GET", path)
			if resp.StatusCode != 200 || body != "OK" {
				t.Errorf("GET %s = %d %q", path, resp.StatusCode, body)
			}
		})
	}
}

func TestHoursAreOpenWhileAlive(t *testing.T) {
	resp, body := ask(t, Alive(), "GET", "/hours")
	if resp.StatusCode != 200 || body != "6 7 8" {
		t.Errorf("got %d %q", resp.StatusCode, body)
	}
}

func TestAliveRefusesNothingElse(t *testing.T) {
	resp, _ := ask(t, Alive(), "POST", "/hours")
	if resp.StatusCode != 405 {
		t.Errorf("status = %d, want 405", resp.StatusCode)
	}
}

func TestOldAddressMoves(t *testing.T) {
	for _, path := range []string{"/old", "/old/7"} {
		resp, _ := ask(t, Moved(), "GET", path)
		if resp.StatusCode != 302 {
			t.Errorf("GET %s = %d, want 302", path, resp.StatusCode)
		}
	}
}

func TestUnknownAddress(t *testing.T) {
	resp, body := ask(t, Moved(), "GET", "/cellar")
	if resp.StatusCode != 404 || body != "Cannot GET /cellar" {
		t.Errorf("got %d %q", resp.StatusCode, body)
	}
}

func TestUnknownAddressIsNotEchoed(t *testing.T) {
	_, body := ask(t, Moved(), "GET", "/cellar?x=%3Cb%3E")
	if body != "Cannot GET /cellar" {
		t.Errorf("body = %q", body)
	}
}

func TestMethodsOfPrices(t *testing.T) {
	resp, _ := ask(t, Prices(), "POST", "/prices")
	if got := resp.Header.Get("Allow"); got != "GET, HEAD" {
		t.Errorf("Allow = %q", got)
	}
}

func TestPlainTextIsNamed(t *testing.T) {
	resp, _ := ask(t, Moved(), "GET", "/hours")
	if got := resp.Header.Get("Content-Type"); got != "text/plain; charset=utf-8" {
		t.Errorf("Content-Type = %q", got)
	}
}

func TestUnknownAddressIsPlainText(t *testing.T) {
	resp, _ := ask(t, Moved(), "GET", "/cellar")
	if got := resp.Header.Get("Content-Type"); got != "text/plain; charset=utf-8" {
		t.Errorf("Content-Type = %q", got)
	}
}

func TestWeightsRound(t *testing.T) {
	if got := Weights([]float64{0.1, 0.2}); got != 0.3 {
		t.Errorf("Weights = %v, want 0.3", got)
	}
}
