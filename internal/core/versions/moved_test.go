package versions

import (
	"fmt"
	"strings"
	"testing"
)

// account writes a comparison, a line for each finding.
func account(c Comparison) string {
	var b strings.Builder
	for _, m := range c.Moves {
		words := []string{string(m.Change), m.Name}
		if m.Was != "" {
			words = append(words, "(was "+m.Was+")")
		}
		words = append(words, strings.Trim(m.From+".."+m.To, "."))
		if m.Intended {
			words = append(words, "intended")
		}
		if m.Direct {
			words = append(words, "direct")
		}
		if len(m.Path) > 0 {
			words = append(words, "by "+strings.Join(m.Path, " > "))
		}
		fmt.Fprintln(&b, strings.Join(words, " "))
	}
	for _, h := range c.Held {
		fmt.Fprintf(&b, "held %s at %s, not %s\n", h.Name, h.At, h.To)
		for _, n := range h.By {
			fmt.Fprintf(&b, "  by %s %s %s\n", n.Kind, n.Package, n.Range)
		}
	}
	for _, n := range c.Unmet {
		fmt.Fprintf(&b, "unmet %s: %s wants %s %s, has %s\n", n.Kind, n.Package, n.Name, n.Range, n.Have)
	}
	for _, w := range c.Warnings {
		fmt.Fprintln(&b, "warning "+w)
	}
	return b.String()
}

// node writes a lock file of npm: "name version" and what each needs.
func node(packages ...string) string {
	var list []string
	for _, p := range packages {
		name, rest, _ := strings.Cut(p, " ")
		version, more, _ := strings.Cut(rest, " ")
		entry := fmt.Sprintf(`"node_modules/%s":{"version":"%s"`, name, version)
		if more != "" {
			entry += "," + more
		}
		list = append(list, entry+"}")
	}
	return `{"lockfileVersion":3,"packages":{"":{},` + strings.Join(list, ",") + `}}`
}

func TestCompare(t *testing.T) {
	manifest := func(range_ string) string { return `{"dependencies":{"jar":"` + range_ + `"}}` }
	jar := []Move{{"jar", "4.2.0", "5.0.0"}}
	for _, test := range []struct {
		name          string
		before, after files
		moves         []Move
		renames       []Pair
		seen          map[string]string
		want          string
	}{
		{
			"as meant, with what it drags along",
			files{"package.json": manifest("^4.2.0"), "package-lock.json": node("jar 4.2.0", "lid 1.0.0", "rim 1.0.0", "old 1.0.0")},
			files{"package.json": manifest("^5.0.0"), "package-lock.json": node(`jar 5.0.0 "dependencies":{"lid":"^2"}`, `lid 2.0.0 "dependencies":{"rim":"^2"}`, "rim 2.0.0", "new 1.0.0")},
			jar, nil, nil,
			"moved jar 4.2.0..5.0.0 intended direct\nmoved lid 1.0.0..2.0.0 by jar 5.0.0\nadded new 1.0.0\ndropped old 1.0.0\nmoved rim 1.0.0..2.0.0 by jar 5.0.0 > lid 2.0.0\n",
		},
		{"nothing moved", files{"package-lock.json": node("jar 4.2.0")}, files{"package-lock.json": node("jar 4.2.0")}, jar, nil, nil, "held jar at 4.2.0, not 5.0.0\nwarning nothing moved: the manifests and lock files name the same versions as before the bump\n"},
		{
			"another one moved", files{"package-lock.json": node("jar 4.2.0", "lid 2.0.0")}, files{"package-lock.json": node("jar 4.2.0", "lid 1.0.0")}, jar, nil, nil,
			"downgraded lid 2.0.0..1.0.0\nheld jar at 4.2.0, not 5.0.0\nwarning what the leg moves did not move: only other packages did\n",
		},
		{
			"held back", files{"package-lock.json": node("jar 4.2.0")},
			files{"package.json": manifest("^4.2.0"), "package-lock.json": node("jar 4.9.0", `press 1.0.0 "peerDependencies":{"jar":"^4"}`, `rack 1.0.0 "dependencies":{"jar":">=4 <5"}`)},
			jar, nil, nil,
			"moved jar 4.2.0..4.9.0 intended direct\nadded press 1.0.0\nadded rack 1.0.0\nheld jar at 4.9.0, not 5.0.0\n  by peer press 1.0.0 ^4\n  by dependency rack 1.0.0 >=4 <5\n  by manifest package.json ^4.2.0\n",
		},
		{
			"a peer and a runtime that are not ready", files{"package-lock.json": node("jar 4.2.0", `press 1.0.0 "peerDependencies":{"jar":"^4"}`)},
			files{"package.json": `{"engines":{"node":">=22"}}`, "package-lock.json": node(`jar 5.0.0 "engines":{"node":">=22"}`, `press 1.0.0 "peerDependencies":{"jar":"^4","rim":"1"}`)},
			jar, nil, map[string]string{"node": "20.20.2"},
			"moved jar 4.2.0..5.0.0 intended\nunmet engine: jar 5.0.0 wants node >=22, has 20.20.2\nunmet peer: press 1.0.0 wants jar ^4, has 5.0.0\nunmet peer: press 1.0.0 wants rim 1, has \nunmet manifest: the project wants node >=22, has 20.20.2\n",
		},
		{
			"renamed by its last part", files{"package.json": `{"dependencies":{"jar":"^4"}}`, "package-lock.json": node("jar 4.2.0")}, files{"package.json": `{"dependencies":{"@o/jar":"^5"}}`, "package-lock.json": node("@o/jar 5.0.0")}, jar, nil, nil,
			"renamed @o/jar (was jar) 4.2.0..5.0.0 intended direct\n",
		},
		{"renamed by the notes", files{"package-lock.json": node("jar 4.2.0")}, files{"package-lock.json": node("glass 5.0.0")}, jar, []Pair{{"jar", "glass"}}, nil, "renamed glass (was jar) 4.2.0..5.0.0 intended\n"},
		{"one gone and one new", files{"package-lock.json": node("jar 4.2.0")}, files{"package-lock.json": node("glass 5.0.0")}, jar, nil, nil, "dropped jar 4.2.0 intended\nadded glass 5.0.0\n"},
		{
			"a lock file that is older than its manifest", files{"package.json": manifest("^4.2.0"), "package-lock.json": node("jar 4.2.0")}, files{"package.json": `{"dependencies":{"jar":"^5.0.0","lid":"^1.0.0"}}`, "package-lock.json": node("jar 4.2.0")}, jar, nil, nil,
			"held jar at 4.2.0, not 5.0.0\nwarning nothing moved: the manifests and lock files name the same versions as before the bump\nwarning package.json asks for jar ^5.0.0, the lock file has 4.2.0: it is older than the manifest\nwarning package.json asks for lid ^1.0.0, which the lock file does not have: it is older than the manifest\n",
		},
		{
			"another major version in Go", files{"go.mod": "module m\nrequire example.org/jar/v4 v4.2.0\n"}, files{"go.mod": "module m\ngo 1.27\nrequire example.org/jar/v5 v5.0.0\n"}, []Move{{"example.org/jar", "4.2.0", "5.0.0"}}, nil, map[string]string{"go": "1.26.1"},
			"moved example.org/jar/v5 4.2.0..5.0.0 intended direct\nunmet manifest: the project wants go 1.27, has 1.26.1\n",
		},
		{
			"two versions at once", files{"Cargo.lock": "[[package]]\nname = \"lid\"\nversion = \"1.0.0\"\n"}, files{"Cargo.lock": "[[package]]\nname = \"lid\"\nversion = \"1.0.0\"\n[[package]]\nname = \"lid\"\nversion = \"2.0.0\"\n"}, nil, nil, nil,
			"moved lid 1.0.0..1.0.0, 2.0.0\n",
		},
		{"no files", files{}, files{"README.md": ""}, jar, nil, nil, "warning no manifest and no lock file was found: what moved cannot be told\n"},
		{"a broken file", files{"go.mod": "module m\n"}, files{"go.mod": "module m\n", "package.json": "{"}, nil, nil, nil, "warning not read: package.json: unexpected end of JSON input\nwarning nothing moved: the manifests and lock files name the same versions as before the bump\n"},
	} {
		t.Run(test.name, func(t *testing.T) {
			if got := account(Compare(Read(test.before), Read(test.after), Context{Moves: test.moves, Renames: test.renames, Seen: test.seen})); got != test.want {
				t.Errorf("got\n%s\nwant\n%s", got, test.want)
			}
		})
	}
}

// TestAsked holds what the notes ask for against what was seen.
func TestAsked(t *testing.T) {
	state := Read(files{"package-lock.json": node("@o/lid 1.0.0", "rim 3.0.0")})
	ask := func(name, range_ string) Need { return Need{Package: "x.md:3", Name: name, Range: range_} }
	told := Context{
		Asked: []Need{ask("Node.js", ">=22"), ask("Go", ">=1.25"), ask("@o/lid", ">=2"), ask("rim", ">=2"), ask("Python", ">=3.11")},
		Seen:  map[string]string{"node": "20.20.2", "go": "1.26.1"},
	}
	want := "unmet notes: x.md:3 wants Node.js >=22, has 20.20.2\nunmet notes: x.md:3 wants @o/lid >=2, has 1.0.0\n"
	if got := account(Compare(state, state, told)); !strings.HasPrefix(got, want) || strings.Count(got, "unmet") != 2 {
		t.Errorf("got\n%s", got)
	}
}
