package versions

import (
	"encoding/json"
	"regexp"
	"strings"

	"go.yaml.in/yaml/v3"
)

func readPubspec(data []byte, out *State) error {
	var p struct {
		Environment  map[string]string `yaml:"environment"`
		Dependencies map[string]any    `yaml:"dependencies"`
		Dev          map[string]any    `yaml:"dev_dependencies"`
	}
	if err := yaml.Unmarshal(data, &p); err != nil {
		return err
	}
	out.Runtimes["dart"] = p.Environment["sdk"]
	wishes(out, p.Dependencies, false)
	wishes(out, p.Dev, true)
	return nil
}

func readPubspecLock(data []byte, out *State) error {
	var lock struct {
		Packages map[string]struct{ Version string } `yaml:"packages"`
	}
	if err := yaml.Unmarshal(data, &lock); err != nil {
		return err
	}
	for _, name := range keys(lock.Packages) {
		out.Packages = append(out.Packages, Package{Name: name, Version: lock.Packages[name].Version})
	}
	return nil
}

var (
	mixLine     = regexp.MustCompile(`\{:(\w+),\s*"([^"]+)"`)
	elixirLine  = regexp.MustCompile(`\belixir:\s*"([^"]+)"`)
	mixLockLine = regexp.MustCompile(`^\s*"(\w+)":\s*\{:hex,\s*:\w+,\s*"([^"]+)"`)
	mixNeed     = regexp.MustCompile(`\{:(\w+),\s*"([^"]+)",\s*\[hex:`)
)

func readMix(data []byte, out *State) error {
	for _, m := range mixLine.FindAllStringSubmatch(string(data), -1) {
		out.Wishes = append(out.Wishes, Wish{Name: m[1], Range: m[2]})
	}
	if m := elixirLine.FindSubmatch(data); m != nil {
		out.Runtimes["elixir"] = string(m[1])
	}
	return nil
}

func readMixLock(data []byte, out *State) error {
	for _, line := range lines(data) {
		m := mixLockLine.FindStringSubmatch(line)
		if m == nil {
			continue
		}
		p := Package{Name: m[1], Version: m[2]}
		for _, n := range mixNeed.FindAllStringSubmatch(line[len(m[0]):], -1) {
			want(&p.Wants, n[1], n[2])
		}
		out.Packages = append(out.Packages, p)
	}
	return nil
}

var swiftLine = regexp.MustCompile(`\.package\([^)]*url:\s*"([^"]+)"[^)]*?(?:from:\s*|exact:\s*|upToNextMajor\(from:\s*)"([^"]+)"`)

func readSwift(data []byte, out *State) error {
	for _, m := range swiftLine.FindAllStringSubmatch(string(data), -1) {
		out.Wishes = append(out.Wishes, Wish{Name: swiftIdentity(m[1]), Range: "^" + m[2]})
	}
	return nil
}

// swiftIdentity is what SwiftPM calls a package: the last part of its address.
func swiftIdentity(url string) string {
	return strings.ToLower(strings.TrimSuffix(url[strings.LastIndexByte(url, '/')+1:], ".git"))
}

// readSwiftLock reads versions 1 to 3 of Package.resolved.
func readSwiftLock(data []byte, out *State) error {
	type pin struct {
		Identity, Package string
		State             struct{ Version string }
	}
	var lock struct {
		Pins   []pin
		Object struct{ Pins []pin }
	}
	if err := json.Unmarshal(data, &lock); err != nil {
		return err
	}
	for _, p := range append(lock.Pins, lock.Object.Pins...) {
		out.Packages = append(out.Packages, Package{Name: strings.ToLower(first(p.Identity, p.Package)), Version: p.State.Version})
	}
	return nil
}
