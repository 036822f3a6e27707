// Package versions reads manifests and lock files, and tells from two states of
// them what moved.
package versions

import (
	"path"
	"sort"
	"strings"
)

// Package is one version of a package that a lock file holds. Where a manifest
// is all there is, Version is what that asks for, if it is exact.
type Package struct {
	Name      string
	Version   string
	Ecosystem string            // "npm", "Go", "Cargo", …
	File      string            // that says so
	Wants     map[string]string // packages that it needs, with the range
	Peers     map[string]string // packages that its user has to have
	Engines   map[string]string // runtimes that it needs
}

// Wish is what a manifest asks for: a package and the range of versions.
type Wish struct {
	Name, Range string
	Ecosystem   string
	File        string
	Dev         bool
}

// State is what the manifests and lock files of a source tree say.
type State struct {
	Packages []Package // by ecosystem, name and version
	Wishes   []Wish
	Runtimes map[string]string // that manifests ask for: "go" to "1.25"
	Files    []string
	Problems []string // files that could not be read, and why
}

// format is one kind of manifest or lock file.
type format struct {
	ecosystem string
	lock      bool
	names     []string // base names; "*.csproj" for an extension
	read      func(data []byte, out *State) error
}

func formatOf(file string) *format {
	base := path.Base(file)
	for i := range formats {
		for _, name := range formats[i].names {
			if name == base || strings.HasPrefix(name, "*") && strings.HasSuffix(base, name[1:]) || strings.Contains(name, "/") && strings.HasSuffix("/"+file, "/"+name) {
				return &formats[i]
			}
		}
	}
	return nil
}

// Known reports whether a file is a manifest or a lock file, and which.
func Known(file string) (manifest, lock bool) {
	f := formatOf(file)
	return f != nil && !f.lock, f != nil && f.lock
}

// Tree is a source tree, as much of it as is needed here.
type Tree interface {
	Files() []string
	Read(file string) []byte
}

// Read reads all manifests and lock files of a tree. A file that cannot be read
// is a problem, not an error.
func Read(tree Tree) State {
	s := State{Runtimes: map[string]string{}}
	for _, name := range tree.Files() {
		if formatOf(name) != nil {
			s.add(name, tree.Read(name))
		}
	}
	s.order()
	return s
}

// add reads one file into the state.
func (s *State) add(name string, data []byte) {
	f := formatOf(name)
	part := State{Runtimes: map[string]string{}}
	if err := f.read(data, &part); err != nil {
		s.Problems = append(s.Problems, name+": "+err.Error())
		return
	}
	s.Files = append(s.Files, name)
	for _, p := range part.Packages {
		if p.Version = clean(p.Version); p.Name != "" {
			p.Ecosystem, p.File = f.ecosystem, name
			s.Packages = append(s.Packages, p)
		}
	}
	for _, w := range part.Wishes {
		if w.Name != "" {
			w.Ecosystem, w.File = f.ecosystem, name
			s.Wishes = append(s.Wishes, w)
		}
	}
	for runtime, version := range part.Runtimes {
		if s.Runtimes[runtime] == "" && version != "" {
			s.Runtimes[runtime] = version
		}
	}
}

// order sorts the packages, drops repeated ones, and takes the exact versions
// of manifests where no lock file of the ecosystem names the package.
func (s *State) order() {
	locked := map[string]bool{}
	for _, p := range s.Packages {
		locked[p.Ecosystem+"\x00"+p.Name] = true
	}
	for _, w := range s.Wishes {
		if v, exact := exactly(w.Range); exact && (w.Ecosystem != "Cargo" || strings.HasPrefix(w.Range, "=")) && !locked[w.Ecosystem+"\x00"+w.Name] {
			s.Packages = append(s.Packages, Package{Name: w.Name, Version: v, Ecosystem: w.Ecosystem, File: w.File})
		}
	}
	sort.SliceStable(s.Packages, func(i, j int) bool { return s.Packages[i].less(&s.Packages[j]) })
	kept := s.Packages[:0]
	for _, p := range s.Packages {
		if n := len(kept); n > 0 && kept[n-1].Ecosystem == p.Ecosystem && kept[n-1].Name == p.Name && kept[n-1].Version == p.Version {
			continue
		}
		kept = append(kept, p)
	}
	s.Packages = kept
}

func (p *Package) less(o *Package) bool {
	switch {
	case p.Ecosystem != o.Ecosystem:
		return p.Ecosystem < o.Ecosystem
	case p.Name != o.Name:
		return p.Name < o.Name
	}
	return p.Version < o.Version
}

// clean is a version without the marks that some files put before it.
func clean(v string) string {
	return strings.TrimPrefix(strings.TrimLeft(strings.TrimSpace(v), "="), "v")
}

// Locked is the version of a package in a manifest or lock file, or "". The
// file is known by its name.
func Locked(file string, data []byte, pkg string) string {
	if formatOf(file) == nil {
		return ""
	}
	s := State{Runtimes: map[string]string{}}
	s.add(file, data)
	s.order()
	for _, p := range s.Packages {
		if key(p.Ecosystem, p.Name) == key(p.Ecosystem, pkg) || p.Ecosystem == python && sameDistribution(p.Name, pkg) {
			return p.Version
		}
	}
	return ""
}

// want adds a package's need.
func want(m *map[string]string, name, version string) {
	if *m == nil {
		*m = map[string]string{}
	}
	(*m)[name] = version
}

func before(s, mark string) string {
	head, _, _ := strings.Cut(s, mark)
	return head
}

// lines gives a text's lines without their ends.
func lines(data []byte) []string {
	return strings.Split(strings.ReplaceAll(string(data), "\r\n", "\n"), "\n")
}

// unquote takes quotes from around a text.
func unquote(s string) string { return strings.Trim(strings.TrimSpace(s), `"'`) }
