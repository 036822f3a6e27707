package cli

import (
	"context"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"time"

	"unicausa/internal/client"
	"unicausa/internal/core/versions"
)

// tools are the toolchains that a file at the top of a project tells of, with
// the command that says their version.
var tools = []struct {
	name    string
	files   []string
	command []string
}{
	{"go", []string{"go.mod"}, []string{"go", "version"}},
	{"node", []string{"package.json"}, []string{"node", "--version"}},
	{"rustc", []string{"Cargo.toml"}, []string{"rustc", "--version"}},
	{"php", []string{"composer.json"}, []string{"php", "--version"}},
	{"ruby", []string{"Gemfile"}, []string{"ruby", "--version"}},
	{"python", []string{"pyproject.toml", "requirements.txt", "setup.py", "setup.cfg"}, []string{"python3", "--version"}},
	{"java", []string{"pom.xml", "build.gradle", "build.gradle.kts"}, []string{"java", "-version"}},
	{"elixir", []string{"mix.exs"}, []string{"elixir", "--short-version"}},
	{"dotnet", []string{"*.sln", "*.csproj"}, []string{"dotnet", "--version"}},
	{"dart", []string{"pubspec.yaml"}, []string{"dart", "--version"}},
	{"swift", []string{"Package.swift"}, []string{"swift", "--version"}},
	{"cmake", []string{"CMakeLists.txt"}, []string{"cmake", "--version"}},
	{"cc", []string{"CMakeLists.txt", "Makefile"}, []string{"cc", "--version"}},
}

var versionWord = regexp.MustCompile(`\d+\.\d+(\.\d+)*([-+.][0-9A-Za-z.]+)?`)

// versionsHere asks the toolchains of the project for their versions,
// and the lock files for those of the packages that the upgrade moves.
func versionsHere(ctx context.Context, c *client.Client, upgrade int64, root string) map[string]string {
	seen := map[string]string{}
	for _, t := range tools {
		if !present(root, t.files) {
			continue
		}
		asking, cancel := context.WithTimeout(ctx, 5*time.Second)
		out, err := exec.CommandContext(asking, t.command[0], t.command[1:]...).CombinedOutput()
		cancel()
		if v := versionWord.Find(out); err == nil && v != nil {
			seen[t.name] = string(v)
		}
	}
	o, err := c.Overview(ctx, upgrade)
	if err != nil { // the recording itself will say so
		return seen
	}
	for _, m := range o.Upgrade.Leg.Moves {
		for _, name := range lockFiles(root) {
			data, err := os.ReadFile(filepath.Join(root, name))
			if err != nil {
				continue
			}
			if v := versions.Locked(name, data, m.Package); v != "" {
				seen[m.Package] = v
				break
			}
		}
	}
	return seen
}

// lockFiles are the project's lock files, and behind them its manifests.
func lockFiles(root string) (names []string) {
	entries, err := os.ReadDir(root)
	if err != nil {
		return nil
	}
	var manifests []string
	for _, e := range entries {
		switch manifest, lock := versions.Known(e.Name()); {
		case lock:
			names = append(names, e.Name())
		case manifest:
			manifests = append(manifests, e.Name())
		}
	}
	return append(names, manifests...)
}

// present reports whether one of the files is at the top of the project.
func present(root string, patterns []string) bool {
	for _, p := range patterns {
		if found, _ := filepath.Glob(filepath.Join(root, p)); len(found) > 0 {
			return true
		}
	}
	return false
}
