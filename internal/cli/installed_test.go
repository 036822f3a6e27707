package cli

import (
	"strings"
	"testing"

	"unicausa/internal/api"
)

// TestExchanged tells the name that an edit brings, and those that it takes away.
func TestExchanged(t *testing.T) {
	for _, test := range []struct{ from, to, symbols, want string }{
		{"OpenLid", "Open", "OpenLid Open", "Open OpenLid"},
		{"EnvVar: x", "EnvVars: []string{x}", "EnvVar EnvVars", "EnvVars EnvVar"},
		{"fill(jar, 5)", "fill(5, jar)", "fill", ""},
		{"fill(jar)", "pour(jar)", "fill", ""},
		{"jar/lids", "jar/covers", "jar/lids jar/covers", ""},
	} {
		got := exchanged(api.PatchEdit{From: test.from, To: test.to}, strings.Fields(test.symbols))
		if strings.Join(got, " ") != test.want {
			t.Errorf("%s to %s exchanges %q, want %q", test.from, test.to, got, test.want)
		}
	}
}
