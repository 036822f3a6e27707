package config

import (
	"encoding/json"
	"fmt"
	"io/fs"
	"path"
	"regexp"
	"slices"
	"strings"

	"go.yaml.in/yaml/v3"
)

// Found is a check that a project seems to have, and the file that says so.
type Found struct {
	Check Check
	Said  string
}

// Discover finds the checks of a project from its own files: the scripts, make targets and
// build files at its top, and the commands of its workflow files. A workspace of many
// packages gives its checks their packages as targets. Of two checks with one name the
// first is kept: what the project says itself comes before what its build tool can do.
func Discover(project fs.FS) []Found {
	d := &discovery{project: project}
	d.scripts()
	d.makefile()
	d.buildTools()
	d.workflows()
	return d.found
}

type discovery struct {
	project fs.FS
	found   []Found
}

func (d *discovery) read(name string) string {
	data, err := fs.ReadFile(d.project, name)
	if err != nil {
		return ""
	}
	return string(data)
}

func (d *discovery) has(pattern string) bool {
	found, err := fs.Glob(d.project, pattern)
	return err == nil && len(found) > 0
}

func (d *discovery) add(said string, c Check) {
	same := func(f Found) bool { return f.Check.Name == c.Name || f.Check.Run == c.Run }
	if c.Run != "" && !slices.ContainsFunc(d.found, same) {
		d.found = append(d.found, Found{Check: c, Said: said})
	}
}

// wanted are the names under which projects keep what has to pass, in the order of the
// phases.
var wanted = []string{"build", "compile", "typecheck", "types", "check", "lint", "test", "tests", "unit", "e2e", "integration"}

// asCheck is the name of the check that a script or target of that name is, "" for none.
func asCheck(name string) string {
	head, _, _ := strings.Cut(name, ":")
	switch {
	case !slices.Contains(wanted, head), strings.Contains(name, "watch"), strings.Contains(name, "fix"):
		return ""
	case head == "tests":
		head = "test"
	}
	if _, rest, ok := strings.Cut(name, ":"); ok {
		return head + "-" + strings.ReplaceAll(rest, ":", "-")
	}
	return head
}

// scripts reads package.json: its scripts, run by the package manager whose lock file is there.
func (d *discovery) scripts() {
	var manifest struct {
		Scripts    map[string]string `json:"scripts"`
		Workspaces json.RawMessage   `json:"workspaces"`
	}
	if json.Unmarshal([]byte(d.read("package.json")), &manifest) != nil {
		return
	}
	manager := "npm"
	if d.has("yarn.lock") {
		manager = "yarn"
	} else if d.has("pnpm-lock.yaml") {
		manager = "pnpm"
	}
	for _, want := range wanted {
		for _, name := range sortedKeys(manifest.Scripts) {
			if head, _, _ := strings.Cut(name, ":"); head != want || asCheck(name) == "" || strings.Contains(manifest.Scripts[name], "no test specified") {
				continue
			}
			d.add("package.json", Check{Name: asCheck(name), Run: manager + " run " + name})
		}
	}
	targets := d.workspaces(manifest.Workspaces)
	if len(d.found) > 0 || len(targets) == 0 {
		return
	}
	for _, name := range []string{"build", "test"} {
		d.add("package.json", Check{Name: name, Folder: "{target}", Run: manager + " run " + name, Targets: d.having(targets, "package.json", `"`+name+`"`)})
	}
}

// workspaces are the folders of a workspace's packages, as npm, yarn and pnpm list them.
func (d *discovery) workspaces(list json.RawMessage) []string {
	var globs []string
	var packages struct{ Packages []string }
	if json.Unmarshal(list, &globs) != nil && json.Unmarshal(list, &packages) == nil {
		globs = packages.Packages
	}
	var more struct {
		Packages []string `yaml:"packages"`
	}
	if yaml.Unmarshal([]byte(d.read("pnpm-workspace.yaml")), &more) == nil {
		globs = append(globs, more.Packages...)
	}
	return d.folders(globs, "package.json")
}

// folders are the folders that globs name and that hold a file.
func (d *discovery) folders(globs []string, file string) []string {
	var list []string
	for _, g := range globs {
		g = strings.TrimSuffix(strings.TrimPrefix(path.Clean(strings.Trim(g, `"'`)), "./"), "/**")
		found, err := fs.Glob(d.project, path.Join(g, file))
		if err != nil {
			continue
		}
		for _, f := range found {
			list = append(list, path.Dir(f))
		}
	}
	slices.Sort(list)
	return slices.Compact(list)
}

// having are the folders whose file holds a text.
func (d *discovery) having(folders []string, file, text string) []string {
	return slices.DeleteFunc(slices.Clone(folders), func(f string) bool { return !strings.Contains(d.read(path.Join(f, file)), text) })
}

var makeTarget = regexp.MustCompile(`(?m)^([A-Za-z0-9_.-]+)\s*:([^=]|$)`)

func (d *discovery) makefile() {
	for _, file := range []string{"GNUmakefile", "makefile", "Makefile"} {
		var names []string
		for _, m := range makeTarget.FindAllStringSubmatch(d.read(file), -1) {
			names = append(names, m[1])
		}
		for _, want := range wanted {
			if slices.Contains(names, want) {
				d.add(file, Check{Name: asCheck(want), Run: "make " + want})
			}
		}
	}
}

// tool is what a build file at the top of a project can do.
type tool struct {
	file   string // by which it is known
	checks []Check
}

var buildTools = []tool{
	{"go.mod", []Check{{Name: "build", Run: "go build ./..."}, {Name: "vet", Run: "go vet ./..."}, {Name: "test", Run: "go test -json ./..."}}},
	{"Cargo.toml", []Check{{Name: "build", Run: "cargo build --workspace --all-targets"}, {Name: "test", Run: "cargo test --workspace"}}},
	{"mvnw", []Check{{Name: "build", Run: "./mvnw -B test-compile"}, {Name: "test", Run: "./mvnw -B test"}}},
	{"pom.xml", []Check{{Name: "build", Run: "mvn -B test-compile"}, {Name: "test", Run: "mvn -B test"}}},
	{"gradlew", []Check{{Name: "build", Run: "./gradlew testClasses"}, {Name: "test", Run: "./gradlew test"}}},
	{"build.gradle*", []Check{{Name: "build", Run: "gradle testClasses"}, {Name: "test", Run: "gradle test"}}},
	{"mypy.ini", []Check{{Name: "types", Run: "mypy ."}}},
	{"pytest.ini", []Check{{Name: "test", Run: "python3 -m pytest"}}},
	{"tests/test_*.py", []Check{{Name: "test", Run: "python3 -m pytest"}}},
	{"test_*.py", []Check{{Name: "test", Run: "python3 -m pytest"}}},
	{"manage.py", []Check{{Name: "check", Run: "python3 -Wd manage.py check"}, {Name: "test", Run: "python3 -Wd manage.py test"}}},
	{"tsconfig.json", []Check{{Name: "types", Run: "npx tsc --noEmit"}}},
	{"phpunit.xml*", []Check{{Name: "test", Run: "vendor/bin/phpunit"}}},
	{".rspec", []Check{{Name: "test", Run: "bundle exec rspec"}}},
	{"Rakefile", []Check{{Name: "test", Run: "bundle exec rake"}}},
	{"mix.exs", []Check{{Name: "build", Run: "mix compile --force"}, {Name: "test", Run: "mix test"}}},
	{"*.sln", []Check{{Name: "build", Run: "dotnet build"}, {Name: "test", Run: "dotnet test"}}},
	{"pubspec.yaml", []Check{{Name: "lint", Run: "dart analyze"}, {Name: "test", Run: "dart test"}}},
	{"Package.swift", []Check{{Name: "build", Run: "swift build"}, {Name: "test", Run: "swift test"}}},
	{"CMakeLists.txt", []Check{{Name: "configure", Run: "cmake -S . -B build"}, {Name: "build", Run: "cmake --build build"}, {Name: "test", Run: "ctest --test-dir build --output-on-failure"}}},
}

var workUse = regexp.MustCompile(`(?m)^\s*(?:use\s+)?(\./[^\s)]+|\.)\s*$`)

func (d *discovery) buildTools() {
	if work := d.read("go.work"); work != "" {
		var globs []string
		for _, m := range workUse.FindAllStringSubmatch(work, -1) {
			globs = append(globs, m[1])
		}
		if targets := d.folders(globs, "go.mod"); len(targets) > 0 {
			for _, c := range buildTools[0].checks {
				c.Folder, c.Targets = "{target}", targets
				d.add("go.work", c)
			}
			return
		}
	}
	for _, t := range buildTools {
		if !d.has(t.file) {
			continue
		}
		for _, c := range t.checks {
			d.add(t.file, c)
		}
	}
	if text := d.read("pyproject.toml"); strings.Contains(text, "[tool.pytest") {
		d.add("pyproject.toml", Check{Name: "test", Run: "python3 -m pytest"})
	}
	if text := d.read("pyproject.toml"); strings.Contains(text, "[tool.mypy") {
		d.add("pyproject.toml", Check{Name: "types", Run: "mypy ."})
	}
}

// verbs tell in a workflow's command what kind of check it is.
var verbs = regexp.MustCompile(`\b(build|compile|typecheck|vet|lint|test|pytest|tox|mypy|eslint|ctest|rspec|phpunit|clippy)\b`)

// workflows reads what the project's own automation runs: steps of one line that build,
// lint or test, where no check of that kind is known yet.
func (d *discovery) workflows() {
	files, err := fs.Glob(d.project, ".github/workflows/*.y*ml")
	if err != nil {
		return
	}
	for _, file := range append(files, ".gitlab-ci.yml") {
		var root yaml.Node
		if yaml.Unmarshal([]byte(d.read(file)), &root) != nil {
			continue
		}
		for _, line := range commands(&root, "") {
			line = strings.TrimSpace(line)
			m := verbs.FindString(line)
			if m == "" || strings.ContainsAny(line, "\n$") || strings.Contains(line, "install") {
				continue
			}
			d.add(path.Base(file), Check{Name: m, Run: line})
		}
	}
}

// commands are the texts below the keys run and script, in order.
func commands(n *yaml.Node, key string) []string {
	var list []string
	switch n.Kind {
	case yaml.ScalarNode:
		if key == "run" || key == "script" {
			list = append(list, n.Value)
		}
	case yaml.MappingNode:
		for i := 0; i+1 < len(n.Content); i += 2 {
			list = append(list, commands(n.Content[i+1], n.Content[i].Value)...)
		}
	default:
		for _, c := range n.Content {
			list = append(list, commands(c, key)...)
		}
	}
	return list
}

// Written is the text of a configuration with checks, each with what says so.
func Written(found []Found) (string, error) {
	var b strings.Builder
	b.WriteString("checks:\n")
	for _, f := range found {
		text, err := yaml.Marshal([]written{{f.Check.Name, f.Check.Folder, f.Check.Run, f.Check.Targets}})
		if err != nil {
			return "", fmt.Errorf("writing the checks: %w", err)
		}
		for i, line := range strings.Split(strings.TrimSpace(string(text)), "\n") {
			if i == 0 {
				line += "  # " + f.Said
			}
			b.WriteString("  " + line + "\n")
		}
	}
	return b.String(), nil
}

// written is a check as it is written.
type written struct {
	Name    string   `yaml:"name"`
	Folder  string   `yaml:"folder,omitempty"`
	Run     string   `yaml:"run"`
	Targets []string `yaml:"targets,omitempty,flow"`
}

func sortedKeys(m map[string]string) []string {
	keys := make([]string, 0, len(m))
	for k := range m {
		keys = append(keys, k)
	}
	slices.Sort(keys)
	return keys
}
