package installed

import (
	"path/filepath"
	"strings"
	"testing"
)

// TestFolder finds a package of each manager, in the version that is asked for.
func TestFolder(t *testing.T) {
	home, dir := t.TempDir(), t.TempDir()
	t.Setenv("HOME", home)
	t.Setenv("GOMODCACHE", filepath.Join(home, "mod"))
	lay(t, home, map[string]string{
		".cargo/registry/src/index/jar-1.9.0/src/lib.rs": "", ".cargo/registry/src/index/jar-2.0.0/src/lib.rs": "",
		"mod/example.org/!orchard/jar@v2.0.0/jar.go": "package jar\n", "mod/example.org/!orchard/jar@v1.0.0/jar.go": "package jar\n",
	})
	lay(t, dir, map[string]string{
		"node_modules/@orchard/label/index.d.ts":                  "",
		"vendor/orchard/press/src/Press.php":                      "",
		".venv/lib/python3.13/site-packages/orchard_label/api.py": "",
		"vendor/bundle/ruby/3.4.0/gems/crates-2.0.0/crates.rb":    "",
		"deps/lids/lib/lids.ex":                                   "",
	})
	for _, test := range []struct{ pkg, version, want string }{
		{"@orchard/label", "5.0.0", dir + "/node_modules/@orchard/label"},
		{"orchard/press", "2.0.0", dir + "/vendor/orchard/press"},
		{"orchard-label", "2.0.0", dir + "/.venv/lib/python3.13/site-packages/orchard_label"},
		{"crates", "2.0.0", dir + "/vendor/bundle/ruby/3.4.0/gems/crates-2.0.0"},
		{"crates", "3.0.0", ""},
		{"lids", "1.0.0", dir + "/deps/lids"},
		{"jar", "2.0.0", home + "/.cargo/registry/src/index/jar-2.0.0"},
		{"example.org/Orchard/jar", "v2.0.0", home + "/mod/example.org/!orchard/jar@v2.0.0"},
		{"example.org/Orchard/jar", "3.0.0", ""},
		{"../label", "1.0.0", ""},
		{"/etc", "1.0.0", ""},
		{"", "", ""},
	} {
		if got := Folder(dir, test.pkg, test.version); got != test.want {
			t.Errorf("%s %s is in %q, want %q", test.pkg, test.version, got, test.want)
		}
	}
}

func TestPrograms(t *testing.T) {
	dir := t.TempDir()
	lay(t, dir, map[string]string{"dist/index.d.ts": "a", "src/a.py": "b", "README.md": "c", "node_modules/x/x.js": "d", ".git/y.js": "e"})
	files, whole := Programs(dir)
	var names []string
	for name := range files {
		names = append(names, name)
	}
	if !whole || len(files) != 2 || files["dist/index.d.ts"] != "a" || files["src/a.py"] != "b" {
		t.Errorf("read are %s, whole %v", strings.Join(names, ", "), whole)
	}
	if files, whole := Programs(filepath.Join(dir, "none")); len(files) > 0 || whole {
		t.Errorf("of no folder come %v, whole %v", files, whole)
	}
}
