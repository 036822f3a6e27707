package versions

import (
	"encoding/xml"
	"regexp"
	"strings"

	"github.com/BurntSushi/toml"
)

const jvm = "JVM"

type artifact struct {
	Group    string `xml:"groupId"`
	Artifact string `xml:"artifactId"`
	Version  string `xml:"version"`
	Scope    string `xml:"scope"`
}

// readPom reads a Maven project: its own dependencies, those it manages, its
// plugins and its parent, with its properties filled in.
func readPom(data []byte, out *State) error {
	var p struct {
		Parent       artifact   `xml:"parent"`
		Version      string     `xml:"version"`
		Dependencies []artifact `xml:"dependencies>dependency"`
		Managed      []artifact `xml:"dependencyManagement>dependencies>dependency"`
		Plugins      []artifact `xml:"build>plugins>plugin"`
		Properties   struct {
			List []struct {
				XMLName xml.Name
				Value   string `xml:",chardata"`
			} `xml:",any"`
		} `xml:"properties"`
	}
	if err := xml.Unmarshal(data, &p); err != nil {
		return err
	}
	values := []string{"${project.version}", p.Version}
	for _, v := range p.Properties.List {
		values = append(values, "${"+v.XMLName.Local+"}", strings.TrimSpace(v.Value))
		switch v.XMLName.Local {
		case "maven.compiler.release", "java.version", "maven.compiler.source":
			out.Runtimes["java"] = strings.TrimSpace(v.Value)
		}
	}
	fill := strings.NewReplacer(values...)
	all := append(append(append([]artifact{}, p.Dependencies...), p.Managed...), p.Plugins...)
	if p.Parent.Artifact != "" {
		all = append(all, p.Parent)
	}
	for _, a := range all {
		if a.Group == "" {
			a.Group = "org.apache.maven.plugins" // Maven's own default
		}
		if v := fill.Replace(a.Version); v != "" && !strings.Contains(v, "${") {
			out.Wishes = append(out.Wishes, Wish{Name: a.Group + ":" + a.Artifact, Range: v, Dev: a.Scope == "test"})
		}
	}
	return nil
}

// readCatalogue reads a Gradle version catalogue.
func readCatalogue(data []byte, out *State) error {
	var c struct {
		Versions  map[string]any `toml:"versions"`
		Libraries map[string]any `toml:"libraries"`
		Plugins   map[string]any `toml:"plugins"`
	}
	if err := toml.Unmarshal(data, &c); err != nil {
		return err
	}
	version := func(v any) string {
		switch v := v.(type) {
		case string:
			return v
		case map[string]any:
			if ref, ok := v["ref"].(string); ok {
				if s, ok := c.Versions[ref].(string); ok {
					return s
				}
				v, _ = c.Versions[ref].(map[string]any)
			}
			for _, key := range []string{"strictly", "require", "prefer"} {
				if s, ok := v[key].(string); ok {
					return s
				}
			}
		}
		return ""
	}
	for _, part := range []map[string]any{c.Libraries, c.Plugins} {
		for _, alias := range keys(part) {
			switch v := part[alias].(type) {
			case string:
				i := strings.LastIndexByte(v, ':')
				if i > 0 {
					out.Wishes = append(out.Wishes, Wish{Name: v[:i], Range: v[i+1:]})
				}
			case map[string]any:
				name, _ := v["module"].(string)
				if group, ok := v["group"].(string); ok {
					artifact, _ := v["name"].(string)
					name = group + ":" + artifact
				}
				if id, ok := v["id"].(string); ok {
					name = id
				}
				out.Wishes = append(out.Wishes, Wish{Name: name, Range: version(v["version"])})
			}
		}
	}
	return nil
}

var (
	gradleLine   = regexp.MustCompile(`["']([\w.-]+:[\w.-]+):([\w.+\[\](),-]+)["']`)
	gradlePlugin = regexp.MustCompile(`\bid[ (]+["']([\w.-]+)["']\)?\s+version[ (]+["']([\w.+-]+)["']`)
)

func readGradle(data []byte, out *State) error {
	for _, re := range []*regexp.Regexp{gradleLine, gradlePlugin} {
		for _, m := range re.FindAllStringSubmatch(string(data), -1) {
			out.Wishes = append(out.Wishes, Wish{Name: m[1], Range: m[2]})
		}
	}
	return nil
}

var gradleVersion = regexp.MustCompile(`(?m)^\s*([\w.-]*?)[._-]?[vV]ersion\s*[=:]\s*([\w.+-]+)\s*$`)

// readGradleProperties takes what is named a version: jarVersion=5.0.
func readGradleProperties(data []byte, out *State) error {
	for _, m := range gradleVersion.FindAllStringSubmatch(string(data), -1) {
		out.Wishes = append(out.Wishes, Wish{Name: m[1], Range: m[2]})
	}
	return nil
}

func readGradleLock(data []byte, out *State) error {
	for _, line := range lines(data) {
		head, _, ok := strings.Cut(line, "=")
		i := strings.LastIndexByte(head, ':')
		if ok && i > 0 && !strings.HasPrefix(line, "#") {
			out.Packages = append(out.Packages, Package{Name: head[:i], Version: head[i+1:]})
		}
	}
	return nil
}
