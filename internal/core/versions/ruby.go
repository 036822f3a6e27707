package versions

import (
	"regexp"
	"strings"
)

var (
	gemLine  = regexp.MustCompile(`^\s*gem[ (]+["']([\w.-]+)["']((?:\s*,\s*["'][^"']+["'])*)`)
	rubyLine = regexp.MustCompile(`^\s*ruby[ (]+["']([^"']+)["']`)
)

func readGemfile(data []byte, out *State) error {
	for _, line := range lines(data) {
		if m := gemLine.FindStringSubmatch(line); m != nil {
			r := strings.NewReplacer(`"`, "", `'`, "").Replace(strings.TrimLeft(m[2], ", "))
			out.Wishes = append(out.Wishes, Wish{Name: m[1], Range: r})
		} else if m := rubyLine.FindStringSubmatch(line); m != nil {
			out.Runtimes["ruby"] = m[1]
		}
	}
	return nil
}

// readGemfileLock reads the specs: four blanks before a gem, six before what it
// needs.
func readGemfileLock(data []byte, out *State) error {
	section := ""
	var p *Package
	for _, line := range lines(data) {
		text := strings.TrimSpace(line)
		name, rest, _ := strings.Cut(text, " (")
		version := strings.TrimSuffix(rest, ")")
		switch depth := len(line) - len(strings.TrimLeft(line, " ")); {
		case text == "":
		case depth == 0:
			section = text
		case section == "DEPENDENCIES":
			out.Wishes = append(out.Wishes, Wish{Name: strings.TrimSuffix(before(name, "!"), " "), Range: version})
		case section == "RUBY VERSION":
			out.Runtimes["ruby"] = before(strings.TrimPrefix(text, "ruby "), "p")
		case depth == 4 && rest != "":
			if i := strings.IndexByte(version, '-'); i > 0 { // of a platform
				version = version[:i]
			}
			out.Packages = append(out.Packages, Package{Name: name, Version: version})
			p = &out.Packages[len(out.Packages)-1]
		case depth == 6 && p != nil:
			want(&p.Wants, name, version)
		}
	}
	return nil
}
