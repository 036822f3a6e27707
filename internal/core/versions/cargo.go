package versions

import (
	"strings"

	"github.com/BurntSushi/toml"
)

func readCargoToml(data []byte, out *State) error {
	var m struct {
		Package struct {
			Rust any `toml:"rust-version"`
		} `toml:"package"`
		Dependencies map[string]any `toml:"dependencies"`
		Dev          map[string]any `toml:"dev-dependencies"`
		Build        map[string]any `toml:"build-dependencies"`
		Workspace    struct {
			Dependencies map[string]any `toml:"dependencies"`
		} `toml:"workspace"`
	}
	if err := toml.Unmarshal(data, &m); err != nil {
		return err
	}
	if v, ok := m.Package.Rust.(string); ok {
		out.Runtimes["rustc"] = v
	}
	wishes(out, m.Dependencies, false)
	wishes(out, m.Build, false)
	wishes(out, m.Workspace.Dependencies, false)
	wishes(out, m.Dev, true)
	return nil
}

// wishes takes a table of names to a range, or to a table with a version.
func wishes(out *State, table map[string]any, dev bool) {
	for _, name := range keys(table) {
		w := Wish{Name: name, Dev: dev}
		switch v := table[name].(type) {
		case string:
			w.Range = v
		case map[string]any:
			w.Range, _ = v["version"].(string)
			if real, ok := v["package"].(string); ok {
				w.Name = real
			}
		}
		out.Wishes = append(out.Wishes, w)
	}
}

func readCargoLock(data []byte, out *State) error {
	var lock struct {
		Package []struct {
			Name, Version, Source string
			Dependencies          []string
		} `toml:"package"`
	}
	if err := toml.Unmarshal(data, &lock); err != nil {
		return err
	}
	for _, p := range lock.Package {
		q := Package{Name: p.Name, Version: p.Version}
		for _, d := range p.Dependencies {
			name, version, _ := strings.Cut(d, " ")
			want(&q.Wants, name, before(version, " "))
		}
		out.Packages = append(out.Packages, q)
	}
	return nil
}
