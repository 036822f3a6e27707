package rewrite

import (
	"os"
	"os/exec"
	"path/filepath"
	"sort"
	"strings"
	"testing"

	"unicausa/internal/core/exposure"
	"unicausa/internal/core/notes"
	"unicausa/internal/core/source/sourcetest"
)

// TestMoves gives patches that move files to git apply, with what refers to them.
func TestMoves(t *testing.T) {
	for _, test := range []struct {
		name, entry string
		files       map[string]string
		want        map[string]string
	}{
		{
			"a file of settings and what names it", "- The file `jar.config.js` was renamed to `jar.config.mjs`.\n",
			map[string]string{"front/jar.config.js": "export default {};\n", "package.json": "{ \"x\": \"jar --config front/jar.config.js\" }\n", "README.md": "See jar.config.js.\n"},
			map[string]string{"front/jar.config.mjs": "export default {};\n", "package.json": "{ \"x\": \"jar --config front/jar.config.mjs\" }\n", "README.md": "See jar.config.js.\n"},
		},
		{
			"one that changes as well", "- `lid.yml` was renamed to `lid.yaml`.\n",
			map[string]string{"lid.yml": "name: lid.yml\n", "more.yaml": "use: lid.yml\n"},
			map[string]string{"lid.yaml": "name: lid.yaml\n", "more.yaml": "use: lid.yaml\n"},
		},
		{
			"a path that is taken", "- `lid.yml` was renamed to `lid.yaml`.\n",
			map[string]string{"lid.yml": "a: 1\n", "lid.yaml": "a: 2\n", "sub/lid.yml": "a: 3\n"},
			map[string]string{"lid.yml": "a: 1\n", "lid.yaml": "a: 2\n", "sub/lid.yaml": "a: 3\n"},
		},
	} {
		t.Run(test.name, func(t *testing.T) {
			tree := sourcetest.Tree(t, test.files)
			changes := notes.Read("x.md", "jar", []byte("## 5.0.0\n\n"+test.entry))
			p := Of(tree, &changes[0], exposure.Search(t.Context(), tree, changes)[0], changes)
			diff, err := Diff(tree, p.Edits, p.Moves)
			if err != nil {
				t.Fatal(err)
			}
			dir := t.TempDir()
			for name, text := range test.files {
				name = filepath.Join(dir, name)
				if err := os.MkdirAll(filepath.Dir(name), 0o755); err != nil {
					t.Fatal(err)
				}
				if err := os.WriteFile(name, []byte(text), 0o644); err != nil {
					t.Fatal(err)
				}
			}
			cmd := exec.Command("git", "apply", "-")
			cmd.Dir, cmd.Stdin = dir, strings.NewReader(diff)
			if out, err := cmd.CombinedOutput(); err != nil {
				t.Fatalf("%v\n%s\n%s\n%+v %+v", err, out, diff, p, changes[0])
			}
			got := map[string]string{}
			var names []string
			filepath.WalkDir(dir, func(name string, d os.DirEntry, err error) error {
				if err == nil && d.Type().IsRegular() {
					text, _ := os.ReadFile(name)
					rel, _ := filepath.Rel(dir, name)
					got[rel], names = string(text), append(names, rel)
				}
				return err
			})
			sort.Strings(names)
			for name, text := range test.want {
				if got[name] != text {
					t.Errorf("%s holds %q, want %q; there are %v\n%s", name, got[name], text, names, diff)
				}
			}
			if len(got) != len(test.want) {
				t.Errorf("there are %v", names)
			}
		})
	}
}

func TestMoved(t *testing.T) {
	for _, test := range []struct{ name, from, to, want string }{
		{"spec/a_spec.rb", "spec/", "test/", "test/a_spec.rb"},
		{"front/spec/a.rb", "spec/", "test/", "front/test/a.rb"},
		{"inspec/a.rb", "spec/", "test/", ""},
		{"a.lid.ts", "*.lid.ts", "*.seal.ts", "a.seal.ts"},
		{"a.lid.tsx", "*.lid.ts", "*.seal.ts", ""},
		{".jarrc", ".jarrc", "jar.config.json", "jar.config.json"},
		{"jar/lids.go", "jar/lids", "jar/covers", ""},
		{"lids.go", "Lids", "lids.go", ""},
		{"conf/jar.yml", "conf/jar.yml", "jar.yml", "jar.yml"},
		{"a.js", "-a.js", "b.js", ""},
	} {
		if got := moved(test.name, notes.Rename{From: test.from, To: test.to}); got != test.want {
			t.Errorf("%s to %s moves %s to %q, want %q", test.from, test.to, test.name, got, test.want)
		}
	}
}
