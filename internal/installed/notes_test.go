package installed

import (
	"archive/zip"
	"compress/gzip"
	"os"
	"path/filepath"
	"strings"
	"testing"
)

// lay writes files below a folder; one that ends in .gz is zipped, one in .jar holds a
// change log below META-INF.
func lay(t *testing.T, dir string, files map[string]string) {
	t.Helper()
	for name, text := range files {
		name = filepath.Join(dir, name)
		if err := os.MkdirAll(filepath.Dir(name), 0o755); err != nil {
			t.Fatal(err)
		}
		f, err := os.Create(name)
		if err != nil {
			t.Fatal(err)
		}
		switch filepath.Ext(name) {
		case ".gz":
			w := gzip.NewWriter(f)
			w.Write([]byte(text))
			w.Close()
		case ".jar":
			w := zip.NewWriter(f)
			for _, entry := range []string{"META-INF/CHANGES.txt", "org/jar/changes/Change.class"} {
				to, err := w.Create(entry)
				if err != nil {
					t.Fatal(err)
				}
				to.Write([]byte(text))
			}
			w.Close()
		default:
			f.WriteString(text)
		}
		f.Close()
	}
}

func TestNotes(t *testing.T) {
	home, dir := t.TempDir(), t.TempDir()
	t.Setenv("HOME", home)
	t.Setenv("GOMODCACHE", filepath.Join(home, "mod"))
	lay(t, home, map[string]string{
		"mod/example.org/!jar/v5@v5.0.0/CHANGELOG.md":           "# 5.0.0",
		"mod/example.org/!jar/v5@v5.0.0/docs/guide/upgrade.md":  "# From 4",
		"mod/example.org/!jar/v5@v5.0.0/changes.go":             "package jar",
		"mod/example.org/!jar/v5@v4.2.0/CHANGELOG.md":           "# 4.2.0",
		"mod/example.org/!jar/v5@v4.2.0/HISTORY.rst":            "older",
		".cargo/registry/src/index/lid-2.0.0/RELEASES.md":       "lids",
		".m2/repository/org/pot/pot-core/3.1/pot-core-3.1.jar":  "pots",
		".pub-cache/hosted/pub.example/cup-1.0.0/CHANGELOG.md":  "cups",
		".cargo/registry/src/index/lid-2.0.0/target/CHANGES.md": strings.Repeat("x", mostDocument+1),
	})
	lay(t, dir, map[string]string{
		"node_modules/@pantry/shelf/CHANGELOG.md":                                  "shelves",
		"node_modules/@pantry/shelf/node_modules/nail/CHANGELOG.md":                "nails",
		"node_modules/@pantry/shelf/release-notes.txt.gz":                          "zipped",
		".venv/lib/python3.11/site-packages/spoon/__init__.py":                     "",
		".venv/lib/python3.11/site-packages/spoon-1.0.dist-info/HISTORY.md":        "spoons",
		".venv/lib/python3.11/site-packages/spoon-1.0.dist-info/licenses/NEWS.bin": "a\x00b",
	})
	for _, c := range []struct{ pkg, from, to, want string }{
		{"example.org/Jar/v5", "4.2.0", "5.0.0", "Jar/CHANGELOG.md=# 5.0.0, Jar/docs/guide/upgrade.md=# From 4, Jar/HISTORY.rst=older"},
		{"@pantry/shelf", "1", "2", "shelf/CHANGELOG.md=shelves, shelf/release-notes.txt=zipped"},
		{"spoon", "0.9", "1.0", "spoon/HISTORY.md=spoons"},
		{"lid", "1.0.0", "2.0.0", "lid/RELEASES.md=lids"},
		{"org.pot:pot-core", "3.0", "3.1", "pot-core/CHANGES.txt=pots"},
		{"cup", "0.9.0", "1.0.0", "cup/CHANGELOG.md=cups"},
		{"no-such-package", "1", "2", ""},
		{"../../etc", "1", "2", ""},
	} {
		var got []string
		for _, d := range Notes(dir, c.pkg, c.from, c.to) {
			if !filepath.IsAbs(d.Path) {
				t.Errorf("%s: the path is %s", c.pkg, d.Path)
			}
			got = append(got, d.Name+"="+d.Text)
		}
		if text := strings.Join(got, ", "); text != c.want {
			t.Errorf("%s: %s\nwant %s", c.pkg, text, c.want)
		}
	}
}
