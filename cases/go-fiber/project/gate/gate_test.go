package gate

import (
	"net/http/httptest"
	"testing"
)

func TestPublicGateIsNamed(t *testing.T) {
	if got := New().Config().AppName; got != Public {
		t.Errorf("AppName = %q", got)
	}
}

func TestForeignOriginIsRefused(t *testing.T) {
	req := httptest.NewRequest("GET", "/", nil)
	req.Header.Set("Origin", "https://stranger.example")
	resp, err := New().Test(req, 500)
	if err != nil {
		t.Fatal(err)
	}
	if got := resp.Header.Get("Access-Control-Allow-Origin"); got != "" {
		t.Errorf("allowed %q", got)
	}
}
