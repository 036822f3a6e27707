package config

import (
	"fmt"
	"strings"
	"testing"
	"testing/fstest"
)

func TestDiscover(t *testing.T) {
	for _, c := range []struct {
		name  string
		files map[string]string
		want  []string // name: run [targets], by what says so
	}{
		{"nothing", nil, nil},
		{"scripts, by the manager whose lock file is there", map[string]string{
			"package.json": `{"scripts": {"test": "vitest", "build": "vite build", "start": "vite", "test:watch": "vitest -w", "lint:fix": "x", "test:e2e": "y"}}`, "yarn.lock": "",
		}, []string{"build: yarn run build by package.json", "test: yarn run test by package.json", "test-e2e: yarn run test:e2e by package.json"}},
		{"no test is specified", map[string]string{"package.json": `{"scripts": {"test": "echo \"Error: no test specified\" && exit 1"}}`}, nil},
		{"make targets before what the build tool can do", map[string]string{
			"Makefile": ".PHONY: test\nCC = cc\nall: build\nbuild: x\n\tcc\ntest: build\n\t./run\n", "go.mod": "module m\n",
		}, []string{"build: make build by Makefile", "test: make test by Makefile", "vet: go vet ./... by go.mod"}},
		{"a Go workspace", map[string]string{"go.work": "go 1.25\n\nuse (\n\t./weighin\n\t./payout\n\t./gone\n)\n", "weighin/go.mod": "", "payout/go.mod": ""},
			[]string{"build: go build ./... [payout weighin] by go.work", "vet: go vet ./... [payout weighin] by go.work", "test: go test -json ./... [payout weighin] by go.work"}},
		{"an npm workspace", map[string]string{
			"package.json": `{"workspaces": ["packages/*"]}`, "packages/a/package.json": `{"scripts": {"build": "tsc", "test": "x"}}`, "packages/b/package.json": `{"scripts": {"build": "tsc"}}`,
		}, []string{"build: npm run build [packages/a packages/b] by package.json", "test: npm run test [packages/a] by package.json"}},
		{"Python", map[string]string{"pyproject.toml": "[tool.pytest.ini_options]\n[tool.mypy]\n"},
			[]string{"test: python3 -m pytest by pyproject.toml", "types: mypy . by pyproject.toml"}},
		{"a workflow file", map[string]string{".github/workflows/ci.yml": "jobs:\n  go:\n    steps:\n      - uses: checkout\n      - run: npm install\n      - run: ./scripts/test --all\n      - run: |\n          one test\n          two\n      - run: echo $TOKEN test\n"},
			[]string{"test: ./scripts/test --all by ci.yml"}},
		{"broken files", map[string]string{"package.json": "{", ".github/workflows/ci.yml": "\t: ["}, nil},
	} {
		project := fstest.MapFS{}
		for name, text := range c.files {
			project[name] = &fstest.MapFile{Data: []byte(text)}
		}
		found := Discover(project)
		var got []string
		for _, f := range found {
			line := f.Check.Name + ": " + f.Check.Run
			if len(f.Check.Targets) > 0 {
				line += fmt.Sprint(" ", f.Check.Targets)
			}
			got = append(got, line+" by "+f.Said)
		}
		if strings.Join(got, "\n") != strings.Join(c.want, "\n") {
			t.Errorf("%s:\n%s\nwant\n%s", c.name, strings.Join(got, "\n"), strings.Join(c.want, "\n"))
		}
		text, err := Written(found)
		if err != nil {
			t.Fatal(err)
		}
		if read, _, err := parse(Name, []byte(text)); err != nil || len(read.Checks) != len(found) {
			t.Errorf("%s: what is written is not read again: %v\n%s", c.name, err, text)
		}
	}
}
