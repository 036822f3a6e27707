package versions

import (
	"encoding/json"
	"regexp"
	"sort"
	"strings"

	"go.yaml.in/yaml/v3"
)

const npm = "npm"

// nodePackage is what package.json and the entries of its lock files share.
type nodePackage struct {
	Version      string            `json:"version" yaml:"version"`
	Dependencies map[string]string `json:"dependencies" yaml:"dependencies"`
	Dev          map[string]string `json:"devDependencies" yaml:"devDependencies"`
	Optional     map[string]string `json:"optionalDependencies" yaml:"optionalDependencies"`
	Peers        map[string]string `json:"peerDependencies" yaml:"peerDependencies"`
	PeersMeta    map[string]struct {
		Optional bool `json:"optional" yaml:"optional"`
	} `json:"peerDependenciesMeta" yaml:"peerDependenciesMeta"`
	Engines engines `json:"engines" yaml:"engines"`
	Link    bool    `json:"link"`
}

// engines are written as a map, and by old packages as a list.
type engines map[string]string

func (e *engines) UnmarshalJSON(data []byte) error {
	var m map[string]string
	if json.Unmarshal(data, &m) == nil {
		*e = m
	}
	return nil
}

func readPackageJSON(data []byte, out *State) error {
	var p nodePackage
	if err := json.Unmarshal(data, &p); err != nil {
		return err
	}
	for runtime, version := range p.Engines {
		out.Runtimes[runtime] = version
	}
	for _, part := range []struct {
		wants map[string]string
		dev   bool
	}{{p.Dependencies, false}, {p.Optional, false}, {p.Dev, true}} {
		for _, name := range keys(part.wants) {
			out.Wishes = append(out.Wishes, Wish{Name: name, Range: part.wants[name], Dev: part.dev})
		}
	}
	return nil
}

func (p *nodePackage) as(name string) Package {
	all := map[string]string{}
	for _, m := range []map[string]string{p.Optional, p.Dependencies} {
		for k, v := range m {
			all[k] = v
		}
	}
	peers := map[string]string{}
	for k, v := range p.Peers {
		if !p.PeersMeta[k].Optional {
			peers[k] = v
		}
	}
	return Package{Name: name, Version: p.Version, Wants: all, Peers: peers, Engines: p.Engines}
}

// readPackageLock reads versions 1 to 3 of npm's lock file.
func readPackageLock(data []byte, out *State) error {
	var lock struct {
		Packages     map[string]nodePackage     `json:"packages"`
		Dependencies map[string]json.RawMessage `json:"dependencies"`
	}
	if err := json.Unmarshal(data, &lock); err != nil {
		return err
	}
	for at, p := range lock.Packages {
		if i := strings.LastIndex(at, "node_modules/"); i >= 0 && !p.Link && p.Version != "" {
			out.Packages = append(out.Packages, p.as(at[i+len("node_modules/"):]))
		}
	}
	if len(lock.Packages) == 0 {
		return oldNodes(lock.Dependencies, out)
	}
	return nil
}

// oldNodes reads the nested tree of version 1.
func oldNodes(tree map[string]json.RawMessage, out *State) error {
	for name, raw := range tree {
		var p struct {
			Version      string                     `json:"version"`
			Requires     json.RawMessage            `json:"requires"`
			Dependencies map[string]json.RawMessage `json:"dependencies"`
		}
		if err := json.Unmarshal(raw, &p); err != nil {
			return err
		}
		var wants map[string]string
		json.Unmarshal(p.Requires, &wants) // it may be true as well
		out.Packages = append(out.Packages, Package{Name: name, Version: p.Version, Wants: wants})
		if err := oldNodes(p.Dependencies, out); err != nil {
			return err
		}
	}
	return nil
}

// readYarnLock reads both forms of yarn's lock file: its own, and the later one
// that is YAML.
func readYarnLock(data []byte, out *State) error {
	var p *Package
	section := ""
	for _, line := range lines(data) {
		depth := len(line) - len(strings.TrimLeft(line, " "))
		text := strings.TrimSpace(line)
		switch {
		case text == "" || strings.HasPrefix(text, "#"):
		case depth == 0:
			p, section = nil, ""
			head := unquote(strings.TrimSuffix(before(text, ", "), ":"))
			if at := strings.LastIndex(head[min(1, len(head)):], "@"); at >= 0 {
				name := head[:at+1]
				if i := strings.Index(name[1:], "@"); i >= 0 { // "a@npm:b@1"
					name = name[:i+1]
				}
				out.Packages = append(out.Packages, Package{Name: name})
				p = &out.Packages[len(out.Packages)-1]
			}
		case p == nil:
		case depth == 2:
			key, value, ok := cutKey(text)
			section = strings.TrimSuffix(text, ":")
			if ok && key == "version" {
				p.Version = value
			}
			if ok && key == "resolution" && strings.Contains(value, "@workspace:") {
				p.Version = ""
			}
		default:
			key, value, _ := cutKey(text)
			switch section {
			case "dependencies", "optionalDependencies":
				want(&p.Wants, key, strings.TrimPrefix(value, "npm:"))
			case "peerDependencies":
				want(&p.Peers, key, value)
			}
		}
	}
	kept := out.Packages[:0]
	for _, p := range out.Packages {
		if p.Version != "" && p.Version != "0.0.0-use.local" {
			kept = append(kept, p)
		}
	}
	out.Packages = kept
	return nil
}

// cutKey reads "key: value" and "key value", with or without quotes.
func cutKey(text string) (key, value string, ok bool) {
	if strings.HasPrefix(text, `"`) {
		if end := strings.IndexByte(text[1:], '"'); end >= 0 {
			return text[1 : end+1], unquote(strings.TrimLeft(text[end+2:], ": ")), true
		}
	}
	i := strings.IndexAny(text, ": ")
	if i < 0 {
		return text, "", false
	}
	return text[:i], unquote(strings.TrimLeft(text[i:], ": ")), true
}

// pnpmKey is "/name/1.0.0_peers" in version 5, "/name@1.0.0" in 6, and without
// the slash in 9.
var pnpmKey = regexp.MustCompile(`^/?((?:@[^/@]+/)?[^/@]+)[/@](\d[^_/]*)`)

// readPnpmLock reads versions 5 to 9 of pnpm's lock file.
func readPnpmLock(data []byte, out *State) error {
	var lock struct {
		Packages  map[string]nodePackage `yaml:"packages"`
		Snapshots map[string]nodePackage `yaml:"snapshots"`
	}
	if err := yaml.Unmarshal(data, &lock); err != nil {
		return err
	}
	snapshots := map[string]nodePackage{}
	for key, p := range lock.Snapshots {
		snapshots[before(key, "(")] = p
	}
	for _, key := range keys(lock.Packages) {
		p := lock.Packages[key]
		m := pnpmKey.FindStringSubmatch(before(key, "("))
		if m == nil {
			continue
		}
		if s, ok := snapshots[before(key, "(")]; ok {
			p.Dependencies, p.Optional = s.Dependencies, s.Optional
		}
		p.Version = m[2]
		out.Packages = append(out.Packages, p.as(m[1]))
	}
	return nil
}

func keys[V any](m map[string]V) []string {
	list := make([]string, 0, len(m))
	for k := range m {
		list = append(list, k)
	}
	sort.Strings(list)
	return list
}
