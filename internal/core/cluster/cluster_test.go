package cluster

import (
	"fmt"
	"io/fs"
	"math/rand"
	"reflect"
	"sort"
	"strings"
	"testing"
	"testing/fstest"

	"unicausa/internal/core/read"
	"unicausa/internal/core/source"
	"unicausa/internal/core/symptom"
)

// gather reads what tools printed, on a tree of files, as new symptoms.
func gather(t *testing.T, log string, files fs.FS, ctx *Context) []*Evidence {
	t.Helper()
	result, err := read.All("x", strings.NewReader(log))
	if err != nil {
		t.Fatal(err)
	}
	var tree *source.Tree
	if files != nil {
		if tree, err = source.NewTree(files); err != nil {
			t.Fatal(err)
		}
	}
	merged := symptom.Merge(result.Symptoms)
	var list []*Evidence
	for i := range merged {
		merged[i].State = symptom.New
		if name, _ := tree.Find(merged[i].File, merged[i].Unit); name != "" {
			merged[i].File = name
		}
		list = append(list, Gather(&merged[i], tree, ctx))
	}
	return list
}

// groups writes causes as "title: message; message", in order.
func groups(causes []Cause) string {
	var lines []string
	for _, c := range causes {
		var members []string
		for _, m := range c.Members {
			mark := ""
			if m.Follower {
				mark = "└"
			}
			members = append(members, mark+m.Symptom.Message)
		}
		sort.Strings(members)
		lines = append(lines, c.Kind()+" | "+c.Title()+": "+strings.Join(members, "; "))
	}
	sort.Strings(lines)
	return strings.Join(lines, "\n")
}

func goFile(imports, body string) *fstest.MapFile {
	return &fstest.MapFile{Data: []byte("package shelf\n\nimport (\n" + imports + ")\n\n" + body)}
}

func TestGroup(t *testing.T) {
	const header = "# example.org/pantry/shelf\n"
	jar := goFile("\t\"example.org/jar/v5\"\n", "func a() { jar.OpenLid() }\nfunc b() { jar.Fill(jar.OpenLid(), 3) }\nvar c = jar.Lid{}\n")
	for _, test := range []struct {
		name, log string
		files     fstest.MapFS
		want      string
	}{
		{
			"one missing name in two files", header + "shelf/a.go:3:1: undefined: jar.OpenLid\nshelf/b.go:7:1: undefined: jar.OpenLid\n", nil,
			"removed | jar.OpenLid no longer exists: undefined: jar.OpenLid; undefined: jar.OpenLid",
		},
		{
			"the same words about different names", header + "shelf/a.go:3:1: undefined: jar.OpenLid\nshelf/a.go:7:1: undefined: jar.Grams\n", nil,
			"removed | jar.Grams no longer exists: undefined: jar.Grams\nremoved | jar.OpenLid no longer exists: undefined: jar.OpenLid",
		},
		{
			"a member that two types of one package lost",
			header + "shelf/a.go:8:1: unknown field Lid in struct literal of type jar.Jar\nshelf/a.go:9:1: unknown field Lid in struct literal of type jar.Box\n",
			fstest.MapFS{"shelf/a.go": jar},
			"removed | jar.Jar.Lid no longer exists: unknown field Lid in struct literal of type jar.Box; unknown field Lid in struct literal of type jar.Jar",
		},
		{
			"a type and its constructor", header + "shelf/a.go:3:1: undefined: jar.Lid\nshelf/a.go:9:1: undefined: jar.NewLid\n", nil,
			"removed | jar.Lid no longer exists: undefined: jar.Lid; undefined: jar.NewLid",
		},
		{
			"values that no longer fit, in other words each time",
			header + "shelf/a.go:3:1: cannot use a (variable of type jar.A) as jar.Lid value in assignment: jar.A does not implement jar.Lid (method Shut has pointer receiver)\nshelf/a.go:9:1: cannot use jar.B{…} (value of struct type jar.B) as jar.Lid value in argument to f: jar.B does not implement jar.Lid (method Shut has pointer receiver)\n", nil,
			"signature | values no longer fit Lid: method Shut has pointer receiver: cannot use a (variable of type jar.A) as jar.Lid value in assignment: jar.A does not implement jar.Lid (method Shut has pointer receiver); cannot use jar.B{…} (value of struct type jar.B) as jar.Lid value in argument to f: jar.B does not implement jar.Lid (method Shut has pointer receiver)",
		},
		{
			"unlike messages on one line about one type",
			header + "shelf/a.go:3:1: implicit assignment to unexported field n in struct literal of type jar.Lids\nshelf/a.go:3:9: too few values in struct literal of type jar.Lids\n", nil,
			"other | implicit assignment to unexported field n in struct literal of type jar.Lids: implicit assignment to unexported field n in struct literal of type jar.Lids; too few values in struct literal of type jar.Lids",
		},
		{
			"build failures follow what broke the build",
			header + "shelf/a.go:3:1: undefined: jar.OpenLid\nFAIL\texample.org/pantry/shelf [build failed]\n", nil,
			"removed | jar.OpenLid no longer exists: undefined: jar.OpenLid; └example.org/pantry/shelf [build failed]",
		},
		{
			"an importer's build failure follows too",
			header + "shelf/a.go:3:1: undefined: jar.OpenLid\nFAIL\texample.org/pantry/label [build failed]\n",
			fstest.MapFS{"shelf/a.go": jar, "label/l.go": {Data: []byte("package label\n\nimport \"example.org/pantry/shelf\"\n")}},
			"removed | jar.OpenLid no longer exists: undefined: jar.OpenLid; └example.org/pantry/label [build failed]",
		},
		{
			"a file that cannot be parsed spoils what is in it",
			"shelf.c:3:1: error: lost\n" + header + "shelf.go:1:1: syntax error: unexpected lid\nshelf.go:9:1: undefined: b\n", nil,
			"other | lost: lost\nsyntax | shelf.go cannot be parsed: syntax error: unexpected lid; └undefined: b",
		},
		{
			"an unresolved module and what came from it",
			"a.ts(1,1): error TS2307: Cannot find module 'jar' or its corresponding type declarations.\na.ts(3,17): error TS7006: Parameter 'lid' implicitly has an 'any' type.\n",
			fstest.MapFS{"a.ts": {Data: []byte("import { each } from \"jar\";\n\nexport const n = each((lid) => lid);\n")}},
			"unresolved | jar cannot be resolved: Cannot find module 'jar' or its corresponding type declarations.; └Parameter 'lid' implicitly has an 'any' type.",
		},
		{
			"peers that are not ready are one cause each",
			"npm warn ERESOLVE overriding peer dependency\nnpm warn Could not resolve dependency:\nnpm warn peer jar@\"^4.0.0\" from cup@1.0.0\n" +
				"npm warn ERESOLVE overriding peer dependency\nnpm warn Could not resolve dependency:\nnpm warn peer jar@\"^4.0.0\" from lid@1.0.0\n", nil,
			"unresolved | cup is not ready: it wants jar@^4.0.0: overriding peer dependency: cup@1.0.0 wants peer jar@\"^4.0.0\"\n" +
				"unresolved | lid is not ready: it wants jar@^4.0.0: overriding peer dependency: lid@1.0.0 wants peer jar@\"^4.0.0\"",
		},
		{
			"a lost export and what was made of it",
			"a.ts(1,10): error TS2305: Module '\"jar\"' has no exported member 'each'.\na.ts(3,23): error TS7006: Parameter 'lid' implicitly has an 'any' type.\nb.ts(3,23): error TS7006: Parameter 'lid' implicitly has an 'any' type.\n",
			fstest.MapFS{"a.ts": {Data: []byte("import { each } from \"jar\";\n\nexport const n = each((lid) => lid);\n")}, "b.ts": {Data: []byte("\n\nexport const own = (lid) => lid;\n")}},
			"other | Parameter 'lid' implicitly has an 'any' type.: Parameter 'lid' implicitly has an 'any' type.\nremoved | jar.each no longer exists: Module '\"jar\"' has no exported member 'each'.; └Parameter 'lid' implicitly has an 'any' type.",
		},
		{
			"calls that no longer fit, found on the source line",
			"a.ts(3,27): error TS2554: Expected 1 arguments, but got 2.\nb.ts(3,22): error TS2554: Expected 1 arguments, but got 2.\n",
			fstest.MapFS{
				"a.ts": {Data: []byte("import { fill } from \"jar\";\n\nexport const n = fill(own(), 2);\n")},
				"b.ts": {Data: []byte("import { shut } from \"jar\";\n\nexport const n = shut(1, 2);\n")},
			},
			"signature | calls of fill no longer fit: Expected 1 arguments, but got 2.\nsignature | calls of shut no longer fit: Expected 1 arguments, but got 2.",
		},
		{
			"the compiler and the test runner about one name",
			"a.ts(1,10): error TS2305: Module '\"jar\"' has no exported member 'openLid'.\n<testsuite name=\"s\" failures=\"1\"><testcase name=\"t\"><failure>TypeError: (0 , jar.openLid) is not a function</failure></testcase></testsuite>",
			nil,
			"removed | jar.openLid no longer exists: Module '\"jar\"' has no exported member 'openLid'.; TypeError: (0 , jar.openLid) is not a function",
		},
		{
			"cases of one test that fail alike",
			"--- FAIL: TestFill (0.00s)\n    --- FAIL: TestFill/small (0.00s)\n        a_test.go:9: fill of 1: got 3, want 4\n    --- FAIL: TestFill/large (0.00s)\n        a_test.go:9: fill of 2: got 5, want 6\n    --- FAIL: TestFill/odd (0.00s)\n        a_test.go:9: no lid at all\nFAIL\nFAIL\tp\t0.1s\n", nil,
			"behaviour | TestFill/large: fill of 2: got 5, want 6: fill of 1: got 3, want 4; fill of 2: got 5, want 6\nbehaviour | TestFill/odd: no lid at all: no lid at all",
		},
		{
			"a crash and the test that it ended",
			"=== RUN   TestFill\n--- FAIL: TestFill (0.00s)\npanic: no lid\n\ngoroutine 1 [running]:\nexample.org/pantry.Fill(...)\n\tpantry/shelf.go:3\nFAIL\texample.org/pantry\t0.1s\n", nil,
			"other | TestFill: no lid: TestFill failed; no lid",
		},
		{
			"no type is known in a chain whose first call is missing",
			"a.ts(3,22): error TS2339: Property 'lids' does not exist on type 'typeof Jar'.\na.ts(4,12): error TS7006: Parameter 'lid' implicitly has an 'any' type.\na.ts(6,20): error TS7006: Parameter 'own' implicitly has an 'any' type.\n",
			fstest.MapFS{"a.ts": {Data: []byte("import { Jar } from \"jar\";\n\nexport const n = Jar.lids()\n  .filter((lid) => lid.wide);\n\nexport const o = (own) => own;\n")}},
			"other | Parameter 'own' implicitly has an 'any' type.: Parameter 'own' implicitly has an 'any' type.\nremoved | typeof Jar.lids no longer exists: Property 'lids' does not exist on type 'typeof Jar'.; └Parameter 'lid' implicitly has an 'any' type.",
		},
		{
			"a comparison that fails while a warning is printed, and one that fails by itself",
			"jar takes no text any more. Please parse it.\nError\n    at lids (node_modules/jar/index.js:3:16)\n    at Context.<anonymous> (test/shelf.js:4:48)\n\n  1) Shelf\n       counts lids:\n     AssertionError [ERR_ASSERTION]: Expected values to be strictly equal:\n      at Context.<anonymous> (test/shelf.js:4:36)\n\n  2) Shelf\n       lists lids:\n     AssertionError [ERR_ASSERTION]: Expected values to be strictly equal:\n      at Context.<anonymous> (test/shelf.js:9:36)\n",
			nil,
			"behaviour | lists lids: AssertionError [ERR_ASSERTION]: Expected values to be strictly equal:: AssertionError [ERR_ASSERTION]: Expected values to be strictly equal:\nother | jar takes no text any more. Please parse it.: AssertionError [ERR_ASSERTION]: Expected values to be strictly equal:; jar takes no text any more. Please parse it.",
		},
		{
			"one exception, alone and behind a script's own words; another but for its number",
			"  1) Shelf\n       shuts:\n     RangeError: lid 2 is wider than its jar\n      at shut (lib/shelf.js:4:36)\n\n  2) Shelf\n       opens:\n     RangeError: lid 3 is wider than its jar\n      at open (lib/shelf.js:9:36)\n\nERROR slip of the day: lid 2 is wider than its jar\n",
			nil,
			"behaviour | opens: RangeError: lid 3 is wider than its jar: RangeError: lid 3 is wider than its jar\nother | slip of the day: lid 2 is wider than its jar: RangeError: lid 2 is wider than its jar; slip of the day: lid 2 is wider than its jar",
		},
		{
			"names of one owner of which one ends the other",
			"Lid.java:3: error: cannot find symbol\n    x(Jars.SILENT_WORDS);\n          ^\n  symbol:   variable SILENT_WORDS\n  location: class Jars\nLid.java:4: error: cannot find symbol\n    x(Jars.ENGLISH_SILENT_WORDS);\n          ^\n  symbol:   variable ENGLISH_SILENT_WORDS\n  location: class Jars\nLid.java:5: error: cannot find symbol\n    x(Jars.WIDTH);\n          ^\n  symbol:   variable WIDTH\n  location: class Jars\n", nil,
			"removed | Jars.SILENT_WORDS no longer exists: cannot find symbol; cannot find symbol\nremoved | Jars.WIDTH no longer exists: cannot find symbol",
		},
		{
			"an interface that was a type behind a pointer",
			"# p\na.go:3:7: c.Send undefined (type *jar.Ctx is pointer to interface, not interface)\nb.go:4:7: c.Status undefined (type *jar.Ctx is pointer to interface, not interface)\n", nil,
			"signature | values no longer fit Ctx: type *jar.Ctx is pointer to interface, not interface: c.Send undefined (type *jar.Ctx is pointer to interface, not interface); c.Status undefined (type *jar.Ctx is pointer to interface, not interface)",
		},
		{
			"deprecation and absence of one name",
			"shelf.c:3:1: warning: 'open_lid' is deprecated [-Wdeprecated-declarations]\nlabel.c:9:1: error: 'open_lid' undeclared\n", nil,
			"removed | open_lid no longer exists: 'open_lid' is deprecated; 'open_lid' undeclared",
		},
	} {
		t.Run(test.name, func(t *testing.T) {
			var files fs.FS
			if test.files != nil {
				files = test.files
			}
			evidence := gather(t, test.log, files, &Context{})
			want := strings.Split(test.want, "\n")
			sort.Strings(want)
			if got := groups(Group(t.Context(), evidence, &Context{})); got != strings.Join(want, "\n") {
				t.Errorf("got\n%s\nwant\n%s", got, strings.Join(want, "\n"))
			}
		})
	}
}

// TestRuledOrNamed holds that a flag that the notes name is the cause of what breaks
// by it, unless the notes name what is missing there.
func TestRuledOrNamed(t *testing.T) {
	const log = "a.c:3:1: error: implicit declaration of function 'shut' [-Werror=implicit-function-declaration]\n" +
		"b.c:3:1: error: implicit declaration of function 'fill' [-Werror=implicit-function-declaration]\n" +
		"c.c:3:1: error: implicit declaration of function 'jar_open' [-Werror=implicit-function-declaration]\n"
	for _, test := range []struct {
		names []string
		want  string
	}{
		{nil, "removed | fill no longer exists: implicit declaration of function 'fill'\nremoved | jar_open no longer exists: implicit declaration of function 'jar_open'\nremoved | shut no longer exists: implicit declaration of function 'shut'"},
		{[]string{"-Wimplicit-function-declaration"}, "removed | implicit declaration of function 'shut': implicit declaration of function 'fill'; implicit declaration of function 'jar_open'; implicit declaration of function 'shut'"},
		{[]string{"-Wimplicit-function-declaration", "jar_open"}, "removed | implicit declaration of function 'shut': implicit declaration of function 'fill'; implicit declaration of function 'shut'\nremoved | jar_open no longer exists: implicit declaration of function 'jar_open'"},
	} {
		ctx := &Context{Names: map[string]bool{}}
		for _, name := range test.names {
			ctx.Names[name] = true
		}
		if got := groups(Group(t.Context(), gather(t, log, nil, ctx), ctx)); got != test.want {
			t.Errorf("with %v\n%s\nwant\n%s", test.names, got, test.want)
		}
	}
}

// TestBased holds that a call of super that no longer fits is one of the base class,
// and an argument too many one of the call that opens above it.
func TestBased(t *testing.T) {
	const lid = "import { Jar, LongerThanItsLine as L } from 'jar';\n\nexport class Lid extends Jar {\n  constructor() {\n    super(1, 2);\n  }\n}\n\nfill(1, 2);\n\nexport const jar = new Jar<string>(\n    (n: string) => n,\n);\n\nL<X>(\n  1,\n);\n"
	for _, test := range []struct{ message, want string }{
		{"lid.ts(5,14): error TS2554: Expected 0-1 arguments, but got 2.", "Jar of jar"},
		{"lid.ts(9,9): error TS2554: Expected 0-1 arguments, but got 2.", ""},
		{"lid.ts(12,5): error TS2554: Expected 0-1 arguments, but got 3.", "Jar of jar"},
		{"lid.ts(16,3): error TS2554: Expected 0-1 arguments, but got 3.", "LongerThanItsLine of jar"}, // under a short name
		{"lid.ts(5,14): error TS2345: Jars are round.", ""},
	} {
		got := ""
		if f := gather(t, test.message+"\n", fstest.MapFS{"lid.ts": {Data: []byte(lid)}}, &Context{})[0].Fact(FactCallee); f != nil {
			got = f.Name + " of " + f.Package
		}
		if got != test.want {
			t.Errorf("%q calls %q, want %q", test.message, got, test.want)
		}
	}
}

// TestSyntax holds that a word that the language took for itself is what a complaint
// about no name is about.
func TestSyntax(t *testing.T) {
	for _, test := range []struct{ message, want string }{
		{"shelf.c:2:16: error: expected identifier", "false"}, {"shelf.c:2:16: error: jars are round", ""},
	} {
		e := gather(t, test.message+"\n", fstest.MapFS{"shelf.c": {Data: []byte("\ntypedef enum { false, true } flag;\n")}}, &Context{})[0]
		got := ""
		if f := e.Fact(FactAbout); f != nil {
			got = f.Name
		}
		if got != test.want {
			t.Errorf("%q is about %q, want %q", test.message, got, test.want)
		}
	}
}

// TestGroupKeepsKnownApart holds that what was there before is never mixed
// with what is new, and that absent symptoms belong to no cause.
func TestGroupKeepsKnownApart(t *testing.T) {
	evidence := gather(t, "# p\na.go:1:1: undefined: jar.Lid\nb.go:1:1: undefined: jar.Lid\nc.go:1:1: undefined: jar.Lid\n", nil, &Context{})
	evidence[0].Symptom.State, evidence[2].Symptom.State = symptom.Unchanged, symptom.Absent
	causes := Group(t.Context(), evidence, &Context{})
	if len(causes) != 2 || causes[0].Known || !causes[1].Known || len(causes[0].Members) != 1 || len(causes[1].Members) != 1 {
		t.Errorf("the causes are %+v", causes)
	}
	if a, b := causes[0].Identity().Signature, causes[1].Identity().Signature; a == b {
		t.Errorf("both have the signature %s", a)
	}
}

// TestGroupIgnoresOrder holds that the order of the symptoms changes nothing.
func TestGroupIgnoresOrder(t *testing.T) {
	var log strings.Builder
	log.WriteString("# p\n")
	for i := range 40 {
		fmt.Fprintf(&log, "f%d.go:%d:1: undefined: jar.Lid%d\n", i%7, i+1, i%5)
		fmt.Fprintf(&log, "f%d.go:%d:9: too few values in struct literal of type jar.Lid%d\n", i%7, i+1, i%5)
	}
	log.WriteString("FAIL\tp [build failed]\n")
	evidence := gather(t, log.String(), nil, &Context{})
	want := groups(Group(t.Context(), evidence, &Context{}))
	for seed := range 5 {
		shuffled := append([]*Evidence(nil), evidence...)
		rand.New(rand.NewSource(int64(seed))).Shuffle(len(shuffled), func(i, j int) { shuffled[i], shuffled[j] = shuffled[j], shuffled[i] })
		if got := groups(Group(t.Context(), shuffled, &Context{})); got != want {
			t.Fatalf("seed %d:\n%s\nwant\n%s", seed, got, want)
		}
	}
}

func TestReasons(t *testing.T) {
	causes := Group(t.Context(), gather(t, "# p\na.go:1:1: undefined: jar.Lid\nFAIL\tp [build failed]\n", nil, &Context{}), &Context{})
	var got []string
	for _, m := range causes[0].Members {
		got = append(got, m.Because.What+" "+m.Because.Value)
		if m.Because.Weight <= 0 || m.Because.Weight > 1 {
			t.Errorf("the weight of %q is %v", m.Because.What, m.Because.Weight)
		}
	}
	if want := []string{"same missing symbol jar.Lid", "could not be built for p"}; !reflect.DeepEqual(got, want) {
		t.Errorf("the reasons are %q, want %q", got, want)
	}
}

func TestSameFamily(t *testing.T) {
	for _, test := range []struct {
		a, b string
		want bool
	}{
		{"example.org/jar", "example.org/jar", true}, {"example.org/jar/v2", "example.org/jar/v3", true}, {"example.org/jar/lids", "example.org/jar", true},
		{"@pantry/jar/lids", "@pantry/jar", true}, {"jar.lids", "jar", true}, {"example.org/jars", "example.org/jar", false}, {"", "example.org/jar", false},
		{"gopkg.example/jar.v2", "gopkg.example/jar.v3", true}, {"example.org/jar", "example.org/jar/v3/lids", true},
	} {
		if got := source.SameFamily(test.a, test.b); got != test.want {
			t.Errorf("source.SameFamily(%s, %s) is %v", test.a, test.b, got)
		}
	}
}

func TestPackageOf(t *testing.T) {
	for file, want := range map[string]string{
		"node_modules/jar/index.js": "jar", "x/node_modules/@pantry/jar/lib/a.js": "@pantry/jar", "node_modules/a/node_modules/b/c.js": "b",
		"/root/go/pkg/mod/example.org/jar@v5.0.0/lid.go": "example.org/jar", "/usr/lib/python3/site-packages/jar/lid.py": "jar", "src/shelf.go": "",
	} {
		if got := packageOf(file); got != want {
			t.Errorf("%s is of %q, want %q", file, got, want)
		}
	}
}

func TestNumber(t *testing.T) {
	id := func(name, signature string, symptoms ...string) Identity {
		return Identity{ID: name, Signature: signature, Symptoms: symptoms}
	}
	about := func(i Identity, names ...string) Identity { i.About = names; return i }
	for _, test := range []struct {
		name        string
		prior, next []Identity
		want        string
	}{
		{"the first causes", nil, []Identity{id("", "a", "1"), id("", "b", "2")}, "C1 C2"},
		{"the same again", []Identity{id("C1", "a", "1"), id("C2", "b", "2")}, []Identity{id("", "b", "2"), id("", "a", "1")}, "C2 C1"},
		{"one shrinks", []Identity{id("C1", "a", "1", "2", "3")}, []Identity{id("", "a", "3")}, "C1"},
		{"one goes, another comes", []Identity{id("C1", "a", "1"), id("C2", "b", "2")}, []Identity{id("", "c", "3"), id("", "a", "1")}, "C3 C1"},
		{"one comes back under its number", []Identity{id("C1", "a", "1"), id("C7", "b", "2")}, []Identity{id("", "b", "9")}, "C7"},
		{"the concern counts more than the symptoms", []Identity{id("C1", "a", "1", "2"), id("C2", "b", "3")}, []Identity{id("", "b", "1", "2")}, "C2"},
		{"one comes back in another guise", []Identity{id("C1", "a", "1"), about(id("C2", "b", "2"), "Lid", "Jar")}, []Identity{about(id("", "c", "9"), "Lid")}, "C2"},
		{"another name", []Identity{about(id("C1", "a", "1"), "Lid", "Jar", "Rim")}, []Identity{about(id("", "c", "9"), "Cap")}, "C2"},
		{"what is known is not what is new", []Identity{about(id("C1", "known|a", "1"), "Lid")}, []Identity{about(id("", "c", "9"), "Lid")}, "C2"},
		{"a split: the larger part keeps the number", []Identity{id("C1", "a", "1", "2", "3")}, []Identity{id("", "x", "1"), id("", "y", "2", "3")}, "C2 C1"},
		{"a merger takes the number of most", []Identity{id("C1", "a", "1"), id("C2", "b", "2", "3")}, []Identity{id("", "c", "1", "2", "3")}, "C2"},
		{"numbers are never used twice", []Identity{id("C9", "a", "1")}, []Identity{id("", "b", "2")}, "C10"},
	} {
		if got := strings.Join(Number(test.prior, test.next), " "); got != test.want {
			t.Errorf("%s: %s, want %s", test.name, got, test.want)
		}
	}
}

func BenchmarkGroup(b *testing.B) {
	for _, n := range []int{1_000, 10_000} {
		b.Run(fmt.Sprint(n), func(b *testing.B) {
			list := make([]symptom.Symptom, n)
			for i := range list {
				name := fmt.Sprintf("Lid%d", i%(n/20))
				list[i] = symptom.Symptom{Kind: symptom.Error, Phase: symptom.PhaseCompile, File: fmt.Sprintf("f%d.go", i%100), Line: i, Message: "undefined: jar." + name,
					Refs: []symptom.Ref{{Role: symptom.Missing, Name: "jar." + name}, {Role: symptom.Owner, Name: "jar"}}, State: symptom.New}
			}
			for b.Loop() {
				evidence := make([]*Evidence, n)
				for i := range list {
					evidence[i] = Gather(&list[i], nil, &Context{})
				}
				Group(b.Context(), evidence, &Context{})
			}
		})
	}
}
