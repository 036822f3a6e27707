package versions

import (
	"encoding/json"
	"regexp"
	"strings"

	"github.com/BurntSushi/toml"
)

const python = "Python"

// requirement reads "name[extra] >=1,<2 ; marker" (PEP 508).
var requirement = regexp.MustCompile(`^([A-Za-z0-9][\w.-]*)\s*(?:\[[^\]]*\])?\s*\(?([<>=!~][^;#)]*)?`)

func wishFrom(line string, dev bool) (Wish, bool) {
	m := requirement.FindStringSubmatch(strings.TrimSpace(line))
	if m == nil {
		return Wish{}, false
	}
	return Wish{Name: distribution(m[1]), Range: strings.TrimSpace(before(m[2], " --")), Dev: dev}, true
}

// distribution is the normalized name of a distribution (PEP 503).
func distribution(name string) string {
	return strings.NewReplacer("_", "-", ".", "-").Replace(strings.ToLower(name))
}

func sameDistribution(a, b string) bool { return distribution(a) == distribution(b) }

func readPyproject(data []byte, out *State) error {
	var m struct {
		Project struct {
			Dependencies []string            `toml:"dependencies"`
			Optional     map[string][]string `toml:"optional-dependencies"`
			Python       string              `toml:"requires-python"`
		} `toml:"project"`
		Groups map[string][]any `toml:"dependency-groups"`
		Tool   struct {
			Poetry struct {
				Dependencies map[string]any `toml:"dependencies"`
				Dev          map[string]any `toml:"dev-dependencies"`
				Group        map[string]struct {
					Dependencies map[string]any `toml:"dependencies"`
				} `toml:"group"`
			} `toml:"poetry"`
		} `toml:"tool"`
	}
	if err := toml.Unmarshal(data, &m); err != nil {
		return err
	}
	out.Runtimes["python"] = m.Project.Python
	add := func(line string, dev bool) {
		if w, ok := wishFrom(line, dev); ok {
			out.Wishes = append(out.Wishes, w)
		}
	}
	for _, d := range m.Project.Dependencies {
		add(d, false)
	}
	for _, group := range keys(m.Project.Optional) {
		for _, d := range m.Project.Optional[group] {
			add(d, false)
		}
	}
	for _, group := range keys(m.Groups) {
		for _, d := range m.Groups[group] {
			if line, ok := d.(string); ok {
				add(line, true)
			}
		}
	}
	poetry := m.Tool.Poetry
	if v, ok := poetry.Dependencies["python"].(string); ok {
		out.Runtimes["python"] = v
		delete(poetry.Dependencies, "python")
	}
	wishes(out, poetry.Dependencies, false)
	wishes(out, poetry.Dev, true)
	for _, group := range keys(poetry.Group) {
		wishes(out, poetry.Group[group].Dependencies, true)
	}
	return nil
}

func readRequirements(data []byte, out *State) error {
	for _, line := range lines(data) {
		if w, ok := wishFrom(line, false); ok {
			out.Wishes = append(out.Wishes, w)
		}
	}
	return nil
}

// readPythonLock reads the lock files of Poetry, uv and PDM, all of them TOML
// with a list of packages.
func readPythonLock(data []byte, out *State) error {
	var lock struct {
		Python  string `toml:"requires-python"`
		Package []struct {
			Name, Version string
			Dependencies  any    `toml:"dependencies"`
			Python        string `toml:"python-versions"`
		} `toml:"package"`
	}
	if err := toml.Unmarshal(data, &lock); err != nil {
		return err
	}
	for _, p := range lock.Package {
		q := Package{Name: distribution(p.Name), Version: p.Version}
		if p.Python != "" && p.Python != "*" {
			q.Engines = map[string]string{"python": p.Python}
		}
		switch needs := p.Dependencies.(type) {
		case map[string]any: // Poetry
			for name, v := range needs {
				text, _ := v.(string)
				if table, ok := v.(map[string]any); ok {
					text, _ = table["version"].(string)
				}
				want(&q.Wants, distribution(name), text)
			}
		case []map[string]any: // uv
			for _, table := range needs {
				if name, ok := table["name"].(string); ok {
					want(&q.Wants, distribution(name), "")
				}
			}
		case []any:
			for _, v := range needs {
				switch v := v.(type) {
				case map[string]any:
					if name, ok := v["name"].(string); ok {
						want(&q.Wants, distribution(name), "")
					}
				case string: // PDM
					if w, ok := wishFrom(v, false); ok {
						want(&q.Wants, w.Name, w.Range)
					}
				}
			}
		}
		out.Packages = append(out.Packages, q)
	}
	return nil
}

func readPipfileLock(data []byte, out *State) error {
	var lock map[string]json.RawMessage
	if err := json.Unmarshal(data, &lock); err != nil {
		return err
	}
	for _, part := range []string{"default", "develop"} {
		var packages map[string]struct{ Version string }
		if len(lock[part]) == 0 || json.Unmarshal(lock[part], &packages) != nil {
			continue
		}
		for _, name := range keys(packages) {
			out.Packages = append(out.Packages, Package{Name: distribution(name), Version: packages[name].Version})
		}
	}
	return nil
}
