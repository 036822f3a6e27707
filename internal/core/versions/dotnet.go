package versions

import (
	"encoding/json"
	"encoding/xml"
)

// readProject reads an MSBuild project, and the files of properties that set
// versions for all projects below.
func readProject(data []byte, out *State) error {
	type reference struct {
		Include  string `xml:"Include,attr"`
		Update   string `xml:"Update,attr"`
		Version  string `xml:"Version,attr"`
		Override string `xml:"VersionOverride,attr"`
		Child    string `xml:"Version"`
	}
	var p struct {
		Groups []struct {
			References []reference `xml:"PackageReference"`
			Versions   []reference `xml:"PackageVersion"`
		} `xml:"ItemGroup"`
		Properties []struct {
			Framework  string `xml:"TargetFramework"`
			Frameworks string `xml:"TargetFrameworks"`
		} `xml:"PropertyGroup"`
	}
	if err := xml.Unmarshal(data, &p); err != nil {
		return err
	}
	for _, g := range p.Properties {
		if v := g.Framework + before(g.Frameworks, ";"); v != "" {
			out.Runtimes["dotnet"] = v
		}
	}
	for _, g := range p.Groups {
		for _, r := range append(g.References, g.Versions...) {
			if v := first(r.Override, r.Version, r.Child); v != "" {
				out.Wishes = append(out.Wishes, Wish{Name: first(r.Include, r.Update), Range: v})
			}
		}
	}
	return nil
}

func first(list ...string) string {
	for _, s := range list {
		if s != "" {
			return s
		}
	}
	return ""
}

func readNuGetLock(data []byte, out *State) error {
	var lock struct {
		Dependencies map[string]map[string]struct {
			Type, Requested, Resolved string
			Dependencies              map[string]string
		} `json:"dependencies"`
	}
	if err := json.Unmarshal(data, &lock); err != nil {
		return err
	}
	for _, framework := range keys(lock.Dependencies) {
		for _, name := range keys(lock.Dependencies[framework]) {
			p := lock.Dependencies[framework][name]
			out.Packages = append(out.Packages, Package{Name: name, Version: p.Resolved, Wants: p.Dependencies})
			if p.Type == "Direct" {
				out.Wishes = append(out.Wishes, Wish{Name: name, Range: p.Requested})
			}
		}
	}
	return nil
}
