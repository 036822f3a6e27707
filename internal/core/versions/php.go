package versions

import (
	"encoding/json"
	"strings"
)

// platform reports whether a name stands for PHP or an extension of it.
func platform(name string) bool { return !strings.Contains(name, "/") }

func readComposer(data []byte, out *State) error {
	var m struct {
		Require map[string]string `json:"require"`
		Dev     map[string]string `json:"require-dev"`
	}
	if err := json.Unmarshal(data, &m); err != nil {
		return err
	}
	for i, part := range []map[string]string{m.Require, m.Dev} {
		for _, name := range keys(part) {
			if platform(name) {
				out.Runtimes[name] = part[name]
				continue
			}
			out.Wishes = append(out.Wishes, Wish{Name: name, Range: part[name], Dev: i == 1})
		}
	}
	return nil
}

func readComposerLock(data []byte, out *State) error {
	type locked struct {
		Name    string          `json:"name"`
		Version string          `json:"version"`
		Require json.RawMessage `json:"require"`
	}
	var lock struct {
		Packages []locked `json:"packages"`
		Dev      []locked `json:"packages-dev"`
	}
	if err := json.Unmarshal(data, &lock); err != nil {
		return err
	}
	for _, p := range append(lock.Packages, lock.Dev...) {
		q := Package{Name: p.Name, Version: p.Version}
		var needs map[string]string
		json.Unmarshal(p.Require, &needs) // an empty one is written as a list
		for name, version := range needs {
			if platform(name) {
				want(&q.Engines, name, version)
			} else {
				want(&q.Wants, name, version)
			}
		}
		out.Packages = append(out.Packages, q)
	}
	return nil
}
