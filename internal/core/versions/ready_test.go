package versions

import (
	"fmt"
	"strings"
	"testing"
)

func TestReadListing(t *testing.T) {
	for name, c := range map[string]struct{ text, want string }{
		"npm": {"Package  Current  Wanted  Latest  Location          Depended by\njar        4.2.0   4.2.1   5.0.0  node_modules/jar  pantry\n@p/lid   MISSING   1.0.0   2.0.0  -                 pantry\n",
			"jar 4.2.0<5.0.0 @p/lid <2.0.0"},
		"npm as JSON":      {`{"jar": {"current": "4.2.0", "wanted": "4.2.1", "latest": "5.0.0", "dependent": "pantry"}}`, "jar 4.2.0<5.0.0"},
		"pnpm":             {"┌─────────┬─────────┬────────┐\n│ Package │ Current │ Latest │\n├─────────┼─────────┼────────┤\n│ jar (dev) │ 4.2.0 │ 5.0.0 │\n└──┘\n", "jar 4.2.0<5.0.0"},
		"Yarn as JSON":     {"{\"type\":\"info\",\"data\":\"Color legend\"}\n{\"type\":\"table\",\"data\":{\"head\":[\"Package\",\"Current\",\"Wanted\",\"Latest\"],\"body\":[[\"jar\",\"4.2.0\",\"4.2.1\",\"5.0.0\"]]}}\n", "jar 4.2.0<5.0.0"},
		"pip":              {"Package Version Latest Type\n------- ------- ------ -----\njar     4.2.0   5.0.0  wheel\n", "jar 4.2.0<5.0.0"},
		"pip as JSON":      {`[{"name": "jar", "version": "4.2.0", "latest_version": "5.0.0", "latest_filetype": "wheel"}]`, "jar 4.2.0<5.0.0"},
		"Go":               {"example.org/pantry\nexample.org/jar v4.2.0 [v5.0.0]\nexample.org/lid v1.0.0\n", "example.org/jar 4.2.0<5.0.0"},
		"Go as JSON":       {"{\"Path\": \"example.org/jar\", \"Version\": \"v4.2.0\", \"Update\": {\"Path\": \"example.org/jar\", \"Version\": \"v5.0.0\"}}\n{\"Path\": \"example.org/lid\", \"Version\": \"v1.0.0\"}\n", "example.org/jar 4.2.0<5.0.0"},
		"Cargo":            {"    Updating index\n   Unchanged lid v1.4.0 (available: v2.0.0)\n    Updating jar v4.2.0 -> v4.2.1 (available: v5.0.0)\n", "lid 1.4.0<2.0.0 jar 4.2.0<4.2.1"},
		"Bundler":          {"Gem  Current  Latest  Requested  Groups\njar  4.2.0    5.0.0   ~> 4.2     default\n", "jar 4.2.0<5.0.0"},
		"Bundler, in full": {"  * jar (newest 5.0.0, installed 4.2.0, requested ~> 4.2) in group \"default\"\n", "jar 4.2.0<5.0.0"},
		"Composer":         {`{"installed": [{"name": "jars/jar", "direct-dependency": true, "version": "4.2.0", "latest": "v5.0.0", "latest-status": "update-possible"}]}`, "jars/jar 4.2.0<5.0.0"},
		"Maven":            {"[INFO] The following dependencies in Dependencies have newer versions:\n[INFO]   org.pantry:jar ................................ 4.2.0 -> 5.0.0\n", "org.pantry:jar 4.2.0<5.0.0"},
		"Gradle":           {"The following dependencies have later milestone versions:\n - org.pantry:jar [4.2.0 -> 5.0.0]\n", "org.pantry:jar 4.2.0<5.0.0"},
		".NET":             {"Project `Pantry` has the following updates to its packages\n   [net8.0]:\n   Top-level Package      Requested   Resolved   Latest\n   > Pantry.Jar           4.2.0       4.2.0      5.0.0\n", "Pantry.Jar 4.2.0<5.0.0"},
		"Mix":              {"Dependency  Current  Latest  Status\njar         4.2.0    5.0.0   Update possible\n", "jar 4.2.0<5.0.0"},
		"Dart":             {`{"packages": [{"package": "jar", "current": {"version": "4.2.0"}, "upgradable": {"version": "4.2.1"}, "latest": {"version": "5.0.0"}}]}`, "jar 4.2.0<5.0.0"},
		"Poetry":           {"jar  4.2.0 5.0.0 Jars for a shelf\nlid  (!) 1.0.0 2.0.0 Lids\n", "jar 4.2.0<5.0.0 lid 1.0.0<2.0.0"},
		"uv":               {"Package Version Latest Type\n------- ------- ------ -----\njar 4.2.0 5.0.0 wheel\n", "jar 4.2.0<5.0.0"},
		"why not, of npm":  {"npm error Could not resolve dependency:\nnpm error peer jar@\"^4.0.0\" from @p/lid@2.1.0\n", "@p/lid 2.1.0!jar ^4.0.0"},
		"why not, of PHP":  {"jars/lid  2.1.0  requires  jars/jar (^4.0)\njars/lid 2.1.0 requires jars/jar (^4.0)\n", "jars/lid 2.1.0!jars/jar ^4.0"},
		"pip check":        {"lid 2.1.0 has requirement jar<5, but you have jar 5.0.0.\nlid 2.1.0 requires cup>=1, but you have cup 0.9 which is incompatible.\n", "lid 2.1.0!jar <5 lid 2.1.0!cup >=1"},
		"none":             {"All dependencies are up to date.\nPackage list updated\n", ""},
		"broken JSON":      {`{"jar": {"current"`, ""},
	} {
		l := ReadListing(c.text)
		var got []string
		for _, x := range l.Listed {
			got = append(got, fmt.Sprintf("%s %s<%s", x.Name, x.Has, x.Newest))
		}
		for _, n := range l.Refusals {
			got = append(got, fmt.Sprintf("%s!%s %s", n.Package, n.Name, n.Range))
		}
		if text := strings.Join(got, " "); text != c.want {
			t.Errorf("%s: %s\nwant %s", name, text, c.want)
		}
	}
}

func TestReady(t *testing.T) {
	lock := `{"lockfileVersion": 3, "packages": {
		"node_modules/jar": {"version": "5.0.0"},
		"node_modules/lid": {"version": "2.1.0", "peerDependencies": {"jar": "^4.0.0"}},
		"node_modules/rim": {"version": "1.0.0", "dependencies": {"lid": "~2.1.0", "jar": ">=4"}},
		"node_modules/cup": {"version": "1.0.0", "peerDependencies": {"jar": "next"}},
		"node_modules/spoon": {"version": "1.0.0"}}}`
	said := Listing{Listed: []Listed{{"lid", "2.1.0", "3.0.0"}, {"fork", "1.0", "2.0"}}, Refusals: []Need{{Package: "pot 0.1.0", Name: "jar", Range: "<5"}}}
	var got []string
	for _, d := range Ready(Read(files{"package-lock.json": lock, "package.json": `{"dependencies": {"jar": "^5.0.0", "lid": "^2.0.0", "spoon": "1.0.0"}}`}), []Move{{Package: "jar", From: "4.2.0", To: "5.0.0"}}, said) {
		line := strings.TrimSpace(fmt.Sprintf("%s %s %s wants %s, newest %s", d.State, d.Name, d.Has, d.Wants, d.Newest))
		for _, n := range d.By {
			line += fmt.Sprintf("; %s wants %s", n.Package, n.Range)
		}
		got = append(got, line)
	}
	want := []string{
		"not-ready lid 2.1.0 wants ^4.0.0, newest 3.0.0; package.json wants ^2.0.0; rim 1.0.0 wants ~2.1.0",
		"not-ready pot 0.1.0 wants <5, newest",
		"unknown cup 1.0.0 wants next, newest",
		"unknown fork 1.0 wants , newest 2.0",
		"unknown spoon 1.0.0 wants , newest",
		"ready rim 1.0.0 wants >=4, newest",
	}
	if strings.Join(got, "\n") != strings.Join(want, "\n") {
		t.Errorf("got\n%s\nwant\n%s", strings.Join(got, "\n"), strings.Join(want, "\n"))
	}
}
