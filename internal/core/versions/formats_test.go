package versions

import (
	"fmt"
	"strings"
	"testing"
)

// files is a source tree in memory.
type files map[string]string

func (f files) Files() []string         { return keys(f) }
func (f files) Read(name string) []byte { return []byte(f[name]) }

// told writes a state on one line.
func told(s State) string {
	var parts []string
	for _, p := range s.Packages {
		text := p.Name + " " + p.Version
		for _, needs := range []struct {
			sign string
			list map[string]string
		}{{"", p.Wants}, {"peer ", p.Peers}, {"on ", p.Engines}} {
			for _, name := range keys(needs.list) {
				text += " [" + needs.sign + strings.TrimSpace(name+" "+needs.list[name]) + "]"
			}
		}
		parts = append(parts, text)
	}
	for _, w := range s.Wishes {
		dev := ""
		if w.Dev {
			dev = " dev"
		}
		parts = append(parts, "wish "+strings.TrimSpace(w.Name+" "+w.Range)+dev)
	}
	for _, name := range keys(s.Runtimes) {
		parts = append(parts, "runtime "+name+" "+s.Runtimes[name])
	}
	return strings.Join(append(parts, s.Problems...), "; ")
}

// TestFormats holds what is read of a file of each kind.
func TestFormats(t *testing.T) {
	for _, test := range []struct{ file, text, want string }{
		{"go.mod", "module shelf\n\ngo 1.26\n\nrequire (\n\texample.org/jar/v5 v5.0.1\n\texample.org/lid v0.2.0 // indirect\n)\n", "example.org/jar/v5 5.0.1; example.org/lid 0.2.0; wish example.org/jar/v5 >=5.0.1; runtime go 1.26"},
		{"package.json", `{"dependencies":{"jar":"^5.0.0","lid":"2.0.0"},"devDependencies":{"press":"~1.2"},"engines":{"node":">=20"}}`, "lid 2.0.0; wish jar ^5.0.0; wish lid 2.0.0; wish press ~1.2 dev; runtime node >=20"},
		{"package-lock.json", `{"lockfileVersion":3,"packages":{"":{"name":"shelf"},"node_modules/jar":{"version":"5.0.1","dependencies":{"lid":"^2"},"peerDependencies":{"press":"1","rim":"1"},"peerDependenciesMeta":{"rim":{"optional":true}},"engines":{"node":">=22"}},"node_modules/jar/node_modules/@o/lid":{"version":"2.1.0","engines":["node >= 4"]},"node_modules/own":{"link":true}}}`, "@o/lid 2.1.0; jar 5.0.1 [lid ^2] [peer press 1] [on node >=22]"},
		{"package-lock.json", `{"dependencies":{"jar":{"version":"4.0.0","requires":{"lid":"^1"},"dependencies":{"lid":{"version":"1.0.0","requires":true}}}}}`, "jar 4.0.0 [lid ^1]; lid 1.0.0"},
		{"yarn.lock", "# yarn lockfile v1\n\n\"@o/jar@^5.0.0\", \"@o/jar@^5.0.1\":\n  version \"5.0.1\"\n  resolved \"x\"\n  dependencies:\n    lid \"^2.0.0\"\n\nlid@^2.0.0:\n  version \"2.1.0\"\n", "@o/jar 5.0.1 [lid ^2.0.0]; lid 2.1.0"},
		{"yarn.lock", "__metadata:\n  version: 8\n\n\"jar@npm:^5.0.0\":\n  version: 5.0.1\n  resolution: \"jar@npm:5.0.1\"\n  dependencies:\n    lid: \"npm:^2.0.0\"\n  peerDependencies:\n    press: \"*\"\n\n\"shelf@workspace:.\":\n  version: 0.0.0-use.local\n  resolution: \"shelf@workspace:.\"\n", "jar 5.0.1 [lid ^2.0.0] [peer press *]"},
		{"pnpm-lock.yaml", "lockfileVersion: '9.0'\npackages:\n  '@o/jar@5.0.1':\n    engines: {node: '>=20'}\n    peerDependencies: {press: ^1.0.0}\n  lid@2.1.0: {}\nsnapshots:\n  '@o/jar@5.0.1(press@1.0.0)':\n    dependencies: {lid: 2.1.0}\n", "@o/jar 5.0.1 [lid 2.1.0] [peer press ^1.0.0] [on node >=20]; lid 2.1.0"},
		{"pnpm-lock.yaml", "packages:\n  /jar/4.0.0_press@1.0.0:\n    dependencies: {lid: 1.0.0}\n  /@o/lid@2.0.0:\n    dev: true\n", "@o/lid 2.0.0; jar 4.0.0 [lid 1.0.0]"},
		{"Cargo.toml", "[package]\nname = \"shelf\"\nrust-version = \"1.80\"\n[dependencies]\njar = \"5\"\nlid = { version = \"2.1\", features = [\"x\"] }\nrim = { path = \"../rim\" }\n[dev-dependencies]\npress = \"=1.0.0\"\n", "press 1.0.0; wish jar 5; wish lid 2.1; wish rim; wish press =1.0.0 dev; runtime rustc 1.80"},
		{"Cargo.lock", "version = 3\n[[package]]\nname = \"jar\"\nversion = \"5.0.1\"\ndependencies = [\"lid 2.1.0\", \"rim\"]\n", "jar 5.0.1 [lid 2.1.0] [rim]"},
		{"pyproject.toml", "[project]\nrequires-python = \">=3.11\"\ndependencies = [\"Jar_Press[x] >=5,<6 ; python_version > '3'\", \"lid==2.1\"]\n[dependency-groups]\ndev = [\"press~=1.0\", {include-group = \"x\"}]\n", "lid 2.1; wish jar-press >=5,<6; wish lid ==2.1; wish press ~=1.0 dev; runtime python >=3.11"},
		{"pyproject.toml", "[tool.poetry.dependencies]\npython = \"^3.11\"\njar = \"^5.0\"\nlid = {version = \"2.1\", extras = [\"x\"]}\n[tool.poetry.group.dev.dependencies]\npress = \"*\"\n", "lid 2.1; wish jar ^5.0; wish lid 2.1; wish press * dev; runtime python ^3.11"},
		{"requirements.txt", "# a comment\njar==5.0.1  # why\nlid>=2,<3\n-r other.txt\npress\n", "jar 5.0.1; wish jar ==5.0.1; wish lid >=2,<3; wish press"},
		{"poetry.lock", "[[package]]\nname = \"Jar\"\nversion = \"5.0.1\"\npython-versions = \">=3.11\"\n[package.dependencies]\nlid = \">=2\"\nrim = {version = \"1\", optional = true}\n", "jar 5.0.1 [lid >=2] [rim 1] [on python >=3.11]"},
		{"uv.lock", "requires-python = \">=3.11\"\n[[package]]\nname = \"jar\"\nversion = \"5.0.1\"\ndependencies = [{ name = \"lid\" }]\n", "jar 5.0.1 [lid]"},
		{"Pipfile.lock", `{"default":{"jar":{"version":"==5.0.1"}},"develop":{"press":{"version":"==1.0"}}}`, "jar 5.0.1; press 1.0"},
		{"Gemfile", "source 'x'\nruby '3.3.0'\ngem 'jar', '~> 5.0', '>= 5.0.1', group: :x\ngem \"lid\"\n", "wish jar ~> 5.0, >= 5.0.1; wish lid; runtime ruby 3.3.0"},
		{"Gemfile.lock", "GEM\n  remote: x\n  specs:\n    jar (5.0.1)\n      lid (~> 2.0)\n    lid (2.1.0-x86_64-linux)\n\nDEPENDENCIES\n  jar (~> 5.0)\n\nRUBY VERSION\n   ruby 3.3.0p0\n", "jar 5.0.1 [lid ~> 2.0]; lid 2.1.0; wish jar ~> 5.0; runtime ruby 3.3.0"},
		{"composer.json", `{"require":{"php":">=8.3","o/jar":"^5.0"},"require-dev":{"o/press":"1.0.0"}}`, "o/press 1.0.0; wish o/jar ^5.0; wish o/press 1.0.0 dev; runtime php >=8.3"},
		{"composer.lock", `{"packages":[{"name":"o/jar","version":"v5.0.1","require":{"php":">=8.3","o/lid":"^2"}}],"packages-dev":[{"name":"o/press","version":"1.0.0","require":[]}]}`, "o/jar 5.0.1 [o/lid ^2] [on php >=8.3]; o/press 1.0.0"},
		{"pom.xml", `<project><parent><groupId>org.shelf</groupId><artifactId>top</artifactId><version>1</version></parent><properties><jar.version>5.0.1</jar.version><java.version>21</java.version></properties><dependencies><dependency><groupId>org.jar</groupId><artifactId>jar-core</artifactId><version>${jar.version}</version></dependency><dependency><groupId>org.lid</groupId><artifactId>lid</artifactId><scope>test</scope><version>[2.0,3.0)</version></dependency><dependency><groupId>a</groupId><artifactId>b</artifactId></dependency></dependencies></project>`, "org.jar:jar-core 5.0.1; org.shelf:top 1; wish org.jar:jar-core 5.0.1; wish org.lid:lid [2.0,3.0) dev; wish org.shelf:top 1; runtime java 21"},
		{"gradle/libs.versions.toml", "[versions]\njar = \"5.0.1\"\nlid = { strictly = \"2.1\" }\n[libraries]\njar-core = { module = \"org.jar:jar-core\", version.ref = \"jar\" }\nlid = { group = \"org.lid\", name = \"lid\", version = { ref = \"lid\" } }\nrim = \"org.rim:rim:1.0\"\n[plugins]\npress = { id = \"org.press\", version.ref = \"jar\" }\n", "org.jar:jar-core 5.0.1; org.lid:lid 2.1; org.press 5.0.1; org.rim:rim 1.0; wish org.jar:jar-core 5.0.1; wish org.lid:lid 2.1; wish org.rim:rim 1.0; wish org.press 5.0.1"},
		{"build.gradle.kts", "plugins { id(\"org.press\") version \"1.2\" }\ndependencies { implementation(\"org.jar:jar-core:5.0.1\")\n testImplementation 'org.lid:lid:2.+' }\n", "org.jar:jar-core 5.0.1; org.press 1.2; wish org.jar:jar-core 5.0.1; wish org.lid:lid 2.+; wish org.press 1.2"},
		{"gradle.properties", "org.gradle.caching=true\njarVersion=5.0.1\nlid.version = 2.1\n", "jar 5.0.1; lid 2.1; wish jar 5.0.1; wish lid 2.1"},
		{"gradle.lockfile", "# x\norg.jar:jar-core:5.0.1=compileClasspath,runtimeClasspath\nempty=\n", "org.jar:jar-core 5.0.1"},
		{"src/Shelf.csproj", `<Project><PropertyGroup><TargetFramework>net8.0</TargetFramework></PropertyGroup><ItemGroup><PackageReference Include="Jars.Jar" Version="5.0.1" /><PackageReference Include="Lid"><Version>[2.0,3.0)</Version></PackageReference><PackageReference Include="Central" /></ItemGroup></Project>`, "Jars.Jar 5.0.1; wish Jars.Jar 5.0.1; wish Lid [2.0,3.0); runtime dotnet net8.0"},
		{"Directory.Packages.props", `<Project><ItemGroup><PackageVersion Include="Jars.Jar" Version="5.0.1" /></ItemGroup></Project>`, "Jars.Jar 5.0.1; wish Jars.Jar 5.0.1"},
		{"packages.lock.json", `{"dependencies":{"net8.0":{"Jars.Jar":{"type":"Direct","requested":"[5.0.0, )","resolved":"5.0.1","dependencies":{"Lid":"2.0.0"}},"Lid":{"type":"Transitive","resolved":"2.0.0"}}}}`, "Jars.Jar 5.0.1 [Lid 2.0.0]; Lid 2.0.0; wish Jars.Jar [5.0.0, )"},
		{"pubspec.yaml", "name: shelf\nenvironment:\n  sdk: ^3.4.0\ndependencies:\n  jar: ^5.0.0\n  flutter:\n    sdk: flutter\ndev_dependencies:\n  lid: 2.1.0\n", "lid 2.1.0; wish flutter; wish jar ^5.0.0; wish lid 2.1.0 dev; runtime dart ^3.4.0"},
		{"pubspec.lock", "packages:\n  jar:\n    dependency: \"direct main\"\n    version: \"5.0.1\"\n", "jar 5.0.1"},
		{"mix.exs", "def project, do: [elixir: \"~> 1.17\"]\ndefp deps do\n [{:jar, \"~> 5.0\"}, {:lid, \">= 2.0.0\", only: :test}]\nend\n", "wish jar ~> 5.0; wish lid >= 2.0.0; runtime elixir ~> 1.17"},
		{"mix.lock", "%{\n  \"jar\": {:hex, :jar, \"5.0.1\", \"abc\", [:mix], [{:lid, \"~> 2.0\", [hex: :lid, repo: \"hexpm\", optional: false]}], \"hexpm\", \"def\"},\n}\n", "jar 5.0.1 [lid ~> 2.0]"},
		{"Package.swift", "let package = Package(dependencies: [.package(url: \"https://example.org/o/Jar.git\", from: \"5.0.0\")])\n", "wish jar ^5.0.0"},
		{"Package.resolved", `{"pins":[{"identity":"jar","state":{"version":"5.0.1"}}],"version":2}`, "jar 5.0.1"},
		{"Package.resolved", `{"object":{"pins":[{"package":"Jar","state":{"version":"5.0.1"}}]},"version":1}`, "jar 5.0.1"},
		{"package.json", `{"dependencies":`, "package.json: unexpected end of JSON input"},
		{"Cargo.lock", "[[package", "Cargo.lock: "},
		{"README.md", "jar 5.0.1", ""},
	} {
		s := Read(files{test.file: test.text})
		got := told(s)
		if got != test.want && !(strings.HasSuffix(test.want, ": ") && strings.HasPrefix(got, test.want)) {
			t.Errorf("%s\ngot  %s\nwant %s", test.file, got, test.want)
		}
	}
}

func TestMeets(t *testing.T) {
	for _, test := range []struct {
		version, text string
		met, known    bool
	}{
		{"5.0.1", "^5.0.0", true, true}, {"6.0.0", "^5.0.0", false, true}, {"5.1.0", "~5.0", false, true}, {"5.0.1", "5.x || 6.x", true, true}, {"5.0.1", "^4 | ^5", true, true},
		{"5.0.1", ">=4 <6", true, true}, {"5.0.1", "~> 5.0", true, true}, {"6.0.0", "~> 5.0", false, true}, {"5.1.0", "~> 5.0.1", false, true}, {"5.0.9", "~> 5.0.1", true, true}, {"6.0.0", "~> 5", true, true},
		{"1.5", "~=1.4", true, true}, {"2.0", "~=1.4", false, true}, {"1.4.9", "==1.4.*", true, true}, {"1.5.0", "==1.4.*", false, true}, {"1.4", ">=1.2,!=1.4", false, true},
		{"2.5", "[2.0,3.0)", true, true}, {"3.0", "[2.0,3.0)", false, true}, {"2.0", "(2.0,]", false, true}, {"2.0", "[2.0]", true, true}, {"1.0", "(,1.0]", true, true},
		{"5.0.1", "*", true, true}, {"5.0.1", "", true, true}, {"5.0.0-rc.1", ">=5.0.0-rc.0", true, true}, {"5.0.1", ">= 4.0 and < 6.0", true, true},
		{"main", "^5", false, false}, {"5.0.1", "github:o/jar", false, false}, {"5.0.1", "latest", true, false},
	} {
		if met, known := Meets(test.version, test.text); met != test.met || known != test.known {
			t.Errorf("%s in %q: %v, known %v", test.version, test.text, met, known)
		}
	}
}

// TestKnown holds which files are read.
func TestKnown(t *testing.T) {
	for file, want := range map[string]string{
		"web/package.json": "manifest", "package-lock.json": "lock", "a/b.csproj": "manifest", "libs.versions.toml": "manifest", "go.mod": "lock", "go.sum": "", "package.json.bak": "", "README.md": "",
	} {
		manifest, lock := Known(file)
		got := map[[2]bool]string{{true, false}: "manifest", {false, true}: "lock", {false, false}: ""}[[2]bool{manifest, lock}]
		if got != want {
			t.Errorf("%s is %q, want %q", file, got, want)
		}
	}
}

func FuzzFormats(f *testing.F) {
	for _, format := range formats {
		for _, name := range format.names {
			f.Add(strings.Replace(name, "*", "a", 1), `{"a": {"b": ["c", 1]}}`)
			f.Add(strings.Replace(name, "*", "a", 1), "a:\n  b: \"1\"\n\n[[package]]\nname = \"a\"\n")
		}
	}
	f.Fuzz(func(t *testing.T, name, text string) {
		s := Read(files{name: text})
		if again := Read(files{name: text}); told(s) != told(again) {
			t.Errorf("it is read as %s and as %s", told(s), told(again))
		}
	})
}

func BenchmarkCompare(b *testing.B) {
	lock := func(patch int) files {
		var text strings.Builder
		text.WriteString(`{"lockfileVersion":3,"packages":{"":{}`)
		for i := range 5000 {
			fmt.Fprintf(&text, `,"node_modules/p%d":{"version":"1.%d.%d","dependencies":{"p%d":"^1.0.0","p%d":"^1.0.0"}}`, i, i%9, patch*(i%3), (i*7+1)%5000, (i*13+5)%5000)
		}
		text.WriteString(`}}`)
		return files{"package.json": `{"dependencies":{"p1":"^1.0.0"}}`, "package-lock.json": text.String()}
	}
	before, after := lock(0), lock(1)
	for b.Loop() {
		Compare(Read(before), Read(after), Context{Moves: []Move{{"p1", "1.1.0", "1.1.1"}}})
	}
}
