package versions

import (
	"fmt"
	"strings"
	"testing"
)

func TestOffer(t *testing.T) {
	manifest := func(version string) string {
		return `{"dependencies": {"binlabel": "` + version + `", "crate": "1.0.0"}}`
	}
	lock := func(binlabel, ink string) string {
		return `{"lockfileVersion": 3, "packages": {"": {"dependencies": {"binlabel": "*"}}, "node_modules/binlabel": {"version": "` + binlabel + `"}, "node_modules/ink": {"version": "` + ink + `"}}}`
	}
	for _, c := range []struct {
		name                  string
		before, after         files
		saidBefore, saidAfter map[string]string
		want                  string
	}{
		{"a manifest's range", files{"package.json": manifest("^2.4.0")}, files{"package.json": manifest("^3.0.0")}, nil, nil, "binlabel 2.4.0..3.0.0 by package.json"},
		{"a lock file, without what came along", files{"package-lock.json": lock("2.4.0", "1.0.0"), "package.json": manifest("*")},
			files{"package-lock.json": lock("3.0.0", "1.0.1"), "package.json": manifest("*")}, nil, nil, "binlabel 2.4.0..3.0.0 by package-lock.json"},
		{"a lock file alone", files{"package-lock.json": lock("2.4.0", "1.0.0")}, files{"package-lock.json": lock("2.4.0", "2.0.0")}, nil, nil, "ink 1.0.0..2.0.0 by package-lock.json"},
		{"the greatest step first", files{"requirements.txt": "axle==1.0\nbarrow==1.0\n"}, files{"requirements.txt": "axle==1.1\nbarrow==2.0\n"}, nil, nil,
			"barrow 1.0..2.0 by requirements.txt, axle 1.0..1.1 by requirements.txt"},
		{"a Go module's new path", files{"go.mod": "module m\nrequire example.org/jar v1.2.0\n"}, files{"go.mod": "module m\nrequire example.org/jar/v2 v2.0.0\n"}, nil, nil, "example.org/jar/v2 1.2.0..2.0.0 by go.mod"},
		{"only the outputs", nil, nil, map[string]string{"node": "18.2.0", "vitest": "1.0.0"}, map[string]string{"node": "20.1.0", "vitest": "1.0.0"}, "node 18.2.0..20.1.0 by the outputs"},
		{"a downgrade is no upgrade", files{"package.json": manifest("3.0.0")}, files{"package.json": manifest("2.0.0")}, nil, nil, ""},
		{"nothing", nil, nil, nil, nil, ""},
	} {
		var got []string
		for _, o := range Offer(Read(c.before), Read(c.after), c.saidBefore, c.saidAfter) {
			got = append(got, fmt.Sprintf("%s %s..%s by %s", o.Package, o.From, o.To, o.Said))
		}
		if text := strings.Join(got, ", "); text != c.want {
			t.Errorf("%s: %s, want %s", c.name, text, c.want)
		}
	}
}
