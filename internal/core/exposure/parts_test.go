package exposure

import (
	"fmt"
	"strings"
	"testing"

	"unicausa/internal/core/notes"
	"unicausa/internal/core/source/sourcetest"
)

// TestWhoseName tells names of the package's own apart from those of another part or
// type of it, and from variables.
func TestWhoseName(t *testing.T) {
	for _, test := range []struct{ name, pkg, entry, file, code, want string }{
		{"a field of another part", "example.org/jar", "## session\n\n- The `Expiration` field was replaced with `IdleTimeout`.\n", "a.go", "package a\n\nimport \"example.org/jar/v2/limiter\"\n\nvar c = limiter.Config{Expiration: 5}\n", "5:24 0.5"},
		{"a field of the part", "example.org/jar", "## limiter\n\n- The `Expiration` field was replaced with `IdleTimeout`.\n", "a.go", "package a\n\nimport \"example.org/jar/v2/limiter\"\n\nvar c = limiter.Config{Expiration: 5}\n", "5:24 0.7"},
		{"a field of the package itself", "example.org/jar/v2", "- The `Expiration` field was replaced with `IdleTimeout`.\n", "a.go", "package a\n\nimport \"example.org/jar/v2\"\n\nvar c = jar.Config{Expiration: 5}\n", "5:20 0.7"},
		{"under the heading of a part", "example.org/jar", "## jarpool\n\n- `Connect` was renamed to `New`.\n", "a.go", "package a\n\nimport \"example.org/jar\"\n\nvar c = jar.Connect()\n", "5:13 0.5"},
		{"of another type", "jar", "- `Table::fresh` takes an iterator.\n", "a.rs", "use jar::{Row, Table};\n\nfn f() { Row::fresh(1); Table::fresh(2); }\n", "3:32 1.0"},
		{"by its whole path", "jar", "- The module `scale` is named `weigh`.\n", "a.rs", "fn f() { jar::scale::net(1); }\n", "1:15 1.0"},
		{"a variable of that name", "jar", "- `body` is now `Body`.\n", "a.go", "package a\n\nimport \"jar\"\n\nfunc f() { body := jar.New(); use(body) }\n", "5:12 0.5, 5:35 0.5"},
		{"of another module", "jar", "- `jar.lids.lids` was renamed to `jar.lids._lids`.\n", "a.py", "import jar\n\njar.lids.open(1)\n", "3:5 0.5"},
		{"a default of the package's own function", "jar", "- The default of `jar.seal` is strict now.\n", "a.py", "import jar\n\njar.open(1)\njar.seal(2)\n", "4:5 1.0"},
	} {
		t.Run(test.name, func(t *testing.T) {
			tree := sourcetest.Tree(t, map[string]string{test.file: test.code})
			changes := notes.Read("x.md", test.pkg, []byte("# 5.0.0\n\n"+test.entry))
			var got []string
			for _, p := range Search(t.Context(), tree, changes[len(changes)-1:])[0].Places {
				got = append(got, fmt.Sprintf("%d:%d %.1f", p.Line, p.Column, p.Sure))
			}
			if strings.Join(got, ", ") != test.want {
				t.Errorf("found at %s, want %s; the change is %+v", strings.Join(got, ", "), test.want, changes[len(changes)-1].Symbols)
			}
		})
	}
}
